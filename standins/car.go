package standins

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net"
	"slices"
	"strings"
	"sync"
	"time"

	"draxel/core/prove"
)

// Car is a simulated vehicle: how it stands, what is wrong with it that nobody is told, and what its unit works. The
// meter, the unit and the bench rig of one car see the same.
type Car struct {
	Vehicle *prove.Vehicle

	mu     sync.Mutex
	setup  prove.Setup
	hidden []prove.Cause
	driven string // the output that a tester has the unit work
}

// NewCar gives a car with the key in run, battery on and everything plugged in.
func NewCar(v *prove.Vehicle, hidden ...prove.Cause) *Car {
	return &Car{Vehicle: v, hidden: hidden, setup: prove.Setup{Key: "run", Battery: true, Units: true}}
}

// Put brings the car into a setup, in which what the unit works goes on.
func (c *Car) Put(s prove.Setup) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.setup = s
}

// Hide puts what is wrong into the car in the place of what was.
func (c *Car) Hide(causes ...prove.Cause) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.hidden = causes
}

// change changes how the car stands.
func (c *Car) change(to func(*prove.Setup)) {
	c.mu.Lock()
	defer c.mu.Unlock()
	to(&c.setup)
}

// Drive has the unit work an output, and no other; empty gives all back to it.
func (c *Car) Drive(output string) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.driven = output
}

// stands gives how the car stands.
func (c *Car) stands() prove.Setup {
	s := c.setup
	s.Drive = c.driven
	return s
}

// Shows gives what a measure shows, in the setup that the car is in.
func (c *Car) Shows(kind prove.Kind, a, b string) (prove.Shown, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.shows(prove.Measure{Kind: kind, A: a, B: b, Setup: c.stands()})
}

func (c *Car) shows(m prove.Measure) (prove.Shown, error) {
	return c.Vehicle.With(&m, prove.Faults(c.hidden, m.Setup))
}

// awake says whether the unit is fed: its battery feed, its ignition feed and its ground as the network has them.
func (c *Car) awake() bool {
	c.mu.Lock()
	defer c.mu.Unlock()
	s := c.stands()
	if !s.Units || !s.Battery {
		return false
	}
	pulled, err := c.Vehicle.Pulled(s, prove.Faults(c.hidden, s))
	return err == nil && slices.ContainsFunc(pulled, func(r string) bool { return strings.HasSuffix(r, " awake") })
}

// serve answers connections on a listener, each by talk, until the context ends; no more than so many at once.
func serve(ctx context.Context, l net.Listener, talk func(context.Context, net.Conn)) error {
	stop := context.AfterFunc(ctx, func() { _ = l.Close() })
	defer stop()
	room := make(chan struct{}, most)
	for {
		c, err := l.Accept()
		if err != nil {
			if ctx.Err() != nil || errors.Is(err, net.ErrClosed) {
				return nil
			}
			return fmt.Errorf("listen: %w", err)
		}
		select {
		case room <- struct{}{}:
			go func() {
				defer func() { <-room }()
				defer func() { _ = c.Close() }()
				stop := context.AfterFunc(ctx, func() { _ = c.Close() })
				defer stop()
				talk(ctx, c)
			}()
		default:
			_ = c.Close()
		}
	}
}

// idle is how long a connection may say nothing, and most how many there are at once.
const (
	idle = 5 * time.Minute
	most = 16
)

// Fault picks something that may be wrong with a vehicle by its number, another with each; nothing for 0.
func Fault(v *prove.Vehicle, number uint64) []prove.Cause {
	if number == 0 {
		return nil
	}
	r, err := v.Train(2, number, rand.New(rand.NewPCG(number, 2)))
	if err != nil {
		return nil
	}
	return r.Hidden
}
