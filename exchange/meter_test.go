package exchange_test

import (
	"context"
	"fmt"
	"net"
	"net/netip"
	"strings"
	"testing"
	"time"

	"draxel/core/prove"
	"draxel/exchange"
)

// listen serves connections by answer, each on its own, and gives the address.
func listen(t *testing.T, answer func(c net.Conn)) exchange.Address {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = l.Close() })
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			go answer(c)
		}
	}()
	return standsAt(t, l)
}

// standsAt gives the address of what stands there in a test.
func standsAt(t *testing.T, l net.Listener) exchange.Address {
	t.Helper()
	at := exchange.Instruments{Own: []netip.AddrPort{netip.MustParseAddrPort(l.Addr().String())}}
	a, err := at.At(exchange.AMeter, l.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	return a
}

// A meter that answers, and ones that hang, close, lie and flood: each is told in plain words, and none is waited for
// longer than three seconds.
func TestMetersOfAllKinds(t *testing.T) {
	for name, x := range map[string]struct {
		answer func(c net.Conn)
		says   string
		want   prove.Shown
	}{
		"one that answers": {func(c net.Conn) { fmt.Fprintln(c, "+1.241000E+01") }, "", prove.Shown{Value: 12.41}},
		"nothing between":  {func(c net.Conn) { fmt.Fprintln(c, "9.9E+37") }, "", prove.Shown{Over: true}},
		"one that hangs":   {func(net.Conn) {}, "says nothing", prove.Shown{}},
		"one that drips": {func(c net.Conn) {
			for {
				if _, err := fmt.Fprint(c, "1"); err != nil {
					return
				}
				time.Sleep(100 * time.Millisecond)
			}
		}, "says nothing", prove.Shown{}},
		"one that closes": {func(c net.Conn) { _ = c.Close() }, "closed the connection", prove.Shown{}},
		"one that lies":   {func(c net.Conn) { fmt.Fprintln(c, "HTTP/1.1 400 Bad Request") }, "is no number", prove.Shown{}},
		"no number":       {func(c net.Conn) { fmt.Fprintln(c, "NaN") }, "is no number", prove.Shown{}},
		"one that floods": {func(c net.Conn) {
			for {
				if _, err := fmt.Fprint(c, strings.Repeat("7", 4096)); err != nil {
					return
				}
			}
		}, "without end", prove.Shown{}},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			began := time.Now()
			got, err := exchange.ReadMeter(
				context.Background(),
				listen(t, x.answer),
				&prove.Measure{Kind: prove.Volts, A: "A1", B: "B1"},
			)
			if (err == nil) != (x.says == "") || err != nil && !strings.Contains(err.Error(), x.says) ||
				got != x.want {
				t.Errorf("%+v, %v", got, err)
			}
			if took := time.Since(began); took > 5*time.Second {
				t.Errorf("it took %s", took)
			}
		})
	}
	if _, err := exchange.ReadMeter(t.Context(), exchange.Address{}, &prove.Measure{Kind: prove.Volts}); err == nil {
		t.Error("an address that nobody allowed is called")
	}
}

// A device is called where that was allowed at the machine, at the port of its kind, or where a stand-in of ours runs:
// nowhere else.
func TestWhatMayBeCalled(t *testing.T) {
	hosts, err := exchange.InstrumentHosts([]string{"192.168.7.40", " fd00::7 "})
	if err != nil {
		t.Fatal(err)
	}
	allowed := exchange.Instruments{Hosts: hosts, Own: []netip.AddrPort{netip.MustParseAddrPort("127.0.0.1:40321")}}
	for typed, want := range map[string]string{
		"127.0.0.1:5025": "127.0.0.1:5025", "127.0.0.1": "127.0.0.1:5025", "localhost:5025": "127.0.0.1:5025",
		" 192.168.7.40 ": "192.168.7.40:5025", "192.168.7.40:5025": "192.168.7.40:5025",
		"[fd00::7]:5025": "[fd00::7]:5025", "fd00::7": "[fd00::7]:5025", "127.0.0.1:40321": "127.0.0.1:40321",
		"[::ffff:192.168.7.40]:5025": "192.168.7.40:5025",
	} {
		if got, err := allowed.At(exchange.AMeter, typed); err != nil || got.String() != want {
			t.Errorf("%q: %v, %v; want %s", typed, got, err, want)
		}
	}
	for typed, why := range map[string]string{
		"": "its number", "here": "its number", "example.org:5025": "its number", "127.0.0.1:http": "its number",
		"8.8.8.8:5025": "--instrument 8.8.8.8", "192.168.7.41:5025": "--instrument 192.168.7.41",
		"0.0.0.0:5025": "--instrument", "169.254.1.1:5025": "--instrument", "192.168.7.40:80": "port 5025",
		"127.0.0.1:8321": "port 5025", "192.168.7.40:40321": "port 5025", "127.0.0.1:13400": "port 5025",
	} {
		if got, err := allowed.At(exchange.AMeter, typed); err == nil || !strings.Contains(err.Error(), why) {
			t.Errorf("%q: %v, %v; want %q", typed, got, err, why)
		}
	}
	for what, at := range map[exchange.Instrument]string{exchange.AUnit: "127.0.0.1:13400",
		exchange.ARig: "127.0.0.1:5026"} {
		if _, err := (exchange.Instruments{}).At(what, at); err != nil {
			t.Errorf("a stand-in of the %s: %v", what, err)
		}
	}
	for _, bad := range []string{"8.8.8.8", "a meter", "", "192.168.7.40:5025"} {
		if _, err := exchange.InstrumentHosts([]string{bad}); err == nil {
			t.Errorf("%q is allowed", bad)
		}
	}
}
