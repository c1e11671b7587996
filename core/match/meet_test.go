package match_test

import (
	"testing"

	"draxel/core/harness"
	"draxel/core/match"
)

func TestHowConnectorsCanBeMet(t *testing.T) {
	side := func(ids ...string) (p harness.Pinout) {
		for _, id := range ids {
			p.Connectors = append(p.Connectors, harness.Connector{ID: id, Cavities: harness.Numbered(4)})
		}
		return p
	}
	from, to := side("A", "K"), side("A", "P")
	if m := match.SameNames(from, to); len(m) != 1 || m["A"] != (match.Meeting{Met: match.SameAs, With: "A"}) {
		t.Errorf("same names: %v", m)
	}
	for name, c := range map[string]struct {
		m  match.Meetings
		ok bool
	}{
		"each as can be": {match.Meetings{"A": {Met: match.PlugsOnto, With: "K"}, "P": {Met: match.Stays}}, true},
		"one for two": {match.Meetings{"A": {Met: match.PlugsOnto, With: "K"}, "P": {Met: match.SameAs, With: "K"}},
			false},
		"no such housing":     {match.Meetings{"A": {Met: match.SameAs, With: "Z"}}, false},
		"no such connector":   {match.Meetings{"Z": {Met: match.Stays}}, false},
		"no such meeting":     {match.Meetings{"A": {Met: "glued"}}, false},
		"of no concern":       {match.Meetings{"A": {Met: match.NoConcern}, "P": {Met: match.NewHousing}}, true},
		"nothing is said":     {nil, true},
		"plugged onto none":   {match.Meetings{"P": {Met: match.PlugsOnto}}, false},
		"a housing that goes": {match.Meetings{"P": {Met: match.Stays, With: "nowhere"}}, true},
	} {
		if err := c.m.Check(from, to); (err == nil) != c.ok {
			t.Errorf("%s: %v", name, err)
		}
	}
}

func TestWhatAWireBeginsAt(t *testing.T) {
	cavity := harness.Ref{Connector: "A", Cavity: "1"}
	for name, c := range map[string]struct {
		o  match.Origin
		ok bool
	}{
		"a cavity":             {match.Origin{Kind: match.AtCavity, At: cavity}, true},
		"a cavity, which?":     {match.Origin{Kind: match.AtCavity}, false},
		"a fuse":               {match.Origin{Kind: match.AtFuse, Name: "fans, 30 A"}, true},
		"a ground, which?":     {match.Origin{Kind: match.AtGround}, false},
		"open, somebody's":     {match.Origin{Kind: match.OpenEnd, Owner: "Fen"}, true},
		"open, nobody's":       {match.Origin{Kind: match.OpenEnd}, false},
		"nothing of that kind": {match.Origin{Kind: "air", Name: "x"}, false},
	} {
		if err := c.o.Check(); (err == nil) != c.ok {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// Decisions that cannot be, whatever the tables say.
func TestDecisionsThatCannotBe(t *testing.T) {
	at := harness.Ref{Connector: "A", Cavity: "1"}
	for name, d := range map[string]match.Decision{
		"of no side":               {Side: "both", At: at, Choice: match.Matched},
		"a From row by a new wire": {Side: match.From, At: at, Choice: match.Wired},
		"a To row that goes":       {Side: match.To, At: at, Choice: match.Gone},
		"in no way":                {Side: match.From, At: at, Choice: match.Matched, Way: "knitted"},
		"from an open end that nobody has": {Side: match.To, At: at, Choice: match.Wired,
			Origin: &match.Origin{Kind: match.OpenEnd}},
	} {
		if d.Check() == nil {
			t.Errorf("%s can be", name)
		}
	}
	if err := (match.Decision{Side: match.From, At: at, Choice: match.Matched, Way: match.Tap}).Check(); err != nil {
		t.Error(err)
	}
}
