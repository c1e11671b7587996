package gather

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

// Key is a position of the ignition key.
type Key string

// The positions.
const (
	KeyOff       Key = "off"
	KeyAccessory Key = "accessory"
	KeyRun       Key = "run"
	KeyCrank     Key = "crank"
)

// Keys lists the positions in the order in which a key is turned.
func Keys() []Key { return []Key{KeyOff, KeyAccessory, KeyRun, KeyCrank} }

// Measurement is a reading of a meter: a fact, which outranks colour and table.
type Measurement struct {
	ID     string      `json:"id"`
	At     harness.Ref `json:"at"`
	To     harness.Ref `json:"to,omitzero"`      // of Ohms and Joined: the other cavity; none is ground
	Key    Key         `json:"key,omitempty"`    // of Volts
	Volts  *float64    `json:"volts,omitempty"`  // against ground
	Loaded bool        `json:"loaded,omitempty"` // with a load on it, as a lamp: a feed is proven loaded
	Watts  float64     `json:"watts,omitempty"`  // of that load at 12 V, 0: a lamp of 21 W
	Ohms   *float64    `json:"ohms,omitempty"`
	Joined *bool       `json:"joined,omitempty"` // continuity, yes or no
	Note   string      `json:"note,omitempty"`
	Who    string      `json:"who,omitempty"`
	When   int64       `json:"when,omitempty"` // Unix milliseconds
}

// MostZero is how far below nothing a meter may show, Ω: its leads were shorted when it was set to zero. Common
// practice, no source.
const MostZero = 1.0

// Limits of what a reading says, for a 12 V system: common practice, no source.
const (
	liveVolts   = 9.0  // a feed with a load on it
	brightVolts = 10.5 // a feed without one, or a ballast wire that nothing draws on
	deadVolts   = 3.0
	groundOhms  = 2.0
	joinedOhms  = 5.0
)

// String writes the reading as one would on paper: "K13 in run: 12.4 V loaded".
func (m Measurement) String() string {
	s := m.At.String()
	switch {
	case m.Volts != nil:
		if m.Key != "" {
			s += " in " + string(m.Key)
		}
		s += fmt.Sprintf(": %.1f V", *m.Volts)
		if m.Loaded {
			s += " loaded"
		}
	case m.Ohms != nil:
		s += fmt.Sprintf(" to %s: %.1f Ω", ground(m.To), *m.Ohms)
	case m.Joined != nil && *m.Joined:
		s += " to " + ground(m.To) + ": continuity"
	case m.Joined != nil:
		s += " to " + ground(m.To) + ": no continuity"
	}
	return s
}

func ground(at harness.Ref) string {
	if at == (harness.Ref{}) {
		return "ground"
	}
	return at.String()
}

// joined says what a reading says of continuity, and whether it says anything.
func (m Measurement) joined() (yes, says bool) {
	switch {
	case m.Joined != nil:
		return *m.Joined, true
	case m.Ohms != nil && *m.Ohms <= joinedOhms:
		return true, true
	case m.Ohms != nil && *m.Ohms >= 1e5:
		return false, true
	}
	return false, false
}

// KeyLine is a cavity's line of a key-position table: what it showed, position by position, and what that makes it.
type KeyLine struct {
	At      harness.Ref     `json:"at"`
	Volts   map[Key]float64 `json:"volts"`
	Loaded  map[Key]bool    `json:"loaded"`
	Ohms    *float64        `json:"ohms,omitempty"` // to ground
	Role    signal.Role     `json:"role,omitempty"`
	Means   string          `json:"means"`             // in words
	Proven  bool            `json:"proven"`            // measured with a load on it, or a ground by its ohms
	Missing []Key           `json:"missing,omitempty"` // positions not yet measured
	ballast bool
}

