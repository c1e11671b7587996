package proveapi

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/harness"
	"draxel/core/prove"
	"draxel/server/desk"
)

// round gives the vehicle of a job and a round of the trainer in it, held until done is called. Nothing is kept of a
// round: the same level and seed hide the same.
func (s *API) round(
	c *gin.Context,
	level int,
	seed uint64,
) (j *desk.Computed, v *prove.Vehicle, r *prove.Round, done func(), err error) {
	if j, err = s.Compute(c.Request.Context(), c.Param("job")); err != nil {
		return nil, nil, nil, nil, err
	}
	p, free := vehicleOf(j)
	if p.err != nil {
		free()
		return nil, nil, nil, nil, desk.Refusal(
			http.StatusUnprocessableEntity,
			"nothing-said",
			desk.Sentence(p.err.Error()),
			"",
		)
	}
	if p.round == nil || p.round.Level != level || p.round.Seed != seed {
		if p.round, err = p.vehicle.Train(level, seed, rand.New(rand.NewPCG(seed, uint64(level)))); err != nil {
			p.round = nil
			free()
			return nil, nil, nil, nil, desk.Refusal(
				http.StatusUnprocessableEntity,
				"no-round",
				desk.Sentence(err.Error()),
				"/level",
			)
		}
	}
	return j, p.vehicle, p.round, free, nil
}

// trainRound tells what is seen of a fault that is hidden in this very harness.
func (s *API) trainRound(c *gin.Context) error {
	level, err1 := strconv.Atoi(c.Query("level"))
	seed, err2 := strconv.ParseUint(c.Query("seed"), 10, 64)
	if err1 != nil || err2 != nil {
		return desk.Refusal(http.StatusBadRequest, "bad-value", "A round has a level and a number.", "/level")
	}
	j, v, r, done, err := s.round(c, level, seed)
	if err != nil {
		return err
	}
	defer done()
	out := TrainView{
		Levels: prove.Levels(),
		Told:   r.Told,
		How:    r.Told.Setup.String(),
		Many:   len(r.Hidden),
		Lie:    []harness.Ref{},
	}
	out.Text = r.Told.A + " does not work"
	if r.Told.Value == 1 {
		out.Text = r.Told.A + " works, and should not"
	}
	for _, at := range r.Lie {
		if ref, is := j.Facts.Cavity(at); is {
			out.Lie = append(out.Lie, ref)
		}
	}
	out.Points = v.Points()
	c.JSON(http.StatusOK, out)
	return nil
}

// trainRead gives what the meter shows in a round.
func (s *API) trainRead(c *gin.Context) error {
	r, err := desk.Read[TrainRequest](c)
	if err != nil {
		return err
	}
	_, v, round, done, err := s.round(c, r.Level, r.Seed)
	if err != nil {
		return err
	}
	defer done()
	x, err := v.Shows(round, &r.Measure)
	if err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-point", desk.Sentence(err.Error()), "/measure")
	}
	c.JSON(http.StatusOK, x)
	return nil
}

// mostCauses bounds the causes that are offered at once.
const mostCauses = 40

// trainCauses lists what could be wrong, by words.
func (s *API) trainCauses(c *gin.Context, j *desk.Computed) error {
	p, done := vehicleOf(j)
	defer done()
	if p.err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "nothing-said", desk.Sentence(p.err.Error()), "")
	}
	if p.causes == nil {
		for _, x := range p.vehicle.Causes() {
			p.causes = append(p.causes, x.Text)
		}
	}
	words := strings.Fields(strings.ToLower(c.Query("q")))
	out := []string{}
	for _, text := range p.causes {
		low, all := strings.ToLower(text), true
		for _, w := range words {
			all = all && strings.Contains(low, w)
		}
		if all {
			if out = append(out, text); len(out) == mostCauses {
				break
			}
		}
	}
	c.JSON(http.StatusOK, out)
	return nil
}

// trainEnd ends a round: what it was, the way by the best next measurement each time, and the result, which is kept.
func (s *API) trainEnd(c *gin.Context) error {
	r, err := desk.Read[TrainEndRequest](c)
	if err != nil {
		return err
	}
	j, v, round, done, err := s.round(c, r.Level, r.Seed)
	if err != nil {
		return err
	}
	out := TrainEnd{Right: v.Named(round, r.Guesses), Hidden: []string{}, Do: []string{}, Way: []WalkedOn{}}
	for _, h := range round.Hidden {
		out.Hidden, out.Do = append(out.Hidden, h.Text), append(out.Do, h.Do)
	}
	way, reached, err := v.Way(round)
	out.Reached = reached
	for i := range way {
		l := prove.SheetLine{Measure: way[i].Measure}
		out.Way = append(
			out.Way,
			WalkedOn{Text: l.Text(), How: way[i].Setup.String(), Kind: way[i].Kind, Shown: way[i].Shown,
				Why: way[i].Why, At: spots(j, &way[i].Measure)},
		)
	}
	done()
	if err != nil {
		return fmt.Errorf("find the way to what was hidden: %w", err)
	}
	x := prove.Trained{ID: r.ID, Level: r.Level, Seconds: r.Seconds, Took: r.Took, Right: out.Right,
		Hidden: strings.Join(out.Hidden, "; and "), Who: desk.Who(c), When: s.Now().UTC().UnixMilli()}
	if reached {
		x.Best = len(way)
	}
	if err := desk.Unsound(&x, ""); err != nil {
		return err
	}
	d, err := s.Write(
		c,
		desk.Change{
			ID:     r.ID,
			What:   "trained",
			Seen:   r.Seen,
			Base:   j.Revision,
			Bodies: desk.Keeping(x),
		},
	)
	if err != nil {
		return err
	}
	out.Done = d
	c.JSON(http.StatusOK, out)
	return nil
}
