package browser

import (
	"slices"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"

	"draxel/core/match"
	"draxel/server/desk"
	"draxel/server/matchapi"
	"draxel/server/workapi"
)

// The main path of one harness: how a plug is met, another way for a match, the joint and its measuring step in the
// list of all stages, a tick, a step of one's own, and undo.
func TestOneHarnessIsWorked(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=from%20K1")
	v.see("aside h2", "K1 is joined to E8")
	v.see(".spreadrow.selected", "into the plug")
	v.press('w')
	v.see(".spreadrow.selected", "takes over")
	v.see("aside", "Chosen here")
	v.press('u')
	v.see(".spreadrow.selected", "into the plug")
	v.click("button", "Connectors")
	v.see(".ant-modal", "How is each connector met")
	v.choose("housing E", "of no concern")
	v.click(".ant-modal button", "^Keep$")
	v.until("E is of no concern", func() bool {
		m := fetch[matchapi.MatchView](v, "/api/jobs/packhorse/match")
		return m.Meetings["E"].Met == match.NoConcern
	})
	v.press('u')
	v.see(".spreadrow.selected", "into the plug")

	v.goTo("/jobs/packhorse/work?stage=join")
	v.see("[data-testid=proof]", "Proven on the model: the 328 steps that are left, of all stages together")
	v.click(".workrow", "Bare P055")
	v.see(".workrow.selected", "First: ")
	v.press(input.Space)
	v.see(".ant-message", ".")
	v.click(".workrow", "Measure first: prove that the wire in K10")
	v.press(input.Space)
	v.see("[data-testid=proof]", "the 327 steps that are left")
	v.press('u')
	v.see("[data-testid=proof]", "the 328 steps that are left")
	v.click(".workrow", "Measure first: prove that the wire in K10")
	v.press('w')
	v.see(".ant-modal", "A step of our own")
	v.page.MustElement("[aria-label='what is done']").MustInput("trim off behind the glove box")
	v.press(input.Enter)
	v.goTo("/jobs/packhorse/work")
	v.see("[data-testid=proof]", "the 329 steps that are left")
	v.until("it stands after its step", func() bool {
		steps := fetch[workapi.WorkView](v, "/api/jobs/packhorse/work").Steps
		for i := range steps[1:] {
			if strings.HasPrefix(steps[i+1].Text, "trim off") {
				return strings.Contains(steps[i].Text, "the wire in K10")
			}
		}
		return false
	})
}

// A finding that may stand is answered where it is shown, and stays in sight as answered.
func TestAFindingMayStand(t *testing.T) {
	v := open(t, "/jobs/packhorse/match")
	v.see("[data-testid=findings]", "13 wrong")
	v.press('f')
	v.see(".ant-drawer", "Findings in")
	v.click(".ant-drawer button", "It may stand")
	v.page.MustElement(".ant-drawer [aria-label*=reason], .ant-modal [aria-label*=reason]").
		MustInput("the coil is bought anew")
	v.press(input.Enter)
	v.see("[data-testid=findings]", "12 wrong")
	v.see(".ant-drawer", "the coil is bought anew")
}

// A cavity that nothing feeds gets a new wire from a fuse that is named.
func TestANewWireIsGivenItsBeginning(t *testing.T) {
	v := open(t, "/jobs/packhorse/match?row=to%20E11")
	v.see("aside h2", "E11 needs a wire")
	v.press('w')
	v.see(".ant-modal", "Where does the new wire of E11 begin")
	v.until("the search has the focus", func() bool {
		return v.page.MustEval(`() => document.activeElement.matches('.ant-modal .ant-select input')`).Bool()
	})
	v.page.MustElement("[aria-label='a fuse or a ground point by name']").MustInput("fans, 30 A")
	v.click(".ant-modal button", "At this fuse")
	v.see("[data-testid=spread]", "a new wire from fans, 30 A")
	if !slices.ContainsFunc(
		fetch[workapi.WorkView](v, "/api/jobs/packhorse/work").Steps,
		func(s desk.WorkStep) bool {
			return s.Kind == "land" && strings.Contains(s.Text, "to fans, 30 A")
		},
	) {
		t.Error("nobody brings it there")
	}
}
