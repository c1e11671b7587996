package prove_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/prove"
)

func codes(all []finding.Finding) string {
	var out []string
	for i := range all {
		out = append(out, all[i].Code)
	}
	return strings.Join(out, " ")
}

// One change at a time: two between which nothing is tested are found, whatever they are; a reading, a test or a gate
// between them makes it right (common practice).
func TestOneChangeAtATime(t *testing.T) {
	change := func(when int64, text string) prove.Note {
		return prove.Note{ID: text, Kind: prove.Changed, Text: text, When: when}
	}
	for name, x := range map[string]struct {
		d    prove.Decisions
		want string
	}{
		"nothing":     {prove.Decisions{}, ""},
		"one":         {prove.Decisions{Notes: []prove.Note{change(1, "relay")}}, ""},
		"two at once": {prove.Decisions{Notes: []prove.Note{change(5, "fuse"), change(1, "relay")}}, "two-changes"},
		"three": {prove.Decisions{Notes: []prove.Note{change(1, "a"), change(2, "b"), change(3, "c")}},
			"two-changes two-changes"},
		"heard between": {prove.Decisions{Notes: []prove.Note{change(1, "a"),
			{ID: "h", Kind: prove.Heard, Text: "a hum", When: 2},
			change(3, "b")}}, "two-changes"},
		"tested between": {prove.Decisions{Notes: []prove.Note{change(1, "a"),
			{ID: "h", Kind: prove.Tested, Text: "turned the key", When: 2},
			change(3, "b")}}, ""},
		"measured between": {prove.Decisions{Notes: []prove.Note{change(1, "a"), change(3, "b")},
			Readings: []prove.MeterReading{{When: 2}}}, ""},
		"a mend is a change": {prove.Decisions{Notes: []prove.Note{change(1, "a")},
			Mended: []prove.Mend{{Text: "fuse 3", When: 3}}}, "two-changes"},
	} {
		if got := codes(x.d.TwoChanges()); got != x.want {
			t.Errorf("%s: %q, want %q", name, got, x.want)
		}
	}
}

// Nothing is written before there is a backup with name, hash and date, and the record is closed only when it is
// verified, read back and every setting is done.
func TestProgrammingIsClosedWhenItIsWhole(t *testing.T) {
	backup := prove.FileMark{Name: "vk2 as it came.bin", Hash: "9f86d081884c", Date: "2026-11-26"}
	wrote := prove.FileMark{Name: "vk2 v4.bin", Hash: "60303ae22b99", Date: "2026-11-27"}
	for name, x := range map[string]struct {
		p    prove.Programming
		want string
	}{
		"no backup": {prove.Programming{Written: wrote}, "backup comes before"},
		"a backup unnamed": {prove.Programming{Written: wrote,
			Backup: prove.FileMark{Hash: backup.Hash, Date: backup.Date}}, "lacks its name"},
		"a short hash": {prove.Programming{Written: wrote,
			Backup: prove.FileMark{Name: "a", Hash: "12", Date: backup.Date}}, "its hash"},
		"verified nothing":   {prove.Programming{Backup: backup, Verified: true}, "what was written"},
		"a day of its own":   {prove.Programming{Backup: prove.FileMark{Date: "tomorrow"}}, "2026-11-20"},
		"no code":            {prove.Programming{Before: []string{"P9999"}}, "a letter and four digits"},
		"a hash with markup": {prove.Programming{Backup: prove.FileMark{Hash: "<b>12345678"}}, "letters and digits"},
	} {
		if err := x.p.Check(); err == nil || !strings.Contains(err.Error(), x.want) {
			t.Errorf("%s: %v", name, err)
		}
	}
	p := prove.Programming{
		Backup:   backup,
		Written:  wrote,
		Verified: true,
		Ticked:   []string{"fans at 95 °C"},
		Before:   []string{"P0201"},
	}
	if err := p.Check(); err != nil {
		t.Error(err)
	}
	settings := []string{"fans at 95 °C", "idle 850"}
	if got := strings.Join(p.Lacks(settings), ", "); got != "read back and compared, 1 of 2 settings" {
		t.Errorf("it lacks %s", got)
	}
	d := prove.Decisions{Program: &p}
	if got := codes(d.Open(settings, nil)); got != "record-open" {
		t.Errorf("found %s", got)
	}
	p.ReadBack, p.Ticked, p.Done = true, settings, true
	p.After = []string{"P0420", "P0203"} // the one is expected: the catalyst was given up
	if all := d.Open(settings, []string{"P0420", "P0430"}); len(all) != 1 || all[0].Code != "code-after" ||
		all[0].Subject != "P0203" {
		t.Errorf("codes after: %+v", all)
	}
	p.After = nil
	if lacks := p.Lacks(settings); len(lacks) > 0 || codes(d.Open(settings, nil)) != "" {
		t.Errorf("whole, and it lacks %v", lacks)
	}
}

