package prove

import (
	"fmt"
	"hash/fnv"
	"math"
	"slices"

	"draxel/core/network"
)

// Level is how hard a round of the trainer is.
type Level struct {
	Name  string `json:"name"`
	What  string `json:"what"` // what may be wrong
	kinds []CauseKind
	many  int
	lie   bool // two colours are not what they seem
}

// levels are those of the trainer, the easiest first.
var levels = []Level{
	{"one open wire", "a wire is broken, or a joint of it open", []CauseKind{Broken}, 1, false},
	{"one fault", "a wire, a terminal, a fuse or a relay",
		[]CauseKind{Broken, NotSeated, Blown, DeadRelay, StuckRelay, DeadSwitch, DeadInside}, 1, false},
	{"one fault, well hidden", "anything, bad contacts, touches and crossed terminals too", nil, 1, false},
	{"two faults", "two things at once", nil, 2, false},
	{
		"two faults and a lying colour",
		"two things at once, and two wires whose colours are not what they seem",
		nil,
		2,
		true,
	},
}

// Levels lists the levels of the trainer.
func Levels() []Level { return slices.Clone(levels) }

// Round is one round of the trainer: what is hidden in the vehicle, and what is told of it. The same level and seed
// give the same round.
type Round struct {
	Level  int
	Seed   uint64
	Hidden []Cause
	Told   MeterReading // what is seen of it
	Lie    [2]string    // two cavities whose colours are exchanged, empty where none are
}

// Dice are what a round is chosen by: the same throws give the same round.
type Dice interface {
	IntN(n int) int // 0 to n−1
}

// mixed puts a list into an order by dice (Fisher & Yates 1938, in Durstenfeld's way).
func mixed[T any](list []T, dice Dice) []T {
	for i := len(list) - 1; i > 0; i-- {
		j := dice.IntN(i + 1)
		list[i], list[j] = list[j], list[i]
	}
	return list
}

// mostTries bounds the faults that are looked at before one is seen from outside.
const mostTries = 120

// Train hides faults of a level that somebody notices: a device does not work that should, or works that should not.
// Seed is the number of the round, by which its meter differs from others; dice choose what is hidden.
func (v *Vehicle) Train(level int, seed uint64, dice Dice) (*Round, error) {
	if level < 0 || level >= len(levels) {
		return nil, fmt.Errorf("there is no level %d", level)
	}
	l := &levels[level]
	all := slices.DeleteFunc(v.Causes(), func(c Cause) bool {
		return len(l.kinds) > 0 && !slices.Contains(l.kinds, c.Kind) || c.Kind == Withheld
	})
	if len(all) == 0 {
		return nil, fmt.Errorf("there is nothing in this vehicle that could be hidden")
	}
	r := &Round{Level: level, Seed: seed}
	for range mostTries {
		c := all[dice.IntN(len(all))]
		told, seen := v.noticed(append(slices.Clone(r.Hidden), c), len(r.Hidden) > 0, r.Told, dice)
		if !seen {
			continue
		}
		if r.Hidden = append(r.Hidden, c); len(r.Hidden) == 1 {
			r.Told = told
		}
		if len(r.Hidden) == l.many {
			break
		}
	}
	if len(r.Hidden) < l.many {
		return nil, fmt.Errorf("no fault was found that somebody would notice: another round may have one")
	}
	if l.lie {
		r.Lie = v.lie(r.Hidden[0].Where, dice)
	}
	return r, nil
}

// trainSetups are those in which somebody notices something.
var trainSetups = []Setup{{Key: "running", Battery: true, Units: true}, {Key: "run", Battery: true, Units: true},
	{Key: "crank", Battery: true, Units: true}}

