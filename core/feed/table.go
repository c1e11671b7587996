package feed

import (
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/network"
)

// LiveLine is a line of the table of what is live: a wire, a cable, or a device that uses current.
type LiveLine struct {
	Name    string         `json:"name"`
	Wire    harness.WireID `json:"-"`    // of a wire
	Kind    FedThing       `json:"kind"` // AWire, ACable or ADevice
	Text    string         `json:"text"` // what a wire is for
	Live    Alive          `json:"live"`
	Volts   float64        `json:"volts"`
	Amps    float64        `json:"amps"`
	Carries float64        `json:"carries,omitempty"` // A that a wire may carry, 0 where nothing is known
	Drop    float64        `json:"drop"`              // V lost along a wire; of a device: V across it
	Fuse    string         `json:"fuse,omitempty"`    // the least fuse before a wire
	Rating  float64        `json:"rating,omitempty"`  // A of it
}

// Table lists every wire, cable and device with what it is in a state, by name: wires first.
func (r *Result) Table(s *network.State) []LiveLine {
	fed := r.fedBy(s)
	heads := r.Drawn.Heads()
	before := map[harness.WireID]*Protected{} // the least fuse before a wire
	for i := range r.Fuses {
		f := &r.Fuses[i]
		for _, w := range f.Wires {
			if b := before[w]; f.Rating > 0 && (b == nil || f.Rating < b.Rating) {
				before[w] = f
			}
		}
	}
	cables := map[string]bool{}
	for _, c := range r.Facts.Inside.Cables {
		cables[c.Name] = true
	}
	out := []LiveLine{}
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		kind := AWire
		if e.Wire == "" {
			kind = ACable
		}
		if e.Kind != network.Copper || kind == ACable && !cables[e.Name] {
			continue
		}
		in := r.live(s, fed, []int32{int32(i)})
		x := LiveLine{Name: e.Name, Wire: e.Wire, Kind: kind, Live: in.Live, Volts: in.Volts, Amps: in.Amps,
			Carries: r.in.Wires[metal(e)].Carries}
		if a, b := heads[e.A], heads[e.B]; !s.Floating[a] && !s.Floating[b] {
			x.Drop = math.Abs(s.Volts[a] - s.Volts[b])
		}
		if b := before[metal(e)]; b != nil {
			x.Fuse, x.Rating = b.Fuse, b.Rating
		}
		out = append(out, x)
	}
	slices.SortFunc(out, func(a, b LiveLine) int { return finding.Natural(a.Name, b.Name) })
	for _, d := range r.Devices() {
		x := LiveLine{Name: d, Kind: ADevice, Live: Stands, Drop: r.volts(s, d)}
		if r.Works(s, d) {
			x.Live = Works
		}
		for _, i := range r.Drawn.Of[d] {
			if a := heads[r.Drawn.Elements[i].A]; !s.Floating[a] {
				x.Volts = max(x.Volts, s.Volts[a])
			}
			x.Amps += math.Abs(s.Amps(i))
		}
		out = append(out, x)
	}
	return out
}
