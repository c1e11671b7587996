package prove

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"draxel/core/network"
)

// Advice is the next best measurement: what it costs, what it tells, and what each outcome would mean.
type Advice struct {
	Measure
	Bits     float64   `json:"bits"` // that it is expected to tell
	Minutes  float64   `json:"minutes"`
	Outcomes []MayShow `json:"outcomes"`
	Why      string    `json:"why"`
}

// MayShow is what a measure may show, and what that would mean.
type MayShow struct {
	Band        Band     `json:"band"`
	Probability float64  `json:"probability"`
	Means       []string `json:"means"` // suspects that would be left, the likeliest first
}

// What measurements cost, in minutes (common practice): to touch two points, and to bring the vehicle into another
// setup.
const (
	probeMinutes = 0.7
	setupMinutes = 1.5
)

// Options lists what can be measured: volts at every cavity against the battery's negative in setups with everything
// in, and with everything dead the ohms from cavity to cavity and to ground.
func (v *Vehicle) Options(near []MeterReading) []Measure {
	v.ready()
	var out []Measure
	setups := []Setup{}
	for i := range near {
		if near[i].Setup.Battery && !slices.Contains(setups, near[i].Setup) {
			setups = append(setups, near[i].Setup)
		}
	}
	for _, s := range slices.Clone(setups) { // what fails in crank may work in run: looked at without cranking
		if s.Key == "crank" {
			if s.Key = "run"; !slices.Contains(setups, s) {
				setups = append(setups, s)
			}
		}
	}
	if len(setups) == 0 {
		setups = []Setup{{Key: "run", Battery: true, Units: true}}
	}
	var points []network.Node
	for i := range near {
		points = append(points, v.pointsOf(&near[i].Measure)...)
	}
	_, nodes := v.near(points)
	heads := v.Net.Heads()
	type spot struct {
		at   string
		node int32
	}
	var spots []spot
	for i := range v.Plugs {
		for _, c := range v.Plugs[i].Cavities {
			at := v.Plugs[i].At(c)
			if n, there := v.nodes[network.WireSide(at)]; there && (len(points) == 0 || nodes[heads[n]]) {
				spots = append(spots, spot{at, heads[n]})
			}
		}
	}
	for i, name := range v.Net.Names { // posts, studs and what fuses feed
		n := v.nodes[name]
		if (v.hub[heads[n]] || strings.HasPrefix(name, "fuse ")) && n != network.Reference && name != "" &&
			v.Net.Sides[i] != network.OfWire && (len(points) == 0 || nodes[heads[n]]) {
			spots = append(spots, spot{name, heads[n]})
		}
	}
	add := func(m Measure) {
		m.ID = m.Key()
		out = append(out, m)
	}
	for _, s := range spots {
		for _, setup := range setups {
			add(Measure{Kind: Volts, A: s.at, B: "battery −", Setup: setup})
		}
		add(Measure{Kind: Ohms, A: s.at, B: "battery −", Setup: Bare})
	}
	if st, err := v.state(Bare); err == nil {
		for i, a := range spots {
			n := 0
			for _, b := range spots[i+1:] {
				if ohms, joined := st.Between(network.Node(a.node), network.Node(b.node)); joined && ohms < 2 &&
					n < 4 &&
					a.node != b.node {
					add(Measure{Kind: Ohms, A: a.at, B: b.at, Setup: Bare})
					n++
				}
			}
		}
	}
	return out
}

// most bounds how many suspects and measurements the next one is sought among.
const (
	mostSuspects = 60
	mostOptions  = 200
)

// closest puts the options first that touch what is suspected: where there are many, the others are not looked at.
func (v *Vehicle) closest(options []Measure, suspects []Suspect) []Measure {
	if len(options) <= mostOptions {
		return options
	}
	heads := v.Net.Heads()
	about := map[int32]bool{}
	for i := range suspects {
		for k := range suspects[i].Causes {
			for _, f := range suspects[i].Causes[k].Faults {
				if e, known := v.Net.Element(f.Element); known {
					about[heads[v.Net.Elements[e].A]], about[heads[v.Net.Elements[e].B]] = true, true
				}
				for _, name := range []string{f.A, f.B} {
					if n, known := v.nodes[name]; known {
						about[heads[n]] = true
					}
				}
			}
		}
	}
	delete(about, 0)
	out, rest := make([]Measure, 0, len(options)), []Measure(nil)
	for i := range options {
		a, _ := v.point(options[i].A, options[i].Setup)
		b, _ := v.point(options[i].B, options[i].Setup)
		if about[int32(a)] || about[int32(b)] {
			out = append(out, options[i])
		} else {
			rest = append(rest, options[i])
		}
	}
	return append(out, rest...)
}

