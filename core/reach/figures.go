package reach

import (
	"math"
	"slices"
)

func (r *Result) figure() {
	f := &r.Figures
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.ok {
			f.Wires++
		}
		if slices.ContainsFunc(l.route.Paths, func(p int) bool { return r.router.Paths[p].Wall }) {
			f.Crossing++
		}
		if len(l.Waits) > 0 {
			f.Provisional++
		}
		switch l.Verdict {
		case Extend:
			f.Extend++
		case Replace:
			f.Replace++
		case Fresh:
			f.Fresh++
		case Trim:
			f.Trim++
		case Measure:
			f.Unknown++
		case NoWay, Adrift:
			f.NoWay++
		case Reaches:
			f.Short += l.Short
		case Loose:
		}
	}
	for _, j := range r.Joints {
		if f.Joints++; j.Trouble != "" {
			f.Troubled++
		}
	}
	f.New, f.Stock = r.Stock.Wanted, r.Stock.Served
	for _, b := range r.Buy {
		f.Buy += b.Buy
	}
	for i := range r.Bundles {
		if b := &r.Bundles[i]; b.Over > f.Thick {
			f.Heaviest, f.Thick = b.Path, b.Over
		}
	}
	for _, w := range r.Walls {
		f.Hole = max(f.Hole, w.Hole)
	}
	f.Worst = r.worst(3)
	f.Guessed = r.in.Decisions.Rules.Guess * float64(f.Wires)
	f.Short = math.Round(f.Short*1000) / 1000
}

// hours adds up what the steps take, with those of disconnects that were taken.
func (r *Result) hours(more []Step) {
	minutes := 0.0
	for _, all := range [][]Step{r.Steps, more} {
		for i := range all {
			minutes += all[i].Minutes
		}
	}
	r.Figures.Hours = math.Round(minutes/6) / 10
}
