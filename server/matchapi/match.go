package matchapi

import (
	"fmt"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/wanted"
	"draxel/server/desk"
)

func (s *API) showMatch(c *gin.Context, j *desk.Computed) error {
	m := j.Plan().Match
	v := MatchView{Revision: j.Revision, From: j.Facts.From, To: j.Facts.To, Meetings: j.Facts.Meetings,
		Vehicle: j.Facts.Vehicle, Ways: j.Plan().Ways, Joints: j.Plan().Join.Joints, NewWires: j.Plan().Join.Wires,
		Points: pointsOf(j), Lines: m.Lines, Wants: m.Wants,
		Totals: j.Plan().Totals, Findings: j.Plan().Findings, Decisions: j.Job.Decisions,
		FromFaces: desk.FacesOf(j.Facts.From.Connectors), ToFaces: desk.FacesOf(j.Facts.To.Connectors)}
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

func (s *API) showEvidence(c *gin.Context, j *desk.Computed) error {
	v := EvidenceView{From: harness.Ref{Connector: c.Query("fromConnector"), Cavity: c.Query("fromCavity")},
		To: harness.Ref{Connector: c.Query("toConnector"), Cavity: c.Query("toCavity")}}
	reasons, err := j.Begun().Match.Evidence(v.From, v.To)
	if err != nil {
		return desk.Refusal(http.StatusNotFound, "no-such-row", desk.Sentence(err.Error()), "")
	}
	v.Reasons = reasons
	c.JSON(http.StatusOK, v)
	return nil
}

// pointsOf lists where a new wire can begin beside the cavities of both pinouts: splices, fuses and ground points.
func pointsOf(j *desk.Computed) []string {
	out := []string{}
	loom := &j.Facts.Laid.Loom
	for i := range loom.Splices {
		out = append(out, "splice "+loom.Splices[i].ID.Name())
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
func (s *API) meet(c *gin.Context) error {
	r, err := desk.Read[MeetRequest](c)
	if err == nil && !slices.Contains([]match.Side{"", match.From, match.To}, r.Vehicle) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-side", "The vehicle's own wiring is on one of the two sides.",
			"/vehicle")
	}
	if err != nil {
		return err
	}
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	if bad := r.Met.Check(j.Facts.From, j.Facts.To); bad != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "cannot-meet", desk.Sentence(bad.Error()), "/met")
	}
	var vehicle any
	if r.Vehicle != "" && r.Vehicle != j.Job.Kind.Vehicle() {
		vehicle = r.Vehicle
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "housings", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectOf(r.Met): r.Met, stored.SubjectVehicle: vehicle}})
}

// decide carries out a person's action on one row. What must never happen is refused: a cavity that is taken, a pair
// that a danger rule forbids.
func (s *API) decide(c *gin.Context) error {
	r, err := desk.Read[DecideRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		d, err := decision(j, r)
		if err != nil {
			return err
		}
		var body any
		if d.Choice != match.Open || len(d.Rejected) > 0 {
			d.Who, d.When = desk.Who(c), s.Now().UTC().UnixMilli()
			body = d
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: string(r.Action), Reason: r.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(match.Decision{Side: r.Side, At: r.At}): body}})
	})
}

