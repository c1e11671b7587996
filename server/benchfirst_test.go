package server_test

import (
	"testing"

	"draxel/core/thin"
	"draxel/server/pinapi"
)

// What a bench marks as not to be done yet is just what the server refuses, when the steps of that bench are ticked one
// after the other: nothing is offered and then refused, and nothing that may be done is held back.
func TestABenchOffersWhatCanBeDone(t *testing.T) {
	for _, stage := range []string{"pin", "reach", "join", "feed", "thin"} {
		t.Run(stage, func(t *testing.T) {
			t.Parallel()
			c := start(t)
			job := c.packhorse(nil)
			steps := show[pinapi.BenchView](c, job+"/bench?stage="+stage).Steps
			marked := 0
			for i := range steps[:min(len(steps), 40)] {
				s := &steps[i]
				code := c.reachTick(job, 1<<53-1, true, "a trial", s.ID)
				if s.Blocked != "" {
					marked++
				}
				if s.Kind != thin.Gate && (code == "") != (s.Blocked == "") {
					t.Errorf("%q: %q, marked with %q", s.Text, code, s.Blocked)
				}
			}
			if stage == "pin" && marked == 0 {
				t.Error("no step of Pin waits for another stage: the test shows nothing")
			}
		})
	}
}
