package exchange

import (
	"draxel/core/diagram"
)

// inks are what insulations of IEC 60757 colours look like on paper.
var inks = map[string][3]int{
	"BK": {30, 30, 30},
	"BN": {116, 72, 31},
	"RD": {198, 42, 47},
	"OG": {226, 120, 29},
	"YE": {240, 203, 43},
	"GN": {
		46,
		139,
		69,
	},
	"BU": {43, 98, 184},
	"VT": {117, 70, 160},
	"GY": {138, 143, 148},
	"WH": {255, 255, 255},
	"PK": {236, 154, 180},
	"TQ": {47, 167, 165},
	"SR": {185, 190, 195},
	"GD": {184, 150, 62},
}

// diagram draws a drawing at a place, so many times as large.
func (p *binding) diagram(d *diagram.Drawing, x, y, scale float64) {
	at := func(q diagram.Point) (float64, float64) { return x + q.X*scale, y + q.Y*scale }
	line := func(points []diagram.Point, wide float64, ink [3]int) {
		p.SetDrawColor(ink[0], ink[1], ink[2])
		p.SetLineWidth(wide * scale)
		for k := 1; k < len(points); k++ {
			x1, y1 := at(points[k-1])
			x2, y2 := at(points[k])
			p.Line(x1, y1, x2, y2)
		}
	}
	p.SetLineCapStyle("square")
	for i := range d.Runs {
		r := &d.Runs[i]
		if r.Dotted {
			p.SetDashPattern([]float64{1.2, 1.2}, 0)
		}
		line(r.Points, 1.1, [3]int{60, 60, 60}) // an edge: white and yellow show, and a photocopy does
		base, known := inks[first(r.Colours, 0)]
		if !known {
			base = [3]int{255, 255, 255}
		}
		line(r.Points, 0.8, base)
		if tracer, known := inks[first(r.Colours, 1)]; known {
			line(r.Points, 0.25, tracer)
		}
		p.SetDashPattern(nil, 0)
	}
	p.SetLineCapStyle("butt")
	for i := range d.Symbols {
		p.symbol(&d.Symbols[i], at, scale)
	}
	p.SetTextColor(0, 0, 0)
	for _, t := range d.Texts {
		p.SetFont("text", styleOf(t.Bold), t.Size*scale*ptPerMM)
		tx, ty := at(diagram.Point{X: t.X, Y: t.Y})
		p.Text(tx, ty, printable(t.Words))
	}
}

func first(all []string, k int) string {
	if k < len(all) {
		return all[k]
	}
	return ""
}

// symbol draws a symbol in our plain hand, after the general ideas of IEC 60617.
func (p *binding) symbol(s *diagram.Placed, at func(diagram.Point) (float64, float64), scale float64) {
	p.SetDrawColor(30, 30, 30)
	p.SetLineWidth(0.25 * scale)
	x, y := at(diagram.Point{X: s.X, Y: s.Y})
	wide, high := s.Wide*scale, s.High*scale
	top, bottom := y, y+high // of its rows
	for i := range s.Ports {
		_, py := at(s.Ports[i].At)
		if i == 0 {
			top, bottom = py, py
		}
		top, bottom = min(top, py), max(bottom, py)
	}
	if len(s.Ports) == 0 {
		top, bottom = y+high/2, y+high/2
	}
	middle := x + wide/2
	reach := func() { // from each port to the middle
		for i := range s.Ports {
			px, py := at(s.Ports[i].At)
			p.Line(px, py, middle, py)
		}
		p.Line(middle, top, middle, bottom)
	}
	switch s.Kind {
	case diagram.Splice:
		reach()
		p.SetFillColor(30, 30, 30)
		p.Circle(middle, (top+bottom)/2, 0.9*scale, "F")
	case diagram.Joint:
		reach()
		p.SetFillColor(255, 255, 255)
		m, r := (top+bottom)/2, 1.4*scale
		p.diamond(middle, m, r)
	case diagram.Plug:
		for i := range s.Ports {
			px, py := at(s.Ports[i].At)
			half := middle + 0.6*scale
			if !s.Ports[i].Right {
				half = middle - 0.6*scale
			}
			p.Line(px, py, half, py)
			p.Line(half, py-1.6*scale, half, py+1.6*scale)
		}
	case diagram.Ground:
		reach()
		for k, r := range []float64{2.2, 1.4, 0.6} {
			gy := bottom + (1.4+0.9*float64(k))*scale
			p.Line(middle-r*scale, gy, middle+r*scale, gy)
		}
		p.Line(middle, bottom, middle, bottom+1.4*scale)
	case diagram.Stub:
		reach()
		r := 0.9 * scale
		p.Line(middle-r, top-r, middle+r, top+r)
		p.Line(middle-r, top+r, middle+r, top-r)
	case diagram.Fuse:
		reach()
		p.SetFillColor(255, 255, 255)
		p.Rect(middle-3.4*scale, (top+bottom)/2-1.4*scale, 6.8*scale, 2.8*scale, "FD")
		p.Line(middle-3.4*scale, (top+bottom)/2, middle+3.4*scale, (top+bottom)/2)
	default:
		p.Rect(x, y, wide, high, "D")
	}
}

func (p *binding) diamond(x, y, r float64) {
	p.MoveTo(x-r, y)
	p.LineTo(x, y-r)
	p.LineTo(x+r, y)
	p.LineTo(x, y+r)
	p.ClosePath()
	p.DrawPath("FD")
}
