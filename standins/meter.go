// Package standins are small simulated outside things that ship with Draxel, so that everything can be tried without
// any device. Each speaks over the network as the real thing does, and nothing else in Draxel knows that it is one.
package standins

import (
	"bufio"
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"net"
	"strings"
	"sync"
	"time"

	"draxel/core/prove"
)

// Meter is a multimeter on a simulated vehicle: its probes lie on two points, the vehicle stands in a setup, and may
// have faults that nobody is told. It speaks IEEE 488.2 and a little of SCPI-99 (from memory): *IDN? *RST *CLS *OPC?
// SYST:ERR? CONF:VOLT:DC, CONF:RES, CONF:CONT, READ?, MEAS:VOLT:DC?, MEAS:RES?, MEAS:CONT?, ROUT:CLOS (@A12,battery
// −), and of its vehicle SIM:KEY, SIM:BATT, SIM:UNIT and SIM:FUSE.
type Meter struct {
	Car   *Car
	Noise *rand.Rand // nil: none

	mu     sync.Mutex
	a, b   string
	mode   prove.Kind
	errors []string
}

// overload is what SCPI says for a value beyond every range.
const overload = "9.9E+37"

// longest is the longest line that a stand-in listens to.
const longest = 400

// Serve answers on a listener until the context ends.
func (m *Meter) Serve(ctx context.Context, l net.Listener) error { return serve(ctx, l, m.talk) }

func (m *Meter) talk(_ context.Context, c net.Conn) {
	lines(c, func() { m.fail(`-363,"Input buffer overrun"`) }, m.Do)
}

// lines reads commands, one a line or parted by semicolons, and writes what is answered; a line without end is told.
func lines(c net.Conn, long func(), do func(string) string) {
	in := bufio.NewReaderSize(c, longest)
	for {
		_ = c.SetDeadline(time.Now().Add(idle))
		line, more, err := in.ReadLine()
		if err != nil {
			return
		}
		if more {
			long()
			for more && err == nil {
				_, more, err = in.ReadLine()
			}
			continue
		}
		for _, part := range strings.Split(string(line), ";") {
			if answer := do(part); answer != "" {
				if _, err := fmt.Fprintln(c, answer); err != nil {
					return
				}
			}
		}
	}
}

func (m *Meter) fail(text string) {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.queue(text)
}

func (m *Meter) queue(text string) {
	if len(m.errors) < 20 {
		m.errors = append(m.errors, text)
	}
}

// Do carries out one command and gives the answer to a question, empty where it was none.
func (m *Meter) Do(line string) string {
	m.mu.Lock()
	defer m.mu.Unlock()
	head, rest, _ := strings.Cut(strings.TrimSpace(strings.TrimPrefix(strings.TrimSpace(line), ":")), " ")
	rest = strings.TrimSpace(rest)
	if head == "" {
		return ""
	}
	switch command := short(head); command {
	case "*IDN?":
		return "DRAXEL,STAND-IN METER,0,1"
	case "*RST":
		m.mode, m.a, m.b = prove.Volts, "", ""
	case "*CLS":
		m.errors = nil
	case "*OPC?":
		return "1"
	case "SYST:ERR?", "SYST:ERR:NEXT?":
		if len(m.errors) == 0 {
			return `0,"No error"`
		}
		first := m.errors[0]
		m.errors = m.errors[1:]
		return first
	case "CONF:VOLT:DC", "CONF:VOLT":
		m.mode = prove.Volts
	case "CONF:RES", "CONF:CONT":
		m.mode = prove.Ohms
	case "READ?":
		return m.read()
	case "MEAS:VOLT:DC?", "MEAS:VOLT?":
		m.mode = prove.Volts
		return m.read()
	case "MEAS:RES?", "MEAS:CONT?":
		m.mode = prove.Ohms
		return m.read()
	case "ROUT:CLOS":
		a, b, two := strings.Cut(strings.TrimSuffix(strings.TrimPrefix(rest, "(@"), ")"), ",")
		if a, b = strings.TrimSpace(a), strings.TrimSpace(b); !two || a == "" || b == "" {
			m.queue(`-109,"Missing parameter"`)
			return ""
		}
		m.a, m.b = a, b
	case "SIM:KEY":
		key := strings.ToLower(rest)
		if !strings.Contains(" off accessory run crank running ", " "+key+" ") || key == "" {
			m.queue(`-224,"Illegal parameter value"`)
			return ""
		}
		m.Car.change(func(s *prove.Setup) { s.Key = key })
	case "SIM:BATT":
		m.Car.change(func(s *prove.Setup) { s.Battery = on(rest) })
	case "SIM:UNIT":
		m.Car.change(func(s *prove.Setup) { s.Units = on(rest) })
	case "SIM:FUSE":
		m.Car.change(func(s *prove.Setup) { s.Pulled = !on(rest) })
	default:
		m.queue(`-113,"Undefined header"`)
	}
	return ""
}

func on(text string) bool {
	return text == "1" || strings.EqualFold(text, "on") || strings.EqualFold(text, "in")
}

// short gives the short form of a header: of every word as many letters as SCPI's short form has.
func short(head string) string {
	words := strings.Split(strings.ToUpper(head), ":")
	for i, w := range words {
		ask := strings.HasSuffix(w, "?")
		w = strings.TrimSuffix(w, "?")
		for _, long := range []string{"SYSTEM", "ERROR", "CONFIGURE", "VOLTAGE", "RESISTANCE", "CONTINUITY", "MEASURE",
			"ROUTE",
			"CLOSE", "BATTERY"} {
			if w == long {
				w = w[:min(4, len(w))]
				if long == "ERROR" || long == "RESISTANCE" {
					w = w[:3]
				}
			}
		}
		if ask {
			w += "?"
		}
		words[i] = w
	}
	return strings.Join(words, ":")
}

// read reads the two points.
func (m *Meter) read() string {
	if m.mode == "" {
		m.mode = prove.Volts
	}
	x, err := m.Car.Shows(m.mode, m.a, m.b)
	switch {
	case err != nil:
		m.queue(`-222,"Data out of range"`)
		return overload
	case x.Over:
		return overload
	}
	v := x.Value
	if m.Noise != nil {
		v = v*(1+0.003*m.Noise.NormFloat64()) + 0.005*m.Noise.NormFloat64()
		if m.mode == prove.Ohms {
			v = math.Abs(v)
		}
	}
	return fmt.Sprintf("%+.6E", v)
}
