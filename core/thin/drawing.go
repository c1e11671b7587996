package thin

import (
	"cmp"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
)

// Drawing is the harness as a person lays it on the bench: the trunk from left to right, branches up and down from it
// in the order in which they break out, what is on a branch hung along it. It is not to scale; lengths are written.
// Units are about a pixel at full size.
type Drawing struct {
	Width    float64 `json:"width"`
	Height   float64 `json:"height"`
	Branches []Limb  `json:"branches"`
	Spots    []Spot  `json:"spots"`
}

// Limb is a branch, or the trunk, or the twig to one connector.
type Limb struct {
	ID        string  `json:"id"`
	Parent    string  `json:"parent,omitempty"`
	X1        float64 `json:"x1"`
	Y1        float64 `json:"y1"`
	X2        float64 `json:"x2"`
	Y2        float64 `json:"y2"`
	Length    float64 `json:"length,omitempty"` // mm
	Keep      int     `json:"keep"`
	Goes      int     `json:"goes"`
	Undecided int     `json:"undecided"`
	Twig      bool    `json:"twig,omitempty"` // leads to one connector
}

// Spot is a connector or a splice in the drawing.
type Spot struct {
	Kind      Scope   `json:"kind"` // Connector or Joint
	ID        string  `json:"id"`
	Device    string  `json:"device,omitempty"`
	Limb      string  `json:"limb"`
	X         float64 `json:"x"` // of a connector its left edge
	Y         float64 `json:"y"`
	Width     float64 `json:"width,omitempty"` // of a connector
	Keep      int     `json:"keep"`
	Goes      int     `json:"goes"`
	Undecided int     `json:"undecided"`
	Implied   bool    `json:"implied,omitempty"`
	Locked    bool    `json:"locked,omitempty"`
	Off       bool    `json:"off,omitempty"`
	Fate      Fate    `json:"fate,omitempty"`
}

// Sizes of the drawing.
const (
	rowHeight = 24.0
	indent    = 18.0
	boxWidth  = 122.0 // of a connector
	column    = indent + boxWidth + 16
	margin    = 26.0
	oneSided  = 7 // connectors that a branch carries on one side; more hang on both
	unplaced  = "no branch"
)

// layer lays the harness out.
type layer struct {
	*thinning
	children map[string][]harness.Branch
	plugs    map[string][]int32           // connectors by branch
	splices  map[string][]harness.JointID // by branch
	home     map[string]string            // connector or splice to its branch
	limb     map[string]int
	fates    map[harness.JointID]Fate // of the splices
	d        Drawing
}

// layer puts every connector and splice on its branch.
func (r *Result) layer() layer {
	l := layer{thinning: r.t, children: map[string][]harness.Branch{}, plugs: map[string][]int32{},
		splices: map[string][]harness.JointID{}, home: map[string]string{}, limb: map[string]int{},
		fates: map[harness.JointID]Fate{},
		d:     Drawing{Branches: []Limb{}, Spots: []Spot{}}}
	for i := range r.Joints {
		if j := &r.Joints[i]; j.Kind == AtSplice {
			l.fates[j.ID] = j.Fate
		}
	}
	l.file()
	return l
}

// Draw lays the harness out.
func (r *Result) Draw() Drawing {
	l := r.layer()
	l.lay()
	l.count()
	return l.d
}

// file puts every connector and splice on a branch. What is on none hangs on a branch of its own.
func (l *layer) file() {
	known := map[string]bool{}
	for _, b := range l.loom.Branches {
		known[b.ID] = true
	}
	parents := l.parents(known)
	for _, b := range l.loom.Branches {
		l.children[parents[b.ID]] = append(l.children[parents[b.ID]], b)
	}
	for p := range l.children {
		slices.SortStableFunc(l.children[p], func(a, b harness.Branch) int {
			return cmp.Or(cmp.Compare(a.At, b.At), finding.Natural(a.ID, b.ID))
		})
	}
	place := func(id, branch string) string {
		if !known[branch] {
			if branch = unplaced; !known[unplaced] {
				known[unplaced] = true
				roots := l.children[""]
				parent := ""
				if len(roots) > 0 {
					parent = roots[0].ID
				}
				l.children[parent] = append(l.children[parent], harness.Branch{ID: unplaced, Parent: parent})
			}
		}
		l.home[id] = branch
		return branch
	}
	for h := range l.loom.Connectors {
		b := place(l.loom.Connectors[h].ID, l.loom.Connectors[h].Branch)
		l.plugs[b] = append(l.plugs[b], int32(h))
	}
	for i := range l.loom.Splices {
		s := &l.loom.Splices[i]
		branch := s.Branch
		if !known[branch] { // where its first wire runs
			at, _ := l.net.Joint(s.ID)
			for _, x := range l.net.Tips(at) {
				if b := l.loom.Wires[x.Wire()].Branch; known[b] {
					branch = b
					break
				}
			}
		}
		b := place("splice "+string(s.ID), branch)
		l.splices[b] = append(l.splices[b], s.ID)
	}
}

