package plan_test

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/face"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/thin"
	"draxel/core/work"
)

var storms = flag.Uint64("storms", 60, "how many random jobs TestAPlanStandsInAStorm goes through")

// Everything at once, in any order: decisions, exchanges, wishes, faces with ends that do not come out, reports from
// the bench, ticks, moves made otherwise. The plan always stands: it is proven, or says that within the limit it
// cannot begin.
func TestAPlanStandsInAStorm(t *testing.T) {
	words := []string{"Injector 1", "Injector 2", "Fan relay 1 control", "Canister purge", "Battery feed", "Power ground",
		"Knock sensor 1", "zqk", "Fuel pump relay control"}
	faces := []string{"2x3 sealed, 1.5 mm, family s15", "2x3, 1.5 mm, family s15, soldered",
		"2x3 unsealed, 1.5 mm, row 2 of 2.8 mm, family u15, pull to seat", ""}
	for seed := range *storms {
		r := rand.New(rand.NewPCG(seed, 77))
		lines := func() (out []string) {
			for i, c := range r.Perm(12)[:3+r.IntN(7)] {
				out = append(out, fmt.Sprintf("%c%d %s", 'A'+rune(c%2), c/2+1, words[(i+r.IntN(4))%len(words)]))
			}
			return out
		}
		from, to := lines(), lines()
		cavity := func(of []string) harness.Ref {
			at, _, _ := strings.Cut(of[r.IntN(len(of))], " ")
			return ref(at)
		}
		anywhere := func() harness.Ref { return ref(fmt.Sprintf("%c%d", 'A'+rune(r.IntN(2)), 1+r.IntN(6))) }
		j := job(from, to)
		for _, id := range []string{"A", "B"} {
			if w := faces[r.IntN(len(faces))]; w != "" {
				if j.Layouts == nil {
					j.Layouts = map[string]*face.Layout{}
				}
				j.Layouts[id] = layoutOf(t, w)
			}
		}
		hand := r.IntN(3)
		bench := thin.Standard()
		bench.Hand = &hand
		j.Bench = &bench
		var done []string
		for range 25 {
			p := computeJob(t, j)
			switch action := r.IntN(9); action {
			case 0, 1, 2:
				for n := 1 + r.IntN(3); n > 0 && len(p.Work.Steps) > 0; n-- {
					s := &p.Work.Steps[r.IntN(len(p.Work.Steps))]
					if _, done := p.Done(s.ID); done || !p.Ready(s, harness.Work(p.Past.Now)) {
						continue
					}
					tick, _ := p.Tick(s.ID)
					tick.Seq = len(j.Ticks)
					if slices.ContainsFunc(j.Ticks, func(x work.Tick) bool { return x.Step == tick.Step }) || s.Stage == work.Pin {
						tick = ticked(tick, len(j.Ticks))
					}
					j.Ticks = append(j.Ticks, tick)
					done = append(done, s.Text)
					p = computeJob(t, j)
				}
			case 3, 4:
				at := cavity(from)
				d := match.Decision{Side: match.From, At: at, To: cavity(to),
					Choice: []match.Choice{match.Gone, match.Matched, match.Matched, match.Joined, match.Sourced}[r.IntN(5)],
					Source: "ground"}
				j.Decisions = append(without(j.Decisions, match.From, at), d)
			case 5:
				at := cavity(to)
				j.Decisions = append(without(j.Decisions, match.To, at),
					match.Decision{Side: match.To, At: at, Of: cavity(from),
						Choice: []match.Choice{match.Vacant, match.Branch}[r.IntN(2)]})
			case 6:
				if at := anywhere(); p.Pin.Now.Has(at) {
					what := pin.Whats()[r.IntN(4)]
					if _, full := p.Pin.Now.In(at); !full || what != pin.Occupied {
						x := pin.Report{ID: fmt.Sprint(len(j.Reports)), What: what, At: at, Settled: []string{"", "so"}[r.IntN(2)]}
						tick, ok := x.Tick()
						if _, err := harness.Apply(p.Pin.Now, tick.Edits...); err != nil {
							continue
						}
						if j.Reports = append(j.Reports, x); ok {
							j.Ticks = append(j.Ticks, ticked(tick, len(j.Ticks)))
						}
					}
				}
			case 7:
				j.Exchanges = []pin.Exchange{{A: cavity(to), B: cavity(to)}}
				if len(p.Steps) > 1 {
					j.Wishes = append(j.Wishes, pin.Wish{Step: p.Steps[len(p.Steps)-1].ID, Then: p.Steps[0].ID})
				}
			case 8:
				b := randomMove(r, p.Pin.Now, hand)
				if len(b) > 0 {
					j.Ticks = append(j.Ticks, ticked(work.Tick{Step: fmt.Sprint("otherwise ", len(j.Ticks)), Edits: b, Stage: "pin",
						Kind: "otherwise"}, len(j.Ticks)))
				}
			}
			p = computeJob(t, j)
			if wrong(p) {
				t.Fatalf("job %d, in hand %d: %+v\nsteps %s\ndone %q\nreports %+v\ndecisions %+v", seed, hand, p.Proof, texts(p),
					done, j.Reports, j.Decisions)
			}
			if !p.Totals.Reconciled {
				t.Fatalf("job %d: the counts do not balance: %+v", seed, p.Totals)
			}
			if has(p.Findings, "tick-lost") {
				t.Fatalf("job %d: %s", seed, text(p.Findings, "tick-lost"))
			}
		}
	}
}

func ticked(tick work.Tick, seq int) work.Tick {
	tick.Step, tick.Seq = fmt.Sprint(tick.Step, "-", seq), seq
	return tick
}

func without(all []match.Decision, side match.Side, at harness.Ref) []match.Decision {
	var out []match.Decision
	for _, d := range all {
		if d.Side != side || d.At != at {
			out = append(out, d)
		}
	}
	return out
}

// randomMove takes a terminal out of its cavity and puts it into an empty one, or leaves it in hand, or seals it off.
func randomMove(r *rand.Rand, now harness.Harness, hand int) []harness.Edit {
	cavities := now.Cavities()
	from, to := cavities[r.IntN(len(cavities))], cavities[r.IntN(len(cavities))]
	t, full := now.In(from)
	if !full {
		return nil
	}
	edits := []harness.Edit{{Do: harness.Remove, Terminal: t, At: from, Label: "otherwise"}}
	switch r.IntN(3) {
	case 0:
		edits = append(edits, harness.Edit{Do: harness.Insert, Terminal: t, At: to})
	case 1:
		edits = append(edits, harness.Edit{Do: harness.Cap, Terminal: t, Label: "otherwise"})
	}
	after, err := harness.Apply(now, edits...)
	if err != nil || after.InHand() > max(hand, now.InHand()) {
		return nil
	}
	return edits
}
