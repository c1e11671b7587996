package fact

import (
	"slices"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/signal"
	"draxel/core/stored"
	"draxel/core/thin"
)

// emptied gives the decision that a cavity of the To side is left empty, where it is here too and says the same.
func emptied(j stored.Job, there, here *Facts, d match.Decision) (match.Decision, bool) {
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

// Earlier gives the decisions of an earlier job that apply to this one: those about cavities, wires, devices,
// connectors and outputs that are here too and agree in what is said of them.
func Earlier(j stored.Job, past stored.Job) (Brought, error) {
	here, err := Of(j)
	if err != nil {
		return Brought{}, err
	}
	there, err := Of(past)
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
			if x, there := emptied(past, &there, &here, d); there && !decided["to "+d.At.String()] {
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
	return Brought{thins, matches, exchanged(j, past, &here, &there)}, nil
}

// exchanged gives the exchanges of outputs of an earlier job that can be made here too.
func exchanged(j stored.Job, past stored.Job, here, there *Facts) []pin.Exchange {
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
		if x.Verify != "" || taken[x.A] || taken[x.B] || !same(x.A) || !same(x.B) || here.WhyNotExchanged(x) != "" {
			continue
		}
		x.Verify = past.Title
		out = append(out, x)
	}
	return out
}