// KeyTable reads an old ignition switch, or any feed, by its readings: each cavity with what it showed in each position
// of the key, and what it must be.
func KeyTable(all []Measurement) []KeyLine {
	byRef := map[harness.Ref]*KeyLine{}
	sortByTime(all)
	for _, m := range all {
		toGround := m.To == (harness.Ref{}) && (m.Ohms != nil || m.Joined != nil)
		if m.Volts == nil && !toGround {
			continue
		}
		l := byRef[m.At]
		if l == nil {
			l = &KeyLine{At: m.At, Volts: map[Key]float64{}, Loaded: map[Key]bool{}}
			byRef[m.At] = l
		}
		switch {
		case m.Volts != nil && m.Key != "":
			if was, two := l.Volts[m.Key]; two && !l.Loaded[m.Key] && m.Loaded && was >= brightVolts && *m.Volts < liveVolts &&
				*m.Volts > deadVolts {
				l.ballast = true // full volts with nothing on it, and far less with a load: a resistance wire
			}
			if !l.Loaded[m.Key] || m.Loaded {
				l.Volts[m.Key], l.Loaded[m.Key] = *m.Volts, m.Loaded
			}
		case m.Ohms != nil:
			l.Ohms = m.Ohms
		case m.Joined != nil && *m.Joined: // volts without a position of the key say nothing here
			zero := 0.0
			l.Ohms = &zero
		}
	}
	out := make([]KeyLine, 0, len(byRef))
	for _, l := range byRef {
		l.decode()
		out = append(out, *l)
	}
	slices.SortFunc(out, func(a, b KeyLine) int { return harness.CompareRefs(a.At, b.At) })
	return out
}

func sortByTime(all []Measurement) {
	slices.SortStableFunc(all, func(a, b Measurement) int { return int(a.When - b.When) })
}

// decode says what the pattern of live and dead positions makes of the cavity. A feed that is live in run and dead in
// crank is not an ignition feed for a unit, which the usual mistake takes it for.
func (l *KeyLine) decode() {
	live := map[Key]bool{}
	l.Proven = true
	for _, k := range Keys() {
		v, measured := l.Volts[k]
		if !measured {
			l.Missing = append(l.Missing, k)
			continue
		}
		live[k] = v >= liveVolts
		l.Proven = l.Proven && (!live[k] || l.Loaded[k])
		if l.Loaded[k] && v > deadVolts && v < liveVolts {
			l.ballast = true
		}
	}
	on := len(live) - countFalse(live)
	switch {
	case l.ballast:
		l.Role, l.Means = signal.Ignition, "fed through a resistance: it falls under load"
	case live[KeyOff]:
		l.Role, l.Means = signal.Battery, "battery, always on"
	case live[KeyRun] && live[KeyCrank]:
		l.Role, l.Means = signal.Ignition, "ignition, on in run and in crank"
	case live[KeyRun] && l.has(KeyCrank):
		l.Role, l.Means = signal.Ignition, "accessory: it drops out in crank"
	case live[KeyRun]:
		l.Role, l.Means = signal.Ignition, "switched; measure it in crank"
	case live[KeyCrank]:
		l.Role, l.Means = signal.Start, "start, on in crank alone"
	case live[KeyAccessory]:
		l.Role, l.Means = signal.Ignition, "accessory: on in accessory alone"
	case l.Ohms != nil && *l.Ohms <= groundOhms && on == 0:
		l.Role, l.Means, l.Proven, l.Missing = signal.Ground, "ground", true, nil
	case len(l.Volts) > 0:
		l.Means = "dead in every position measured"
	default:
		l.Means = "not ground"
	}
}

func (l *KeyLine) has(k Key) bool { _, measured := l.Volts[k]; return measured }

func countFalse(m map[Key]bool) int {
	n := 0
	for _, v := range m {
		if !v {
			n++
		}
	}
	return n
}

// words gives the wording that a measured role is read as.
func (l *KeyLine) words() string {
	switch {
	case l.ballast:
		return "Coil feed, resistance wire"
	case l.Role == signal.Battery:
		return "Battery"
	case l.Role == signal.Start:
		return "Start signal"
	case l.Role == signal.Ground:
		return "Ground"
	case strings.HasPrefix(l.Means, "accessory"):
		return "Accessory feed"
	}
	return "Ignition feed"
}

