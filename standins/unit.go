package standins

import (
	"context"
	"encoding/binary"
	"io"
	"net"
	"slices"
	"strings"
	"sync"
	"time"

	"draxel/core/prove"
)

// Unit is a control unit on a simulated vehicle. It speaks ISO 14229-1 over ISO 13400-2 (both from memory), of which
// exactly: routing activation, diagnostic messages, and the services session control 10 (default, extended), reset 11
// (hard), clear 14 (all groups), read codes 19 02, read by identifier 22, input-output control 2F (return control,
// short-term adjustment: on or off) and tester present 3E. Whatever else is asked is answered with the standard's
// negative response. What it says of its inputs is what the network has at its cavities, and its codes follow from
// that; what is driven is given back five seconds after the last word of the tester, or when the line is closed.
// Without its feeds it says nothing.
type Unit struct {
	Car      *Car
	Values   []prove.Value     // by identifier, what it can be asked for
	At       map[string]string // by identifier, the cavity whose volts it says
	Identity map[uint16]string // by identifier: F190, F191, F187 and the like

	mu     sync.Mutex
	stored map[string]byte // by code: its status
}

// logical is the unit's address, and testers those that it lets in.
const (
	logical   = 0x1000
	session   = 5 * time.Second // S3 of ISO 14229-2
	mostFrame = 4096
)

// NewUnit gives the unit of a car: each cavity of its plugs an identifier, A001 and on, that says its volts.
func NewUnit(c *Car, identity map[uint16]string) *Unit {
	u := &Unit{Car: c, At: map[string]string{}, Identity: identity, stored: map[string]byte{}}
	u.Values, u.At = ValuesOf(c.Vehicle)
	return u
}

// ValuesOf lists what the stand-in of a vehicle's unit can be asked for, as its papers would.
func ValuesOf(v *prove.Vehicle) (values []prove.Value, at map[string]string) {
	at = map[string]string{}
	n := 0xA001
	for i := range v.Plugs {
		p := &v.Plugs[i]
		if !p.Unit {
			continue
		}
		for _, cavity := range p.Cavities {
			x := prove.Value{
				ID:    strings.ToUpper(hex4(uint16(n))),
				Name:  "volts at " + p.At(cavity),
				Unit:  "V",
				Scale: 0.01,
				Bytes: 2,
			}
			if drives := v.Drives[p.At(cavity)]; drives != "" {
				x.Name, x.Drives = drives+", volts at "+p.At(cavity), p.At(cavity)
			}
			if len(x.Name) > 80 {
				x.Name = x.Name[:80]
			}
			values, at[x.ID] = append(values, x), p.At(cavity)
			if n++; len(values) == prove.MostValues {
				return values, at
			}
		}
	}
	return values, at
}

func hex4(n uint16) string {
	const digits = "0123456789ABCDEF"
	return string([]byte{digits[n>>12], digits[n>>8&15], digits[n>>4&15], digits[n&15]})
}

// Serve answers on a listener until the context ends.
func (u *Unit) Serve(ctx context.Context, l net.Listener) error { return serve(ctx, l, u.Talk) }

// The payload types of ISO 13400-2 that the unit knows.
const (
	typeNack       = 0x0000
	typeActivate   = 0x0005
	typeActivated  = 0x0006
	typeAlive      = 0x0007
	typeStillAlive = 0x0008
	typeMessage    = 0x8001
	typeTaken      = 0x8002
	typeRefused    = 0x8003
)

// line is a connection of a tester.
type line struct {
	unit     *Unit
	tester   uint16
	active   bool
	extended bool
	driving  bool
}

// Talk answers on one connection until it ends.
func (u *Unit) Talk(_ context.Context, c net.Conn) {
	if !u.Car.awake() {
		return
	}
	l := &line{unit: u}
	defer l.rest()
	for {
		wait := idle
		if l.extended {
			wait = session
		}
		_ = c.SetDeadline(time.Now().Add(wait))
		head := make([]byte, 8)
		if n, err := io.ReadFull(c, head); err != nil {
			if l.extended && n == 0 &&
				isTimeout(err) { // S3 has run out: back to the default session, and the outputs to the unit
				l.rest()
				continue
			}
			return
		}
		kind, size := binary.BigEndian.Uint16(head[2:]), binary.BigEndian.Uint32(head[4:])
		if head[0] != 2 || head[1] != 0xFD {
			_, _ = c.Write(frame(typeNack, []byte{0})) // incorrect pattern
			return
		}
		if size > mostFrame {
			_, _ = c.Write(frame(typeNack, []byte{2})) // message too large
			return
		}
		body := make([]byte, size)
		if _, err := io.ReadFull(c, body); err != nil {
			return
		}
		for _, answer := range l.Do(kind, body) {
			if _, err := c.Write(answer); err != nil {
				return
			}
		}
	}
}

func isTimeout(err error) bool {
	n, is := err.(net.Error)
	return is && n.Timeout()
}

// frame gives a message with its header.
func frame(kind uint16, body []byte) []byte {
	out := []byte{2, 0xFD, 0, 0, 0, 0, 0, 0}
	binary.BigEndian.PutUint16(out[2:], kind)
	binary.BigEndian.PutUint32(out[4:], uint32(len(body)))
	return append(out, body...)
}

// rest is the default session: outputs are the unit's own again.
func (l *line) rest() {
	if l.driving {
		l.unit.Car.Drive("")
	}
	l.extended, l.driving = false, false
}

// Do answers one message of ISO 13400-2.
func (l *line) Do(kind uint16, body []byte) [][]byte {
	switch kind {
	case typeActivate:
		if len(body) != 7 && len(body) != 11 {
			return [][]byte{frame(typeNack, []byte{4})} // invalid payload length
		}
		l.tester, l.active = binary.BigEndian.Uint16(body), body[2] == 0
		code := byte(0x10) // activated
		if !l.active {
			code = 6 // unsupported activation type
		}
		out := binary.BigEndian.AppendUint16(nil, l.tester)
		out = binary.BigEndian.AppendUint16(out, logical)
		return [][]byte{frame(typeActivated, append(out, code, 0, 0, 0, 0))}
	case typeStillAlive:
		return nil
	case typeMessage:
		if len(body) < 5 {
			return [][]byte{frame(typeNack, []byte{4})}
		}
		from, to := body[:2], body[2:4]
		refuse := func(code byte) [][]byte { return [][]byte{frame(typeRefused, slices.Concat(to, from, []byte{code}))} }
		switch {
		case !l.active || binary.BigEndian.Uint16(from) != l.tester:
			return refuse(2) // invalid source address
		case binary.BigEndian.Uint16(to) != logical:
			return refuse(3) // unknown target address
		}
		out := [][]byte{frame(typeTaken, slices.Concat(to, from, []byte{0}))}
		if answer := l.serve(body[4:]); answer != nil {
			out = append(out, frame(typeMessage, slices.Concat(to, from, answer)))
		}
		return out
	}
	return [][]byte{frame(typeNack, []byte{1})} // unknown payload type
}
