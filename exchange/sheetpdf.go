package exchange

import (
	_ "embed"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"draxel/core/face"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/plan"
)

//go:embed fonts/DejaVuSans.ttf
var fontText []byte

//go:embed fonts/DejaVuSans-Bold.ttf
var fontBold []byte

//go:embed fonts/DejaVuSansMono-Bold.ttf
var fontMono []byte

const (
	margin = 14.0  // mm
	inner  = 182.0 // mm, A4 less the margins
	bottom = 279.0 // mm, where a page is full
)

// before and after stand on the sheet once: what holds for every step (common practice of the trade).
var before = []string{
	"Battery negative off before the first terminal is pulled. The control unit is unplugged and out.",
	"Photograph each plug from the wire side. Check the moulded numbers against the drawings below: a face seen from the other side is mirrored.",
	"To release a terminal: open the outer lock or cover, lift the secondary lock (about 1 to 1.5 mm), push the wire in to take the load off, then free the tang with the right pick and pull. Never pull on the wire alone.",
	"Work from the top, one step after the other, and tick each. A terminal that is put back clicks and takes a tug.",
}

var after = []string{
	"Push every secondary lock home: a plug is finished when its lock is home. Then the outer cover.",
	"Second check, by another person or on another day: every power and ground cavity against the table of the unit, before it is plugged in.",
}

// WriteSheetPDF writes the re-pin sheet for the bench: A4, black on white. The same sheet gives the same bytes.
func WriteSheetPDF(w io.Writer, s Sheet) error {
	pdf := fpdf.New("P", "mm", "A4", "")
	pdf.SetCatalogSort(true)
	date, err := time.Parse(time.DateOnly, s.Printed)
	if err != nil {
		return fmt.Errorf("write sheet: %w", err)
	}
	pdf.SetCreationDate(date)
	pdf.SetModificationDate(date)
	pdf.SetTitle(s.Title+" · re-pin sheet", true)
	pdf.SetProducer("Draxel", true)
	// Copies: cutting a font down writes into the bytes that it was given.
	pdf.AddUTF8FontFromBytes("text", "", slices.Clone(fontText))
	pdf.AddUTF8FontFromBytes("text", "B", slices.Clone(fontBold))
	pdf.AddUTF8FontFromBytes("mono", "B", slices.Clone(fontMono))
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(false, 0)
	pdf.AliasNbPages("{pages}")
	p := &page{Fpdf: pdf, s: s}
	pdf.SetFooterFunc(p.footer)
	pdf.AddPage()
	p.head()
	p.list("Before you begin", before)
	p.faces()
	p.steps()
	p.list("When the last step is ticked", after)
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("write sheet: %w", err)
	}
	return nil
}

type page struct {
	*fpdf.Fpdf
	s Sheet
}

func (p *page) text(size float64, style, text string, height float64) {
	p.SetFont("text", style, size)
	p.MultiCell(inner, height, text, "", "L", false)
}

func (p *page) footer() {
	p.SetXY(margin, 286)
	p.SetFont("text", "", 7.5)
	p.CellFormat(inner/2, 4, fmt.Sprintf("%s · revision %d · %s · printed %s", p.s.Title, p.s.Revision, p.s.Hash, p.s.Printed), "", 0, "L", false, 0, "")
	p.CellFormat(inner/2, 4, fmt.Sprintf("page %d of {pages}", p.PageNo()), "", 0, "R", false, 0, "")
}

// room begins a new page when less than this many millimetres are left, and says whether it did.
func (p *page) room(mm float64) bool {
	if p.GetY()+mm <= bottom {
		return false
	}
	p.AddPage()
	p.SetY(margin)
	return true
}

func (p *page) head() {
	p.text(18, "B", p.s.Title+" · re-pin sheet", 9)
	p.text(10, "", fmt.Sprintf("%s to %s. The %s is re-pinned for the %s.", p.s.Donor, p.s.Chassis, p.s.From, p.s.To), 5)
	p.Ln(2)
	p.SetLineWidth(0.5)
	y := p.GetY()
	p.SetXY(margin+3, y+2)
	p.SetFont("text", "B", 10)
	p.MultiCell(inner-6, 5, ProofLine(p.s.Plan.Proof), "", "L", false)
	p.Rect(margin, y, inner, p.GetY()-y+2, "D")
	p.SetLineWidth(0.2)
	p.Ln(3)
	if open := OpenLine(p.s.Plan); open != "" {
		p.text(9.5, "B", open, 4.8)
	} else {
		p.text(9, "", fmt.Sprintf("All %d wires are decided.", p.s.Plan.Totals.From), 4.5)
	}
	p.Ln(2)
}

func (p *page) list(title string, lines []string) {
	p.room(8 + 9*float64(len(lines)))
	p.text(11, "B", title, 6)
	for _, l := range lines {
		p.SetFont("text", "", 9)
		p.SetX(margin + 1)
		p.CellFormat(4, 4.6, "·", "", 0, "L", false, 0, "")
		p.MultiCell(inner-6, 4.6, l, "", "L", false)
	}
	p.Ln(3)
}

