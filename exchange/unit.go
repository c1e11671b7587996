package exchange

import (
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"net"
	"os"
	"slices"
	"strings"
	"time"

	"draxel/core/prove"
)

// The limits of a talk with a unit: for one answer, for all of it, for a unit that asks for time; how long a message
// may be, and how many that nobody asked for are listened to.
const (
	unitAnswer  = 2 * time.Second
	unitTime    = 12 * time.Second
	unitMessage = 4096
	unitStray   = 64
	tester      = 0x0E00 // the address of a tester, ISO 13400-2
)

// UnitLine is a line to a control unit that speaks ISO 14229-1 over ISO 13400-2, both from memory.
type UnitLine struct {
	c       net.Conn
	ctx     context.Context //nolint:containedctx // the line lives as long as one question of a page
	address Address
	unit    uint16
}

// OpenUnit calls a unit and has the line activated.
func OpenUnit(ctx context.Context, address Address) (*UnitLine, error) {
	c, err := address.dial(ctx)
	if err != nil {
		return nil, err
	}
	l := &UnitLine{c: c, ctx: ctx, address: address}
	hello := binary.BigEndian.AppendUint16(nil, tester)
	if err := l.send(0x0005, append(hello, 0, 0, 0, 0, 0)); err != nil {
		l.Close()
		return nil, err
	}
	kind, body, err := l.next(time.Now().Add(unitAnswer))
	if err == nil && (kind != 0x0006 || len(body) < 9) {
		err = fmt.Errorf("what answers at %s is no control unit: it does not activate the line", l.address)
	}
	if err == nil && body[4] != 0x10 {
		err = fmt.Errorf("the unit at %s does not let a tester in (ISO 13400-2, code %02X)", l.address, body[4])
	}
	if err != nil {
		l.Close()
		return nil, err
	}
	l.unit = binary.BigEndian.Uint16(body[2:])
	return l, nil
}

// Close closes the line. A unit whose outputs were driven takes them back.
func (l *UnitLine) Close() { _ = l.c.Close() }

// send sends a message of ISO 13400-2.
func (l *UnitLine) send(kind uint16, body []byte) error {
	out := binary.BigEndian.AppendUint16([]byte{2, 0xFD}, kind)
	out = append(binary.BigEndian.AppendUint32(out, uint32(len(body))), body...)
	_ = l.c.SetWriteDeadline(time.Now().Add(unitAnswer))
	if _, err := l.c.Write(out); err != nil {
		return fmt.Errorf("the unit at %s closed the line", l.address)
	}
	return nil
}

// next gives the next message, until a time.
func (l *UnitLine) next(until time.Time) (kind uint16, body []byte, err error) {
	if at, has := l.ctx.Deadline(); has && at.Before(until) {
		until = at
	}
	stop := context.AfterFunc(l.ctx, func() { _ = l.c.SetReadDeadline(time.Unix(1, 0)) })
	defer stop()
	_ = l.c.SetReadDeadline(until)
	head := make([]byte, 8)
	if _, err := io.ReadFull(l.c, head); err != nil {
		return 0, nil, l.told(err)
	}
	size := binary.BigEndian.Uint32(head[4:])
	switch {
	case head[0]^head[1] != 0xFF:
		return 0, nil, fmt.Errorf("what answers at %s is no control unit: it does not speak ISO 13400-2", l.address)
	case size > unitMessage:
		return 0, nil, fmt.Errorf(
			"the unit at %s sends a message of %d bytes: no more than %d are taken",
			l.address,
			size,
			unitMessage,
		)
	}
	body = make([]byte, size)
	if _, err := io.ReadFull(l.c, body); err != nil {
		return 0, nil, l.told(err)
	}
	return binary.BigEndian.Uint16(head[2:]), body, nil
}

// told says in plain words why nothing came.
func (l *UnitLine) told(err error) error {
	if errors.Is(err, os.ErrDeadlineExceeded) {
		return fmt.Errorf("the unit at %s says nothing: is it fed, and the key in run?", l.address)
	}
	return fmt.Errorf("the unit at %s closed the line: is it fed, and the key in run?", l.address)
}

// refusals are the negative responses of ISO 14229-1, from memory, in words.
var refusals = map[byte]string{
	0x10: "it refuses",
	0x11: "it does not have this service",
	0x12: "it does not have this of the service",
	0x13: "the length of the request is wrong",
	0x22: "the conditions are not right for it",
	0x31: "it does not know this identifier, or not this value",
	0x33: "it wants to be unlocked first",
}

// ask sends a request of ISO 14229-1 and gives the answer without its first byte. A unit that asks for time gets it,
// within bounds; what else it says meanwhile is passed over.
func (l *UnitLine) ask(request ...byte) ([]byte, error) {
	body := binary.BigEndian.AppendUint16(nil, tester)
	body = append(binary.BigEndian.AppendUint16(body, l.unit), request...)
	if err := l.send(0x8001, body); err != nil {
		return nil, err
	}
	until := time.Now().Add(unitAnswer)
	for range unitStray {
		kind, body, err := l.next(until)
		if err != nil {
			return nil, err
		}
		switch kind {
		case 0x0007: // it asks whether anybody is there
			if err := l.send(0x0008, binary.BigEndian.AppendUint16(nil, tester)); err != nil {
				return nil, err
			}
			continue
		case 0x0000, 0x8003:
			code := byte(0)
			if len(body) > 0 {
				code = body[len(body)-1]
			}
			return nil, fmt.Errorf("the unit at %s refuses the message (ISO 13400-2, code %02X)", l.address, code)
		case 0x8001:
		default:
			continue
		}
		if len(body) < 5 || binary.BigEndian.Uint16(body) != l.unit {
			continue
		}
		answer := body[4:]
		switch {
		case answer[0] == request[0]+0x40:
			return answer[1:], nil
		case answer[0] != 0x7F || len(answer) < 3 || answer[1] != request[0]:
			continue
		case answer[2] == 0x78: // it needs time
			until = time.Now().Add(unitAnswer)
			continue
		}
		why := refusals[answer[2]]
		if why == "" {
			why = fmt.Sprintf("code %02X", answer[2])
		}
		return nil, fmt.Errorf("the unit at %s says no: %s (ISO 14229-1)", l.address, why)
	}
	return nil, fmt.Errorf("the unit at %s sends without end and does not answer", l.address)
}

