package plan

import (
	"slices"

	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/live"
	"draxel/core/reach"
	"draxel/core/work"
)

// after puts the steps that part wires behind every step that handles the same length, and before the covers that
// close over them.
func after(all []work.Step, parted *reach.Parted) []work.Step {
	if len(parted.Steps) == 0 {
		return all
	}
	for i := range all {
		if s := &all[i]; s.Kind == reach.Dress {
			s.Needs = append(slices.Clone(s.Needs), parted.Covers[s.Path]...)
		}
	}
	touches := map[string][]harness.WireID{}
	for id, wire := range parted.Touches {
		touches[id] = []harness.WireID{wire}
	}
	return behind(all, parted.Steps, touches)
}

// behind puts steps behind every step that handles the lengths which each of them touches.
func behind(all, late []work.Step, touches map[string][]harness.WireID) []work.Step {
	if len(late) == 0 {
		return all
	}
	handles := map[harness.WireID][]string{} // by length: the steps
	for i := range all {
		s := &all[i]
		for _, e := range s.Edits {
			for _, wire := range append([]harness.WireID{e.Wire}, namesOf(e.Lengths)...) {
				if wire != "" && !slices.Contains(handles[wire], s.ID) {
					handles[wire] = append(handles[wire], s.ID)
				}
			}
		}
	}
	for _, s := range late {
		s.Needs = slices.Clone(s.Needs)
		for _, wire := range touches[s.ID] {
			s.Needs = append(s.Needs, handles[wire]...)
		}
		all = append(all, s)
	}
	return all
}

// fresh leaves out the steps that are among others already: a wire is measured once.
func fresh(steps, others []work.Step) []work.Step {
	seen := map[string]bool{}
	for i := range others {
		seen[others[i].ID] = true
	}
	return slices.DeleteFunc(steps, func(s work.Step) bool {
		twice := seen[s.ID]
		seen[s.ID] = true
		return twice
	})
}

func namesOf(lengths []harness.TipID) []harness.WireID {
	out := make([]harness.WireID, len(lengths))
	for i, l := range lengths {
		out[i] = l.Wire
	}
	return out
}

// fed puts the steps of Feed among the others: nothing goes into a block that is not mounted, and no fuse goes in
// before all that is led to or from the block is done.
func fed(all, feeds []work.Step, block *feed.Block) []work.Step {
	if len(feeds) == 0 {
		return all
	}
	mount := ""
	if block != nil {
		mount = feeds[0].ID
	}
	var before []string
	for i := range all {
		s := &all[i]
		if len(s.Edits) == 0 {
			continue
		}
		before = append(before, s.ID)
		if block != nil && slices.ContainsFunc(s.Edits, func(e harness.Edit) bool {
			return e.Do == harness.Insert && e.At.Connector == block.ID
		}) {
			s.Needs = append(slices.Clone(s.Needs), mount)
		}
	}
	for i := range feeds {
		if feeds[i].Kind == live.FitFuse {
			feeds[i].Needs = before
		}
	}
	return append(feeds, all...)
}
