package stored_test

import (
	"testing"

	"draxel/core/stored"
)

// Three answers at most lead to every kind of job, each by one way.
func TestTheQuestionsLeadToEveryKind(t *testing.T) {
	ways := map[stored.Kind]int{}
	var ask func(q stored.KindQuestion, deep int)
	ask = func(q stored.KindQuestion, deep int) {
		if deep > 3 || len(q.Answers) < 2 {
			t.Errorf("%q is question %d, with %d answers", q.Asks, deep, len(q.Answers))
		}
		for _, a := range q.Answers {
			if (a.Kind == "") == (a.Then == nil) {
				t.Errorf("%q leads nowhere, or to two places", a.Says)
			}
			if a.Then != nil {
				ask(*a.Then, deep+1)
			} else {
				ways[a.Kind]++
			}
		}
	}
	ask(stored.FirstQuestion(), 1)
	for _, k := range stored.Kinds() {
		if ways[k.ID] != 1 {
			t.Errorf("%d ways lead to %s", ways[k.ID], k.ID)
		}
	}
	if len(ways) != len(stored.Kinds()) {
		t.Errorf("they lead to %d kinds of %d", len(ways), len(stored.Kinds()))
	}
}