// UnitIdentity is what a unit says of itself.
type UnitIdentity struct {
	What string `json:"what"`
	ID   string `json:"id"`
	Says string `json:"says"`
}

// identities are the identifiers of ISO 14229-1, from memory, that are asked for.
var identities = []struct {
	id   uint16
	what string
}{{0xF191, "hardware number"}, {0xF187, "part number"}, {0xF190, "vehicle number"}, {0xF189, "software version"}}

// Identity asks a unit who it is. What it does not know it is not asked for again.
func (l *UnitLine) Identity() ([]UnitIdentity, error) {
	out := []UnitIdentity{}
	for _, x := range identities {
		answer, err := l.ask(0x22, byte(x.id>>8), byte(x.id))
		if err != nil {
			if strings.Contains(err.Error(), "says no") {
				continue
			}
			return out, err
		}
		if len(answer) < 2 || binary.BigEndian.Uint16(answer) != x.id {
			return out, fmt.Errorf("the unit at %s answers something else than it was asked", l.address)
		}
		says := strings.Map(func(r rune) rune {
			if r < 32 || r > 126 {
				return -1
			}
			return r
		}, string(answer[2:min(len(answer), 66)]))
		out = append(out, UnitIdentity{What: x.what, ID: fmt.Sprintf("%04X", x.id), Says: says})
	}
	return out, nil
}

// FaultCode is a code that a unit has stored.
type FaultCode struct {
	Code   string `json:"code"`
	Now    bool   `json:"now"` // the test fails now; else it was stored before
	Status byte   `json:"status"`
}

// Codes reads the codes of a unit: those that fail now, and those that are confirmed.
func (l *UnitLine) Codes() ([]FaultCode, error) {
	answer, err := l.ask(0x19, 0x02, 0x09)
	if err != nil {
		return nil, err
	}
	if len(answer) < 2 || answer[0] != 2 || (len(answer)-2)%4 != 0 {
		return nil, fmt.Errorf("the unit at %s answers with codes that cannot be read", l.address)
	}
	out := []FaultCode{}
	for b := range slices.Chunk(answer[2:], 4) {
		out = append(out, FaultCode{prove.CodeOf(b[0], b[1]), b[3]&1 != 0, b[3]})
	}
	return out, nil
}

// Clear has the unit forget its codes.
func (l *UnitLine) Clear() error {
	_, err := l.ask(0x14, 0xFF, 0xFF, 0xFF)
	return err
}

// Read reads a value.
func (l *UnitLine) Read(v *prove.Value) (float64, error) {
	id := v.Number()
	answer, err := l.ask(0x22, byte(id>>8), byte(id))
	if err != nil {
		return 0, err
	}
	if len(answer) < 2 || binary.BigEndian.Uint16(answer) != id {
		return 0, fmt.Errorf("the unit at %s answers something else than it was asked", l.address)
	}
	return v.Of(answer[2:])
}

// MostDriven is for how long an output is worked at most.
const MostDriven = 5 * time.Second

// Drive has the unit work one output for a time, calls during while it does, and gives the output back, whatever
// happens: the unit takes it back by itself when the line is closed.
func (l *UnitLine) Drive(v *prove.Value, d time.Duration, during func() error) error {
	if _, err := l.ask(0x10, 0x03); err != nil {
		return err
	}
	id := v.Number()
	if _, err := l.ask(0x2F, byte(id>>8), byte(id), 0x03, 0x01); err != nil {
		return err
	}
	err := during()
	left := time.NewTimer(min(d, MostDriven))
	defer left.Stop()
	present := time.NewTicker(time.Second)
	defer present.Stop()
	for on := err == nil; on; {
		select {
		case <-left.C:
			on = false
		case <-l.ctx.Done():
			on, err = false, fmt.Errorf("broken off: the output is given back")
		case <-present.C:
			if _, e := l.ask(0x3E, 0x00); e != nil {
				on, err = false, e
			}
		}
	}
	if _, e := l.ask(0x2F, byte(id>>8), byte(id), 0x00); e != nil && err == nil {
		err = fmt.Errorf("%s is not given back by the unit's answer, and is by closing the line: %w", v.Drives, e)
	}
	return err
}

// WithUnit opens a line to a unit, and closes it when the questions are asked or twelve seconds are over.
func WithUnit(ctx context.Context, address Address, ask func(*UnitLine) error) error {
	ctx, cancel := context.WithTimeout(ctx, unitTime)
	defer cancel()
	l, err := OpenUnit(ctx, address)
	if err != nil {
		return err
	}
	defer l.Close()
	return ask(l)
}
