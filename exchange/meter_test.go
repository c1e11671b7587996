package exchange_test

import (
	"context"
	"fmt"
	"net"
	"strings"
	"testing"
	"time"

	"draxel/core/prove"
	"draxel/exchange"
)

// listen serves connections by answer, each on its own, and gives the address.
func listen(t *testing.T, answer func(c net.Conn)) string {
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
	return l.Addr().String()
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
	for _, address := range []string{"", "here", "8.8.8.8:80", "example.org:80", "127.0.0.1", "0.0.0.0:80",
		"169.254.1.1:80"} {
		if _, err := exchange.ReadMeter(context.Background(), address, &prove.Measure{Kind: prove.Volts}); err == nil {
			t.Errorf("%q is asked", address)
		}
	}
}
