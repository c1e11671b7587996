package exchange

import (
	"encoding/csv"
	"fmt"
	"io"
	"strconv"
	"strings"

	"draxel/core/plan"
)

// Sheet is what a re-pin sheet is made of.
type Sheet struct {
	Title, Donor, Chassis string
	From, To              string // names of the two pinouts
	Revision              int
	Hash                  string // of the job it was computed from
	Printed               string // ISO date
	Plan                  plan.Plan
}

// ProofLine says in one sentence whether the steps were carried out on the model and reached the wanted harness.
func ProofLine(p plan.Proof) string {
	switch {
	case p.Reached && p.Steps == 0:
		return "Nothing to do: the harness is as the decisions want it."
	case p.Partial:
		return fmt.Sprintf("Draxel carried these %d steps out on the model, but they do not lead all the way: some moves run in a circle that cannot begin with so little in hand. See the findings.", p.Steps)
	case p.Reached:
		return fmt.Sprintf("Draxel carried these %d steps out on the model of the harness and reached the wanted harness. No cavity ever held two terminals, and %s in hand.", p.Steps, most(p.InHand))
	case p.Fault != "":
		return "DO NOT WORK FROM THIS SHEET. Draxel could not carry the steps out on the model: " + p.Fault + ". This is a fault in Draxel: send us the job file."
	}
	return fmt.Sprintf("DO NOT WORK FROM THIS SHEET. The steps do not lead to the wanted harness (%d differences). This is a fault in Draxel: send us the job file.", len(p.Differences))
}

func most(inHand int) string {
	switch inHand {
	case 0:
		return "none was left"
	case 1:
		return "never more than one was"
	}
	return fmt.Sprintf("never more than %d were", inHand)
}

// OpenLine says what the sheet leaves out, empty when it is whole: wires that are not decided, and decided moves that wait
// for a cavity which such a wire holds.
func OpenLine(p plan.Plan) string {
	if !p.Moves {
		return "Only what Thin takes out of connectors that stay: this kind of job joins its matched wires, and joints are not on this sheet."
	}
	if p.Totals.Open == 0 && p.Withheld == 0 {
		return ""
	}
	return fmt.Sprintf("THIS SHEET IS NOT WHOLE: %d of %d wires are not decided and stay where they are, and %d decided moves or new wires are left off because their cavity is still held. Decide the rest in Match and print it anew before the first terminal is pulled.",
		p.Totals.Open, p.Totals.From, p.Withheld)
}

// WriteSheetCSV writes the re-pin sheet as CSV: the proof first, then one line a step.
func WriteSheetCSV(w io.Writer, s Sheet) error {
	out := csv.NewWriter(w)
	lines := [][]string{{"# " + s.Title, fmt.Sprintf("revision %d", s.Revision), s.Hash, ProofLine(s.Plan.Proof), OpenLine(s.Plan)},
		{"step", "what", "from", "to", "do", "colour", "circuit", "function", "becomes", "why", "how", "terminal", "in hand", "watch"}}
	for i, step := range s.Plan.Steps {
		lines = append(lines, []string{strconv.Itoa(i + 1), string(step.Kind), step.From.String(), step.To.String(), step.Text,
			step.Wire.Colour.String(), step.Wire.Circuit, step.Wire.Function, step.Goal.Function, step.Why,
			step.How, strings.TrimSpace(string(step.Fit.Verdict) + " " + step.Fit.Why), strings.Join(step.Hand, ", "), strings.Join(step.Warn, " ")})
	}
	for _, line := range lines {
		for i := range line {
			line[i] = Guard(line[i])
		}
		if err := out.Write(line); err != nil {
			return fmt.Errorf("write sheet: %w", err)
		}
	}
	out.Flush()
	return out.Error()
}
