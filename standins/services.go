package standins

import (
	"encoding/binary"
	"math"
	"slices"

	"draxel/core/prove"
)

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

// found looks at the outputs: one whose load is not there, or whose line is on ground, has other volts than it
// should. Low volts at the feeds are a code of their own.
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