// noticed finds a device that does other than it should; with a fault there already one that does other than what
// is told.
func (v *Vehicle) noticed(causes []Cause, further bool, told MeterReading, dice Dice) (MeterReading, bool) {
	devices := mixed(v.Devices(), dice)
	for _, s := range trainSetups {
		base, err := v.state(s)
		if err != nil {
			return told, false
		}
		faults := Faults(causes, s)
		if len(faults) == 0 {
			continue
		}
		is, err := base.With(faults...)
		if err != nil {
			return told, false
		}
		before := base
		if further {
			if before, err = base.With(Faults(causes[:len(causes)-1], s)...); err != nil {
				return told, false
			}
		}
		for _, d := range devices {
			m := Measure{Kind: Works, A: d, Setup: s}
			was, _ := v.shows(before, &m)
			now, err := v.shows(is, &m)
			if err == nil && was != now {
				m.ID = m.Key()
				return MeterReading{Measure: m, Value: now.Value}, true
			}
		}
	}
	return told, false
}

// lie picks two cavities of the plug at which something is wrong, or of any, whose colours are told the wrong way
// round.
func (v *Vehicle) lie(where string, dice Dice) [2]string {
	plugs := mixed(slices.Clone(v.Plugs), dice)
	slices.SortStableFunc(plugs, func(a, b Plug) int {
		at := func(p Plug) int {
			if slices.ContainsFunc(
				p.Cavities,
				func(c string) bool { return p.At(c) == where || network.ContactOf(p.At(c)) == where },
			) {
				return 0
			}
			return 1
		}
		return at(a) - at(b)
	})
	for i := range plugs {
		var full []string
		for _, c := range plugs[i].Cavities {
			if _, there := v.nodes[network.WireSide(plugs[i].At(c))]; there {
				full = append(full, plugs[i].At(c))
			}
		}
		if len(full) > 2 {
			a := dice.IntN(len(full))
			return [2]string{full[a], full[(a+1+dice.IntN(len(full)-1))%len(full)]}
		}
	}
	return [2]string{}
}

// Shows gives what a meter shows in a round, with the noise of one: the same measure shows the same.
func (v *Vehicle) Shows(r *Round, m *Measure) (Shown, error) {
	x, err := v.With(m, Faults(r.Hidden, m.Setup))
	if err != nil || x.Over || m.Kind == Works {
		return x, err
	}
	x.Value = x.Value*(1+0.003*noise(r.Seed, m, 1)) + 0.005*noise(r.Seed, m, 2)
	if m.Kind == Ohms {
		x.Value = math.Abs(x.Value)
	}
	return x, nil
}

// noise gives what a meter is off by in a round, of unit variance: even between −√3 and √3, the same for the same
// measure.
func noise(seed uint64, m *Measure, nr int) float64 {
	h := fnv.New64a()
	_, _ = fmt.Fprint(h, seed, " ", nr, " ", m.Key())
	return (float64(h.Sum64()>>11)/(1<<53) - 0.5) * math.Sqrt(12)
}

// Walked is a measurement on the way to a fault, with what it showed and why it was the next.
type Walked struct {
	Measure
	Shown Shown  `json:"shown"`
	Why   string `json:"why"`
}

// mostWalked bounds a way to a fault.
const mostWalked = 24

// Way gives the way to what is hidden in a round by the best next measurement each time. What is found is mended, and
// the next is looked for by what is still seen of it. It is false where that does not come to all of what is hidden.
func (v *Vehicle) Way(r *Round) (way []Walked, reached bool, err error) {
	left := *r
	for len(left.Hidden) > 0 {
		readings := []MeterReading{left.Told}
		var said Diagnosis
		for {
			if said, err = v.Diagnose(readings, nil); err != nil {
				return way, false, err
			}
			if said.Found || said.Next == nil {
				break
			}
			if len(way) >= mostWalked {
				return way, false, nil
			}
			m := said.Next.Measure
			x, err := v.Shows(&left, &m)
			if err != nil {
				return way, false, err
			}
			way = append(way, Walked{m, x, said.Next.Why})
			readings = append(readings, MeterReading{Measure: m, Value: x.Value, Over: x.Over}.Again(readings))
		}
		before := len(left.Hidden)
		left.Hidden = slices.DeleteFunc(slices.Clone(left.Hidden), func(c Cause) bool {
			return len(said.Suspects) > 0 && said.Suspects[0].names(c.Text)
		})
		if len(left.Hidden) == before {
			return way, false, nil
		}
		if len(left.Hidden) > 0 {
			seen := false
			if left.Told, seen = v.stillSeen(left.Hidden); !seen {
				return way, false, nil
			}
		}
	}
	return way, true, nil
}

