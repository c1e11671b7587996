package face

// Box is a rectangle of a drawing; one cavity of 1.5 mm is 1 wide and 1 high.
type Box struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	W float64 `json:"w"`
	H float64 `json:"h"`
}

// Cell is a cavity of a drawing.
type Cell struct {
	Box
	Name string `json:"name"`
}

// Drawing is a face as seen from one side. The rows go from the top; Row ends are for writing the first and last name
// beside them.
type Drawing struct {
	View  View    `json:"view"`
	Words string  `json:"words"` // the view and how the housing is held: "wire side, lock at the top"
	W     float64 `json:"w"`
	H     float64 `json:"h"`
	Cells []Cell  `json:"cells"`
	Rows  []int   `json:"rows"` // how many cells each row has
	Lock  Box     `json:"lock"`
	Keys  []Box   `json:"keys"`
}

const (
	edge   = 0.25 // between the housing's edge and its cavities
	latchW = 3.0  // the lock, along its edge
	latchH = 0.5
	ribW   = 0.4
)

// side gives the edge of a cavity's square for a contact of the width in mm: larger contacts need larger cavities, in
// proportions that can still be read.
func side(blade float64) float64 {
	switch {
	case blade <= 0:
		return 1
	case blade < 1:
		return 0.85
	case blade <= 2:
		return 1
	case blade <= 4:
		return 1.35
	case blade <= 7:
		return 1.8
	}
	return 2.3
}

// Draw lays the face out as seen from the side. Rows of different length are centred, then shifted.
func (l Layout) Draw(v View) Drawing {
	if v == MatingFace {
		l = l.Mirrored()
	}
	d := Drawing{View: v, Cells: []Cell{}, Rows: []int{}, Keys: []Box{}}
	widths, heights := make([]float64, len(l.Rows)), make([]float64, len(l.Rows))
	left, right := 0.0, 0.0 // how far the rows reach to either side of the middle
	for r, row := range l.Rows {
		heights[r] = 0.3
		for _, s := range row.Slots {
			if s.Gap > 0 {
				widths[r] += s.Gap
				continue
			}
			widths[r] += side(s.Blade)
			heights[r] = max(heights[r], side(s.Blade))
		}
		left, right = max(left, widths[r]/2-row.Shift), max(right, widths[r]/2+row.Shift)
	}
	d.W = left + right + 2*edge
	y := edge
	for r, row := range l.Rows {
		x := edge + left - widths[r]/2 + row.Shift
		n := 0
		for _, s := range row.Slots {
			if s.Gap > 0 {
				x += s.Gap
				continue
			}
			a := side(s.Blade)
			d.Cells = append(d.Cells, Cell{Box{x, y + (heights[r]-a)/2, a, a}, s.Name})
			x += a
			n++
		}
		d.Rows = append(d.Rows, n)
		y += heights[r]
	}
	d.H = y + edge
	d.Lock = d.along(l.Lock, 0.5, min(latchW, 0.8*d.W), latchH)
	for _, k := range l.Keys {
		d.Keys = append(d.Keys, d.along(k.Side, k.At, ribW, ribW/2))
	}
	at := l.Lock
	if at == "" {
		at = Top
	}
	d.Words = v.String() + ", lock at the " + string(at)
	return d
}

// along gives a box outside an edge of the drawing, so far along it.
func (d *Drawing) along(s Side, at, length, thick float64) Box {
	switch s {
	case Bottom:
		return Box{at*d.W - length/2, d.H, length, thick}
	case Left:
		return Box{-thick, at*d.H - min(length, d.H)/2, thick, min(length, d.H)}
	case Right:
		return Box{d.W, at*d.H - min(length, d.H)/2, thick, min(length, d.H)}
	default:
		return Box{at*d.W - length/2, -thick, length, thick}
	}
}
