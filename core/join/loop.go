package join

import (
	"fmt"
	"slices"
	"strings"
)

// loopAt is a plug of the interlock loop: the two circuits that it bridges when it is plugged, and where.
type loopAt struct {
	device string
	at     []string
	ends   []int // circuits
	unit   bool
}

// Loop is the interlock loop of high voltage as its 12 V side is wired: from the unit that watches it through every
// plug and back.
type Loop struct {
	Through []string // the plugs in the order of the loop, each of which opens it
	Open    string   // where it ends before it is back; empty where it closes
	Past    []string // plugs that are by-passed: both their cavities are on one circuit
	Outside []string // plugs that have a cavity of the loop, and are not in it
	Gone    []string // plugs that were in it and have no wire of it any more
}

// FollowLoop follows the interlock loop. Sockets are those of it alone.
func FollowLoop(sockets []Socket) Loop {
	var plugs []loopAt
	for i := range sockets {
		s := &sockets[i]
		k := slices.IndexFunc(plugs, func(p loopAt) bool { return p.device == s.Device })
		if k < 0 {
			k = len(plugs)
			plugs = append(plugs, loopAt{device: s.Device, unit: s.Unit})
		}
		plugs[k].at = append(plugs[k].at, s.At.String())
		plugs[k].ends = append(plugs[k].ends, s.Circuit)
	}
	var out Loop
	start := -1
	for i := range plugs {
		p := &plugs[i]
		if p.unit && start < 0 {
			start = i
		}
		if len(p.ends) == 2 && p.ends[0] == p.ends[1] && !p.unit {
			out.Past = append(out.Past, fmt.Sprintf("%s (%s)", p.device, strings.Join(p.at, ", ")))
		}
	}
	if start < 0 || len(plugs[start].ends) < 2 {
		out.Open = "no unit has both its ends"
		return out
	}
	if p := &plugs[start]; p.ends[0] == p.ends[1] {
		out.Past = append(out.Past, "all of it, at "+p.device)
		return out
	}
	used := map[int]bool{start: true}
	at, home := plugs[start].ends[0], plugs[start].ends[1]
	for at != home {
		next := slices.IndexFunc(plugs, func(p loopAt) bool {
			return len(p.ends) == 2 && p.ends[0] != p.ends[1] && slices.Contains(p.ends, at)
		})
		for next >= 0 && used[next] {
			more := slices.IndexFunc(plugs[next+1:], func(p loopAt) bool {
				return len(p.ends) == 2 && p.ends[0] != p.ends[1] && slices.Contains(p.ends, at)
			})
			if more < 0 {
				next = -1
				break
			}
			next += 1 + more
		}
		if next < 0 {
			out.Open = "behind " + plugs[start].device
			if n := len(out.Through); n > 0 {
				out.Open = "behind " + out.Through[n-1]
			}
			for i := range plugs { // a plug that it comes to and does not leave
				if !used[i] && slices.Contains(plugs[i].ends, at) {
					out.Open = "at " + plugs[i].device
					break
				}
			}
			break
		}
		used[next] = true
		out.Through = append(out.Through, plugs[next].device)
		at = plugs[next].ends[0] + plugs[next].ends[1] - at
	}
	for i := range plugs {
		p := &plugs[i]
		bridged := len(p.ends) == 2 && p.ends[0] == p.ends[1]
		if i != start && !bridged && (!used[i] || out.Open == "" && closes(plugs, start, i)) {
			out.Outside = append(out.Outside, p.device)
		}
	}
	return out
}

// closes says whether the loop closes with a plug off: then that plug is by-passed, by whatever lies beside it.
func closes(plugs []loopAt, start, off int) bool {
	reached := map[int]bool{plugs[start].ends[0]: true}
	for again := true; again; {
		again = false
		for i := range plugs {
			e := plugs[i].ends
			if i == start || i == off || len(e) != 2 || reached[e[0]] == reached[e[1]] {
				continue
			}
			reached[e[0]], reached[e[1]], again = true, true, true
		}
	}
	return reached[plugs[start].ends[1]]
}

// loop says how the interlock loop stands. Draxel plans its 12 V side alone, and no step of it ever by-passes a plug.
func (it *Item) loop(sockets, lost []Socket) {
	var own []Socket
	for _, s := range sockets {
		if slices.Contains(it.Function.Ends, s.Signal.Device) {
			own = append(own, s)
		}
	}
	l := FollowLoop(own)
	for i := range lost {
		if s := &lost[i]; slices.Contains(it.Function.Ends, s.Signal.Device) && !slices.Contains(l.Gone, s.Device) {
			l.Gone = append(l.Gone, s.Device)
		}
	}
	it.Sum = &Sum{Works: l.Open == "" && len(l.Past)+len(l.Outside)+len(l.Gone) == 0, Lines: []SumLine{
		{"it goes through", strings.Join(l.Through, " → "), "each of them opens it"},
		{"who works on it", "only qualified persons: service plug out, prove dead", "local rules"},
		{"what is capped", "both ends of every high-voltage wire that is left, marked", "local rules"}}}
	if len(l.Outside) > 0 {
		it.Sum.Lines = append(it.Sum.Lines, SumLine{"not in it", strings.Join(l.Outside, ", "), ""})
	}
	switch {
	case len(l.Past) > 0:
		it.State, it.Why = Needs, "it by-passes "+strings.Join(l.Past, ", ")
		it.Sum.Says = "A plug is by-passed: it can be opened with high voltage on."
	case l.Open != "":
		it.State, it.Why = Needs, "it is open "+l.Open
		it.Sum.Says = "The loop is open " + l.Open + ": the unit grants no high voltage."
	case len(l.Gone) > 0:
		it.State, it.Why = Needs, strings.Join(l.Gone, ", ")+" was in it, and goes"
		it.Sum.Says = "A part of the loop goes: whoever is qualified says how it closes without it."
	case len(l.Outside) > 0:
		it.State, it.Why = Needs, "it closes past "+strings.Join(l.Outside, ", ")
		it.Sum.Says = "A plug is by-passed: it can be opened with high voltage on."
	default:
		it.State, it.Why, it.Sum.Says = OnPaper, "it closes through every plug", "The loop closes through every plug."
	}
	if !it.Sum.Works {
		it.need("match", it.first(), "look at its 12 V side in Match; the high-voltage side is for qualified persons")
	}
}
