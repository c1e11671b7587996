package handover

import "draxel/core/harness"

// Sheet is a page or two for somebody else: the fitter, the programmer, the inspector, the second person, whoever
// goes to the yard.
type Sheet struct {
	ID    string      `json:"id"`
	Title string      `json:"title"`
	For   string      `json:"for"` // who it is for, and what it is good for
	Parts []SheetPart `json:"parts"`
}

// SheetPart is a part of a sheet.
type SheetPart struct {
	Title string   `json:"title"`
	Lines []string `json:"lines"`
	Boxes bool     `json:"boxes,omitempty"` // each line has a box to tick
	Empty string   `json:"empty,omitempty"` // what stands there where there is no line
}

// StickerKind says what a sticker is put on.
type StickerKind string

// The kinds of stickers.
const (
	OnWire      StickerKind = "wire"      // at both its ends
	OnJoint     StickerKind = "joint"     // at each of its wires
	OnCavity    StickerKind = "cavity"    // "24/7": the seventh of the 24-way
	OnConnector StickerKind = "connector" // a plug
	OnFuse      StickerKind = "fuse"
	OnGround    StickerKind = "ground"
)

// StickerKinds lists them.
func StickerKinds() []StickerKind {
	return []StickerKind{OnWire, OnJoint, OnCavity, OnConnector, OnFuse, OnGround}
}

// Sticker is a label.
type Sticker struct {
	Kind  StickerKind    `json:"kind"`
	Text  string         `json:"text"`            // large
	Under string         `json:"under,omitempty"` // small
	Plug  string         `json:"plug,omitempty"`  // the connector that it belongs to
	Wire  harness.WireID `json:"wire,omitempty"`  // the whole wire that it leads to
}
