package reach

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/work"
)

// mostWays is how many ways a plug of a disconnect can have.
const mostWays = 200

// Check says why a parting cannot be.
func (p *Parting) Check() error {
	if p.Between[0] == "" || p.Between[0] >= p.Between[1] || len(p.Plugs) == 0 || len(p.Plugs) > mostWays {
		return fmt.Errorf("a disconnect parts two service groups, with a plug at least")
	}
	for _, x := range p.Plugs {
		if x.ID == "" || x.Ways < 1 || x.Ways > mostWays || x.Blade < 0 || x.Blade > 50 {
			return fmt.Errorf("a plug has a name and 1 to %d ways", mostWays)
		}
	}
	return nil
}

// half names the half of a plug that is on a group's side.
func (p *PartingPlug) half(group string) string { return p.ID + " " + group }

// Halves gives the connectors of a parting, two to a plug, facing each other.
func (p *Parting) Halves() []harness.Half {
	var out []harness.Half
	for i := range p.Plugs {
		x := &p.Plugs[i]
		cavities := make([]string, x.Ways)
		for c := range cavities {
			cavities[c] = fmt.Sprint(c + 1)
		}
		for side, group := range p.Between {
			id := x.half(group)
			out = append(out, harness.Half{
				Connector: harness.Connector{ID: id, Name: id, Cavities: cavities, Rows: 1, Assumed: true},
				Mate:      x.half(p.Between[1-side]),
			})
		}
	}
	return out
}

// Parted is what follows from the disconnects that were taken.
type Parted struct {
	Changes  harness.Changes
	Made     harness.Changes // of them, what is so already
	Steps    []Step
	Findings []finding.Finding
	Covers   map[string][]string       // by path: steps that come before it is covered
	Touches  map[string]harness.WireID // by step: the length that it parts, which is finished before
}

// Again gives the result once more, as it was before Part.
func (r *Result) Again() *Result {
	out := *r
	out.Disconnects = slices.Clone(r.offered)
	out.hours(nil)
	return &out
}

// Part gives what follows from the disconnects that were taken: which ends get contacts, in which cavities, and the
// steps. Found is the harness as it was found, now as it is, wanted as all else wants it. It notes in each disconnect
// what was taken.
func (r *Result) Part(found, now, wanted harness.Harness) Parted {
	r.Disconnects = slices.Clone(r.Disconnects) // those that are offered stay as they are
	x := &parter{Result: r, found: found, now: now, wanted: wanted, out: Parted{
		Changes: harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}, Places: map[harness.TerminalID]harness.Place{}},
		Made:    harness.Changes{Tips: map[harness.WireID][2]harness.Tip{}, Places: map[harness.TerminalID]harness.Place{}},
		Covers:  map[string][]string{}, Touches: map[string]harness.WireID{}}}
	for i := range r.in.Decisions.Partings {
		p := &r.in.Decisions.Partings[i]
		at := slices.IndexFunc(r.Disconnects, func(d Disconnect) bool { return d.Between == p.Between })
		if at < 0 {
			x.say("parts-nothing", finding.Check, p, "Take it back, or put the stations into their groups again.",
				"The disconnect of %s and %s parts nothing: no wire runs from one to the other any more.", p.Between[0],
				p.Between[1]).Place = finding.Place{Part: "bundles"}
			r.Disconnects = append(r.Disconnects, Disconnect{Between: p.Between, Wires: []harness.WireID{},
				Parted: []harness.WireID{},
				Ties:   []harness.WireID{}, Plugs: []ContactPlug{}, Taken: p.Plugs}) // shown, so that it can be taken back
			continue
		}
		x.part(p, &r.Disconnects[at])
	}
	r.hours(x.out.Steps)
	return x.out
}

// parter is the work in progress.
type parter struct {
	*Result
	found, now, wanted harness.Harness
	out                Parted
}

func (x *parter) say(code string, s finding.Severity, p *Parting, remedy, format string, args ...any) *finding.Finding {
	x.out.Findings = append(x.out.Findings, finding.Finding{Code: code, Severity: s, Stage: "reach",
		Subject: strings.Join(p.Between[:], " "), Text: fmt.Sprintf(format, args...), Remedy: remedy})
	return &x.out.Findings[len(x.out.Findings)-1]
}

