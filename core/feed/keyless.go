package feed

import (
	"slices"

	"draxel/core/finding"
	"draxel/core/signal"
)

// checkKey finds that there is a starter, and nothing in the lists that is a key or a switch that starts: then nothing
// that hangs on them is reckoned.
func (r *Result) checkKey() {
	var starters []string
	for d, is := range r.Drawn.Starters {
		if is {
			starters = append(starters, d)
		}
	}
	if len(starters) == 0 {
		return
	}
	for _, c := range r.Facts.Inside.Switches {
		if c.Key != 0 {
			return
		}
		for _, end := range []string{c.From, c.To} {
			if s := r.Drawn.Signal(end); s.Role == signal.Start {
				return
			}
		}
	}
	slices.SortFunc(starters, finding.Natural)
	r.find("no-key", finding.Danger, starters[0], "Say in the list of contacts between which cavities the key's are "+
		"and in which positions each is closed, or read them with the meter, position by position, in Gather.",
		"There is %s, and nothing in the lists is a key or a switch that starts: what is live in which position, "+
			"and whether it cranks by itself, is not reckoned.", few(starters)).Place = finding.Place{Part: "sources",
		List: "switches"}
}
