package standins_test

import (
	"bytes"
	"encoding/hex"
	"io"
	"net"
	"strings"
	"testing"
	"time"

	"draxel/core/harness"
	"draxel/core/network"
	"draxel/core/prove"
	"draxel/standins"
)

// valve is a battery, a unit that is fed through U1 and grounded through U2, and an injector from the battery to its
// output U3.
func valve(t testing.TB) *prove.Vehicle {
	t.Helper()
	var b network.Builder
	wire := func(name, from, to string) {
		b.Add(
			network.Element{Name: name, Wire: harness.WireID(name), Kind: network.Copper, A: b.Node(from), B: b.Node(to),
				Ohms: 0.05},
		)
	}
	contact := func(at string) {
		b.Add(
			network.Element{
				Name: "contact " + at,
				Kind: network.Contact,
				A:    b.Node(at + " wire"),
				B:    b.Node(at),
				Ohms: 0.002,
			},
		)
	}
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
	for _, at := range []string{"U1", "U2", "U3", "J1", "J2"} {
		contact(at)
	}
	wire("w1", "battery +", "U1 wire")
	wire("w2", "U2 wire", "battery −")
	wire("w3", "battery +", "J1 wire")
	wire("w4", "J2 wire", "U3 wire")
	b.Merge(b.Node("battery −"), network.Reference)
	coil := b.Add(
		network.Element{Name: "unit inside", Kind: network.Load, A: b.Node("U1"), B: b.Node("U2"), Ohms: 40},
	)
	awake := b.Relay(network.Relay{Name: "U awake", Coil: coil, PullIn: 7, DropOut: 5})
	b.Add(network.Element{Name: "injector 1", Kind: network.Load, A: b.Node("J1"), B: b.Node("J2"), Ohms: 14})
	b.Add(network.Element{Name: "output U3", Kind: network.Switch, A: b.Node("U3"), B: b.Node("U2"), Ohms: 0.1,
		Gate: network.Gate{Switch: "U3", Relay: awake}})
	n, err := b.Network()
	if err != nil {
		t.Fatal(err)
	}
	i, _ := n.Element("injector 1")
	return &prove.Vehicle{
		Net:   n,
		Where: map[string]string{"injector 1": "injector 1"},
		Of:    map[string][]int32{"injector 1": {i}},
		Plugs: []prove.Plug{
			{ID: "U", Cavities: []string{"1", "2", "3"}, Unit: true},
			{ID: "J", Cavities: []string{"1", "2"}},
		},
		Drives: map[string]string{"U3": "fuel injector, cylinder 1"},
		Usual:  func(prove.Setup) network.Condition { return network.Condition{Key: network.Run} },
	}
}

// tester is a client of ISO 13400-2 that is written here anew: bytes in hexadecimal.
type tester struct {
	*testing.T
	c net.Conn
}

func call(t *testing.T, u *standins.Unit) tester {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	go func() { _ = u.Serve(t.Context(), l) }()
	c, err := net.Dial("tcp", l.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = c.Close() })
	_ = c.SetDeadline(time.Now().Add(20 * time.Second))
	return tester{t, c}
}

func (x tester) write(text string) {
	x.Helper()
	b, err := hex.DecodeString(strings.ReplaceAll(text, " ", ""))
	if err == nil {
		_, err = x.c.Write(b)
	}
	if err != nil {
		x.Fatal(err)
	}
}

func (x tester) read() string {
	x.Helper()
	head := make([]byte, 8)
	if _, err := io.ReadFull(x.c, head); err != nil {
		return err.Error()
	}
	body := make([]byte, head[7])
	if _, err := io.ReadFull(x.c, body); err != nil {
		x.Fatal(err)
	}
	return strings.ToUpper(hex.EncodeToString(append(head, body...)))
}

