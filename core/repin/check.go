package repin

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/circuit"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/signal"
	"draxel/core/terminal"
	"draxel/core/wanted"
)

// exchanges lists the outputs that can be exchanged, and what is to be changed in the unit's settings.
func (p *Sheet) exchanges(m *wanted.Model, d pin.Decisions) {
	offered := map[harness.Ref]pin.Exchange{}
	for _, x := range d.Exchanges {
		if x.Verify != "" && m.Facts.WhyNotExchanged(x) == "" {
			offered[x.A] = x
		}
	}
	for _, row := range m.Facts.To.Rows {
		if kind, ok := match.OutputKind(&row.Signal); ok && !row.Empty {
			x := offered[row.Ref]
			p.Pinning.Outputs = append(p.Pinning.Outputs, Output{At: row.Ref, Function: row.Function, Kind: kind,
				With: m.Swapped[row.Ref], Earlier: x.B, Verify: x.Verify})
		}
	}
	for _, x := range d.Exchanges {
		a, _ := m.Facts.To.Row(x.A)
		b, _ := m.Facts.To.Row(x.B)
		if why := m.Facts.WhyNotExchanged(x); why != "" {
			p.Findings = append(p.Findings, finding.Finding{
				Code: "exchange-lost", Place: finding.Place{Part: "parts"},
				Severity: finding.Danger, Stage: "pin", Side: string(match.To), Subject: x.A.String(),
				Text: fmt.Sprintf("The outputs %s and %s are exchanged, and must not be: %s. It is left out of the plan.", x.A,
					x.B, why),
				Remedy: "Take the exchange back.",
			})
			continue
		}
		if x.Verify != "" {
			p.Findings = append(p.Findings, finding.Finding{
				Code: "exchange-to-verify", Place: finding.Place{Part: "parts"},
				Severity: finding.Check, Stage: "pin", Side: string(match.To),
				Subject: x.A.String(),
				Text:    fmt.Sprintf("In “%s” the outputs %s and %s are exchanged; here they are not yet.", x.Verify, x.A, x.B),
				Remedy:  "Take it over under Parts, where this unit's settings are changed too, or say that it is not so here.",
			})
			continue
		}
		p.Pinning.Settings = append(
			p.Pinning.Settings,
			fmt.Sprintf("Output %s drives %s, made for %s.", x.B, a.Function, b.Function),
			fmt.Sprintf("Output %s drives %s, made for %s.", x.A, b.Function, a.Function),
		)
	}
}

// expected lists what each cavity of the finished connectors must hold, powers and grounds first.
func expected(m *wanted.Model) []pin.Expected {
	var out []pin.Expected
	for _, at := range m.Wanted.Cavities() {
		if !m.Retained[at.Connector] && !isTarget(m, at.Connector) {
			continue
		}
		e := pin.Expected{At: at, Empty: true}
		if t, full := m.Wanted.In(at); full {
			w := m.Wires[t]
			e = pin.Expected{At: at, Colour: w.Row.Colour.String(), Circuit: w.Row.Circuit, Function: w.Row.Function}
			role := w.Row.Signal.Role
			if w.Goal.Ref != (harness.Ref{}) {
				e.Function, role = w.Goal.Function, w.Goal.Signal.Role
			}
			e.Power = power(role)
		}
		out = append(out, e)
	}
	powersFirst(out)
	return out
}

// power says whether a role is a supply, a reference or a ground: these are looked at first.
func power(r signal.Role) bool {
	return slices.Contains([]signal.Role{signal.Battery, signal.Ignition, signal.Ground, signal.SensorGround,
		signal.Reference5V}, r)
}

func powersFirst(all []pin.Expected) {
	slices.SortStableFunc(all, func(a, b pin.Expected) int {
		switch {
		case a.Power == b.Power:
			return 0
		case a.Power:
			return -1
		}
		return 1
	})
}

