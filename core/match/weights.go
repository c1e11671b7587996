package match

import (
	"math"

	"draxel/core/colour"
	"draxel/core/signal"
)

// weights are the estimated fields of the linkage: for each field and level the chance of seeing it in a pair that
// belongs together (m) and in one that does not (u), and the share of rows that have a counterpart (λ). A level's
// weight is log2(m/u) (I. Fellegi, A. Sunter, "A theory for record linkage", JASA 64, 1969).
type weights struct {
	m, u    [fields][4]float64
	lambda  float64
	n       float64 // rows of the longer side
	numeral numberTrust
}

const (
	fNumber = iota
	fColour
	fSize
	fPlace
	fields
)

// level gives a pattern's level in a field.
func (p pattern) level(field int) int {
	switch field {
	case fNumber:
		return p.number()
	case fColour:
		return p.colour()
	case fSize:
		return p.size()
	}
	return p.place()
}

// priors: what is believed of m before the pair is seen, and how many pairs that belief is worth. Number starts at one
// half: whether the two sides share a numbering scheme is for the pair to show.
var priors = [fields]struct {
	m      [4]float64
	weight float64
}{
	fNumber: {[4]float64{0, 0.5, 0.5, 0}, 4},
	fColour: {[4]float64{0, 0.50, 0.22, 0.28}, 10},
	fSize:   {[4]float64{0, 0.35, 0.25, 0.40}, 10},
	fPlace:  {[4]float64{0, 0.65, 0.35, 0}, 6},
}

// Beta(7, 3): most rows of one harness have a counterpart in the other.
const lambdaYes, lambdaNo = 7, 3

// start gives the weights before the first step: m from the priors, u from how often each level occurs over all pairs.
func start(tally [patterns]float64, n float64) weights {
	w := weights{lambda: lambdaYes / float64(lambdaYes+lambdaNo), n: n}
	for f := range w.m {
		w.m[f] = priors[f].m
	}
	w.estimate(tally, [patterns]float64{}, 0, 0)
	return w
}

// estimate is the M step: all are the numbers of pairs by pattern, together the expected numbers of them that belong
// together, expected their sum and rows the number of rows that could have a counterpart. u is learned from the pairs
// weighted by not belonging together, else a scheme that is truly shared would look like a coincidence.
func (w *weights) estimate(all, together [patterns]float64, expected, rows float64) {
	var yes, no [fields][4]float64
	for k := range all {
		for f := range fields {
			level := pattern(k).level(f)
			yes[f][level] += together[k]
			no[f][level] += max(0, all[k]-together[k])
		}
	}
	for f := range fields {
		sumYes, sumNo := 0.0, 0.0
		for level := 1; level < 4; level++ {
			sumYes += yes[f][level]
			sumNo += no[f][level]
		}
		for level := 1; level < 4; level++ {
			prior := priors[f].m[level]
			w.m[f][level] = (yes[f][level] + prior*priors[f].weight) / (sumYes + priors[f].weight)
			w.u[f][level] = (no[f][level] + prior*0.5) / (sumNo + 0.5)
		}
	}
	if rows > 0 {
		w.lambda = (expected + lambdaYes) / (rows + lambdaYes + lambdaNo)
	}
}

// bits gives the weight of a field's level.
func (w *weights) bits(field, level int) float64 {
	if level == 0 || w.u[field][level] == 0 {
		return 0
	}
	b := math.Log2(w.m[field][level] / w.u[field][level])
	if field == fNumber && level == numberEqual {
		return w.numeral.limit(b, w.prior())
	}
	return b
}

// prior gives, in bits, the odds that two given rows belong together before anything is compared.
func (w *weights) prior() float64 { return math.Log2(w.lambda / ((1 - w.lambda) * w.n)) }

// table gives the odds of each pattern, without the function texts.
func (w *weights) table() [patterns]float64 {
	var t [patterns]float64
	for k := range t {
		sum := w.prior()
		for f := range fields {
			sum += w.bits(f, pattern(k).level(f))
		}
		t[k] = math.Exp2(sum)
	}
	return t
}

// numberTrust is what the words, and failing them the colours, say of the numbers: of the pairs with equal numbers, how
// many agree. A number that is not corroborated is worth nothing, however rare its coincidence looks.
type numberTrust struct {
	equal   int     // pairs of equal numbers whose texts could be compared
	agree   int     // of them, pairs that name the same circuit
	colours int     // pairs of equal numbers whose colours could be compared
	alike   float64 // share of them with the same base colour
	chance  float64 // that share over all pairs
	// Somebody said that both sides number by one scheme.
	declared bool
}

// contradicted says whether what was declared of the numbers is not so: of those whose words can be read most disagree.
func (t numberTrust) contradicted() bool {
	return t.declared && t.equal >= enough && 2*t.agree < t.equal
}

// shared says whether both sides are known to carry one numbering.
func (t numberTrust) shared() bool {
	return t.declared && !t.contradicted() || t.agree >= enough && 10*t.agree >= 9*t.equal
}

// enough is the number of corroborated pairs from which their share is believed.
const enough = 10

// declaredRight is how often an equal number is right where both sides are said to number by one scheme: the rest is
// misprints (common practice).
const declaredRight = 0.98

// limit holds the weight of an equal number down to what its record allows: alone it may never be surer than the share
// of equal numbers that proved right. With fewer than ten texts to go by the colours decide, and where they say nothing
// either it stays below one half.
func (t numberTrust) limit(bits, prior float64) float64 {
	right := (float64(t.agree) + 0.5) / (float64(t.equal) + 1.5)
	if t.declared && !t.contradicted() {
		right = max(right, declaredRight)
	} else if t.equal < enough {
		right = min(right, 0.45)
		if t.colours >= enough { // were all numbers right, some four in five would be alike (common practice)
			right = min(0.97, (t.alike-t.chance)/(0.8-t.chance))
		}
	}
	if right < 0.3 {
		return min(bits, 0)
	}
	return min(bits, math.Log2(right/(1-right))-prior)
}

// corroborate counts over the pairs with equal numbers.
func (c *comparer) corroborate() numberTrust {
	var t numberTrust
	byNumber := map[int][]int{}
	for j, n := range c.numT {
		if n > 0 {
			byNumber[n] = append(byNumber[n], j)
		}
	}
	for i, n := range c.numF {
		for _, j := range byNumber[n] {
			if level := colour.Agreement(c.colour.level(i, j)); n > 0 && level != colour.Missing {
				t.colours++
				if level > colour.Differ {
					t.alike++
				}
			}
			a, b := c.from[i].Signal, c.to[j].Signal
			like := signal.Compare(a, b)
			if n == 0 || like == signal.NotCompared || min(a.Sure, b.Sure) < sureEnough {
				continue
			}
			t.equal++
			if like >= signal.Interchangeable {
				t.agree++
			}
		}
	}
	t.alike /= float64(max(t.colours, 1))
	return t
}

// baseColours gives the share of all pairs that have the same base colour.
func baseColours(tally [patterns]float64) float64 {
	alike, all := 0.0, 0.0
	for k, n := range tally {
		switch colour.Agreement(pattern(k).colour()) {
		case colour.Equal, colour.Compatible:
			alike += n
			all += n
		case colour.Differ:
			all += n
		}
	}
	return alike / max(all, 1)
}
