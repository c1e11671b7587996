// Package work holds what every stage's steps have in common: a step is a few edits of the harness and the steps that
// must come first, and running the steps on the model shows whether they lead where they should.
package work

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"

	"draxel/core/harness"
)

// Step is one thing that hands do, in one go.
type Step struct {
	ID    string         `json:"id"`
	Edits []harness.Edit `json:"edits"`
	Needs []string       `json:"needs,omitempty"` // ids of steps that must be done before
}

// New gives a step for the edits. Its id is a hash of them, so that the same work keeps its id in a plan that changed.
func New(edits []harness.Edit, needs ...string) Step {
	text := make([]byte, 0, 128)
	for i := range edits {
		text = edits[i].AppendKey(text)
	}
	sum := sha256.Sum256(text)
	return Step{ID: hex.EncodeToString(sum[:6]), Edits: edits, Needs: needs}
}

// Run carries the steps out on the harness in their order. It fails on a step that comes before one it needs and on an
// edit that cannot be done, naming the step by its place in the list, from 1. It also gives the greatest number of
// terminals that were loose between two steps.
func Run(h harness.Harness, steps []Step) (end harness.Harness, inHand int, err error) {
	done := map[string]bool{}
	b := harness.Work(h)
	for i, s := range steps {
		for _, n := range s.Needs {
			if !done[n] {
				return b.Harness(), inHand, fmt.Errorf("step %d: it needs step %s, which comes later or not at all", i+1, n)
			}
		}
		if err := b.Do(s.Edits...); err != nil {
			return b.Harness(), inHand, fmt.Errorf("step %d: %w", i+1, err)
		}
		done[s.ID] = true
		inHand = max(inHand, b.InHand())
	}
	return b.Harness(), inHand, nil
}

// Check gives a step that changes nothing in the harness: something to look at, to mark or to make sure of. Its id comes
// from what it is about.
func Check(about ...string) Step {
	text, err := json.Marshal(about)
	if err != nil {
		panic("work: words are only strings: " + err.Error())
	}
	sum := sha256.Sum256(text)
	return Step{ID: "c" + hex.EncodeToString(sum[:6]), Edits: []harness.Edit{}}
}
