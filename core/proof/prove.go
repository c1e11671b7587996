package proof

import (
	"fmt"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// Prove carries the steps of all stages out on the harness as it is now, in their order, and compares once. After every
// step at which something is joined the circuits that meet are looked at.
func Prove(in *Reads) Result {
	left := work.Remaining(in.Past, in.Steps, in.Unwanted || in.Mended || in.Past.Ticks != nil)
	out := Result{Held: left.Held, Proof: Proof{Steps: len(left.Steps), Fault: in.Fault, Against: in.Against}}
	if n := len(left.Held); n > 0 {
		if !in.Unwanted && !in.Mended && len(in.Past.Ticks) == 0 {
			out.Proof.Fault = in.firstHeld(left.Held)
		}
		out.Findings = append(out.Findings, finding.Finding{
			Code: "steps-held", Place: finding.Place{Part: "work"}, Severity: finding.Wrong, Stage: "work",
			Text: fmt.Sprintf("%d steps cannot be done as the harness is now: what was done before the decisions changed "+
				"stands in their way.", n),
			Remedy: "See what was done and is not wanted any more; put it right, or take the ticks back if it was not done.",
		})
	}
	out.carryOut(in, left.Steps)
	if out.Proof.Reached { // the plan keeps what both decisions allow
		out.Proof.Against = nil
	}
	return out
}

// carryOut carries the steps out that are left.
func (r *Result) carryOut(in *Reads, left []work.Step) {
	p := &r.Proof
	guard := newGuard(in.Model, in.Past.Now)
	end, inHand, err := work.Run(in.Past.Now, left, guard.look)
	p.InHand = inHand
	switch {
	case p.Fault != "":
		return
	case err != nil:
		p.Fault = err.Error()
		return
	case inHand > max(in.Limit, in.Past.Now.InHand()):
		p.Fault = fmt.Sprintf("%d terminals would be in hand, and %d may be", inHand, in.Limit)
		return
	}
	p.Meets = guard.found
	for _, text := range guard.found {
		r.Findings = append(r.Findings, finding.Finding{
			Code: "must-not-meet", Severity: finding.Danger, Stage: "work",
			Text:   sentence(text),
			Remedy: "Reopen the match or the joint that brings them together.",
		})
	}
	if in.Stuck > 0 || in.Unwanted || len(r.Held) > 0 {
		p.Reached, p.Partial = in.Stuck == 0, true
		return
	}
	p.Differences = harness.Differences(end, in.Wanted)
	p.Apart = apart(in, end)
	p.Left = leftOff(in, end)
	p.Reached = len(p.Differences)+len(p.Apart)+len(p.Meets) == 0
}

func (in *Reads) firstHeld(held map[string]string) string {
	for i := range in.Steps {
		if why := held[in.Steps[i].ID]; why != "" {
			return in.Steps[i].Text + ": " + why
		}
	}
	return ""
}

func sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:] + "."
}
