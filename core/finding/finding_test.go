package finding_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"draxel/core/finding"
)

func TestNaturalOrder(t *testing.T) {
	want := []string{"", "7", "A1", "A2", "A02", "A10", "A10a", "B1", "b1"}
	got := slices.Clone(want)
	rand.New(rand.NewPCG(1, 2)).Shuffle(len(got), func(i, j int) { got[i], got[j] = got[j], got[i] })
	slices.SortFunc(got, finding.Natural)
	if fmt.Sprint(got) != fmt.Sprint([]string{"", "7", "A1", "A02", "A2", "A10", "A10a", "B1", "b1"}) {
		t.Errorf("order %q", got)
	}
}

func TestSortPutsDangerFirst(t *testing.T) {
	all := []finding.Finding{{Severity: finding.Note, Subject: "A1"}, {Severity: finding.Danger, Subject: "B10"},
		{Severity: finding.Danger, Subject: "B9"}}
	finding.Sort(all)
	if all[0].Subject != "B9" || all[1].Subject != "B10" || finding.Count(all)[finding.Danger] != 2 {
		t.Errorf("sorted to %v", all)
	}
}
