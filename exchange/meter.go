package exchange

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"draxel/core/prove"
)

// meterTime bounds how long a meter may take in all, and meterLine how long its answer may be.
const (
	meterTime = 3 * time.Second
	meterLine = 256
	mostShown = 1e9 // what is more is beyond every range
)

// ReadMeter asks a meter for what it shows, by SCPI over TCP. One that hangs, closes, floods or lies fails in plain
// words within three seconds.
func ReadMeter(ctx context.Context, address Address, m *prove.Measure) (prove.Shown, error) {
	ctx, cancel := context.WithTimeout(ctx, meterTime)
	defer cancel()
	c, err := address.dial(ctx)
	if err != nil {
		return prove.Shown{}, err
	}
	defer func() { _ = c.Close() }()
	deadline, _ := ctx.Deadline()
	_ = c.SetDeadline(deadline)
	ask := "MEAS:VOLT:DC?"
	if m.Kind == prove.Ohms {
		ask = "MEAS:RES?"
	}
	// Where the meter has a scanner its probes are put on the points; one without says an error, which is cleared.
	clean := strings.NewReplacer("\n", " ", "\r", " ", ";", " ", "(", " ", ")", " ")
	text := fmt.Sprintf("ROUT:CLOS (@%s,%s)\n*CLS\n%s\n", clean.Replace(m.A), clean.Replace(m.B), ask)
	if _, err := c.Write([]byte(text)); err != nil {
		return prove.Shown{}, fmt.Errorf("the meter at %s closed the connection", address)
	}
	line, err := bufio.NewReaderSize(c, meterLine).ReadSlice('\n')
	switch {
	case errors.Is(err, bufio.ErrBufferFull):
		return prove.Shown{}, fmt.Errorf("what answers at %s is no meter: it sends without end", address)
	case err != nil && ctx.Err() != nil, err != nil && strings.Contains(err.Error(), "timeout"):
		return prove.Shown{}, fmt.Errorf("the meter at %s says nothing within %.0f s", address, meterTime.Seconds())
	case err != nil:
		return prove.Shown{}, fmt.Errorf("the meter at %s closed the connection", address)
	}
	v, err := strconv.ParseFloat(strings.TrimSpace(string(line)), 64)
	if err != nil || v != v {
		return prove.Shown{}, fmt.Errorf("what answers at %s is no meter: what it says is no number", address)
	}
	if v > mostShown || v < -mostShown {
		return prove.Shown{Over: true}, nil
	}
	return prove.Shown{Value: v}, nil
}
