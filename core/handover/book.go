package handover

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"draxel/core/diagram"
	"draxel/core/finding"
)

// Page is a page with a drawing, and the lengths of wire that are on it and on no other.
type Page struct {
	Group   string
	Nr      int // of the group, from 1
	Of      int
	Drawing diagram.Drawing
	Lengths []Piece
	Untold  []string // lengths that are no line of the drawing: both their ends are at one symbol
	Planned int      // of the lengths: those that are not so yet
	Goes    []Mark   // what is on other pages too
}

// Mark is a splice, a joint, a plug, a fuse or a relay whose wires are on more pages than one.
type Mark struct {
	Title string
	On    []int // the other pages, from 0
}

// Title is the page's title.
func (p *Page) Title() string {
	if p.Of < 2 {
		return p.Group
	}
	return fmt.Sprintf("%s, %d of %d", p.Group, p.Nr, p.Of)
}

// Paper is the room that a page has for a drawing, mm.
type Paper struct{ Wide, High float64 }

// Pages draws the book: the groups in their order, each on as many pages as it takes for its drawings to fit. A
// circuit stays on one page where it fits there; a larger one goes on on the next, its symbols drawn again and told
// so.
func Pages(in Input, paper Paper, measure diagram.Measure) []Page {
	b := bind(in)
	depth := b.depths()
	var out []Page
	for _, title := range Groups() {
		var circuits [][]int
		last := -1
		var mine []int
		for i := range b.all {
			if b.all[i].Group == title {
				mine = append(mine, i)
			}
		}
		slices.SortStableFunc(mine, func(x, y int) int { return cmp.Compare(b.all[x].circuit, b.all[y].circuit) })
		for _, i := range mine {
			if c := b.all[i].circuit; c != last {
				circuits, last = append(circuits, nil), c
			}
			circuits[len(circuits)-1] = append(circuits[len(circuits)-1], i)
		}
		first := len(out)
		for at := 0; at < len(circuits); {
			page, took, rest := b.fill(circuits[at:], paper, measure, depth)
			page.Group = title
			out = append(out, page)
			if at += took; len(rest) > 0 {
				at--
				circuits[at] = rest
			}
		}
		for i := first; i < len(out); i++ {
			out[i].Nr, out[i].Of = i-first+1, len(out)-first
		}
	}
	b.mark(out)
	return out
}

// mark gives the pages their marks: where what is drawn there goes on.
func (b *binder) mark(pages []Page) {
	on := map[string][]int{} // by symbol: the pages that it is on
	for k := range pages {
		for i := range pages[k].Lengths {
			for _, e := range pages[k].Lengths[i].Ends {
				if at := on[e.Symbol]; len(at) == 0 || at[len(at)-1] != k {
					on[e.Symbol] = append(at, k)
				}
			}
		}
	}
	for id, at := range on {
		if kind := b.symbols[id].kind; len(at) < 2 || kind == box || kind == ground || kind == stub {
			continue // a device has wires on many pages, and its plugs say on which
		}
		for _, k := range at {
			others := slices.DeleteFunc(slices.Clone(at), func(x int) bool { return x == k })
			pages[k].Goes = append(pages[k].Goes, Mark{b.symbols[id].title, others})
		}
	}
	for k := range pages {
		slices.SortFunc(pages[k].Goes, func(x, y Mark) int { return finding.Natural(x.Title, y.Title) })
	}
}

// mostLines bounds the lengths of a page: their table has to have room too.
const mostLines = 22

// fill takes as many circuits as a page holds, at least one; of one that a page cannot hold it takes a part, and
// gives the rest.
func (b *binder) fill(
	circuits [][]int,
	paper Paper,
	measure diagram.Measure,
	depth map[string]int,
) (page Page, took int, rest []int) {
	fits := func(lengths []int) (Page, bool) {
		p := b.draw(lengths, measure, depth)
		return p, p.Drawing.Wide <= paper.Wide && p.Drawing.High <= paper.High && len(lengths) <= mostLines
	}
	var on []int
	best, fine := Page{}, false
	for _, c := range circuits {
		if len(on)+len(c) > mostLines && took > 0 {
			break
		}
		p, ok := fits(append(slices.Clone(on), c...))
		if !ok {
			break
		}
		on, best, fine = append(on, c...), p, true
		took++
	}
	if fine {
		return best, took, nil
	}
	whole := circuits[0]
	low, high := 1, len(whole) // how many of it fit: by halves
	for low < high {
		mid := (low + high + 1) / 2
		if _, ok := fits(whole[:mid]); ok {
			low = mid
		} else {
			high = mid - 1
		}
	}
	page, _ = fits(whole[:low])
	return page, 1, whole[low:]
}

