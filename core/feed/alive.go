package feed

import "draxel/core/network"

// Alive says how a point, a wire or a device stands in a state.
type Alive string

// How it can stand: a point or a wire is fed, has no volts, is joined to nothing that has any, or gets them only
// through something that uses current; a device works, or it does not.
const (
	Fed      Alive = "live"
	Dead     Alive = "dead"
	Floating Alive = "floating"
	FedBack  Alive = "back"
	Works    Alive = "works"
	Stands   Alive = "stands"
)

// alive says how a node stands, where fed are those that a source reaches by copper and closed contacts.
func alive(s *network.State, fed map[int32]bool, node int32) Alive {
	switch {
	case s.Floating[node]:
		return Floating
	case s.Volts[node] < 1:
		return Dead
	case !fed[node]:
		return FedBack
	default:
		return Fed
	}
}

// FedThing is what a thing of the tree of feeds, or a line of its table, is.
type FedThing string

// What hangs in the tree, then what only the table has.
const (
	ASource  FedThing = "source"
	AFuse    FedThing = "fuse"
	ASwitch  FedThing = "switch"
	ARelay   FedThing = "relay" // the contact of one
	AnOutput FedThing = "output"
	AUnit    FedThing = "unit"
	ALoad    FedThing = "load"
	ALamp    FedThing = "lamp"
	AWire    FedThing = "wire"
	ACable   FedThing = "cable"
	ADevice  FedThing = "device"
	AKey     FedThing = "key"
)
