package exchange

import (
	"fmt"
	"io"
	"strings"

	"golang.org/x/image/font/sfnt"

	"draxel/core/diagram"
	"draxel/core/handover"
)

// Book is what the book is made of.
type Book struct {
	Title, Donor, Chassis string
	Revision              int
	Hash                  string // of the job it was computed from
	Printed               string // ISO date
	State                 string // why it is not as built throughout, on every page; empty where it is
	Sources               [][2]string
	Pages                 []handover.Page
	Faces                 []handover.Face
	Sections              []handover.Section
	Photos                []BookPhoto
	Tell                  func(done, of int) // hears how far it has come, by pages with a drawing; may be nil
}

// A page of the book lies: A4, 297 × 210 mm.
const (
	bookWide   = 297.0
	bookHigh   = 210.0
	bookMargin = 10.0
	bookInner  = bookWide - 2*bookMargin
	bookTop    = 24.0 // where a page's own begins
	bookBottom = 198.0
	bookRow    = 4.3
	bookFirst  = 3 // number of the first page with a drawing
)

// BookPaper is the room for a drawing on a page of the book.
var BookPaper = handover.Paper{Wide: bookInner, High: 116}

// NumberOf gives the number of the page that a drawing is on.
func NumberOf(page int) int { return bookFirst + page }

// ptPerMM turns mm of letters into points.
const ptPerMM = 72 / 25.4

// Measure gives the widths of texts in the fonts of our prints. It is not to be used by two at once.
func Measure() (diagram.Measure, error) {
	pdf, err := bookDocument("", "2000-01-01")
	if err != nil {
		return nil, err
	}
	return func(text string, size float64, bold bool) float64 {
		pdf.SetFont("text", styleOf(bold), size*ptPerMM)
		return pdf.GetStringWidth(printable(text))
	}, nil
}

func styleOf(bold bool) string {
	if bold {
		return "B"
	}
	return ""
}

func bookDocument(title, printed string) (*printout, error) {
	pdf, err := document(title, printed, "L")
	if err != nil {
		return nil, err
	}
	pdf.SetMargins(bookMargin, bookMargin, bookMargin)
	pdf.SetAutoPageBreak(false, 0)
	return pdf, nil
}

// glyphs is the font of our prints, to ask what it has.
var glyphs = func() *sfnt.Font {
	f, err := sfnt.Parse(fontText)
	if err != nil {
		panic(err) // it is embedded
	}
	return f
}()

// Unprintable gives those of some texts, each once, that have signs in them which the font of our prints has not.
func Unprintable(texts []string) []string {
	out := []string{}
	seen := map[string]bool{}
	for _, t := range texts {
		if !seen[t] && strings.Count(printable(t), "□") > strings.Count(t, "□") {
			out = append(out, t)
		}
		seen[t] = true
	}
	return out
}

// printable puts a visible sign in the place of what the font has not, and of what no print shows.
func printable(text string) string {
	var buf sfnt.Buffer
	return strings.Map(func(r rune) rune {
		if r == '\n' || r == '\t' || r == '\r' {
			return ' '
		}
		if r < 32 || r > 0xFFFF {
			return '□'
		}
		if i, err := glyphs.GlyphIndex(&buf, r); err != nil || i == 0 {
			return '□'
		}
		return r
	}, text)
}

// binding is a book on its way to paper.
type binding struct {
	*printout
	b *Book
}

// WriteBookPDF writes the book: how to read it, its contents, a page with a drawing and the table of exactly its
// wires for each group of circuits, and the indexes. A4, lying, to be read in black and white. The same book gives
// the same bytes.
func WriteBookPDF(w io.Writer, book *Book) error {
	pdf, err := bookDocument(printable(book.Title), book.Printed)
	if err != nil {
		return fmt.Errorf("write book: %w", err)
	}
	p := &binding{pdf, book}
	faces := layFaces(book.Faces)
	p.cover()
	p.contents(len(faces))
	for k := range book.Pages {
		p.drawing(&book.Pages[k])
		if book.Tell != nil {
			book.Tell(k+1, len(book.Pages))
		}
	}
	p.faces(faces)
	for i := range book.Sections {
		p.section(&book.Sections[i])
	}
	p.photos(book.Photos)
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("write book: %w", err)
	}
	return nil
}

