package exchange

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"net"
	"strconv"
	"strings"
	"time"

	"draxel/core/prove"
)

// rigLine bounds a line that a bench rig answers with.
const rigLine = 64 << 10

// Lit is an indicator of a bench rig.
type Lit struct {
	Output string `json:"output"`
	On     bool   `json:"on"`
}

// WithRig calls a bench rig, for at most three seconds.
func WithRig(ctx context.Context, address Address, ask func(*Rig) error) error {
	ctx, cancel := context.WithTimeout(ctx, meterTime)
	defer cancel()
	c, err := address.dial(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = c.Close() }()
	deadline, _ := ctx.Deadline()
	_ = c.SetDeadline(deadline)
	return ask(&Rig{c, bufio.NewReaderSize(c, rigLine), address})
}

// Rig is a bench rig: an indicator on each output, and a toothed wheel that can be turned.
type Rig struct {
	c       net.Conn
	in      *bufio.Reader
	address Address
}

// ask sends a line and reads what is answered.
func (r *Rig) ask(line string) (string, error) {
	if _, err := fmt.Fprintln(r.c, line); err != nil {
		return "", fmt.Errorf("the rig at %s closed the connection", r.address)
	}
	answer, err := r.in.ReadSlice('\n')
	var late net.Error
	switch {
	case errors.Is(err, bufio.ErrBufferFull):
		return "", fmt.Errorf("what answers at %s is no bench rig: it sends without end", r.address)
	case errors.As(err, &late) && late.Timeout():
		return "", fmt.Errorf("the rig at %s says nothing within %.0f s", r.address, meterTime.Seconds())
	case err != nil:
		return "", fmt.Errorf("the rig at %s closed the connection", r.address)
	}
	return strings.TrimSpace(string(answer)), nil
}

// Indicators reads every indicator.
func (r *Rig) Indicators() ([]Lit, error) {
	list, err := r.ask("IND:LIST?")
	if err != nil {
		return nil, err
	}
	out := []Lit{}
	for _, at := range strings.Split(list, ",") {
		if at == "" {
			continue
		}
		if len(out) == 200 || len(at) > 80 {
			return nil, fmt.Errorf("what answers at %s is no bench rig: it has indicators without end", r.address)
		}
		on, err := r.ask("IND? " + at)
		if err != nil {
			return nil, err
		}
		if on != "0" && on != "1" {
			return nil, fmt.Errorf("what answers at %s is no bench rig: it names something that is no indicator", r.address)
		}
		out = append(out, Lit{at, on == "1"})
	}
	return out, nil
}

// Turn turns the wheel and gives the edges that it makes, in s, for as long as two and a half turns take.
func (r *Rig) Turn(w prove.Wheel) ([]float64, error) {
	seconds := min(2.5*60/w.RPM, 2)
	text := fmt.Sprintf("WHE:TEETH %d;WHE:MISS %d;WHE:RPM %g;WHE:EDGE? %.3f", w.Teeth, w.Missing, w.RPM, seconds)
	answer, err := r.ask(text)
	if err != nil {
		return nil, err
	}
	var out []float64
	for _, x := range strings.Split(answer, ",") {
		ms, err := strconv.ParseFloat(x, 64)
		if err != nil || ms < 0 || ms > float64(10*time.Second/time.Millisecond) {
			return nil, fmt.Errorf("what answers at %s is no bench rig: it gives something that is no time", r.address)
		}
		out = append(out, ms/1000)
	}
	return out, nil
}
