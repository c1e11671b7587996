package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/signal"
	"draxel/core/terminal"
	"draxel/core/work"
)

// Pinning is what goes with the steps of the re-pin sheet.
type Pinning struct {
	Now         harness.Harness
	Done        []work.Tick // what has been carried out, in its order
	Limit       int         // terminals that may be in hand
	Extractions int
	Fewest      int
	Openings    int
	Bound       int
	Stuck       []pin.Stuck
	Orders      []pin.Order
	Spares      []pin.Spare
	Adaptations []pin.Adaptation
	Expected    []pin.Expected
	Joints      []Joint
	Settings    []string // what must be changed in the unit's settings
	Outputs     []Output
	Minutes     float64 // reckoned for what is left to be taken out
	Rate        float64 // minutes a terminal that this rests on
	Logged      int     // terminals whose time was logged; the rate is theirs where there are enough
}

// enoughLogged is how many terminals' time must be logged before their average says more than the rate of the job.
const enoughLogged = 5

// longest is how many times the reckoned time a logged one may be: what took longer was a break, and is not counted.
const longest = 5

// Measured says whether the rate is what was logged.
func (p *Pinning) Measured() bool { return p.Logged >= enoughLogged }

// reckon says how long the terminals that are left will take: at the job's rate, or at what was logged.
func (p *Pinning) reckon(left int, rate float64) {
	spent := 0.0
	for _, t := range p.Done {
		if t.Spent > 0 && t.Minutes > 0 && t.Spent <= longest*t.Minutes {
			spent += t.Spent
			p.Logged++
		}
	}
	if p.Rate = rate; p.Measured() {
		p.Rate = spent / float64(p.Logged)
	}
	p.Minutes = p.Rate * float64(left)
}

// counted says what a finished connector must show when its wires and seals are counted.
func (p *Pinning) counted(connector string) string {
	wires, empty := 0, 0
	for _, e := range p.Expected {
		if e.At.Connector != connector {
			continue
		}
		if e.Empty {
			empty++
		} else {
			wires++
		}
	}
	if wires+empty == 0 {
		return ""
	}
	return fmt.Sprintf("Count: %d wires, %d empty cavities; where it is sealed, a plug in each of those. ", wires, empty)
}

// Joint is a joint that the moves make: of a wire that serves two cavities, or of two that serve one.
type Joint struct {
	At   harness.Ref `json:"at"`   // the cavity whose wire carries both
	With string      `json:"with"` // the wire or lead that is joined to it
	Why  string      `json:"why"`
}

// Output is an output of the unit that could be exchanged with others of its kind.
type Output struct {
	At       harness.Ref `json:"at"`
	Function string      `json:"function"`
	Kind     signal.Role `json:"kind"`
	With     harness.Ref `json:"with,omitzero"` // the output that it is exchanged with
}

// steps plans the moves from what is there now, carries them out on the model and says whether they reach Wanted.
func (p *Plan) steps(m *model, all Decisions) {
	d := all.Pin
	p.Steps = []Step{}
	p.Pin = Pinning{Now: m.now, Done: m.ticks, Limit: d.Limit, Adaptations: m.adaptations, Expected: m.expected()}
	r, err := pin.Plan(pin.Input{Now: m.now, Wanted: m.wanted, Limit: d.Limit, Fits: m.adviser.Fits, Fixed: m.adviser.Fixed, Leads: m.leads, State: pin.Left(m.ticks), Wishes: d.Wishes})
	if err != nil {
		p.Proof.Fault = err.Error()
		return
	}
	p.Pin.reckon(r.Extractions, all.Bench.Rates.Extract)
	p.Pin.Extractions, p.Pin.Fewest, p.Pin.Openings, p.Pin.Bound, p.Pin.Stuck = r.Extractions, r.Fewest, r.Openings, r.Bound, r.Stuck
	carried := make([]work.Step, len(r.Steps))
	uses := []pin.Use{}
	for i, s := range r.Steps {
		carried[i] = s.Step
		w := m.wires[s.Terminal]
		goal, _ := m.wanted.Place(s.Terminal)
		step := Step{Step: s, Wire: w.row, Goal: w.goal, Advice: m.adviser.Advise(s, goal.At, w.row.Size)}
		step.Warn = append(step.Warn, m.together(s)...)
		for _, a := range m.adaptations {
			if slices.Contains(s.Opens, a.Connector) {
				step.Warn = append(step.Warn, a.Warn)
			}
		}
		if s.Kind == pin.Close && !s.Again {
			step.After = p.Pin.counted(s.Connector) + step.After
		}
		for _, part := range step.Fit.Parts {
			uses = append(uses, pin.Use{Part: part, At: step.about()})
		}
		p.Steps = append(p.Steps, step)
	}
	for _, rep := range d.Reports {
		if _, open := rep.Finding(); open && rep.What == pin.Broken {
			uses = append(uses, pin.Use{Part: terminal.Part{Kind: terminal.Lock, Name: "secondary lock of " + rep.At.Connector}})
		}
	}
	p.Pin.Orders = pin.Orders(uses, d.Have)
	p.prove(m, carried, d.Limit)
	p.around(m, d)
	p.Findings = append(p.Findings, p.pinFindings(m, r, d)...)
}

