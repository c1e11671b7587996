package signal

import (
	"slices"
	"sync"
)

// recent keeps the readings of the texts that were read last: the same few thousand stand in a job's lists whenever it
// is computed anew, and reading is pure.
type recent struct {
	mu         sync.Mutex
	young, old map[string]Reading // what was asked for since the last turn, and in the one before
}

// mostRecent is how many texts are young before the old ones are let go.
const mostRecent = 4096

var read recent

// get gives the reading of a text.
func (c *recent) get(text string) Reading {
	c.mu.Lock()
	r, known := c.young[text]
	if !known {
		r, known = c.old[text]
	}
	c.mu.Unlock()
	if !known {
		r = load().read(text)
	}
	c.mu.Lock()
	if len(c.young) >= mostRecent {
		c.young, c.old = nil, c.young
	}
	if c.young == nil {
		c.young = make(map[string]Reading, mostRecent)
	}
	c.young[text] = r
	c.mu.Unlock()
	r.Others = slices.Clone(r.Others)
	return r
}
