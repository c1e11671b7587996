package plan_test

import (
	"slices"
	"testing"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
)

// spanned is a job of two wires from a unit to two injectors, on a map that is longer than they are.
func spanned() stored.Job {
	list := func(rows ...[]string) *gather.Sheet { return &gather.Sheet{Cells: rows} }
	j := stored.Job{Title: "t", Kind: stored.Classic, OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{
		gather.WireList: list([]string{"Wire", "From", "Cavity", "To", "Cavity", "Colour", "Size", "Function", "Length mm"},
			[]string{"w1", "A", "1", "J", "1", "GN", "0.75", "Injector 1, control", "900"},
			[]string{"w2", "A", "2", "S1", "", "GN-WH", "0.75", "", "900"},
			[]string{"w3", "S1", "", "J", "2", "GN-WH", "0.75", "", "300"},
			[]string{"w4", "S1", "", "K", "1", "GN-WH", "0.75", "", "300"},
			[]string{"w5", "K", "2", "A", "3", "GN", "0.75", "", "2500"}),
		gather.ConnectorList: list([]string{"Connector", "Device", "Ways"}, []string{"A", "unit", "8"},
			[]string{"J", "injector", "4"}, []string{"K", "valve", "4"}),
		gather.DeviceList: list([]string{"Device", "Kind", "System"}, []string{"unit", "unit", "engine"},
			[]string{"injector", "", "fuel"}, []string{"valve", "", "emissions"}),
		gather.SpliceList: list([]string{"Splice", "Seen"}, []string{"S1", "yes"})}}}
	j.Map = &route.Map{Stations: []route.Station{{ID: "in", Group: "body"}, {ID: "out", Group: "engine"}},
		Paths: []route.Path{{ID: "p", From: "in", To: "out", Length: 1500, Spread: 10}}}
	for thing, at := range map[route.Thing]string{{Kind: route.ADevice, ID: "unit"}: "in",
		{Kind: route.ADevice, ID: "injector"}: "out", {Kind: route.ADevice, ID: "valve"}: "out",
		{Kind: route.ASplice, ID: "S1"}: "out"} {
		j.Places = append(j.Places, route.Place{Thing: thing, Station: at})
	}
	slices.SortFunc(j.Places, func(a, b route.Place) int {
		return slices.Index(route.Kinds(), a.Thing.Kind) - slices.Index(route.Kinds(), b.Thing.Kind)
	})
	return j
}

func lineOf(t *testing.T, p plan.Plan, wire harness.WireID) reach.Line {
	t.Helper()
	for _, l := range p.Reach.Result.Lines {
		if l.Wire == wire {
			return l
		}
	}
	t.Fatalf("no line for %s", wire)
	return reach.Line{}
}

func proven(t *testing.T, what string, p plan.Plan) {
	t.Helper()
	if !p.Proof.Reached || p.Proof.Partial {
		t.Errorf("%s: %+v", what, p.Proof)
	}
}

// What goes is stock for what stays, and is not in the cut list; an end that is cut off goes nowhere.
func TestReachFollowsThin(t *testing.T) {
	j := spanned()
	p := computeJob(t, j)
	if l := lineOf(t, p, "w1"); l.Verdict != reach.Extend || l.Provision[0].From != "" {
		t.Errorf("w1 %s from %v", l.Verdict, l.Provision)
	}
	proven(t, "at first", p)
	j.Thin = []thin.Decision{{On: thin.Wire, ID: "w5", Choice: thin.Goes}}
	p = computeJob(t, j)
	if l := lineOf(t, p, "w1"); l.Provision[0].From != "w5" || !l.Provision[0].Waits || len(p.Reach.Result.Lines) != 4 {
		t.Errorf("w1 is cut from %v; %d lines", l.Provision, len(p.Reach.Result.Lines))
	}
	proven(t, "a wire goes", p)
	pulled := j
	for i, s := range p.Work.Steps {
		pulled.Ticks = append(pulled.Ticks, work.Tick{Step: s.ID, Edits: s.Edits, Text: s.Text, When: int64(i + 1)})
	}
	if pieces := computeJob(t, pulled).Reach.Result.Pieces(); len(pieces) != 1 || pieces[0].Waits {
		t.Errorf("w5 is out, and the stock has %+v", pieces)
	}
	j.Thin = append(j.Thin, thin.Decision{On: thin.Module, ID: "valve", Choice: thin.Goes})
	p = computeJob(t, j) // the splice has two legs left and becomes one wire: that comes before w2 is lengthened
	proven(t, "a module goes", p)
	i := slices.IndexFunc(p.Reach.Result.Steps,
		func(s work.Step) bool { return s.Kind == reach.CutWire && s.Wire() == "w2" })
	through := slices.IndexFunc(p.Work.Steps, func(s work.Step) bool { return s.Kind == thin.OneWire })
	if i < 0 || through < 0 || !slices.Contains(p.Reach.Result.Steps[i].Needs, p.Work.Steps[through].ID) {
		t.Errorf("w2 is cut before its splice is taken apart: %d, %d", i, through)
	}
}

