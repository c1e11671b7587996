package work

import "draxel/core/harness"

// Trial carries out what can be done of many steps, and takes back whole what cannot. Steps that fail are few, so that
// it is made anew after one instead of being copied before each.
type Trial struct {
	from  harness.Harness
	bench *harness.Bench
	done  []harness.Edit
}

// NewTrial begins a trial on a harness.
func NewTrial(from harness.Harness) *Trial { return &Trial{from: from, bench: harness.Work(from)} }

// Try carries edits out, all of them or none, and says why not.
func (t *Trial) Try(edits ...harness.Edit) error {
	if err := t.bench.Do(edits...); err != nil {
		t.bench = harness.Work(t.from)
		t.bench.Must(t.done...)
		return err
	}
	t.done = append(t.done, edits...)
	return nil
}

// Harness gives the harness as it is now; the trial is not to be used after it.
func (t *Trial) Harness() harness.Harness { return t.bench.Harness() }
