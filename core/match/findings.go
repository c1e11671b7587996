package match

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

// Totals count what becomes of every row. They reconcile when each From row has one disposition and each To row is
// filled, wants a wire or is left empty.
type Totals struct {
	From           int  `json:"from"` // From rows that take part
	To             int  `json:"to"`
	Decided        int  `json:"decided"` // From rows decided by a person
	Open           int  `json:"open"`    // From rows that are not
	Stays          int  `json:"stays"`
	Moves          int  `json:"moves"`
	MovesConnector int  `json:"movesConnector"`
	Goes           int  `json:"goes"`
	NeedsSource    int  `json:"needsSource"`
	Meets          int  `json:"meets"` // joined to a wire that stays, or into its plug
	Faces          int  `json:"faces"` // facing their counterpart already
	Joins          int  `json:"joins"` // joined to the wire of a To cavity
	Undecided      int  `json:"undecided"`
	NeedsWire      int  `json:"needsWire"`
	LeftEmpty      int  `json:"leftEmpty"`
	Branches       int  `json:"branches"` // served by a lead joined to a From wire
	NewWire        int  `json:"newWire"`  // served by a new wire from a named origin
	Filled         int  `json:"filled"`   // To rows that a From row fills, decided or offered
	Reconciled     bool `json:"reconciled"`
}

// Totals counts the verdicts.
func (r *Result) Totals() Totals {
	t := Totals{From: len(r.from), To: len(r.to)}
	filled := map[harness.Ref]bool{}
	slots := map[Verdict]*int{Meets: &t.Meets, Faces: &t.Faces, NewWire: &t.NewWire, StaysPut: &t.Stays, Moves: &t.Moves,
		MovesConnector: &t.MovesConnector, Goes: &t.Goes, NeedsSource: &t.NeedsSource, Joins: &t.Joins, Branches: &t.Branches,
		Undecided: &t.Undecided, NeedsWire: &t.NeedsWire, LeftEmpty: &t.LeftEmpty}
	for _, l := range r.Lines {
		*slots[l.Verdict]++
		if l.Decided {
			t.Decided++
		}
		if l.Feeds() {
			filled[l.To] = true
		}
	}
	for _, w := range r.Wants {
		*slots[w.Verdict]++
	}
	t.Open, t.Filled = t.From-t.Decided, len(filled)
	t.Reconciled = t.Stays+t.Moves+t.MovesConnector+t.Meets+t.Faces+t.Goes+t.NeedsSource+t.Joins+t.Undecided == t.From &&
		t.Filled+t.NeedsWire+t.LeftEmpty+t.Branches+t.NewWire == t.To
	return t
}

// Feeds says whether the row ends in a To cavity, decided or offered.
func (l Line) Feeds() bool {
	switch l.Verdict {
	case StaysPut, Moves, MovesConnector, Meets, Faces:
		return true
	}
	return false
}

// Findings lists what is wrong or doubtful about the crosswalk and the tables that it rests on.
func (r *Result) Findings(from, to harness.Pinout) []finding.Finding {
	var out []finding.Finding
	out = append(out, r.lostDecisions()...)
	out = append(out, r.contradictions()...)
	out = append(out, r.notOneScheme()...)
	out = append(out, r.unverifiedDecisions()...)
	out = append(out, r.feedsMissing()...)
	out = append(out, cylinders(From, r.from)...)
	out = append(out, cylinders(To, r.to)...)
	out = append(out, r.mismatches()...)
	out = append(out, r.unlikely()...)
	out = append(out, r.joints()...)
	out = append(out, unverified(From, from)...)
	out = append(out, unverified(To, to)...)
	out = append(out, leftAloneRows(From, r.from)...)
	out = append(out, leftAloneRows(To, r.to)...)
	out = append(out, resistanceRows(From, r.from)...)
	finding.Sort(out)
	return out
}

func feedRole(r signal.Role) bool {
	return r == signal.Battery || r == signal.Ignition || r == signal.Ground
}

