package finding_test

import (
	"testing"

	"draxel/core/finding"
)

// An answer holds as long as the finding says the same; danger is not answered away.
func TestAnswersHoldWhileTheFindingSaysTheSame(t *testing.T) {
	all := func(text string) []finding.Finding {
		return []finding.Finding{
			{Code: "no-slack", Severity: finding.Check, Stage: "reach", Subject: "w1", Text: text},
			{Code: "no-slack", Severity: finding.Check, Stage: "reach", Subject: "w2", Text: text},
			{Code: "joined-feeds", Severity: finding.Danger, Subject: "A1", Text: "Two feeds meet."},
		}
	}
	answers := []finding.Answer{
		{Code: "no-slack", Stage: "reach", Subject: "w1", Text: "50 mm are missing.", Reason: "the plug is held by a clip"},
		{Code: "joined-feeds", Subject: "A1", Text: "Two feeds meet.", Reason: "it will do"},
	}
	if f := finding.Answered(all("50 mm are missing."), answers); f[0].Answer == nil || f[1].Answer != nil ||
		f[2].Answer != nil || len(finding.Open(f)) != 2 {
		t.Errorf("answered %+v", f)
	}
	if f := finding.Answered(all("80 mm are missing."), answers); len(finding.Open(f)) != 3 {
		t.Errorf("it says something else now, and is still answered: %+v", f)
	}
}