// begin begins a page with its head and foot.
func (p *binding) begin(title, under string) {
	p.AddPage()
	p.words(bookMargin, 14, 5, true, title, bookInner-90)
	p.words(bookMargin, 19, 2.8, false, under, bookInner-90)
	p.right(14, 2.8, false, fmt.Sprintf("page %d", p.PageNo()))
	p.right(
		19,
		2.8,
		false,
		fmt.Sprintf("%s · revision %d · %s · printed %s", p.b.Title, p.b.Revision, p.b.Hash, p.b.Printed),
	)
	p.SetDrawColor(120, 120, 120)
	p.SetLineWidth(0.2)
	p.Line(bookMargin, 21, bookWide-bookMargin, 21)
	if p.b.State != "" {
		p.words(bookMargin, bookHigh-5, 2.6, true, p.b.State, bookInner)
	}
}

// words writes a text with its base line at y, no wider than that.
func (p *binding) words(x, y, size float64, bold bool, text string, wide float64) {
	p.SetFont("text", styleOf(bold), size*ptPerMM)
	p.Text(x, y, clipped(p.printout, text, wide))
}

// fitted writes a text smaller where it is too wide, down to letters that can still be read, and then cuts it.
func (p *binding) fitted(x, y, size float64, bold bool, text string, wide float64) {
	p.SetFont("text", styleOf(bold), size*ptPerMM)
	if is := p.GetStringWidth(printable(text)); is > wide {
		size = max(smallest, size*wide/is-0.01)
	}
	p.words(x, y, size, bold, text, wide)
}

// smallest is how small letters of a table become, mm.
const smallest = 1.5

func (p *binding) right(y, size float64, bold bool, text string) {
	p.SetFont("text", styleOf(bold), size*ptPerMM)
	text = clipped(p.printout, text, 150)
	p.Text(bookWide-bookMargin-p.GetStringWidth(text), y, text)
}

// reading says how the book is read.
var reading = []string{
	"Every wire is drawn on one page and no other. Current flows from left to right: from the source through fuses, " +
		"relays and switches to what uses it, and on to ground.",
	"Above a wire stand its colour (IEC 60757, base then tracer) and its mm²; below it its circuit, its length, and " +
		"the code printed on what lengthens it.",
	"● a splice, as it was found   ◇ a joint, made by us   ][ an in-line pair of plugs   ▭ a fuse   ⏚ a ground point   " +
		"✕ an end that ends in nothing",
	"A dotted wire is planned and not done yet. What does not fit a page goes on on the next: its splice is drawn " +
		"again, and says how many wires it has elsewhere.",
	"The tables at the end lead from a wire, a splice, a plug's cavity, a ground point or a fuse to its page.",
}

func (p *binding) cover() {
	p.begin("The book of "+p.b.Title, strings.Trim(p.b.Donor+" → "+p.b.Chassis, " →"))
	y := bookTop + 8
	if p.b.State != "" {
		p.words(bookMargin, y, 4, true, p.b.State, bookInner)
		y += 10
	}
	p.words(bookMargin, y, 3.6, true, "How to read it", bookInner)
	y += 7
	for _, text := range reading {
		p.SetFont("text", "", 3*ptPerMM)
		for _, line := range p.SplitText(printable(text), bookInner) {
			p.words(bookMargin, y, 3, false, line, bookInner+2)
			y += 5
		}
		y += 1
	}
	y += 5
	p.words(bookMargin, y, 3.6, true, "The vehicle and its sources", bookInner)
	y += 7
	for _, s := range p.b.Sources {
		if y > bookBottom {
			break
		}
		p.words(bookMargin, y, 3, true, s[0], 78)
		p.words(bookMargin+82, y, 3, false, s[1], bookInner-82)
		y += 5
	}
}

func (p *binding) contents(faces int) {
	p.begin("Contents", "")
	y, x := bookTop+6, bookMargin
	entry := func(text string, page int, bold bool) {
		if y > bookBottom {
			y, x = bookTop+6, x+bookInner/3
		}
		p.words(x, y, 3, bold, text, bookInner/3-22)
		p.words(x+bookInner/3-18, y, 3, bold, fmt.Sprint(page), 14)
		y += 5
	}
	last := ""
	for k := range p.b.Pages {
		if g := p.b.Pages[k].Group; g != last {
			entry(g, NumberOf(k), false)
			last = g
		}
	}
	page := NumberOf(len(p.b.Pages))
	if faces > 0 {
		entry("Faces", page, true)
		page += faces
	}
	for i := range p.b.Sections {
		s := &p.b.Sections[i]
		entry(s.Title, page, true)
		page += pagesOf(s)
	}
	if len(p.b.Photos) > 0 {
		entry("Photographs", page, true)
	}
}

