package exchange

import (
	"fmt"
	"strings"

	"draxel/core/colour"
	"draxel/core/diagram"
	"draxel/core/handover"
)

// inks are what insulations of IEC 60757 colours look like on paper.
var inks = map[colour.Code]ink{
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

// ink is a colour of what is drawn: red, green, blue of 255.
type ink [3]int

var (
	black = ink{30, 30, 30}
	edge  = ink{60, 60, 60} // of a wire: white and yellow show, and a photocopy does
	paper = ink{255, 255, 255}
)

// pen draws on something; all lengths are mm, of the drawing.
type pen interface {
	stroke(points []diagram.Point, wide float64, colour ink, dotted bool)
	shape(points []diagram.Point, fill ink) // closed, with a thin edge
	disc(at diagram.Point, r float64)
	words(at diagram.Point, size float64, bold bool, text string)
}

// thin is the width of the lines of symbols, mm.
const thin = 0.25

// sketch draws a drawing: the same on paper and in an SVG.
func sketch(p pen, d *diagram.Drawing) {
	for i := range d.Runs {
		r := &d.Runs[i]
		p.stroke(r.Points, 1.1, edge, r.Dotted)
		base, known := inks[first(r.Colours, 0)]
		if !known {
			base = paper
		}
		p.stroke(r.Points, 0.8, base, r.Dotted)
		if tracer, known := inks[first(r.Colours, 1)]; known {
			p.stroke(r.Points, 0.25, tracer, r.Dotted)
		}
	}
	for i := range d.Symbols {
		symbol(p, &d.Symbols[i])
	}
	for _, t := range d.Texts {
		p.words(diagram.Point{X: t.X, Y: t.Y}, t.Size, t.Bold, printable(t.Words))
	}
}

func first(all []colour.Code, k int) colour.Code {
	if k < len(all) {
		return all[k]
	}
	return ""
}

// symbol draws a symbol in our plain hand, after the general ideas of IEC 60617.
func symbol(p pen, s *diagram.Placed) {
	line := func(x1, y1, x2, y2 float64) {
		p.stroke([]diagram.Point{{X: x1, Y: y1}, {X: x2, Y: y2}}, thin, black, false)
	}
	box := func(x, y, wide, high float64) {
		p.shape([]diagram.Point{{X: x, Y: y}, {X: x + wide, Y: y}, {X: x + wide, Y: y + high}, {X: x, Y: y + high}},
			paper)
	}
	top, bottom := s.Y+s.High/2, s.Y+s.High/2 // of its rows
	for i := range s.Ports {
		y := s.Ports[i].At.Y
		if i == 0 {
			top, bottom = y, y
		}
		top, bottom = min(top, y), max(bottom, y)
	}
	middle, centre := s.X+s.Wide/2, (top+bottom)/2
	if s.Kind == diagram.Plug {
		for i := range s.Ports {
			at, half := s.Ports[i].At, middle+0.6
			if !s.Ports[i].Right {
				half = middle - 0.6
			}
			line(at.X, at.Y, half, at.Y)
			line(half, at.Y-1.6, half, at.Y+1.6)
		}
		return
	}
	if s.Kind == diagram.Box || s.Kind == diagram.Relay {
		box(s.X, s.Y, s.Wide, s.High)
		return
	}
	for i := range s.Ports { // from each port to the middle
		line(s.Ports[i].At.X, s.Ports[i].At.Y, middle, s.Ports[i].At.Y)
	}
	line(middle, top, middle, bottom)
	switch s.Kind {
	case diagram.Splice:
		p.disc(diagram.Point{X: middle, Y: centre}, 0.9)
	case diagram.Joint:
		const r = 1.4
		p.shape([]diagram.Point{{X: middle - r, Y: centre}, {X: middle, Y: centre - r}, {X: middle + r, Y: centre},
			{X: middle, Y: centre + r}}, paper)
	case diagram.Ground:
		for k, r := range []float64{2.2, 1.4, 0.6} {
			y := bottom + 1.4 + 0.9*float64(k)
			line(middle-r, y, middle+r, y)
		}
		line(middle, bottom, middle, bottom+1.4)
	case diagram.Stub:
		line(middle-0.9, top-0.9, middle+0.9, top+0.9)
		line(middle-0.9, top+0.9, middle+0.9, top-0.9)
	case diagram.Fuse:
		box(middle-3.4, centre-1.4, 6.8, 2.8)
		line(middle-3.4, centre, middle+3.4, centre)
	case diagram.Box, diagram.Relay, diagram.Plug:
	}
}

// onPaper is a pen on a page, at a place and so many times as large.
type onPaper struct {
	pdf         *printout
	x, y, scale float64
}

func (p onPaper) at(q diagram.Point) (float64, float64) { return p.x + q.X*p.scale, p.y + q.Y*p.scale }

func (p onPaper) stroke(points []diagram.Point, wide float64, colour ink, dotted bool) {
	p.pdf.SetDrawColor(colour[0], colour[1], colour[2])
	p.pdf.SetLineWidth(wide * p.scale)
	if wide > thin {
		p.pdf.SetLineCapStyle("square")
	} else {
		p.pdf.SetLineCapStyle("butt")
	}
	if dotted {
		p.pdf.SetDashPattern([]float64{1.2, 1.2}, 0)
		defer p.pdf.SetDashPattern(nil, 0)
	}
	for k := 1; k < len(points); k++ {
		x1, y1 := p.at(points[k-1])
		x2, y2 := p.at(points[k])
		p.pdf.Line(x1, y1, x2, y2)
	}
}

func (p onPaper) shape(points []diagram.Point, fill ink) {
	p.pdf.SetDrawColor(black[0], black[1], black[2])
	p.pdf.SetFillColor(fill[0], fill[1], fill[2])
	p.pdf.SetLineWidth(thin * p.scale)
	for k, q := range points {
		x, y := p.at(q)
		if k == 0 {
			p.pdf.MoveTo(x, y)
		} else {
			p.pdf.LineTo(x, y)
		}
	}
	p.pdf.ClosePath()
	p.pdf.DrawPath("FD")
}

func (p onPaper) disc(at diagram.Point, r float64) {
	x, y := p.at(at)
	p.pdf.SetFillColor(black[0], black[1], black[2])
	p.pdf.Circle(x, y, r*p.scale, "F")
}

func (p onPaper) words(at diagram.Point, size float64, bold bool, text string) {
	x, y := p.at(at)
	p.pdf.SetTextColor(0, 0, 0)
	p.pdf.SetFont("text", styleOf(bold), size*p.scale*ptPerMM)
	p.pdf.Text(x, y, text)
}

// GoesOn says of what is drawn on a page on which other pages it goes on, empty where all of it is there.
func GoesOn(page *handover.Page) string {
	text := make([]string, len(page.Goes))
	for i, m := range page.Goes {
		numbers := make([]string, len(m.On))
		for k, n := range m.On {
			numbers[k] = fmt.Sprint(NumberOf(n))
		}
		text[i] = fmt.Sprintf("%s → %s", m.Title, strings.Join(numbers, ", "))
	}
	if len(text) == 0 {
		return ""
	}
	return "goes on on page: " + strings.Join(text, "   ")
}
