package reachapi

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/server/desk"
)

func badMap(m *route.Map) error {
	for i := range m.Stations {
		m.Stations[i].ID = strings.TrimSpace(m.Stations[i].ID)
	}
	for i := range m.Paths {
		m.Paths[i].ID = strings.TrimSpace(m.Paths[i].ID)
	}
	return desk.Unsound(m, "/map")
}

// outside says whether a number lies outside bounds, or is none.
func outside(x, least, most float64) bool { return math.IsNaN(x) || x < least || x > most }

func (s *API) putMap(c *gin.Context) error {
	r, err := desk.Read[MapRequest](c)
	if err == nil {
		err = badMap(&r.Map)
	}
	if err != nil {
		return err
	}
	bodies := map[string]any{stored.SubjectOf(route.Map{}): r.Map}
	if len(r.Renamed) == 0 {
		return s.Apply(c, desk.Change{ID: r.ID, What: "map", Seen: r.Seen, Bodies: bodies})
	}
	return s.Checked(c, func(j *desk.Computed) error {
		for _, p := range j.Job.Places {
			if to := r.Renamed[p.Station]; to != "" {
				p.Station = to
				bodies[stored.SubjectOf(p)] = p
			}
		}
		for _, o := range j.Job.Options {
			o.Moves = slices.Clone(o.Moves)
			for i := range o.Moves {
				if to := r.Renamed[o.Moves[i].Station]; to != "" {
					o.Moves[i].Station = to
					bodies[stored.SubjectOf(o)] = o
				}
			}
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "map", Seen: r.Seen, Base: j.Revision, Bodies: bodies})
	})
}

func (s *API) putRules(c *gin.Context) error {
	r, err := desk.Read[RulesRequest](c)
	if err == nil {
		err = desk.Unsound(&r.Rules, "/rules")
	}
	if err != nil {
		return err
	}
	x := r.Rules
	return s.Apply(c, desk.Change{ID: r.ID, What: "rules", Seen: r.Seen, Bodies: desk.Keeping(x)})
}

// putPlaces puts things at stations.
func (s *API) putPlaces(c *gin.Context) error {
	r, err := desk.Read[PlacesRequest](c)
	if err == nil && (len(r.Places) == 0 || len(r.Places) > 2000) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-action", "Say what is put where.", "/places")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		bodies, err := s.placed(c, j, r.Places, r.Reason)
		if err != nil {
			return err
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "place", Reason: r.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: bodies})
	})
}

func (s *API) placed(c *gin.Context, j *desk.Computed, places []route.Place, reason string) (map[string]any, error) {
	known := map[route.Thing]bool{}
	for _, x := range thingsOf(j) {
		known[x.Thing] = true
	}
	bodies := map[string]any{}
	for i, p := range places {
		if !known[p.Thing] {
			return nil, desk.Refusal(http.StatusUnprocessableEntity, "no-such-thing", fmt.Sprintf("There is no %s.", p.Thing),
				fmt.Sprintf("/places/%d/thing", i))
		}
		if p.Station == "" {
			bodies[stored.SubjectOf(p)] = nil
			continue
		}
		if !hasStation(j, p.Station) {
			return nil, desk.Refusal(http.StatusUnprocessableEntity, "no-such-station",
				fmt.Sprintf("There is no station %q.", p.Station), fmt.Sprintf("/places/%d/station", i))
		}
		p.Reason, p.Who, p.When = strings.TrimSpace(reason), desk.Who(c), s.Now().UTC().UnixMilli()
		bodies[stored.SubjectOf(p)] = p
	}
	return bodies, nil
}

func hasStation(j *desk.Computed, id string) bool {
	return j.Job.Map != nil && slices.ContainsFunc(j.Job.Map.Stations, func(x route.Station) bool { return x.ID == id })
}

func hasReachWire(j *desk.Computed, id harness.WireID) bool {
	return slices.ContainsFunc(j.Plan().Reach.Result.Lines, func(l reach.Line) bool { return l.Wire == id })
}

func noWire(id harness.WireID) error {
	return desk.Refusal(http.StatusUnprocessableEntity, "no-such-wire",
		fmt.Sprintf("There is no wire %q in the cut list.", id), "/wire")
}

// putSpan decides about one wire.
func (s *API) putSpan(c *gin.Context) error {
	r, err := desk.Read[SpanRequest](c)
	if err == nil && (outside(r.Wish.Amps, 0, 1000) || outside(float64(r.Wish.Size), 0, 240) ||
		r.Wish.At < 0 || r.Wish.At > 2 || r.Wish.School != "" && !slices.Contains(reach.Schools(), r.Wish.School)) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "bad-number", "That cannot be decided about a wire.", "/wish")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		w := r.Wish
		if !hasReachWire(j, w.Wire) {
			return noWire(w.Wire)
		}
		for _, p := range w.Avoid {
			if j.Job.Map == nil || !slices.ContainsFunc(j.Job.Map.Paths, func(x route.Path) bool { return x.ID == p }) {
				return desk.Refusal(http.StatusUnprocessableEntity, "no-such-path", fmt.Sprintf("There is no path %q.", p),
					"/wish/avoid")
			}
		}
		if w.Far != "" && !hasStation(j, w.Far) {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-station",
				fmt.Sprintf("There is no station %q.", w.Far), "/wish/far")
		}
		var body any
		if len(w.Avoid) > 0 || w.Amps > 0 || w.Size > 0 || w.Slack ||
			w.School != "" || w.Whole || w.At > 0 || w.Renew || w.Far != "" {
			w.Who, w.When = desk.Who(c), s.Now().UTC().UnixMilli()
			body = w
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "span", Reason: w.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(w): body}})
	})
}

