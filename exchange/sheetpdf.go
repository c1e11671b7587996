package exchange

import (
	_ "embed"
	"fmt"
	"io"

	"draxel/core/finding"
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
	"Photograph each plug from the wire side. Check the moulded numbers against the drawings below: a face seen from " +
		"the other side is mirrored.",
	"To release a terminal: open the outer lock or cover, lift the secondary lock (about 1 to 1.5 mm), push the wire " +
		"in to take the load off, then free the tang with the right pick and pull. Never pull on the wire alone.",
	"Work from the top, one step after the other, and tick each. A terminal that is put back clicks and takes a tug.",
}

var after = []string{
	"Push every secondary lock home: a plug is finished when its lock is home. Then the outer cover.",
	"Second check, by another person or on another day: every power and ground cavity against the table of the unit, " +
		"before it is plugged in.",
}

// WriteSheetPDF writes the work sheet for the bench: A4, black on white. The same sheet gives the same bytes.
func WriteSheetPDF(w io.Writer, s Sheet) error {
	pdf, err := document(s.Title+" · work sheet", s.Printed, "P")
	if err != nil {
		return fmt.Errorf("write sheet: %w", err)
	}
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(false, 0)
	pdf.AliasNbPages("{pages}")
	p := &page{printout: pdf, s: s}
	pdf.SetFooterFunc(p.footer)
	pdf.AddPage()
	p.head()
	p.list("Before you begin", before)
	p.parts()
	p.faces()
	p.steps()
	p.list("Joints", jointLines(s.Plan))
	p.list("New wires", wireLines(s.Plan))
	p.list("To be changed in the unit's settings", s.Plan.Pin.Settings)
	p.list("Known, and answered", answered(s.Plan.Findings))
	p.list("When the last step is ticked", after)
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("write sheet: %w", err)
	}
	return nil
}

// answered lists the findings that somebody has answered, with the reason.
func answered(all []finding.Finding) []string {
	var out []string
	for _, f := range all {
		if f.Answer != nil {
			out = append(out, fmt.Sprintf("%s %s: %s (%s)", f.Subject, f.Text, f.Answer.Reason, f.Answer.Who))
		}
	}
	return out
}

type page struct {
	*printout
	s Sheet
}

func (p *page) text(size float64, style, text string, height float64) {
	p.lines(0, inner, size, style, text, height)
}

// lines writes a text in lines so many mm from the margin and no wider, and goes on on the next page where one is
// full.
func (p *page) lines(at, wide, size float64, style, text string, height float64) {
	p.SetFont("text", style, size)
	for _, line := range p.SplitText(text, wide-1) {
		if p.room(height) {
			p.SetFont("text", style, size)
		}
		p.SetX(margin + at)
		p.CellFormat(wide, height, line, "", 1, "L", false, 0, "")
	}
}

func (p *page) footer() {
	p.SetXY(margin, 286)
	p.SetFont("text", "", 7.5)
	p.CellFormat(inner/2, 4, fmt.Sprintf("%s · revision %d · %s · printed %s", p.s.Title, p.s.Revision, p.s.Hash,
		p.s.Printed), "", 0, "L", false, 0, "")
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
	p.text(18, "B", p.s.Title+" · work sheet", 9)
	p.text(10, "", fmt.Sprintf("%s to %s. From %s to %s.", p.s.Donor, p.s.Chassis, p.s.From, p.s.To), 5)
	p.Ln(2)
	p.SetLineWidth(0.5)
	y := p.GetY()
	p.SetXY(margin+3, y+2)
	p.SetFont("text", "B", 10)
	p.MultiCell(inner-6, 5, p.s.Plan.Proof.Line(), "", "L", false)
	p.Rect(margin, y, inner, p.GetY()-y+2, "D")
	p.SetLineWidth(0.2)
	p.Ln(3)
	p.text(9, "", Figures(p.s.Plan), 4.5)
	if known := len(p.s.Plan.Findings) - len(finding.Open(p.s.Plan.Findings)); known > 0 {
		p.text(9, "", fmt.Sprintf("%d findings are known and answered; they stand at the end.", known), 4.5)
	}
	if open := OpenLine(p.s.Plan); open != "" {
		p.text(9.5, "B", open, 4.8)
	} else {
		p.text(9, "", fmt.Sprintf("All %d wires are decided.", p.s.Plan.Totals.From), 4.5)
	}
	p.Ln(2)
}

func (p *page) list(title string, lines []string) {
	if len(lines) == 0 {
		return
	}
	p.room(min(8+9*float64(len(lines)), 8+9*3)) // a title does not stand alone at the foot of a page
	p.text(11, "B", title, 6)
	for _, l := range lines {
		p.SetFont("text", "", 9)
		p.room(4.6)
		p.SetX(margin + 1)
		p.CellFormat(4, 4.6, "·", "", 0, "L", false, 0, "")
		p.lines(5, inner-6, 9, "", l, 4.6)
	}
	p.Ln(3)
}
