package exchange_test

import (
	"bytes"
	"context"
	"encoding/hex"
	"io"
	"net"
	"strings"
	"testing"
	"time"

	"draxel/core/prove"
	"draxel/exchange"
)

// script is a unit that answers each message of a tester by a table of bytes in hexadecimal, written by hand from ISO
// 13400-2 and ISO 14229-1 (from memory); what it is not told of it does not answer.
func script(answers map[string][]string) func(net.Conn) {
	return func(c net.Conn) {
		defer func() { _ = c.Close() }()
		for {
			head := make([]byte, 8)
			if _, err := io.ReadFull(c, head); err != nil {
				return
			}
			body := make([]byte, head[7])
			if _, err := io.ReadFull(c, body); err != nil {
				return
			}
			for _, text := range answers[strings.ToUpper(hex.EncodeToString(append(head[2:4], body...)))] {
				b, err := hex.DecodeString(strings.ReplaceAll(text, " ", ""))
				if err != nil {
					panic(err)
				}
				_, _ = c.Write(b)
			}
		}
	}
}

const activated = "02FD 0006 00000009 0E00 1A2B 10 00000000"

// The answers of a unit are read as the standards have them: identity, codes in SAE J2012's letters, a value, time
// that it asks for, an alive check in between, and its no.
func TestAUnitIsAsked(t *testing.T) {
	const taken = "02FD 8002 00000005 1A2B 0E00 00"
	address := listen(t, script(map[string][]string{
		"00050E000000000000": {activated},
		"80010E001A2B22F191": {taken, "02FD 8001 0000000B 1A2B 0E00 62 F191 48573037"}, // HW07
		"80010E001A2B22F187": {taken, "02FD 8001 00000007 1A2B 0E00 7F 22 31"},
		"80010E001A2B22F190": {
			taken,
			"02FD 8001 00000007 1A2B 0E00 7F 22 78",
			"02FD 0007 00000000",
			"02FD 8001 00000009 1A2B 0E00 62 F190 5831",
		},
		"00080E00":             {},
		"80010E001A2B22F189":   {taken, "02FD 8001 00000007 1A2B 0E00 7F 22 31"},
		"80010E001A2B190209":   {taken, "02FD 8001 0000000F 1A2B 0E00 59 02 FF 0201 00 09 C100 87 08"},
		"80010E001A2B22A003":   {taken, "02FD 8001 00000009 1A2B 0E00 62 A003 04E6"},
		"80010E001A2B14FFFFFF": {taken, "02FD 8001 00000007 1A2B 0E00 7F 14 22"},
	}))
	err := exchange.WithUnit(t.Context(), address, func(u *exchange.UnitLine) error {
		who, err := u.Identity()
		if err != nil || len(who) != 2 || who[0].Says != "HW07" || who[1].Says != "X1" ||
			who[1].What != "vehicle number" {
			t.Errorf("it is %+v, %v", who, err)
		}
		codes, err := u.Codes()
		if err != nil || len(codes) != 2 || codes[0].Code != "P0201" || !codes[0].Now || codes[1].Code != "U0100" ||
			codes[1].Now {
			t.Errorf("codes %+v, %v", codes, err)
		}
		x, err := u.Read(&prove.Value{ID: "A003", Scale: 0.01, Bytes: 2})
		if err != nil || x < 12.539 || x > 12.541 {
			t.Errorf("it says %g, %v", x, err)
		}
		if err := u.Clear(); err == nil || !strings.Contains(err.Error(), "conditions are not right") {
			t.Errorf("its no is told as %v", err)
		}
		return nil
	})
	if err != nil {
		t.Error(err)
	}
}

// Units that hang, close, lie and flood are told in plain words, and none is waited for without end.
func TestUnitsOfAllKinds(t *testing.T) {
	t.Parallel()
	hello := func(rest func(net.Conn)) func(net.Conn) {
		return func(c net.Conn) {
			_, _ = io.ReadFull(c, make([]byte, 15))
			b, _ := hex.DecodeString(strings.ReplaceAll(activated, " ", ""))
			_, _ = c.Write(b)
			rest(c)
		}
	}
	flood := func(b []byte) func(net.Conn) {
		return func(c net.Conn) {
			for {
				if _, err := c.Write(b); err != nil {
					return
				}
			}
		}
	}
	for name, x := range map[string]struct {
		unit func(net.Conn)
		want string
	}{
		"hangs at once": {func(c net.Conn) { time.Sleep(30 * time.Second) }, "says nothing"},
		"closes":        {func(c net.Conn) { _ = c.Close() }, "closed the line"},
		"speaks HTTP": {func(c net.Conn) { _, _ = io.WriteString(c, "HTTP/1.1 400 Bad Request\r\n\r\n") },
			"no control unit"},
		"lets nobody in": {script(map[string][]string{
			"00050E000000000000": {"02FD 0006 00000009 0E00 1A2B 00 00000000"}}), "let a tester in"},
		"hangs then":            {hello(func(c net.Conn) { time.Sleep(30 * time.Second) }), "says nothing"},
		"a message without end": {hello(flood([]byte{2, 0xFD, 0x80, 1, 0x7F, 0xFF, 0xFF, 0xFF})), "no more than 4096"},
		"floods":                {hello(flood([]byte{2, 0xFD, 0x80, 1, 0, 0, 0, 6, 9, 9, 0x0E, 0, 0x62, 1})), "without end"},
		"drips": {hello(func(c net.Conn) {
			for {
				if _, err := c.Write([]byte{2}); err != nil {
					return
				}
				time.Sleep(300 * time.Millisecond)
			}
		}), "says nothing"},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			address := listen(t, x.unit)
			begun := time.Now()
			err := exchange.WithUnit(t.Context(), address, func(u *exchange.UnitLine) error {
				_, err := u.Codes()
				return err
			})
			if err == nil || !strings.Contains(err.Error(), x.want) {
				t.Errorf("told as %v", err)
			}
			if took := time.Since(begun); took > 8*time.Second {
				t.Errorf("waited for %v", took)
			}
		})
	}
}

