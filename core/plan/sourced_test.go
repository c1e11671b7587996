package plan_test

import (
	"testing"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/stored"
	"draxel/core/work"
)

// A wire that gets a source and is too short for its way is lengthened where it is joined to it: in every kind of job
// the steps can be carried out, one after the other as they are ticked, and in the end the wire is one circuit with
// what feeds it, by a bench that shares nothing with the product.
func TestASourcedWireIsLengthened(t *testing.T) {
	for _, kind := range stored.Kinds() {
		for _, o := range []match.Origin{{Kind: match.AtFuse, Name: "F1"}, {Kind: match.AtGround, Name: "G1"},
			{Kind: match.OpenEnd, Owner: "Ines"}} {
			j := spanned()
			table := func(name, connector string) *stored.Table {
				return &stored.Table{Name: name, Trust: harness.Maker,
					Cells: [][]string{{"Connector", "Cavity", "Function", "Colour", "Size"},
						{connector, "1", "Ignition feed", "GN", "0.75"}}}
			}
			j.Kind, j.From, j.To = kind.ID, table("found", "A"), table("wanted", "D")
			j.Decisions = []match.Decision{{Side: match.From, At: ref("A1"), Choice: match.Sourced, Source: "ignition",
				Origin: &o}}
			what := string(kind.ID) + " from " + o.String()
			p := computeJob(t, j)
			if l := lineOf(t, p, "w1"); l.Verdict != reach.Extend {
				t.Fatalf("%s: w1 %s", what, l.Verdict)
			}
			proven(t, what, p)
			f, err := fact.Of(j)
			if err != nil {
				t.Fatal(err)
			}
			b := newBench(&f.Laid.Loom)
			for n := 0; left(&p) > 0 && n < 200; n++ {
				ready := -1
				bench := harness.Work(p.Past.Now)
				for i := range p.Work.Steps {
					if _, done := p.Done(p.Work.Steps[i].ID); !done && p.Ready(&p.Work.Steps[i], bench) {
						ready = i
						break
					}
				}
				if ready < 0 {
					break
				}
				x, _ := p.Tick(p.Work.Steps[ready].ID)
				x.When = int64(n + 1)
				for _, e := range x.Edits {
					b.do(e)
				}
				j.Ticks = append(j.Ticks, x)
				p = computeJob(t, j)
				if p.Proof.Fault != "" || len(p.Past.Lost) > 0 {
					t.Fatalf("%s, after %q: %+v", what, x.Text, p.Proof)
				}
			}
			if n := left(&p); n > 0 {
				t.Errorf("%s: %d steps are left", what, n)
				for i := range p.Work.Steps {
					if _, done := p.Done(p.Work.Steps[i].ID); !done {
						t.Logf("%s: %s", p.Work.Steps[i].Text, p.Blocked(&p.Work.Steps[i]))
					}
				}
			}
			if o.Kind != match.OpenEnd && !b.one("w1", "j"+o.Name) {
				t.Errorf("%s: w1 is not one circuit with it", what)
			}
		}
	}
}

// left counts the steps that are not done.
func left(p *plan.Plan) int {
	n := 0
	for i := range p.Work.Steps {
		if _, done := p.Done(p.Work.Steps[i].ID); !done && p.Work.Steps[i].Kind != work.Caution {
			n++
		}
	}
	return n
}

// A table that shows fewer cavities of a plug than the list of wires has is of the same plug all the same.
func TestATableMayShowFewerCavitiesThanTheList(t *testing.T) {
	j := spanned()
	j.Kind = stored.Repinned
	j.From = &stored.Table{Name: "found", Cells: [][]string{{"Connector", "Cavity", "Function"}, {"A", "1", "Injector 1"}}}
	j.To = &stored.Table{Name: "wanted", Cells: [][]string{{"Connector", "Cavity", "Function"}, {"A", "4", "Injector 1"}}}
	j.Decisions = []match.Decision{matched("A1", "A4")}
	j.Sheets[gather.WireList].Cells[5][3] = "A"
	proven(t, "A1 to A4", computeJob(t, j))
}