// advise finds the next best measurement: that of which the most is expected to be told for its minutes.
func (v *Vehicle) advise(d *Diagnosis, readings []MeterReading, options []Measure) {
	if len(options) == 0 {
		options = v.Options(readings)
	}
	options = v.closest(options, d.Suspects[:min(len(d.Suspects), mostSuspects)])
	done := map[string]bool{}
	last := Bare
	for i := range readings {
		done[readings[i].Key()] = true
		last = readings[i].Setup
	}
	n := min(len(d.Suspects), mostSuspects)
	weight := make([]float64, n+1)
	sum := 0.0
	for i := range n {
		weight[i] = d.Suspects[i].weight
		sum += weight[i]
	}
	weight[n] = d.Healthy
	if sum += d.Healthy; sum <= 0 {
		return
	}
	h0 := 0.0
	for i := range weight {
		weight[i] /= sum
		h0 += bits(weight[i])
	}
	a := &advisor{v: v, d: d, weight: weight, open: h0, last: last, states: make([]map[Setup]*network.State, n+1)}
	for i := range a.states {
		a.states[i] = map[Setup]*network.State{}
	}
	options = slices.DeleteFunc(slices.Clone(options), func(m Measure) bool { return done[m.Key()] })
	best, asked := a.best(options)
	v.classes(d, a.same[:n])
	d.Next = best
	mass, rest := d.certain()
	d.Found = len(d.Suspects) > 0 && (mass > 0.95*(mass+rest) || d.Next == nil && mass > rest) && mass > d.Healthy
	if d.Found && asked < len(options) { // before it is said: nothing that was not looked at parts what is said
		if m := a.parts(options[asked:]); m != nil {
			d.Found, d.Next = false, m
		}
	}
	if !d.Found &&
		(len(d.Suspects) == 0 || d.Healthy > d.Suspects[0].Probability) { // out of band, and of nothing that is likely
		for i := range readings {
			if m := &readings[i].Measure; slices.Contains(d.Out, readings[i].ID) && m.Kind != Works &&
				times(readings, m.Key()) < 2 {
				d.once(m, "It is out of band, and one reading may be a mistake: measure it once more.")
				return
			}
		}
	}
	if !d.Found {
		return
	}
	d.Next = nil
	for i := range readings { // what contradicts it is measured once more before anything is taken apart
		m := &readings[i].Measure
		if slices.Contains(d.Suspects[0].Against, readings[i].ID) && times(readings, m.Key()) < 2 {
			d.once(m, "This reading does not fit what is likeliest: measure it once more.")
			return
		}
	}
}

// once asks for a measurement once more.
func (d *Diagnosis) once(m *Measure, why string) {
	again := *m
	again.ID = m.Key()
	d.Found, d.Next = false, &Advice{Measure: again, Minutes: probeMinutes, Outcomes: []MayShow{}, Why: why}
}

// times counts how often something was measured.
func times(readings []MeterReading, key string) int {
	n := 0
	for i := range readings {
		if readings[i].Key() == key {
			n += max(1, readings[i].Times)
		}
	}
	return n
}

// parted puts what is expected into classes that a meter can tell apart, in ascending order.
func parted(m *Measure, shows []Shown) (class []int, bands []Band) {
	order := make([]int, len(shows))
	for i := range order {
		order[i] = i
	}
	value := func(i int) float64 {
		if shows[i].Over {
			return math.Inf(1)
		}
		return shows[i].Value
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(value(a), value(b)) })
	class = make([]int, len(shows))
	for k, i := range order {
		x := shows[i]
		band := BandOf(m, x)
		if k > 0 {
			last := &bands[len(bands)-1]
			if x.Over && last.Over || !x.Over && !last.Over && x.Value-2*spread(m.Kind, x.Value) <= last.Most {
				if !x.Over {
					last.Most = max(last.Most, band.Most)
				}
				class[i] = len(bands) - 1
				continue
			}
		}
		bands = append(bands, band)
		class[i] = len(bands) - 1
	}
	return class, bands
}

// left gives the bits that are expected to be open after a measure.
func left(class []int, n int, weight []float64) float64 {
	mass := make([]float64, n)
	for i, c := range class {
		mass[c] += weight[i]
	}
	h := 0.0
	for i, c := range class {
		if weight[i] > 0 && mass[c] > 0 {
			h += mass[c] * bits(weight[i]/mass[c])
		}
	}
	return h
}

// outcomes says what each class of a measure would mean.
func (v *Vehicle) outcomes(d *Diagnosis, class []int, bands []Band, weight []float64) []MayShow {
	out := make([]MayShow, len(bands))
	for b := range bands {
		out[b] = MayShow{Band: bands[b], Means: []string{}}
	}
	for i, c := range class {
		out[c].Probability += weight[i]
		if len(out[c].Means) < 3 && weight[i] > 0.005 {
			if i < len(d.Suspects) && i < len(class)-1 {
				out[c].Means = append(out[c].Means, d.Suspects[i].Text())
			} else {
				out[c].Means = append(out[c].Means, "nothing is wrong here")
			}
		}
	}
	return slices.DeleteFunc(out, func(o MayShow) bool { return o.Probability < 0.01 })
}

// classes groups suspects that no measurement can tell apart.
func (v *Vehicle) classes(d *Diagnosis, same []string) {
	by := map[string]int{}
	for i := range d.Suspects {
		if i >= len(same) {
			d.Suspects[i].class = 1000 + i
			continue
		}
		c, known := by[same[i]]
		if !known {
			c = i
			by[same[i]] = i
		}
		d.Suspects[i].class = c
	}
	for i := range d.Suspects {
		for j := range d.Suspects {
			if i != j && d.Suspects[i].class == d.Suspects[j].class && len(d.Suspects[i].Like) < 6 {
				d.Suspects[i].Like = append(d.Suspects[i].Like, d.Suspects[j].Text())
			}
		}
	}
}