// An output is worked and given back, and given back too when what is done meanwhile fails or nobody wants it any
// more.
func TestAnOutputIsGivenBack(t *testing.T) {
	for name, fails := range map[string]bool{"in order": false, "broken off": true} {
		var heard bytes.Buffer
		answers := map[string][]string{
			"00050E000000000000": {activated},
			"80010E001A2B1003":   {"02FD 8001 0000000A 1A2B 0E00 50 03 0032 01F4"},
			"80010E001A2B2FA0030301": {
				"02FD 8001 00000009 1A2B 0E00 6F A003 03 01",
			},
			"80010E001A2B2FA00300": {"02FD 8001 00000008 1A2B 0E00 6F A003 00"},
		}
		unit := script(answers)
		address := listen(t, func(c net.Conn) { unit(tee{c, &heard}) })
		ctx, cancel := context.WithCancel(t.Context())
		err := exchange.WithUnit(ctx, address, func(u *exchange.UnitLine) error {
			return u.Drive(&prove.Value{ID: "A003", Drives: "U3"}, 50*time.Millisecond, func() error {
				if fails {
					return io.ErrUnexpectedEOF
				}
				return nil
			})
		})
		cancel()
		if (err != nil) != fails {
			t.Errorf("%s: %v", name, err)
		}
		text := hex.EncodeToString(heard.Bytes())
		if on, back := strings.Index(text, "2fa0030301"), strings.Index(text, "2fa00300"); on < 0 || back < on {
			t.Errorf("%s: heard %s", name, text)
		}
	}
}

// tee notes what is read.
type tee struct {
	net.Conn
	heard *bytes.Buffer
}

func (t tee) Read(b []byte) (int, error) {
	n, err := t.Conn.Read(b)
	t.heard.Write(b[:n])
	return n, err
}

// Bench rigs that lie and flood are told in plain words.
func TestRigsOfAllKinds(t *testing.T) {
	t.Parallel()
	for name, x := range map[string]struct {
		rig  func(net.Conn)
		want string
	}{
		"floods": {func(c net.Conn) {
			for {
				if _, err := c.Write(bytes.Repeat([]byte("B1,"), 1000)); err != nil {
					return
				}
			}
		}, "without end"},
		"lies":  {func(c net.Conn) { _, _ = io.WriteString(c, "B1\nperhaps\n"); time.Sleep(time.Second) }, "no indicator"},
		"hangs": {func(c net.Conn) { time.Sleep(30 * time.Second) }, "says nothing"},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			err := exchange.WithRig(t.Context(), listen(t, x.rig), func(r *exchange.Rig) error {
				_, err := r.Indicators()
				return err
			})
			if err == nil || !strings.Contains(err.Error(), x.want) {
				t.Errorf("told as %v", err)
			}
		})
	}
}

// FuzzUnitAnswers: whatever a unit answers, it is told or read, within its time.
func FuzzUnitAnswers(f *testing.F) {
	hello, _ := hex.DecodeString(strings.ReplaceAll(activated, " ", ""))
	for _, s := range []string{"", "02FD8001000000071A2B0E007F1978", "02FD80010000000F1A2B0E005902FF020100 09C1008708",
		"02FD0000000000 0104"} {
		b, _ := hex.DecodeString(strings.ReplaceAll(s, " ", ""))
		f.Add(b)
	}
	answers := make(chan []byte, 1)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		f.Fatal(err)
	}
	f.Cleanup(func() { _ = l.Close() })
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			_, _ = io.ReadFull(c, make([]byte, 15))
			_, _ = c.Write(append(bytes.Clone(hello), <-answers...))
			_ = c.(*net.TCPConn).CloseWrite()
			_, _ = io.Copy(io.Discard, c)
			_ = c.Close()
		}
	}()
	f.Fuzz(func(t *testing.T, answer []byte) {
		answers <- answer
		begun := time.Now()
		_ = exchange.WithUnit(t.Context(), standsAt(t, l), func(u *exchange.UnitLine) error {
			codes, err := u.Codes()
			if err == nil {
				for _, c := range codes {
					if !prove.IsCode(c.Code) {
						t.Errorf("%x gives the code %q", answer, c.Code)
					}
				}
			}
			return err
		})
		if took := time.Since(begun); took > 13*time.Second {
			t.Errorf("%x takes %v", answer, took)
		}
	})
}
