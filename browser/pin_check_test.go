package browser

import (
	"slices"
	"testing"

	"github.com/go-rod/rod/lib/input"

	"draxel/core/finding"
)

// The second check goes by what is wanted and shows no tick; a difference is a danger where it is a power.
func TestTheSecondCheckByKeys(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin?part=check")
	first := v.see("[data-testid=expected]", ".").MustText()
	v.press(' ')
	v.until("the next cavity", func() bool { return v.text("[data-testid=expected]") != first })
	v.press('x')
	v.reason("a brown wire")
	v.see("[data-testid=second]", "2 of 20 powers and grounds")
	v.see("[data-testid=checks]", "a brown wire")
	v.press('f')
	v.see(".ant-drawer", "The second check found a brown wire in A5")
}

// The second check at the bench: one cavity at a time, by a pedal, with nothing of the first one's ticks.
func TestTheSecondCheckAtTheBench(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin?part=check")
	v.see("[data-testid=expected]", ".")
	v.press('b')
	v.see("[data-testid=count]", "power or ground 1 of 20")
	v.phone()
	v.press(input.PageDown)
	v.see("[data-testid=count]", "power or ground 2 of 20")
	v.press(input.PageUp)
	v.see("[data-testid=count]", "power or ground 1 of 20")
	v.swipe(320, 100)
	v.see("[data-testid=count]", "power or ground 2 of 20")
	v.press('x')
	v.reason("no wire")
	v.see("[data-testid=count]", "power or ground 3 of 20")
	v.until("the difference is a danger", func() bool {
		return slices.ContainsFunc(v.pinned().Findings, func(f finding.Finding) bool {
			return f.Code == "second-check" &&
				f.Severity == finding.Danger
		})
	})
	v.goTo("/jobs/sorrel-refit/bench?stage=check")
	v.see("[data-testid=count]", "power or ground 3 of 20") // it goes on where it was left
}
