// Package desk takes requests in, whatever they are about: who may ask and what of it is let in, jobs as they are
// computed, changes and what is told of them, replies and problems. Each stage answers from a package above it.
package desk

import (
	"log/slog"
	"net/netip"
	"sync"
	"time"

	"golang.org/x/sync/singleflight"

	"draxel/store"
)

// Desk takes requests in. Clock and ids are passed in, so that tests can hold them still.
type Desk struct {
	Store   *store.Store
	log     *slog.Logger
	Now     func() time.Time
	NewID   func() string
	cache   cache
	costs   costs // of the parts of plans
	loading singleflight.Group
	Events  hub
	access  *access // nil: this machine alone
	// Instruments may be called beside those of this machine.
	Instruments []netip.Addr
	Demo        Demo

	stopping chan struct{} // closed when the server is being stopped
	stop     sync.Once

	uploading chan struct{} // holds the large files that are being taken in

	turns sync.Map // by job: who checks a change against it, *sync.Mutex
}

// Demo is the demonstration, which whoever begins may look round in: the jobs by their ids, made when they are wanted.
// Its zero value is none.
type Demo struct {
	IDs  []string
	Jobs func() ([]store.NewJob, error)
}

// Options are what a server is made with; Now, NewID and Lan may be nil.
type Options struct {
	Store *store.Store
	Log   *slog.Logger
	Now   func() time.Time
	NewID func() string
	Lan   *Lan // nil: other devices are not let in
	// Instruments may be called beside those of this machine.
	Instruments []netip.Addr
	Demo        Demo
}

// Stop ends what would otherwise go on for ever: the streams that tell pages of changes.
func (s *Desk) Stop() {
	s.stop.Do(func() {
		close(s.stopping)
	})
}
