// Package prove says what a meter must show at a harness, what is wrong where it does not, and what to measure next.
//
// A Vehicle is the network of a harness with where it can be touched. A Measure is two points and a Setup: what is
// plugged in, where the key is, whether the battery is on. What it must show is computed by putting the meter into
// the network; what it would show with a fault, by putting the fault in too. So the test sheet, the ranking of what
// could be wrong and the next measurement all come from one model (de Kleer & Williams 1987), and there is no table
// of symptoms to keep.
package prove

import (
	"fmt"
	"math"
	"strings"
)

// Setup is how the vehicle stands while something is measured. It is a plain value: equal ones are the same setup.
type Setup struct {
	Key     string `json:"key,omitempty"`     // position of the key, or running
	Battery bool   `json:"battery,omitempty"` // it is on
	Units   bool   `json:"units,omitempty"`   // the control units are plugged in
	Pulled  bool   `json:"pulled,omitempty"`  // the fuses are out
	Off     string `json:"off,omitempty"`     // a plug that is off what it is plugged into
	On      string `json:"on,omitempty"`      // switches that are worked meanwhile, with commas between
	Drive   string `json:"drive,omitempty"`   // the cavity of a unit's output that a tester has it work
}

// Setups with everything dead and the units out: with the fuses in, and without them.
var (
	Bare = Setup{}
	Dead = Setup{Pulled: true}
)

// String says how the vehicle is to stand, in words.
func (s Setup) String() string {
	units := "units unplugged"
	if s.Units {
		units = "everything plugged in"
	}
	if s.Pulled {
		units += ", fuses out"
	}
	if s.Off != "" {
		units += ", plug " + s.Off + " off"
	}
	if s.On != "" {
		units += ", with " + strings.ReplaceAll(s.On, ",", " and ") + " on"
	}
	if s.Drive != "" {
		units += ", the unit working " + s.Drive
	}
	if !s.Battery {
		return "battery off, " + units
	}
	if s.Key == "running" {
		return "engine running, " + units
	}
	return "key in " + s.Key + ", " + units
}

// Kind says what is measured.
type Kind string

// The kinds.
const (
	Ohms  Kind = "ohms"
	Volts Kind = "volts"
	Works Kind = "works" // seen or heard: the device A does its work, 1, or does not, 0
)

// Measure is one measurement: two points, one setup.
type Measure struct {
	ID    string  `json:"id"`
	Kind  Kind    `json:"kind"`
	A     string  `json:"a"` // red probe
	B     string  `json:"b"` // black probe
	Setup Setup   `json:"setup"`
	Lamp  float64 `json:"lamp,omitempty"` // W of a lamp across the two, 0: none
	// A cavity that a fused jumper joins to ground meanwhile.
	Jumper string `json:"jumper,omitempty"`
}

// Key names a measure by what it is.
func (m *Measure) Key() string {
	return fmt.Sprintf("%s %s %s %v %g %s", m.Kind, m.A, m.B, m.Setup, m.Lamp, m.Jumper)
}

// MeterReading is what a meter showed.
type MeterReading struct {
	Measure
	Value float64 `json:"value"`           // Ω or V
	Over  bool    `json:"over,omitempty"`  // nothing between the two: over the range
	Times int     `json:"times,omitempty"` // how often it was read so; 0: once
	Who   string  `json:"who,omitempty"`
	When  int64   `json:"when,omitempty"` // Unix milliseconds
}

// mostZero is how far below nothing a meter may show, Ω: its leads were shorted when it was set to zero. Common
// practice, no source.
const mostZero = 1

// read gives what a reading says: less than no resistance is none.
func (r *MeterReading) read() float64 {
	if r.Kind == Ohms {
		return max(0, r.Value)
	}
	return r.Value
}

