package live

import (
	"fmt"
	"strings"

	"draxel/core/feed"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/work"
)

// The kinds of step of Feed.
const (
	MountBlock work.Kind = "mount"  // the block is put where it lives
	FitRelay   work.Kind = "relay"  // a relay goes into its socket
	FitFuse    work.Kind = "fuse"   // a fuse goes in
	OtherFuse  work.Kind = "change" // another fuse goes in instead of the one that is there
)

// Minutes that the steps of Feed take: common practice, no source.
const (
	mountMinutes = 30
	relayMinutes = 1
	fuseMinutes  = 1
)

// feedSteps are the steps of Feed: the block is mounted before anything is led into it, relays and fuses come last, and
// fuses only after all that they feed is joined.
func feedSteps(b *feed.Block, lengths *reach.Result, r *feed.Result) []work.Step {
	var out []work.Step
	add := func(s work.Step, about ...string) string {
		s.Stage = work.Feed
		s = s.As(work.Check(append([]string{"feed"}, about...)...))
		out = append(out, s)
		return s.ID
	}
	if b != nil {
		place := "where it is to live"
		if station := lengths.Placed[route.Thing{Kind: route.ADevice, ID: b.ID}]; station != "" {
			place = "at " + station
		}
		add(work.Step{Kind: MountBlock, Minutes: mountMinutes,
			Text: fmt.Sprintf("Mount the fuse block %s %s: dry, away from exhaust heat, where a fuse can be changed.", b.ID,
				place),
			Why:  "Every length that ends in it follows from where it is.",
			Warn: []string{"Do not drill into structure without approval."}}, "mount", b.ID)
		for i := range b.Relays {
			x := &b.Relays[i]
			add(work.Step{Kind: FitRelay, Minutes: relayMinutes,
				Text: strings.Join(strings.Fields(fmt.Sprintf("Fit relay %s %s, %g A.", b.RelayName(x.Name), x.For,
					usualAmps(x))), " "),
				Why: suppression(x)}, "relay", b.ID, x.Name)
		}
	}
	for i := range r.Fuses {
		f := &r.Fuses[i]
		own := b != nil && b.Holds(f.Fuse)
		caution := "A fuse above its wire lets the wire burn: never put a larger one in."
		switch {
		case f.Was > 0:
			add(work.Step{Kind: OtherFuse, Minutes: fuseMinutes,
				Text: fmt.Sprintf("Change fuse %s: %g A instead of %g A.", f.Fuse, f.Rating, f.Was),
				Why:  fmt.Sprintf("It carries %s, and %s.", feed.Amps(f.Load), protects(f)), Warn: []string{caution}},
				"change", f.Fuse, fmt.Sprint(f.Rating))
		case own && f.Rating > 0:
			add(work.Step{Kind: FitFuse, Minutes: fuseMinutes,
				Text: fmt.Sprintf("Fit a fuse of %g A in %s.", f.Rating, f.Fuse),
				Why:  fmt.Sprintf("It carries %s, and %s.", feed.Amps(f.Load), protects(f)),
				Warn: []string{caution,
					"One after the other, with the meter in its place first: what draws more than reckoned is " +
						"looked for before the fuse goes in."}}, "fit", f.Fuse, fmt.Sprint(f.Rating))
		}
	}
	return out
}

func protects(f *feed.Protected) string {
	if f.Thin == "" {
		return "nothing is known of the wires behind it"
	}
	return fmt.Sprintf("%s, the thinnest wire behind it, may carry %.3g A", f.Thin, f.Carries)
}

func suppression(r *feed.BlockRelay) string {
	if r.Suppressed == "" {
		return "Its coil is not suppressed: a unit that drives it takes the peak when it lets go."
	}
	return "Its coil is suppressed by a " + r.Suppressed + "."
}

func usualAmps(r *feed.BlockRelay) float64 {
	if r.Amps > 0 {
		return r.Amps
	}
	return 30
}
