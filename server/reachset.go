package server

import (
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/reach"
	"draxel/core/size"
	"draxel/store"
)

// Bounds of what a map can hold.
const (
	mostStations = 300
	mostPaths    = 600
	longestName  = 80
)

func badMap(m *reach.Map) error {
	if len(m.Stations) > mostStations || len(m.Paths) > mostPaths {
		return problem(http.StatusUnprocessableEntity, "too-much", fmt.Sprintf("A map has at most %d stations and %d paths.", mostStations, mostPaths), "/map")
	}
	for i := range m.Stations {
		x := &m.Stations[i]
		if x.ID = strings.TrimSpace(x.ID); x.ID == "" || len(x.ID) > longestName {
			return problem(http.StatusUnprocessableEntity, "no-name", "Give each station a name.", fmt.Sprintf("/map/stations/%d", i))
		}
		if outside(x.X, -1e5, 1e5) || outside(x.Y, -1e5, 1e5) || outside(x.Drop, 0, 5000) {
			return problem(http.StatusUnprocessableEntity, "bad-number", x.ID+" has a place or a drop that cannot be.", fmt.Sprintf("/map/stations/%d", i))
		}
	}
	for i := range m.Paths {
		x := &m.Paths[i]
		if x.ID = strings.TrimSpace(x.ID); x.ID == "" || len(x.ID) > 2*longestName {
			return problem(http.StatusUnprocessableEntity, "no-name", "Give each path a name.", fmt.Sprintf("/map/paths/%d", i))
		}
		if !slices.Contains(reach.Covers(), x.Cover) {
			return problem(http.StatusUnprocessableEntity, "no-cover", "A path is bare, taped, in a sleeve or in a sock.", fmt.Sprintf("/map/paths/%d/cover", i))
		}
	}
	return nil
}

// outside says whether a number lies outside bounds, or is none.
func outside(x, least, most float64) bool { return math.IsNaN(x) || x < least || x > most }

