package match_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os/exec"
	"strings"
	"testing"
	"time"

	"draxel/core/match"
)

// BenchmarkMatch crosswalks two pinouts of the given number of rows, compared with nothing cached: one iteration is
// what a change of one decision costs. A tenth of the texts are unread and the numbers are half shared.
func BenchmarkMatch(b *testing.B) {
	all := wordings(b)
	for _, rows := range []int{100, 500, 5000} {
		b.Run(fmt.Sprint(rows), func(b *testing.B) {
			p := madeFrom(all, recipe{houses: [2]int{0, 1}, shared: 0.5, colours: 0.4, unread: 0.1, size: true}, 1)
			grow(&p, rows)
			kept := match.SameNames(p.from, p.to)
			b.ReportAllocs()
			for b.Loop() {
				match.Crosswalk(p.from, p.to, kept, nil)
			}
		})
	}
}

// grow repeats the rows on further connectors until there are enough; repeats name other cylinders, banks and channels.
func grow(p *madePair, rows int) {
	from, to := p.from.Rows, p.to.Rows
	for n := 1; len(p.from.Rows) < rows; n++ {
		for i := range from {
			f, t := from[i], to[min(i, len(to)-1)]
			f.Ref.Connector, t.Ref.Connector = fmt.Sprintf("%s%d", f.Ref.Connector, n), fmt.Sprintf("%s%d", t.Ref.Connector, n)
			f.Signal.Channel, t.Signal.Channel = 10*n+f.Signal.Channel, 10*n+t.Signal.Channel
			f.Circuit, t.Circuit = fmt.Sprint(n)+f.Circuit, fmt.Sprint(n)+t.Circuit
			p.from.Rows, p.to.Rows = append(p.from.Rows, f), append(p.to.Rows, t)
		}
	}
	p.from.Rows, p.to.Rows = p.from.Rows[:rows], p.to.Rows[:min(rows, len(p.to.Rows))]
}

// BenchmarkAssign/500 and SciPy's linear_sum_assignment on the same matrix in the same run; "scipy-ms" is SciPy's time
// and "ratio" ours over theirs.
func BenchmarkAssign(b *testing.B) {
	r := rand.New(rand.NewPCG(1, 2))
	for _, n := range []int{100, 500, 5000} {
		gain := make([][]float64, n)
		for i := range gain {
			gain[i] = make([]float64, n)
			for j := range gain[i] {
				gain[i][j] = r.NormFloat64() + 1
			}
		}
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			start, runs := time.Now(), 0
			for b.Loop() {
				match.Assign(gain)
				runs++
			}
			mine := time.Since(start).Seconds() / float64(runs)
			if theirs, ok := scipySeconds(b, gain); ok {
				b.ReportMetric(theirs*1000, "scipy-ms")
				b.ReportMetric(mine/theirs, "ratio")
			}
		})
	}
}

func scipySeconds(b *testing.B, gain [][]float64) (float64, bool) {
	b.Helper()
	input, err := json.Marshal(gain)
	if err != nil {
		b.Fatal(err)
	}
	cmd := exec.Command("/usr/bin/python3", "-c", `
import json, sys, time, numpy, scipy.optimize
g = numpy.array(json.load(sys.stdin))
g = numpy.hstack([g, numpy.zeros((len(g), len(g)))])
t = []
for _ in range(9):
    s = time.perf_counter(); scipy.optimize.linear_sum_assignment(g, maximize=True); t.append(time.perf_counter() - s)
print(sorted(t)[4])
`)
	cmd.Stdin = strings.NewReader(string(input))
	out, err := cmd.Output()
	if err != nil {
		b.Log("SciPy is not installed: comparison left out")
		return 0, false
	}
	var seconds float64
	if _, err := fmt.Sscan(string(out), &seconds); err != nil {
		b.Fatal(err)
	}
	return seconds, true
}