// Where matched wires are joined the donor's wire must reach the chassis's cavity, and gets a new end there.
func TestReachFollowsMatch(t *testing.T) {
	j := spanned()
	table := func(name string, rows ...[]string) *stored.Table {
		return &stored.Table{Name: name, Trust: harness.Maker,
			Cells: append([][]string{{"Connector", "Cavity", "Function", "Colour"}}, rows...)}
	}
	j.Kind, j.From, j.To = stored.Integrated, table("chassis", []string{"D", "1", "Injector 1, control", "GN"}),
		table("donor", []string{"J", "1", "Injector 1, control", "GN"})
	j.Map.Stations = append(j.Map.Stations, route.Station{ID: "dash", Group: "body"})
	j.Map.Paths = append(j.Map.Paths, route.Path{ID: "q", From: "in", To: "dash", Length: 400, Spread: 10})
	j.Places = append(j.Places, route.Place{Thing: route.Thing{Kind: route.AConnector, ID: "D"}, Station: "dash"})
	j.Sheets[gather.ConnectorList].Cells[2][1] = "" // the plug hangs free
	j.Places = append(j.Places, route.Place{Thing: route.Thing{Kind: route.AConnector, ID: "J"}, Station: "out"})
	before := lineOf(t, computeJob(t, j), "w1")
	j.Decisions = []match.Decision{{Side: match.From, At: ref("D1"), Choice: match.Matched, To: ref("J1")}}
	p := computeJob(t, j)
	l := lineOf(t, p, "w1")
	if before.Stations[len(before.Stations)-1] != "out" || l.Stations[len(l.Stations)-1] != "dash" ||
		l.Need >= before.Need {
		t.Errorf("w1 went to %v, and goes to %v", before.Stations, l.Stations)
	}
	proven(t, "joined", p)
	j.Lengths = []reach.Measured{{Wire: "w1", Had: 400}}
	if l := lineOf(t, computeJob(t, j), "w1"); l.Verdict != reach.Extend || l.At != 2 || l.Joints != 1 {
		t.Errorf("its new end takes one joint: %s at %d, %d joints", l.Verdict, l.At, l.Joints)
	}
}

// Where terminals move a wire must reach its new cavity, wherever that is.
func TestReachFollowsPin(t *testing.T) {
	j := job([]string{"A1 Injector 1"}, []string{"B1 Injector 1"}, matched("A1", "B1"))
	j.Sheets = map[gather.SheetKind]*gather.Sheet{gather.WireList: {Cells: [][]string{{"Wire", "From", "Cavity", "To",
		"Cavity", "Length mm", "Size"}, {"w1", "A", "1", "J", "1", "700", "0.5"}}}}
	j.Map = &route.Map{Stations: []route.Station{{ID: "a"}, {ID: "b"}, {ID: "j"}},
		Paths: []route.Path{{ID: "aj", From: "a", To: "j", Length: 400}, {ID: "bj", From: "b", To: "j", Length: 900}}}
	for c, at := range map[string]string{"A": "a", "B": "b", "J": "j"} {
		j.Places = append(j.Places, route.Place{Thing: route.Thing{Kind: route.AConnector, ID: c}, Station: at})
	}
	p := computeJob(t, j)
	if l := lineOf(t, p, "w1"); l.Stations[0] != "b" || l.Verdict != reach.Extend {
		t.Errorf("w1 runs from %v and %s", l.Stations, l.Verdict)
	}
	proven(t, "moved", p)
	j.Decisions = nil
	if l := lineOf(t, computeJob(t, j), "w1"); l.Stations[0] != "a" || l.Verdict != reach.Reaches {
		t.Errorf("where it is it runs from %v and %s", l.Stations, l.Verdict)
	}
}