// names says whether a suspect is that cause, has it among its two, or cannot be told from it.
func (s *Suspect) names(text string) bool {
	return slices.ContainsFunc(s.Causes, func(c Cause) bool { return c.Text == text }) || slices.Contains(s.Like, text)
}

// stillSeen finds a device that does other than it should with causes in the vehicle.
func (v *Vehicle) stillSeen(causes []Cause) (MeterReading, bool) {
	for _, s := range trainSetups {
		for _, d := range v.Devices() {
			m := Measure{Kind: Works, A: d, Setup: s}
			was, err1 := v.Expect(&m)
			is, err2 := v.With(&m, Faults(causes, s))
			if err1 == nil && err2 == nil && was != is {
				m.ID = m.Key()
				return MeterReading{Measure: m, Value: is.Value}, true
			}
		}
	}
	return MeterReading{}, false
}

// Named says whether guesses are what is hidden, each or what no measurement tells from it: the same at every point
// that the advice would look at.
func (v *Vehicle) Named(r *Round, guesses []string) bool {
	if len(guesses) != len(r.Hidden) {
		return false
	}
	left := slices.Clone(guesses)
	for i := range r.Hidden {
		k := slices.IndexFunc(left, func(g string) bool { return g == r.Hidden[i].Text || v.same(r, i, g) })
		if k < 0 {
			return false
		}
		left = slices.Delete(left, k, k+1)
	}
	return true
}

// same says whether another cause in the place of a hidden one shows the same at every point beside it.
func (v *Vehicle) same(r *Round, at int, text string) bool {
	all := v.Causes()
	k := slices.IndexFunc(all, func(c Cause) bool { return c.Text == text })
	if k < 0 {
		return false
	}
	other := slices.Clone(r.Hidden)
	other[at] = all[k]
	options := v.closest(v.Options([]MeterReading{r.Told}), []Suspect{{Causes: r.Hidden}, {Causes: other}})
	for i := range options[:min(len(options), mostOptions)] {
		m := &options[i]
		a, errA := v.With(m, Faults(r.Hidden, m.Setup))
		b, errB := v.With(m, Faults(other, m.Setup))
		if errA != nil || errB != nil {
			continue
		}
		if band := BandOf(m, a); !band.Fits(&MeterReading{Measure: *m, Value: b.Value, Over: b.Over}) {
			return false
		}
	}
	return true
}

// Trained is what came of a round.
type Trained struct {
	ID      string  `json:"id"`
	Level   int     `json:"level"`
	Seconds float64 `json:"seconds"`
	Took    int     `json:"took"` // measurements
	// That the best next one each time would have taken; 0 where that does not come to it.
	Best   int    `json:"best"`
	Right  bool   `json:"right,omitempty"`
	Hidden string `json:"hidden"` // what it was
	Who    string `json:"who,omitempty"`
	When   int64  `json:"when,omitempty"` // Unix milliseconds
}

// Check says why a result cannot be.
func (t *Trained) Check() error {
	if t.ID == "" || len(t.ID) > 40 || t.Level < 0 || t.Level >= len(levels) || t.Took < 0 || t.Took > 1000 ||
		!(t.Seconds >= 0 && t.Seconds < 1e6) || t.Hidden == "" || len(t.Hidden) > 1000 {
		return fmt.Errorf("a round has a level, a time and what was hidden")
	}
	return nil
}
