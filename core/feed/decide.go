package feed

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/finding"
	"draxel/core/vehicle"
)

// Rated says which fuse is to stand in a slot of the vehicle instead of the one that is there.
type Rated struct {
	Fuse   string  `json:"fuse"`
	Amps   float64 `json:"amps"`
	Reason string  `json:"reason,omitempty"`
	Who    string  `json:"who,omitempty"`
	When   int64   `json:"when,omitempty"` // Unix milliseconds
}

// Check says why a fuse cannot be changed so.
func (r *Rated) Check() error {
	if r.Fuse == "" || !(r.Amps >= 0.5 && r.Amps <= 1000) {
		return fmt.Errorf("a fuse is named, and has 0.5 to 1000 A")
	}
	return nil
}

// Decided gives the facts with what was decided in them: what will stand in the vehicle. The facts are not changed;
// where nobody has said anything they are nil.
func Decided(f *vehicle.Facts, d Record) *vehicle.Facts {
	if d.Block == nil && (f == nil || len(d.Rated) == 0) {
		return f
	}
	if f == nil {
		empty := vehicle.Read(nil)
		f = &empty
	}
	out := *f
	in := &out.Inside
	in.Slots, in.Cables, in.Relays = slices.Clone(in.Slots), slices.Clone(in.Cables), slices.Clone(in.Relays)
	out.Contacts, out.Slow = maps.Clone(f.Contacts), maps.Clone(f.Slow)
	out.Reckoned, out.Was = maps.Clone(f.Reckoned), maps.Clone(f.Was)
	out.Findings = slices.Clone(f.Findings)
	for i := range d.Rated {
		r := &d.Rated[i]
		found := false
		for k := range in.Slots {
			if s := &in.Slots[k]; s.Name == r.Fuse {
				found = true
				if s.Rating != r.Amps {
					out.Was[s.Name], s.Rating = s.Rating, r.Amps
				}
			}
		}
		if !found {
			out.Findings = append(out.Findings, finding.Finding{Code: "fuse-gone", Place: finding.Place{Part: "block"},
				Severity: finding.Check, Stage: "feed",
				Subject: r.Fuse, Text: fmt.Sprintf("Fuse %s was to be one of %g A, and no list has it any more.", r.Fuse, r.Amps),
				Remedy: "Take the change back, or put the fuse into the list again."})
		}
	}
	if d.Block != nil {
		d.Block.Add(&out)
	}
	return &out
}