// faces draws the housings that the steps touch, from the wire side, each cavity with its name; a filled corner marks the
// cavities that a step enters or leaves.
func (p *page) faces() {
	touched := map[harness.Ref]bool{}
	for _, s := range p.s.Plan.Steps {
		touched[s.From], touched[s.To] = true, true
	}
	for _, c := range p.s.Plan.Housings {
		face := c.Face(face.WireSide)
		uses := false
		for _, n := range c.Cavities {
			uses = uses || touched[harness.Ref{Connector: c.ID, Cavity: n}]
		}
		if !uses {
			continue
		}
		cell := min(9.5, inner/float64(len(face[0])))
		p.room(12 + 7*float64(len(face)))
		note := "seen from the wire side, lock up; a black corner marks a cavity that a step leaves or enters"
		if c.Assumed {
			note += "; how the rows lie is assumed: check the moulded numbers"
		}
		p.text(9, "B", fmt.Sprintf("Plug %s, %d-way", c.Name, c.Ways()), 4.5)
		p.text(8, "", note, 4)
		p.Rect(margin+cell*float64(len(face[0]))/2-8, p.GetY()+0.5, 16, 2, "D")
		p.Ln(2.5)
		for _, row := range face {
			y := p.GetY()
			for i, name := range row {
				x := margin + float64(i)*cell
				p.Rect(x, y, cell, 6.5, "D")
				if touched[harness.Ref{Connector: c.ID, Cavity: name}] {
					p.Polygon([]fpdf.PointType{{X: x, Y: y}, {X: x + 2, Y: y}, {X: x, Y: y + 2}}, "F")
				}
				p.SetXY(x, y+0.6)
				p.SetFont("mono", "B", 7.5)
				p.CellFormat(cell, 5.6, name, "", 0, "C", false, 0, "")
			}
			p.SetXY(margin, y+6.5)
		}
		p.Ln(3)
	}
}

var kindWords = map[pin.Kind]string{pin.Move: "move", pin.Pull: "pull, waits", pin.Seat: "seat", pin.Out: "goes", pin.Hold: "hold", pin.New: "new wire", pin.Seal: "plug"}

func (p *page) steps() {
	if len(p.s.Plan.Steps) == 0 {
		return
	}
	p.room(40)
	p.stepHead()
	for i, s := range p.s.Plan.Steps {
		if p.room(p.stepHeight(s)) {
			p.stepHead()
		}
		p.step(i+1, s)
	}
	p.Ln(4)
}

func (p *page) stepHead() {
	p.SetFont("text", "B", 8)
	for _, c := range []struct {
		width float64
		name  string
	}{{16, "step"}, {40, "from → to"}, {78, "do"}, {48, "wire"}} {
		p.CellFormat(c.width, 5, c.name, "B", 0, "L", false, 0, "")
	}
	p.Ln(6)
}

func (p *page) stepHeight(s plan.Step) float64 {
	p.SetFont("text", "", 9)
	lines := len(p.SplitText(s.Text, 76))
	p.SetFont("text", "", 7.5)
	why := s.Why
	if s.Hand != "" {
		why += " In hand"
	}
	lines += len(p.SplitText(why+" ", 76))
	function := min(2, len(p.SplitText(s.Wire.Function, 47)))
	return max(9.5, 4.4*float64(lines)+2.5, 6.5+3.5*float64(function))
}

func (p *page) step(n int, s plan.Step) {
	y, h := p.GetY(), p.stepHeight(s)
	p.Rect(margin, y+0.8, 4, 4, "D")
	p.SetXY(margin+5, y)
	p.SetFont("mono", "B", 11)
	p.CellFormat(11, 5.5, fmt.Sprint(n), "", 0, "L", false, 0, "")
	p.SetFont("mono", "B", 11.5)
	p.CellFormat(40, 5.5, arrow(s), "", 0, "L", false, 0, "")
	p.SetXY(margin+16, y+5)
	p.SetFont("text", "", 7.5)
	p.CellFormat(40, 3.6, kindWords[s.Kind], "", 0, "L", false, 0, "")
	p.SetXY(margin+56, y+0.4)
	p.SetFont("text", "", 9)
	p.MultiCell(77, 4.4, s.Text, "", "L", false)
	p.SetX(margin + 56)
	p.SetFont("text", "", 7.5)
	why := s.Why
	if s.Hand != "" && s.Kind != pin.Pull {
		why = strings.TrimSpace(why + fmt.Sprintf(" In hand: %s.", s.Hand))
	}
	p.MultiCell(77, 3.8, why, "", "L", false)
	p.wire(s, y)
	p.SetXY(margin, y+h)
	p.SetDrawColor(170, 170, 170)
	p.Line(margin, y+h-0.8, margin+inner, y+h-0.8)
	p.SetDrawColor(0, 0, 0)
}

func arrow(s plan.Step) string {
	from, to := s.From.String(), s.To.String()
	switch {
	case from == "":
		return "→ " + to
	case to == "":
		return from + " → out"
	}
	return from + " → " + to
}

func (p *page) wire(s plan.Step, y float64) {
	if s.Wire.Ref.Cavity == "" {
		return
	}
	p.SetXY(margin+134, y)
	p.SetFont("mono", "B", 9.5)
	label := s.Wire.Colour.String()
	if s.Kind == pin.New {
		label = "new " + label
	}
	if s.Wire.Circuit != "" {
		label += " · " + s.Wire.Circuit
	}
	p.CellFormat(48, 5, label, "", 0, "L", false, 0, "")
	p.SetXY(margin+134, y+4.6)
	p.SetFont("text", "", 7.5)
	lines := p.SplitText(s.Wire.Function, 47)
	for _, line := range lines[:min(2, len(lines))] {
		p.SetX(margin + 134)
		p.CellFormat(48, 3.5, line, "", 1, "L", false, 0, "")
	}
}
