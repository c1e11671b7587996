package exchange

import (
	"fmt"
	"slices"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"draxel/core/face"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/plan"
	"draxel/core/repin"
	"draxel/core/terminal"
	"draxel/core/work"
)

// The columns of the sheet of steps, mm from the left margin, and what they are wide.
const (
	colArrow = 16.0
	colDo    = 46.0
	wideDo   = 64.0
	colWire  = 111.0
	wideWire = 35.0
	colFace  = 147.0
	wideFace = 35.0
	highFace = 11.0
)

// Figures says in one sentence what the plan costs and what it is held against.
func Figures(p plan.Plan) string {
	if len(p.Steps) == 0 {
		return ""
	}
	rate := "as reckoned"
	if p.Pin.Measured() {
		rate = "as logged"
	}
	return fmt.Sprintf("%d terminals are taken out, the least there can be is %d with %d in hand at most. Secondary "+
		"locks are opened %d times; fewer than %d cannot be. %d steps are done. About %.0f min are left, at %.1f min a "+
		"terminal (%s).",
		p.Pin.Extractions, p.Pin.Fewest, p.Pin.Limit, p.Pin.Openings, p.Pin.Bound, len(p.Pin.Done), p.Pin.Minutes,
		p.Pin.Rate, rate)
}

// jointLines lists the joints that are made, with the ends that come to each.
func jointLines(p plan.Plan) []string {
	var out []string
	for _, j := range p.Join.Joints {
		var ends []string
		for _, e := range j.Ends {
			text := e.Name + ", " + e.How
			if e.Back > 0 && e.How != "new" {
				text += fmt.Sprintf(" %.0f mm behind %s", e.Back, e.At)
			}
			ends = append(ends, text)
		}
		line := fmt.Sprintf("%s: %s. %s", j.Name, strings.Join(ends, "; "), j.Why)
		if j.Made {
			line += " Made."
		}
		out = append(out, line)
	}
	return out
}

// wireLines lists the new wires with what their ends come to.
func wireLines(p plan.Plan) []string {
	var out []string
	for _, w := range p.Join.Wires {
		line := fmt.Sprintf("%s, %s: %s to %s", w.ID, w.Row.Function, w.Ends[0], w.Ends[1])
		if w.Open && w.Owner != "" {
			line += "; " + w.Owner + " sees to it"
		}
		out = append(out, line+".")
	}
	return out
}

// parts lists what must be there before the first terminal is pulled.
func (p *page) parts() {
	var lines []string
	for _, o := range p.s.Plan.Pin.Orders {
		line := fmt.Sprintf("%d × %s", o.Need, o.Name)
		if o.Spare > 0 {
			line += fmt.Sprintf(", and %d to spare", o.Spare)
		}
		if o.Have {
			line += " · there"
		}
		lines = append(lines, line)
	}
	p.list("To have before the first terminal is pulled", lines)
}

// faces draws the housings that the steps touch, from the wire side, each cavity with its name; a filled corner marks
// the cavities that a step enters or leaves.
func (p *page) faces() {
	touched := map[harness.Ref]bool{}
	for _, s := range p.s.Plan.Steps {
		touched[s.From], touched[s.To] = true, true
	}
	for _, c := range p.s.Plan.Housings {
		if !slices.ContainsFunc(c.Cavities, func(n string) bool { return touched[harness.Ref{Connector: c.ID, Cavity: n}] }) {
			continue
		}
		d := c.Shape().Draw(face.WireSide)
		scale := min(9.5, (inner-8)/d.W, (bottom-margin-16)/(d.H+1.6))
		p.room(16 + scale*d.H)
		p.text(9, "B", fmt.Sprintf("Plug %s, %d-way%s", c.Name, c.Ways(), described(c)), 4.5)
		note := "seen from the " + d.Words + "; a black corner marks a cavity that a step leaves or enters"
		if c.Assumed {
			note += "; how the rows lie is assumed: check the moulded numbers"
		}
		p.text(8, "", note, 4)
		x, y := margin+4, p.GetY()+0.7*scale
		p.outline(d, x, y, scale)
		for _, cell := range d.Cells {
			cx, cy, w := x+cell.X*scale, y+cell.Y*scale, cell.W*scale
			p.Rect(cx, cy, w, cell.H*scale, "D")
			if touched[harness.Ref{Connector: c.ID, Cavity: cell.Name}] {
				p.Polygon([]fpdf.PointType{{X: cx, Y: cy}, {X: cx + 0.3*w, Y: cy}, {X: cx, Y: cy + 0.3*w}}, "F")
			}
			p.SetFont("mono", "B", min(9, 22/float64(max(2, len(cell.Name)))*w/9.5+1))
			p.SetXY(cx, cy+0.15*cell.H*scale)
			p.CellFormat(w, 0.8*cell.H*scale, cell.Name, "", 0, "C", false, 0, "")
		}
		p.SetXY(margin, y+(d.H+0.8)*scale)
	}
}

