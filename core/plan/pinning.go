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
	Now         harness.Harness // the connectors that are worked in
	Done        []work.Tick     // what has been carried out, in its order
	Limit       int             // terminals that may be in hand
	Extractions int
	Fewest      int
	Openings    int
	Bound       int
	Stuck       []pin.Stuck
	Orders      []pin.Order
	Spares      []pin.Spare
	Adaptations []pin.Adaptation
	Expected    []pin.Expected
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

// Output is an output of the unit that could be exchanged with others of its kind.
type Output struct {
	At       harness.Ref `json:"at"`
	Function string      `json:"function"`
	Kind     signal.Role `json:"kind"`
	With     harness.Ref `json:"with,omitzero"` // the output that it is exchanged with
}

// moves plans the moves from what is there now, and what goes with each.
func (p *Plan) moves(m *model, all Decisions) {
	d := all.Pin
	p.Steps = []Step{}
	p.Pin = Pinning{Now: m.now, Done: m.ticks, Limit: d.Limit, Adaptations: m.adaptations, Expected: m.expected()}
	r, err := pin.Plan(pin.Input{Now: m.now, Wanted: m.wanted, Limit: d.Limit, Fits: m.adviser.Fits, Fixed: m.adviser.Fixed, Made: m.crimped(), Renew: m.renew, State: pin.Left(m.ticks), Wishes: d.Wishes})
	if err != nil {
		p.Proof.Fault = err.Error()
		return
	}
	p.Pin.reckon(r.Extractions, all.Bench.Rates.Extract)
	p.Pin.Extractions, p.Pin.Fewest, p.Pin.Openings, p.Pin.Bound, p.Pin.Stuck = r.Extractions, r.Fewest, r.Openings, r.Bound, r.Stuck
	uses := []pin.Use{}
	for _, s := range r.Steps {
		w := m.wires[s.Terminal]
		goal, _ := m.wanted.Place(s.Terminal)
		if s.Kind == pin.Seat && s.From == (harness.Ref{}) && s.Origin == (harness.Ref{}) {
			s.Origin = w.row.Ref
		}
		step := Step{Step: s, Wire: w.row, Goal: w.goal, Advice: m.adviser.Advise(s, goal.At, w.row.Size)}
		if m.renew[s.Terminal] && (s.Kind == pin.Move || s.Kind == pin.Pull) {
			step.Fit = m.adviser.Anew(goal.At, w.row.Size)
		}
		step.tell(m, p, all.Bench.Rates.Extract)
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
	for _, j := range p.Join.Joints {
		if !j.Made && len(j.For) > 0 {
			uses = append(uses, pin.Use{Part: terminal.Part{Kind: terminal.Joint, Name: "joint, sealed"}, At: j.For[0]})
		}
	}
	p.Pin.Orders = pin.Orders(uses, d.Have)
	p.around(m, d)
	p.Findings = append(p.Findings, p.pinFindings(m, r, d)...)
}

// tell adds to a step what the rest of the plan knows of it.
func (s *Step) tell(m *model, p *Plan, minutes float64) {
	s.Advice.Warn = append(s.Advice.Warn, m.together(s.Step)...)
	for _, a := range m.adaptations {
		if slices.Contains(s.Opens, a.Connector) {
			s.Advice.Warn = append(s.Advice.Warn, a.Warn)
		}
	}
	if s.Kind == pin.Close && !s.Again {
		s.After = p.Pin.counted(s.Connector) + s.After
	}
	if s.From != (harness.Ref{}) && s.Kind != pin.Unseal {
		s.Minutes = minutes
	}
	if w := m.ends.wires[s.Wire.Ref]; w != nil && s.Terminal != "" {
		s.Wires = []string{w.ID}
	}
}

// crimped says of each terminal that is no longer where it was found on which end of which wire it is, and of those that
// are new on which they will be.
func (m *model) crimped() map[harness.TerminalID]pin.Made {
	out := map[harness.TerminalID]pin.Made{}
	for _, w := range m.past.Now.Wires() {
		tips, _ := m.past.Now.Tips(w)
		for end, t := range tips {
			if _, found := m.found.Place(t.Terminal); t.State == harness.Crimped && !found {
				out[t.Terminal] = pin.Made{Length: harness.Length{Wire: w, End: end}, Name: w}
			}
		}
	}
	for t, on := range m.made {
		out[t] = on
	}
	return out
}

// about is the cavity that a step is best known by.
func (s *Step) about() harness.Ref {
	if s.To != (harness.Ref{}) {
		return s.To
	}
	return s.From
}

// together warns of wires that run as a pair or under one shield.
func (m *model) together(s pin.Step) []string {
	if s.From == (harness.Ref{}) {
		return nil
	}
	w := m.ends.wires[m.wires[s.Terminal].row.Ref]
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
	out := pin.Second(p.Pin.Expected, d.Checks, m.past.Ticks)
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