// ask sends a request of ISO 14229-1 and gives the answer behind the acknowledgement.
func (x tester) ask(request string) string {
	x.Helper()
	b, err := hex.DecodeString(strings.ReplaceAll(request, " ", ""))
	if err != nil {
		x.Fatal(err)
	}
	x.write("02FD 8001 000000" + hex.EncodeToString([]byte{byte(4 + len(b))}) + "0E00 1000" + hex.EncodeToString(b))
	if taken := x.read(); taken != "02FD8002"+"00000005"+"10000E0000" {
		x.Fatalf("%s is taken with %s", request, taken)
	}
	answer := x.read()
	if !strings.HasPrefix(answer, "02FD8001") || len(answer) < 24 {
		x.Fatalf("%s is answered with %s", request, answer)
	}
	return answer[24:]
}

// A tester on TCP, byte by byte as ISO 13400-2 and ISO 14229-1 have it (from memory): the line is activated, the unit
// says who it is, what volts it has, works its output and gives it back, and tells the code of the wire that is
// broken. What it does not have it refuses with the standard's negative response.
func TestAUnitOnTCP(t *testing.T) {
	car := standins.NewCar(valve(t))
	u := standins.NewUnit(car, map[uint16]string{0xF191: "HW-1"})
	x := call(t, u)
	x.write("02FD 8001 00000006 0E00 1000 3E00")
	if got := x.read(); got != "02FD80030000000510000E0002" {
		t.Errorf("before the line is activated: %s", got)
	}
	x.write("02FD 0005 00000007 0E00 00 00000000")
	if got := x.read(); got != "02FD0006000000090E0010001000000000" {
		t.Fatalf("activated with %s", got)
	}
	for request, want := range map[string]string{
		"22 F191":       "62F19148572D31", // HW-1
		"22 FFFF":       "7F2231",
		"22 F1":         "7F2213",
		"10 03":         "5003003201F4",
		"10 07":         "7F1012",
		"27 01":         "7F2711",
		"3E 00":         "7E00",
		"14 FFFFFF":     "54",
		"14 000000":     "7F1431",
		"19 01 FF":      "7F1912",
		"19 02 FF":      "590209",
		"2F A001 03 01": "7F2F31", // a feed is no output
		"2F A003 03 07": "7F2F13",
		"31 01 FF00":    "7F3111",
	} {
		if got := x.ask(request); got != want {
			t.Errorf("%s: %s, want %s", request, got, want)
		}
	}
	volts := func(id string) int {
		t.Helper()
		got := x.ask("22 " + id)
		b, err := hex.DecodeString(got)
		if err != nil || len(b) != 5 || b[0] != 0x62 {
			t.Fatalf("%s says %s", id, got)
		}
		return int(b[3])<<8 | int(b[4])
	}
	// By hand: 12.6 V behind 0.006 + 0.052 Ω into 40.1 Ω: 12.58 V; the output hangs at the battery through the
	// injector.
	if v := volts("A001"); v < 1256 || v > 1260 {
		t.Errorf("the feed has %d hundredths", v)
	}
	if v := volts("A003"); v < 1258 || v > 1261 {
		t.Errorf("the output at rest has %d hundredths", v)
	}
	x.ask("10 03")
	if got := x.ask("2F A003 03 01"); got != "6FA0030301" {
		t.Errorf("driven: %s", got)
	}
	if v := volts("A003"); v > 40 { // 0.1 Ω of the output and 0.052 of the ground in 14.2 Ω
		t.Errorf("driven the output has %d hundredths", v)
	}
	if got := x.ask("2F A003 00"); got != "6FA00300" {
		t.Errorf("given back: %s", got)
	}
	if v := volts("A003"); v < 1258 {
		t.Errorf("given back it has %d hundredths", v)
	}
	x.ask("10 01")
	if got := x.ask("2F A003 03 01"); got != "7F2F22" {
		t.Errorf("driven in the default session: %s", got)
	}
	car.Hide(prove.Cause{Faults: []network.Fault{{Do: network.Open, Element: "w4"}}})
	if got := x.ask("19 02 09"); got != "590209"+"020100"+"09" { // P0201
		t.Errorf("codes %s", got)
	}
	car.Hide()
	if got := x.ask("19 02 09"); got != "59020902010008" {
		t.Errorf("mended, the code stays confirmed: %s", got)
	}
	if x.ask("14 FFFFFF"); x.ask("19 02 09") != "590209" {
		t.Error("cleared codes stay")
	}
}

