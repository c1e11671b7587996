package handover

import (
	"container/heap"
	"math"
	"slices"
)

// Activity is work in a schedule: a step that is not done.
type Activity struct {
	ID      string
	Minutes float64  // of hands
	Needs   []string // activities before it; one that is not in the schedule is done
	From    float64  // minutes of working time from now before which it cannot begin: a part is not there
}

// Chained is an activity in the network of all, by the classic method: how early it can be, how late it may be.
//
// J. E. Kelley, M. R. Walker: "Critical-Path Planning and Scheduling", Proceedings of the Eastern Joint Computer
// Conference, 1959.
type Chained struct {
	Early float64 // minutes from now at which it can begin
	Late  float64 // at which it must begin, or the whole ends later
}

// Slack is how many minutes it can wait and nothing ends later.
func (c Chained) Slack() float64 { return c.Late - c.Early }

// Network is the order that the needs of activities leave, without regard to how many hands there are.
type Network struct {
	Of    map[string]Chained
	Ends  float64  // minutes from now at which all is done at the earliest, with hands enough
	Chain []string // a longest way through: what on it waits makes the whole wait
}

// Critical gives the network of activities that are in an order in which each comes after what it needs.
func Critical(all []Activity) Network {
	n := Network{Of: make(map[string]Chained, len(all))}
	at := make(map[string]int, len(all))
	early := make([]float64, len(all))
	cause := make([]int, len(all)) // what makes it begin when it does; itself where it waits for a part
	for i := range all {
		at[all[i].ID] = i
		early[i], cause[i] = all[i].From, i
		for _, need := range all[i].Needs {
			if k, there := at[need]; there && k < i {
				if end := early[k] + all[k].Minutes; end >= early[i] && (end > early[i] || all[i].From == 0) {
					early[i], cause[i] = end, k
				}
			}
		}
		n.Ends = max(n.Ends, early[i]+all[i].Minutes)
	}
	late := make([]float64, len(all))
	for i := range late {
		late[i] = n.Ends - all[i].Minutes
	}
	for i := len(all) - 1; i >= 0; i-- {
		for _, need := range all[i].Needs {
			if k, there := at[need]; there && k < i {
				late[k] = min(late[k], late[i]-all[k].Minutes)
			}
		}
	}
	last := -1
	for i := range all {
		n.Of[all[i].ID] = Chained{early[i], late[i]}
		if end := early[i] + all[i].Minutes; last < 0 || end > early[last]+all[last].Minutes {
			last = i
		}
	}
	for i := last; i >= 0; i = cause[i] {
		n.Chain = append(n.Chain, all[i].ID)
		if cause[i] == i {
			break
		}
	}
	slices.Reverse(n.Chain)
	return n
}

// Timetable is when hands come to each activity.
type Timetable struct {
	Begins map[string]float64 // minutes of working time from now
	Ends   float64            // all is done
	Idle   float64            // minutes in which hands wait because parts are not there
}

// Lay gives the timetable of activities for a number of hands: whoever is free takes the first in the order of the list
// that can be done. It is a list schedule: good, not proven best.
func Lay(all []Activity, hands int) Timetable {
	t := Timetable{Begins: make(map[string]float64, len(all))}
	at := make(map[string]int, len(all))
	for i := range all {
		at[all[i].ID] = i
	}
	open := make([]int, len(all))
	behind := make([][]int, len(all))
	for i := range all {
		for _, need := range all[i].Needs {
			if k, there := at[need]; there && k < i {
				open[i]++
				behind[k] = append(behind[k], i)
			}
		}
	}
	var ready, waiting, running moments
	free := func(i int, now float64) {
		if all[i].From > now {
			heap.Push(&waiting, moment{all[i].From, i})
		} else {
			heap.Push(&ready, moment{float64(i), i})
		}
	}
	for i := range all {
		if open[i] == 0 {
			free(i, 0)
		}
	}
	for now := 0.0; len(ready)+len(waiting)+len(running) > 0; {
		for len(waiting) > 0 && waiting[0].at <= now {
			i := heap.Pop(&waiting).(moment).i
			heap.Push(&ready, moment{float64(i), i})
		}
		for len(ready) > 0 && len(running) < max(1, hands) {
			i := heap.Pop(&ready).(moment).i
			t.Begins[all[i].ID] = now
			heap.Push(&running, moment{now + all[i].Minutes, i})
		}
		next := math.Inf(1)
		if len(running) > 0 {
			next = running[0].at
		} else if len(waiting) > 0 {
			t.Idle += waiting[0].at - now
		}
		if len(waiting) > 0 && len(running) < max(1, hands) {
			next = min(next, waiting[0].at)
		}
		if math.IsInf(next, 1) {
			break
		}
		now = next
		for len(running) > 0 && running[0].at <= now {
			i := heap.Pop(&running).(moment).i
			for _, k := range behind[i] {
				if open[k]--; open[k] == 0 {
					free(k, now)
				}
			}
		}
		t.Ends = max(t.Ends, now)
	}
	return t
}

type moment struct {
	at float64
	i  int
}

// moments is a heap of moments, the earliest first.
type moments []moment

func (m moments) Len() int { return len(m) }
func (m moments) Less(i, k int) bool {
	return m[i].at < m[k].at || m[i].at == m[k].at && m[i].i < m[k].i
}
func (m moments) Swap(i, k int) { m[i], m[k] = m[k], m[i] }
func (m *moments) Push(x any)   { *m = append(*m, x.(moment)) }
func (m *moments) Pop() any {
	old := *m
	x := old[len(old)-1]
	*m = old[:len(old)-1]
	return x
}

// Week is when is worked: which days, and how long.
type Week struct {
	Today int     // 0 is Monday
	Days  int     // a week, from Monday on
	Hours float64 // a day
}

// Known says whether dates can be told.
func (w Week) Known() bool { return w.Hours > 0 }

// works says whether a day from today is worked on.
func (w Week) works(day int) bool {
	days := w.Days
	if days < 1 || days > 7 {
		days = 7
	}
	return (w.Today+day)%7 < days
}

// mostDays bounds how far ahead is reckoned, days.
const mostDays = 4000

// Day gives how many days from today a moment of working time is: 0 is today.
func (w Week) Day(minutes float64) int {
	left := minutes / 60
	for day := range mostDays {
		if !w.works(day) {
			continue
		}
		if left -= w.Hours; left <= 1e-9 {
			return day
		}
	}
	return mostDays
}

// Minutes gives how much is worked before a day, in minutes: a part that comes in three days is there after so much
// work.
func (w Week) Minutes(day int) float64 {
	out := 0.0
	for d := range min(day, mostDays) {
		if w.works(d) {
			out += 60 * w.Hours
		}
	}
	return out
}
