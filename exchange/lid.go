package exchange

import (
	"fmt"
	"io"

	"draxel/core/feed"
)

// The label inside a fuse block's lid: a cell for each slot, a row for each group, mm.
const (
	lidWide  = 30.0
	lidHigh  = 19.0
	lidHead  = 38.0
	lidCells = 7 // in a row before it goes on in the next
	lidFoot  = 275.0
)

// WriteLidPDF writes the label inside the lid of a fuse block, to be cut out: the slots in the order in which they lie,
// each with its number, its fuse and what it feeds. The same block gives the same bytes.
func WriteLidPDF(w io.Writer, title, block, printed string, rows []feed.LidRow) error {
	pdf, err := document(title+" · "+block, printed, "P")
	if err != nil {
		return fmt.Errorf("write lid label: %w", err)
	}
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(false, 0)
	wide := 210.0 - 2*margin
	cells := min(lidCells, int((wide-lidHead)/lidWide))
	y := lidPage(pdf, title, block, printed)
	for _, row := range rows {
		for begin := 0; begin == 0 || begin < len(row.Cells); begin += cells {
			if y+lidHigh > lidFoot {
				y = lidPage(pdf, title, block, printed)
			}
			pdf.SetFont("mono", "B", 9)
			pdf.SetXY(margin, y+2)
			pdf.CellFormat(lidHead-2, 4, clipped(pdf, row.Group, lidHead-2), "", 0, "L", false, 0, "")
			pdf.SetFont("text", "", 7)
			pdf.SetXY(margin, y+6.5)
			pdf.CellFormat(lidHead-2, 3.5, clipped(pdf, row.From, lidHead-2), "", 0, "L", false, 0, "")
			for k, c := range row.Cells[min(begin, len(row.Cells)):min(begin+cells, len(row.Cells))] {
				lidCell(pdf, margin+lidHead+lidWide*float64(k), y, c)
			}
			y += lidHigh + 2
		}
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("write lid label: %w", err)
	}
	return nil
}

// lidPage begins a page and gives the mm at which its rows begin.
func lidPage(pdf *printout, title, block, printed string) float64 {
	pdf.AddPage()
	pdf.SetFont("mono", "B", 12)
	pdf.SetXY(margin, margin)
	pdf.CellFormat(0, 6, clipped(pdf, title+" · fuse block "+block, 180), "", 0, "L", false, 0, "")
	pdf.SetFont("text", "", 8)
	pdf.SetXY(margin, margin+6)
	pdf.CellFormat(0, 4, "Put in the same rating only: a larger fuse lets the wire burn. Printed "+printed+".", "", 0, "L",
		false, 0, "")
	return margin + 13
}

// lidCell draws a slot, or a relay with a double line.
func lidCell(pdf *printout, x, y float64, c feed.LidCell) {
	pdf.SetDrawColor(60, 60, 60)
	pdf.Rect(x, y, lidWide-1, lidHigh, "D")
	if c.Relay {
		pdf.Rect(x+0.8, y+0.8, lidWide-2.6, lidHigh-1.6, "D")
	}
	pdf.SetFont("mono", "B", 10)
	pdf.SetXY(x+1.5, y+1.5)
	pdf.CellFormat(9, 4.5, clipped(pdf, c.Name, 9), "", 0, "L", false, 0, "")
	pdf.SetXY(x+9, y+1.5)
	pdf.CellFormat(lidWide-11.5, 4.5, clipped(pdf, c.Amps, lidWide-11.5), "", 0, "R", false, 0, "")
	pdf.SetFont("text", "", 7)
	for n, line := range pdf.SplitText(c.Says, lidWide-4) {
		if n > 2 {
			break
		}
		pdf.SetXY(x+1.5, y+7+3.3*float64(n))
		pdf.CellFormat(lidWide-4, 3.3, line, "", 0, "L", false, 0, "")
	}
}
