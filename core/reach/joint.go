package reach

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/route"
)

// School is a way of making a joint.
type School string

// The schools.
const (
	NoSchool School = "" // nobody has said
	// solder and adhesive heat shrink: small, nothing to wrap around; not where the bundle flexes
	Solder    School = "solder"
	Crimp     School = "crimp" // a crimp with a sealed sleeve: fast, serviceable, takes heat and current
	BareCrimp School = "bare"  // an uninsulated crimp under adhesive heat shrink: small and quick
)

// Schools lists them.
func Schools() []School { return []School{Solder, Crimp, BareCrimp} }

// grows is by how much a joint is thicker than its wire, a factor and mm: common practice, no source.
var grows = map[School][2]float64{Solder: {1.3, 1.2}, Crimp: {1.7, 2.4}, BareCrimp: {1.4, 1.6}}

// Joint is a joint to be made.
type Joint struct {
	ID       string         `json:"id"`
	Wire     harness.WireID `json:"wire"`
	Path     string         `json:"path,omitempty"` // where it lies; empty in the tail of a plug
	From     string         `json:"from"`           // the station or plug that At is measured from
	At       float64        `json:"at"`             // mm
	Along    float64        `json:"along"`          // mm from the end that is lengthened, when the joints have taken their laps
	School   School         `json:"school"`
	Why      string         `json:"why"`
	Cautions []string       `json:"cautions,omitempty"`
	Thick    float64        `json:"thick"`             // mm, the bundle's diameter at the joint
	Trouble  string         `json:"trouble,omitempty"` // why it could not be kept clear
}

// Bounds of where joints go, mm.
const (
	grommet  = 50   // from the middle of a wall
	breather = 300  // from the plug of a sensor that breathes through its lead
	notch    = 10   // steps in which a joint is moved
	farthest = 2400 // that a joint is moved for the sake of others
)

// spot is a place for a joint: on a path, or in the tail between a plug and its station.
type spot struct {
	segment  int // number of the path; behind them the tails
	at       float64
	stations [2]int     // at the ends of the segment, -1 at a plug
	off      [2]float64 // mm from them
	why      string     // what speaks against the spot itself
	thick    float64
}

// stagger puts joints along the bundles so that none stack: no two nearer than Apart, none in a grommet, none where the
// bundle flexes or would grow too thick. Whoever has the least wire to move them along chooses first, each takes the
// nearest that is free, and where none is left those that stand in the way are asked to move.
type stagger struct {
	r       *Result
	s       *settled
	tails   map[string]int
	on      places // by segment, in the order in which they lie
	near    places // by station: joints within Apart of it, the nearest first
	scratch []int
	full    bool // there is not room for all: nobody is asked to move
}

type taken struct {
	at    float64 // along the segment, or from the station
	seg   int
	joint int // number of the wire that has it
}

// choice is one wire's joints: the candidates for how far back from its end it is cut, and for each the spots.
type choice struct {
	line  int
	spots [][]spot // by candidate, worked out when it is first looked at
	cut   []float64
	end   []int // 1 or 2: where it is lengthened
	lanes [2]*lane
	stuck bool // it was asked to move in this round, and had nowhere to go
	took  int
}

func (r *Result) join(s *settled) {
	if len(r.router.Paths) == 0 {
		return
	}
	st := &stagger{r: r, s: s, tails: map[string]int{}}
	var all []*choice
	for i := range r.Lines {
		if r.Lines[i].Verdict == Extend {
			all = append(all, st.candidates(i))
		}
	}
	slices.SortStableFunc(all, func(a, b *choice) int {
		return cmp.Or(cmp.Compare(len(a.cut), len(b.cut)), finding.Natural(r.Lines[a.line].Wire, r.Lines[b.line].Wire))
	})
	st.full = st.overfull(all)
	st.schedule(all)
	slices.SortFunc(all, func(a, b *choice) int { return cmp.Compare(a.line, b.line) })
	for _, c := range all {
		st.tell(c)
	}
}

// overfull says whether the joints would take more than the bundles have in which a joint can lie, and their tails.
func (st *stagger) overfull(all []*choice) bool {
	joints, room := 0, 0.0
	for _, c := range all {
		joints += st.r.Lines[c.line].Joints
	}
	for i := range st.r.router.Paths {
		if p := &st.r.router.Paths[i]; !p.Moving && len(st.r.Bundles[i].Wires) > 0 {
			room += p.Length
		}
	}
	rules := &st.r.in.Decisions.Rules
	room += float64(len(st.r.in.Loom.Connectors)) * (rules.Drop + rules.End)
	return float64(joints)*rules.Apart > room
}

