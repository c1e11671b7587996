package vehicle

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/size"
)

// UsualNote is the note of a line that was proposed and that nobody has looked at yet.
const UsualNote = "usual: not looked at"

// Seen is an end of a wire as Usual sees it: where it is and what its wire is read as.
type Seen struct {
	At     harness.Ref
	Device string
	Kind   harness.DeviceKind
	Signal signal.Reading
	Text   string
	Square size.Section // mm², 0 where nobody knows
}

// Proposed is a line for a list of Feed that a vehicle usually has, by field, and why.
type Proposed struct {
	List  string            `json:"list"`
	Name  string            `json:"name"` // of the line
	Cells map[string]string `json:"cells"`
	Why   string            `json:"why"`
}

// The places that proposed lines share.
const (
	batteryBus   = "battery bus"
	ignitionBus  = "ignition bus"
	accessoryBus = "accessory bus"
	starterStud  = "starter stud"
	plusPost     = "battery +"
)

// Usual proposes for each of Feed's lists that has no line yet what a vehicle usually has: battery, alternator, cables
// and straps, the key's contacts at the switch that its wires show, a fuse for each cavity of a fuse box by the wire
// that it feeds, relays whose cavities bear their numbers. All of it is common practice (the numbers of cavities: DIN
// 72552, from memory), to be looked at line by line; none of it is reckoned with unless somebody takes it. Lines says
// how many a list has.
func Usual(ends []Seen, lines map[string]int) []Proposed {
	ends = slices.Clone(ends)
	slices.SortFunc(ends, func(a, b Seen) int { return harness.CompareRefs(a.At, b.At) })
	u := proposer{lines: lines, named: map[string]bool{}}
	u.sources(ends)
	switched := u.key(ends)
	u.box(ends, switched)
	u.relays(ends)
	u.cables()
	return u.out
}

type proposer struct {
	out   []Proposed
	lines map[string]int
	named map[string]bool // names are one's own over all lists
}

// add proposes a line of fields and texts by turns; the first is its name.
func (u *proposer) add(list, why string, fields ...string) {
	if u.lines[list] > 0 || u.named[fields[1]] {
		return
	}
	u.named[fields[1]] = true
	p := Proposed{List: list, Name: fields[1], Cells: map[string]string{"note": UsualNote}, Why: why}
	for i := 0; i+1 < len(fields); i += 2 {
		p.Cells[fields[i]] = fields[i+1]
	}
	u.out = append(u.out, p)
}

func (u *proposer) sources(ends []Seen) {
	u.add(Sources, "twelve volts, negative ground", "source", "battery", "kind", "battery", "plus", plusPost, "minus",
		"battery −", "volts", "12.6")
	at := starterStud
	name := "alternator"
	for _, e := range ends {
		if strings.Contains(strings.ToLower(e.Device), "altern") {
			name = e.Device
			if e.Signal.Role == signal.Battery && e.Signal.Device != "alternatorlamp" {
				at = e.At.String()
			}
		}
	}
	u.add(Sources, "on the stud of the starter, as most are", "source", name, "kind", "alternator", "plus", at,
		"minus", "engine block", "volts", "14.2", "amps", "65", "idle", "30")
}

func (u *proposer) cables() {
	u.add(Cables, "the starter's cable", "cable", "starter cable", "from", plusPost, "to", starterStud, "size", "35",
		"length", "1500")
	u.add(Cables, "as thick as the positive one", "cable", "battery ground cable", "from", "battery −", "to",
		"engine block", "size", "35", "length", "800")
	u.add(Cables, "", "cable", "block to body strap", "from", "engine block", "to", "body", "size", "16", "length",
		"400")
	u.add(Loads, "turning a cold engine", "load", "starter motor", "plus", starterStud, "minus", "engine block", "amps",
		"150", "volts", "10", "kind", "starter")
}

// key proposes the contacts of the ignition switch that the wires show: from its battery feed to what its other wires
// are read as. It gives the cavities of the switch by what they feed.
func (u *proposer) key(ends []Seen) map[string]harness.Ref {
	fed := map[string]harness.Ref{} // battery feed by switch
	keys := KeySwitches(ends, nil)
	for _, e := range ends {
		if keys[e.Device] && e.Signal.Role == signal.Battery {
			if _, known := fed[e.Device]; !known {
				fed[e.Device] = e.At
			}
		}
	}
	has := map[string]harness.Ref{}
	for _, e := range ends {
		from, is := fed[e.Device]
		if !is || e.At == from {
			continue
		}
		word, closed := "", ""
		switch {
		case e.Signal.Device == "accessory":
			word, closed = "accessory", "accessory, run"
		case e.Signal.Role == signal.Start:
			word, closed = "start", "crank"
		case e.Signal.Role == signal.Ignition:
			word, closed = "ignition", "run, crank"
		default:
			continue
		}
		if _, known := has[word]; !known {
			has[word] = e.At
		}
		u.add(Switches, "the wires at "+e.Device+" read so", "switch", "key, "+word, "from", from.String(), "to",
			e.At.String(), "closed", closed)
	}
	return has
}