// putLength keeps what was measured at a wire. The step that asked for it is done with it.
func (s *API) putLength(c *gin.Context) error {
	r, err := desk.Read[LengthRequest](c)
	if err == nil && (outside(r.Had, 0, 40000) || outside(r.Need, 0, 40000) || outside(r.Spread, 0, 2000)) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "bad-number",
			"That is no length of a wire in a vehicle: millimetres, up to 40 m.", "/had")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		i := slices.IndexFunc(j.Plan().Reach.Result.Lines, func(l reach.Line) bool { return l.Wire == r.Wire })
		if i < 0 {
			return noWire(r.Wire)
		}
		var body any
		if r.Had > 0 || r.Need > 0 {
			m := reach.Measured{Wire: r.Wire, Had: r.Had, Need: r.Need, Spread: r.Spread, Who: desk.Who(c),
				When: s.Now().UTC().UnixMilli()}
			if at := j.Plan().Reach.Result.Lines[i].Stations; len(at) > 0 {
				m.From, m.To = at[0], at[len(at)-1]
			}
			body = m
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "length", Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(reach.Measured{Wire: r.Wire}): body}})
	})
}

func (s *API) putOption(c *gin.Context) error {
	r, err := desk.Read[OptionRequest](c)
	if err == nil && (r.Option.ID == "" || len(r.Option.ID) > desk.LongestName ||
		strings.TrimSpace(r.Option.Name) == "" && len(r.Option.Moves) > 0 || len(r.Option.Moves) > 500) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-name", "Give the placement a name.", "/option/name")
	}
	if err != nil {
		return err
	}
	var body any
	if len(r.Option.Moves) > 0 {
		body = r.Option
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "option", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectOf(r.Option): body}})
}

// chooseOption puts everything where an option has it, and keeps where it was as another option.
func (s *API) chooseOption(c *gin.Context) error {
	r, err := desk.Read[ChooseRequest](c)
	if err == nil && strings.TrimSpace(r.Reason) == "" {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-reason", "Say why: every length follows from it.", "/reason")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		i := slices.IndexFunc(j.Job.Options, func(o route.Option) bool { return o.ID == r.Option })
		if i < 0 {
			return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such placement.", "/option")
		}
		o := j.Job.Options[i]
		bodies, err := s.placed(c, j, o.Moves, r.Reason)
		if err != nil {
			return err
		}
		before := route.Option{ID: "before " + o.ID, Name: "as before " + o.Name}
		for _, m := range o.Moves {
			if was := j.Plan().Reach.Result.Placed[m.Thing]; was != "" {
				before.Moves = append(before.Moves, route.Place{Thing: m.Thing, Station: was})
			}
		}
		if len(before.Moves) > 0 && len(before.ID) <= desk.LongestName {
			bodies[stored.SubjectOf(before)] = before
		}
		bodies[stored.SubjectOf(o)] = nil
		return s.Apply(c, desk.Change{ID: r.ID, What: "choose", Reason: r.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: bodies})
	})
}

// takeDisconnect takes the plugs that are offered for a disconnect, or takes what was taken back.
func (s *API) takeDisconnect(c *gin.Context) error {
	r, err := desk.Read[PartingRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		all := j.Plan().Reach.Result.Disconnects
		i := slices.IndexFunc(all, func(d reach.Disconnect) bool { return d.Between == r.Between })
		taken := slices.ContainsFunc(j.Job.Partings, func(p reach.Parting) bool { return p.Between == r.Between })
		if i < 0 && !(taken && r.Back) {
			return desk.Refusal(http.StatusNotFound, "no-such-thing", "No wire runs from the one to the other.", "/between")
		}
		var body any
		if !r.Back {
			p := all[i].Offer(j.Job.Partings)
			if err := p.Check(); err != nil {
				return desk.Refusal(http.StatusUnprocessableEntity, "nothing-tied",
					"There is nothing that would have to come apart.",
					"/between")
			}
			p.Who, p.When = desk.Who(c), s.Now().UTC().UnixMilli()
			body = p
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "parting", Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(reach.Parting{Between: r.Between}): body}})
	})
}

func (s *API) logLeftover(c *gin.Context) error {
	r, err := desk.Read[LeftoverRequest](c)
	if err == nil && outside(r.Left, -10000, 10000) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "bad-number",
			"Say how many mm were left over; less than nothing where it fell short.", "/left")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		if !hasReachWire(j, r.Wire) {
			return noWire(r.Wire)
		}
		x := reach.Leftover{ID: r.ID, Wire: r.Wire, Left: r.Left, Who: desk.Who(c), When: s.Now().UTC().UnixMilli()}
		return s.Apply(c, desk.Change{ID: r.ID, What: "leftover", Seen: r.Seen, Base: j.Revision,
			Bodies: desk.Keeping(x)})
	})
}