// Values are read as the unit's papers have them, and a number there and back is the same within half its step.
func TestValuesOfAUnit(t *testing.T) {
	list, err := prove.ReadValues(
		"identifier;name;unit;scale;offset;bytes;drives\nA001;volts at " +
			"A12;V;0,01;0;2;\n0xF405;coolant;°C;1;-40;1\nb003;injector 1;;1;;1;B1\n",
	)
	if err != nil || len(list) != 3 || list[1].Offset != -40 || list[2].ID != "B003" || list[2].Drives != "B1" {
		t.Fatalf("%+v, %v", list, err)
	}
	if x, err := list[1].Of([]byte{130}); err != nil || x != 90 {
		t.Errorf("130 is %g °C, %v", x, err)
	}
	if _, err := list[0].Of([]byte{1}); err == nil {
		t.Error("one byte for two is taken")
	}
	r := rand.New(rand.NewPCG(1, 1))
	for range 500 {
		v := prove.Value{
			ID:     "A001",
			Name:   "x",
			Scale:  r.Float64(),
			Offset: 50 * r.NormFloat64(),
			Bytes:  1 + r.IntN(4),
		}
		n := uint64(r.Uint32()) & (1<<(8*v.Bytes) - 1)
		x := float64(n)*v.Scale + v.Offset
		if got, err := v.Of(v.Raw(x)); err != nil || math.Abs(got-x) > v.Scale/2+1e-9*math.Abs(x) {
			t.Fatalf("%g comes back as %g, %v", x, got, err)
		}
	}
	for text, want := range map[string]string{"A001;x;V;0;0;2": "not 0", "A001;x;V;1;0;9": "bytes",
		"A001;x\nA001;y": "twice", "A001;": "name",
		"A001;x;;1\nXYZ;y": "line 2"} {
		if _, err := prove.ReadValues(text); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v", text, err)
		}
	}
}

// Codes by SAE J2012 (from memory): the letter stands in the two highest bits. By hand: 0201 is P0201, C100 is
// U0100, 4123 C0123.
func TestCodesAreNamed(t *testing.T) {
	for b, want := range map[[2]byte]string{{0x02, 0x01}: "P0201", {0xC1, 0x00}: "U0100", {0x41, 0x23}: "C0123",
		{0xB0, 0x0A}: "B300A"} {
		if got := prove.CodeOf(b[0], b[1]); got != want {
			t.Errorf("%x is %s, want %s", b, got, want)
		}
		if h, l := prove.CodeBytes(want); h != b[0] || l != b[1] {
			t.Errorf("%s is %x %x", want, h, l)
		}
	}
	if n := len(prove.Codes()); n < 60 || !strings.Contains(prove.CodeText("P0203"), "injector 3") {
		t.Errorf("%d codes", n)
	}
	for _, c := range prove.Codes() {
		if !prove.IsCode(c.Code) || c.Text == "" {
			t.Errorf("%+v", c)
		}
		if c.Code == "P0203" &&
			(!c.About("fuel injector, cylinder 3") || c.About("fuel injector, cylinder 13") || c.About("injector")) {
			t.Error("P0203 is about other injectors too")
		}
	}
}

