package live

import (
	"fmt"
	"slices"

	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/signal"
	"draxel/core/stored"
	"draxel/core/vehicle"
)

// Propose gives a way to feed the job by a block of one's own: the block as the trade would group it, and the
// decisions that lead every circuit to it. With one fuse the whole engine stands behind a single one.
func (p *Fed) Propose(d stored.Decisions, stand *vehicle.Facts, one bool) stored.FeedOption {
	f := p.Facts
	var wants []feed.Want
	for _, c := range p.Circuits {
		wants = append(wants, feed.Want{Reading: c.reading, Text: c.Text})
	}
	block, at := feed.Propose(f.BlockID(), wants, p.gives(stand), one)
	o := stored.FeedOption{Name: "a fuse block of its own", Block: &block, Decisions: []match.Decision{},
		Open: []stored.FeedRow{}}
	if one {
		o.Name += ", one fuse for the engine"
	}
	for i, c := range p.Circuits {
		if at[i] == "" { // it stays as it is fed
			for _, x := range d.Match {
				if x.Side == c.Side && x.At == c.At || x.Side == match.From && x.At == c.By {
					o.Decisions = append(o.Decisions, x)
				}
			}
			continue
		}
		o.Decisions = append(o.Decisions, c.led(block.At(at[i])))
		if c.By != (harness.Ref{}) {
			o.Open = append(o.Open, stored.FeedRow{Side: match.From, At: c.By})
		}
	}
	for _, x := range block.Relays { // what drives a coil of the block drives no other any more
		for i := range p.Match.Lines {
			if l := &p.Match.Lines[i]; l.Decided && f.At(l.To).String() == x.Minus && (l.Feeds() || l.Verdict == match.Meets) {
				o.Open = append(o.Open, stored.FeedRow{Side: match.From, At: l.From})
			}
		}
	}
	return o
}

// led gives the decision that a circuit begins at a cavity.
func (c *Circuit) led(at harness.Ref) match.Decision {
	d := match.Decision{Side: c.Side, At: c.At, Choice: match.Wired, Origin: &match.Origin{Kind: match.AtCavity, At: at}}
	if c.Side == match.From {
		d.Choice, d.Source = match.Sourced, "battery"
		if c.Role == string(signal.Ignition) {
			d.Source = "ignition"
		}
	}
	return d
}

// gives says what the vehicle gives a block of one's own, by the lists and the rows.
func (p *Fed) gives(stand *vehicle.Facts) feed.Known {
	f := p.Facts
	k := feed.Known{Plus: "battery +", Ground: "battery −"}
	if stand != nil {
		for _, s := range stand.Inside.Sources {
			if s.Name == network.BatteryName {
				k.Plus = s.Plus
			}
		}
		for _, c := range stand.Inside.Switches { // a master switch cuts the block off too
			if c.From == k.Plus && c.Switch != "" {
				k.Plus = c.To
			}
		}
		for _, c := range stand.Inside.Switches {
			if c.Key&network.Run != 0 && c.Key&network.Crank != 0 && c.Key&network.Off == 0 && k.Ignition == "" {
				k.Ignition = c.To
			}
		}
	}
	for _, c := range p.Circuits {
		if c.Role == string(signal.Ignition) && c.reading.Device == "ignition" && c.By != (harness.Ref{}) &&
			!f.Repinned(c.By.Connector) && !f.WeakFeed(c.By) {
			k.Ignition = c.By.String() // as it was decided
		}
	}
	if k.Ignition == "" {
		k.Ignition = "ignition feed"
	}
	for _, d := range f.Laid.Loom.Devices {
		if d.Kind == harness.Grounds && (k.Ground == "battery −" || d.Owner == harness.Body) {
			k.Ground = d.ID
		}
	}
	control := func(r *harness.Row, at harness.Ref) {
		if r.Empty || r.Signal.Role != signal.RelayCoil && r.Signal.Role != signal.LowSide {
			return
		}
		switch r.Signal.Device {
		case "mainrelaycoil":
			k.MainControl = at.String()
		case "fuelpumprelay":
			k.PumpControl = at.String()
		}
	}
	if f.Vehicle != match.To {
		for i := range f.To.Rows {
			control(&f.To.Rows[i], f.At(f.To.Rows[i].Ref))
		}
	}
	if f.Vehicle != match.From {
		for i := range f.From.Rows {
			control(&f.From.Rows[i], f.From.Rows[i].Ref)
		}
	}
	return k
}

// Lead gives the decisions that put a circuit onto a cavity, and the rows that nothing is decided about any more. It
// fails where no such circuit wants a feed.
func (p *Fed) Lead(side match.Side, at, from harness.Ref) (match.Decision, []stored.FeedRow, error) {
	i := slices.IndexFunc(p.Circuits, func(c Circuit) bool { return c.Side == side && c.At == at })
	if i < 0 {
		return match.Decision{}, nil, fmt.Errorf("nothing at %s wants a feed", at)
	}
	c := &p.Circuits[i]
	var open []stored.FeedRow
	if c.By != (harness.Ref{}) {
		open = append(open, stored.FeedRow{Side: match.From, At: c.By})
	}
	return c.led(from), open, nil
}