// perPage is how many rows a page of a table holds.
const perPage = 38

// pagesOf gives how many pages a table takes.
func pagesOf(s *handover.Section) int { return max(1, (len(s.Rows)+perPage-1)/perPage) }

func (p *binding) section(s *handover.Section) {
	n := pagesOf(s)
	for k := range n {
		title := s.Title
		if n > 1 {
			title = fmt.Sprintf("%s, %d of %d", s.Title, k+1, n)
		}
		p.begin(title, "")
		if len(s.Rows) == 0 {
			p.words(bookMargin, bookTop+6, 3, false, s.Empty, bookInner)
			continue
		}
		p.table(bookTop+4, s.Head, s.Share, s.Rows[k*perPage:min(len(s.Rows), (k+1)*perPage)])
	}
}

// table writes rows under a head, and gives where it ends.
func (p *binding) table(y float64, head []string, share []float64, rows [][]string) float64 {
	sum := 0.0
	for _, s := range share {
		sum += s
	}
	row := func(cells []string, size float64, bold bool) {
		x := bookMargin
		for c, text := range cells {
			wide := bookInner * share[c] / sum
			p.fitted(x, y, size, bold && c == 0 || size < 2.3, text, wide-1.2)
			x += wide
		}
		p.SetDrawColor(210, 210, 210)
		p.Line(bookMargin, y+1.2, bookWide-bookMargin, y+1.2)
		y += bookRow
	}
	row(head, 2.2, false)
	for _, r := range rows {
		row(r, 2.5, true)
	}
	return y
}

// drawing writes a page with a drawing, and the table of its wires.
func (p *binding) drawing(page *handover.Page) {
	under := fmt.Sprintf("%d wires", len(page.Lengths))
	if page.Planned > 0 {
		under += fmt.Sprintf(", %d of them planned and not done yet (dotted)", page.Planned)
	}
	p.begin(page.Title(), under)
	top := bookTop
	if text := GoesOn(page); text != "" {
		p.fitted(bookMargin, bookTop+0.8, 2.3, false, text, bookInner)
		top += 4
	}
	scale := min(1, BookPaper.Wide/max(page.Drawing.Wide, 1), BookPaper.High/max(page.Drawing.High, 1))
	sketch(onPaper{p.printout, bookMargin, top, scale}, &page.Drawing)
	p.SetLineCapStyle("butt")
	var rows [][]string
	for i := range page.Lengths {
		l := &page.Lengths[i]
		rows = append(
			rows,
			[]string{
				string(l.Name),
				l.Text(),
				l.Circuit,
				l.Function,
				l.Ends[0].At,
				l.Ends[1].At,
				l.Long(),
				strings.TrimSpace(l.Extended + " " + map[bool]string{true: "new"}[l.New]),
				l.Standing(),
			},
		)
	}
	high := page.Drawing.High*scale + 6
	y := max(top+high, top+30)
	room := int((bookBottom-y)/bookRow) - 1
	head, share := []string{
		"wire",
		"colour, mm²",
		"circuit",
		"function",
		"from",
		"to",
		"mm",
		"extended",
		"state",
	}, []float64{
		12,
		11,
		8,
		30,
		14,
		14,
		6,
		8,
		7,
	}
	if len(rows) > room { // in two columns there is always room: the drawing is no higher than its paper
		p.narrow(y, rows)
		return
	}
	p.table(y+3, head, share, rows)
}

// narrow writes the wires of a page in two columns, of what matters most.
func (p *binding) narrow(y float64, rows [][]string) {
	half := (len(rows) + 1) / 2
	step := min(bookRow, (bookBottom-y-2)/float64(half+1))
	for i, r := range rows {
		x := bookMargin + float64(i/half)*(bookInner/2+2)
		at := y + 3 + step*float64(i%half)
		for c, part := range []struct {
			cell int
			x, w float64
		}{{0, 0, 24}, {1, 25, 22}, {4, 48, 26}, {5, 75, 26}, {3, 102, 34}} {
			p.fitted(x+part.x, at, min(2.5, step*0.6), c == 0, r[part.cell], part.w)
		}
	}
}
