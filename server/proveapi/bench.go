package proveapi

import (
	"context"
	"slices"
	"sync"
	"time"

	"draxel/core/prove"
	"draxel/server/desk"
	"draxel/standins"
)

// bench is a simulated vehicle of a job that was started from the page, with its meter, unit and rig on this
// machine alone.
type bench struct {
	car   *standins.Car
	at    Benched
	until time.Time
	end   context.CancelFunc

	// What was read at it and found there: it is the simulated vehicle's, and never the job's.
	mu       sync.Mutex
	readings []prove.MeterReading
	mended   []prove.Mend
}

// keep keeps a reading under its name in the place of the one before, or takes it away.
func (b *bench) keep(id string, r *prove.MeterReading) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.readings = slices.DeleteFunc(slices.Clone(b.readings), func(x prove.MeterReading) bool { return x.ID == id })
	if r != nil && len(b.readings) < mostBenched {
		b.readings = append(b.readings, *r)
	}
}

// mend notes what was found: the simulated vehicle is put in order by it.
func (b *bench) mend(m prove.Mend) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.mended = append(slices.Clone(b.mended), m)
	b.car.Hide()
}

// benches are the simulated vehicles by job.
type benches struct {
	mu  sync.Mutex
	all map[string]*bench
}

// mostBenches bounds the simulated vehicles that run at once, and benchTime how long one runs that nobody asks.
const (
	mostBenches = 8
	mostBenched = 5000 // readings at one
	benchTime   = 30 * time.Minute
)

// of gives the bench of a job, nil where none runs.
func (b *benches) of(job string, now time.Time) *bench {
	b.mu.Lock()
	defer b.mu.Unlock()
	for id, x := range b.all {
		if now.After(x.until) {
			x.end()
			delete(b.all, id)
		}
	}
	x := b.all[job]
	if x != nil {
		x.until = now.Add(benchTime)
	}
	return x
}

func (b *benches) stop() {
	b.mu.Lock()
	defer b.mu.Unlock()
	for id, x := range b.all {
		x.end()
		delete(b.all, id)
	}
}

// readingsOf gives what was read and found at a simulated vehicle where one is asked for, else at the job's own.
func readingsOf(j *desk.Computed, b *bench) ([]prove.MeterReading, []prove.Mend) {
	if b == nil {
		return j.Job.Proved, j.Job.Mended
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.readings, b.mended
}
