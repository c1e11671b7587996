package diagram

import (
	"math"
	"slices"
)

// Layout lays a graph out. Symbols that no wire comes to stand in the first column. Wires from a symbol to itself are
// not drawn as lines; they come back as untold, for the words beside the drawing.
func Layout(g *Graph, measure Measure) (d Drawing, untold []string) {
	l := &layered{
		g:       g,
		measure: measure,
		number:  make(map[string]int, len(g.Symbols)),
		nodes:   make([]node, len(g.Symbols)),
	}
	for i := range g.Symbols {
		l.number[g.Symbols[i].ID] = i
		l.nodes[i].symbol = i
	}
	for i := range g.Wires {
		w := &g.Wires[i]
		_, okA := l.number[w.From.Symbol]
		if _, okB := l.number[w.To.Symbol]; !okA || !okB || w.From.Symbol == w.To.Symbol {
			untold = append(untold, w.ID)
		}
	}
	if len(g.Symbols) == 0 {
		return d, untold
	}
	l.rank()
	l.thread()
	l.order()
	for i := range l.nodes {
		l.size(&l.nodes[i])
	}
	l.rows()
	l.draw(&d)
	return d, untold
}

// end gives the port's name at which a hop comes to a node, empty where it only passes.
func (l *layered) end(h int, right bool) string {
	x := &l.hops[h]
	w := &l.g.Wires[x.wire]
	left, other := w.From.Port, w.To.Port
	if l.turned[x.wire] {
		left, other = other, left
	}
	switch {
	case right && x.first:
		return left
	case !right && x.last:
		return other
	}
	return ""
}

// grid is what rows and symbols stand on, so that two levels are one or well apart.
const grid = Pitch / 2

func up(mm float64) float64 { return grid * math.Ceil(mm/grid-1e-9) }

// size gives a node its size, and its words their places in it.
func (l *layered) size(n *node) {
	rows := max(len(n.left), len(n.right), 1)
	if n.symbol < 0 {
		n.high = Pitch
		return
	}
	s := &l.g.Symbols[n.symbol]
	n.wide = map[Kind]float64{Splice: dotWide, Joint: dotWide, Plug: dotWide, Stub: dotWide, Ground: dotWide,
		Fuse: fuseWide, Relay: 22}[s.Kind]
	if n.wide == 0 {
		n.wide = least
	}
	y := 0.0
	words := func(text string, size float64, bold, quiet bool) {
		if text == "" {
			return
		}
		wide := l.measure(text, size, bold)
		y += line
		n.lines = append(n.lines, Text{Words: text, Y: y, Size: size, Wide: wide, Bold: bold, Quiet: quiet})
		n.wide = max(n.wide, wide+2*pad)
	}
	words(s.Title, Letter, true, false)
	n.top = up(y + 0.8)
	for k := range rows {
		inside := 3 * pad
		if k < len(n.left) {
			inside += l.measure(l.end(n.left[k], false), Small, false)
		}
		if k < len(n.right) {
			inside += l.measure(l.end(n.right[k], true), Small, false)
		}
		n.wide = max(n.wide, inside)
	}
	y = n.top + Pitch*float64(rows) - 0.6
	for _, u := range s.Under {
		words(u, Small, false, true)
	}
	n.high = up(y + 1)
	n.wide = up(n.wide)
}

// port gives the y of the k-th port of a node from its upper edge.
func (n *node) port(k int) float64 { return n.top + Pitch*(float64(k)+0.5) }

// rows gives every node its y: near what it is joined to, in the order of its column, none on another.
func (l *layered) rows() {
	for _, column := range l.columns {
		y := 0.0
		for _, i := range column {
			l.nodes[i].y = y
			y += l.nodes[i].high + l.below(i)
		}
	}
	for k := range 8 {
		for c := range l.columns {
			at := c
			if k%2 == 1 {
				at = len(l.columns) - 1 - c
			}
			l.pull(at, k%2 == 0, k >= 6)
		}
	}
	top := math.Inf(1)
	for i := range l.nodes {
		top = min(top, l.nodes[i].y)
	}
	for _, column := range l.columns { // onto the grid, in the order of the column
		y := math.Inf(-1)
		for _, i := range column {
			n := &l.nodes[i]
			n.y = max(grid*math.Round((n.y-top)/grid), y)
			y = n.y + n.high + l.below(i)
		}
	}
}

// below is how far the next of its column stays away from a node.
func (l *layered) below(i int) float64 {
	if l.nodes[i].symbol < 0 {
		return 0
	}
	return gap
}

// pull moves the nodes of a column to where their wires would be level, by what is at their left, at their right, or
// both; where that would put one on another they share the way (pool adjacent violators: isotonic regression).
func (l *layered) pull(column int, left, both bool) {
	type block struct {
		want, weight, high float64 // where its first wants to be; its height with all of it
		nodes              []int
	}
	var blocks []block
	for _, i := range l.columns[column] {
		n := &l.nodes[i]
		sum, weight := 0.0, 0.0
		near := func(hops []int, right bool) {
			for k, h := range hops {
				x := &l.hops[h]
				o := x.from
				if right {
					o = x.to
				}
				far := &l.nodes[o]
				list := far.right
				if right {
					list = far.left
				}
				heavy := 1.0
				if far.symbol < 0 {
					heavy = 4
				}
				sum += heavy * (far.y + far.port(slices.Index(list, h)) - n.port(k))
				weight += heavy
			}
		}
		if left || both {
			near(n.left, false)
		}
		if !left || both {
			near(n.right, true)
		}
		b := block{want: n.y, weight: 0.01, high: n.high + l.below(i), nodes: []int{i}}
		if weight > 0 {
			b.want, b.weight = sum/weight, weight
		}
		for len(blocks) > 0 {
			last := &blocks[len(blocks)-1]
			if last.want+last.high <= b.want {
				break
			}
			total := last.weight + b.weight
			b.want = (last.want*last.weight + (b.want-last.high)*b.weight) / total
			b.weight = total
			b.high += last.high
			b.nodes = append(last.nodes, b.nodes...)
			blocks = blocks[:len(blocks)-1]
		}
		blocks = append(blocks, b)
	}
	for _, b := range blocks {
		y := b.want
		for _, i := range b.nodes {
			l.nodes[i].y = y
			y += l.nodes[i].high + l.below(i)
		}
	}
}

