package match_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
)

// A decided pair of two kinds of supply, or of ground, is wrong and says which two; a pair of one kind is not, and a
// pair that must never be is told as that. Common practice, no source: what is live in which position of the key.
func TestEveryKindOfSupplyAgainstEveryOther(t *testing.T) {
	kinds := []struct{ words, says string }{
		{"Battery, terminal 30", "a battery feed"},
		{"Ignition, terminal 15", "an ignition feed"},
		{"Start signal, terminal 50", "a start signal"},
		{"Accessory, terminal R", "an accessory feed"},
		{"Power ground", "a power ground"},
		{"Sensor ground", "a sensor ground"},
	}
	told := 0
	for _, a := range kinds {
		for _, b := range kinds {
			side := func(id, words string) harness.Pinout {
				return harness.Pinout{Name: id, Connectors: []harness.Connector{{ID: id, Cavities: []string{"1"}}},
					Rows: []harness.Row{{Ref: harness.Ref{Connector: id, Cavity: "1"},
						Conductor: harness.Conductor{Function: words, Signal: signal.Read(words)}}}}.Findable()
			}
			from, to := side("A", a.words), side("B", b.words)
			r := match.Crosswalk(from, to, match.Meetings{}, []match.Decision{{Side: match.From,
				At: from.Rows[0].Ref, Choice: match.Matched, To: to.Rows[0].Ref}})
			found := r.Findings(from, to)
			i := slices.IndexFunc(found, func(f finding.Finding) bool { return f.Code == "supply-differs" })
			vetoed := slices.ContainsFunc(found, func(f finding.Finding) bool { return f.Code == "veto" })
			ground := func(s string) bool { return strings.Contains(s, "ground") }
			switch {
			case ground(a.says) != ground(b.says):
				if !vetoed {
					t.Errorf("%s to %s is not told as a danger: %v", a.words, b.words, found)
				}
			case (i >= 0) != (a.says != b.says):
				t.Errorf("%s to %s: %v", a.words, b.words, found)
			case i >= 0:
				told++
				if text := found[i].Text; !strings.Contains(text, a.says) || !strings.Contains(text, b.says) {
					t.Errorf("%s to %s: %q", a.words, b.words, text)
				}
			}
		}
	}
	if told != 14 {
		t.Errorf("%d pairs were told apart, wanted 14", told)
	}
}
