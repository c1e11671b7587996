package exchange

import (
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"
)

// Label is what is stuck on a connector before it comes off.
type Label struct {
	Connector string
	Device    string
	Branch    string
	Wires     int
}

// Labels are printed in three columns on A4, the connector's name large enough to read from a metre.
const (
	labelWide = 60.0 // mm
	labelHigh = 22.0
	labelCols = 3
	labelRows = 12
)

// WriteLabelsPDF writes labels for the connectors, the job's title on each. The same labels give the same bytes.
func WriteLabelsPDF(w io.Writer, title, printed string, all []Label) error {
	pdf, err := document(title+" · labels", printed, "P")
	if err != nil {
		return fmt.Errorf("write labels: %w", err)
	}
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(false, 0)
	for i, l := range all {
		k := i % (labelCols * labelRows)
		if k == 0 {
			pdf.AddPage()
		}
		x, y := margin+labelWide*float64(k%labelCols), margin+labelHigh*float64(k/labelCols)
		pdf.SetDrawColor(180, 180, 180)
		pdf.Rect(x, y, labelWide, labelHigh, "D")
		size := 24.0
		for pdf.SetFont("mono", "B", size); pdf.GetStringWidth(l.Connector) > labelWide-6 && size > 8; size -= 2 {
			pdf.SetFont("mono", "B", size-2)
		}
		pdf.SetXY(x+2, y+1)
		pdf.CellFormat(labelWide-4, 10, l.Connector, "", 0, "L", false, 0, "")
		pdf.SetFont("text", "", 8)
		for n, line := range []string{l.Device, strings.Trim(fmt.Sprintf("%d wires · %s", l.Wires, l.Branch), " ·"), title} {
			pdf.SetXY(x+2, y+10.5+3.6*float64(n))
			pdf.CellFormat(labelWide-4, 3.6, clipped(pdf, line, labelWide-4), "", 0, "L", false, 0, "")
		}
	}
	if len(all) == 0 {
		pdf.AddPage()
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("write labels: %w", err)
	}
	return nil
}

// document begins a document of that title on A4, upright or lying, in our fonts. The same content gives the same
// bytes.
func document(title, printed, orientation string) (*printout, error) {
	date, err := time.Parse(time.DateOnly, printed)
	if err != nil {
		return nil, err
	}
	pdf := &printout{fpdf.New(orientation, "mm", "A4", "")}
	pdf.SetCatalogSort(true)
	pdf.SetCreationDate(date)
	pdf.SetModificationDate(date)
	pdf.SetTitle(printable(title), true)
	pdf.SetProducer("Draxel", true)
	// Copies: cutting a font down writes into the bytes that it was given.
	pdf.AddUTF8FontFromBytes("text", "", slices.Clone(fontText))
	pdf.AddUTF8FontFromBytes("text", "B", slices.Clone(fontBold))
	pdf.AddUTF8FontFromBytes("mono", "B", slices.Clone(fontMono))
	return pdf, nil
}

// printout is a document on which every text is printable: whatever somebody wrote, none breaks a print.
type printout struct{ *fpdf.Fpdf }

// Text writes a text with its base line at y.
func (p *printout) Text(x, y float64, text string) { p.Fpdf.Text(x, y, printable(text)) }

// CellFormat writes a text into a cell.
func (p *printout) CellFormat(w, h float64, text, border string, ln int, align string, fill bool, link int,
	address string) {
	p.Fpdf.CellFormat(w, h, printable(text), border, ln, align, fill, link, address)
}

// SplitText breaks a text into lines.
func (p *printout) SplitText(text string, w float64) []string {
	return p.Fpdf.SplitText(printable(text), w)
}

// GetStringWidth gives the width of a text in the font that is set.
func (p *printout) GetStringWidth(text string) float64 { return p.Fpdf.GetStringWidth(printable(text)) }

// clipped cuts a text to a width in the font that is set, and says so by three dots; what the font has not is a
// visible sign.
func clipped(pdf *printout, text string, wide float64) string {
	text = printable(text)
	if pdf.GetStringWidth(text) <= wide {
		return text
	}
	r := []rune(text)
	low, high := 0, len(r)
	for low < high { // by halves: a text may have thousands of letters
		mid := (low + high + 1) / 2
		if pdf.GetStringWidth(string(r[:mid])+"…") <= wide {
			low = mid
		} else {
			high = mid - 1
		}
	}
	return string(r[:low]) + "…"
}