// What was cut stays cut: its step stays done when a length changes a little, what it was cut from is gone from the
// stock, and what was cut for nothing is said.
func TestWhatWasCutIsRemembered(t *testing.T) {
	j := spanned()
	j.Thin = []thin.Decision{{On: thin.Wire, ID: "w5", Choice: thin.Goes}}
	p := computeJob(t, j)
	for i := range p.Reach.Result.Steps {
		s := &p.Reach.Result.Steps[i]
		x := work.Tick{Step: s.ID, Edits: s.Edits, Text: s.Text, Stage: "reach", Kind: s.Kind, Wire: s.Wire(),
			Length: s.Length, When: int64(i + 1)}
		if s.Length > 0 {
			x.Piece = p.Reach.Result.PieceFor(s.Wire())
		}
		if s.Kind == reach.JoinWire || s.Wire() == "w2" {
			continue
		}
		j.Ticks = append(j.Ticks, x)
	}
	was := lineOf(t, p, "w1").By
	p = computeJob(t, j)
	proven(t, "cut", p)
	if l := lineOf(t, p, "w1"); len(l.Provision) != 0 {
		t.Errorf("w1 has its piece, and is to get another: %v", l.Provision)
	}
	pieces := p.Reach.Result.Pieces()
	if len(pieces) != 1 || pieces[0].Length != 2500-was {
		t.Errorf("the stock is %v after %v mm were cut from it", pieces, was)
	}
	j.Map.Paths[0].Length = 1510
	proven(t, "10 mm more", computeJob(t, j))
	j.Map.Paths[0].Length = 1700
	if p = computeJob(t, j); len(found(p, "cut-for-old-place")) != 1 {
		t.Errorf("200 mm more: %v", p.Findings)
	}
	j.Map.Paths[0].Length = 500
	p = computeJob(t, j)
	if len(found(p, "cut-for-old-place")) != 1 || len(found(p, "done-unwanted")) != 1 || !p.Proof.Partial ||
		len(p.Reach.Strays) != 1 {
		t.Errorf("it would reach without: %v, %+v", p.Findings, p.Proof)
	}
	j.Ticks = slices.DeleteFunc(j.Ticks, func(x work.Tick) bool { return len(x.Edits) > 0 })
	j.Ticks = append(j.Ticks, work.Tick{Step: "x", Stage: "reach", Text: "cut what is not there", Wire: "w9",
		Edits: []harness.Edit{{Do: harness.Cut, Wire: "w9"}}, When: 99})
	if p = computeJob(t, j); len(found(p, "tick-lost")) != 1 || !p.Proof.Partial {
		t.Errorf("cut what is not there: %v", p.Findings)
	}
}

func found(p plan.Plan, code string) (n []string) {
	for _, f := range p.Findings {
		if f.Code == code {
			n = append(n, f.Text)
		}
	}
	return n
}

// A wire that has been cut at one end is lengthened there, whatever comes up later that would make the other end the
// better one.
func TestACutWireKeepsItsEnd(t *testing.T) {
	j := spanned()
	p := computeJob(t, j)
	for i := range p.Reach.Result.Steps {
		if s := &p.Reach.Result.Steps[i]; s.Kind == reach.CutWire && s.Wire() == "w1" {
			j.Ticks = []work.Tick{{Step: s.ID, Edits: s.Edits, Text: s.Text, Stage: "reach", Wire: s.Wire(), Length: s.Length,
				When: 1}}
		}
	}
	was := lineOf(t, p, "w1").At
	j.Spans = []reach.Wish{{Wire: "w1", At: 3 - was}}
	p = computeJob(t, j)
	if l := lineOf(t, p, "w1"); l.At != was || len(p.Reach.Strays) > 0 {
		t.Errorf("cut at end %d, to be lengthened at end %d; %v", was, l.At, p.Reach.Strays)
	}
	proven(t, "the other end is wished for too late", p)
}
