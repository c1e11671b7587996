package handover

import (
	"math"
	"slices"
)

// Timing is when the work that is left can be done.
type Timing struct {
	Known bool    // dates can be told: somebody has said how many hours a day are worked
	Chain []Link  // a longest way through what is left, with hands enough
	Least float64 // minutes that it takes, waiting for parts with it
	Ends  float64 // minutes of working time from now until all is done, with the hands that there are
	Day   int     // days from today on which that is
	Idle  float64 // minutes in which hands wait for parts
	Late  []Late
	On    map[string]int // by step: days from today on which hands come to it; empty where dates cannot be told
}

// Link is a step of the longest way.
type Link struct {
	ID      string
	Minutes float64
	Part    string // the line of the order list for which it waits
}

// Late is a part that is not there when hands come to the first step that wants it.
type Late struct {
	Key   string
	Step  string // its id
	Wants int    // days from today on which the step would be done
	There int    // on which the part is there
	// Minutes of work that it may come later still, with hands enough, and nothing ends later; 0: all waits for it.
	Spare float64
}

// Time lays out what is left: each step takes what was learned of its stage, and begins no sooner than the parts that
// it uses are there, as far as anybody has said how long they take.
func Time(all []Effort, lines []OrderLine, h *Hours, t *Terms, week Week) Timing {
	out := Timing{Known: week.Known(), Late: []Late{}, Chain: []Link{}}
	waits := map[string]int{} // by step: the line that keeps it longest
	for i := range lines {
		l := &lines[i]
		if l.Wait == 0 || !out.Known {
			continue
		}
		for _, id := range l.Steps {
			if k, is := waits[id]; !is || lines[k].Wait < l.Wait {
				waits[id] = i
			}
		}
	}
	var free, held []Activity
	for i := range all {
		e := &all[i]
		if e.Done {
			continue
		}
		a := Activity{ID: e.ID, Minutes: e.Minutes * h.Learned(e.Stage), Needs: e.Needs}
		free = append(free, a)
		if k, is := waits[e.ID]; is {
			a.From = week.Minutes(lines[k].Wait)
		}
		held = append(held, a)
	}
	n := Critical(held)
	out.Least = n.Ends
	for _, id := range n.Chain {
		i := slices.IndexFunc(held, func(a Activity) bool { return a.ID == id })
		link := Link{ID: id, Minutes: held[i].Minutes}
		if k, is := waits[id]; is && len(out.Chain) == 0 {
			link.Part = lines[k].Key
		}
		out.Chain = append(out.Chain, link)
	}
	laid, plain := Lay(held, t.Hands), Lay(free, t.Hands)
	out.Ends, out.Idle = laid.Ends, laid.Idle
	if !out.Known {
		return out
	}
	out.Day, out.On = week.Day(laid.Ends), make(map[string]int, len(laid.Begins))
	for id, begin := range laid.Begins {
		out.On[id] = week.Day(begin)
	}
	for i := range lines {
		l := &lines[i]
		if l.Wait == 0 {
			continue
		}
		first, at, there := "", 0.0, week.Minutes(l.Wait)
		spare := math.Inf(1)
		for _, id := range l.Steps {
			if c, is := n.Of[id]; is {
				spare = min(spare, max(0, c.Late-there))
			}
			if begin, is := plain.Begins[id]; is && (first == "" || begin < at) {
				first, at = id, begin
			}
		}
		if first != "" && there > at {
			out.Late = append(out.Late, Late{l.Key, first, week.Day(at), l.Wait, spare})
		}
	}
	return out
}
