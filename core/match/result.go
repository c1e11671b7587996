package match

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"draxel/core/harness"
	"draxel/core/signal"
)

// Verdict is what becomes of a row.
type Verdict string

// The verdicts. The first nine are of From rows, the rest of To rows that no From row fills.
const (
	StaysPut       Verdict = "stays"
	Moves          Verdict = "moves"
	MovesConnector Verdict = "moves-connector"
	Meets          Verdict = "meets"   // it is joined to the wire of a To cavity that stays, or goes into its plug
	Faces          Verdict = "plugged" // its cavity faces the To cavity already
	Goes           Verdict = "goes"
	NeedsSource    Verdict = "needs-source"
	Joins          Verdict = "joins" // the wire of a To cavity serves for this one too
	Undecided      Verdict = "undecided"
	NeedsWire      Verdict = "needs-wire"
	LeftEmpty      Verdict = "left-empty"
	Branches       Verdict = "branches" // a lead joined to a From wire serves it
	NewWire        Verdict = "new-wire" // a new wire from a named origin serves it
)

// Candidate is a To cavity that a From row may go to.
type Candidate struct {
	To harness.Ref `json:"to"`
	P  float64     `json:"p"` // probability, rounded to 1e-6
}

// Line is the verdict on one From row.
type Line struct {
	From       harness.Ref `json:"from"`
	Verdict    Verdict     `json:"verdict"`
	Decided    bool        `json:"decided"`              // by a person
	To         harness.Ref `json:"to,omitzero"`          // where it goes, or the best candidate of an undecided row
	P          float64     `json:"p"`                    // of this pair; of "no counterpart" where the row goes or needs a source
	RunnerUp   *Candidate  `json:"runnerUp,omitempty"`   // the next best
	Candidates []Candidate `json:"candidates,omitempty"` // best first, at most six
	Way        Way         `json:"way,omitempty"`        // that a person chose
	Source     string      `json:"source,omitempty"`     // of NeedsSource
	Origin     *Origin     `json:"origin,omitempty"`     // of NeedsSource, where it is known
	Reason     string      `json:"reason,omitempty"`     // a person's
	Verify     string      `json:"verify,omitempty"`     // brought from this earlier job and not verified here: it counts as open
	// Of a decided pair: how likely it was when it was accepted, 0 where nobody noted it.
	Sure    float64 `json:"sure,omitempty"`
	Because string  `json:"because,omitempty"` // of Undecided without a candidate: why it is not settled
}

// Want is the verdict on one To row that no From row fills.
type Want struct {
	To      harness.Ref `json:"to"`
	Verdict Verdict     `json:"verdict"`
	Decided bool        `json:"decided"`
	P       float64     `json:"p"`                // that nothing here feeds it
	Of      harness.Ref `json:"of,omitzero"`      // of Branches: the From cavity whose wire serves it
	Origin  *Origin     `json:"origin,omitempty"` // of NewWire
	Reason  string      `json:"reason,omitempty"`
	Verify  string      `json:"verify,omitempty"` // said to be left empty in this earlier job, and not verified here
}

// Result is a crosswalk.
type Result struct {
	Lines []Line
	Wants []Want

	from, to     []harness.Row
	meetings     Meetings
	fromAt, toAt map[harness.Ref]int
	accepted     []int // by From row: To row + 1
	taken        []bool
	rejected     map[pair]bool
	byFrom, byTo []*Decision
	lost         []*Decision // those that no row takes any more
	declared     bool        // somebody said that both sides number by one scheme
	compare      *comparer
	weights      weights
	edges        *edges
	blockFrom    int // pairs from which only those are compared that have something in common
	n            float64
}

// named is the probability from which an open row names its best candidate rather than none.
const named = 0.05