// parents gives the branch that each breaks out of, "" for a trunk. One that is said to break out of what is not
// listed, or by way of others out of itself, is a trunk: a misprint in the list takes nothing out of the drawing.
func (l *layer) parents(known map[string]bool) map[string]string {
	of := map[string]string{}
	for _, b := range l.loom.Branches {
		if known[b.Parent] {
			of[b.ID] = b.Parent
		}
	}
	walk := map[string]int{} // by branch: the number of the walk that came by; each is walked through once
	for i, b := range l.loom.Branches {
		for at := b.ID; at != ""; at = of[at] {
			if by := walk[at]; by == i+1 {
				of[at] = ""
				break
			} else if by > 0 {
				break // it leads to a trunk, as that walk found
			}
			walk[at] = i + 1
		}
	}
	return of
}

// deepest is how far branches may nest before the drawing stops following them.
const deepest = 8

// lay lays each trunk from left to right, one below the other, its branches alternately up and down.
func (l *layer) lay() {
	y := margin
	for _, root := range l.children[""] {
		branches := l.children[root.ID]
		rows := [2]int{}
		for i, b := range branches {
			rows[i%2] = max(rows[i%2], 2+l.rows(b.ID, deepest))
		}
		own := 1 + (len(l.plugs[root.ID])+1)/2 // what is at the trunk's own ends
		trunkY := y + float64(max(rows[0], own))*rowHeight
		start := margin + column
		if len(l.plugs[root.ID]) == 0 {
			start = margin
		}
		free := [2]float64{start, start + 24} // up to where the trunk is taken, above and below
		at := make([]float64, len(branches))
		last := start
		for i, b := range branches {
			left, right := l.wide(b.ID, deepest)
			at[i] = max(free[i%2]+left, last+12) // in the order in which they break out
			free[i%2], last = at[i]+right, at[i]
		}
		end := max(last+40, start+2*column)
		if len(l.plugs[root.ID]) > 1 {
			end = max(end, free[0], free[1])
		}
		l.trunk(root, start, end, trunkY)
		for i, b := range branches {
			l.branch(b, root.ID, at[i], trunkY, map[bool]float64{true: -1, false: 1}[i%2 == 0])
		}
		y = trunkY + float64(max(rows[1], own))*rowHeight + margin
		l.d.Width = max(l.d.Width, free[0], free[1], end+column)
	}
	l.d.Width += margin
	l.d.Height = y + margin
}

func (l *layer) add(b Limb) { l.limb[b.ID] = len(l.d.Branches); l.d.Branches = append(l.d.Branches, b) }

func (l *layer) trunk(b harness.Branch, x1, x2, y float64) {
	l.add(Limb{ID: b.ID, X1: x1, Y1: y, X2: x2, Y2: y, Length: b.Length})
	plugs := l.plugs[b.ID]
	for i, h := range plugs { // half of them at each end
		row := float64(i/2) - float64(len(plugs)/2)/2
		if i%2 == 1 {
			l.plug(h, b.ID, x2, y, x2+indent, y+row*rowHeight)
		} else {
			l.plug(h, b.ID, x1, y, x1-indent, y+row*rowHeight)
		}
	}
	for i, s := range l.splices[b.ID] {
		l.spliceSpot(s, b.ID, x1+(x2-x1)*float64(i+1)/float64(len(l.splices[b.ID])+1), y)
	}
}

// branch lays a branch away from its trunk, what is on it hung along it.
func (l *layer) branch(b harness.Branch, parent string, x, y, away float64) {
	end := y + away*rowHeight*float64(1+l.rows(b.ID, deepest))
	l.add(Limb{ID: b.ID, Parent: parent, X1: x, Y1: y, X2: x, Y2: end - away*rowHeight/2, Length: b.Length})
	l.hang(b.ID, x, y, away, 1, deepest)
}

