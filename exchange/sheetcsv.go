package exchange

import (
	"fmt"
	"io"
	"strconv"
	"strings"

	"draxel/core/harness"
	"draxel/core/plan"
	"draxel/core/work"
)

// Sheet is what a work sheet is made of.
type Sheet struct {
	Title, Donor, Chassis string
	From, To              string // names of the two pinouts
	Revision              int
	Hash                  string // of the job it was computed from
	Printed               string // ISO date
	Plan                  plan.Plan
}

// OpenLine says what the sheet leaves out, empty when it is whole: wires that are not decided, and decided moves that
// wait for a cavity which such a wire holds.
func OpenLine(p plan.Plan) string {
	if p.Totals.Open == 0 && p.Withheld == 0 {
		return ""
	}
	return fmt.Sprintf("THIS SHEET IS NOT WHOLE: %d of %d wires are not decided and stay where they are, and %d "+
		"decided moves or new wires are left off because their cavity is still held. Decide the rest in Match and print "+
		"it anew before the first terminal is pulled.",
		p.Totals.Open, p.Totals.From, p.Withheld)
}

// stageWords names the stages on paper.
var stageWords = map[work.Stage]string{work.Thin: "Thin", work.Pin: "Pin", work.Reach: "Reach", work.Join: "Join",
	work.Own: "own step"}

// left gives the steps of the one list that are not done, in their order.
func left(p *plan.Plan) []*work.Step {
	var out []*work.Step
	for i := range p.Work.Steps {
		if _, done := p.Done(p.Work.Steps[i].ID); !done {
			out = append(out, &p.Work.Steps[i])
		}
	}
	return out
}

// WriteSheetCSV writes the work that is left as CSV: the proof first, then one line a step, all stages in one order.
func WriteSheetCSV(w io.Writer, s Sheet) error {
	lines := [][]string{{"# " + s.Title, fmt.Sprintf("revision %d", s.Revision), s.Hash, s.Plan.Proof.Line(),
		OpenLine(s.Plan)},
		{"step", "stage", "what", "from", "to", "do", "wires", "colour", "circuit", "function", "becomes", "why", "how",
			"terminal", "in hand", "watch", "minutes"}}
	for i, x := range left(&s.Plan) {
		line := []string{strconv.Itoa(i + 1), stageWords[x.Stage], string(x.Kind), "", "", x.Text,
			strings.Join(harness.Names(x.Wires),
				", "), "", "", "", "", x.Why, "", "", "", strings.Join(x.Warn, " "), strconv.FormatFloat(x.Minutes, 'f', -1, 64)}
		if len(x.At) > 0 {
			line[3] = x.At[0].String()
		}
		if step, pins := s.Plan.Sheet(x.ID); pins {
			line[3], line[4] = step.From.String(), step.To.String()
			line[7], line[8], line[9], line[10] = step.Wire.Colour.String(), step.Wire.Circuit, step.Wire.Function,
				step.Goal.Function
			line[12], line[13], line[14] = step.How, strings.TrimSpace(string(step.Fit.Verdict)+" "+step.Fit.Why),
				strings.Join(step.Hand, ", ")
		}
		lines = append(lines, line)
	}
	return WriteTableCSV(w, lines)
}