// part gives each tie of a disconnect its cavity. One that has contacts in a plug already keeps them; the others take
// the free ones, in the plug with the smallest contacts that carry them.
func (x *parter) part(p *Parting, d *Disconnect) {
	d.Taken = p.Plugs
	taken := map[harness.Ref]bool{}
	place := map[harness.WireID]harness.Ref{} // by tie: the cavity on the side of the first group
	cut := map[harness.WireID]*parted{}
	ties := x.together(d.Ties)
	var stay, full []harness.WireID
	for _, id := range ties {
		c, ok := x.cutAt(id)
		if !ok {
			stay = append(stay, id)
			continue
		}
		cut[id] = c
		for _, t := range c.contacts() {
			at, seated := x.now.Place(t)
			for i := range p.Plugs {
				for _, group := range p.Between {
					if seated && at.State == harness.Seated && at.At.Connector == p.Plugs[i].half(group) {
						place[id] = harness.Ref{Connector: p.Plugs[i].ID, Cavity: at.At.Cavity}
						taken[place[id]] = true
					}
				}
			}
		}
	}
	plugs := slices.Clone(p.Plugs)
	slices.SortStableFunc(plugs, func(a, b PartingPlug) int { return cmp.Compare(a.Blade, b.Blade) })
	for _, id := range ties {
		if _, known := place[id]; known || cut[id] == nil {
			continue
		}
		at, ok := freeWay(plugs, d.blade[id], taken)
		if !ok {
			full = append(full, id)
			continue
		}
		place[id], taken[at] = at, true
	}
	for _, id := range ties {
		if at, ok := place[id]; ok {
			x.wire(p, d, cut[id], at)
		}
	}
	if len(full) > 0 {
		x.say("plug-full", finding.Wrong, p, "Take the disconnect anew: it is then given plugs with room for them.",
			"%s of the disconnect of %s and %s have no cavity in its plugs that carries them: %s.", plural(len(full), "wire"),
			p.Between[0], p.Between[1], first(harness.Names(full), 6)).Place = finding.Place{Part: "bundles"}
	}
	if len(stay) > 0 {
		x.say("not-parted", finding.Check, p, "Replace them whole in Reach, or undo their terminals when the one comes out.",
			"%s of the disconnect of %s and %s cannot be parted, since both their ends are cut already or are left to "+
				"qualified hands: %s.", plural(len(stay), "wire"), p.Between[0], p.Between[1],
			first(harness.Names(stay), 6)).Place = finding.Place{Part: "bundles"}
	}
	d.Parts = partsFor(p, d.Cavities)
}

// together puts the wires of a pair and the cores of a shield beside each other.
func (x *parter) together(ties []harness.WireID) []harness.WireID {
	first := map[string]harness.WireID{}
	out := slices.Clone(ties)
	slices.SortFunc(out, finding.Natural)
	key := map[harness.WireID]harness.WireID{}
	for _, id := range out {
		key[id] = id
		for _, g := range groupsOf(&x.in.Wires[x.wires[id]]) {
			if first[g] == "" {
				first[g] = id
			}
			if finding.Natural(first[g], key[id]) < 0 {
				key[id] = first[g]
			}
		}
	}
	slices.SortStableFunc(out, func(a, b harness.WireID) int { return finding.Natural(key[a], key[b]) })
	return out
}

// freeWay gives the lowest free cavity of the plug with the smallest contacts that carry a wire. Of studs there are
// only studs to choose.
func freeWay(plugs []PartingPlug, blade float64, taken map[harness.Ref]bool) (harness.Ref, bool) {
	for i := range plugs {
		if p := &plugs[i]; (blade == 0) == (p.Blade == 0) && p.Blade >= blade {
			for c := range p.Ways {
				if at := (harness.Ref{Connector: p.ID, Cavity: fmt.Sprint(c + 1)}); !taken[at] {
					return at, true
				}
			}
		}
	}
	return harness.Ref{}, false
}

// parted is a length that is cut in two for a plug, and near which of its ends.
type parted struct {
	wire   int
	length harness.WireID
	end    int
}

// contacts names the two contacts: of the length, and of the piece that the cut leaves at its end.
func (c *parted) contacts() [2]harness.TerminalID {
	return [2]harness.TerminalID{harness.TerminalID("contact of " + c.length),
		harness.TerminalID("contact of " + c.length.Stub(c.end))}
}

// cutAt says which length of a wire is cut, near an end that nothing else cuts: the wire itself, what was let into it,
// or what replaces it.
func (x *parter) cutAt(id harness.WireID) (*parted, bool) {
	i := x.wires[id]
	if x.in.Wires[i].Alone {
		return nil, false
	}
	for _, length := range []harness.WireID{id, id.LetIn(), id.Instead()} {
		tips, there := x.wanted.Tips(length)
		if !there {
			continue
		}
		was, old := x.found.Tips(length)
		for _, end := range []int{1, 0} {
			held := tips[end]
			if (held.State == harness.Crimped || held.State == harness.Joined) && (!old || was[end] == held) {
				return &parted{i, length, end}, true
			}
		}
	}
	return nil, false
}

