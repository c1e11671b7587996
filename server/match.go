package server

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"sync"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/wanted"
	"draxel/store"
)

func (s *Server) showMatch(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	m := j.plan().Match
	v := MatchView{Revision: j.Revision, From: j.facts.From, To: j.facts.To, Meetings: j.facts.Meetings,
		Vehicle: j.facts.Vehicle, Ways: j.plan().Ways, Joints: j.plan().Join.Joints, NewWires: j.plan().Join.Wires,
		Points: j.points(), Lines: m.Lines, Wants: m.Wants,
		Totals: j.plan().Totals, Findings: j.plan().Findings, Decisions: j.Job.Decisions,
		FromFaces: facesOf(j.facts.From.Connectors), ToFaces: facesOf(j.facts.To.Connectors)}
	for _, p := range []*harness.Pinout{&v.From, &v.To} {
		if p.Rows == nil {
			p.Rows, p.Connectors = []harness.Row{}, []harness.Connector{}
		}
	}
	if !j.Job.Kind.MovesTerminals() { // there a cavity that nothing serves gets a new wire by itself
		v.Unserved = v.Totals.NeedsWire
	}
	if v.Findings == nil {
		v.Findings = []finding.Finding{}
	}
	if v.Decisions == nil {
		v.Decisions = []match.Decision{}
	}
	c.JSON(http.StatusOK, v)
	return nil
}