// Outrank lets readings outrank the rows of a pinout: a cavity that measures as a feed or a ground is one, whatever its
// colour and its words. It gives the pinout as measured and what that overturned.
func Outrank(p harness.Pinout, side string, all []Measurement) (harness.Pinout, []finding.Finding) {
	table := KeyTable(slices.Clone(all))
	if len(table) == 0 {
		return p, nil
	}
	p.Rows = slices.Clone(p.Rows)
	at := map[harness.Ref]int{}
	for i := range p.Rows {
		at[p.Rows[i].Ref] = i
	}
	var out []finding.Finding
	for _, l := range table {
		i, ok := at[l.At]
		if !ok || l.Role == signal.Unread {
			continue
		}
		r := &p.Rows[i]
		was := r.Signal
		if was.Role == l.Role && !l.ballast {
			continue
		}
		if !l.overrules(&was) {
			out = append(out, finding.Finding{Code: "reading-through-load", Place: finding.Place{Part: "readings"},
				Severity: finding.Note, Stage: "gather", Side: side,
				Subject: l.At.String(), Text: fmt.Sprintf("%s, %s, shows volts, as a wire does that is fed through its lamp, "+
					"coil or relay: the table is believed.", l.At, or(r.Function, was.String()))})
			continue
		}
		r.Measured = l.Means
		r.Signal = readSignal(l.words())
		r.Empty = false
		if !was.Read() || !feeds(was.Role) && l.Role != signal.Ground {
			continue
		}
		out = append(out, finding.Finding{Code: "reading-overturns", Place: finding.Place{Part: "readings"},
			Severity: finding.Wrong, Stage: "gather", Side: side,
			Subject: l.At.String(),
			Text: fmt.Sprintf("%s, %s, measures as %s: the reading is believed.", l.At, or(r.Function, was.String()),
				l.Means),
			Remedy: "Correct the table, or measure again if you doubt it; what was decided about this wire may not hold."})
	}
	return p, out
}

// overrules says whether a reading can make something else of a wire than its table does. A wire that ends in a lamp, a
// coil or a relay, or that something pulls up, shows full volts as long as nothing is on it, and less with a load: that
// is no feed. Common practice, no source.
func (l *KeyLine) overrules(was *signal.Reading) bool {
	switch was.Role {
	case signal.LowSide, signal.PWM, signal.RelayCoil, signal.Lamp, signal.CoilDriver, signal.Motor, signal.OutputSignal,
		signal.SwitchInput:
		return l.Role == signal.Ground || l.Proven && !l.ballast
	}
	return true
}

func feeds(r signal.Role) bool {
	return r == signal.Battery || r == signal.Ignition || r == signal.Start || r == signal.Ground
}

func readSignal(text string) signal.Reading { return signal.Read(text) }

// readings lets continuity correct what is joined to what.
func (b *builder) readings() {
	all := slices.Clone(b.in.Readings)
	sortByTime(all)
	for _, m := range all {
		yes, says := m.joined()
		if !says || m.To == (harness.Ref{}) {
			continue
		}
		b.cavity(m.At)
		b.cavity(m.To)
		if same := b.sameCopper(m.At, m.To); yes && !same {
			b.tie(m)
		} else if yes {
			b.confirm(m)
		} else if same {
			b.part(m)
		}
	}
	b.tidy()
	b.measured()
}

// measured takes what readings make of a cavity over to its wires.
func (b *builder) measured() {
	for _, l := range KeyTable(slices.Clone(b.in.Readings)) {
		for i := range b.loom.Wires {
			w := &b.loom.Wires[i]
			if (w.Ends[0].At == l.At || w.Ends[1].At == l.At) && l.Role != signal.Unread && w.Signal.Role != l.Role &&
				l.overrules(&w.Signal) {
				b.beliefs = append(b.beliefs, Belief{Wire: w.ID, Was: or(w.Signal.String(), "not read"), Now: l.Means,
					By: "reading at " + l.At.String()})
				w.Signal = readSignal(l.words())
			}
		}
	}
}
