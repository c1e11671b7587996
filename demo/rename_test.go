package demo_test

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/stored"
)

// renamed gives a job with words in all its lists and facts exchanged for others.
func renamed(j stored.Job, with map[string]string) stored.Job {
	put := func(text string) string {
		if to, ok := with[text]; ok {
			return to
		}
		return text
	}
	wire := func(id harness.WireID) harness.WireID { return harness.WireID(put(string(id))) }
	sheets := map[gather.SheetKind]*gather.Sheet{}
	for kind, s := range j.Sheets {
		x := *s
		x.Cells = nil
		for _, row := range s.Cells {
			line := slices.Clone(row)
			for i := range line {
				line[i] = put(line[i])
			}
			x.Cells = append(x.Cells, line)
		}
		x.Edits = slices.Clone(s.Edits)
		for i := range x.Edits {
			x.Edits[i].Text = put(x.Edits[i].Text)
		}
		sheets[kind] = &x
	}
	j.Sheets = sheets
	j.Places = slices.Clone(j.Places)
	for i := range j.Places {
		j.Places[i].Thing.ID = put(j.Places[i].Thing.ID)
	}
	j.Thin = slices.Clone(j.Thin)
	for i := range j.Thin {
		j.Thin[i].ID = put(j.Thin[i].ID)
	}
	j.Spans, j.Lengths, j.Leftover = slices.Clone(j.Spans), slices.Clone(j.Lengths), slices.Clone(j.Leftover)
	for i := range j.Spans {
		j.Spans[i].Wire = wire(j.Spans[i].Wire)
	}
	for i := range j.Lengths {
		j.Lengths[i].Wire = wire(j.Lengths[i].Wire)
	}
	for i := range j.Leftover {
		j.Leftover[i].Wire = wire(j.Leftover[i].Wire)
	}
	return j
}

// Names mean nothing: the key's switch, the master switch and the starters of the Packhorse under names that no list of
// words has raise the same dangers, and what is live in run is the same.
func TestOtherNamesRaiseTheSameDangers(t *testing.T) {
	j, f := packhorse(t)
	names := map[string]string{"ignition switch": "Key cylinder", "master switch": "Red lever",
		"Packhorse starter": "Crank motor P", "Sorrel starter": "Crank motor S"}
	other := renamed(j, names)
	g, err := fact.Of(other)
	if err != nil {
		t.Fatal(err)
	}
	p, q := plan.Compute(f, j.Chosen()), plan.Compute(g, other.Chosen())
	all := func(p *plan.Plan, back map[string]string) (out []string) {
		for _, x := range p.Findings {
			if x.Severity != finding.Danger && x.Severity != finding.Wrong {
				continue
			}
			text := x.Code + ": " + x.Text
			for old, now := range back {
				text = strings.ReplaceAll(text, now, old)
			}
			out = append(out, text)
		}
		slices.Sort(out)
		return out
	}
	want, got := all(&p, nil), all(&q, names)
	for _, x := range want {
		if !slices.Contains(got, x) {
			t.Errorf("not found under other names: %s", x)
		}
	}
	for _, x := range got {
		if !slices.Contains(want, x) {
			t.Errorf("found under other names alone: %s", x)
		}
	}
	live := func(p *plan.Plan) (n int) {
		for _, at := range p.Wanted.Cavities() {
			if v, known := p.Feed.Result.VoltsAt("run", at); known && v > 6 {
				n++
			}
		}
		return n
	}
	if a, b := live(&p), live(&q); a != b || a < 50 {
		t.Errorf("%d cavities are live in run, %d under other names", a, b)
	}
}

// A wire of a person's may be called as pieces of wires are: it is no piece of another. Every wire of the Packhorse
// gets the name of another one with an ending of ours, every splice that of a joint of ours, and all is as it was: as
// many steps of each kind, the same findings, and in the book each length of wire has the colour of the wire that it
// is.
func TestNoWireIsTakenForAPieceOfAnother(t *testing.T) {
	j, f := packhorse(t)
	names := map[string]string{}
	wires := f.Laid.Loom.Wires
	for i := range wires {
		next := string(wires[(i+1)%len(wires)].ID)
		names[string(wires[i].ID)] = []string{next + " new", next + " piece", next + " stub 1", "new wire " + next}[i%4]
	}
	p := plan.Compute(f, j.Chosen())
	for i, x := range f.Laid.Loom.Splices { // and every splice one of a joint that is made
		names[string(x.ID)] = string([]harness.JointID{p.Join.Joints[i%len(p.Join.Joints)].Name, wires[i].ID.Joint(1), x.ID +
			" through"}[i%3])
	}
	for i, c := range f.Feed.Inside.Cables { // a cable is no piece of a wire either
		names[c.Name] = string(wires[i].ID) + []string{" new", " stub 2"}[i%2]
	}
	other := renamed(j, names)
	g, err := fact.Of(other)
	if err != nil {
		t.Fatal(err)
	}
	q := plan.Compute(g, other.Chosen())
	if !p.Proof.Reached || !q.Proof.Reached {
		t.Fatal(q.Proof.Line())
	}
	count := func(p *plan.Plan) map[string]int {
		n := map[string]int{}
		for i := range p.Work.Steps {
			n["step "+string(p.Work.Steps[i].Stage)+" "+string(p.Work.Steps[i].Kind)]++
		}
		for _, x := range p.Findings {
			n["finding "+x.Code]++
		}
		return n
	}
	want, got := count(&p), count(&q)
	for k := range maps.Keys(want) {
		if want[k] != got[k] {
			t.Errorf("%s: %d, and %d under other names", k, want[k], got[k])
		}
	}
	colours := map[harness.WireID]string{}
	for i := range g.Laid.Loom.Wires {
		colours[g.Laid.Loom.Wires[i].ID] = g.Laid.Loom.Wires[i].Colour.String()
	}
	seen, cables := 0, 0
	wide := func(text string, size float64, _ bool) float64 { return 0.55 * size * float64(len([]rune(text))) }
	for _, page := range handover.Pages(papers.Book(&q, &g), handover.Paper{Wide: 277, High: 120}, wide) {
		for _, l := range page.Lengths {
			if l.Cable {
				if cables++; l.Whole() != l.Name {
					t.Errorf("cable %s is taken for a part of %s", l.Name, l.Whole())
				}
			}
			if c, whole := colours[l.Name]; whole {
				if seen++; c != l.Colour.String() {
					t.Errorf("%s is %s, and the book has it %s", l.Name, c, l.Colour)
				}
			}
		}
	}
	if cables < 3 {
		t.Errorf("the book has %d cables", cables)
	}
	if seen < 100 {
		t.Errorf("the book has %d wires of the harness", seen)
	}
}