// wire plans the contacts of one wire.
func (x *parter) wire(p *Parting, d *Disconnect, c *parted, at harness.Ref) {
	l, w := &x.Lines[c.wire], &x.in.Wires[c.wire]
	stations := l.route.Stations
	near, far := x.router.Group(stations[0]), x.router.Group(stations[len(stations)-1])
	if c.end == 0 {
		near, far = far, near
	}
	halves := [2]harness.Ref{{Connector: at.Connector + " " + near, Cavity: at.Cavity},
		{Connector: at.Connector + " " + far, Cavity: at.Cavity}}
	contacts, stub := c.contacts(), c.length.Stub(c.end)
	tips, _ := x.wanted.Tips(c.length)
	held := tips[c.end]
	tips[c.end] = harness.Tip{State: harness.Crimped, Terminal: contacts[0]}
	_, made := x.now.Place(contacts[0])
	change := func(to *harness.Changes) {
		to.Tips[c.length] = tips
		to.Tips[stub] = [2]harness.Tip{held, {State: harness.Crimped, Terminal: contacts[1]}}
		for k := range contacts {
			to.Places[contacts[k]] = harness.Place{State: harness.Seated, At: halves[k]}
		}
	}
	if change(&x.out.Changes); made {
		change(&x.out.Made)
	}
	edits := []harness.Edit{{Do: harness.Cut, Wire: c.length, End: c.end}}
	for k, of := range []harness.TipID{{Wire: c.length, End: c.end}, {Wire: stub, End: 1}} {
		edits = append(edits,
			harness.Edit{Do: harness.Add, Terminal: contacts[k], Wire: of.Wire, Label: halves[k].String()},
			harness.Edit{Do: harness.Crimp, Wire: of.Wire, End: of.End, Terminal: contacts[k]},
			harness.Edit{Do: harness.Insert, Terminal: contacts[k], At: halves[k]})
	}
	station, path := x.crossing(l, d)
	plug := p.Plugs[slices.IndexFunc(p.Plugs, func(y PartingPlug) bool { return y.ID == at.Connector })]
	rates := &x.in.Decisions.Rules.Rates
	s := Step{Kind: PartWire, Wires: []harness.WireID{w.ID}, At: halves[:], Minutes: rates.Cut + 2*rates.Crimp,
		NoReturn: true,
		Text: fmt.Sprintf("Part %s at %s: cut it, crimp a contact of %.3g mm on either end, and put them into cavity %s of "+
			"%s and of %s.", x.Result.name(c.wire), station, plug.Blade, at.Cavity, halves[0].Connector, halves[1].Connector),
		Why: fmt.Sprintf("It would tie %s to %s: with the plug the one comes out without the other.", p.Between[0],
			p.Between[1])}
	if plug.Blade == 0 {
		s.Text = fmt.Sprintf("Part %s at %s: cut it, crimp a ring terminal on either end, and put both on stud %s of %s.",
			x.Result.name(c.wire), station, at.Cavity, plug.ID)
	}
	if w.Shield != "" {
		s.Warn = append(s.Warn, "Its shield goes through the same plug, with a cavity of its own beside it.")
	}
	if w.Pair != "" {
		s.Warn = append(s.Warn, "Keep the pair twisted up to the contacts.")
	}
	s = s.As(work.New(edits))
	s.Stage = work.Reach
	x.out.Steps = append(x.out.Steps, s)
	x.out.Touches[s.ID] = c.length
	if path != "" {
		x.out.Covers[path] = append(x.out.Covers[path], s.ID)
	}
	d.Cavities = append(d.Cavities, PartedWire{w.ID, plug.ID, at.Cavity, station})
}

// crossing gives the station at which a wire leaves its group for the path on which most of them cross, or for the
// first that belongs to no group, and that path.
func (x *parter) crossing(l *Line, d *Disconnect) (station, path string) {
	at := -1
	for i, p := range l.route.Paths {
		if x.router.Paths[p].ID == d.Where {
			at = i
			break
		}
		if at < 0 && (x.router.Paths[p].Wall || x.router.GroupOf(p) == "") {
			at = i
		}
	}
	if at < 0 {
		return l.Stations[0], ""
	}
	return l.Stations[at], x.router.Paths[l.route.Paths[at]].ID
}

// partsFor lists what has to be there for each plug of a parting.
func partsFor(p *Parting, parted []PartedWire) []string {
	var out []string
	for _, x := range p.Plugs {
		n := 0
		for _, c := range parted {
			if c.Plug == x.ID {
				n++
			}
		}
		if x.Blade == 0 {
			out = append(out, fmt.Sprintf("%s with caps, %s", plural(x.Ways, "stud"), plural(2*n, "ring terminal")))
			continue
		}
		out = append(out, fmt.Sprintf("a sealed plug and its counterpart; %s, %s, %s, %s", plural(n, "pin"),
			plural(n, "socket"), plural(2*n, "seal"), plural(2*(x.Ways-n), "cavity plug")))
	}
	return out
}

// Offer gives the plugs to take for a disconnect, numbered on from those that others have.
func (d *Disconnect) Offer(others []Parting) Parting {
	used := map[string]bool{}
	for _, p := range others {
		for _, x := range p.Plugs {
			used[x.ID] = used[x.ID] || p.Between != d.Between
		}
	}
	out := Parting{Between: d.Between}
	n := 0
	for _, p := range d.Plugs {
		for _, ways := range p.Ways {
			for n++; used[fmt.Sprint("D", n)]; n++ {
			}
			out.Plugs = append(out.Plugs, PartingPlug{ID: fmt.Sprint("D", n), Blade: p.Blade, Ways: ways})
		}
	}
	return out
}
