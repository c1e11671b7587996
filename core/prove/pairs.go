package prove

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// A helper is a single fault that explains some of what is out of band.
type helper struct {
	at    int
	helps []bool // by reading
	gain  float64
}

// helpers lists the single faults that explain something, the best few of each that explain the same.
func (v *Vehicle) helpers(singles []Suspect, trials map[int]trial, readings []MeterReading, base []Shown,
	out []string) []helper {
	var all []helper
	for i := range singles {
		t, tried := trials[i]
		if !tried {
			continue
		}
		h := helper{at: i, helps: make([]bool, len(readings)), gain: math.Log(singles[i].Causes[0].Prior)}
		some := false
		for k := range readings {
			more := t.loss[k] - fits(&readings[k], base[k], 0)
			if h.helps[k] = more > 2; h.helps[k] {
				some = some || slices.Contains(out, readings[k].ID)
				h.gain += more
			}
			if more < 0 && !slices.Contains(out, readings[k].ID) { // it spoils what was in band
				h.gain += more
			}
		}
		if some {
			all = append(all, h)
		}
	}
	slices.SortStableFunc(all, func(a, b helper) int { return cmp.Compare(b.gain, a.gain) })
	n := map[string]int{}
	return slices.DeleteFunc(all, func(h helper) bool {
		key := fmt.Sprint(h.helps)
		n[key]++
		return n[key] > 8
	})
}

// pairs adds two faults at once: where two readings are out of band one fault may explain both, and two may.
func (v *Vehicle) pairs(singles []Suspect, trials map[int]trial, readings []MeterReading, base []Shown, feel *feeler,
	d *Diagnosis) []Suspect {
	if len(d.Out) < 2 {
		return nil
	}
	all := v.helpers(singles, trials, readings, base, d.Out)
	all = all[:min(len(all), 32)]
	total := 0.0
	for i := range singles {
		total += singles[i].Causes[0].Prior
	}
	var sets [][]int // by reading out of band: what explains it
	for k := range readings {
		var s []int
		for i := range all {
			if all[i].helps[k] {
				s = append(s, i)
			}
		}
		if slices.Contains(d.Out, readings[k].ID) && len(s) > 0 {
			sets = append(sets, s)
		}
	}
	var pairs []Suspect
	for _, h := range hits(sets, 2) {
		if len(h) < 2 {
			continue
		}
		a, b := &singles[all[h[0]].at], &singles[all[h[1]].at]
		both := []Cause{a.Causes[0], b.Causes[0]}
		t, err := v.try(both, readings, base, feel)
		if err != nil {
			continue
		}
		d.Looked++
		pairs = append(pairs, Suspect{Causes: both,
			score: math.Log(
				a.Causes[0].Prior/total,
			) + math.Log(
				b.Causes[0].Prior/total,
			) + math.Log(
				twoAtOnce,
			) + t.sum})
	}
	return pairs
}

// Who makes one fault makes another: two are a little likelier than independent ones would be (common practice).
// Before one is called found, two are held for that much likelier again: a single cause that explains everything is
// looked at once more, by what would part it from two.
const (
	twoAtOnce = 3
	doubted   = 20
)