// decision gives the decision that the action makes of what was decided before.
func decision(j *desk.Computed, r DecideRequest) (match.Decision, error) {
	d := match.Decision{Side: r.Side, At: r.At, Reason: r.Reason}
	var old match.Decision
	if i := slices.IndexFunc(j.Job.Decisions, func(d match.Decision) bool {
		return d.Side == r.Side &&
			d.At == r.At
	}); i >= 0 {
		old = j.Job.Decisions[i]
		d.Rejected = slices.Clone(old.Rejected)
	}
	row, ok := j.Facts.From.Row(r.At)
	if r.Side == match.To {
		row, ok = j.Facts.To.Row(r.At)
	}
	if !ok {
		return d, desk.Refusal(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("There is no row for %s.", r.At),
			"/at")
	}
	if aboutTo := r.Action == Empty || r.Action == BranchOf || r.Action == WireFrom; (r.Side == match.To) != aboutTo &&
		r.Action != Reopen {
		return d, desk.Refusal(http.StatusUnprocessableEntity, "wrong-side", "That cannot be decided about this side.",
			"/action")
	}
	switch r.Action {
	case Accept:
		d.Choice, d.To, d.Way = match.Matched, r.To, r.Way
		d.Rejected = slices.DeleteFunc(d.Rejected, func(to harness.Ref) bool { return to == r.To })
		d.Sure = sureOf(j, &old, r.At, r.To)
		return d, checkPair(j, row, r.To)
	case Reject:
		if _, ok := j.Facts.To.Row(r.To); !ok {
			return d, desk.Refusal(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("There is no row for %s.", r.To),
				"/to")
		}
		if !slices.Contains(d.Rejected, r.To) {
			d.Rejected = append(d.Rejected, r.To)
		}
	case GoesAs:
		d.Choice = match.Gone
	case Source:
		if !slices.Contains(match.Sources(), r.Source) {
			return d, desk.Refusal(http.StatusUnprocessableEntity, "no-source",
				"Say what it is fed from: battery, ignition, ground or switch.", "/source")
		}
		d.Choice, d.Source, d.Origin = match.Sourced, r.Source, r.Origin
		return d, checkOrigin(j, row, r.Origin)
	case WireFrom:
		if r.Origin == nil {
			return d, desk.Refusal(http.StatusUnprocessableEntity, "no-origin", "Say where the new wire begins, or who sees to "+
				"it.", "/origin")
		}
		d.Choice, d.Origin = match.Wired, r.Origin
		return d, checkOrigin(j, row, r.Origin)
	case ByWay:
		i := slices.IndexFunc(j.Plan().Ways, func(w wanted.Way) bool { return w.From == r.At })
		if i < 0 || !slices.Contains(j.Plan().Ways[i].Choices, r.Way) {
			return d, desk.Refusal(http.StatusUnprocessableEntity, "no-such-way", "The wire cannot come to its counterpart in "+
				"that way.", "/way")
		}
		d.Choice, d.To, d.Way = match.Matched, j.Plan().Ways[i].To, r.Way
		d.Sure = sureOf(j, &old, r.At, d.To)
		return d, checkPair(j, row, d.To)
	case JoinTo:
		d.Choice, d.To = match.Joined, r.To
		return d, checkJoint(j, row, r.To, match.To)
	case BranchOf:
		d.Choice, d.Of = match.Branch, r.To
		return d, checkJoint(j, row, r.To, match.From)
	case Empty:
		if r.Reason == "" {
			return d, desk.Refusal(http.StatusUnprocessableEntity, "no-reason", "Give the reason why this cavity stays empty.",
				"/reason")
		}
		d.Choice = match.Vacant
	case Reopen:
		d.Rejected = nil
	default:
		return d, desk.Refusal(http.StatusUnprocessableEntity, "no-action", "There is no such action.", "/action")
	}
	return d, nil
}

// sureOf gives how likely a pair is that is accepted now: as it was noted where it was accepted before, else by what
// speaks for it, with nothing decided about its row.
func sureOf(j *desk.Computed, old *match.Decision, from, to harness.Ref) float64 {
	if old.Choice == match.Matched && old.To == to && old.Verify == "" {
		return old.Sure
	}
	if p, open := j.Begun().Match.Chance(from, to); open {
		return p
	}
	others := slices.DeleteFunc(slices.Clone(j.Job.Decisions),
		func(d match.Decision) bool { return d.Side == match.From && d.At == from })
	p, _ := match.Crosswalk(j.Facts.From, j.Facts.To, j.Facts.Meetings, others).Chance(from, to)
	return p
}

