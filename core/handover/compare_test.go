package handover_test

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/colour"
	"draxel/core/handover"
	"draxel/core/harness"
)

// made makes a state of so many wires.
func made(r *rand.Rand, n int) handover.State {
	s := handover.State{Decisions: map[string]string{}}
	for i := range n {
		l := handover.Piece{Name: harness.WireID(fmt.Sprint("w", i))}
		l.Colour, l.Size, l.Mm = colour.Colour{Written: fmt.Sprint("c", r.IntN(9))}, 0.5, float64(200+r.IntN(900))
		l.Ends = [2]handover.End{{At: fmt.Sprint("A", i)}, {At: fmt.Sprint("B", i)}}
		s.Lengths = append(s.Lengths, l)
		s.Decisions[fmt.Sprint("A", i)] = "stays"
	}
	s.Settings = []string{"idle 850", "fans at 95 °C"}
	return s
}

// A state that is changed by known hands differs by exactly what they did, and by nothing else; a state does not
// differ from itself.
func TestWhatDiffersIsWhatWasChanged(t *testing.T) {
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 17))
		was := made(r, 4+r.IntN(20))
		if all := handover.Compare(&was, &was); len(all) != 0 {
			t.Fatalf("a state differs from itself: %+v", all)
		}
		is := handover.State{
			Lengths:   slices.Clone(was.Lengths),
			Settings:  slices.Clone(was.Settings),
			Decisions: maps.Clone(was.Decisions),
		}
		want := map[string]bool{}
		for _, i := range r.Perm(len(is.Lengths))[:r.IntN(len(is.Lengths))] {
			l := &is.Lengths[i]
			switch r.IntN(5) {
			case 0:
				l.Ends[1].At = "C7"
				want["end "+string(l.Name)] = true
			case 1:
				l.Colour.Written += "x"
				want["colour "+string(l.Name)] = true
			case 2:
				l.Size = 2.5
				want["size "+string(l.Name)] = true
			case 3:
				l.Mm += []float64{0.4, 25}[r.IntN(2)] // less than a millimetre is none
				if l.Mm-was.Lengths[i].Mm > 1 {
					want["length "+string(l.Name)] = true
				}
			case 4:
				is.Decisions[l.Ends[0].At] = "goes"
				want["decision "+l.Ends[0].At] = true
			}
		}
		if r.IntN(2) == 0 {
			gone := string(is.Lengths[len(is.Lengths)-1].Name)
			is.Lengths = is.Lengths[:len(is.Lengths)-1]
			for k := range want {
				if len(k) > len(gone) && k[len(k)-len(gone)-1:] == " "+gone {
					delete(want, k)
				}
			}
			want["wire "+gone] = true
		}
		if r.IntN(2) == 0 {
			is.Settings = is.Settings[1:]
			want["setting idle 850"] = true
		}
		got := map[string]bool{}
		for _, d := range handover.Compare(&was, &is) {
			if d.Was == d.Is || got[string(d.Kind)+" "+d.At] {
				t.Errorf("told twice, or for nothing: %+v", d)
			}
			got[string(d.Kind)+" "+d.At] = true
		}
		if !maps.Equal(got, want) {
			t.Fatalf("state %d: told %v, want %v", seed, got, want)
		}
	}
}

// What somebody owns is his as it was when he took it: where it changes it is nobody's again.
func TestAnOwnerOwnsWhatHeSaw(t *testing.T) {
	lists := func(text string) []handover.DueList {
		return []handover.DueList{
			{ID: "steps", Items: []handover.Due{{Key: "steps thin", Text: text}, {Key: "other", Text: "x"}}},
		}
	}
	left := []handover.Left{{Key: "steps thin", Text: "steps of Thin: 3", Owner: "Fen", Reason: "next week"}}
	if n := handover.Owned(lists("steps of Thin: 3"), left); n != 1 {
		t.Errorf("%d are open", n)
	}
	if n := handover.Owned(lists("steps of Thin: 40"), left); n != 2 {
		t.Errorf("forty are owned by who took three: %d open", n)
	}
	for name, l := range map[string]handover.Left{"nobody": {Key: "a", Text: "b", Reason: "c"},
		"no reason": {Key: "a", Text: "b", Owner: "c"},
		"nothing":   {Owner: "a", Reason: "b"}} {
		if l.Check() == nil {
			t.Errorf("%s is taken", name)
		}
	}
}