func (r *Result) conclude() {
	assigned := r.assign()
	fed := make([]bool, len(r.to))
	rest := r.rest(assigned)
	alone, needs := make([]int, len(r.from)), filled(len(r.to), 0.0)
	for k, i := range rest.from {
		alone[i] = k
	}
	for k, j := range rest.to {
		needs[j] = rest.needs[k]
	}
	r.Lines, r.Wants = make([]Line, 0, len(r.from)), []Want{}
	for i := range r.from {
		l := r.line(i, assigned[i], &rest, alone[i])
		if j, ok := r.toAt[l.To]; ok && l.Verdict != Undecided && l.Verdict != Joins {
			fed[j] = true
		}
		r.Lines = append(r.Lines, l)
	}
	for j, row := range r.to {
		if fed[j] {
			continue
		}
		w := Want{To: row.Ref, Verdict: NeedsWire, P: round(needs[j])}
		if d := r.byTo[j]; d != nil && d.Verify != "" {
			w.Verify, w.Reason = d.Verify, d.Reason
		} else if d != nil {
			w.Verdict, w.Decided, w.P, w.Reason = LeftEmpty, true, 1, d.Reason
			switch d.Choice {
			case Branch:
				w.Verdict, w.Of = Branches, d.Of
			case Wired:
				w.Verdict, w.Origin = NewWire, d.Origin
			}
		}
		r.Wants = append(r.Wants, w)
	}
}

func round(p float64) float64 { return math.Round(p*1e6) / 1e6 }

// line gives the verdict on a From row: a person's decision, else the assigned pair where it is likelier than not, else
// what the row is without a counterpart.
func (r *Result) line(i, assigned int, rest *leftover, alone int) Line {
	row := r.from[i]
	l := Line{From: row.Ref, Candidates: r.candidates(i)}
	if d := r.byFrom[i]; d != nil {
		l.Decided, l.Reason, l.P = true, d.Reason, 1
		switch d.Choice {
		case Matched:
			l.To, l.Verdict, l.Way, l.Sure = d.To, r.moveVerdict(row.Ref, d.To), d.Way, d.Sure
		case Gone:
			l.Verdict = Goes
		case Joined:
			if l.To, l.Verdict = d.To, Joins; r.accepted[i] > 0 { // nobody else fills it: it does
				l.Verdict = r.moveVerdict(row.Ref, d.To)
			}
		case Sourced:
			l.Verdict, l.Source, l.Origin = NeedsSource, d.Source, d.Origin
		}
		if d.Verify != "" {
			l.Decided, l.Verify, l.P = false, d.Verify, Offered
		}
		return l
	}
	if assigned >= 0 {
		if p := r.probability(i, assigned); p >= Offered {
			l.To, l.P = r.to[assigned].Ref, p
			l.Verdict = r.moveVerdict(row.Ref, l.To)
			l.RunnerUp = r.next(i, assigned, l.Candidates)
			return l
		}
	}
	if len(l.Candidates) > 0 && l.Candidates[0].P >= named && !untouchable(&row.Signal) {
		l.Verdict, l.To, l.P = Undecided, l.Candidates[0].To, l.Candidates[0].P
		if len(l.Candidates) > 1 {
			l.RunnerUp = &l.Candidates[1]
		}
		return l
	}
	l.P = round(rest.alone[alone])
	l.Verdict = unmatchedVerdict(row.Signal)
	if l.Because = because(&row.Signal, l.P, rest.unread[alone]); l.Because != "" {
		l.Verdict = Undecided
		return l
	}
	if j, contradicts := r.contradiction(i); contradicts {
		l.Verdict, l.Because = Undecided, fmt.Sprintf("%s carries its number and other words", r.to[j].Ref)
		return l
	}
	if l.Verdict == NeedsSource {
		l.Source = string(row.Signal.Role)
	}
	return l
}