// about is the cavity that a step is best known by.
func (s *Step) about() harness.Ref {
	if s.To != (harness.Ref{}) {
		return s.To
	}
	return s.From
}

// prove carries the steps out on the model of what is there now.
func (p *Plan) prove(m *model, all []work.Step, limit int) {
	p.Proof.Steps = len(all)
	end, inHand, err := work.Run(m.now, all)
	if err != nil {
		p.Proof.Fault = err.Error()
		return
	}
	p.Proof.InHand = inHand
	if inHand > max(limit, m.now.InHand()) {
		p.Proof.Fault = fmt.Sprintf("%d terminals would be in hand, and %d may be", inHand, limit)
		return
	}
	if len(p.Pin.Stuck) > 0 {
		p.Proof.Partial = true
		return
	}
	p.Proof.Differences = harness.Differences(end, m.wanted)
	p.Proof.Reached = len(p.Proof.Differences) == 0
}

// together warns of wires that run as a pair or under one shield.
func (m *model) together(s pin.Step) []string {
	if s.From == (harness.Ref{}) {
		return nil
	}
	w := m.endsAt[m.wires[s.Terminal].row.Ref]
	if w == nil {
		return nil
	}
	var out []string
	if w.Pair != "" {
		out = append(out, fmt.Sprintf("It is twisted as pair %s: open no more of the twist than the move needs.", w.Pair))
	} else if w.Shield != "" {
		out = append(out, fmt.Sprintf("It runs under shield %s: leave the shield whole, grounded at one end only.", w.Shield))
	}
	return out
}

// around fills in what is asked about the connectors when the steps are known.
func (p *Plan) around(m *model, d pin.Decisions) {
	reasons := map[harness.Ref]string{}
	for _, w := range p.Match.Wants {
		if w.Verdict == match.LeftEmpty {
			reasons[m.target(w.To)] = w.Reason
		}
	}
	p.Pin.Spares = m.adviser.Spares(m.wanted, reasons)
	for _, t := range m.wanted.Terminals() {
		switch place, _ := m.wanted.Place(t); {
		case place.State == harness.Tied:
			p.Pin.Joints = append(p.Pin.Joints, Joint{At: place.At, With: "the wire found in " + m.wires[t].row.Ref.String(), Why: "Two wires serve one cavity."})
		case m.leads[t] != harness.Ref{} && place.State == harness.Seated:
			p.Pin.Joints = append(p.Pin.Joints, Joint{At: m.leads[t], With: "a lead to " + place.At.String(), Why: "One wire serves two cavities."})
		}
	}
	p.exchanges(m, d)
}

// exchanges lists the outputs that can be exchanged, and what is to be changed in the unit's settings.
func (p *Plan) exchanges(m *model, d pin.Decisions) {
	for _, row := range m.facts.To.Rows {
		if kind, ok := match.OutputKind(&row.Signal); ok && !row.Empty {
			p.Pin.Outputs = append(p.Pin.Outputs, Output{At: row.Ref, Function: row.Function, Kind: kind, With: m.swapped[row.Ref]})
		}
	}
	for _, x := range d.Exchanges {
		a, _ := m.facts.To.Row(x.A)
		b, _ := m.facts.To.Row(x.B)
		if why := m.facts.whyNotExchanged(x); why != "" {
			p.Findings = append(p.Findings, finding.Finding{Code: "exchange-lost", Severity: finding.Danger, Stage: "pin", Side: string(match.To), Subject: x.A.String(),
				Text: fmt.Sprintf("The outputs %s and %s are exchanged, and must not be: %s. It is left out of the plan.", x.A, x.B, why), Remedy: "Take the exchange back."})
			continue
		}
		p.Pin.Settings = append(p.Pin.Settings, fmt.Sprintf("Output %s drives %s, made for %s.", x.B, a.Function, b.Function), fmt.Sprintf("Output %s drives %s, made for %s.", x.A, b.Function, a.Function))
	}
}

// whyNotExchanged says why two outputs cannot be exchanged, empty where they can.
func (f *Facts) whyNotExchanged(x pin.Exchange) string {
	a, okA := f.To.Row(x.A)
	b, okB := f.To.Row(x.B)
	if !okA || !okB {
		return "one of them is not in the table any more"
	}
	return match.CannotExchange(&a.Signal, &b.Signal)
}