// unverifiedDecisions counts what was brought from an earlier job and nobody has taken over here.
func (r *Result) unverifiedDecisions() []finding.Finding {
	n, job, first, side := 0, "", "", From
	for _, l := range r.Lines {
		if l.Verify != "" {
			if n == 0 {
				job, first = l.Verify, l.From.String()
			}
			n++
		}
	}
	for _, w := range r.Wants {
		if w.Verify != "" {
			if n == 0 {
				job, first, side = w.Verify, w.To.String(), To
			}
			n++
		}
	}
	if n == 0 {
		return nil
	}
	return []finding.Finding{{Code: "to-be-verified", Severity: finding.Check, Side: string(side), Subject: first,
		Text:   fmt.Sprintf("Decisions brought from %q that nobody has verified here: %d.", job, n),
		Remedy: "Look at each: accept it, or choose another. Until then they count as open."}}
}

// lostDecisions names the decisions that the tables have moved away from: a row is gone, or its cavity is taken.
func (r *Result) lostDecisions() []finding.Finding {
	var out []finding.Finding
	for _, d := range r.lost {
		about := d.At.String()
		if d.Choice == Matched || d.Choice == Joined {
			about += " to " + d.To.String()
		}
		out = append(out, finding.Finding{Code: "decision-lost", Severity: finding.Check, Side: string(d.Side),
			Subject: d.At.String(),
			Text:    fmt.Sprintf("The decision about %s fits the tables no more and is not counted.", about),
			Remedy:  "Decide the row anew, or put the tables right."})
	}
	return out
}

// notOneScheme tells where what was said of the numbers is not so.
func (r *Result) notOneScheme() []finding.Finding {
	t := r.weights.numeral
	if !t.contradicted() {
		return nil
	}
	return []finding.Finding{{Code: "not-one-scheme", Severity: finding.Wrong, Side: string(From), Subject: "numbers",
		Text: fmt.Sprintf("Both tables are said to number their circuits by one scheme, and of %d equal "+
			"numbers whose words can be read only %d agree: they are not counted.", t.equal, t.agree),
		Remedy: "Take back what was said of the numbers, under the job's title; or look whether a table is of another year."}}
}

// contradictions names the rows whose circuit number says one thing and whose words another.
func (r *Result) contradictions() []finding.Finding {
	var out []finding.Finding
	for i, l := range r.Lines {
		j, contradicts := r.contradiction(i)
		if l.Verdict != Undecided || l.Decided || l.To.Cavity != "" || !contradicts {
			continue
		}
		out = append(out, finding.Finding{Code: "number-contradicts", Severity: finding.Wrong, Side: string(From),
			Subject: l.From.String(),
			Text: fmt.Sprintf("%s and %s both carry number %s, but by their words one is %s, the other %s.", l.From,
				r.to[j].Ref, r.from[i].Circuit, r.from[i].Signal, r.to[j].Signal),
			Remedy: "One of the rows is misprinted: trace the wire, then put the cell right in Gather."})
	}
	return out
}

// feedsMissing names the battery, ignition and ground cavities of the To side that nothing feeds.
func (r *Result) feedsMissing() []finding.Finding {
	var out []finding.Finding
	for _, w := range r.Wants {
		row := r.to[r.toAt[w.To]]
		if w.Verdict == NewWire && feedRole(row.Signal.Role) && w.Origin.Kind == OpenEnd {
			out = append(out, finding.Finding{Code: "feed-waits", Severity: finding.Check, Side: string(To),
				Subject: w.To.String(),
				Text: fmt.Sprintf("The new wire of %s, %s, waits for its source; %s sees to it.", w.To, row.Signal,
					w.Origin.Owner), Remedy: "Name the fuse, the cavity or the ground point that it begins at."})
		}
		if w.Verdict == NeedsWire && feedRole(row.Signal.Role) {
			out = append(out, finding.Finding{Code: "feed-missing", Severity: finding.Wrong, Side: string(To),
				Subject: w.To.String(),
				Text:    fmt.Sprintf("Nothing feeds %s, %s.", w.To, row.Signal),
				Remedy:  "Match a wire to it, say where a new wire begins (W), or mark it left empty with the reason."})
		}
	}
	return out
}

