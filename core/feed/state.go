package feed

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/network"
)

// find adds a finding.
func (r *Result) find(code string, s finding.Severity, subject, remedy, format string, args ...any) *finding.Finding {
	r.Findings = append(r.Findings, finding.Finding{Code: code, Severity: s, Stage: "feed", Subject: subject,
		Text: fmt.Sprintf(format, args...), Remedy: remedy})
	return &r.Findings[len(r.Findings)-1]
}

// state gives the state of a position.
func (r *Result) state(name string) *network.State {
	i := slices.IndexFunc(Positions(), func(p Position) bool { return p.Name == name })
	return r.States[i]
}

func sentence(text string) string {
	if text == "" {
		return ""
	}
	return strings.ToUpper(text[:1]) + text[1:] + "."
}

// Amps writes a current as people read it.
func Amps(a float64) string {
	if a < 0.1 {
		return fmt.Sprintf("%.2g mA", a*1000)
	}
	return fmt.Sprintf("%.3g A", a)
}

// few lists the first few of many.
func few(all []string) string {
	const shown = 8
	if len(all) > shown {
		return strings.Join(all[:shown], ", ") + fmt.Sprintf(" and %d more", len(all)-shown)
	}
	return strings.Join(all, ", ")
}

func sortedUnits(d *network.Drawn) []string {
	out := make([]string, 0, len(d.Units))
	for u := range d.Units {
		out = append(out, u)
	}
	slices.SortFunc(out, finding.Natural)
	return out
}

// fedBy gives the nodes that a source's positive pole reaches through what only hands current on, as it conducts now.
func (r *Result) fedBy(s *network.State) map[int32]bool {
	var poles []int32
	for i := range r.Drawn.Elements {
		if e := &r.Drawn.Elements[i]; e.Kind == network.Source && s.Conducts(int32(i)) {
			poles = append(poles, r.Drawn.Heads()[e.A])
		}
	}
	return r.handed(s, poles, 0)
}

// handed gives the nodes that are reached from others through what only hands current on, as it conducts now, past one
// that is not entered.
func (r *Result) handed(s *network.State, from []int32, not int32) map[int32]bool {
	heads := r.Drawn.Heads()
	reached := map[int32]bool{}
	for _, n := range from {
		reached[n] = true
	}
	for queue := from; len(queue) > 0; queue = queue[1:] {
		for _, i := range r.at[queue[0]] {
			if e := &r.Drawn.Elements[i]; !e.Kind.Hands() || !s.Conducts(i) {
				continue
			}
			for _, far := range []int32{heads[r.Drawn.Elements[i].A], heads[r.Drawn.Elements[i].B]} {
				if far != not && !reached[far] {
					reached[far] = true
					queue = append(queue, far)
				}
			}
		}
	}
	return reached
}

// connect lists the elements at each node.
func (r *Result) connect() {
	heads := r.Drawn.Heads()
	r.at = make([][]int32, len(heads))
	for i := range r.Drawn.Elements {
		e := &r.Drawn.Elements[i]
		a, b := heads[e.A], heads[e.B]
		r.at[a] = append(r.at[a], int32(i))
		if a != b {
			r.at[b] = append(r.at[b], int32(i))
		}
	}
}

// highest finds the nodes that a source reaches with neither a switch nor a fuse between.
func (r *Result) highest() {
	var poles []int32
	for i := range r.Drawn.Elements {
		if r.source(int32(i)) {
			poles = append(poles, r.Drawn.Heads()[r.Drawn.Elements[i].A])
		}
	}
	r.above = r.along(poles, func(node int32) bool { return node != int32(network.Reference) })
}

// along gives the nodes that copper and contacts join to others, and these, past none that is not to be entered.
func (r *Result) along(from []int32, enter func(node int32) bool) map[int32]bool {
	heads, seen := r.Drawn.Heads(), map[int32]bool{}
	for _, n := range from {
		seen[n] = true
	}
	for queue := slices.Clone(from); len(queue) > 0; queue = queue[1:] {
		for _, i := range r.at[queue[0]] {
			e := &r.Drawn.Elements[i]
			if e.Kind != network.Copper && e.Kind != network.Contact {
				continue
			}
			for _, n := range []int32{heads[e.A], heads[e.B]} {
				if !seen[n] && enter(n) {
					seen[n] = true
					queue = append(queue, n)
				}
			}
		}
	}
	return seen
}