// expected lists what each cavity of the finished connectors must hold, powers and grounds first.
func (m *model) expected() []pin.Expected {
	var out []pin.Expected
	for _, at := range m.wanted.Cavities() {
		if !m.retained[at.Connector] && !m.isTarget(at.Connector) {
			continue
		}
		e := pin.Expected{At: at, Empty: true}
		if t, full := m.wanted.In(at); full {
			w := m.wires[t]
			e = pin.Expected{At: at, Colour: w.row.Colour.String(), Circuit: w.row.Circuit, Function: w.row.Function}
			role := w.row.Signal.Role
			if w.goal.Ref != (harness.Ref{}) {
				e.Function, role = w.goal.Function, w.goal.Signal.Role
			}
			e.Power = role == signal.Battery || role == signal.Ignition || role == signal.Ground || role == signal.SensorGround || role == signal.Reference5V
		}
		out = append(out, e)
	}
	slices.SortStableFunc(out, func(a, b pin.Expected) int {
		switch {
		case a.Power == b.Power:
			return 0
		case a.Power:
			return -1
		}
		return 1
	})
	return out
}

func (m *model) isTarget(connector string) bool {
	return slices.ContainsFunc(m.facts.To.Connectors, func(c harness.Connector) bool {
		return m.facts.Housing(match.To, c.ID) == connector
	})
}

// pinFindings says what is wrong or missing about the moves.
func (p *Plan) pinFindings(m *model, r pin.Result, d pin.Decisions) []finding.Finding {
	out := pin.Second(p.Pin.Expected, d.Checks, m.ticks)
	add := func(code string, s finding.Severity, subject, text, remedy string) {
		out = append(out, finding.Finding{Code: code, Severity: s, Stage: "pin", Subject: subject, Text: text, Remedy: remedy})
	}
	for _, s := range r.Stuck {
		add("no-free-cavity", finding.Wrong, s.At[0].String(), fmt.Sprintf("%s move in a circle, and with nothing in hand it cannot begin: no free cavity takes one of these terminals.", names(s.At)),
			"Allow one terminal in hand, labelled, in how we work; or free a cavity of its size.")
	}
	for _, x := range r.Refused {
		if !x.Gone {
			add("order-lost", finding.Note, "", "Two steps are not in the order that was wished for: "+x.Why+".", "Wish for another order, or leave it as it is.")
		}
	}
	crimped := map[terminal.Verdict][]string{}
	for i := range p.Steps {
		if v := p.Steps[i].Fit.Verdict; p.Steps[i].Kind != pin.New && (v == terminal.Reterminated || v == terminal.Pigtail) {
			crimped[v] = append(crimped[v], p.Steps[i].From.String())
		}
	}
	if at := crimped[terminal.Reterminated]; len(at) > 0 {
		add("re-crimp", finding.Check, at[0], fmt.Sprintf("Terminals that do not fit where they go and must be cut off and crimped anew, %d: %s.", len(at), strings.Join(at, ", ")), "Order the terminals and seals before the first is pulled; leave enough wire.")
	}
	if at := crimped[terminal.Pigtail]; len(at) > 0 {
		add("pigtail", finding.Check, at[0], fmt.Sprintf("Wires that need a lead with the right terminal joined on, %d: %s.", len(at), strings.Join(at, ", ")), "Order the leads before the first is cut.")
	}
	var missing []string
	for _, o := range p.Pin.Orders {
		if o.Stops && !o.Have {
			missing = append(missing, o.Name)
		}
	}
	if len(missing) > 0 {
		add("parts-missing", finding.Check, "", fmt.Sprintf("Not yet said to be there, and the work stops without it: %s.", strings.Join(missing, "; ")), "See the parts in Pin: order what is missing, tick what is there.")
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

// foundWhole is the harness as found for all stages: the loom, with the cavities of new housings.
func (m *model) foundWhole(l *harness.Loom) harness.Harness {
	return l.Found().With(m.housings)
}

// notMoved says whether a terminal is none that the moves have taken from its place, or plan to: where those are is proven
// on the connectors.
func (m *model) notMoved(t harness.TerminalID) bool {
	was, known := m.found.Place(t)
	if !known {
		_, made := m.now.Place(t)
		return !made
	}
	now, _ := m.now.Place(t)
	goal, _ := m.wanted.Place(t)
	return was == now || goal.State == harness.Capped
}

// mostAdapted is the size up to which a plug whose wires only change places is shown as an adaptation.
const mostAdapted = 8

// adapt finds the plugs whose wires all stay in them and stand in another order.
func (m *model) adapt(goals map[harness.TerminalID]harness.Place) {
	for _, h := range m.housings {
		if h.Ways() > mostAdapted {
			continue
		}
		var names []string
		var wires []harness.TerminalID
		for _, n := range h.Cavities {
			if t, full := m.found.In(harness.Ref{Connector: h.ID, Cavity: n}); full {
				names, wires = append(names, n), append(wires, t)
			}
		}
		goes := make([]int, len(wires))
		for i, t := range wires {
			goes[i] = -1
			if g := goals[t]; g.State == harness.Seated && g.At.Connector == h.ID {
				goes[i] = slices.Index(names, g.At.Cavity)
			}
		}
		if a, ok := pin.Adapt(h.ID, names, goes); ok {
			m.adaptations = append(m.adaptations, a)
		}
	}
}
