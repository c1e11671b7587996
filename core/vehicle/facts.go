// Package vehicle says what stands in a vehicle beside its wires. Six lists say it: sources, fuses, switches, relays,
// cables and loads; Read makes of them what core/network draws into the harness, and Usual proposes what a vehicle
// usually has.
package vehicle

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"draxel/core/finding"
	"draxel/core/network"
)

// The lists of what stands in a vehicle beside its wires.
const (
	Sources  = "sources"
	Fuses    = "fuses"
	Switches = "switches"
	Relays   = "relays"
	Cables   = "cables"
	Loads    = "loads"
)

// Line is a line of a list by field.
type Line struct {
	Line  int
	Cells map[string]string
}

// Source is a battery or an alternator as it was said.
type Source struct {
	Name       string  `json:"name"`
	Alternator bool    `json:"alternator,omitempty"`
	Capacity   float64 `json:"capacity,omitempty"` // Ah of a battery
	Amps       float64 `json:"amps,omitempty"`     // A of an alternator at speed
	Idle       float64 `json:"idle,omitempty"`     // A of an alternator at idle
}

// Facts are what was said, as the network and the checks take it.
type Facts struct {
	Inside   network.Inside
	Sources  []Source
	Contacts map[string]float64 // rating in A of a relay's contacts, by relay
	Slow     map[string]bool    // fuses that are slow: bolted ones, links and breakers too
	Reckoned map[string]bool    // fuses of which nobody has said the rating: the one that fits is taken
	Was      map[string]float64 // A of fuses that stand in the vehicle and are to be changed, by fuse
	Findings []finding.Finding
	Switches []string // switches of their own, which a person can open and close
}

// Said says whether anything was said at all.
func (f *Facts) Said() bool {
	return len(f.Inside.Sources)+len(f.Inside.Slots)+len(f.Inside.Switches)+len(f.Inside.Relays) > 0
}

// Read reads the lists. What cannot be is left out, and found; the rest stands.
func Read(lists map[string][]Line) Facts {
	r := reader{Facts: Facts{Contacts: map[string]float64{}, Slow: map[string]bool{}, Reckoned: map[string]bool{},
		Was: map[string]float64{}}, taken: map[string]int{}}
	for _, l := range lists[Sources] {
		r.source(l)
	}
	for _, l := range lists[Fuses] {
		r.fuse(l)
	}
	for _, l := range lists[Switches] {
		r.contact(l)
	}
	for _, l := range lists[Relays] {
		r.relay(l)
	}
	for _, l := range lists[Cables] {
		r.cable(l)
	}
	for _, l := range lists[Loads] {
		r.load(l)
	}
	r.unlooked(lists)
	slices.Sort(r.Switches)
	r.Switches = slices.Compact(r.Switches)
	return r.Facts
}

type reader struct {
	Facts
	taken map[string]int
}

// bad finds that a line cannot be.
func (r *reader) bad(list string, l Line, format string, args ...any) {
	r.Findings = append(r.Findings, finding.Finding{Code: "feed-cannot-be",
		Place:    finding.Place{Part: "sources", List: list},
		Severity: finding.Wrong, Stage: "feed",
		Subject: fmt.Sprintf("%s, line %d", list, l.Line), Text: fmt.Sprintf(format, args...),
		Remedy: "Put the line right in the list of " + list + "."})
}

// name gives the name of a line, and false where it has none or another line has it.
func (r *reader) name(list, field string, l Line) (string, bool) {
	name := l.Cells[field]
	if name == "" {
		r.bad(list, l, "Line %d of the list of %s has no name: it is left out.", l.Line, list)
		return "", false
	}
	if first, twice := r.taken[name]; twice {
		r.bad(list, l, "%s stands on line %d already: line %d is left out.", name, first, l.Line)
		return "", false
	}
	r.taken[name] = l.Line
	return name, true
}

// number reads a number between bounds; 0 where the cell is empty, and false where it cannot be.
func (r *reader) number(list string, l Line, field string, least, most float64) (float64, bool) {
	text := strings.TrimSpace(l.Cells[field])
	if text == "" {
		return 0, true
	}
	plain := strings.TrimSpace(strings.TrimRight(strings.Replace(text, ",", ".", 1), " AaVvΩhmM²"))
	v, err := strconv.ParseFloat(plain, 64)
	if err != nil || !(v >= least && v <= most) {
		r.bad(list, l, "%q cannot be the %s on line %d of the list of %s: %g to %g.", text, field, l.Line, list,
			least, most)
		return 0, false
	}
	return v, true
}