// Check says why a reading cannot be.
func (r *MeterReading) Check() error {
	switch {
	case r.ID == "" || len(r.ID) > 400:
		return fmt.Errorf("a reading has a name")
	case r.Kind == Works:
		if r.A == "" || len(r.A) > 80 || r.Value != 0 && r.Value != 1 {
			return fmt.Errorf("a device works or does not")
		}
		return nil
	case r.Kind != Ohms && r.Kind != Volts:
		return fmt.Errorf("a meter does not read %q", r.Kind)
	case r.A == "" || r.B == "" || len(r.A) > 80 || len(r.B) > 80:
		return fmt.Errorf("a reading is between two points")
	case math.IsNaN(r.Value) || math.Abs(r.Value) > 1e9 || r.Kind == Ohms && r.Value < -mostZero:
		return fmt.Errorf("no meter shows %g", r.Value)
	case r.Times < 0 || r.Times > 100:
		return fmt.Errorf("nobody reads it %d times", r.Times)
	case len(r.Setup.On) > 400 || len(r.Setup.Drive) > 80 || len(r.Setup.Off) > 80 || len(r.Setup.Key) > 20:
		return fmt.Errorf("nobody brings a vehicle into such a state")
	case r.Lamp < 0 || r.Lamp > 200:
		return fmt.Errorf("a lamp of %g W cannot be", r.Lamp)
	}
	return nil
}

// Shown is what a meter would show.
type Shown struct {
	Value float64 `json:"value"`
	Over  bool    `json:"over,omitempty"`
}

// Band is between what a reading has to lie.
type Band struct {
	Least float64 `json:"least"`
	Most  float64 `json:"most"`
	Over  bool    `json:"over,omitempty"` // nothing may be between the two
}

// What a meter and the parts themselves differ by (common practice): of volts a hundredth and 50 mV of the meter with
// a thirtieth of what loads and contacts make of them, of ohms a tenth and a quarter of an ohm of leads and contacts.
const (
	voltsPart, voltsLeast = 0.03, 0.06
	ohmsPart, ohmsLeast   = 0.10, 0.25
)

// overOhms is what a meter shows as nothing: more than that.
const overOhms = 1e6

// spread gives the standard deviation of a reading about what is expected.
func spread(k Kind, value float64) float64 {
	if k == Volts {
		return voltsPart/2*math.Abs(value) + voltsLeast/2
	}
	return ohmsPart/2*math.Abs(value) + ohmsLeast/2
}

// BandOf gives the band of what is expected: two standard deviations, four of volts under a lamp.
func BandOf(m *Measure, x Shown) Band {
	if x.Over {
		return Band{Over: true}
	}
	if m.Kind == Works {
		return Band{x.Value, x.Value, false}
	}
	d := 2 * spread(m.Kind, x.Value)
	if m.Lamp > 0 {
		d *= 2
	}
	least := x.Value - d
	if m.Kind == Ohms {
		least = max(least, 0)
	}
	return Band{least, x.Value + d, false}
}

// Fits says whether a reading lies in a band.
func (b Band) Fits(r *MeterReading) bool {
	if b.Over || r.Over {
		return b.Over == r.Over || b.Over && r.Kind == Ohms && r.Value > overOhms
	}
	return r.read() >= b.Least && r.read() <= b.Most
}

// Mend is a fault that was found and put right: what was measured before it says nothing any more of how it is now.
type Mend struct {
	ID   string `json:"id"`
	Text string `json:"text"`           // what it was
	Did  string `json:"did,omitempty"`  // what was done
	Took int    `json:"took,omitempty"` // readings that led to it
	Who  string `json:"who,omitempty"`
	When int64  `json:"when,omitempty"` // Unix milliseconds
}

// Check says why a mend cannot be.
func (m *Mend) Check() error {
	if m.ID == "" || len(m.ID) > 40 || m.Text == "" || len(m.Text) > 400 || len(m.Did) > 400 {
		return fmt.Errorf("say in at most 400 letters what it was")
	}
	return nil
}

// Since gives the readings that were taken after the last fault was mended.
func Since(readings []MeterReading, mended []Mend) []MeterReading {
	last := int64(0)
	for i := range mended {
		last = max(last, mended[i].When)
	}
	var out []MeterReading
	for i := range readings {
		if readings[i].When > last {
			out = append(out, readings[i])
		}
	}
	return out
}

// Again gives a reading with how often it was read so, where another was there before: one that says the same
// counts once more.
func (r MeterReading) Again(before []MeterReading) MeterReading {
	r.Times = 1
	for i := range before {
		if b := &before[i]; b.ID == r.ID && b.Over == r.Over &&
			math.Abs(b.Value-r.Value) <= 4*spread(r.Kind, r.Value) {
			r.Times = max(1, b.Times) + 1
		}
	}
	return r
}