func (s *Server) putMap(c *gin.Context) error {
	r, err := read[MapRequest](c)
	if err == nil {
		err = badMap(&r.Map)
	}
	if err != nil {
		return err
	}
	bodies := map[string]any{store.SubjectMap: r.Map}
	if len(r.Renamed) == 0 {
		return s.apply(c, change{id: r.ID, what: "map", seen: r.Seen, bodies: bodies})
	}
	return s.checked(c, func(j *computed) error {
		for _, p := range j.Job.Places {
			if to := r.Renamed[p.Station]; to != "" {
				p.Station = to
				bodies[store.SubjectPlace(p.Thing)] = p
			}
		}
		for _, o := range j.Job.Options {
			o.Moves = slices.Clone(o.Moves)
			for i := range o.Moves {
				if to := r.Renamed[o.Moves[i].Station]; to != "" {
					o.Moves[i].Station = to
					bodies[store.SubjectOption(o.ID)] = o
				}
			}
		}
		return s.apply(c, change{id: r.ID, what: "map", seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

func (s *Server) putRules(c *gin.Context) error {
	r, err := read[RulesRequest](c)
	if err != nil {
		return err
	}
	x := r.Rules
	for name, v := range map[string]float64{"roll": x.Roll, "end": x.End, "drop": x.Drop, "lap": x.Lap, "stub": x.Stub, "apart": x.Apart, "bulge": x.Bulge, "excess": x.Excess, "least": x.Least, "guess": x.Guess, "mostly": x.Mostly} {
		if outside(v, 0, 10000) {
			return problem(http.StatusUnprocessableEntity, "bad-number", "That is not a length: "+name+".", "/rules/"+name)
		}
	}
	for name, v := range map[string]float64{"route": x.Rates.Route, "measure": x.Rates.Measure, "cut": x.Rates.Cut, "solder": x.Rates.Solder, "crimp": x.Rates.Crimp, "cover": x.Rates.Cover} {
		if outside(v, 0, 1000) {
			return problem(http.StatusUnprocessableEntity, "bad-number", "That is not a time: "+name+".", "/rules/rates/"+name)
		}
	}
	switch {
	case outside(x.Margin, 0, 2), outside(x.Loss, 0, 0.5), outside(x.Rest, 0, 0.5), outside(x.Volts, 1, 1000):
		return problem(http.StatusUnprocessableEntity, "bad-number", "Margin, loss or voltage cannot be that.", "/rules/margin")
	case !slices.Contains(reach.Schools(), x.School):
		return problem(http.StatusUnprocessableEntity, "no-school", "Joints are soldered, crimped in a sleeve, or crimped under shrink.", "/rules/school")
	case !slices.Contains(size.Classes(), x.Class):
		return problem(http.StatusUnprocessableEntity, "no-class", "Insulation is of class A, B, C or D.", "/rules/class")
	case len(x.Plugs) > 1000 || len(x.Shelf) > 1000:
		return problem(http.StatusUnprocessableEntity, "too-much", "That is too much.", "/rules")
	}
	for name, mm := range x.Plugs {
		if outside(mm, 0, 500) {
			return problem(http.StatusUnprocessableEntity, "bad-number", "No plug is that large: "+name+".", "/rules/plugs")
		}
	}
	for i, p := range x.Shelf {
		if p.ID == "" || outside(p.Length, 1, 1e6) || outside(float64(p.Size), 0, 240) {
			return problem(http.StatusUnprocessableEntity, "bad-piece", "A piece has a name, a size and a length.", fmt.Sprintf("/rules/shelf/%d", i))
		}
	}
	return s.apply(c, change{id: r.ID, what: "rules", seen: r.Seen, bodies: map[string]any{store.SubjectRules: x}})
}

// putPlaces puts things at stations.
func (s *Server) putPlaces(c *gin.Context) error {
	r, err := read[PlacesRequest](c)
	if err == nil && (len(r.Places) == 0 || len(r.Places) > 2000) {
		err = problem(http.StatusUnprocessableEntity, "no-action", "Say what is put where.", "/places")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		bodies, err := s.placed(c, j, r.Places, r.Reason)
		if err != nil {
			return err
		}
		return s.apply(c, change{id: r.ID, what: "place", reason: r.Reason, seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

func (s *Server) placed(c *gin.Context, j *computed, places []reach.Place, reason string) (map[string]any, error) {
	known := map[reach.Thing]bool{}
	for _, x := range j.things() {
		known[x.Thing] = true
	}
	bodies := map[string]any{}
	for i, p := range places {
		if !known[p.Thing] {
			return nil, problem(http.StatusUnprocessableEntity, "no-such-thing", fmt.Sprintf("There is no %s.", p.Thing), fmt.Sprintf("/places/%d/thing", i))
		}
		if p.Station == "" {
			bodies[store.SubjectPlace(p.Thing)] = nil
			continue
		}
		if !j.hasStation(p.Station) {
			return nil, problem(http.StatusUnprocessableEntity, "no-such-station", fmt.Sprintf("There is no station %q.", p.Station), fmt.Sprintf("/places/%d/station", i))
		}
		p.Reason, p.Who, p.When = strings.TrimSpace(reason), who(c), s.now().UTC().UnixMilli()
		bodies[store.SubjectPlace(p.Thing)] = p
	}
	return bodies, nil
}

func (j *computed) hasStation(id string) bool {
	return j.Job.Map != nil && slices.ContainsFunc(j.Job.Map.Stations, func(x reach.Station) bool { return x.ID == id })
}

func (j *computed) hasReachWire(id string) bool {
	return slices.ContainsFunc(j.plan().Reach.Result.Lines, func(l reach.Line) bool { return l.Wire == id })
}

func noWire(id string) error {
	return problem(http.StatusUnprocessableEntity, "no-such-wire", fmt.Sprintf("There is no wire %q in the cut list.", id), "/wire")
}

// putSpan decides about one wire.
func (s *Server) putSpan(c *gin.Context) error {
	r, err := read[SpanRequest](c)
	if err == nil && (outside(r.Wish.Amps, 0, 1000) || r.Wish.At < 0 || r.Wish.At > 2 || r.Wish.School != "" && !slices.Contains(reach.Schools(), r.Wish.School)) {
		err = problem(http.StatusUnprocessableEntity, "bad-number", "That cannot be decided about a wire.", "/wish")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		w := r.Wish
		if !j.hasReachWire(w.Wire) {
			return noWire(w.Wire)
		}
		for _, p := range w.Avoid {
			if j.Job.Map == nil || !slices.ContainsFunc(j.Job.Map.Paths, func(x reach.Path) bool { return x.ID == p }) {
				return problem(http.StatusUnprocessableEntity, "no-such-path", fmt.Sprintf("There is no path %q.", p), "/wish/avoid")
			}
		}
		if w.Far != "" && !j.hasStation(w.Far) {
			return problem(http.StatusUnprocessableEntity, "no-such-station", fmt.Sprintf("There is no station %q.", w.Far), "/wish/far")
		}
		var body any
		if len(w.Avoid) > 0 || w.Amps > 0 || w.School != "" || w.Whole || w.At > 0 || w.Renew || w.Far != "" {
			w.Who, w.When = who(c), s.now().UTC().UnixMilli()
			body = w
		}
		return s.apply(c, change{id: r.ID, what: "span", reason: w.Reason, seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectSpan(w.Wire): body}})
	})
}

// putLength keeps what was measured at a wire. The step that asked for it is done with it.
func (s *Server) putLength(c *gin.Context) error {
	r, err := read[LengthRequest](c)
	if err == nil && (outside(r.Had, 0, 40000) || outside(r.Need, 0, 40000) || outside(r.Spread, 0, 2000)) {
		err = problem(http.StatusUnprocessableEntity, "bad-number", "That is no length of a wire in a vehicle: millimetres, up to 40 m.", "/had")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		i := slices.IndexFunc(j.plan().Reach.Result.Lines, func(l reach.Line) bool { return l.Wire == r.Wire })
		if i < 0 {
			return noWire(r.Wire)
		}
		var body any
		if r.Had > 0 || r.Need > 0 {
			m := reach.Measured{Wire: r.Wire, Had: r.Had, Need: r.Need, Spread: r.Spread, Who: who(c), When: s.now().UTC().UnixMilli()}
			if at := j.plan().Reach.Result.Lines[i].Stations; len(at) > 0 {
				m.From, m.To = at[0], at[len(at)-1]
			}
			body = m
		}
		return s.apply(c, change{id: r.ID, what: "length", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectLength(r.Wire): body}})
	})
}

func (s *Server) putOption(c *gin.Context) error {
	r, err := read[OptionRequest](c)
	if err == nil && (r.Option.ID == "" || len(r.Option.ID) > longestName || strings.TrimSpace(r.Option.Name) == "" && len(r.Option.Moves) > 0 || len(r.Option.Moves) > 500) {
		err = problem(http.StatusUnprocessableEntity, "no-name", "Give the placement a name.", "/option/name")
	}
	if err != nil {
		return err
	}
	var body any
	if len(r.Option.Moves) > 0 {
		body = r.Option
	}
	return s.apply(c, change{id: r.ID, what: "option", seen: r.Seen, bodies: map[string]any{store.SubjectOption(r.Option.ID): body}})
}

// chooseOption puts everything where an option has it, and keeps where it was as another option.
func (s *Server) chooseOption(c *gin.Context) error {
	r, err := read[ChooseRequest](c)
	if err == nil && strings.TrimSpace(r.Reason) == "" {
		err = problem(http.StatusUnprocessableEntity, "no-reason", "Say why: every length follows from it.", "/reason")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		i := slices.IndexFunc(j.Job.Options, func(o reach.Option) bool { return o.ID == r.Option })
		if i < 0 {
			return problem(http.StatusNotFound, "no-such-thing", "There is no such placement.", "/option")
		}
		o := j.Job.Options[i]
		bodies, err := s.placed(c, j, o.Moves, r.Reason)
		if err != nil {
			return err
		}
		before := reach.Option{ID: "before " + o.ID, Name: "as before " + o.Name}
		for _, m := range o.Moves {
			if was := j.plan().Reach.Result.Placed[m.Thing]; was != "" {
				before.Moves = append(before.Moves, reach.Place{Thing: m.Thing, Station: was})
			}
		}
		if len(before.Moves) > 0 && len(before.ID) <= longestName {
			bodies[store.SubjectOption(before.ID)] = before
		}
		bodies[store.SubjectOption(o.ID)] = nil
		return s.apply(c, change{id: r.ID, what: "choose", reason: r.Reason, seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

// takeDisconnect takes the plugs that are offered for a disconnect, or takes what was taken back.
func (s *Server) takeDisconnect(c *gin.Context) error {
	r, err := read[PartingRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		all := j.plan().Reach.Result.Disconnects
		i := slices.IndexFunc(all, func(d reach.Disconnect) bool { return d.Between == r.Between })
		taken := slices.ContainsFunc(j.Job.Partings, func(p reach.Parting) bool { return p.Between == r.Between })
		if i < 0 && !taken {
			return problem(http.StatusNotFound, "no-such-thing", "No wire runs from the one to the other.", "/between")
		}
		var body any
		if !r.Back {
			p := all[i].Offer(j.Job.Partings)
			if err := p.Check(); err != nil {
				return problem(http.StatusUnprocessableEntity, "nothing-tied", "There is nothing that would have to come apart.",
					"/between")
			}
			p.Who, p.When = who(c), s.now().UTC().UnixMilli()
			body = p
		}
		return s.apply(c, change{id: r.ID, what: "parting", seen: r.Seen, base: j.Revision,
			bodies: map[string]any{store.SubjectParting(r.Between): body}})
	})
}

func (s *Server) logLeftover(c *gin.Context) error {
	r, err := read[LeftoverRequest](c)
	if err == nil && outside(r.Left, -10000, 10000) {
		err = problem(http.StatusUnprocessableEntity, "bad-number", "Say how many mm were left over; less than nothing where it fell short.", "/left")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		if !j.hasReachWire(r.Wire) {
			return noWire(r.Wire)
		}
		x := reach.Leftover{ID: r.ID, Wire: r.Wire, Left: r.Left, Who: who(c), When: s.now().UTC().UnixMilli()}
		return s.apply(c, change{id: r.ID, what: "leftover", seen: r.Seen, base: j.Revision, bodies: map[string]any{store.SubjectLeftover(x.ID): x}})
	})
}