// A wheel's edges give its speed back, with the teeth that are missing; and what is no such wheel is not read. By
// hand: 60 − 2 at 1000 rpm passes a tooth each millisecond.
func TestTheWheelIsRead(t *testing.T) {
	w := prove.Wheel{Teeth: 60, Missing: 2, RPM: 1000}
	e := w.Edges(0.2)
	if len(e) != 3*58+20 || math.Abs(e[58]-0.060) > 1e-12 || math.Abs(e[57]-0.057) > 1e-12 {
		t.Errorf("%d edges, %v", len(e), e[55:60])
	}
	r := rand.New(rand.NewPCG(36, 1))
	for range 300 {
		w := prove.Wheel{Teeth: 8 + r.IntN(100), Missing: r.IntN(3), RPM: 60 + 8000*r.Float64()}
		e := w.Edges(2.6 * 60 / w.RPM)
		from := r.IntN(len(e) / 8)
		rpm, missing, is := prove.Speed(e[from:], w.Teeth)
		if !is || missing != w.Missing || math.Abs(rpm/w.RPM-1) > 1e-6 {
			t.Fatalf("%+v is read as %g, %d, %v", w, rpm, missing, is)
		}
		if w.Missing > 0 {
			if rpm, _, is := prove.Speed(e, w.Teeth+3); is {
				t.Fatalf("a wheel of %d is read as one of %d at %g", w.Teeth, w.Teeth+3, rpm)
			}
		}
	}
	for _, bad := range []prove.Wheel{{}, {Teeth: 60, RPM: math.NaN()}, {Teeth: 12, Missing: 6, RPM: 900}} {
		if bad.Check() == nil {
			t.Errorf("%+v is taken", bad)
		}
	}
}

// Rounds of the trainer: what is told is seen on the vehicle and not on a healthy one, of the hidden kind and number,
// the same for the same seed; the way comes to it, and only the right words are right.
func TestRoundsOfTheTrainer(t *testing.T) {
	t.Parallel()
	found, all := 0, 0
	for seed := range uint64(1 + *jobs/8) {
		r := rand.New(rand.NewPCG(seed, 99))
		loads := 6 + r.IntN(8)
		v := vehicle(r, loads)
		for level := range prove.Levels() {
			x, err := v.Train(level, seed, rand.New(rand.NewPCG(seed, uint64(level))))
			if err != nil {
				t.Fatalf("vehicle %d, level %d: %v", seed, level, err)
			}
			if again, err := v.Train(level, seed, rand.New(rand.NewPCG(seed, uint64(level)))); err != nil ||
				again.Hidden[0].Text != x.Hidden[0].Text ||
				again.Told != x.Told {
				t.Errorf("the same round is another: %v", err)
			}
			if many := 1 + level/3; len(x.Hidden) != many || level == 0 && x.Hidden[0].Kind != "open" ||
				(x.Lie != [2]string{}) != (level == 4) {
				t.Errorf("level %d hides %d: %+v, lie %v", level, len(x.Hidden), x.Hidden, x.Lie)
			}
			healthy, err1 := v.Expect(&x.Told.Measure)
			ill, err2 := v.With(&x.Told.Measure, prove.Faults(x.Hidden[:1], x.Told.Setup))
			if err1 != nil || err2 != nil || healthy.Value == ill.Value || ill.Value != x.Told.Value {
				t.Errorf("level %d tells %+v of %+v", level, x.Told, x.Hidden)
			}
			way, reached, err := v.Way(x)
			if err != nil || len(way) == 0 {
				t.Fatalf("%v after %d", err, len(way))
			}
			if len(x.Hidden) == 1 { // what the first of two shows is another thing when it is mended
				for i := range way {
					if again, err := v.Shows(x, &way[i].Measure); err != nil || again != way[i].Shown {
						t.Fatal("the same measure shows another thing")
					}
				}
			}
			if all++; reached {
				found++
			}
			var right []string
			for _, h := range x.Hidden {
				right = append(right, h.Text)
			}
			if !v.Named(x, right) || v.Named(x, nil) || v.Named(x, append(right, "a ghost")) {
				t.Errorf("level %d: %v is not told as right, or too little or too much is", level, right)
			}
			wrong := 0
			for _, c := range v.Causes() {
				if c.Kind == "blown" && c.Text != right[0] && v.Named(x, append([]string{c.Text}, right[1:]...)) {
					wrong++
				}
			}
			if wrong > 1 {
				t.Errorf("level %d: %d other fuses pass for %s", level, wrong, right[0])
			}
		}
	}
	t.Logf("of %d rounds the way comes to what is hidden in %d", all, found)
	if found*10 < all*9 {
		t.Error("the way does not come to what is hidden")
	}
	r0 := rand.New(rand.NewPCG(1, 1))
	if _, err := vehicle(r0, 4).Train(9, 1, r0); err == nil {
		t.Error("there is a level 9")
	}
}
