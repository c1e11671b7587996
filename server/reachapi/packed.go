package reachapi

import (
	"sync"

	"draxel/core/pack"
	"draxel/core/reach"
)

// packings keeps bundles that have been packed, by their wires.
type packings struct {
	mu  sync.Mutex
	all map[string]packing
}

type packing struct {
	circles  []pack.Circle
	diameter float64
}

const mostPackings = 1000

func (p *packings) of(b *reach.Bundle) packing {
	key := b.PackKey()
	p.mu.Lock()
	got, known := p.all[key]
	p.mu.Unlock()
	if known {
		return got
	}
	got.circles, got.diameter = pack.Circles(b.Round)
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.all == nil || len(p.all) >= mostPackings {
		p.all = map[string]packing{}
	}
	p.all[key] = got
	return got
}