// draw gives everything its place on the sheet.
func (l *layered) draw(d *Drawing) {
	x := 0.0
	edge := make([][2]float64, len(l.columns)) // of each column
	bends := make([][]Point, len(l.hops))
	for c, column := range l.columns {
		wide, words := 0.0, 0.0
		var hops []int
		for _, i := range column {
			wide = max(wide, l.nodes[i].wide)
			hops = append(hops, l.nodes[i].right...)
		}
		edge[c] = [2]float64{x, x + wide}
		x += wide
		for _, h := range hops {
			if w := &l.g.Wires[l.hops[h].wire]; l.hops[h].first {
				words = max(words, l.measure(w.Above, Letter, true), l.measure(w.Below, Small, false))
			}
		}
		if len(hops) == 0 {
			continue
		}
		x += words + 2*lead
		x += l.channel(hops, x, bends) + lead
	}
	d.Wide = x
	for i := range l.nodes {
		d.High = max(d.High, l.nodes[i].y+l.nodes[i].high)
	}
	l.symbols(d, edge)
	l.runs(d, edge, bends)
}

// symbols puts the symbols and the words in them onto the sheet, each in the middle of its column.
func (l *layered) symbols(d *Drawing, edge [][2]float64) {
	for i := range l.g.Symbols {
		n := &l.nodes[i]
		p := Placed{Symbol: l.g.Symbols[i], Wide: n.wide, High: n.high, Y: n.y}
		p.X = edge[n.column][0] + (edge[n.column][1]-edge[n.column][0]-n.wide)/2
		for k, h := range n.left {
			name := l.end(h, false)
			at := Point{p.X, n.y + n.port(k)}
			p.Ports = append(p.Ports, PlacedPort{name, false, at})
			if name != "" {
				d.Texts = append(d.Texts, Text{Words: name, X: at.X + pad/2, Y: at.Y + 0.7, Size: Small,
					Wide: l.measure(name, Small, false)})
			}
		}
		for k, h := range n.right {
			name := l.end(h, true)
			at := Point{p.X + n.wide, n.y + n.port(k)}
			p.Ports = append(p.Ports, PlacedPort{name, true, at})
			if wide := l.measure(name, Small, false); name != "" {
				d.Texts = append(
					d.Texts,
					Text{Words: name, X: at.X - pad/2 - wide, Y: at.Y + 0.7, Size: Small, Wide: wide},
				)
			}
		}
		for _, t := range n.lines {
			t.X, t.Y = p.X+(n.wide-t.Wide)/2, n.y+t.Y
			d.Texts = append(d.Texts, t)
		}
		d.Symbols = append(d.Symbols, p)
	}
}

// runs puts the wires onto the sheet, hop by hop, with their words where they begin.
func (l *layered) runs(d *Drawing, edge [][2]float64, bends [][]Point) {
	of := make([][]int, len(l.g.Wires))
	for h := range l.hops {
		of[l.hops[h].wire] = append(of[l.hops[h].wire], h)
	}
	for w := range l.g.Wires {
		if len(of[w]) == 0 {
			continue
		}
		run := Run{Line: l.g.Wires[w]}
		add := func(p Point) {
			if k := len(run.Points); k > 1 && (run.Points[k-1].Y == p.Y && run.Points[k-2].Y == p.Y ||
				run.Points[k-1].X == p.X && run.Points[k-2].X == p.X) {
				run.Points[k-1] = p
				return
			}
			if k := len(run.Points); k == 0 || run.Points[k-1] != p {
				run.Points = append(run.Points, p)
			}
		}
		for _, h := range of[w] {
			x := &l.hops[h]
			a, b := &l.nodes[x.from], &l.nodes[x.to]
			ya, yb := a.y+a.port(slices.Index(a.right, h)), b.y+b.port(slices.Index(b.left, h))
			begin, end := edge[a.column][0], edge[b.column][1]
			if a.symbol >= 0 {
				begin = edge[a.column][0] + (edge[a.column][1]-edge[a.column][0]+a.wide)/2
			}
			if b.symbol >= 0 {
				end = edge[b.column][0] + (edge[b.column][1]-edge[b.column][0]-b.wide)/2
			}
			add(Point{begin, ya})
			for _, p := range bends[h] {
				add(p)
			}
			add(Point{end, yb})
			if x.first {
				l.label(d, &l.g.Wires[w], Point{edge[a.column][1] + lead, ya})
			}
		}
		if l.turned[w] {
			slices.Reverse(run.Points)
		}
		d.Runs = append(d.Runs, run)
	}
}

// label puts a wire's words above and below its level.
func (l *layered) label(d *Drawing, w *Line, at Point) {
	if w.Above != "" {
		d.Texts = append(
			d.Texts,
			Text{Words: w.Above, X: at.X, Y: at.Y - 1.1, Size: Letter, Wide: l.measure(w.Above, Letter, true),
				Bold: true},
		)
	}
	if w.Below != "" {
		d.Texts = append(d.Texts, Text{Words: w.Below, X: at.X, Y: at.Y + 0.9 + Small*0.8, Size: Small,
			Wide: l.measure(w.Below, Small, false), Quiet: true})
	}
}
