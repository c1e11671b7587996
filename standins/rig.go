package standins

import (
	"context"
	"fmt"
	"math"
	"net"
	"strconv"
	"strings"
	"sync"

	"draxel/core/prove"
)

// Rig is a bench rig on a simulated vehicle: an indicator of high resistance on each output of the unit, and a
// toothed wheel before the crank sensor. It speaks a line at a time, in the manner of SCPI: *IDN? SYST:ERR? IND? B1,
// IND:LIST?, WHE:TEETH 60, WHE:MISS 2, WHE:RPM 900, WHE:EDGE? 0.3 (edges in so many seconds, in ms, with commas
// between).
type Rig struct {
	Car *Car

	mu     sync.Mutex
	wheel  prove.Wheel
	errors []string
}

// NewRig gives the rig of a car, with a wheel of 60 places of which two are missing, at 900 a minute.
func NewRig(c *Car) *Rig { return &Rig{Car: c, wheel: prove.Wheel{Teeth: 60, Missing: 2, RPM: 900}} }

// Serve answers on a listener until the context ends.
func (r *Rig) Serve(ctx context.Context, l net.Listener) error {
	return serve(ctx, l, func(_ context.Context, c net.Conn) {
		lines(c, func() { r.fail(`-363,"Input buffer overrun"`) }, r.Do)
	})
}

func (r *Rig) fail(text string) string {
	r.mu.Lock()
	defer r.mu.Unlock()
	if len(r.errors) < 20 {
		r.errors = append(r.errors, text)
	}
	return ""
}

// lit says whether an indicator lights: an output that pulls takes its line from where the load holds it.
func (r *Rig) lit(at string) bool {
	x, err := r.Car.Shows(prove.Volts, at, "battery −")
	if err != nil {
		return false
	}
	r.Car.mu.Lock()
	s := r.Car.stands()
	r.Car.mu.Unlock()
	s.Drive = ""
	m := prove.Measure{Kind: prove.Volts, A: at, B: "battery −", Setup: s}
	r.Car.mu.Lock()
	rest, err := r.Car.shows(m)
	r.Car.mu.Unlock()
	return err == nil && math.Abs(x.Value-rest.Value) > 3
}

// mostEdges bounds for how many seconds edges are counted.
const mostEdges = 2.0

// Do carries out one command and gives the answer to a question, empty where it was none.
func (r *Rig) Do(text string) string {
	head, rest, _ := strings.Cut(strings.TrimSpace(text), " ")
	rest = strings.TrimSpace(rest)
	switch strings.ToUpper(strings.TrimPrefix(head, ":")) {
	case "":
		return ""
	case "*IDN?":
		return "DRAXEL,STAND-IN RIG,0,1"
	case "SYST:ERR?":
		r.mu.Lock()
		defer r.mu.Unlock()
		if len(r.errors) == 0 {
			return `0,"No error"`
		}
		first := r.errors[0]
		r.errors = r.errors[1:]
		return first
	case "IND:LIST?":
		return strings.Join(r.Car.Vehicle.Outputs(), ",")
	case "IND?":
		if r.Car.Vehicle.Drives[rest] == "" {
			return r.fail(`-222,"Data out of range"`)
		}
		if r.lit(rest) {
			return "1"
		}
		return "0"
	case "WHE:TEETH", "WHE:MISS", "WHE:RPM":
		x, err := strconv.ParseFloat(rest, 64)
		r.mu.Lock()
		w := r.wheel
		switch strings.ToUpper(head) {
		case "WHE:TEETH":
			w.Teeth = int(x)
		case "WHE:MISS":
			w.Missing = int(x)
		default:
			w.RPM = x
		}
		bad := err != nil || w.Check() != nil
		if !bad {
			r.wheel = w
		}
		r.mu.Unlock()
		if bad {
			return r.fail(`-222,"Data out of range"`)
		}
		return ""
	case "WHE:EDGE?":
		x, err := strconv.ParseFloat(rest, 64)
		if err != nil || !(x > 0 && x <= mostEdges) {
			return r.fail(`-222,"Data out of range"`)
		}
		r.mu.Lock()
		defer r.mu.Unlock()
		if x*r.wheel.RPM/60*float64(r.wheel.Teeth) > 4000 {
			r.errors = append(r.errors[:min(len(r.errors), 19)], `-222,"Data out of range"`)
			return ""
		}
		var b strings.Builder
		for i, e := range r.wheel.Edges(x) {
			if i > 0 {
				b.WriteByte(',')
			}
			fmt.Fprintf(&b, "%.3f", 1000*e)
		}
		return b.String()
	}
	return r.fail(`-113,"Undefined header"`)
}