// expectJoints adds the circuits that joints make to what the second check asks for: at the cavity of ours, else of the
// vehicle's, that is left in the end, with the other cavities that a meter must find from there.
func (p *Sheet) expectJoints(in *Reads) {
	m := in.Model
	var net *circuit.Net
	for i := range in.Match.Lines {
		l := &in.Match.Lines[i]
		if !l.Decided || l.Verdict != match.Meets && l.Verdict != match.Joins {
			continue
		}
		ours := m.Ends.Wires[m.Facts.Pair(l).Ours]
		if ours == nil {
			continue
		}
		if net == nil {
			net = circuit.Of(in.Wanted, m.Facts.Laid.Loom.Connectors)
		}
		all := cavitiesOf(in.Wanted, net.Wire(in.Wanted, in.Wanted.Standing(ours.ID)))
		if len(all) < 2 {
			continue
		}
		to, _ := m.Facts.To.Row(l.To)
		e := pin.Expected{At: all[0], Colour: ours.Colour.String(), Circuit: ours.Circuit, Function: to.Function,
			Power: power(to.Signal.Role), Joined: all[1:]}
		if k := slices.IndexFunc(p.Pinning.Expected, func(x pin.Expected) bool { return x.At == e.At }); k >= 0 {
			p.Pinning.Expected[k].Joined = e.Joined
		} else {
			p.Pinning.Expected = append(p.Pinning.Expected, e)
		}
	}
	powersFirst(p.Pinning.Expected)
}

// cavitiesOf gives the cavities that wires end in as wanted, in the order of the wires.
func cavitiesOf(wanted harness.Harness, wires []harness.WireID) []harness.Ref {
	var out []harness.Ref
	for _, w := range wires {
		tips, _ := wanted.Tips(w)
		for _, tip := range tips {
			place, _ := wanted.Place(tip.Terminal)
			if tip.State == harness.Crimped && place.State == harness.Seated && !slices.Contains(out, place.At) {
				out = append(out, place.At)
			}
		}
	}
	return out
}

func isTarget(m *wanted.Model, connector string) bool {
	return slices.ContainsFunc(m.Facts.To.Connectors, func(c harness.Connector) bool {
		return m.Facts.Housing(match.To, c.ID) == connector
	})
}

// pinFindings says what is wrong or missing about the moves.
func (p *Sheet) pinFindings(m *wanted.Model, r pin.Result, d pin.Decisions) []finding.Finding {
	out := pin.Second(p.Pinning.Expected, d.Checks, m.Past.Ticks)
	add := func(code string, s finding.Severity, subject, text, remedy string) *finding.Finding {
		out = append(out, finding.Finding{
			Code: code, Severity: s, Stage: "pin", Subject: subject,
			Text:   text,
			Remedy: remedy,
		})
		return &out[len(out)-1]
	}
	for _, s := range r.Stuck {
		add(
			"no-free-cavity",
			finding.Wrong,
			s.At[0].String(),
			fmt.Sprintf(
				"%s move in a circle, and with nothing in hand it cannot begin: no free cavity takes one of these terminals.",
				names(s.At),
			),
			"Allow one terminal in hand, labelled, in how we work; or free a cavity of its size.",
		)
	}
	for _, x := range r.Refused {
		if !x.Gone {
			add(
				"order-lost",
				finding.Note,
				"",
				"Two steps are not in the order that was wished for: "+x.Why+".",
				"Wish for another order, or leave it as it is.",
			)
		}
	}
	crimped := map[terminal.Verdict][]string{}
	for i := range p.Steps {
		if v := p.Steps[i].Fit.Verdict; p.Steps[i].Kind != pin.New &&
			(v == terminal.Reterminated || v == terminal.Pigtail) {
			crimped[v] = append(crimped[v], p.Steps[i].From.String())
		}
	}
	if at := crimped[terminal.Reterminated]; len(at) > 0 {
		add(
			"re-crimp",
			finding.Check,
			at[0],
			fmt.Sprintf(
				"Terminals that do not fit where they go and must be cut off and crimped anew, %d: %s.",
				len(at),
				strings.Join(at, ", "),
			),
			"Order the terminals and seals before the first is pulled; leave enough wire.",
		).Place = finding.Place{Part: "parts"}
	}
	if at := crimped[terminal.Pigtail]; len(at) > 0 {
		add(
			"pigtail",
			finding.Check,
			at[0],
			fmt.Sprintf(
				"Wires that need a lead with the right terminal joined on, %d: %s.",
				len(at),
				strings.Join(at, ", "),
			),
			"Order the leads before the first is cut.",
		).Place = finding.Place{Part: "parts"}
	}
	var missing []string
	for _, o := range p.Pinning.Orders {
		if o.Stops && !o.Have {
			missing = append(missing, o.Name)
		}
	}
	if len(missing) > 0 {
		add(
			"parts-missing",
			finding.Check,
			"",
			fmt.Sprintf("Not yet said to be there, and the work stops without it: %s.", strings.Join(missing, "; ")),
			"See the parts in Pin: order what is missing, tick what is there.",
		)
	}
	return out
}

func names(at []harness.Ref) string {
	out := make([]string, len(at))
	for i, r := range at {
		out[i] = r.String()
	}
	return strings.Join(out, ", ")
}
