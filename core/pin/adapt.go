package pin

import (
	"fmt"
	"strings"
)

// Pattern says in what way two orders of the same wires differ.
type Pattern string

// The patterns.
const (
	SameOrder Pattern = "same order"
	Rotation  Pattern = "rotation"
	OuterSwap Pattern = "outer swap"
	OneSwap   Pattern = "swap"
	Reversed  Pattern = "reversed"
	AnyOrder  Pattern = "another order"
)

// Adaptation is what it takes to fit a sensor that has the same wires in another order.
type Adaptation struct {
	Connector string   `json:"connector"`
	Pattern   Pattern  `json:"pattern"`
	Moves     int      `json:"moves"`
	Text      string   `json:"text"`
	Warn      string   `json:"warn"`
	Pigtail   string   `json:"pigtail"` // the other way to do it
	Order     []string `json:"order"`   // by cavity in its order: the cavity that its wire goes to
}

// Adapt compares two orders of the same wires: goes[i] is the place, from 0, to which the wire of place i goes; names
// are the cavities in their order. It gives false where the orders are the same, or are not orders of the same wires.
func Adapt(connector string, names []string, goes []int) (Adaptation, bool) {
	n := len(goes)
	seen := make([]bool, n)
	moves := 0
	for i, j := range goes {
		if j < 0 || j >= n || seen[j] {
			return Adaptation{}, false
		}
		seen[j] = true
		if i != j {
			moves++
		}
	}
	if moves == 0 || len(names) != n {
		return Adaptation{}, false
	}
	a := Adaptation{Connector: connector, Moves: moves, Pattern: pattern(goes, moves)}
	pairs := make([]string, 0, moves)
	for i, j := range goes {
		a.Order = append(a.Order, names[j])
		if i != j {
			pairs = append(pairs, names[i]+" to "+names[j])
		}
	}
	what := map[Pattern]string{Rotation: "Every wire moves on by " + plural(goes[0], "cavity", "cavities") +
		", the last ones to the front",
		OuterSwap: "The two outer wires change places", OneSwap: "Two wires change places",
		Reversed: "The order is turned round", AnyOrder: "The wires stand in another order"}[a.Pattern]
	a.Text = fmt.Sprintf("%s: %s.", what, strings.Join(pairs, ", "))
	a.Warn = "Trimming the key off lets the plug in and leaves the order wrong: the sensor is then fed where it should " +
		"read. Move the terminals as well."
	a.Pigtail = fmt.Sprintf("Or leave the plug alone: cut it off with a tail and join a pigtail of the new sensor's "+
		"plug, %s, wire by wire by function, not by place.", plural(n, "joint", "joints"))
	return a, true
}

func pattern(goes []int, moves int) Pattern {
	n := len(goes)
	turned, rotated := true, true
	for i, j := range goes {
		turned = turned && j == n-1-i
		rotated = rotated && j == (i+goes[0])%n
	}
	switch {
	case moves == 2 && goes[0] == n-1:
		return OuterSwap
	case moves == 2:
		return OneSwap
	case rotated:
		return Rotation
	case turned:
		return Reversed
	}
	return AnyOrder
}

func plural(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}
