package match

import (
	"fmt"
	"slices"

	"draxel/core/harness"
)

// Met says how a To connector is met by the finished harness.
type Met string

// The ways to meet a connector. The zero value is a new housing.
const (
	NewHousing Met = "new"     // a new housing, to be filled
	SameAs     Met = "kept"    // a From housing that is kept
	Stays      Met = "stays"   // it stays with its wires: a body plug, the old unit's plug, somebody's locked half
	PlugsOnto  Met = "plugs"   // it plugs straight onto a From connector, cavity facing cavity
	NoConcern  Met = "ignored" // of no concern: nothing in it takes part
)

// Mets lists them in the order in which they are offered.
func Mets() []Met { return []Met{SameAs, NewHousing, Stays, PlugsOnto, NoConcern} }

// Meeting says how one To connector is met. With is the From connector of SameAs and PlugsOnto.
type Meeting struct {
	Met  Met    `json:"met"`
	With string `json:"with,omitempty"`
}

// Check says why a connector cannot be met like that.
func (m *Meeting) Check() error {
	if !slices.Contains(Mets(), m.Met) {
		return fmt.Errorf("a connector is not met as %q", m.Met)
	}
	return nil
}

// Meetings say it of all, by To connector; one that is not in them is a new housing.
type Meetings map[string]Meeting

// Kept is what jobs kept before there were other ways to meet a connector: by To connector the From housing that it is.
type Kept map[string]string

// Meetings gives the same as meetings.
func (k Kept) Meetings() Meetings {
	m := Meetings{}
	for to, from := range k {
		m[to] = Meeting{SameAs, from}
	}
	return m
}

// SameNames keeps the housings that have the same name on both sides, which is what is assumed until a person says
// otherwise.
func SameNames(from, to harness.Pinout) Meetings {
	m := Meetings{}
	for _, c := range to.Connectors {
		if _, ok := from.Connector(c.ID); ok {
			m[c.ID] = Meeting{SameAs, c.ID}
		}
	}
	return m
}

// Check says why meetings cannot be: a From housing that is kept or plugged onto twice, a connector that is not there.
func (m Meetings) Check(from, to harness.Pinout) error {
	used := map[string]string{}
	for _, id := range sortedKeys(m) {
		x := m[id]
		if _, ok := to.Connector(id); !ok {
			return fmt.Errorf("there is no connector %s", id)
		}
		if !slices.Contains(Mets(), x.Met) {
			return fmt.Errorf("a connector is not met as %q", x.Met)
		}
		if x.Met != SameAs && x.Met != PlugsOnto {
			continue
		}
		if _, ok := from.Connector(x.With); !ok {
			return fmt.Errorf("there is no connector %s for %s", x.With, id)
		}
		if other, twice := used[x.With]; twice {
			return fmt.Errorf("the housing %s cannot be both %s and %s", x.With, other, id)
		}
		used[x.With] = id
	}
	return nil
}

// housing gives the From housing that a To connector is or plugs onto, empty where it is none.
func (m Meetings) housing(to string) string {
	if x := m[to]; x.Met == SameAs || x.Met == PlugsOnto {
		return x.With
	}
	return ""
}

// Way is how a matched wire comes to its counterpart.
type Way string

// The ways. The zero value is the one that is proposed.
const (
	Proposed Way = ""
	Move     Way = "move"      // the terminal moves as it is
	Renew    Way = "renew"     // it is cut off and a new one crimped on
	TakeOver Way = "take-over" // the vehicle's wire is cut off its old source and joined
	Tap      Way = "tap"       // joined onto the vehicle's wire, which nobody cuts
	Into     Way = "into"      // the vehicle's terminal is drawn and ours goes into its cavity
	Plugged  Way = "plugged"   // it faces its counterpart already
	Lead     Way = "new-wire"  // a new wire, from a plug put onto the From connector
)

// Ways lists them.
func Ways() []Way { return []Way{Move, Renew, TakeOver, Tap, Into, Plugged, Lead} }

// OriginKind says what a new wire begins at.
type OriginKind string

// The kinds of origin. The zero value is none: nobody has said.
const (
	AtCavity OriginKind = "cavity" // a cavity of a harness: joined onto its wire, or a new terminal where it is empty
	AtSplice OriginKind = "splice" // a splice of a harness
	AtFuse   OriginKind = "fuse"   // a fuse, by name
	AtGround OriginKind = "ground" // a ground point, by name
	OpenEnd  OriginKind = "open"   // it waits for its source, and somebody sees to it
)

// OriginKinds lists them.
func OriginKinds() []OriginKind { return []OriginKind{AtCavity, AtSplice, AtFuse, AtGround, OpenEnd} }

// Origin is what a new wire begins at.
type Origin struct {
	Kind  OriginKind  `json:"kind,omitempty"`
	At    harness.Ref `json:"at,omitzero"`     // of AtCavity, a cavity of the model
	Name  string      `json:"name,omitempty"`  // of a splice, a fuse or a ground point
	Owner string      `json:"owner,omitempty"` // of OpenEnd: who sees to it
}

// Check says why an origin cannot be.
func (o Origin) Check() error {
	switch {
	case !slices.Contains(OriginKinds(), o.Kind):
		return fmt.Errorf("a wire cannot begin at %q", o.Kind)
	case o.Kind == AtCavity && o.At.Cavity == "":
		return fmt.Errorf("say which cavity the wire begins at")
	case o.Kind == OpenEnd && o.Owner == "":
		return fmt.Errorf("say who sees to the open end")
	case o.Kind != AtCavity && o.Kind != OpenEnd && o.Name == "":
		return fmt.Errorf("say which %s the wire begins at", o.Kind)
	}
	return nil
}

// String names the origin as people do.
func (o Origin) String() string {
	switch o.Kind {
	case AtCavity:
		return o.At.String()
	case AtSplice:
		return "splice " + o.Name
	case AtFuse, AtGround:
		return o.Name
	case OpenEnd:
		return "an open end, seen to by " + o.Owner
	}
	return "nothing yet"
}
