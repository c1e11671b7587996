package desk

import (
	"draxel/core/face"
	"draxel/core/harness"
	"draxel/core/wanted"
)

// Face is a connector's face from both sides, drawn from one numbering.
type Face struct {
	Wire   face.Drawing `json:"wire"`
	Mating face.Drawing `json:"mating"`
}

// CavityWire is the wire that is in a cavity now, by its row; a plug has none.
type CavityWire struct {
	At      harness.Ref `json:"at"`
	Row     harness.Row `json:"row,omitzero"`
	Plugged bool        `json:"plugged,omitempty"`
}

// Drawn gives a layout as a face.
func Drawn(l face.Layout) Face {
	return Face{Wire: l.Draw(face.WireSide), Mating: l.Draw(face.MatingFace)}
}

// FacesOf gives the faces of connectors, by connector.
func FacesOf(all []harness.Connector) map[string]Face {
	out := map[string]Face{}
	for _, h := range all {
		out[h.ID] = Drawn(h.Shape())
	}
	return out
}

// CavityWires lists what is in the cavities of the plan's housings now.
func (j *Computed) CavityWires() []CavityWire {
	rows := map[harness.TerminalID]harness.Row{}
	for _, r := range wanted.Rows(&j.Facts, j.Plan().Housings) {
		rows[harness.TerminalAt(r.Ref)] = r
	}
	for _, r := range j.Facts.To.Rows {
		rows[harness.TerminalID(harness.NewWire(r.Ref.String()))] = r
	}
	out := []CavityWire{}
	for _, at := range j.Plan().Pin.Now.Cavities() {
		t, full := j.Plan().Pin.Now.In(at)
		if full || j.Plan().Pin.Now.Plugged(at) {
			out = append(out, CavityWire{At: at, Row: rows[t], Plugged: !full})
		}
	}
	return out
}
