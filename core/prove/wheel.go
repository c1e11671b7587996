package prove

import (
	"fmt"
	"math"
	"slices"
)

// Wheel is the toothed wheel that a crank sensor reads: so many places for teeth, of which some are missing, at so
// many revolutions a minute.
type Wheel struct {
	Teeth   int     `json:"teeth"`   // places for teeth
	Missing int     `json:"missing"` // of them without one, side by side
	RPM     float64 `json:"rpm"`
}

// Check says why a wheel cannot be.
func (w Wheel) Check() error {
	switch {
	case w.Teeth < 4 || w.Teeth > 360 || w.Missing < 0 || w.Missing > w.Teeth/4:
		return fmt.Errorf("a wheel has 4 to 360 places for teeth, and at most a quarter of them missing")
	case !(w.RPM >= 10 && w.RPM <= 20000):
		return fmt.Errorf("a crank turns at 10 to 20000 a minute")
	}
	return nil
}

// Edges gives when a tooth comes past the sensor, in s from now, for so many seconds.
func (w Wheel) Edges(seconds float64) []float64 {
	pitch := 60 / w.RPM / float64(w.Teeth)
	var out []float64
	for i := 0; float64(i)*pitch < seconds; i++ {
		if i%w.Teeth < w.Teeth-w.Missing {
			out = append(out, float64(i)*pitch)
		}
	}
	return out
}

// Speed reads a wheel of so many places by its edges: revolutions a minute, and how many teeth are missing at its
// gap. It is false where the edges are fewer than two turns, or no such wheel's.
func Speed(edges []float64, teeth int) (rpm float64, missing int, is bool) {
	if len(edges) < 4 || teeth < 4 {
		return 0, 0, false
	}
	gaps := make([]float64, len(edges)-1)
	for i := range gaps {
		gaps[i] = edges[i+1] - edges[i]
	}
	sorted := slices.Clone(gaps)
	slices.Sort(sorted)
	pitch := sorted[len(sorted)/2]
	if pitch <= 0 {
		return 0, 0, false
	}
	var at []int
	for i, g := range gaps {
		n := int(math.Round(g/pitch)) - 1
		if n > 0 {
			if missing != 0 && n != missing {
				return 0, 0, false
			}
			missing = n
			at = append(at, i)
		}
	}
	if missing == 0 {
		return 60 / (pitch * float64(teeth)), 0, len(edges) >= 2*teeth
	}
	if len(at) < 2 {
		return 0, 0, false
	}
	for k := 1; k < len(at); k++ { // from gap to gap is one turn
		if at[k]-at[k-1] != teeth-missing {
			return 0, 0, false
		}
	}
	turn := edges[at[len(at)-1]] - edges[at[0]]
	return 60 * float64(len(at)-1) / turn, missing, true
}