// points takes the points of a line; false where one is missing, or all are one.
func (r *reader) points(list string, l Line, fields ...string) ([]string, bool) {
	var out []string
	for _, f := range fields {
		p := l.Cells[f]
		if p == "" {
			r.bad(list, l, "Line %d of the list of %s does not say where %q is: it is left out.", l.Line, list, f)
			return nil, false
		}
		out = append(out, p)
	}
	if len(out) > 1 && out[0] == out[1] {
		r.bad(list, l, "Line %d of the list of %s begins and ends at %s: it is left out.", l.Line, list, out[0])
		return nil, false
	}
	return out, true
}

func (r *reader) source(l Line) {
	name, ok := r.name(Sources, "source", l)
	p, okP := r.points(Sources, l, "plus")
	volts, okV := r.number(Sources, l, "volts", 1, 60)
	ohms, okO := r.number(Sources, l, "ohms", 1e-4, 10)
	amps, okA := r.number(Sources, l, "amps", 1, 3000)
	idle, okI := r.number(Sources, l, "idle", 1, 3000)
	capacity, okC := r.number(Sources, l, "capacity", 1, 1000)
	if !ok || !okP || !okV || !okO || !okA || !okI || !okC {
		return
	}
	s := network.Supply{Name: name, Plus: p[0], Minus: l.Cells["minus"], Volts: volts, Ohms: ohms}
	fact := Source{Name: name, Capacity: capacity}
	if kind := strings.ToLower(l.Cells["kind"]); strings.Contains(kind, "altern") || strings.Contains(kind,
		"generator") {
		fact.Alternator, fact.Amps, fact.Idle = true, amps, idle
		s.Running, s.Limit = true, amps
		if volts == 0 {
			s.Volts = 14.2
		}
		if ohms == 0 {
			s.Ohms = 0.02
		}
		if s.Minus == "" {
			s.Minus = "engine block"
		}
	} else {
		if volts == 0 {
			s.Volts = 12.6
		}
		if ohms == 0 && amps > 0 {
			s.Ohms = (12.0 - 7.2) / amps // cold-cranking amps at 7.2 V: EN 50342-1, from memory
		}
		if !slices.ContainsFunc(r.Inside.Sources, func(x network.Supply) bool { return x.Name == network.BatteryName }) {
			s.Name = network.BatteryName
		}
	}
	r.Inside.Sources = append(r.Inside.Sources, s)
	r.Facts.Sources = append(r.Facts.Sources, fact)
}

func (r *reader) fuse(l Line) {
	name, ok := r.name(Fuses, "fuse", l)
	rating, okR := r.number(Fuses, l, "rating", 0.1, 1000)
	if ok && okR && rating == 0 {
		r.bad(Fuses, l, "Fuse %s has no rating: it is left out.", name)
		return
	}
	if l.Cells["out"] == "" { // a spare, or one at which new wires begin: they name it
		l.Cells = maps.Clone(l.Cells)
		l.Cells["out"] = name
	}
	p, okP := r.points(Fuses, l, "in", "out")
	if !ok || !okR || !okP {
		return
	}
	kind := strings.ToLower(l.Cells["kind"])
	r.Slow[name] = strings.Contains(kind, "slow") || strings.Contains(kind, "link") || strings.Contains(kind, "break") ||
		strings.Contains(kind, "bolt")
	for i, out := range strings.FieldsFunc(p[1], func(c rune) bool { return c == ';' }) {
		slot := network.Slot{Name: name, In: p[0], Out: strings.TrimSpace(out), Rating: rating}
		if i > 0 { // the same fuse, led on
			r.Inside.Cables = append(r.Inside.Cables, network.Cable{Name: fmt.Sprintf("fuse %s to %s", name, slot.Out),
				From: r.Inside.Slots[len(r.Inside.Slots)-1].Out, To: slot.Out, Ohms: network.StudOhms})
			continue
		}
		r.Inside.Slots = append(r.Inside.Slots, slot)
	}
}

// positions reads the positions of the key in which a contact is closed.
func positions(text string) (key network.Key, own bool) {
	text = strings.ToLower(text)
	for _, k := range network.Keys() {
		if strings.Contains(text, k.String()) {
			key |= k
		}
	}
	for short, k := range map[string]network.Key{"acc": network.Accessory, "ign": network.Run | network.Crank,
		"start": network.Crank} {
		if strings.Contains(text, short) {
			key |= k
		}
	}
	return key, key == 0
}