// What is driven is given back when the tester says nothing for five seconds, or closes the line. A unit whose feed
// is gone says nothing at all.
func TestAUnitTakesItsOutputBack(t *testing.T) {
	t.Parallel()
	car := standins.NewCar(valve(t))
	driven := func() bool {
		s, err := car.Shows(prove.Volts, "U3", "battery −")
		return err == nil && s.Value < 1
	}
	u := standins.NewUnit(car, nil)
	for name, end := range map[string]func(x tester){"silence": func(tester) {},
		"closed": func(x tester) { _ = x.c.Close() }} {
		x := call(t, u)
		x.write("02FD 0005 00000007 0E00 00 00000000")
		x.read()
		x.ask("10 03")
		x.ask("2F A003 03 01")
		if !driven() {
			t.Fatalf("%s: it is not driven", name)
		}
		end(x)
		for i := 0; driven(); i++ {
			if time.Sleep(100 * time.Millisecond); i > 80 {
				t.Fatalf("%s: it is driven on and on", name)
			}
		}
	}
	car.Hide(prove.Cause{Faults: []network.Fault{{Do: network.Open, Element: "w2"}}})
	x := call(t, u)
	x.write("02FD 0005 00000007 0E00 00 00000000")
	if got := x.read(); !strings.Contains(got, "EOF") && !strings.Contains(got, "reset") {
		t.Errorf("without its ground it says %s", got)
	}
}

// A rig tells which output pulls, and turns its wheel: the edges of two and a half turns have the gap where it
// should be.
func TestARigTellsWhatPulls(t *testing.T) {
	car := standins.NewCar(valve(t))
	r := standins.NewRig(car)
	if got := r.Do("IND:LIST?"); got != "U3" {
		t.Errorf("its indicators are %s", got)
	}
	if got := r.Do("IND? U3"); got != "0" {
		t.Errorf("at rest %s", got)
	}
	car.Drive("U3")
	if got := r.Do("IND? U3"); got != "1" {
		t.Errorf("driven %s", got)
	}
	for _, x := range []string{"WHE:TEETH 36", "WHE:MISS 1", "WHE:RPM 600"} {
		r.Do(x)
	}
	// By hand: 600 a minute are ten turns a second, 36 places 2.778 ms apart, 35 teeth and a gap of two places.
	got := strings.Split(r.Do("WHE:EDGE? 0.15"), ",")
	if len(got) != 35+18 || got[1] != "2.778" || got[35] != "100.000" || got[34] != "94.444" {
		t.Errorf("%d edges: %v", len(got), got)
	}
	for _, bad := range []string{"WHE:RPM -4", "WHE:TEETH nine", "IND? Q9", "WHE:EDGE? 99", "BREW:COFFEE"} {
		if r.Do(bad); !strings.HasPrefix(r.Do("SYST:ERR?"), "-") {
			t.Errorf("%s is taken", bad)
		}
	}
}

// FuzzUnit: whatever a tester sends, the unit answers with whole messages or closes, and never drives an output of
// its own.
func FuzzUnit(f *testing.F) {
	for _, s := range []string{"02FD000500000007" + "0E0000" + "00000000", "02FD8001000000060E0010003E00", "02FD00",
		"FFFF", ""} {
		b, _ := hex.DecodeString(s)
		f.Add(b)
	}
	u := standins.NewUnit(standins.NewCar(valve(f)), nil)
	f.Fuzz(func(t *testing.T, in []byte) {
		here, there := net.Pipe()
		done := make(chan []byte)
		go func() { out, _ := io.ReadAll(here); done <- out }()
		go func() { _, _ = here.Write(in); time.Sleep(time.Millisecond); _ = here.Close() }()
		u.Talk(t.Context(), there)
		_ = there.Close()
		for out := <-done; len(out) > 0; {
			if len(out) < 8 || !bytes.HasPrefix(out, []byte{2, 0xFD}) || len(out) < 8+int(out[7]) {
				t.Fatalf("%x answers %x", in, out)
			}
			out = out[8+int(out[7]):]
		}
	})
}
