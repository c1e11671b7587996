package match

import (
	"fmt"
	"math"

	"draxel/core/signal"
)

// Without a counterpart is said of a row only in proportion to what could still hide one: rows of the other side that
// are left over, above all those whose words are blank or cannot be read.
const (
	fromAlone   = 0.8    // chance from which a row is said to have no counterpart
	mostAlone   = 0.89   // greatest chance that is stated while anything of the other side is left over
	mostLeft    = 40_000 // pairs that compete; of more each row is held against some of the rest
	mostHeld    = 48     // unread rows of the other side that it is then held against
	leftSweeps  = 30
	caution     = 1.8  // by which what is left over is reckoned likelier to belong together: learned on made pairs
	margin      = 0.09 // that is taken off a chance that is not great: learned on made pairs
	leastWords  = -5.5 // bits that words, however different, speak against such a pair: they may be misread
	hiddenCount = 0.01 // share of a row's chance from which an unread row could hold its counterpart
)

// leftover is the rest of the crosswalk: rows of both sides that have no counterpart so far, and how they could belong
// together all the same. With those that have one out of the way the rest is fewer, and each pair of it more likely.
type leftover struct {
	from, to []int     // rows
	alone    []float64 // chance of each From row that none of the rest is its counterpart
	needs    []float64 // chance of each To row that none of the rest feeds it
	unread   []int     // by From row: rows of the other side that cannot be read and could be its counterpart
}

func readable(s *signal.Reading) bool { return s.Read() && s.Sure >= sureEnough }

// rest finds the chances. Assigned is the best assignment.
func (r *Result) rest(assigned []int) leftover {
	held := make([]bool, len(r.to))
	copy(held, r.taken)
	var l leftover
	expected, seenF, seenT := 0.0, 0, 0
	for i := range r.from {
		if readable(&r.from[i].Signal) {
			seenF++
		}
		switch j := assigned[i]; {
		case r.byFrom[i] != nil:
			if r.accepted[i] > 0 {
				expected++
			}
		case j >= 0 && r.probability(i, j) >= Offered:
			held[j] = true
			expected++
		default:
			l.from = append(l.from, i)
		}
	}
	for j := range r.to {
		if readable(&r.to[j].Signal) {
			seenT++
		}
		if !held[j] && (r.byTo[j] == nil || r.byTo[j].Verify != "") {
			l.to = append(l.to, j)
		}
	}
	// Of rows that can be read on both sides as many have a counterpart as show one.
	both := float64(min(len(r.from), len(r.to))) * share(seenF, len(r.from)) * share(seenT, len(r.to))
	lambda := min(0.95, (expected+lambdaYes)/(max(both, expected)+lambdaYes+lambdaNo))
	l.weigh(r, lambda/(1-lambda))
	return l
}

func share(n, of int) float64 { return float64(n) / float64(max(of, 1)) }

// weigh compares what is left over, each row against each, and lets the pairs compete as link does.
func (l *leftover) weigh(r *Result, odds float64) {
	l.alone, l.needs, l.unread = filled(len(l.from), 1.0), filled(len(l.to), 1.0), make([]int, len(l.from))
	if len(l.from) == 0 || len(l.to) == 0 {
		return
	}
	x := weighing{r: r, prior: caution * odds / float64(max(len(l.from), len(l.to))), bits: r.weights.patternBits(),
		n: float64(max(len(r.from), len(r.to)))}
	if len(l.from)*len(l.to) > mostLeft {
		l.sample(&x)
	} else {
		l.compete(&x)
	}
	for _, all := range [][]float64{l.alone, l.needs} {
		for i := range all {
			if all[i] < fromAlone {
				all[i] -= margin
			}
			all[i] = min(mostAlone, max(0, all[i]))
		}
	}
}

// weighing gives the odds of pairs that are left over.
type weighing struct {
	r        *Result
	prior, n float64
	bits     [patterns]float64
}

func (x *weighing) odds(i, j int) (float64, pattern) {
	if x.r.rejected[pair{i, j}] || forbid(&x.r.from[i].Signal, &x.r.to[j].Signal) != allowed {
		return 0, 0
	}
	pat := x.r.compare.pattern(i, j)
	return x.prior * math.Exp2(x.r.words(i, j, x.n)+x.bits[pat]), pat
}