// checkPair refuses a match that must not be.
func checkPair(j *desk.Computed, from harness.Row, to harness.Ref) error {
	row, ok := j.Facts.To.Row(to)
	if !ok || row.Empty {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-row", fmt.Sprintf("No wire is wanted in %s.", to), "/to")
	}
	if why, vetoed := match.Veto(from.Signal, row.Signal); vetoed {
		return desk.Refusal(http.StatusUnprocessableEntity, "vetoed",
			fmt.Sprintf("%s and %s must not be joined: %s.", from.Ref, to, why), "/to")
	}
	for _, d := range j.Job.Decisions {
		if d.Choice == match.Matched && d.To == to && d.At != from.Ref {
			return desk.Refusal(http.StatusConflict, "cavity-taken",
				fmt.Sprintf("%s is already taken by %s. Reopen that first.", to, d.At), "/to")
		}
		if d.Choice == match.Vacant && d.At == to {
			return desk.Refusal(http.StatusConflict, "cavity-taken", fmt.Sprintf("%s is left empty on purpose. Reopen that "+
				"first.", to), "/to")
		}
	}
	return nil
}

// checkJoint refuses a joint with the wire of a cavity of the other side that must not be.
func checkJoint(j *desk.Computed, row harness.Row, with harness.Ref, side match.Side) error {
	other, ok := j.Facts.From.Row(with)
	if side == match.To {
		other, ok = j.Facts.To.Row(with)
	}
	if !ok || other.Empty {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-row",
			fmt.Sprintf("There is no wire in %s to join to.", with), "/to")
	}
	if why, never := match.NeverJoin(row.Signal, other.Signal); never {
		return desk.Refusal(http.StatusUnprocessableEntity, "vetoed",
			fmt.Sprintf("%s and %s must not share a wire: %s.", row.Ref, with, why), "/to")
	}
	return nil
}

// checkOrigin refuses what a new wire must not begin at.
func checkOrigin(j *desk.Computed, row harness.Row, o *match.Origin) error {
	if o == nil {
		return nil
	}
	if err := o.Check(); err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-origin", desk.Sentence(err.Error()), "/origin")
	}
	if o.Kind != match.AtCavity {
		return nil
	}
	if o.At == row.Ref {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-origin", "It cannot begin where it ends.", "/origin/at")
	}
	if !j.HasCavity(o.At) {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-cavity", fmt.Sprintf("There is no cavity %s.", o.At),
			"/origin/at")
	}
	other, ok := j.Facts.From.Row(o.At)
	if !ok {
		other, ok = j.Facts.To.Row(o.At)
	}
	if why, never := match.NeverJoin(row.Signal, other.Signal); ok && !other.Empty && never {
		return desk.Refusal(http.StatusUnprocessableEntity, "vetoed", fmt.Sprintf("%s and %s must not share a wire: %s.",
			row.Ref, o.At, why), "/origin/at")
	}
	return nil
}

// acceptAbove accepts every open match that is at least so certain, as one change; what was brought from an earlier
// job is verified one by one.
func (s *API) acceptAbove(c *gin.Context) error {
	r, err := desk.Read[AcceptRequest](c)
	if err == nil && (r.Above < match.Offered || r.Above > 1) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "bad-certainty", "Choose a certainty from 50 to 100 %.", "/above")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		bodies := map[string]any{}
		for _, l := range j.Begun().Match.Lines {
			if l.Decided || !l.Feeds() || l.P < r.Above || l.Verify != "" {
				continue
			}
			d, err := decision(j, DecideRequest{Side: match.From, At: l.From, Action: Accept, To: l.To})
			if err != nil {
				continue // offered, and yet it must not be: left to be decided one by one
			}
			d.Who, d.When = desk.Who(c), s.Now().UTC().UnixMilli()
			bodies[stored.SubjectOf(match.Decision{Side: match.From, At: l.From})] = d
		}
		if len(bodies) == 0 {
			c.JSON(http.StatusOK, desk.Done{Job: j.ID, Revision: j.Revision})
			return nil
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "accept", Reason: fmt.Sprintf("all from %.0f %%", 100*r.Above),
			Seen: r.Seen, Base: j.Revision, Bodies: bodies})
	})
}
