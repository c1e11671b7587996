package work_test

import (
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/work"
)

// What is kept of work that was done is what hands can do, and no more.
func TestTicksThatCannotBe(t *testing.T) {
	good := work.Tick{Step: "s", Minutes: 5, Spent: 6, Length: 300,
		Used: []work.Use{{What: "sleeve", Unit: "m", Amount: 0.2}}}
	if err := good.Check(); err != nil {
		t.Fatal(err)
	}
	for name, change := range map[string]func(*work.Tick){
		"of no step":            func(k *work.Tick) { k.Step = "" },
		"less than no time":     func(k *work.Tick) { k.Minutes = -1 },
		"spent less than none":  func(k *work.Tick) { k.Spent = -1 },
		"a length without end":  func(k *work.Tick) { k.Length = 1e9 },
		"took too much":         func(k *work.Tick) { k.Used = make([]work.Use, 501) },
		"took what has no name": func(k *work.Tick) { k.Used = []work.Use{{Amount: 1}} },
		"took a novel":          func(k *work.Tick) { k.Used = []work.Use{{What: strings.Repeat("x", 401)}} },
		"in a long unit":        func(k *work.Tick) { k.Used = []work.Use{{What: "x", Unit: "a long unit"}} },
		"took less than none":   func(k *work.Tick) { k.Used = []work.Use{{What: "x", Amount: -1}} },
		"an edit that is none":  func(k *work.Tick) { k.Edits = []harness.Edit{{Do: "polish"}} },
		"an edit with an end too many, the second": func(k *work.Tick) {
			k.Edits = []harness.Edit{{Do: harness.Cut}, {Do: harness.Cut, End: 2}}
		},
	} {
		bad := good
		if change(&bad); bad.Check() == nil {
			t.Errorf("%s: it can be", name)
		}
	}
	for of, want := range map[work.Stage]work.Stage{"": work.Thin, work.Pin: work.Pin, work.Own: work.Own} {
		if got := (&work.Tick{Stage: of}).Of(); got != want {
			t.Errorf("a tick of %q is of %q", of, got)
		}
	}
}

// Ticks are in the order of their time, of one moment in that in which they were sent, else by their steps.
func TestTicksAreInOrder(t *testing.T) {
	all := []work.Tick{{Step: "d", When: 2}, {Step: "b", When: 1, Seq: 2}, {Step: "c", When: 1, Seq: 1},
		{Step: "a", When: 1, Seq: 1}}
	var got string
	for _, k := range work.InOrder(all) {
		got += k.Step
	}
	if got != "acbd" || all[0].Step != "d" {
		t.Errorf("in order %s, given %s first", got, all[0].Step)
	}
}
