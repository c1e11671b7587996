package handover

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"draxel/core/diagram"
	"draxel/core/finding"
	"draxel/core/signal"
)

// The kinds of symbols as the drawing has them.
const (
	box    = diagram.Box
	fuse   = diagram.Fuse
	relay  = diagram.Relay
	splice = diagram.Splice
	joint  = diagram.Joint
	plug   = diagram.Plug
	ground = diagram.Ground
	stub   = diagram.Stub
)

// symbol is something that wires come to.
type symbol struct {
	kind   diagram.Kind
	title  string
	under  []string
	source bool // current comes from it
	unit   bool
}

func amps(rating float64) []string {
	if rating <= 0 {
		return nil
	}
	return []string{strconv.FormatFloat(rating, 'g', 4, 64) + " A"}
}

// Groups lists the groups of circuits in the order of the book.
func Groups() []string {
	out := make([]string, len(groups))
	for i := range groups {
		out[i] = groups[i].title
	}
	return append(out, "Other circuits")
}

// group is a kind of circuits with the words by which they are known, in functions and in the devices at their ends.
type group struct {
	title string
	words []string
	roles []signal.Role
}

// groups are gone through in this order: the first that a circuit fits is its own.
var groups = []group{
	{"Battery and cables", []string{"battery cable", "battery +", "main fuse", "winch"}, nil},
	{
		"Starting",
		[]string{"starter", "start relay", "start wire", "clutch switch", "neutral"},
		[]signal.Role{signal.Start},
	},
	{"Charging", []string{"alternator", "charge"}, nil},
	{"Fuel pump", []string{"fuel pump", "pump relay", "inertia"}, nil},
	{"Injectors", []string{"injector"}, nil},
	{
		"Ignition coils",
		[]string{"ignition coil", "coil 1", "coil 2", "coil 3", "coil 4", "distributor", "ballast"},
		[]signal.Role{signal.CoilDriver},
	},
	{"Data bus and diagnosis", []string{"bus", "diagnos", "k line", "can high", "can low"}, nil},
	{
		"Fans, compressor, valves and pumps",
		[]string{"fan", "compressor", "valve", "intercooler", "clutch", "pump", "horn"},
		nil,
	},
	{
		"Gauges and warning",
		[]string{"gauge", "tacho", "speedo", "sender", "instrument", "warning", "check-engine"},
		nil,
	},
	{"Lamps", []string{"lamp", "beacon", "light", "beam", "indicator"}, nil},
	{
		"Sensors",
		[]string{"sensor", "throttle", "pedal", "knock", "switch", "shield", "airflow"},
		[]signal.Role{signal.SensorGround,
			signal.SensorSupply, signal.Reference5V},
	},
	{"Feeds", []string{"feed", "ignition", "battery", "relay"}, []signal.Role{signal.Battery, signal.Ignition}},
	{"Grounds", []string{"ground", "earth"}, []signal.Role{signal.Ground}},
}

// group gives every length its circuit, what wires, splices, joints and in-line pairs join, and each circuit its
// group.
func (b *binder) group() {
	set := map[string]string{}
	var find func(s string) string
	find = func(s string) string {
		if set[s] == "" || set[s] == s {
			return s
		}
		set[s] = find(set[s])
		return set[s]
	}
	key := func(i, end int) string { // what joins: a splice, a joint, a pair; a cavity joins nothing but its own wires
		e := &b.all[i].Ends[end]
		switch b.symbols[e.Symbol].kind {
		case splice, joint, plug:
			return e.Symbol
		}
		if e.Cavity.Connector != "" {
			return "cavity " + e.At
		}
		return fmt.Sprint("end ", i, " ", end)
	}
	for i := range b.all {
		a, c := find(key(i, 0)), find(key(i, 1))
		if a != c {
			set[max(a, c)] = min(a, c)
		}
	}
	of := map[string][]int{}
	var order []string
	for i := range b.all {
		k := find(key(i, 0))
		if of[k] == nil {
			order = append(order, k)
		}
		of[k] = append(of[k], i)
	}
	for n, k := range order {
		title := b.titleOf(of[k])
		for _, i := range of[k] {
			b.all[i].Group, b.all[i].circuit = title, n
		}
	}
}

// titleOf gives the group of a circuit: by what it is for, then by the roles of its wires. One that ends at a ground
// point is a ground, whatever hangs on it.
func (b *binder) titleOf(lengths []int) string {
	var words []string
	roles := map[signal.Role]int{}
	grounded := false
	for _, i := range lengths {
		l := &b.all[i]
		words = append(words, strings.ToLower(l.Function))
		roles[l.Signal.Role]++
		for end := range l.Ends {
			s := b.symbols[l.Ends[end].Symbol]
			grounded = grounded || s.kind == ground
			words = append(words, strings.ToLower(s.title))
		}
		if l.Cable {
			return groups[0].title
		}
	}
	if grounded {
		return "Grounds"
	}
	text := strings.Join(words, " | ")
	for _, g := range groups {
		if slices.ContainsFunc(g.words, func(w string) bool { return hasWord(text, w) }) ||
			slices.ContainsFunc(g.roles, func(r signal.Role) bool { return roles[r] > 0 }) {
			return g.title
		}
	}
	return "Other circuits"
}

// hasWord says whether a text has words that begin so.
func hasWord(text, word string) bool {
	for at := 0; ; {
		i := strings.Index(text[at:], word)
		if i < 0 {
			return false
		}
		if i += at; i == 0 || !letter(text[i-1]) {
			return true
		}
		at = i + 1
	}
}

func letter(c byte) bool { return c >= 'a' && c <= 'z' || c >= '0' && c <= '9' }

// depths gives how far each symbol is from what feeds it, through wires and whatever they come to: from which to
// which a wire is drawn follows from that.
func (b *binder) depths() map[string]int {
	next := map[string][]string{}
	for i := range b.all {
		a, c := b.all[i].Ends[0].Symbol, b.all[i].Ends[1].Symbol
		next[a], next[c] = append(next[a], c), append(next[c], a)
	}
	var queue []string
	depth := map[string]int{}
	push := func(s string, d int) {
		if _, seen := depth[s]; !seen {
			depth[s] = d
			queue = append(queue, s)
		}
	}
	var names []string
	for id := range b.symbols {
		names = append(names, id)
	}
	slices.SortFunc(names, finding.Natural)
	for _, id := range names {
		if b.symbols[id].source {
			push(id, 0)
		}
	}
	for k := 0; ; k++ {
		for ; k < len(queue); k++ {
			if b.symbols[queue[k]].kind == ground { // current goes back there: nothing is fed from it
				continue
			}
			for _, s := range next[queue[k]] {
				push(s, depth[queue[k]]+1)
			}
		}
		rest := slices.IndexFunc(
			names,
			func(id string) bool { _, seen := depth[id]; return !seen && b.symbols[id].kind != ground },
		)
		if rest < 0 {
			break
		}
		push(names[rest], 1)
		k--
	}
	for _, id := range names {
		if b.symbols[id].kind == ground {
			depth[id] = 1 << 20
		}
	}
	return depth
}
