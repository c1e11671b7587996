package harness_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"draxel/core/harness"
)

// A person's names mean nothing: whatever words they are made of, no listed wire is a piece of another, a piece gives
// the wire that it was made of, and no two things have one id.
func TestWhateverAWireIsCalledItIsNoPieceOfAnother(t *testing.T) {
	words := []string{"new", "wire", "stub", "1", "2", "piece", "7004a", "", "new wire", "stub 1", "A"}
	type made struct {
		name string
		ops  string
		new  bool
	}
	seen := map[harness.WireID]made{}
	r := rand.New(rand.NewPCG(27, 1))
	for range 20000 {
		var name []string
		for range 1 + r.IntN(4) {
			name = append(name, words[r.IntN(len(words))])
		}
		m := made{name: strings.Join(name, " "), new: r.IntN(4) == 0}
		id := harness.Listed(m.name)
		if m.new {
			id = harness.NewWire(m.name)
		} else if id.Name() != m.name {
			t.Fatalf("%q is shown as %q", m.name, id.Name())
		}
		root := id
		if id.Piece() != harness.WholeWire || id.Of() != id || id.New() != m.new {
			t.Fatalf("%q is %q of %q, new %v", id, id.Piece(), id.Of(), id.New())
		}
		for range r.IntN(4) {
			was := id
			op := r.IntN(4)
			switch op {
			case 0, 1:
				id = id.Stub(op)
			case 2:
				id = id.LetIn()
			default:
				id = id.Instead()
			}
			m.ops += string(rune('a' + op))
			want := []harness.Piece{harness.FirstStub, harness.LastStub, harness.PutIn, harness.Successor}[op]
			if id.Of() != was || id.Piece() != want || id.Whole() != root || id.New() != m.new {
				t.Fatalf("%q is %q of %q of %q, want %q of %q of %q", id, id.Piece(), id.Of(), id.Whole(), want, was, root)
			}
			if id.CutOff() != strings.ContainsAny(m.ops, "ab") {
				t.Fatalf("%q was cut off: %v", id, id.CutOff())
			}
			if id.StubOf(was) != want.Stub() {
				t.Fatalf("%q is a stub of %q: %v", id, was, id.StubOf(was))
			}
		}
		if other, taken := seen[id]; taken && other != m {
			t.Fatalf("%q is both %+v and %+v", id, other, m)
		}
		seen[id] = m
	}
	if len(seen) < 5000 {
		t.Fatalf("only %d names were tried", len(seen))
	}
}

// The text of the ids is kept by ticks and job files: it stays as it was at the first release.
func TestTheTextOfWireIDs(t *testing.T) {
	w := harness.Listed("7004a")
	for got, want := range map[harness.WireID]string{w: "7004a", w.Stub(0): "7004a stub 1", w.Stub(1): "7004a stub 2",
		w.LetIn(): "7004a piece", w.Instead(): "7004a new", harness.NewWire("A2"): "new wire A2",
		harness.NewWire("for A2").Stub(1): "new wire for A2 stub 2"} {
		if string(got) != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