// schedule gives every wire its candidate. Where some have no clear place they choose first in another round, as
// whoever squeaks gets the oil (Joslin and Clements, "Squeaky wheel optimization", JAIR 10, 1999, from memory), and the
// best round is kept. Large harnesses get few rounds.
func (st *stagger) schedule(all []*choice) {
	rounds := 1 + min(12, squeaks/max(len(all), 1))
	if st.full {
		rounds = 1
	}
	best, least := make([]int, len(all)), math.MaxInt
	order := slices.Clone(all)
	for range rounds {
		st.on.clear()
		st.near.clear()
		byLine := make(map[int]*choice, len(all))
		for _, c := range order {
			byLine[c.line], c.stuck = c, false
			st.choose(c, byLine)
		}
		var squeaky, quiet []*choice
		for _, c := range order {
			if spots := st.at(c, c.took); bad(spots) || st.blocked(c, spots) {
				squeaky = append(squeaky, c)
			} else {
				quiet = append(quiet, c)
			}
		}
		if len(squeaky) < least {
			least = len(squeaky)
			for i, c := range all {
				best[i] = c.took
			}
		}
		if least == 0 {
			break
		}
		order = append(squeaky, quiet...)
	}
	st.on.clear()
	st.near.clear()
	for i, c := range all {
		st.take(c, best[i])
	}
	if least > 0 && !st.full {
		st.mend(all, mostLooks)
		st.r.relief = st.relief(all)
	}
	if least > 0 {
		st.spread(all)
	}
}

// squeaks is how many wires are put in order again in all.
const squeaks = 800

func bad(spots []spot) bool {
	return slices.ContainsFunc(spots, func(x spot) bool { return x.why != "" })
}

// choose takes the first candidate that is good in itself and clear of what is there. Where there is none, those that
// stand in the way move if they can; else the candidate with least against it is taken, and it is told.
func (st *stagger) choose(c *choice, others map[int]*choice) {
	against := make([]int, len(c.cut)) // how many stand in the way, as far as that matters
	best := 0
	for k := range c.cut {
		if against[k] = st.against(c, k, mostMoved+1); against[k] == 0 {
			st.take(c, k)
			return
		}
		if against[k] < against[best] {
			best = k
		}
	}
	tries := 0
	for k := range c.cut {
		if st.full || against[k] > mostMoved || tries == mostTries {
			continue
		}
		tries++
		if st.makeRoom(c, k, st.blocking(c, st.at(c, k), mostMoved), others) {
			return
		}
	}
	st.take(c, best)
}

// spread moves the joints that found no clear place as far from the others as they go.
func (st *stagger) spread(all []*choice) {
	for _, c := range all {
		if st.blocked(c, st.at(c, c.took)) {
			st.leave(c)
			st.take(c, st.clearest(c))
		}
	}
}

// clearest gives the candidate whose joints lie farthest from the others, where none lies clear: they are spread as
// far as they go. One that is bad in itself is taken only where all are.
func (st *stagger) clearest(c *choice) int {
	best, most := 0, math.Inf(-1)
	for k := range c.cut {
		spots := st.at(c, k)
		d := st.distance(c, spots)
		if bad(spots) {
			d -= farthest
		}
		if d > most {
			best, most = k, d
		}
	}
	return best
}

// tell writes the joints of a wire down.
func (st *stagger) tell(c *choice) {
	r, l, w, rules := st.r, &st.r.Lines[c.line], &st.r.in.Wires[c.line], &st.r.in.Decisions.Rules
	l.At, l.back = c.end[c.took], rules.Stub+rules.Lap+c.cut[c.took]
	if l.Joints == 1 {
		l.By += c.cut[c.took]
	}
	for k, x := range c.spots[c.took] {
		j := Joint{ID: l.Wire.Joint(k + 1), Wire: l.Wire, At: math.Round(x.at), Thick: x.thick}
		var path *route.Path
		if x.segment < len(r.router.Paths) {
			path = &r.router.Paths[x.segment]
			j.Path, j.From = path.ID, path.From
		} else {
			for name, n := range st.tails {
				if n == x.segment {
					j.From = strings.TrimPrefix(name, "splice ")
				}
			}
		}
		j.School = r.school(st.s, w, l, path)
		j.Why, j.Cautions = r.aboutJoint(st.s, w, l, path, j.School)
		if j.Along = l.By - rules.Lap; l.Joints == 2 {
			j.Along = rules.Stub + c.cut[c.took]
			if k == 0 {
				j.Along += l.By - 2*rules.Lap
			}
		}
		if in := st.blocking(c, []spot{x}, 1); x.why != "" {
			j.Trouble = fmt.Sprintf("There is no better place: %s.", x.why)
		} else if len(in) > 0 {
			j.Trouble = fmt.Sprintf("No place is left %.0f mm clear of others: it lies beside a joint of %s.",
				r.in.Decisions.Rules.Apart, r.Lines[in[0]].Wire)
		}
		r.Joints = append(r.Joints, j)
	}
}