func (s *Server) showEvidence(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	v := EvidenceView{From: harness.Ref{Connector: c.Query("fromConnector"), Cavity: c.Query("fromCavity")}, To: harness.Ref{Connector: c.Query("toConnector"), Cavity: c.Query("toCavity")}}
	if v.Reasons, err = j.begun().Match.Evidence(v.From, v.To); err != nil {
		return problem(http.StatusNotFound, "no-such-row", sentence(err.Error()), "")
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// points lists where a new wire can begin beside the cavities of both pinouts: splices, fuses and ground points.
func (j *computed) points() []string {
	out := []string{}
	loom := &j.facts.Laid.Loom
	for i := range loom.Splices {
		out = append(out, "splice "+loom.Splices[i].ID)
	}
	kinds := map[string]harness.DeviceKind{}
	for i := range loom.Devices {
		kinds[loom.Devices[i].ID] = loom.Devices[i].Kind
	}
	for i := range loom.Connectors {
		if k := kinds[loom.Connectors[i].Device]; k == harness.Fuses || k == harness.Grounds {
			for _, n := range loom.Connectors[i].Cavities {
				out = append(out, harness.Ref{Connector: loom.Connectors[i].ID, Cavity: n}.String())
			}
		}
	}
	return out
}

// meet keeps how To connectors are met.
func (s *Server) meet(c *gin.Context) error {
	r, err := read[MeetRequest](c)
	if err == nil && !slices.Contains([]match.Side{"", match.From, match.To}, r.Vehicle) {
		err = problem(http.StatusUnprocessableEntity, "no-side", "The vehicle's own wiring is on one of the two sides.",
			"/vehicle")
	}
	if err != nil {
		return err
	}
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	if bad := r.Met.Check(j.facts.From, j.facts.To); bad != nil {
		return problem(http.StatusUnprocessableEntity, "cannot-meet", sentence(bad.Error()), "/met")
	}
	var vehicle any
	if r.Vehicle != "" && r.Vehicle != j.Job.Kind.Vehicle() {
		vehicle = r.Vehicle
	}
	return s.apply(c, change{id: r.ID, what: "housings", seen: r.Seen, bodies: map[string]any{store.SubjectMet: r.Met,
		store.SubjectVehicle: vehicle}})
}

// decide carries out a person's action on one row. What must never happen is refused: a cavity that is taken, a pair
// that a danger rule forbids.
func (s *Server) decide(c *gin.Context) error {
	r, err := read[DecideRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		d, err := decision(j, r)
		if err != nil {
			return err
		}
		var body any
		if d.Choice != match.Open || len(d.Rejected) > 0 {
			d.Who, d.When = who(c), s.now().UTC().UnixMilli()
			body = d
		}
		return s.apply(c, change{id: r.ID, what: string(r.Action), reason: r.Reason, seen: r.Seen, base: j.Revision,
			bodies: map[string]any{store.SubjectDecision(r.Side, r.At): body}})
	})
}

// checked does something to a job that was checked against its state, anew when the job has moved on in between: two
// people may want the same cavity at the same moment.
func (s *Server) checked(c *gin.Context, do func(*computed) error) error {
	if _, err := s.store.Revision(c.Request.Context(), c.Param("job")); err != nil {
		return err // nothing is kept for a job that there is not
	}
	defer s.turn(c.Param("job"))()
	for range mostTries {
		j, err := s.compute(c.Request.Context(), c.Param("job"))
		if err != nil {
			return err
		}
		if err = do(j); !errors.Is(err, store.ErrMoved) {
			return err
		}
	}
	return problem(http.StatusTooManyRequests, "moved",
		"Others change this job faster than this could be checked. Nothing was "+
			"changed: repeat it.", "")
}

// mostTries bounds how often a change is checked anew because the job has moved on meanwhile.
const mostTries = 20

// turn waits for a job to be free of other changes that have to be checked against it, and gives what lets the next
// have its turn. They come in their order, so that each is checked once and none starves.
func (s *Server) turn(job string) (done func()) {
	v, _ := s.turns.LoadOrStore(job, &sync.Mutex{})
	mu, is := v.(*sync.Mutex)
	if !is {
		return func() {}
	}
	mu.Lock()
	return mu.Unlock
}

// decision gives the decision that the action makes of what was decided before.
func decision(j *computed, r DecideRequest) (match.Decision, error) {
	d := match.Decision{Side: r.Side, At: r.At, Reason: r.Reason}
	var old match.Decision
	if i := slices.IndexFunc(j.Job.Decisions, func(d match.Decision) bool { return d.Side == r.Side && d.At == r.At }); i >= 0 {
		old = j.Job.Decisions[i]
		d.Rejected = slices.Clone(old.Rejected)
	}
	row, ok := j.facts.From.Row(r.At)
	if r.Side == match.To {
		row, ok = j.facts.To.Row(r.At)
	}
	if !ok {
		return d, problem(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("There is no row for %s.", r.At), "/at")
	}
	if aboutTo := r.Action == Empty || r.Action == BranchOf || r.Action == WireFrom; (r.Side == match.To) != aboutTo &&
		r.Action != Reopen {
		return d, problem(http.StatusUnprocessableEntity, "wrong-side", "That cannot be decided about this side.", "/action")
	}
	switch r.Action {
	case Accept:
		d.Choice, d.To, d.Way = match.Matched, r.To, r.Way
		d.Rejected = slices.DeleteFunc(d.Rejected, func(to harness.Ref) bool { return to == r.To })
		d.Sure = j.sure(&old, r.At, r.To)
		return d, checkPair(j, row, r.To)
	case Reject:
		if _, ok := j.facts.To.Row(r.To); !ok {
			return d, problem(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("There is no row for %s.", r.To), "/to")
		}
		if !slices.Contains(d.Rejected, r.To) {
			d.Rejected = append(d.Rejected, r.To)
		}
	case GoesAs:
		d.Choice = match.Gone
	case Source:
		if !slices.Contains(match.Sources(), r.Source) {
			return d, problem(http.StatusUnprocessableEntity, "no-source", "Say what it is fed from: battery, ignition, ground or switch.", "/source")
		}
		d.Choice, d.Source, d.Origin = match.Sourced, r.Source, r.Origin
		return d, checkOrigin(j, row, r.Origin)
	case WireFrom:
		if r.Origin == nil {
			return d, problem(http.StatusUnprocessableEntity, "no-origin", "Say where the new wire begins, or who sees to "+
				"it.", "/origin")
		}
		d.Choice, d.Origin = match.Wired, r.Origin
		return d, checkOrigin(j, row, r.Origin)
	case ByWay:
		i := slices.IndexFunc(j.plan().Ways, func(w wanted.Way) bool { return w.From == r.At })
		if i < 0 || !slices.Contains(j.plan().Ways[i].Choices, r.Way) {
			return d, problem(http.StatusUnprocessableEntity, "no-such-way", "The wire cannot come to its counterpart in "+
				"that way.", "/way")
		}
		d.Choice, d.To, d.Way = match.Matched, j.plan().Ways[i].To, r.Way
		d.Sure = j.sure(&old, r.At, d.To)
		return d, checkPair(j, row, d.To)
	case JoinTo:
		d.Choice, d.To = match.Joined, r.To
		return d, checkJoint(j, row, r.To, match.To)
	case BranchOf:
		d.Choice, d.Of = match.Branch, r.To
		return d, checkJoint(j, row, r.To, match.From)
	case Empty:
		if r.Reason == "" {
			return d, problem(http.StatusUnprocessableEntity, "no-reason", "Give the reason why this cavity stays empty.", "/reason")
		}
		d.Choice = match.Vacant
	case Reopen:
		d.Rejected = nil
	default:
		return d, problem(http.StatusUnprocessableEntity, "no-action", "There is no such action.", "/action")
	}
	return d, nil
}

// sure gives how likely a pair is that is accepted now: as it was noted where it was accepted before, else by what
// speaks for it, with nothing decided about its row.
func (j *computed) sure(old *match.Decision, from, to harness.Ref) float64 {
	if old.Choice == match.Matched && old.To == to && old.Verify == "" {
		return old.Sure
	}
	if p, open := j.begun().Match.Chance(from, to); open {
		return p
	}
	others := slices.DeleteFunc(slices.Clone(j.Job.Decisions),
		func(d match.Decision) bool { return d.Side == match.From && d.At == from })
	p, _ := match.Crosswalk(j.facts.From, j.facts.To, j.facts.Meetings, others).Chance(from, to)
	return p
}

// checkPair refuses a match that must not be.
func checkPair(j *computed, from harness.Row, to harness.Ref) error {
	row, ok := j.facts.To.Row(to)
	if !ok || row.Empty {
		return problem(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("No wire is wanted in %s.", to), "/to")
	}
	if why, vetoed := match.Veto(from.Signal, row.Signal); vetoed {
		return problem(http.StatusUnprocessableEntity, "vetoed", fmt.Sprintf("%s and %s must not be joined: %s.", from.Ref, to, why), "/to")
	}
	for _, d := range j.Job.Decisions {
		if d.Choice == match.Matched && d.To == to && d.At != from.Ref {
			return problem(http.StatusConflict, "cavity-taken", fmt.Sprintf("%s is already taken by %s. Reopen that first.", to, d.At), "/to")
		}
		if d.Choice == match.Vacant && d.At == to {
			return problem(http.StatusConflict, "cavity-taken", fmt.Sprintf("%s is left empty on purpose. Reopen that first.", to), "/to")
		}
	}
	return nil
}

// checkJoint refuses a joint with the wire of a cavity of the other side that must not be.
func checkJoint(j *computed, row harness.Row, with harness.Ref, side match.Side) error {
	other, ok := j.facts.From.Row(with)
	if side == match.To {
		other, ok = j.facts.To.Row(with)
	}
	if !ok || other.Empty {
		return problem(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("There is no wire in %s to join to.", with), "/to")
	}
	if why, never := match.NeverJoin(row.Signal, other.Signal); never {
		return problem(http.StatusUnprocessableEntity, "vetoed", fmt.Sprintf("%s and %s must not share a wire: %s.", row.Ref, with, why), "/to")
	}
	return nil
}

// checkOrigin refuses what a new wire must not begin at.
func checkOrigin(j *computed, row harness.Row, o *match.Origin) error {
	if o == nil {
		return nil
	}
	if err := o.Check(); err != nil {
		return problem(http.StatusUnprocessableEntity, "no-origin", sentence(err.Error()), "/origin")
	}
	if o.Kind != match.AtCavity {
		return nil
	}
	if o.At == row.Ref {
		return problem(http.StatusUnprocessableEntity, "no-origin", "It cannot begin where it ends.", "/origin/at")
	}
	if !j.hasCavity(o.At) {
		return problem(http.StatusUnprocessableEntity, "no-cavity", fmt.Sprintf("There is no cavity %s.", o.At), "/origin/at")
	}
	other, ok := j.facts.From.Row(o.At)
	if !ok {
		other, ok = j.facts.To.Row(o.At)
	}
	if why, never := match.NeverJoin(row.Signal, other.Signal); ok && !other.Empty && never {
		return problem(http.StatusUnprocessableEntity, "vetoed", fmt.Sprintf("%s and %s must not share a wire: %s.",
			row.Ref, o.At, why), "/origin/at")
	}
	return nil
}

// hasCavity says whether a connector of the harness or of the finished one has that cavity.
func (j *computed) hasCavity(at harness.Ref) bool {
	for i := range j.facts.Laid.Loom.Connectors {
		if c := &j.facts.Laid.Loom.Connectors[i]; c.ID == at.Connector {
			return c.Has(at.Cavity)
		}
	}
	return slices.ContainsFunc(j.plan().Housings,
		func(c harness.Connector) bool { return c.ID == at.Connector && c.Has(at.Cavity) })
}

// acceptAbove accepts every open match that is at least so certain, as one change; what was brought from an earlier
// job is verified one by one.
func (s *Server) acceptAbove(c *gin.Context) error {
	r, err := read[AcceptRequest](c)
	if err == nil && (r.Above < match.Offered || r.Above > 1) {
		err = problem(http.StatusUnprocessableEntity, "bad-certainty", "Choose a certainty from 50 to 100 %.", "/above")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		bodies := map[string]any{}
		for _, l := range j.begun().Match.Lines {
			if l.Decided || !l.Feeds() || l.P < r.Above || l.Verify != "" {
				continue
			}
			d, err := decision(j, DecideRequest{Side: match.From, At: l.From, Action: Accept, To: l.To})
			if err != nil {
				continue // offered, and yet it must not be: left to be decided one by one
			}
			d.Who, d.When = who(c), s.now().UTC().UnixMilli()
			bodies[store.SubjectDecision(match.From, l.From)] = d
		}
		if len(bodies) == 0 {
			c.JSON(http.StatusOK, Done{Job: j.ID, Revision: j.Revision})
			return nil
		}
		return s.apply(c, change{id: r.ID, what: "accept", reason: fmt.Sprintf("all from %.0f %%", 100*r.Above), seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}