// inward are the words of a wire that brings current into a fuse box.
var inward = regexp.MustCompile(`(?i)\bfrom the\b|\bfeed (?:of|to|into) the (?:fuse|box|block)`)

// byWire is the fuse that usually stands before a wire, A by mm² (common practice).
var byWire = []struct {
	square size.Section
	amps   string
}{{0.35, "3"}, {0.5, "5"}, {0.75, "7.5"}, {1, "10"}, {1.5, "15"}, {2.5, "20"}, {4, "30"}, {6, "40"}}

func fuseFor(s size.Section) string {
	out := "10"
	if s > 0 {
		out = "3"
		for _, w := range byWire {
			if s >= w.square-0.01 {
				out = w.amps
			}
		}
	}
	return out
}

// box proposes a slot for each cavity of a fuse box, and how its buses are fed.
func (u *proposer) box(ends []Seen, switched map[string]harness.Ref) {
	boxed := false
	led := map[string]bool{} // buses that a wire from elsewhere comes to
	buses := map[string]bool{}
	done := map[harness.Ref]bool{}
	for _, e := range ends {
		if e.Kind != harness.Fuses || done[e.At] {
			continue
		}
		boxed, done[e.At] = true, true
		bus := batteryBus
		switch {
		case e.Signal.Role == signal.Ground, e.Signal.Role == signal.SensorGround, e.Signal.Role == signal.Start:
			continue
		case e.Signal.Device == "accessory":
			bus = accessoryBus
		case e.Signal.Role == signal.Ignition:
			bus = ignitionBus
		}
		if inward.MatchString(e.Text) {
			led[bus] = true
			u.add(Cables, fmt.Sprintf("%q comes in there", e.Text), "cable", bus, "from", e.At.String(), "to", bus,
				"size", "4", "length", "100")
			continue
		}
		buses[bus] = true
		what := cmp.Or(e.Text, "its wire")
		u.add(Fuses, fmt.Sprintf("%s: the fuse is that of a wire of its size", what), "fuse", e.At.String(), "rating",
			fuseFor(e.Square), "kind", "blade", "in", bus, "out", e.At.String())
	}
	if buses[batteryBus] && !led[batteryBus] || !boxed {
		u.add(Fuses, "beside the battery", "fuse", "main", "rating", "80", "kind", "bolted", "in", plusPost, "out",
			batteryBus)
	}
	for _, x := range []struct{ bus, word, closed string }{{ignitionBus, "ignition", "run, crank"},
		{accessoryBus, "accessory", "accessory, run"}} {
		at, shown := switched[x.word]
		switch {
		case led[x.bus] || !buses[x.bus] && (boxed || x.bus != ignitionBus):
		case shown && buses[x.bus]:
			u.add(Cables, "from the ignition switch", "cable", x.bus, "from", at.String(), "to", x.bus, "size", "4",
				"length", "600")
		case !shown:
			u.add(Switches, "no wire shows the ignition switch", "switch", "key, "+x.word, "from", batteryBus, "to",
				x.bus, "closed", x.closed)
		}
	}
}

// relays proposes a relay for each plug whose cavities bear the numbers of a relay's ends (DIN 72552, from memory).
func (u *proposer) relays(ends []Seen) {
	at := map[string]map[string]bool{}
	device := map[string]string{}
	var plugs []string
	for _, e := range ends {
		if at[e.At.Connector] == nil {
			at[e.At.Connector] = map[string]bool{}
			plugs = append(plugs, e.At.Connector)
		}
		at[e.At.Connector][strings.ToLower(e.At.Cavity)] = true
		device[e.At.Connector] = e.Device
	}
	slices.SortFunc(plugs, finding.Natural)
	for _, c := range plugs {
		has := at[c]
		if !has["30"] || !has["85"] || !has["86"] || !has["87"] && !has["87a"] {
			continue
		}
		end := func(n string) string { return harness.Ref{Connector: c, Cavity: n}.String() }
		line := []string{"relay", cmp.Or(device[c], c), "coilplus", end("86"), "coilminus", end("85"), "common",
			end("30"), "amps", "30"}
		for field, n := range map[string]string{"make": "87", "break": "87a"} {
			if has[n] {
				line = append(line, field, end(n))
			}
		}
		u.add(Relays, "its cavities bear the numbers of a relay", line...)
	}
}

// unlooked finds lines that were proposed and that nobody has looked at.
func (r *reader) unlooked(lists map[string][]Line) {
	for _, list := range []string{Sources, Fuses, Switches, Relays, Cables, Loads} {
		n := 0
		for _, l := range lists[list] {
			if strings.EqualFold(l.Cells["note"], UsualNote) {
				n++
			}
		}
		if n > 0 {
			text := "In the list of %s %d lines are what is usual: nobody has looked at this vehicle."
			r.Findings = append(r.Findings, finding.Finding{Code: "usual-not-looked",
				Place:    finding.Place{Part: "sources", List: list},
				Severity: finding.Check,
				Stage:    "feed", Subject: list, Text: fmt.Sprintf(text, list, n),
				Remedy: "Look at each at the vehicle, put right what is otherwise, and say that it is so."})
		}
	}
}
