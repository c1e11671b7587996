package reach

import (
	"fmt"
	"math"
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
	"draxel/core/stagger"
)

// grows is by how much a joint is thicker than its wire, a factor and mm: common practice, no source.
var grows = map[School][2]float64{Solder: {1.3, 1.2}, Crimp: {1.7, 2.4}, BareCrimp: {1.4, 1.6}}

// layer is the work in progress: the joints of every wire that is lengthened, and where they can lie.
type layer struct {
	r     *Result
	s     *settled
	tails map[tail]int // by the plug or splice at which it ends: its number
	ends  []tail       // of them, in their order
}

// tail is what lies between a station and one plug, or one splice.
type tail struct {
	connector string
	splice    harness.JointID
}

func (t tail) name() string { return t.connector + t.splice.Name() }

func (r *Result) join(s *settled) {
	if len(r.router.Paths) == 0 {
		return
	}
	y := &layer{r: r, s: s, tails: map[tail]int{}}
	var all []*stagger.Choice
	joints := 0
	for i := range r.Lines {
		if r.Lines[i].Verdict == Extend {
			all = append(all, y.choice(i))
			joints += r.Lines[i].Joints
		}
	}
	apart := r.in.Decisions.Rules.Apart
	on, relief := stagger.Schedule(all, apart, float64(joints)*apart > r.room())
	for _, wire := range relief {
		r.relief = append(r.relief, string(r.Lines[wire].Wire))
	}
	slices.SortFunc(r.relief, finding.Natural)
	for _, c := range all {
		y.tell(on, c)
	}
}

// room gives the mm of bundles in which a joint can lie, and of their tails.
func (r *Result) room() float64 {
	room := 0.0
	for i := range r.router.Paths {
		if p := &r.router.Paths[i]; !p.Moving && len(r.Bundles[i].Wires) > 0 {
			room += p.Length
		}
	}
	rules := &r.in.Decisions.Rules
	return room + float64(len(r.in.Loom.Connectors))*(rules.Drop+rules.End)
}

// tell writes the joints of a wire down.
func (y *layer) tell(on *stagger.Bundles, c *stagger.Choice) {
	r, l, w, rules := y.r, &y.r.Lines[c.Wire], &y.r.in.Wires[c.Wire], &y.r.in.Decisions.Rules
	end, cut := c.Cut()
	l.At, l.back = end+1, rules.Stub+rules.Lap+cut
	if l.Joints == 1 {
		l.By += cut
	}
	for k, x := range c.Spots() {
		j := Joint{ID: l.Wire.Joint(k + 1), Wire: l.Wire, At: math.Round(x.At), Thick: x.Thick}
		var path *route.Path
		if first := len(r.router.Paths); x.Segment < first {
			path = &r.router.Paths[x.Segment]
			j.Path, j.From = path.ID, path.From
		} else {
			j.From = y.ends[x.Segment-first].name()
		}
		j.School = r.school(y.s, w, l, path)
		j.Why, j.Cautions = r.aboutJoint(y.s, w, l, path, j.School)
		if j.Along = l.By - rules.Lap; l.Joints == 2 {
			j.Along = rules.Stub + cut
			if k == 0 {
				j.Along += l.By - 2*rules.Lap
			}
		}
		if beside, is := on.Beside(c, x); x.Why != "" {
			j.Trouble = fmt.Sprintf("There is no better place: %s.", x.Why)
		} else if is {
			j.Trouble = fmt.Sprintf("No place is left %.0f mm clear of others: it lies beside a joint of %s.",
				rules.Apart, r.Lines[beside].Wire)
		}
		r.Joints = append(r.Joints, j)
	}
}
