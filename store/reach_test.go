package store_test

import (
	"encoding/json"
	"reflect"
	"testing"

	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stock"
	"draxel/core/stored"
	"draxel/store"
)

// Everything that Reach keeps comes back as it was, subject by subject, and undo takes a move back.
func TestReachSubjects(t *testing.T) {
	s := open(t, t.TempDir())
	unit := route.Thing{Kind: route.ADevice, ID: "VK-2/x"}
	rules := reach.Standard()
	rules.Plugs, rules.Shelf = map[string]float64{"A": 74}, []stock.Piece{{ID: "reel", Size: 0.5, Length: 9000}}
	j := stored.Job{Title: "t", Kind: stored.Classic,
		OfReach: reach.Record{Rules: &rules, Map: &route.Map{Stations: []route.Station{{ID: "a", X: 1, Group: "body"},
			{ID: "b"}},
			Paths: []route.Path{{ID: "a – b", From: "a", To: "b", Length: 400, Wall: true, Cover: route.Sock}}},
			Places:   []route.Place{{Thing: unit, Station: "a", Reason: "dry", Who: "Ines", When: 4}},
			Lengths:  []reach.Measured{{Wire: "w1", Had: 900, From: "a", To: "b"}},
			Spans:    []reach.Wish{{Wire: "w1", Avoid: []string{"a – b"}, Amps: 4}},
			Options:  []route.Option{{ID: "o", Name: "elsewhere", Moves: []route.Place{{Thing: unit, Station: "b"}}}},
			Leftover: []reach.Leftover{{ID: "1", Wire: "w1", Left: 20, When: 1}, {ID: "0", Wire: "w1", Left: 30, When: 2}}}}
	id, err := s.Create(t.Context(), "Ines", store.NewJob{ID: "j", Request: "create", Job: j})
	if err != nil {
		t.Fatal(err)
	}
	state, err := s.Load(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	if !reflect.DeepEqual(state.Job, j) {
		t.Errorf("came back as\n%+v, was\n%+v", state.Job, j)
	}
	moved := j.Places[0]
	moved.Station = "b"
	body, err := json.Marshal(moved)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.Apply(t.Context(), id, store.Request{ID: "move", Who: "Ines", What: "place",
		Puts: []store.Put{{Subject: stored.SubjectOf(route.Place{Thing: unit}), Body: body, Seen: 1}}}); err != nil {
		t.Fatal(err)
	}
	if state, err = s.Load(t.Context(), id); err != nil || state.Job.Places[0].Station != "b" {
		t.Errorf("moved to %v, %v", state.Job.Places, err)
	}
	if back, err := s.Undo(t.Context(), id, store.Back{ID: "undo", Who: "Ines"}); err != nil ||
		stored.SubjectSaid(back.Entry.Changes[0].Subject) != "VK-2/x" {
		t.Errorf("undone %+v, %v", back.Entry, err)
	}
	if state, err = s.Load(t.Context(), id); err != nil || !reflect.DeepEqual(state.Job, j) {
		t.Errorf("after undo: %+v, %v", state.Job.Places, err)
	}
}
