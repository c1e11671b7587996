package wanted

import (
	"fmt"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
	"draxel/core/stored"
)

// Way is how a matched wire comes to its counterpart: the way that holds, the one that is proposed with its reason, and
// those that there are to choose from.
type Way struct {
	From     harness.Ref `json:"from"`
	To       harness.Ref `json:"to"`
	Way      match.Way   `json:"way"`
	Proposed match.Way   `json:"proposed"`
	Why      string      `json:"why"`
	Choices  []match.Way `json:"choices"`
	Chosen   bool        `json:"chosen,omitempty"` // by a person
}

// WayReads is what Ways follow from.
type WayReads struct {
	Facts *fact.Facts
	Match *match.Result
	Off   []string // connectors that come off
}

// Ways says of every matched wire, decided or offered, how it comes to its counterpart.
func Ways(in WayReads) *[]Way {
	f, r, out := in.Facts, in.Match, []Way{}
	mates := map[string]string{}
	locked := map[string]bool{}
	for i := range f.Laid.Loom.Connectors {
		h := &f.Laid.Loom.Connectors[i]
		mates[h.ID], locked[h.ID] = h.Mate, h.Locked
	}
	off := map[string]bool{}
	for _, c := range in.Off {
		off[c] = true
	}
	for i := range r.Lines {
		l := &r.Lines[i]
		if !l.Feeds() {
			continue
		}
		w := Way{From: l.From, To: l.To}
		switch m := f.Meetings[l.To.Connector]; {
		case l.Verdict == match.Meets:
			proposeJoint(f, &w, f.Pair(l), mates, locked, off)
		case l.Verdict == match.Faces:
			w.Proposed, w.Why, w.Choices = match.Plugged, "The cavities face each other: nothing is done.", []match.Way{
				match.Plugged,
			}
		case f.Kind == stored.Adapter && m.Met == match.NewHousing:
			w.Proposed, w.Why, w.Choices = match.Lead, "The factory plug stays as it is: a plug is put onto it, and a new "+
				"wire leads from there.", []match.Way{
				match.Lead,
				match.Move,
				match.Renew,
			}
		default:
			w.Proposed, w.Why, w.Choices = match.Move, "The terminal comes out and goes in as it is.", []match.Way{
				match.Move,
				match.Renew,
			}
			if m.Met == match.NewHousing {
				w.Choices = append(w.Choices, match.Lead)
			}
		}
		w.Way = w.Proposed
		for _, c := range w.Choices {
			if l.Way == c {
				w.Way, w.Chosen = c, true
			}
		}
		out = append(out, w)
	}
	return &out
}

// wayOf gives the ways by From cavity.
func wayOf(all []Way) map[harness.Ref]match.Way {
	out := make(map[harness.Ref]match.Way, len(all))
	for _, w := range all {
		out[w.From] = w.Way
	}
	return out
}

// proposeJoint says how a wire is joined onto one that stays.
func proposeJoint(f *fact.Facts, w *Way, x fact.Pairing, mates map[string]string, locked, off map[string]bool) {
	w.Choices = []match.Way{match.TakeOver, match.Tap}
	plug := mates[x.Vehicle.Connector] != ""
	if !locked[x.Vehicle.Connector] && !off[x.Vehicle.Connector] {
		w.Choices = append(w.Choices, match.Into)
	}
	role := f.RoleAt(x.Vehicle)
	switch {
	case off[x.Vehicle.Connector]:
		w.Proposed, w.Why = match.TakeOver, fmt.Sprintf(
			"%s comes off: its wire loses its old source and gets a new one.",
			x.Vehicle.Connector,
		)
	case locked[x.Vehicle.Connector]:
		w.Proposed, w.Why = match.Tap, fmt.Sprintf(
			"%s is somebody else's: nothing of it is cut.",
			x.Vehicle.Connector,
		)
	case plug:
		w.Proposed, w.Why = match.Into, fmt.Sprintf(
			"%s plugs into %s: ours goes into its cavity, and the plug stays a plug.",
			x.Vehicle.Connector,
			mates[x.Vehicle.Connector],
		)
	case role == signal.Battery,
		role == signal.Ignition,
		role == signal.Ground,
		role == signal.SensorGround,
		role == signal.Start:
		w.Proposed, w.Why = match.Tap, "It is a feed or a ground, and others may hang on it: it is joined onto, and "+
			"nothing is cut."
	default:
		w.Proposed, w.Why = match.TakeOver, "Two sources on one wire would fight: it is cut off the old one."
	}
}
