package jobsapi

import (
	"slices"
	"testing"
)

// What some words find: the thing whose name they are, then those whose name begins so, then those of which it is said;
// every word is there, in any order and whatever its case.
func TestNearest(t *testing.T) {
	all := []FoundThing{
		{Kind: "step", Name: "Cut S1 RD"}, {Kind: "wire", Name: "S10", Says: "RD · Horn"},
		{Kind: "wire", Name: "S2", Says: "BK · S1 – A3"},
		{Kind: "connector", Name: "S1", Says: "Horn"}, {Kind: "device", Name: "big s1 lamp"}, {Kind: "wire", Name: "S9"},
	}
	for words, want := range map[string][]string{
		"s1":      {"S1", "S10", "big s1 lamp", "S2", "Cut S1 RD"},
		"HORN s1": {"S1", "S10"},
		"rd s1":   {"S10", "Cut S1 RD"},
		"wire s9": {"S9"},
		"nothing": {},
		"  ":      {},
	} {
		found, count := nearest(all, words, 9)
		got := []string{}
		for _, f := range found {
			got = append(got, f.Name)
		}
		if !slices.Equal(got, want) || count != len(want) {
			t.Errorf("%q: %v, %d; want %v", words, got, count, want)
		}
	}
	if found, count := nearest(all, "s", 2); len(found) != 2 || count != 6 {
		t.Errorf("%d of %d are shown", len(found), count)
	}
}
