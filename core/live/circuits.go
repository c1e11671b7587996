package live

import (
	"fmt"
	"slices"

	"draxel/core/fact"
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/signal"
	"draxel/core/wanted"
)

// Circuit is something that a feed has to be led to: a cavity that wants one, with what it is fed from as it is
// decided.
type Circuit struct {
	Side    match.Side     `json:"side"`
	At      harness.Ref    `json:"at"`
	Text    string         `json:"text"`
	Role    string         `json:"role"`             // battery, ignition, start
	By      harness.Ref    `json:"by,omitzero"`      // the row of the vehicle that feeds it
	From    string         `json:"from,omitempty"`   // what feeds it, in words; empty where nobody has decided
	Slot    string         `json:"slot,omitempty"`   // the slot of the block that it stands on
	Amps    float64        `json:"amps,omitempty"`   // A that it takes, the most that lasts
	Verify  bool           `json:"verify,omitempty"` // brought from an earlier job, and not verified here
	reading signal.Reading // of its row
}

// wantsFeed says whether a row is one that a feed has to be led to.
func wantsFeed(r *harness.Row) bool {
	switch r.Signal.Role {
	case signal.Battery, signal.Ignition, signal.Start:
		return !r.Empty
	}
	return false
}

// Fed is how a job is fed as it is decided.
type Fed struct {
	FedReads
	Circuits []Circuit // what a feed has to be led to
}

// FedReads is what it follows from.
type FedReads struct {
	Facts *fact.Facts
	Match *match.Result
	Block wanted.Block
}

// Circuits gives how a job is fed: what a feed has to be led to, with what it is fed from: cavities of the To side, and
// wires of the From side that need a source.
func Circuits(p FedReads) *Fed {
	f := p.Facts
	var out []Circuit
	row := func(side match.Side, at harness.Ref) (harness.Row, bool) {
		if side == match.From {
			return f.From.Row(at)
		}
		return f.To.Row(at)
	}
	add := func(side match.Side, at, by harness.Ref, o *match.Origin, verify string) {
		r, known := row(side, at)
		if !known || !wantsFeed(&r) || side == f.Vehicle && o == nil { // the vehicle's own feeds bring, they do not want
			return
		}
		c := Circuit{Side: side, At: at, Text: r.Function, Role: string(r.Signal.Role), By: by, Verify: verify != "",
			reading: r.Signal}
		switch {
		case o != nil:
			c.From = o.String()
			if p.Block.ID != "" && o.Kind == match.AtCavity && o.At.Connector == p.Block.ID {
				c.Slot = o.At.Cavity
			}
		case by != harness.Ref{}:
			c.From = by.String()
		}
		out = append(out, c)
	}
	for i := range p.Match.Lines {
		switch l := &p.Match.Lines[i]; {
		case l.Verdict == match.NeedsSource:
			add(match.From, l.From, harness.Ref{}, l.Origin, l.Verify)
		case l.Decided && (l.Verdict == match.Meets || l.Feeds()):
			add(match.To, l.To, l.From, nil, l.Verify)
		}
	}
	for i := range p.Match.Wants {
		if w := &p.Match.Wants[i]; w.Verdict != match.LeftEmpty {
			add(match.To, w.To, w.Of, w.Origin, w.Verify)
		}
	}
	slices.SortStableFunc(out, func(a, b Circuit) int {
		if a.Side != b.Side {
			return finding.Natural(string(a.Side), string(b.Side))
		}
		return harness.CompareRefs(a.At, b.At)
	})
	twice := func(a, b Circuit) bool { return a.Side == b.Side && a.At == b.At }
	return &Fed{FedReads: p, Circuits: slices.CompactFunc(out, twice)}
}

// Measured gives the circuits with what each takes, by the network: at its cavity, and in the wires that end there.
func (p *Fed) Measured(r *feed.Result) []Circuit {
	if r == nil {
		return p.Circuits
	}
	f, out := p.Facts, slices.Clone(p.Circuits)
	wires := map[harness.Ref]harness.WireID{}
	for i := range f.Laid.Loom.Wires {
		w := &f.Laid.Loom.Wires[i]
		for _, e := range w.Ends {
			wires[e.At] = w.ID
		}
	}
	for i := range out {
		c := &out[i]
		at := c.At
		if c.Side == match.To {
			at = f.At(c.At)
		}
		c.Amps = r.Carries(network.ContactOf(at.String()), wires[at], wanted.NewWireOf(at),
			harness.NewWire("for "+at.String()))
	}
	return out
}

// Drops finds the cavities that a resistance stands before: a danger to whoever takes a feed there.
func Drops(f *fact.Facts, r *match.Result, block wanted.Block) []finding.Finding {
	var out []finding.Finding
	feeds := map[harness.Ref]string{}
	for i := range r.Lines {
		if l := &r.Lines[i]; l.Decided && (l.Feeds() || l.Verdict == match.Meets) {
			if to, known := f.To.Row(l.To); known && wantsFeed(&to) {
				feeds[l.From] = l.To.String()
			}
		}
	}
	for i := range r.Wants {
		if w := &r.Wants[i]; w.Origin != nil && w.Origin.Kind == match.AtCavity {
			feeds[w.Origin.At] = w.To.String()
		}
	}
	for _, at := range block.Uses(f) {
		feeds[at] = "the fuse block"
	}
	for _, d := range f.Drops {
		if !d.Fraught {
			continue
		}
		x := finding.Finding{Code: "fed-through-resistance", Place: finding.Place{Part: "block"},
			Severity: finding.Note, Stage: "feed", Subject: d.At.String(),
			Text: fmt.Sprintf("%s has %.1f V in %s with nothing on it and %.1f V with a lamp of %.0f W: %.2g Ω stand before "+
				"it, a "+
				"resistance wire or a bad contact.", d.At, d.Bare, d.Key, d.Loaded, d.Watts, d.Ohms),
			Remedy: "Take no feed from it: take it from behind the switch, and cap this wire off."}
		if to := feeds[d.At]; to != "" {
			x.Severity = finding.Wrong
			x.Text += fmt.Sprintf(" It is to feed %s.", to)
		}
		out = append(out, x)
	}
	return out
}
