package proveapi

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net"
	"net/http"
	"net/netip"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/prove"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/standins"
)

// callable gives where a device is called at what somebody typed: where that was allowed when Draxel was started, or
// where a stand-in of the job's simulated vehicle answers. What is not allowed is refused.
func (s *API) callable(b *bench, what exchange.Instrument, typed string) (exchange.Address, error) {
	allowed := exchange.Instruments{Hosts: s.Instruments}
	if b != nil {
		for _, own := range []string{b.at.Meter, b.at.Unit, b.at.Rig} {
			if at, err := netip.ParseAddrPort(own); err == nil {
				allowed.Own = append(allowed.Own, at)
			}
		}
	}
	return allowed.At(what, typed)
}

// asked gives the simulated vehicle of a request that means it: nil for a request that means the real one, whether a
// simulated one runs or not, and a refusal where none runs any more.
func (s *API) asked(c *gin.Context, simulated bool) (*bench, error) {
	b := s.bench.of(c.Param("job"), s.Now())
	switch {
	case !simulated:
		return nil, nil
	case b == nil:
		return nil, desk.Refusal(http.StatusConflict, "no-simulation",
			"The simulated vehicle does not run any more: nothing was "+
				"kept of that.", "/simulated")
	}
	return b, nil
}

// simulated answers a change of what was read at a simulated vehicle: the job is as it was.
func (s *API) simulated(c *gin.Context) error {
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, desk.Done{Job: c.Param("job"), Revision: j.Revision})
	return nil
}

// runStandin starts a simulated vehicle of the job, with a fault of its own where a number is given, or stops it.
func (s *API) runStandin(c *gin.Context) error {
	r, err := desk.Read[StandinRequest](c)
	if err != nil {
		return err
	}
	job := c.Param("job")
	j, err := s.Compute(c.Request.Context(), job)
	if err != nil {
		return err
	}
	var car *standins.Car
	if r.On {
		v, err := j.Plan().Vehicle(&j.Facts) // one of its own: it is asked from other places
		if err != nil {
			return desk.Refusal(http.StatusUnprocessableEntity, "nothing-said", desk.Sentence(err.Error()), "")
		}
		car = standins.NewCar(v, standins.Fault(v, r.Seed)...)
	}
	s.bench.of(job, s.Now())
	s.bench.mu.Lock()
	defer s.bench.mu.Unlock()
	if old := s.bench.all[job]; old != nil {
		old.end()
		delete(s.bench.all, job)
	}
	if !r.On {
		c.JSON(http.StatusOK, Benched{})
		return nil
	}
	if len(s.bench.all) >= mostBenches {
		return desk.Refusal(
			http.StatusTooManyRequests,
			"busy",
			"Enough simulated vehicles run already. Stop one of another job.",
			"",
		)
	}
	ctx, end := context.WithCancel(context.Background())
	b := &bench{car: car, end: end, until: s.Now().Add(benchTime), at: Benched{On: true, Hides: r.Seed > 0}}
	meter := &standins.Meter{Car: car, Noise: rand.New(rand.NewPCG(r.Seed, 5025))}
	for _, x := range []struct {
		at    *string
		serve func(context.Context, net.Listener) error
	}{{&b.at.Meter, meter.Serve}, {&b.at.Unit, standins.NewUnit(car, identityOf(j)).Serve},
		{&b.at.Rig, standins.NewRig(car).Serve}} {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			end()
			return fmt.Errorf("start a simulated vehicle: %w", err)
		}
		*x.at = l.Addr().String()
		go func() { _ = x.serve(ctx, l) }()
	}
	if s.bench.all == nil {
		s.bench.all = map[string]*bench{}
	}
	s.bench.all[job] = b
	c.JSON(http.StatusOK, b.at)
	return nil
}

// identityOf gives what the job's unit would say of itself.
func identityOf(j *desk.Computed) map[uint16]string {
	out := map[uint16]string{0xF191: "none said", 0xF190: "none said"}
	if id := j.Job.Identity; id != nil {
		if id.Unit.Hardware != "" {
			out[0xF191] = id.Unit.Hardware
		}
		if id.Unit.Service != "" {
			out[0xF187] = id.Unit.Service
		}
	}
	return out
}

