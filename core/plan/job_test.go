package plan_test

import (
	"reflect"
	"testing"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
)

func table(name string, lines ...[]string) *stored.Table {
	return &stored.Table{Name: name, Source: "sheet 4", Date: "2026-11-24", Trust: harness.Copied,
		Cells: append([][]string{{"Connector", "Cavity", "Function"}}, lines...)}
}

func TestFactsComeFromTheTables(t *testing.T) {
	j := stored.Job{Kind: stored.Repinned, From: table("f", []string{"A", "1", "Injector 1"},
		[]string{"B", "1", "Ground"}), To: table("t", []string{"A", "2", "Injector 1"})}
	f, err := fact.Of(j)
	if err != nil || f.From.Source != "sheet 4" || f.From.Date != "2026-11-24" || f.From.Trust != harness.Copied {
		t.Errorf("facts %+v, %v", f.From, err)
	}
	if len(f.Meetings) != 1 || f.Meetings["A"] != (match.Meeting{Met: match.SameAs, With: "A"}) {
		t.Errorf("met %v: the housings of the same name are kept, until somebody says otherwise", f.Meetings)
	}
	j.Kept = match.Kept{}
	if f, err = fact.Of(j); err != nil || f.Meetings["A"].Met != match.NewHousing {
		t.Errorf("met %v, %v: somebody said that none is kept", f.Meetings, err)
	}
	j.To = nil
	if f, err = fact.Of(j); err != nil || len(f.To.Rows) != 0 {
		t.Errorf("a side that is not there yet: %v, %v", f.To.Rows, err)
	}
	j.From.Options = gather.Options{Columns: map[int]gather.Column{1: gather.Note}}
	if _, err = fact.Of(j); err == nil {
		t.Error("a table without a cavity column was read")
	}
}

func TestKinds(t *testing.T) {
	seen, moves := map[string]bool{}, 0
	for _, k := range stored.Kinds() {
		if k.Name == "" || k.Meaning == "" || seen[k.Name] {
			t.Errorf("kind %+v", k)
		}
		seen[k.Name] = true
		if info, ok := k.ID.Info(); !ok || !reflect.DeepEqual(info, k) || k.ID.MovesTerminals() != k.Moves {
			t.Errorf("kind %s is not found by its id", k.ID)
		}
		if k.Moves {
			moves++
		}
	}
	if len(seen) != 13 || moves != 4 {
		t.Errorf("%d kinds, %d of them move terminals", len(seen), moves)
	}
	if _, ok := stored.Kind("burnt").Info(); ok || stored.Kind("burnt").MovesTerminals() {
		t.Error("a kind that is none")
	}
}
