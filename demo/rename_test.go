package demo_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/plan"
)

// renamed gives a job with words in all its lists and facts exchanged for others.
func renamed(j plan.Job, with map[string]string) plan.Job {
	put := func(text string) string {
		if to, ok := with[text]; ok {
			return to
		}
		return text
	}
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
	return j
}

// Names mean nothing: the key's switch, the master switch and the starters of the Packhorse under names that no list of
// words has raise the same dangers, and what is live in run is the same.
func TestOtherNamesRaiseTheSameDangers(t *testing.T) {
	j, f := packhorse(t)
	names := map[string]string{"ignition switch": "Key cylinder", "master switch": "Red lever",
		"Packhorse starter": "Crank motor P", "Sorrel starter": "Crank motor S"}
	other := renamed(j, names)
	g, err := other.Facts()
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