// askUnit asks a control unit at an address: who it is, what it sees, its codes; or has it work one output for a
// moment.
func (s *API) askUnit(c *gin.Context) error {
	r, err := desk.Read[UnitRequest](c)
	if err != nil {
		return err
	}
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	s.bench.of(c.Param("job"), s.Now())
	out := UnitSays{Identity: []exchange.UnitIdentity{}, Codes: []CodeSays{}, Values: []ValueSays{}}
	values := func(u *exchange.UnitLine, all []prove.Value) error {
		for i := range all {
			x, err := u.Read(&all[i])
			if err != nil {
				return err
			}
			out.Values = append(out.Values, ValueSays{all[i].ID, x})
		}
		return nil
	}
	at, err := s.callable(s.bench.of(c.Param("job"), s.Now()), exchange.AUnit, r.Address)
	if err != nil {
		return err
	}
	err = exchange.WithUnit(c.Request.Context(), at, func(u *exchange.UnitLine) error {
		var err error
		switch r.What {
		case "identity":
			out.Identity, err = u.Identity()
		case "values":
			err = values(u, j.Job.Live)
		case "clear":
			if err = u.Clear(); err != nil {
				return err
			}
			out.Codes, err = codesOf(u, j)
		case "codes":
			out.Codes, err = codesOf(u, j)
		case "drive":
			k := slices.IndexFunc(j.Job.Live, func(v prove.Value) bool { return v.ID == r.Value && v.Drives != "" })
			if k < 0 {
				return desk.Refusal(
					http.StatusUnprocessableEntity,
					"no-such-value",
					"No output is worked by that identifier in the list of what the unit can be asked for.",
					"/value",
				)
			}
			v := &j.Job.Live[k]
			err = u.Drive(v, time.Duration(min(max(r.Seconds, 1), 5)*float64(time.Second)), func() error {
				return values(u, j.Job.Live[k:k+1])
			})
		default:
			return desk.Refusal(
				http.StatusUnprocessableEntity,
				"no-action",
				"A unit is asked for its identity, values or codes, to clear them, or to drive an output.",
				"/what",
			)
		}
		return err
	})
	var own *desk.Problem
	if errors.As(err, &own) {
		return own
	}
	if err != nil {
		return desk.DeviceFailed("no-unit", err)
	}
	c.JSON(http.StatusOK, out)
	return nil
}

// codesOf reads a unit's codes with what they say, and which output of this vehicle they are about.
func codesOf(u *exchange.UnitLine, j *desk.Computed) ([]CodeSays, error) {
	codes, err := u.Codes()
	if err != nil {
		return nil, err
	}
	p, done := vehicleOf(j)
	defer done()
	out := []CodeSays{}
	raised := j.Plan().Join.Raised
	for _, x := range codes {
		says := CodeSays{FaultCode: x, Text: prove.CodeText(x.Code)}
		for name, all := range raised {
			if slices.Contains(all, x.Code) {
				says.Gone = name
			}
		}
		if p.err == nil {
			says.Output, says.Device, _ = p.vehicle.OutputOf(x.Code)
		}
		out = append(out, says)
	}
	return out, nil
}

// askRig reads the indicators of a bench rig, and turns its wheel.
func (s *API) askRig(c *gin.Context) error {
	r, err := desk.Read[RigRequest](c)
	if err != nil {
		return err
	}
	if err := r.Wheel.Check(); err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "bad-value", desk.Sentence(err.Error()), "/wheel")
	}
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	s.bench.of(c.Param("job"), s.Now())
	out := RigSays{}
	var edges []float64
	at, err := s.callable(s.bench.of(c.Param("job"), s.Now()), exchange.ARig, r.Address)
	if err != nil {
		return err
	}
	err = exchange.WithRig(c.Request.Context(), at, func(rig *exchange.Rig) error {
		var err error
		if edges, err = rig.Turn(r.Wheel); err == nil {
			out.Lit, err = rig.Indicators()
		}
		return err
	})
	if err != nil {
		return desk.DeviceFailed("no-rig", err)
	}
	out.Edges = len(edges)
	out.RPM, out.Missing, out.Read = prove.Speed(edges, r.Wheel.Teeth)
	if out.Read {
		out.Dial = dialOf(j, out.RPM)
	}
	c.JSON(http.StatusOK, out)
	return nil
}

// dialOf gives what the tachometer must show at a speed of the crank by the sum of Join; 0 where that has none.
func dialOf(j *desk.Computed, rpm float64) float64 {
	items := j.Plan().Join.Functions
	for i := range items {
		if items[i].ID != "tach" || items[i].Sum == nil || items[i].Sum.Chart == nil {
			continue
		}
		if points := items[i].Sum.Chart.Points; len(points) > 1 && points[len(points)-1].True > 0 {
			last := points[len(points)-1]
			return rpm * last.Shown / last.True
		}
	}
	return 0
}

// putLive keeps the list of what the unit can be asked for: as text, or as the simulated unit's papers have it.
func (s *API) putLive(c *gin.Context) error {
	r, err := desk.Read[LiveRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		list, err := prove.ReadValues(r.Text)
		if r.Simulated {
			p, done := vehicleOf(j)
			if err = p.err; err == nil {
				list, _ = standins.ValuesOf(p.vehicle)
			}
			done()
		}
		if err != nil {
			return desk.Refusal(http.StatusUnprocessableEntity, "bad-value", desk.Sentence(err.Error()), "/text")
		}
		return s.Apply(
			c,
			desk.Change{
				ID:     r.ID,
				What:   "live",
				Seen:   r.Seen,
				Base:   j.Revision,
				Bodies: map[string]any{stored.SubjectOf(prove.Values{}): orNil(list)},
			},
		)
	})
}

// orNil gives nothing for an empty list.
func orNil(list prove.Values) any {
	if len(list) == 0 {
		return nil
	}
	return list
}
