package proveapi

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/prove"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/server/desk"
)

// mostReadings bounds the readings that a diagnosis goes by: the latest.
const mostReadings = 40

// setReading keeps what a meter showed, or takes it back.
func (s *API) setReading(c *gin.Context) error {
	r, err := desk.Read[ReadingProvedRequest](c)
	if err != nil {
		return err
	}
	b, err := s.asked(c, r.Simulated)
	if err != nil {
		return err
	}
	if r.Out != "" && b != nil {
		b.keep(r.Out, nil)
		return s.simulated(c)
	}
	if r.Out != "" {
		return s.Apply(
			c,
			desk.Change{
				ID:     r.ID,
				What:   "proved-back",
				Seen:   r.Seen,
				Bodies: desk.Dropping(prove.MeterReading{Measure: prove.Measure{ID: r.Out}}),
			},
		)
	}
	x := r.Reading
	x.ID = x.Measure.Key()
	x.Who, x.When = desk.Who(c), s.Now().UTC().UnixMilli()
	if err := desk.Unsound(&x, "/reading"); err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		p, done := vehicleOf(j)
		defer done()
		if p.err != nil {
			return desk.Refusal(http.StatusUnprocessableEntity, "nothing-said", desk.Sentence(p.err.Error()), "")
		}
		read, mended := readingsOf(j, b)
		x = x.Again(prove.Since(read, mended))
		if _, err := p.vehicle.Expect(&x.Measure); err != nil {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-point", desk.Sentence(err.Error()), "/reading")
		}
		if b != nil {
			b.keep(x.ID, &x)
			return s.simulated(c)
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "proved", Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(x)})
	})
}

// askMeter reads a meter at an address.
func (s *API) askMeter(c *gin.Context) error {
	r, err := desk.Read[MeterRequest](c)
	if err != nil {
		return err
	}
	b := s.bench.of(c.Param("job"), s.Now())
	switch its := b != nil && b.at.Meter == strings.TrimSpace(r.Address); {
	case its && !r.Simulated:
		return desk.Refusal(http.StatusConflict, "simulated", "That is the meter of the simulated vehicle: it reads "+
			"nothing of "+
			"the real one. Read it where the simulated vehicle is shown.", "/address")
	case r.Simulated && b != nil && !its:
		return desk.Refusal(http.StatusConflict, "not-simulated", "That is not the meter of the simulated vehicle, which is "+
			"shown here: go back to the real one to read it.", "/address")
	case its:
		b.car.Put(r.Measure.Setup) // the key of the simulated vehicle is turned as the line says
	}
	at, err := s.callable(b, exchange.AMeter, r.Address)
	if err != nil {
		return err
	}
	x, err := exchange.ReadMeter(c.Request.Context(), at, &r.Measure)
	if err != nil {
		return desk.DeviceFailed("no-meter", err)
	}
	c.JSON(http.StatusOK, x)
	return nil
}

// passGate passes a gate of powering up, or opens it again with all that come after it.
func (s *API) passGate(c *gin.Context) error {
	r, err := desk.Read[GateRequest](c)
	if err != nil {
		return err
	}
	x := prove.Passed{Gate: r.Gate, Value: r.Value, Reason: strings.TrimSpace(r.Reason), Who: desk.Who(c),
		When: s.Now().UTC().UnixMilli()}
	if r.Back {
		bodies := map[string]any{}
		after := false
		for _, g := range prove.Gates() {
			if after = after || g.ID == r.Gate; after {
				bodies[stored.SubjectOf(prove.Passed{Gate: g.ID})] = nil
			}
		}
		if len(bodies) == 0 {
			return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such gate.", "/gate")
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "gate-back", Seen: r.Seen, Bodies: bodies})
	}
	if err := desk.Unsound(&x, "/value"); err != nil {
		return err
	}
	if r.Simulated {
		return desk.Refusal(http.StatusConflict, "simulated", "This is the simulated vehicle: no gate of the real one is "+
			"passed "+
			"by it.", "/gate")
	}
	return s.Checked(c, func(j *desk.Computed) error {
		p, done := vehicleOf(j)
		held := ""
		if p.err != nil {
			held = p.err.Error()
		}
		standing := map[string]prove.Standing{}
		if p.err == nil {
			standing = standingOf(j, p)
		}
		done()
		for _, g := range prove.PowerUp(j.Job.Gates, standing, j.Plan().TwiceChecked(j.Job.Checks), j.Job.Program == nil ||
			j.Job.Program.Done) {
			if g.ID == r.Gate && held == "" {
				held = g.Held
			}
		}
		if held != "" && x.Reason == "" {
			return desk.Refusal(http.StatusConflict, "gate-held", desk.Sentence(held), "/gate")
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "gate", Reason: x.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(x)})
	})
}
