package handover

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/diagram"
	"draxel/core/harness"
)

// Stickers lists the labels of some kinds, of one connector where that is given: wires at both ends and at each
// joint, cavities, connectors, fuses, ground points. In the order in which hands go along.
func Stickers(in Input, kinds []StickerKind, connector string) []Sticker {
	b := bind(in)
	out := []Sticker{}
	want := func(k StickerKind) bool { return slices.Contains(kinds, k) }
	add := func(s Sticker) {
		if connector == "" || s.Plug == connector {
			out = append(out, s)
		}
	}
	for i := range b.all {
		l := &b.all[i]
		for end := range l.Ends {
			e, other := l.Ends[end], l.Ends[1-end]
			kind := b.symbols[e.Symbol].kind
			switch {
			case want(OnWire) && (e.Cavity.Connector != "" || kind == stub):
				add(
					Sticker{
						OnWire,
						cutName(l.Name),
						strings.Trim(e.At+" → "+other.At, " →"),
						e.Cavity.Connector,
						l.Whole(),
					},
				)
			case want(OnJoint) && (kind == joint || kind == splice):
				add(Sticker{OnJoint, cutName(l.Name), e.At, other.Cavity.Connector, l.Whole()})
			}
		}
	}
	if want(OnCavity) || want(OnConnector) {
		for i := range b.in.Connectors {
			h := &b.in.Connectors[i]
			if want(OnConnector) {
				where := h.Device
				if h.Mate != "" {
					where = "onto " + h.Mate
				}
				add(Sticker{OnConnector, h.ID, where, h.ID, ""})
			}
			for _, cavity := range h.Cavities {
				at := harness.Ref{Connector: h.ID, Cavity: cavity}
				if want(OnCavity) {
					add(Sticker{OnCavity, fmt.Sprintf("%d/%s", h.Ways(), cavity), at.String(), h.ID, ""})
				}
			}
		}
	}
	if want(OnFuse) {
		for i := range b.in.Inside.Slots {
			s := &b.in.Inside.Slots[i]
			plug := ""
			if at, is := b.cavity(s.In); is {
				plug = at.Connector
			}
			add(Sticker{OnFuse, s.Name, strings.Join(amps(s.Rating), ""), plug, ""})
		}
	}
	if want(OnGround) {
		for _, id := range b.named(diagram.Ground) {
			add(Sticker{OnGround, b.symbols[id].title, "ground", "", ""})
		}
	}
	return out
}

// cutName gives the name that is written on a wire: of a stub or a piece what tells it.
func cutName(name harness.WireID) string {
	if name.Piece() == harness.Successor {
		name = name.Of()
	}
	return name.Name()
}