// contradiction gives the To row that carries the row's circuit number and, by its words, is another circuit, where
// numbers are known to be shared: one of the two rows is misprinted, and nothing may go on the strength of it. A number
// that stands on several rows of one circuit contradicts nothing.
func (r *Result) contradiction(i int) (to int, found bool) {
	if !r.weights.numeral.shared() || r.compare.numF[i] == 0 {
		return 0, false
	}
	for j, n := range r.compare.numT {
		if n != r.compare.numF[i] || r.taken[j] || r.rejected[pair{i, j}] {
			continue
		}
		like := r.from[i].Signal.Likeness(&r.to[j].Signal)
		if like != signal.NotCompared && like < signal.Interchangeable {
			return j, true
		}
	}
	return 0, false
}

// unmatchedVerdict proposes what a row without a counterpart is: a feed, ground or start signal needs a source; what is
// not understood, what must be left alone and what feeds a load of the body stays undecided; the rest goes.
func unmatchedVerdict(s signal.Reading) Verdict {
	switch {
	case !s.Read() || s.Sure < sureEnough || untouchable(&s) || s.Role == signal.Load:
		return Undecided
	case resisted(&s):
		return Goes
	case s.Role == signal.Battery, s.Role == signal.Ignition, s.Role == signal.Ground:
		return NeedsSource
	}
	return Goes
}

func (r *Result) moveVerdict(from, to harness.Ref) Verdict {
	m := r.meetings[to.Connector]
	switch {
	case m.Met == Stays:
		return Meets
	case m.With != from.Connector || m.Met != SameAs && m.Met != PlugsOnto:
		return MovesConnector
	case from.Cavity == to.Cavity && m.Met == PlugsOnto:
		return Faces
	case from.Cavity == to.Cavity:
		return StaysPut
	}
	return Moves
}

// candidates lists a row's best To cavities by probability; of equals the one with the more natural name comes first.
func (r *Result) candidates(i int) []Candidate {
	var all []Candidate
	for k := r.edges.start[i]; k < r.edges.start[i+1]; k++ {
		if r.edges.p[k] > 0.001 {
			all = append(all, Candidate{r.to[r.edges.col[k]].Ref, round(r.edges.p[k])})
		}
	}
	slices.SortFunc(all, func(a, b Candidate) int {
		return cmp.Or(cmp.Compare(b.P, a.P),
			harness.CompareRefs(a.To, b.To))
	})
	return all[:min(len(all), 6)]
}

// probability is the pair's marginal, added up over To rows that are one circuit in one role: a feed wanted in two
// cavities is matched either way.
func (r *Result) probability(i, j int) float64 {
	sum := 0.0
	for k := r.edges.start[i]; k < r.edges.start[i+1]; k++ {
		if c := int(r.edges.col[k]); c == j || r.exchangeable(c, j) {
			sum += r.edges.p[k]
		}
	}
	return round(min(1, sum))
}

// leastChance is what a pair is noted at that nothing speaks for.
const leastChance = 1e-6

// Chance gives how likely it is that an open From row goes to a To cavity, at least a millionth, and false where the
// row is decided or there are no such rows: what is decided is taken as given, and says nothing of its own.
func (r *Result) Chance(from, to harness.Ref) (float64, bool) {
	i, there := r.fromAt[from]
	j, wanted := r.toAt[to]
	if !there || !wanted || !r.free(i) {
		return 0, false
	}
	return max(leastChance, r.probability(i, j)), true
}

func (r *Result) exchangeable(a, b int) bool {
	x, y := r.to[a], r.to[b]
	if x.Signal.Device != y.Signal.Device || x.Signal.Aspect != y.Signal.Aspect || !x.Signal.Read() {
		return false
	}
	oneCircuit := r.compare.numT[a] > 0 && r.compare.numT[a] == r.compare.numT[b]
	return oneCircuit || x.Signal.Exchangeable() && x.Signal.Channel == y.Signal.Channel
}

func (r *Result) next(i, chosen int, all []Candidate) *Candidate {
	for k := range all {
		if j := r.toAt[all[k].To]; j != chosen {
			return &all[k]
		}
	}
	return nil
}
