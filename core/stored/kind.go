package stored

import (
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/thin"
)

// Kind is a kind of job.
type Kind string

// The kinds of job.
const (
	Standalone   Kind = "standalone"
	Integrated   Kind = "integrated"
	Repinned     Kind = "re-pinned"
	Grown        Kind = "grown"
	Adapter      Kind = "adapter"
	Exchange     Kind = "controller-exchange"
	Bought       Kind = "bought"
	Classic      Kind = "classic"
	Bulkhead     Kind = "bulkhead"
	Transplant   Kind = "transplant"
	Electric     Kind = "electric"
	ThinningOnly Kind = "thinning"
	Sensor       Kind = "sensor"
)

// KindInfo is what a person reads of a kind.
type KindInfo struct {
	ID      Kind     `json:"id"`
	Name    string   `json:"name"`
	Meaning string   `json:"meaning"`
	Moves   bool     `json:"moves"`  // its work is terminal moves, which Pin plans
	Stages  []string `json:"stages"` // the stages that matter; the others can be used all the same
}

// The stages that a kind of job needs, in the order of work.
var (
	wholeWork = []string{"gather", "match", "thin", "pin", "reach", "feed"}
	movesOnly = []string{"gather", "match", "pin"}
	joinsOnly = []string{"gather", "match", "reach", "feed"}
	thinOnly  = []string{"gather", "thin", "pin"}
)

// Kinds lists the kinds in the order in which they are offered.
func Kinds() []KindInfo {
	return []KindInfo{
		{
			Repinned,
			"Re-pinned harness",
			"Existing wires are moved, cavity by cavity, to another unit's connectors.",
			true,
			wholeWork,
		},
		{Grown, "Grown harness", "Same family, more cylinders: circuits added, others permuted.", true, wholeWork},
		{
			Exchange,
			"Controller exchange",
			"Several plugs of one controller become the plug of another, or the reverse.",
			true,
			movesOnly,
		},
		{
			Sensor,
			"Sensor adaptation",
			"One sensor with another keyway or another order of the same wires.",
			true,
			movesOnly,
		},
		{
			Integrated,
			"Integrated harness",
			"The engine harness ends in the chassis's own plugs, fuses and relays.",
			false,
			wholeWork,
		},
		{
			Standalone,
			"Standalone harness",
			"The donor harness reduced to the engine, with its own fuse and relay block.",
			false,
			wholeWork,
		},
		{
			Adapter,
			"Adapter harness",
			"A new unit behind the factory plugs, through a short harness.",
			false,
			joinsOnly,
		},
		{
			Bulkhead,
			"Bulkhead clean-out",
			"Only the engine half of a bulkhead plug changes; the body half is locked.",
			false,
			wholeWork,
		},
		{
			Bought,
			"Bought harness",
			"Plugs onto engine and unit as delivered; feeds and body side remain.",
			false,
			joinsOnly,
		},
		{Classic, "Classic", "A new engine harness, the old body harness sorted, the gauges kept.", false, wholeWork},
		{
			Transplant,
			"Whole electrical transplant",
			"The donor's body harness, modules and dash move too.",
			false,
			wholeWork,
		},
		{
			Electric,
			"Electric transplant",
			"As a transplant, with high voltage, which is left to qualified hands.",
			false,
			wholeWork,
		},
		{ThinningOnly, "Thinning only", "What is not used comes out, the rest is left as made.", false, thinOnly},
	}
}

// Info gives what is known of the kind, and false when there is no such kind.
func (k Kind) Info() (KindInfo, bool) {
	for _, i := range Kinds() {
		if i.ID == k {
			return i, true
		}
	}
	return KindInfo{}, false
}

// MovesTerminals says whether matched wires are carried over by moving their terminals. In the other kinds they are
// joined onto the other harness.
func (k Kind) MovesTerminals() bool {
	i, _ := k.Info()
	return i.Moves
}

// School gives how a kind of job usually deals with dead ends: what is moved about later is extracted, what is only
// made lighter keeps a spare. Common practice, no source; a job can say otherwise.
func (k Kind) School() thin.School {
	switch k {
	case ThinningOnly, Classic, Transplant:
		return thin.CutSeal
	default:
		return thin.Extract
	}
}

// Meetings gives how the To connectors of a kind of job are met until a person says otherwise.
func (k Kind) Meetings(from, to harness.Pinout) match.Meetings {
	same := match.SameNames(from, to)
	m := match.Meetings{}
	for _, c := range to.Connectors {
		switch x, alike := same[c.ID]; {
		case k.MovesTerminals() && alike:
			m[c.ID] = x
		case k == Adapter, k.MovesTerminals():
			m[c.ID] = match.Meeting{Met: match.NewHousing}
		case k == Bulkhead && (alike || len(from.Connectors) == 1 && len(to.Connectors) == 1):
			m[c.ID] = match.Meeting{Met: match.PlugsOnto, With: from.Connectors[0].ID}
			if alike {
				m[c.ID] = match.Meeting{Met: match.PlugsOnto, With: c.ID}
			}
		case k == Bought && alike:
			m[c.ID] = match.Meeting{Met: match.PlugsOnto, With: c.ID}
		default:
			m[c.ID] = match.Meeting{Met: match.Stays}
		}
	}
	return m
}

// Vehicle gives the side on which the vehicle's own wiring is, where wires are joined: what is measured first, and
// cut off its old source.
func (k Kind) Vehicle() match.Side {
	if k == Integrated {
		return match.From
	}
	return match.To
}
