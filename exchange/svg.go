package exchange

import (
	"bufio"
	"encoding/xml"
	"fmt"
	"io"
	"strings"

	"draxel/core/diagram"
)

// WriteSVG writes a drawing as SVG, in mm, as it is in the book. The same drawing gives the same bytes.
func WriteSVG(w io.Writer, d *diagram.Drawing, title string) error {
	out := bufio.NewWriter(w)
	p := &onSVG{out}
	wide, high := d.Wide+4, d.High+4
	fmt.Fprintf(out, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="-2 -2 %s %s" `+
		`font-family="DejaVu Sans, sans-serif">`+"\n", mm(wide), mm(high), mm(wide), mm(high))
	fmt.Fprintf(out, "<title>%s</title>\n", escaped(printable(title)))
	sketch(p, d)
	fmt.Fprint(out, "</svg>\n")
	if err := out.Flush(); err != nil {
		return fmt.Errorf("write the drawing: %w", err)
	}
	return nil
}

// onSVG is a pen that writes SVG.
type onSVG struct{ w *bufio.Writer }

// mm writes a length, to a thousandth.
func mm(x float64) string {
	return strings.TrimRight(strings.TrimRight(fmt.Sprintf("%.3f", x), "0"), ".")
}

func (c ink) String() string { return fmt.Sprintf("#%02x%02x%02x", c[0], c[1], c[2]) }

// escaped is a text as XML writes it.
func escaped(text string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(text)) // a strings.Builder does not fail
	return b.String()
}

func path(points []diagram.Point) string {
	var b strings.Builder
	for k, q := range points {
		fmt.Fprintf(&b, "%s%s %s", map[bool]string{true: "M", false: "L"}[k == 0], mm(q.X), mm(q.Y))
	}
	return b.String()
}

func (p *onSVG) stroke(points []diagram.Point, wide float64, colour ink, dotted bool) {
	dash := ""
	if dotted {
		dash = ` stroke-dasharray="1.2 1.2"`
	}
	fmt.Fprintf(
		p.w,
		`<path d="%s" fill="none" stroke="%s" stroke-width="%s"%s/>`+"\n",
		path(points),
		colour,
		mm(wide),
		dash,
	)
}

func (p *onSVG) shape(points []diagram.Point, fill ink) {
	fmt.Fprintf(
		p.w,
		`<path d="%sZ" fill="%s" stroke="%s" stroke-width="%s"/>`+"\n",
		path(points),
		fill,
		black,
		mm(thin),
	)
}

func (p *onSVG) disc(at diagram.Point, r float64) {
	fmt.Fprintf(p.w, `<circle cx="%s" cy="%s" r="%s" fill="%s"/>`+"\n", mm(at.X), mm(at.Y), mm(r), black)
}

func (p *onSVG) words(at diagram.Point, size float64, bold bool, text string) {
	weight := ""
	if bold {
		weight = ` font-weight="bold"`
	}
	fmt.Fprintf(
		p.w,
		`<text x="%s" y="%s" font-size="%s"%s>%s</text>`+"\n",
		mm(at.X),
		mm(at.Y),
		mm(size),
		weight,
		escaped(text),
	)
}