func (r *reader) contact(l Line) {
	name, ok := r.name(Switches, "switch", l)
	p, okP := r.points(Switches, l, "from", "to")
	ohms, okO := r.number(Switches, l, "ohms", 1e-5, 100)
	if !ok || !okP || !okO {
		return
	}
	key, own := positions(l.Cells["closed"])
	if own && l.Cells["closed"] != "" && !strings.EqualFold(l.Cells["closed"],
		"on") && !strings.EqualFold(l.Cells["closed"], "own") {
		r.bad(Switches, l,
			"%q is no position of the key: off, accessory, run, crank; or own, for a switch of its own.", l.Cells["closed"])
		return
	}
	c := network.Contacts{Name: name, From: p[0], To: p[1], Key: key, Ohms: ohms}
	if own {
		c.Switch = name
		r.Facts.Switches = append(r.Facts.Switches, name)
	}
	r.Inside.Switches = append(r.Inside.Switches, c)
}

func (r *reader) relay(l Line) {
	name, ok := r.name(Relays, "relay", l)
	coil, okC := r.points(Relays, l, "coilplus", "coilminus")
	ohms, okO := r.number(Relays, l, "ohms", 1, 10000)
	amps, okA := r.number(Relays, l, "amps", 0.1, 1000)
	if !ok || !okC || !okO || !okA {
		return
	}
	if l.Cells["common"] == "" || l.Cells["make"] == "" && l.Cells["break"] == "" {
		r.bad(Relays, l, "Relay %s has no contact: say where 30 and 87 are. It is left out.", name)
		return
	}
	if amps > 0 {
		r.Contacts[name] = amps
	}
	r.Inside.Relays = append(r.Inside.Relays, network.Coiled{Name: name, Coil: [2]string{coil[0], coil[1]},
		Common: l.Cells["common"],
		Make:   l.Cells["make"], Break: l.Cells["break"], Ohms: ohms,
		Diode: strings.Contains(strings.ToLower(l.Cells["suppressed"]), "diode")})
}

func (r *reader) cable(l Line) {
	name, ok := r.name(Cables, "cable", l)
	p, okP := r.points(Cables, l, "from", "to")
	square, okS := r.number(Cables, l, "size", 0.1, 240)
	mm, okM := r.number(Cables, l, "length", 1, 30000)
	ohms, okO := r.number(Cables, l, "ohms", 1e-5, 10)
	if !ok || !okP || !okS || !okM || !okO {
		return
	}
	r.Inside.Cables = append(r.Inside.Cables, network.Cable{Name: name, From: p[0], To: p[1], Square: square,
		Length: mm, Ohms: ohms})
}

func (r *reader) load(l Line) {
	name, ok := r.name(Loads, "load", l)
	p, okP := r.points(Loads, l, "plus")
	amps, okA := r.number(Loads, l, "amps", 0.001, 1000)
	volts, okV := r.number(Loads, l, "volts", 1, 60)
	if ok && okA && amps == 0 {
		r.bad(Loads, l, "Nothing is said of what %s takes: it is left out.", name)
		return
	}
	if !ok || !okP || !okA || !okV {
		return
	}
	kind := strings.ToLower(l.Cells["kind"])
	u := network.Use{Name: name, Plus: p[0], Minus: l.Cells["minus"], Amps: amps, Volts: volts,
		Switch: l.Cells["switch"],
		Lamp:   strings.Contains(kind, "lamp"), Starter: strings.Contains(kind, "starter")}
	if u.Switch != "" {
		r.Facts.Switches = append(r.Facts.Switches, u.Switch)
	}
	r.Inside.Uses = append(r.Inside.Uses, u)
}

// Measured says what was measured of the key's contacts.
func (f *Facts) Measured() []string {
	var out []string
	for _, c := range f.Inside.Switches {
		if !strings.HasPrefix(c.Name, "key ") || c.Key == 0 {
			continue
		}
		var in []string
		for _, k := range network.Keys() {
			if c.Key&k != 0 {
				in = append(in, k.String())
			}
		}
		out = append(out, fmt.Sprintf("%s to %s closed in %s", c.From, c.To, strings.Join(in, ", ")))
	}
	return out
}
