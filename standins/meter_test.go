package standins_test

import (
	"bufio"
	"fmt"
	"net"
	"strconv"
	"strings"
	"testing"
	"time"

	"draxel/core/network"
	"draxel/core/prove"
	"draxel/standins"
)

// lamp is a battery with a fuse and a lamp behind a plug.
func lamp(t testing.TB) *prove.Vehicle {
	t.Helper()
	var b network.Builder
	b.Add(
		network.Element{
			Name:  "battery",
			Kind:  network.Source,
			A:     b.Node("battery +"),
			B:     network.Reference,
			Volts: 12.6,
			Ohms:  0.006,
		},
	)
	b.Add(
		network.Element{Name: "fuse 1", Kind: network.Fuse, A: b.Node("battery +"), B: b.Node("X1 wire"), Ohms: 0.01},
	)
	b.Add(
		network.Element{
			Name: "contact X1",
			Kind: network.Contact,
			A:    b.Node("X1 wire"),
			B:    b.Node("X1"),
			Ohms: 0.002,
		},
	)
	b.Add(network.Element{Name: "lamp", Kind: network.Load, A: b.Node("X1"), B: b.Node("X2"), Ohms: 12})
	b.Add(
		network.Element{
			Name: "contact X2",
			Kind: network.Contact,
			A:    b.Node("X2 wire"),
			B:    b.Node("X2"),
			Ohms: 0.002,
		},
	)
	b.Add(
		network.Element{
			Name: "w1",
			Wire: "w1",
			Kind: network.Copper,
			A:    b.Node("X2 wire"),
			B:    network.Reference,
			Ohms: 0.05,
		},
	)
	n, err := b.Network()
	if err != nil {
		t.Fatal(err)
	}
	return &prove.Vehicle{Net: n, Plugs: []prove.Plug{{ID: "X", Cavities: []string{"1", "2"}}},
		Usual: func(prove.Setup) network.Condition { return network.Condition{Key: network.Run} }}
}

// A client on TCP talks to the meter as to any other: by IEEE 488.2 and SCPI-99 (from memory). What it reads is by
// hand: 12 Ω of the lamp and 0.054 Ω beside it; with the fuse gone nothing.
func TestAMeterOnTCP(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	m := &standins.Meter{Car: standins.NewCar(lamp(t))}
	go func() { _ = m.Serve(t.Context(), l) }()
	c, err := net.Dial("tcp", l.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = c.Close() }()
	_ = c.SetDeadline(time.Now().Add(20 * time.Second))
	in := bufio.NewReader(c)
	ask := func(line string) string {
		t.Helper()
		if _, err := fmt.Fprintln(c, line); err != nil {
			t.Fatal(err)
		}
		answer, err := in.ReadString('\n')
		if err != nil {
			t.Fatalf("%s: %v", line, err)
		}
		return strings.TrimSpace(answer)
	}
	number := func(line string) float64 {
		t.Helper()
		v, err := strconv.ParseFloat(ask(line), 64)
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	if id := ask("*IDN?"); !strings.Contains(id, "METER") {
		t.Errorf("it is %q", id)
	}
	if v := number("*RST;ROUT:CLOS (@X1,battery −);SIM:BATT ON;SIM:UNIT IN;SIM:KEY RUN;MEAS:VOLT:DC?"); v < 12.5 ||
		v > 12.6 {
		t.Errorf("%g V at the lamp", v)
	}
	if v := number("SIM:BATT OFF;:MEASure:RESistance?"); v < 12.05-0.01 || v > 12.06+0.01 {
		t.Errorf("%g Ω from the feed to ground", v)
	}
	m.Car.Hide(prove.Cause{Faults: []network.Fault{{Do: network.Open, Element: "contact X2"}}})
	if v := number("MEAS:CONT?"); v < 9e37 {
		t.Errorf("an open plug shows %g", v)
	}
	for line, want := range map[string]string{"FRY:EGGS": "-113", "SIM:KEY SIDEWAYS": "-224", "ROUT:CLOS (@X1)": "-109"} {
		if got := ask(line + ";SYST:ERR?"); !strings.HasPrefix(got, want) {
			t.Errorf("%s: %s, want %s", line, got, want)
		}
	}
	if got := ask("ROUT:CLOS (@X1,Q9);MEAS:VOLT:DC?"); !strings.HasPrefix(got, "9.9E") {
		t.Errorf("between points that there are not: %s", got)
	}
	if got := ask("SYST:ERR?"); !strings.HasPrefix(got, "-222") {
		t.Errorf("which is told as %s", got)
	}
	if got := ask("SYSTem:ERRor?"); got != `0,"No error"` {
		t.Errorf("and then %s", got)
	}
	if _, err := fmt.Fprintln(c, strings.Repeat("A", 5000)); err != nil {
		t.Fatal(err)
	}
	if got := ask("SYST:ERR?"); !strings.HasPrefix(got, "-363") {
		t.Errorf("a line without end: %s", got)
	}
}

// FuzzMeter: whatever is said to it, the meter answers with one line or none.
func FuzzMeter(f *testing.F) {
	for _, s := range []string{"*IDN?", "MEAS:VOLT:DC?", "ROUT:CLOS (@X1,X2)", ":SYST:ERR?", "SIM:KEY run", "::::", "@",
		"ROUT:CLOS"} {
		f.Add(s)
	}
	m := &standins.Meter{Car: standins.NewCar(lamp(f))}
	f.Fuzz(func(t *testing.T, line string) {
		if answer := m.Do(line); strings.ContainsAny(answer, "\n\r") || len(answer) > 100 {
			t.Errorf("%q answers %q", line, answer)
		}
	})
}