func (l *layer) plug(h int32, limb string, x1, y1, x2, y2 float64) {
	c := &l.loom.Connectors[h]
	l.add(Limb{ID: "to " + c.ID, Parent: limb, X1: x1, Y1: y1, X2: x2, Y2: y2, Twig: true})
	left := x2
	if x2 < x1 {
		left = x2 - boxWidth
	}
	l.d.Spots = append(l.d.Spots, Spot{Kind: Connector, ID: c.ID, Device: c.Device, Limb: "to " + c.ID, X: left, Y: y2,
		Width: boxWidth, Locked: c.Locked, Off: l.off(h)})
}

func (l *layer) spliceSpot(id harness.JointID, limb string, x, y float64) {
	s := Spot{Kind: Joint, ID: string(id), Limb: limb, X: x, Y: y, Fate: l.fates[id]}
	if at, _ := l.net.Joint(id); l.net.Nodes[at].Splice >= 0 {
		s.Implied = l.loom.Splices[l.net.Nodes[at].Splice].Implied
	}
	l.d.Spots = append(l.d.Spots, s)
}

// count says of every limb how many wires run in it, following each wire from one end to the other over the tree.
func (l *layer) count() {
	spots := map[string]int{}
	for i, s := range l.d.Spots {
		spots[string(s.Kind)+" "+s.ID] = i
	}
	for w := range l.loom.Wires {
		v := l.result.Wires[w].Choice
		for _, limb := range l.route(int32(w)) {
			bump(&l.d.Branches[limb].Keep, &l.d.Branches[limb].Goes, &l.d.Branches[limb].Undecided, v)
		}
		for _, e := range l.loom.Wires[w].Ends {
			name := "connector " + e.At.Connector
			if e.Splice != "" {
				name = "splice " + string(e.Splice)
			}
			if i, ok := spots[name]; ok {
				bump(&l.d.Spots[i].Keep, &l.d.Spots[i].Goes, &l.d.Spots[i].Undecided, v)
			}
		}
	}
}

func bump(keep, goes, undecided *int, c Choice) {
	switch c {
	case Keep:
		*keep++
	case Goes:
		*goes++
	case Undecided:
		*undecided++
	}
}

// limbOf gives the limb that an end is on, "" where nobody knows.
func (l *layer) limbOf(e harness.End) string {
	switch {
	case e.At != (harness.Ref{}):
		if _, ok := l.limb["to "+e.At.Connector]; ok {
			return "to " + e.At.Connector
		}
	case e.Splice != "":
		return l.home["splice "+string(e.Splice)]
	}
	return ""
}

// route lists the limbs that a wire runs through. Of a wire of which one end is not known, those of the other.
func (l *layer) route(w int32) []int {
	wire := &l.loom.Wires[w]
	chain := func(limb string) []int {
		var out []int
		for i, ok := l.limb[limb]; ok && len(out) < 4*deepest; i, ok = l.limb[l.d.Branches[i].Parent] {
			out = append(out, i)
		}
		return out
	}
	a, b := chain(l.limbOf(wire.Ends[0])), chain(l.limbOf(wire.Ends[1]))
	if len(a) == 0 || len(b) == 0 {
		if only := append(a, b...); len(only) > 0 {
			return only[:1]
		}
		return nil
	}
	for len(a) > 1 && len(b) > 1 && a[len(a)-2] == b[len(b)-2] { // up to where they part
		a, b = a[:len(a)-1], b[:len(b)-1]
	}
	top := a[len(a)-1]
	if top != b[len(b)-1] {
		return append(a, b...)
	}
	return append(append(append([]int{}, a[:len(a)-1]...), b[:len(b)-1]...), top)
}

// Routes gives, for each wire that is asked for by its number, the limbs of the drawing that it runs through.
func (r *Result) Routes(d Drawing, asked func(w int) bool) map[harness.WireID][]string {
	l := r.layer()
	l.d = d
	for i, b := range d.Branches {
		l.limb[b.ID] = i
	}
	out := map[harness.WireID][]string{}
	for w := range r.Wires {
		if !asked(w) {
			continue
		}
		names := []string{}
		for _, i := range l.route(int32(w)) {
			names = append(names, d.Branches[i].ID)
		}
		out[l.loom.Wires[w].ID] = names
	}
	return out
}
