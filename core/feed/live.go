package feed

import (
	"math"
	"slices"

	"draxel/core/harness"
	"draxel/core/network"
)

// WireLive is what is said of a wire electrically: in each position of the key, and what protects it.
type WireLive struct {
	Wire      harness.WireID `json:"wire"`
	In        []LiveIn       `json:"in"`                // by position of the key
	Carries   float64        `json:"carries,omitempty"` // A that it may carry; 0 where nothing is known
	Fuse      string         `json:"fuse,omitempty"`    // the fuse before it
	Rating    float64        `json:"rating,omitempty"`  // A of it
	Unguarded bool           `json:"unguarded,omitempty"`
}

// LiveIn is what a wire is in a position of the key.
type LiveIn struct {
	Position string  `json:"position"`
	Live     Alive   `json:"live"`
	Volts    float64 `json:"volts"` // V, the greater of its ends, against the battery's negative
	Amps     float64 `json:"amps"`
}

// pieces gives the elements of a wire: itself, its stubs and the pieces let into it.
func (r *Result) pieces(wire harness.WireID) []int32 {
	var out []int32
	for name, i := range r.Drawn.Wires {
		if name == wire || name.Whole() == wire {
			out = append(out, i)
		}
	}
	slices.Sort(out)
	return out
}

// live says what the piece of a wire that carries most is in a state.
func (r *Result) live(s *network.State, fed map[int32]bool, pieces []int32) LiveIn {
	heads := r.Drawn.Heads()
	out := LiveIn{Live: Floating}
	rank := map[Alive]int{Floating: 0, Dead: 1, FedBack: 2, Fed: 3}
	for _, i := range pieces {
		e := &r.Drawn.Elements[i]
		out.Amps = max(out.Amps, math.Abs(s.Amps(i)))
		for _, n := range []int32{heads[e.A], heads[e.B]} {
			is := alive(s, fed, n)
			if rank[is] > rank[out.Live] {
				out.Live = is
			}
			if !s.Floating[n] {
				out.Volts = max(out.Volts, s.Volts[n])
			}
		}
	}
	return out
}

// Wire says what a wire is in each position of the key, and what stands before it; false where the harness that is
// wanted has no such wire.
func (r *Result) Wire(wire harness.WireID) (WireLive, bool) {
	pieces := r.pieces(wire)
	if len(pieces) == 0 {
		return WireLive{}, false
	}
	out := WireLive{Wire: wire, Carries: r.in.Wires[wire].Carries}
	for k, p := range Positions() {
		in := r.live(r.States[k], r.reached[k], pieces)
		in.Position = p.Name
		out.In = append(out.In, in)
	}
	for i := range r.Fuses {
		for _, piece := range pieces {
			if f := &r.Fuses[i]; slices.Contains(f.Wires, metal(&r.Drawn.Elements[piece])) && (out.Fuse == "" ||
				f.Rating < out.Rating) {
				out.Fuse, out.Rating = f.Fuse, f.Rating
			}
		}
	}
	for _, b := range r.Unprotected {
		out.Unguarded = out.Unguarded || b.Wire.Whole() == wire && !b.Starter
	}
	return out, true
}

// Live lists the wires that are live in a position of the key, by their names as found.
func (r *Result) Live(position string) map[harness.WireID]bool {
	s := r.state(position)
	fed := r.fedBy(s)
	out := map[harness.WireID]bool{}
	for name, i := range r.Drawn.Wires {
		if r.live(s, fed, []int32{i}).Live == Fed {
			out[name.Whole()] = true
		}
	}
	return out
}

// LiveOf says what wires are together in each position of the key.
func (r *Result) LiveOf(wires []harness.WireID) []LiveIn {
	var pieces []int32
	for _, w := range wires {
		if i, known := r.Drawn.Wires[w]; known {
			pieces = append(pieces, i)
		}
	}
	var out []LiveIn
	for k, p := range Positions() {
		in := r.live(r.States[k], r.reached[k], pieces)
		in.Position = p.Name
		out = append(out, in)
	}
	return out
}

// EverWorks gives the devices that do their work in some position of the key, or with everything on; in crank too,
// where a switch of the pedal may have to be closed.
func (r *Result) EverWorks() map[string]bool {
	out := map[string]bool{}
	for _, s := range append(slices.Clone(r.States), r.full, r.cranked) {
		for _, d := range r.Devices() {
			out[d] = out[d] || r.Works(s, d)
		}
	}
	return out
}

// In gives the A through an element in a position of the key, 0 where there is none of that name.
func (r *Result) In(position, element string) float64 {
	i, known := r.Drawn.Element(element)
	if !known {
		return 0
	}
	return math.Abs(r.state(position).Amps(i))
}

// Has gives the most V that something in a device has across it in a position of the key.
func (r *Result) Has(position, device string) float64 { return r.volts(r.state(position), device) }

// VoltsAt gives the volts of a cavity in a position of the key, against the battery's negative; false where nothing
// says them.
func (r *Result) VoltsAt(position string, at harness.Ref) (float64, bool) {
	node, known := r.Drawn.Points[at]
	if !known {
		return 0, false
	}
	head := r.Drawn.Heads()[node]
	s := r.state(position)
	return s.Volts[head], !s.Floating[head]
}

// Lights gives the cavities at which something is lit in run with switches of their own on, and is not with them off,
// every other one being off; in whatever else a switch does. What is known to lie behind a cavity has its volts across
// itself: a lamp without a ground is dark. Where nothing is known of it the volts of the cavity count.
func (r *Result) Lights(switches []string) (map[harness.Ref]bool, error) {
	on, err := r.With("run", append(r.Closed(), switches...))
	if err != nil {
		return nil, err
	}
	others := slices.DeleteFunc(r.Closed(), func(s string) bool { return slices.Contains(switches, s) })
	off, err := r.With("run", others)
	if err != nil {
		return nil, err
	}
	out := map[harness.Ref]bool{}
	heads := r.Drawn.Heads()
	behind := map[int32][]int32{} // loads by node
	for _, i := range r.Drawn.Loads {
		e := &r.Drawn.Elements[i]
		behind[heads[e.A]] = append(behind[heads[e.A]], i)
		behind[heads[e.B]] = append(behind[heads[e.B]], i)
	}
	across := func(s *network.State, i int32) float64 {
		if !s.Conducts(i) {
			return 0
		}
		return math.Abs(s.Across(i))
	}
	for at, n := range r.Drawn.Points {
		h := heads[n]
		if loads := behind[h]; h != 0 && len(loads) > 0 {
			if slices.ContainsFunc(loads, func(i int32) bool { return across(on, i) >= 6 && across(off, i) < 1 }) {
				out[at] = true
			}
			continue
		}
		if !on.Floating[h] && on.Volts[h] >= 6 && (off.Floating[h] || off.Volts[h] < 1) {
			out[at] = true
		}
	}
	return out, nil
}