func described(c harness.Connector) string {
	if c.Layout == nil || !c.Layout.Terminal.Known() {
		return ""
	}
	return ", terminals " + c.Layout.Terminal.String()
}

// outline draws the housing's edge with its lock and keys.
func (p *page) outline(d face.Drawing, x, y, scale float64) {
	p.SetLineWidth(0.35)
	p.Rect(x, y, d.W*scale, d.H*scale, "D")
	p.SetLineWidth(0.2)
	for _, b := range append([]face.Box{d.Lock}, d.Keys...) {
		p.Rect(x+b.X*scale, y+b.Y*scale, b.W*scale, b.H*scale, "D")
	}
}

var kindWords = map[work.Kind]string{pin.Move: "move", pin.Pull: "pull, waits", pin.Seat: "seat", pin.Out: "goes",
	pin.Hold: "hold", pin.New: "new wire", pin.Drop: "take away", pin.Seal: "plug", pin.Unseal: "unplug",
	pin.Close: "lock"}

// steps prints the work that is left, all stages in one order.
func (p *page) steps() {
	all := left(&p.s.Plan)
	if len(all) == 0 {
		return
	}
	p.room(40)
	p.stepHead()
	done := len(p.s.Plan.Past.Ticks)
	for i, x := range all {
		s, pins := p.s.Plan.Sheet(x.ID)
		if !pins {
			s = &repin.Step{Step: pin.Step{Step: *x}, Advice: pin.Advice{Warn: x.Warn}}
		}
		if p.room(p.stepHeight(*s)) {
			p.stepHead()
		}
		p.step(done+i+1, *s)
	}
	p.Ln(4)
}

func (p *page) stepHead() {
	p.SetFont("text", "B", 8)
	for _, c := range []struct {
		at, width float64
		name      string
	}{{0, colArrow, "step"}, {colArrow, colDo - colArrow, "from → to"}, {colDo, wideDo, "do"},
		{colWire, wideWire, "wire"}, {colFace, wideFace, "× out  ■ in"}} {
		p.SetX(margin + c.at)
		p.CellFormat(c.width, 5, c.name, "B", 0, "L", false, 0, "")
	}
	p.Ln(6)
}

// small is what stands under the sentence: how, why, what is in hand, what to watch for.
func small(s repin.Step) string {
	parts := []string{s.Why}
	if s.Stage == work.Pin && s.Kind == pin.Close {
		parts = append(parts, s.After)
	}
	if len(s.Opens) > 0 {
		parts = append(parts, s.How)
	}
	if s.Fit.Verdict == terminal.Reterminated || s.Fit.Verdict == terminal.Pigtail {
		parts = append(parts, s.Fit.Why)
	}
	for _, w := range s.Advice.Warn {
		parts = append(parts, "! "+w)
	}
	if len(s.Hand) > 0 && s.Kind != pin.Pull {
		parts = append(parts, "In hand: "+strings.Join(s.Hand, ", ")+".")
	}
	return strings.TrimSpace(strings.Join(slices.DeleteFunc(parts, func(t string) bool { return t == "" }), " "))
}

func (p *page) stepHeight(s repin.Step) float64 {
	p.SetFont("text", "", 9)
	high := 4.4 * float64(len(p.SplitText(s.Text, wideDo-1)))
	p.SetFont("text", "", 7.5)
	if text := small(s); text != "" {
		high += 3.8 * float64(len(p.SplitText(text, wideDo-1)))
	}
	function := min(3, len(p.SplitText(s.Wire.Function, wideWire-1)))
	face := 0.0
	if s.From.Cavity+s.To.Cavity != "" {
		face = highFace + 1.5
	}
	return max(9.5, high+2.5, 6.5+3.5*float64(function), face)
}

