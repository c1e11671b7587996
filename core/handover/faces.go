package handover

import (
	"fmt"

	"draxel/core/colour"
	"draxel/core/face"
	"draxel/core/harness"
)

// Face is the face of a connector with what is in each of its cavities.
type Face struct {
	ID      string
	Title   string // "Plug A, 52-way, at VK-2"
	Words   string // from which side it is seen, and what of it is assumed
	Drawing face.Drawing
	In      map[string]Filled // by cavity; one that is not in it is empty
}

// Filled is what is in a cavity.
type Filled struct {
	Colours []colour.Code // IEC 60757: base, tracer
	Text    string        // the colour's code
	Planned bool
	More    int // further wires in the terminal
}

// Faces gives the face of every connector that the harness has, seen from the wire side.
func Faces(in Input) []Face {
	b := bind(in)
	filled := map[harness.Ref]Filled{}
	for i := range b.all {
		l := &b.all[i]
		for _, e := range l.Ends {
			if e.Cavity.Connector == "" {
				continue
			}
			x, there := filled[e.Cavity]
			if there {
				x.More++
			} else {
				x = Filled{Text: l.Colour.String()}
				for _, part := range l.Colour.Parts {
					x.Colours = append(x.Colours, part.Code)
				}
			}
			x.Planned = x.Planned || l.Planned
			filled[e.Cavity] = x
		}
	}
	out := []Face{}
	for i := range in.Connectors {
		h := &in.Connectors[i]
		if len(h.Cavities) == 0 {
			continue
		}
		d := h.Shape().Draw(face.WireSide)
		f := Face{ID: h.ID, Title: fmt.Sprintf("%s, %d-way", h.ID, h.Ways()), Words: d.Words,
			Drawing: d, In: map[string]Filled{}}
		switch {
		case in.Harness.Free(h.ID):
			f.Title += ", hangs free"
		case h.Mate != "":
			f.Title += ", onto " + h.Mate
		case h.Device != "":
			f.Title += ", at " + h.Device
		}
		if h.Assumed {
			f.Words += "; rows assumed: check the numbers"
		}
		for _, cavity := range h.Cavities {
			if x, full := filled[harness.Ref{Connector: h.ID, Cavity: cavity}]; full {
				f.In[cavity] = x
			}
		}
		out = append(out, f)
	}
	return out
}
