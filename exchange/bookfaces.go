package exchange

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"

	"codeberg.org/go-pdf/fpdf"

	"draxel/core/colour"
	"draxel/core/face"
	"draxel/core/handover"
)

// Sizes of faces on paper, mm.
const (
	faceCell  = 9.4 // of a cavity of 1.5 mm
	faceLeast = 64.0
	faceHead  = 11.0
	faceGap   = 8.0
)

// laidFace is a face at its place on a page.
type laidFace struct {
	f           *handover.Face
	x, y, scale float64
	wide        float64
}

// layFaces puts faces onto pages, side by side as long as there is room, in their order.
func layFaces(all []handover.Face) [][]laidFace {
	var pages [][]laidFace
	x, y, shelf := bookMargin, bookTop+2, 0.0
	for i := range all {
		f := &all[i]
		d := &f.Drawing
		scale := min(faceCell, (bookInner-4)/d.W, (bookBottom-bookTop-faceHead-8)/(d.H+1.2))
		wide, high := max(faceLeast, d.W*scale+2), faceHead+(d.H+1.2)*scale
		if x > bookMargin && x+wide > bookWide-bookMargin {
			x, y, shelf = bookMargin, y+shelf+faceGap, 0
		}
		if len(pages) == 0 || y+high > bookBottom {
			pages = append(pages, nil)
			x, y, shelf = bookMargin, bookTop+2, 0
		}
		n := len(pages) - 1
		pages[n] = append(pages[n], laidFace{f, x, y, scale, wide})
		x, shelf = x+wide+faceGap, max(shelf, high)
	}
	return pages
}

// faces draws the faces of the connectors with what is in each cavity.
func (p *binding) faces(pages [][]laidFace) {
	for k, page := range pages {
		title := "Faces"
		if len(pages) > 1 {
			title = fmt.Sprintf("Faces, %d of %d", k+1, len(pages))
		}
		p.begin(
			title,
			"each seen from the side that is named; a dashed cavity is planned and not done yet, a crossed one is "+
				"empty",
		)
		for i := range page {
			p.face(&page[i])
		}
	}
}

func (p *binding) face(l *laidFace) {
	d := &l.f.Drawing
	p.fitted(l.x, l.y+3, 3, true, l.f.Title, l.wide)
	p.fitted(l.x, l.y+6.6, 2.1, false, l.f.Words, l.wide)
	x, y := l.x+1, l.y+faceHead-1.5+0.6*l.scale // the lock stands out of it
	p.SetDrawColor(30, 30, 30)
	p.SetLineWidth(0.35)
	p.Rect(x, y, d.W*l.scale, d.H*l.scale, "D")
	p.SetLineWidth(0.2)
	for _, b := range append([]face.Box{d.Lock}, d.Keys...) {
		p.Rect(x+b.X*l.scale, y+b.Y*l.scale, b.W*l.scale, b.H*l.scale, "D")
	}
	for i := range d.Cells {
		c := &d.Cells[i]
		cx, cy, w, h := x+c.X*l.scale, y+c.Y*l.scale, c.W*l.scale, c.H*l.scale
		in, full := l.f.In[c.Name]
		switch {
		case !full:
			p.SetDrawColor(190, 190, 190)
			p.Line(cx, cy+h, cx+w, cy)
		case in.Planned:
			p.SetDashPattern([]float64{0.8, 0.8}, 0)
		}
		p.SetDrawColor(90, 90, 90)
		p.Rect(cx, cy, w, h, "D")
		p.SetDashPattern(nil, 0)
		p.fitted(cx+0.5, cy+0.34*h, min(2.4, 0.26*h), true, c.Name, w-1)
		if !full {
			continue
		}
		p.swatch(cx+0.6, cy+0.42*h, w-1.2, 0.16*h, in.Colours)
		text := in.Text
		if in.More > 0 {
			text = fmt.Sprintf("%s +%d", text, in.More)
		}
		p.fitted(cx+0.4, cy+0.92*h, min(2.1, 0.24*h), false, text, w-0.8)
	}
	p.SetDrawColor(0, 0, 0)
}

// swatch draws a piece of insulation: base, tracer along it, an edge so that white shows.
func (p *binding) swatch(x, y, wide, high float64, colours []colour.Code) {
	base, known := inks[first(colours, 0)]
	if !known {
		return
	}
	p.SetFillColor(base[0], base[1], base[2])
	p.SetDrawColor(60, 60, 60)
	p.SetLineWidth(0.1)
	p.Rect(x, y, wide, high, "FD")
	if tracer, known := inks[first(colours, 1)]; known {
		p.SetFillColor(tracer[0], tracer[1], tracer[2])
		p.Rect(x, y+0.35*high, wide, 0.3*high, "F")
	}
	p.SetLineWidth(0.2)
}

// BookPhoto is a photograph of a connector, with what was noted of it.
type BookPhoto struct {
	Connector, Note string
	JPEG            []byte
}

// photosPerPage is how many photographs are on a page: three beside one another, in two rows.
const photosPerPage = 6

// photos puts in what was photographed before it came apart. One that cannot be read has its place and says so.
func (p *binding) photos(all []BookPhoto) {
	pages := (len(all) + photosPerPage - 1) / photosPerPage
	const wide, high = (bookInner - 12) / 3, 78.0
	for i := range all {
		if i%photosPerPage == 0 {
			p.begin(fmt.Sprintf("Photographs, %d of %d", i/photosPerPage+1, pages), "as it was found")
		}
		k := i % photosPerPage
		x, y := bookMargin+float64(k%3)*(wide+6), bookTop+2+float64(k/3)*(high+8)
		x0 := &all[i]
		p.words(x, y+3, 2.8, true, x0.Connector, wide)
		p.fitted(x, y+6.4, 2.2, false, x0.Note, wide)
		size, err := jpegSize(x0.JPEG)
		if err != nil {
			p.words(x, y+20, 2.8, false, "This photograph cannot be read.", wide)
			continue
		}
		name := fmt.Sprintf("photo %d", i)
		p.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "JPEG"}, bytes.NewReader(x0.JPEG))
		scale := min(wide/float64(size.X), (high-10)/float64(size.Y))
		p.ImageOptions(
			name,
			x,
			y+8,
			float64(size.X)*scale,
			float64(size.Y)*scale,
			false,
			fpdf.ImageOptions{ImageType: "JPEG"},
			0,
			"",
		)
	}
}

// jpegSize reads a picture whole, so that none breaks the book.
func jpegSize(data []byte) (image.Point, error) {
	picture, err := jpeg.Decode(bytes.NewReader(data))
	if err != nil {
		return image.Point{}, fmt.Errorf("read the photograph: %w", err)
	}
	return picture.Bounds().Size(), nil
}
