package plan_test

import (
	"bytes"
	"flag"
	"fmt"
	"math/rand/v2"
	"reflect"
	"runtime"
	"slices"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/part"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/stored"
)

var drafts = flag.Uint64("drafts", 60, "how many random jobs TestADraftIsThePlan goes through")

// What is taken from an earlier draft is what would be computed: byte for byte the same plan, whatever was decided,
// placed, measured or ticked in between.
func TestADraftIsThePlan(t *testing.T) {
	compared, taken := 0, 0
	for seed := range *drafts {
		r, own := rand.New(rand.NewPCG(seed, 41)), rand.New(rand.NewPCG(seed, 43))
		j := mixedJob(r)
		placed(own, &j)
		f, err := fact.Of(j)
		if err != nil {
			t.Fatal(err)
		}
		var last *plan.Draft
		var memory part.Memory
		found := fact.Apart(&f)
		var said []byte // by the one before
		for range 12 {
			draft := plan.Begin(found, j.Chosen(), &memory)
			p := draft.Whole()
			if last != nil && !bytes.Equal(said, printed(last.Whole())) {
				t.Fatalf("job %d: a plan has become another by one that was made after it", seed)
			}
			said = printed(p)
			fresh := plan.Compute(f, j.Chosen())
			if a, b := said, printed(&fresh); !bytes.Equal(a, b) {
				i := 0
				for i < min(len(a), len(b)) && a[i] == b[i] {
					i++
				}
				t.Fatalf("job %d: taken over …%s\ncomputed …%s", seed, a[max(0, i-80):min(len(a), i+80)],
					b[max(0, i-80):min(len(b), i+80)])
			}
			if d := harness.Differences(p.Wanted, fresh.Wanted); len(d) > 0 {
				t.Fatalf("job %d: wanted %v", seed, d)
			}
			compared++
			if last != nil && len(p.Reach.Result.Lines) > 0 && &p.Reach.Result.Lines[0] == &last.Whole().Reach.Result.Lines[0] {
				taken++
			}
			last, j = draft, copied(j)
			switch own.IntN(6) {
			case 0:
				decideMixed(r, &j, p, f)
			case 1:
				take(&j, p)
			case 2, 3:
				tickAny(own, &j, p)
			case 4:
				if n := len(f.Laid.Loom.Wires); n > 0 {
					j.Lengths = append(j.Lengths[:len(j.Lengths):len(j.Lengths)], reach.Measured{
						Wire: f.Laid.Loom.Wires[own.IntN(n)].ID, Had: float64(300 + own.IntN(2000))})
				}
			}
		}
	}
	if taken < compared/8 || taken > compared*7/8 {
		t.Errorf("of %d plans %d took Reach over: one of the two is not tried", compared, taken)
	}
	t.Logf("%d plans compared, %d took Reach over", compared, taken)
}

// copied gives a job whose lists and tables are its own: what a plan has read is changed by nobody.
func copied(j stored.Job) stored.Job {
	v := reflect.ValueOf(&j).Elem()
	for _, field := range stored.Fields() {
		switch f := v.FieldByIndex(field.Index); f.Kind() {
		case reflect.Slice:
			f.Set(reflect.AppendSlice(reflect.MakeSlice(f.Type(), 0, f.Len()), f))
		case reflect.Map:
			if !f.IsNil() {
				own := reflect.MakeMap(f.Type())
				for _, k := range f.MapKeys() {
					own.SetMapIndex(k, f.MapIndex(k))
				}
				f.Set(own)
			}
		}
	}
	return j
}

// printed writes down all that a plan says: every exported field, whatever it is made of.
func printed(p *plan.Plan) []byte {
	var out bytes.Buffer
	write(&out, reflect.ValueOf(*p))
	return out.Bytes()
}

func write(out *bytes.Buffer, v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if v.IsNil() {
			out.WriteString("nil")
			return
		}
		write(out, v.Elem())
	case reflect.Struct:
		for i := range v.NumField() {
			if f := v.Type().Field(i); f.IsExported() {
				fmt.Fprintf(out, "%s:", f.Name)
				write(out, v.Field(i))
				out.WriteByte('\n')
			}
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			write(out, v.Index(i))
			out.WriteByte(',')
		}
	case reflect.Map:
		lines := make([]string, 0, v.Len())
		for _, k := range v.MapKeys() {
			var line bytes.Buffer
			write(&line, k)
			line.WriteString("=")
			write(&line, v.MapIndex(k))
			lines = append(lines, line.String())
		}
		slices.Sort(lines)
		out.WriteString(strings.Join(lines, ";"))
	default:
		fmt.Fprint(out, v.Interface())
	}
}

// Drafts that nobody asks for all of do not hang on one another: of two hundred made one after the other the first is
// held, which was worked out whole, and the last.
func TestDraftsDoNotChain(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 41))
	j := mixedJob(r)
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	var freed atomic.Int32
	var memory part.Memory
	found := fact.Apart(&f)
	make := func() *plan.Draft {
		d := plan.Begin(found, j.Chosen(), &memory)
		runtime.AddCleanup(d, func(struct{}) { freed.Add(1) }, struct{}{})
		return d
	}
	first := make()
	first.Whole()
	last := make()
	for range 198 {
		last = make()
	}
	for range 20 {
		runtime.GC()
		time.Sleep(5 * time.Millisecond)
	}
	if n := freed.Load(); n < 195 {
		t.Errorf("%d of 200 drafts are freed", n)
	}
	if p := last.Whole(); len(p.Reach.Result.Lines) > 0 &&
		&p.Reach.Result.Lines[0] != &first.Whole().Reach.Result.Lines[0] {
		t.Error("nothing is taken over from the one that is whole")
	}
}