// cylinders names injectors and coils of which a cylinder is missing or stands twice.
func cylinders(side Side, rows []harness.Row) []finding.Finding {
	var out []finding.Finding
	for _, device := range []string{"injector", "coil"} {
		at := map[int][]string{}
		most, name := 0, ""
		for _, row := range rows {
			s := row.Signal
			if s.Device == device && s.Aspect == signal.AspectControl && s.Cylinder > 0 {
				at[s.Cylinder] = append(at[s.Cylinder], row.Ref.String())
				most, name = max(most, s.Cylinder), s.Name
			}
		}
		for c := 1; c <= most; c++ {
			switch where := at[c]; {
			case len(where) == 0:
				out = append(out, finding.Finding{Code: "cylinder-missing", Severity: finding.Check, Side: string(side),
					Subject: name,
					Text:    fmt.Sprintf("No row names the %s of cylinder %d, though cylinder %d is there.", name, c, most),
					Remedy:  "Look for a misprint or a row that was not taken."})
			case len(where) > 1:
				out = append(out, finding.Finding{Code: "cylinder-twice", Severity: finding.Wrong, Side: string(side),
					Subject: where[0],
					Text:    fmt.Sprintf("The %s of cylinder %d stands at %s.", name, c, strings.Join(where, " and ")),
					Remedy:  "One of them is a misprint: trace both before either is pinned."})
			}
		}
	}
	return out
}

// mismatches names matches that are not the same kind of wire, however sure: another control side, another signal kind,
// another number of wires for the device; and those that a person accepted against a veto.
func (r *Result) mismatches() []finding.Finding {
	var out []finding.Finding
	wiresF, wiresT := wireCounts(r.from), wireCounts(r.to)
	for _, l := range r.Lines {
		if !l.Feeds() {
			continue
		}
		a, b := r.from[r.fromAt[l.From]], r.to[r.toAt[l.To]]
		add := func(code string, severity finding.Severity, remedy, format string, args ...any) {
			out = append(out, finding.Finding{Code: code, Severity: severity, Side: string(From), Subject: l.From.String(),
				Text: fmt.Sprintf("%s to %s: ", l.From, l.To) + fmt.Sprintf(format, args...), Remedy: remedy})
		}
		if why, vetoed := Veto(a.Signal, b.Signal); vetoed {
			add("veto", finding.Danger, "Undo this match.", "%s.", why)
			continue
		}
		x, y := a.Signal, b.Signal
		if classes := differentSupplies(&x, &y); classes != "" {
			add("supply-differs", finding.Wrong, "Choose a feed of the same kind, or take a feed by a relay that this one "+
				"only triggers.", "%s.", classes)
			continue
		}
		switch {
		case !x.Read() || !y.Read():
		case familyOf(x.Role) == output && familyOf(y.Role) == output && x.Role != y.Role:
			add("control-differs", finding.Wrong, "Check how each unit switches it before it is pinned.",
				"one is driven %s, the other %s.", x.Role, y.Role)
		case familyOf(x.Role) == input && familyOf(y.Role) == input && x.Role != y.Role:
			add("signal-differs", finding.Wrong, "The unit will not understand this sensor: check the kind of signal.",
				"one gives a %s signal, the other unit wants %s.", x.Role, y.Role)
		case x.Form != "" && y.Form != "" && x.Form != y.Form:
			add("signal-differs", finding.Wrong, "The unit will not understand this sensor: check the kind of signal.",
				"one sensor is %s, the other %s.", x.Form, y.Form)
		case x.Device == y.Device && x.Aspect == signal.AspectSignal && wiresF[deviceKey(x)] != wiresT[deviceKey(y)] &&
			familyOf(x.Role) == input && wiresF[deviceKey(x)] > 1 && wiresT[deviceKey(y)] > 1:
			add("wires-differ", finding.Check, "Count the wires at the sensor: a ground or a supply may be shared, or missing.",
				"%s has %d wires on one side and %d on the other.", x.Name, wiresF[deviceKey(x)], wiresT[deviceKey(y)])
		case x.Device == "knock" && x.Aspect == signal.AspectSignal && wiresF[deviceKey(x)] != wiresT[deviceKey(y)]:
			add("wires-differ", finding.Wrong, "A one-wire and a two-wire knock sensor are not exchangeable: check which is "+
				"fitted.", "knock sensor with %d wires on one side and %d on the other.", wiresF[deviceKey(x)],
				wiresT[deviceKey(y)])
		}
	}
	return out
}

