package plan

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/signal"
	"draxel/core/thin"
)

// YardItem is something to bring from the donor before it is gone.
type YardItem struct {
	Text string `json:"text"`
	Why  string `json:"why"`
}

// Yard lists what to bring from the donor, from what the job says of it and what was found at its connectors.
func (j Job) Yard(r *thin.Result) []YardItem {
	out := []YardItem{}
	if id := j.Identity; id != nil {
		if id.Throttle.Will == "electric" {
			out = append(
				out,
				YardItem{
					"the accelerator pedal, with its plug and a hand's breadth of tails",
					"An electric throttle and its pedal are matched as a pair with the unit.",
				},
			)
		}
		if id.Immobiliser == "keep and relearn" {
			out = append(
				out,
				YardItem{
					"every key, the ring coil, the immobiliser module and the ignition lock",
					"The immobiliser is kept and relearned.",
				},
			)
		}
		if id.Gearbox.Changed() && id.Gearbox.Will != "manual" {
			out = append(
				out,
				YardItem{
					"the gearbox unit, the selector and their plugs with tails",
					"The gearbox changes to " + id.Gearbox.Will + ".",
				},
			)
		}
	}
	ids := make([]string, 0, len(j.Looked))
	for id := range j.Looked {
		ids = append(ids, id)
	}
	slices.SortFunc(ids, finding.Natural)
	for _, id := range ids {
		if parts := j.Looked[id].Replace(); len(parts) > 0 && !slices.Contains(r.Off, id) {
			out = append(
				out,
				YardItem{
					fmt.Sprintf("a plug like %s, with tails", id),
					"To be replaced there: " + strings.Join(parts, ", ") + ".",
				},
			)
		}
	}
	for _, item := range j.openItems() {
		if item.Do == "add" {
			out = append(out, YardItem{item.Text, "It comes new: " + item.Why + "."})
		}
	}
	return out
}

func (j Job) openItems() []gather.OpenItem {
	if j.Identity == nil {
		return nil
	}
	return slices.DeleteFunc(j.Identity.OpenItems(), func(i gather.OpenItem) bool { return j.Items[i.ID] })
}

// emptied gives the decision that a cavity of the To side is left empty, where it is here too and says the same.
func (j Job) emptied(there, here *Facts, d match.Decision) (match.Decision, bool) {
	x, okX := there.To.Row(d.At)
	y, okY := here.To.Row(d.At)
	if d.Choice != match.Vacant || !okX || !okY || !saysTheSame(x, y) {
		return d, false
	}
	d.Rejected, d.Verify = nil, j.Title
	return d, true
}

// saysTheSame says whether two rows speak of one circuit: in the same words but for their spelling and order, or in
// others that are read as the same wire.
func saysTheSame(a, b harness.Row) bool {
	x, y := signal.Words(a.Function), signal.Words(b.Function)
	slices.Sort(x)
	slices.Sort(y)
	sure := min(a.Signal.Sure, b.Signal.Sure) >= 0.8
	return slices.Equal(x, y) || sure && signal.Compare(a.Signal, b.Signal) == signal.Same
}

// Brought is what applies of an earlier job. Each of it is to be verified before it counts.
type Brought struct {
	Thin      []thin.Decision
	Match     []match.Decision
	Exchanges []pin.Exchange
}

// Earlier gives the decisions of an earlier job that apply to this one: those about cavities, wires, devices, connectors
// and outputs that are here too and agree in what is said of them.
func (j Job) Earlier(past Job) (Brought, error) {
	here, err := j.Facts()
	if err != nil {
		return Brought{}, err
	}
	there, err := past.Facts()
	if err != nil {
		return Brought{}, err
	}
	var matches []match.Decision
	decided := map[string]bool{}
	for _, d := range j.Decisions {
		decided[string(d.Side)+" "+d.At.String()] = true
	}
	for _, d := range past.Decisions {
		a, okA := here.From.Row(d.At)
		b, okB := there.From.Row(d.At)
		if d.Side == match.To {
			if x, there := past.emptied(&there, &here, d); there && !decided["to "+d.At.String()] {
				matches = append(matches, x)
			}
			continue
		}
		if !okA || !okB || !saysTheSame(a, b) || decided["from "+d.At.String()] || d.Choice == match.Open {
			continue
		}
		if d.Choice == match.Matched {
			x, okX := here.To.Row(d.To)
			y, okY := there.To.Row(d.To)
			if _, vetoed := match.Veto(a.Signal, x.Signal); !okX || !okY || !saysTheSame(x, y) || vetoed {
				continue
			}
		}
		d.Rejected, d.Verify = nil, past.Title
		matches = append(matches, d)
	}
	var thins []thin.Decision
	own := map[string]bool{}
	for _, d := range j.Thin {
		own[string(d.On)+" "+d.ID] = true
	}
	r := thin.Compute(thin.Input{Loom: &here.Laid.Loom, Bench: thin.Standard()})
	for _, d := range past.Thin {
		if own[string(d.On)+" "+d.ID] || d.Choice == thin.Undecided || r.Refuses(d) != "" {
			continue
		}
		d.Verify = past.Title
		thins = append(thins, d)
	}
	return Brought{thins, matches, j.exchanged(past, &here, &there)}, nil
}

// exchanged gives the exchanges of outputs of an earlier job that can be made here too.
func (j Job) exchanged(past Job, here, there *Facts) []pin.Exchange {
	taken := map[harness.Ref]bool{}
	for _, x := range j.Exchanges {
		taken[x.A], taken[x.B] = true, true
	}
	var out []pin.Exchange
	for _, x := range past.Exchanges {
		same := func(at harness.Ref) bool {
			a, okA := here.To.Row(at)
			b, okB := there.To.Row(at)
			return okA && okB && saysTheSame(a, b)
		}
		if x.Verify != "" || taken[x.A] || taken[x.B] || !same(x.A) || !same(x.B) || here.whyNotExchanged(x) != "" {
			continue
		}
		x.Verify = past.Title
		out = append(out, x)
	}
	return out
}