// hides says whether a To row cannot be read, and is not told apart by its number either.
func (x *weighing) hides(i, j int) bool {
	f, t := x.r.compare.numF[i], x.r.compare.numT[j]
	return !readable(&x.r.to[j].Signal) && !(x.r.weights.numeral.shared() && f > 0 && t > 0 && f != t)
}

func (l *leftover) compete(x *weighing) {
	e := newEdges(len(l.from), len(l.to), len(l.from)*8)
	var w []float64
	for _, i := range l.from {
		for c, j := range l.to {
			if odds, pat := x.odds(i, j); odds > 0 {
				e.col, e.pat, w = append(e.col, int32(c)), append(e.pat, pat), append(w, odds)
			}
		}
		e.start = append(e.start, int32(len(e.col)))
	}
	e.ready()
	copy(e.w, w)
	e.propagate(leftSweeps, 1e-3)
	for i, row := range l.from {
		for k := e.start[i]; k < e.start[i+1]; k++ {
			l.alone[i] -= e.p[k]
			l.needs[e.col[k]] -= e.p[k]
			if e.p[k] > hiddenCount && x.hides(row, l.to[e.col[k]]) {
				l.unread[i]++
			}
		}
	}
}

// sample holds each row against some of the rows of the other side that cannot be read, as if nobody competed for them.
func (l *leftover) sample(x *weighing) {
	hidden := func(rows []int, s func(i int) *signal.Reading) (some []int, each float64) {
		var all []int
		for _, i := range rows {
			if !readable(s(i)) {
				all = append(all, i)
			}
		}
		step := max(1, len(all)/mostHeld)
		for k := 0; k < len(all); k += step {
			some = append(some, all[k])
		}
		return some, share(len(all), len(some))
	}
	to, each := hidden(l.to, func(j int) *signal.Reading { return &x.r.to[j].Signal })
	for k, i := range l.from {
		sum := 0.0
		for _, j := range to {
			odds, _ := x.odds(i, j)
			if sum += odds * each; odds > hiddenCount*x.prior && x.hides(i, j) {
				l.unread[k] += int(each)
			}
		}
		l.alone[k] = 1 / (1 + sum)
	}
	from, each := hidden(l.from, func(i int) *signal.Reading { return &x.r.from[i].Signal })
	for k, j := range l.to {
		sum := 0.0
		for _, i := range from {
			odds, _ := x.odds(i, j)
			sum += odds * each
		}
		l.needs[k] = 1 / (1 + sum)
	}
}

// words gives the weight of two texts in bits, for what is left over: words that cannot be read say nothing against a
// pair.
func (r *Result) words(i, j int, n float64) float64 {
	b := r.compare.function(i, j, n)
	if b < 0 && !(readable(&r.from[i].Signal) && readable(&r.to[j].Signal)) {
		return 0
	}
	return max(b, leastWords)
}

// patternBits gives the weight of each pattern without words and without what is believed beforehand.
func (w *weights) patternBits() [patterns]float64 {
	var t [patterns]float64
	for k := range t {
		for f := range fields {
			t[k] += w.bits(f, pattern(k).level(f))
		}
	}
	return t
}

// because says why a row without a candidate is not settled, empty where it is.
func because(s *signal.Reading, alone float64, unread int) string {
	switch {
	case !readable(s):
		return "its words cannot be read"
	case untouchable(s):
		return "restraint or high voltage: it is left alone"
	case s.Role == signal.Load:
		return "it feeds a load of the body"
	case unread > 0:
		return fmt.Sprintf("%s there cannot be read, and may be it", rows(unread))
	case alone < fromAlone:
		return "rows there are left over, and one of them may be it"
	}
	if law := signal.Legal(s); law != "" {
		return law + ": the law may want it kept"
	}
	if gauges[s.Device] {
		return "a gauge or its lamp hangs on it"
	}
	return ""
}

func rows(n int) string {
	if n == 1 {
		return "1 row"
	}
	return fmt.Sprintf("%d rows", n)
}

// gauges are what the dash shows, by device: never sent away unasked.
var gauges = map[string]bool{"fuellevel": true, "fuellevelout": true, "oilpress": true, "oilpresssender": true,
	"tempgauge": true, "templamp": true, "oillamp": true, "vss": true, "vssout": true, "tach": true,
	"alternatorlamp": true, "instrumentpower": true}