// unlikely names the pairs that a person accepted although they were less likely than not.
func (r *Result) unlikely() []finding.Finding {
	var out []finding.Finding
	for i := range r.Lines {
		l := &r.Lines[i]
		if !l.Decided || !l.Feeds() || l.Sure == 0 || l.Sure >= Offered {
			continue
		}
		out = append(out, finding.Finding{Code: "unlikely-match", Severity: finding.Check, Side: string(From),
			Subject: l.From.String(),
			Text: fmt.Sprintf("%s to %s was accepted at %s: %s and %s.", l.From, l.To, percent(l.Sure),
				r.from[r.fromAt[l.From]].Signal, r.to[r.toAt[l.To]].Signal),
			Remedy: "Trace both wires with the meter and say here what you found, or reopen the row."})
	}
	return out
}

// percent writes a probability as people say it.
func percent(p float64) string {
	if p < 0.01 {
		return "less than 1 %"
	}
	return fmt.Sprintf("%.0f %%", 100*p)
}

// deviceKey names one device of several, whatever the aspect of the wire.
func deviceKey(s signal.Reading) string {
	return fmt.Sprint(s.Device, s.Cylinder, s.Bank, s.Position, s.Channel, s.Place)
}

// wireCounts counts the wires of each device, shields left out.
func wireCounts(rows []harness.Row) map[string]int {
	n := map[string]int{}
	for _, row := range rows {
		if row.Signal.Read() && row.Signal.Aspect != signal.AspectShield {
			n[deviceKey(row.Signal)]++
		}
	}
	return n
}

// unverified names the powers and grounds that only a table of doubtful origin knows.
func unverified(side Side, p harness.Pinout) []finding.Finding {
	var where []string
	for _, row := range p.Rows {
		if !row.Empty && feedRole(row.Signal.Role) && !cmp.Or(row.Trust, p.Trust).Verified() {
			where = append(where, row.Ref.String())
		}
	}
	if len(where) == 0 {
		return nil
	}
	slices.SortFunc(where, finding.Natural)
	return []finding.Finding{{Code: "unverified-feed", Severity: finding.Check, Side: string(side), Subject: p.Name,
		Text: fmt.Sprintf("%d powers and grounds are known only from a table that nobody has verified: %s.", len(where),
			strings.Join(where, ", ")),
		Remedy: "Measure each under load, or find the maker's table, before the unit is plugged in."}}
}

func leftAloneRows(side Side, rows []harness.Row) []finding.Finding {
	var out []finding.Finding
	for _, row := range rows {
		text, remedy := "is a restraint circuit: it is never matched.",
			"Battery off, wait as the maker says, never probe it with a meter; leave it to qualified hands."
		switch row.Signal.Role {
		case signal.HighVoltage:
			text, remedy = "is a high-voltage circuit: it is never matched.",
				"Only qualified persons, service plug out, proven dead; local rules apply."
		case signal.Restraint:
		default:
			continue
		}
		out = append(out, finding.Finding{Code: "left-alone", Severity: finding.Danger, Side: string(side),
			Subject: row.Ref.String(),
			Text:    fmt.Sprintf("%s, %s, %s", row.Ref, row.Signal.Name, text), Remedy: remedy})
	}
	return out
}

func resistanceRows(side Side, rows []harness.Row) []finding.Finding {
	var out []finding.Finding
	for _, row := range rows {
		if resisted(&row.Signal) {
			out = append(out, finding.Finding{Code: "resistance-feed", Severity: finding.Check, Side: string(side),
				Subject: row.Ref.String(),
				Text: fmt.Sprintf("%s, %s: with a load on it this wire falls to about 8 V, unloaded it shows nearly full volts.",
					row.Ref, row.Signal.Name),
				Remedy: "Do not feed a unit from it: take the ignition feed from behind the switch, and cap this wire off."})
		}
	}
	return out
}