func (p *page) step(n int, s repin.Step) {
	y, h := p.GetY(), p.stepHeight(s)
	p.Rect(margin, y+0.8, 4, 4, "D")
	p.SetXY(margin+5, y)
	p.SetFont("mono", "B", 11)
	p.CellFormat(11, 5.5, fmt.Sprint(n), "", 0, "L", false, 0, "")
	p.SetXY(margin+colArrow, y)
	p.SetFont("mono", "B", 10.5)
	p.CellFormat(colDo-colArrow, 5.5, arrow(s), "", 0, "L", false, 0, "")
	p.SetXY(margin+colArrow, y+5)
	p.SetFont("text", "", 7.5)
	word := kindWords[s.Kind]
	if s.Stage != work.Pin {
		word = stageWords[s.Stage] + ": " + string(s.Kind)
	}
	p.CellFormat(colDo-colArrow, 3.6, word, "", 0, "L", false, 0, "")
	p.wire(s, y)
	p.smallFaces(s, y)
	on := p.PageNo()
	p.SetXY(margin+colDo, y+0.4)
	p.lines(colDo, wideDo, 9, "", s.Text, 4.4)
	p.lines(colDo, wideDo, 7.5, "", small(s), 3.8)
	if p.PageNo() > on { // a step that is longer than a page
		y, h = p.GetY(), 1.5
	}
	p.SetXY(margin, y+h)
	p.SetDrawColor(170, 170, 170)
	p.Line(margin, y+h-0.8, margin+inner, y+h-0.8)
	p.SetDrawColor(0, 0, 0)
}

func arrow(s repin.Step) string {
	from, to := s.From.String(), s.To.String()
	switch {
	case s.Stage != work.Pin && len(s.At) > 0:
		return s.At[0].String()
	case s.Stage != work.Pin:
		return ""
	case s.Kind == pin.Close:
		return s.Connector
	case from == "":
		return "→ " + to
	case to == "":
		return from + " → out"
	}
	return from + " → " + to
}

func (p *page) wire(s repin.Step, y float64) {
	if s.Wire.Ref.Cavity == "" {
		return
	}
	p.SetXY(margin+colWire, y)
	p.SetFont("mono", "B", 9)
	label := s.Wire.Colour.String()
	if s.Kind == pin.New {
		label = "new " + label
	}
	if s.Wire.Circuit != "" {
		label += " · " + s.Wire.Circuit
	}
	p.CellFormat(wideWire, 5, label, "", 0, "L", false, 0, "")
	p.SetXY(margin+colWire, y+4.6)
	p.SetFont("text", "", 7.5)
	lines := p.SplitText(s.Wire.Function, wideWire-1)
	for _, line := range lines[:min(3, len(lines))] {
		p.SetX(margin + colWire)
		p.CellFormat(wideWire, 3.5, line, "", 1, "L", false, 0, "")
	}
}

// smallFaces draws the one or two faces that a step touches, small, with its cavities: crossed where a terminal
// leaves, black where one goes in. It reads in black and white.
func (p *page) smallFaces(s repin.Step, y float64) {
	ids := slices.DeleteFunc([]string{s.From.Connector, s.To.Connector}, func(id string) bool { return id == "" })
	ids = slices.Compact(ids)
	for i, id := range ids {
		k := slices.IndexFunc(p.s.Plan.Housings, func(h harness.Connector) bool { return h.ID == id })
		if k < 0 {
			continue
		}
		d := p.s.Plan.Housings[k].Shape().Draw(face.WireSide)
		wide := wideFace / float64(len(ids))
		scale := min((wide-1.5)/d.W, (highFace-1.5)/(d.H+0.6))
		x, top := margin+colFace+float64(i)*wide+0.5, y+0.6+0.6*scale
		p.SetDrawColor(120, 120, 120)
		p.outline(d, x, top, scale)
		for _, cell := range d.Cells {
			at := harness.Ref{Connector: id, Cavity: cell.Name}
			cx, cy, w := x+(cell.X+0.1)*scale, top+(cell.Y+0.1)*scale, (cell.W-0.2)*scale
			switch at {
			case s.To:
				p.SetDrawColor(0, 0, 0)
				p.Rect(cx, cy, w, w, "FD")
			case s.From:
				p.SetDrawColor(0, 0, 0)
				p.SetLineWidth(0.35)
				p.Rect(cx, cy, w, w, "D")
				p.Line(cx, cy, cx+w, cy+w)
				p.Line(cx, cy+w, cx+w, cy)
				p.SetLineWidth(0.2)
			default:
				p.SetLineWidth(0.1)
				p.SetDrawColor(150, 150, 150)
				p.Rect(cx, cy, w, w, "D")
			}
		}
		p.SetLineWidth(0.2)
		p.SetDrawColor(0, 0, 0)
	}
}