// draw draws some of the lengths.
func (b *binder) draw(lengths []int, measure diagram.Measure, depth map[string]int) Page {
	var g diagram.Graph
	page := Page{}
	there := map[string]int{}
	here := map[string]int{} // wires of this page at a symbol
	put := func(e *End) {
		if here[e.Symbol]++; here[e.Symbol] > 1 {
			return
		}
		s := b.symbols[e.Symbol]
		place := 0
		switch {
		case s.kind == ground:
			place = 1
		case s.source:
			place = -1
		}
		there[e.Symbol] = len(g.Symbols)
		g.Symbols = append(
			g.Symbols,
			diagram.Symbol{
				ID:    e.Symbol,
				Kind:  s.kind,
				Title: clip(s.title, 44),
				Under: clipAll(s.under),
				Place: place,
			},
		)
	}
	for _, i := range lengths {
		l := &b.all[i]
		from, to := l.Ends[0], l.Ends[1]
		if d := cmp.Compare(depth[from.Symbol], depth[to.Symbol]); d > 0 ||
			d == 0 && finding.Natural(from.Symbol, to.Symbol) > 0 {
			from, to = to, from
		}
		put(&from)
		put(&to)
		w := diagram.Line{
			ID:     string(l.Name),
			From:   b.port(from),
			To:     b.port(to),
			Above:  clip(l.Text(), 26),
			Dotted: l.Planned,
		}
		below := []string{}
		if l.Circuit != "" {
			below = append(below, l.Circuit)
		}
		if l.Mm > 0 {
			below = append(below, fmt.Sprintf("%.0f mm", l.Mm))
		}
		if l.Extended != "" {
			below = append(below, l.Extended)
		}
		w.Below = clip(strings.Join(below, " · "), 34)
		for _, c := range l.Colour.Parts {
			w.Colours = append(w.Colours, c.Code)
		}
		g.Wires = append(g.Wires, w)
		page.Lengths = append(page.Lengths, *l)
		if l.Planned {
			page.Planned++
		}
	}
	for id, at := range there { // what has more wires elsewhere says so
		if more := b.count[id] - here[id]; more > 0 && b.symbols[id].kind != stub &&
			(b.symbols[id].kind == splice || b.symbols[id].kind == joint) {
			wires := map[bool]string{true: "wire", false: "wires"}[more == 1]
			g.Symbols[at].Under = append(g.Symbols[at].Under, fmt.Sprintf("%d more %s", more, wires))
		}
	}
	b.through(&g, depth)
	page.Drawing, page.Untold = diagram.Layout(&g, measure)
	return page
}

// through has current go through plugs, splices and joints: where every wire of one comes in, or every one goes out,
// the one that leads farthest from what feeds is turned.
func (b *binder) through(g *diagram.Graph, depth map[string]int) {
	for range 2 {
		for i := range g.Symbols {
			id := g.Symbols[i].ID
			if k := g.Symbols[i].Kind; k != plug && k != splice && k != joint {
				continue
			}
			in, out, pick := 0, 0, -1
			far := func(w *diagram.Line) string {
				if w.From.Symbol == id {
					return w.To.Symbol
				}
				return w.From.Symbol
			}
			for k := range g.Wires {
				w := &g.Wires[k]
				if w.From.Symbol != id && w.To.Symbol != id || w.From.Symbol == w.To.Symbol {
					continue
				}
				if w.To.Symbol == id {
					in++
				} else {
					out++
				}
				if pick < 0 ||
					cmp.Or(
						cmp.Compare(depth[far(w)], depth[far(&g.Wires[pick])]),
						finding.Natural(far(w), far(&g.Wires[pick])),
					) > 0 {
					pick = k
				}
			}
			if in+out < 2 || in > 0 && out > 0 {
				continue
			}
			if out > 0 { // nothing feeds it: what is nearest to a source does
				for k := range g.Wires {
					w := &g.Wires[k]
					if w.From.Symbol == id && w.To.Symbol != id &&
						cmp.Or(cmp.Compare(depth[far(w)], depth[far(&g.Wires[pick])]),
							finding.Natural(far(w), far(&g.Wires[pick]))) < 0 {
						pick = k
					}
				}
			}
			w := &g.Wires[pick]
			w.From, w.To = w.To, w.From
		}
	}
}

// port gives the port of an end: its cavity at a device, the terminal's number at a relay.
func (b *binder) port(e End) diagram.End {
	out := diagram.End{Symbol: e.Symbol}
	switch b.symbols[e.Symbol].kind {
	case box, ground:
		if e.Cavity.Connector != "" {
			out.Port = e.At
		}
	case relay:
		r := b.relays[e.At]
		for name, p := range map[string]string{"86": r.Coil[0], "85": r.Coil[1], "30": r.Common, "87": r.Make,
			"87a": r.Break} {
			if p != "" && b.point(p) == e.At {
				out.Port = name + " " + e.At
			}
		}
	case fuse:
		out.Port = ""
	}
	return out
}

// clip cuts a text that no page has room for; what is cut off stands in the tables.
func clip(text string, most int) string {
	r := []rune(strings.TrimSpace(text))
	if len(r) <= most {
		return string(r)
	}
	return string(r[:most-1]) + "…"
}

func clipAll(texts []string) []string {
	var out []string
	for _, t := range texts {
		out = append(out, clip(t, 44))
	}
	return out
}
