package plan_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/work"
)

// Whatever stages ask for it, the battery comes off once: after what is measured with the power on, before the first
// cut. A ground is measured without power, and waits for nothing.
func TestTheBatteryComesOffOnce(t *testing.T) {
	joined := stored.Job{Title: "feeds", Kind: stored.Integrated,
		From:    table("ours", []string{"A", "1", "Ignition feed"}, []string{"A", "2", "Power ground"}),
		To:      table("theirs", []string{"P", "1", "Ignition feed"}, []string{"P", "2", "Power ground"}),
		OfMatch: match.Record{Decisions: []match.Decision{matched("A1", "P1"), matched("A2", "P2")}}}
	both := spanned()
	both.Thin = nil
	for name, j := range map[string]stored.Job{"joints alone": joined, "Reach alone": both} {
		p := computeJob(t, j)
		off := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool {
			return strings.Contains(s.Text, "battery's negative")
		})
		if off < 0 {
			t.Fatalf("%s: the battery stays on", name)
		}
		live := 0
		for i := range p.Work.Steps {
			s := &p.Work.Steps[i]
			if i != off && strings.Contains(strings.ToLower(s.Text), "battery's negative off") {
				t.Errorf("%s: the battery comes off twice: %q", name, s.Text)
			}
			if s.Cuts() && (i < off || !strings.Contains(p.Blocked(s), "gate") && p.Blocked(s) == "") {
				t.Errorf("%s: step %d, %q, cuts, and the battery comes off at step %d", name, i, s.Text, off)
			}
			if strings.Contains(s.Text, "12 V") {
				if live++; i > off {
					t.Errorf("%s: step %d, %q, needs the power that step %d took off", name, i, s.Text, off)
				}
			}
		}
		if name == "joints alone" && live != 1 {
			t.Errorf("%d measurements with the power on", live)
		}
		proven(t, name, p)
	}
}
