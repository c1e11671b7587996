package exchange

import (
	"fmt"
	"io"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"draxel/core/handover"
)

// WriteOtherPDF writes a sheet for somebody else: A4, upright, black on white. The same sheet gives the same bytes.
func WriteOtherPDF(w io.Writer, title, head, printed string, s *handover.Sheet) error {
	pdf, err := document(printable(title+" · "+s.Title), printed, "P")
	if err != nil {
		return fmt.Errorf("write %s: %w", s.ID, err)
	}
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(false, 0)
	wide := 210 - 2*margin
	y, nr := 0.0, 0
	begin := func() {
		pdf.AddPage()
		nr++
		pdf.SetFont("text", "B", 15)
		pdf.Text(margin, margin+5, clipped(pdf, s.Title+" · "+title, wide))
		pdf.SetFont("text", "", 8)
		pdf.Text(margin, margin+10, clipped(pdf, fmt.Sprintf("%s · page %d", head, nr), wide))
		y = margin + 16
	}
	room := func(mm float64) {
		if y+mm > 285 {
			begin()
		}
	}
	write := func(text, style string, size, step, at float64) {
		pdf.SetFont("text", style, size)
		for _, line := range pdf.SplitText(printable(text), wide-at) {
			room(step)
			pdf.SetFont("text", style, size)
			pdf.Text(margin+at, y, line)
			y += step
		}
	}
	begin()
	write(s.For, "", 9.5, 4.8, 0)
	for _, p := range s.Parts {
		y += 3
		room(16)
		write(p.Title, "B", 10.5, 5.4, 0)
		if len(p.Lines) == 0 {
			write(p.Empty, "", 9, 4.6, 5)
		}
		for _, l := range p.Lines {
			room(4.8)
			if p.Boxes {
				pdf.Rect(margin, y-2.7, 3, 3, "D")
			}
			write(l, "", 9, 4.6, 5)
		}
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("write %s: %w", s.ID, err)
	}
	return nil
}

// Stock is paper with labels on it: so many columns and rows of so many mm, on a sheet; a roll is a page a label.
type Stock struct {
	Columns int     `json:"columns"`
	Rows    int     `json:"rows"`
	Wide    float64 `json:"wide"` // mm of a label
	High    float64 `json:"high"`
	Left    float64 `json:"left"` // mm from the sheet's edge
	Top     float64 `json:"top"`
	Roll    bool    `json:"roll,omitempty"`
}

// Check says why labels cannot be printed on it.
func (s Stock) Check() error {
	switch {
	case !(s.Wide >= 8 && s.Wide <= 210 && s.High >= 5 && s.High <= 297):
		return fmt.Errorf("a label is 8 to 210 mm wide and 5 to 297 mm high")
	case s.Roll:
		return nil
	case s.Columns < 1 || s.Columns > 20 || s.Rows < 1 || s.Rows > 60 || !(s.Left >= 0 && s.Top >= 0):
		return fmt.Errorf("a sheet has 1 to 20 columns and 1 to 60 rows of labels")
	case s.Left+float64(s.Columns)*s.Wide > 210.5 || s.Top+float64(s.Rows)*s.High > 297.5:
		return fmt.Errorf(
			"%d columns of %g mm and %d rows of %g mm do not fit on A4",
			s.Columns,
			s.Wide,
			s.Rows,
			s.High,
		)
	}
	return nil
}

// Letters of labels, points: as large as there is room, and no smaller than can be read.
const (
	largestLetter  = 18.0
	smallestLetter = 5.0
)

// WriteStickersPDF writes labels, and gives those whose text does not fit: they are cut, and have to be told. Where
// there is a code it is beside the text: QR of its address.
func WriteStickersPDF(
	w io.Writer,
	title, printed string,
	stock Stock,
	all []handover.Sticker,
	code func(*handover.Sticker) []byte,
) (
	cut []string, err error) {
	if err := stock.Check(); err != nil {
		return nil, err
	}
	pdf, err := document(printable(title+" · labels"), printed, "P")
	if err != nil {
		return nil, fmt.Errorf("write labels: %w", err)
	}
	pdf.SetMargins(0, 0, 0)
	pdf.SetAutoPageBreak(false, 0)
	n := stock.Columns * stock.Rows
	for i := range all {
		x, y := stock.Left, stock.Top
		switch {
		case stock.Roll:
			pdf.AddPageFormat("P", fpdf.SizeType{Wd: stock.Wide, Ht: stock.High})
			x, y = 0, 0
		case i%n == 0:
			pdf.AddPage()
			fallthrough
		default:
			x += stock.Wide * float64(i%n%stock.Columns)
			y += stock.High * float64(i%n/stock.Columns)
		}
		if !sticker(pdf, x, y, stock, &all[i], code) {
			cut = append(cut, all[i].Text)
		}
	}
	if len(all) == 0 {
		pdf.AddPage()
	}
	if err := pdf.Output(w); err != nil {
		return nil, fmt.Errorf("write labels: %w", err)
	}
	return cut, nil
}

// sticker writes a label, and says whether all of its text is on it.
func sticker(
	pdf *printout,
	x, y float64,
	stock Stock,
	s *handover.Sticker,
	code func(*handover.Sticker) []byte,
) bool {
	const edge = 1.2
	wide, high := stock.Wide-2*edge, stock.High-2*edge
	if code != nil && s.Wire != "" && high >= 9 {
		if png := code(s); png != nil {
			name := "qr " + s.Wire
			if pdf.GetImageInfo(string(name)) == nil {
				pdf.RegisterImageOptionsReader(
					string(name),
					fpdf.ImageOptions{ImageType: "PNG"},
					strings.NewReader(string(png)),
				)
			}
			side := min(high, 16)
			pdf.ImageOptions(
				string(name),
				x+stock.Wide-edge-side,
				y+edge,
				side,
				side,
				false,
				fpdf.ImageOptions{ImageType: "PNG"},
				0,
				"",
			)
			wide -= side + 1
		}
	}
	text, under := printable(s.Text), printable(s.Under)
	small := 0.0
	if under != "" && high >= 5 {
		small = min(2.6, high*0.32)
	}
	size := min(largestLetter, (high-small)*ptPerMM*0.85)
	pdf.SetFont("text", "B", size)
	if is := pdf.GetStringWidth(text); is > wide {
		size = max(smallestLetter, size*wide/is-0.05)
		pdf.SetFont("text", "B", size)
	}
	whole := clipped(pdf, text, wide)
	pdf.Text(x+edge, y+edge+size/ptPerMM*0.78, whole)
	if small > 0 {
		pdf.SetFont("text", "", max(smallestLetter-1, small*ptPerMM*0.85))
		pdf.Text(x+edge, y+stock.High-edge-0.3, clipped(pdf, under, wide))
	}
	return whole == text
}

// WriteStickersCSV writes labels as CSV, for any program that prints labels.
func WriteStickersCSV(w io.Writer, all []handover.Sticker) error {
	rows := [][]string{{"kind", "text", "under", "plug", "wire"}}
	for i := range all {
		s := &all[i]
		rows = append(rows, []string{string(s.Kind), s.Text, s.Under, s.Plug, string(s.Wire)})
	}
	return WriteTableCSV(w, rows)
}

// WriteSectionCSV writes a table of the book as CSV.
func WriteSectionCSV(w io.Writer, s *handover.Section) error {
	return WriteTableCSV(w, append([][]string{s.Head}, s.Rows...))
}
