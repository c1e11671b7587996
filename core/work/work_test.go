package work_test

import (
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/work"
)

func ref(c string) harness.Ref { return harness.Ref{Connector: "A", Cavity: c} }

func add(name, at string) work.Step {
	return work.New([]harness.Edit{{Do: harness.Add, Terminal: harness.TerminalID(name), Label: name},
		{Do: harness.Insert, Terminal: harness.TerminalID(name), At: ref(at)}})
}

func pull(name, from string) work.Step {
	return work.New([]harness.Edit{{Do: harness.Remove, Terminal: harness.TerminalID(name), At: ref(from), Label: name}})
}

func TestTheSameWorkKeepsItsID(t *testing.T) {
	first, again, other := add("w1", "1"), add("w1", "1"), add("w1", "2")
	if first.ID != again.ID || first.ID == other.ID {
		t.Error("a step's id is not that of its edits")
	}
	needing := work.New(add("w1", "1").Edits, "other")
	if needing.ID != add("w1", "1").ID {
		t.Error("what a step needs changed its id: a tick would be lost when the plan changes around it")
	}
}

func TestRun(t *testing.T) {
	h := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(3)}})
	first, second := add("w1", "1"), add("w2", "2")
	end, inHand, err := work.Run(h, []work.Step{first, second, pull("w1", "1"), pull("w2", "2")}, nil)
	if err != nil || inHand != 2 || end.InHand() != 2 {
		t.Errorf("%d in hand at most, %v", inHand, err)
	}
	for name, steps := range map[string][]work.Step{
		"step 1: it needs step " + first.ID:                 {work.New(second.Edits, first.ID), first},
		"step 2: place w2: cavity A1 holds w1":              {first, add("w2", "1")},
		"step 1: remove w9: it is not in A3":                {pull("w9", "3")},
		"step 2: add w1: there is one of that name already": {first, first},
	} {
		if _, _, err := work.Run(h, steps, nil); err == nil || !strings.HasPrefix(err.Error(), name) {
			t.Errorf("want %q, got %v", name, err)
		}
	}
	if len(h.Terminals()) != 0 {
		t.Error("Run changed the harness that it was given")
	}
}

// A check changes nothing in the harness, and is known by what it is about.
func TestChecks(t *testing.T) {
	first, again, other := work.Check("tie", "bank 1"), work.Check("tie", "bank 1"), work.Check("tie", "bank 2")
	if first.ID != again.ID || first.ID == other.ID || first.ID == work.New(nil).ID ||
		work.Check("ab").ID == work.Check("a", "b").ID {
		t.Error("a check's id is not that of what it is about")
	}
	h := harness.New(nil)
	end, _, err := work.Run(h, []work.Step{first, other}, nil)
	if err != nil || len(harness.Differences(end, h)) != 0 {
		t.Errorf("a check changed the harness: %v", err)
	}
}

// A trial keeps what can be done, and nothing of what cannot, not even the first half of it.
func TestTrial(t *testing.T) {
	h := harness.New([]harness.Connector{{ID: "A", Cavities: harness.Numbered(3)}})
	trial := work.NewTrial(h)
	if err := trial.Try(add("w1", "1").Edits...); err != nil {
		t.Fatal(err)
	}
	if err := trial.Try(append(add("w2", "2").Edits, add("w3", "1").Edits...)...); err == nil {
		t.Error("two terminals went into one cavity")
	}
	if err := trial.Try(add("w2", "3").Edits...); err != nil {
		t.Errorf("half of what failed was left behind: %v", err)
	}
	if end := trial.Harness(); len(end.Terminals()) != 2 || len(h.Terminals()) != 0 {
		t.Errorf("ends with %v, began with %v", end.Terminals(), h.Terminals())
	}
}
