package pin

import (
	"fmt"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// The reasons.
const (
	IsStuck  What = "stuck"    // the terminal does not come out
	Differs  What = "colour"   // the wire is of another colour than the table says
	Occupied What = "occupied" // the cavity holds a wire that no table shows
	Broken   What = "lock"     // the secondary lock is broken
)

// Whats lists the reasons.
func Whats() []What { return []What{IsStuck, Differs, Occupied, Broken} }

// Stays says that the wire in the cavity is not moved until the report is settled.
func (r Report) Stays() bool { return r.Settled == "" && (r.What == IsStuck || r.What == Differs) }

// Stranger names the terminal of the wire that no table shows, in the cavity of the report.
func (r Report) Stranger() harness.TerminalID {
	return harness.TerminalID("unknown wire " + r.At.String())
}

// Tick gives what the report does to the model: a wire that no table shows is in its cavity from then on. It gives
// false for reports that do nothing to it.
func (r Report) Tick() (work.Tick, bool) {
	if r.What != Occupied {
		return work.Tick{}, false
	}
	edits := []harness.Edit{{Do: harness.Add, Terminal: r.Stranger(), Label: r.At.String()},
		{Do: harness.Insert, Terminal: r.Stranger(), At: r.At}}
	return work.Tick{Step: work.New(edits).ID, Edits: edits, Text: fmt.Sprintf("%s holds a wire that no table shows.",
		r.At), Stage: work.Pin, Kind: Otherwise, At: []harness.Ref{{}, r.At}}, true
}

// Finding gives what the report means for the plan, and false where it is settled.
func (r Report) Finding() (finding.Finding, bool) {
	f := finding.Finding{Code: "found-" + string(r.What), Severity: finding.Wrong, Stage: "pin", Subject: r.At.String()}
	switch {
	case r.Settled != "":
		return f, false
	case r.What == IsStuck:
		f.Text = fmt.Sprintf("The terminal in %s does not come out: what moves there, or because of it, waits.", r.At)
		f.Remedy = "Lift the secondary lock fully, push the wire in, try the other tang. Else cut the wire behind the " +
			"housing, join a lead with the right terminal, and say so; then settle this."
	case r.What == Differs:
		f.Text = fmt.Sprintf("The wire in %s is %s, and the table says otherwise: it is not moved until it is proven.", r.At,
			orUnsaid(r.Saw))
		f.Remedy = "Never trust a colour alone: prove the wire by continuity to its other end, put the table right if it " +
			"is wrong, then settle this."
	case r.What == Occupied:
		f.Text = fmt.Sprintf("%s holds a wire that no table shows%s: nothing goes in until it is known.", r.At, saw(r.Saw))
		f.Remedy = "Trace it. If it goes, record that it came out; if it stays, correct the table in Gather."
	case r.What == Broken:
		f.Subject = r.At.Connector
		f.Text = fmt.Sprintf("The secondary lock of %s is broken: the connector is not finished without it.", r.At.Connector)
		f.Remedy = "Order the lock or the housing; work on the terminals can go on."
	}
	return f, true
}

func saw(text string) string {
	if text == "" {
		return ""
	}
	return ", " + text
}
