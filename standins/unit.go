package standins

import (
	"context"
	"encoding/binary"
	"io"
	"math"
	"net"
	"slices"
	"strings"
	"sync"
	"time"

	"draxel/core/prove"
)

// Unit is a control unit on a simulated vehicle. It speaks ISO 14229-1 over ISO 13400-2 (both from memory), of which exactly:
// routing activation, diagnostic messages, and the services session control 10 (default, extended), reset 11 (hard), clear 14 (all
// groups), read codes 19 02, read by identifier 22, input-output control 2F (return control, short-term adjustment: on or off) and
// tester present 3E. Whatever else is asked is answered with the standard's negative response. What it says of its inputs is what
// the network has at its cavities, and its codes follow from that; what is driven is given back five seconds after the last word
// of the tester, or when the line is closed. Without its feeds it says nothing.
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
			x := prove.Value{ID: strings.ToUpper(hex4(uint16(n))), Name: "volts at " + p.At(cavity), Unit: "V", Scale: 0.01, Bytes: 2}
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
			if l.extended && n == 0 && isTimeout(err) { // S3 has run out: back to the default session, and the outputs to the unit
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

// The negative response codes of ISO 14229-1 that the unit gives.
const (
	notSupported    = 0x11
	noSuchSub       = 0x12
	wrongLength     = 0x13
	conditionsWrong = 0x22
	outOfRange      = 0x31
)

// serve answers one request of ISO 14229-1; nil where none is wanted.
func (l *line) serve(q []byte) []byte {
	no := func(code byte) []byte { return []byte{0x7F, q[0], code} }
	switch q[0] {
	case 0x10:
		switch {
		case len(q) != 2:
			return no(wrongLength)
		case q[1]&0x7F == 1:
			l.rest()
		case q[1]&0x7F == 3:
			l.extended = true
		default:
			return no(noSuchSub)
		}
		return quiet(q[1], []byte{0x50, q[1] & 0x7F, 0, 50, 1, 0xF4})
	case 0x11:
		switch {
		case len(q) != 2:
			return no(wrongLength)
		case q[1]&0x7F != 1:
			return no(noSuchSub)
		}
		l.rest()
		return quiet(q[1], []byte{0x51, 1})
	case 0x14:
		switch {
		case len(q) != 4:
			return no(wrongLength)
		case q[1] != 0xFF || q[2] != 0xFF || q[3] != 0xFF:
			return no(outOfRange)
		}
		l.unit.clear()
		return []byte{0x54}
	case 0x19:
		switch {
		case len(q) < 2:
			return no(wrongLength)
		case q[1] != 2:
			return no(noSuchSub)
		case len(q) != 3:
			return no(wrongLength)
		}
		return l.unit.codes(q[2])
	case 0x22:
		return l.read(q, no)
	case 0x2F:
		return l.control(q, no)
	case 0x3E:
		switch {
		case len(q) != 2:
			return no(wrongLength)
		case q[1]&0x7F != 0:
			return no(noSuchSub)
		}
		return quiet(q[1], []byte{0x7E, 0})
	}
	return no(notSupported)
}

// quiet gives no answer where the request says that it wants none.
func quiet(sub byte, answer []byte) []byte {
	if sub&0x80 != 0 {
		return nil
	}
	return answer
}

// read answers read data by identifier, for up to eight of them.
func (l *line) read(q []byte, no func(byte) []byte) []byte {
	if len(q) < 3 || len(q)%2 == 0 || len(q) > 17 {
		return no(wrongLength)
	}
	out := []byte{0x62}
	for i := 1; i < len(q); i += 2 {
		id := binary.BigEndian.Uint16(q[i:])
		out = append(out, q[i], q[i+1])
		if text, is := l.unit.Identity[id]; is {
			out = append(out, text...)
			continue
		}
		v := l.unit.value(id)
		if v == nil {
			return no(outOfRange)
		}
		out = append(out, v.Raw(l.unit.volts(l.unit.At[v.ID]))...)
	}
	return out
}

// control answers input-output control: an output on, off, or given back.
func (l *line) control(q []byte, no func(byte) []byte) []byte {
	if len(q) < 4 {
		return no(wrongLength)
	}
	v := l.unit.value(binary.BigEndian.Uint16(q[1:]))
	if v == nil || v.Drives == "" {
		return no(outOfRange)
	}
	switch {
	case q[3] == 0 && len(q) == 4:
		l.unit.Car.Drive("")
		l.driving = false
	case q[3] == 3 && len(q) == 5 && q[4] <= 1:
		if !l.extended {
			return no(conditionsWrong)
		}
		if l.driving = q[4] == 1; l.driving {
			l.unit.Car.Drive(v.Drives)
		} else {
			l.unit.Car.Drive("")
		}
	case q[3] != 0 && q[3] != 3:
		return no(outOfRange)
	default:
		return no(wrongLength)
	}
	return slices.Concat([]byte{0x6F}, q[1:])
}

func (u *Unit) value(id uint16) *prove.Value {
	for i := range u.Values {
		if u.Values[i].Number() == id {
			return &u.Values[i]
		}
	}
	return nil
}

// volts gives what the unit has at a cavity, against the battery's negative.
func (u *Unit) volts(at string) float64 {
	u.Car.mu.Lock()
	defer u.Car.mu.Unlock()
	s := u.Car.stands()
	volts, err := u.Car.Vehicle.Inside(at, s, prove.Faults(u.Car.hidden, s))
	if err != nil {
		return 0
	}
	return volts
}

// found looks at the outputs: one whose load is not there, or whose line is on ground, has other volts than it should. Low volts
// at the feeds are a code of their own.
func (u *Unit) found() map[string]bool {
	out := map[string]bool{}
	v := u.Car.Vehicle
	u.Car.mu.Lock()
	defer u.Car.mu.Unlock()
	s := u.Car.stands()
	for _, at := range v.Outputs() {
		if at == s.Drive {
			continue
		}
		should, err := v.Inside(at, s, nil)
		is, err2 := v.Inside(at, s, prove.Faults(u.Car.hidden, s))
		if err != nil || err2 != nil || math.Abs(should-is) < 3 {
			continue
		}
		for _, c := range prove.Codes() {
			if c.About(v.Drives[at]) {
				out[c.Code] = true
				break
			}
		}
	}
	return out
}

// failed and confirmed are bits of a code's status, ISO 14229-1.
const failed, confirmed = 0x01, 0x08

// codes answers read codes by status mask.
func (u *Unit) codes(mask byte) []byte {
	now := u.found()
	u.mu.Lock()
	defer u.mu.Unlock()
	for code := range u.stored {
		u.stored[code] &^= failed
	}
	for code := range now {
		u.stored[code] = failed | confirmed
	}
	all := make([]string, 0, len(u.stored))
	for code := range u.stored {
		all = append(all, code)
	}
	slices.Sort(all)
	out := []byte{0x59, 2, failed | confirmed}
	for _, code := range all {
		if st := u.stored[code]; st&mask != 0 {
			high, low := prove.CodeBytes(code)
			out = append(out, high, low, 0, st)
		}
	}
	return out
}

// clear forgets every code; what is still there comes again.
func (u *Unit) clear() {
	u.mu.Lock()
	defer u.mu.Unlock()
	clear(u.stored)
}
