package server_test

import (
	"encoding/csv"
	"encoding/json"
	"math"
	"net/http"
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
	"draxel/demo"
	"draxel/server/desk"
	"draxel/server/pinapi"
	"draxel/server/reachapi"
	"draxel/server/workapi"
)

// demoJob opens one of the demonstration's jobs: 1 the Packhorse, 2 its fuse block.
func (c *client) demoJob(n int) string {
	c.t.Helper()
	jobs, err := demo.Jobs()
	if err != nil {
		c.t.Fatal(err)
	}
	return c.opened(jobs[n], nil)
}

func (c *client) reach(job string) reachapi.ReachView {
	c.t.Helper()
	return show[reachapi.ReachView](c, job+"/reach")
}

func (c *client) reachTick(job string, seen int64, done bool, reason string, steps ...string) string {
	c.t.Helper()
	_, code := send[desk.Done](c, "POST", job+"/work/tick", workapi.TickRequest{ID: c.change(), Seen: seen,
		Steps: steps, Done: done, Reason: reason})
	return code
}

func cutLine(t *testing.T, v reachapi.ReachView, wire harness.WireID) reach.Line {
	t.Helper()
	i := slices.IndexFunc(v.Lines, func(l reach.Line) bool { return l.Wire == wire })
	if i < 0 {
		t.Fatalf("no line for %s", wire)
	}
	return v.Lines[i]
}

func reachStep(v reachapi.ReachView, kind work.Kind, wire harness.WireID) desk.WorkStep {
	i := slices.IndexFunc(v.Steps,
		func(s desk.WorkStep) bool { return s.Kind == kind && (wire == "" || s.Wire() == wire) })
	if i < 0 {
		return desk.WorkStep{}
	}
	return v.Steps[i]
}

// The worked job: a fuse block moved from the front to the rear, 74 wires guessed at 3.5 m each. The paths show the
// true need, what is short by colour, and the joints, before anything is bought.
func TestTheFuseBlockMovedToTheRear(t *testing.T) {
	c := start(t)
	job := c.demoJob(2)
	v := c.reach(job)
	f := v.Figures
	if f.Wires != 74 || f.Guessed != 74*3500 || f.NoWay+f.Unknown != 0 || !v.Proof.Reached {
		t.Fatalf("%+v, %s", f, v.Line)
	}
	sum, short := 0.0, 0.0
	for _, l := range v.Lines {
		if l.Verdict == reach.Extend || l.Verdict == reach.Replace {
			sum += l.By
		}
	}
	for _, x := range v.Colours {
		short += x.Short
	}
	if math.Abs(sum-short) > 1e-6 || short > f.Guessed/2 || short < f.Guessed/5 || len(v.Colours) < 20 {
		t.Errorf("short of %.1f m by the cut list, %.1f m by colour in %d lines; guessed %.1f m", sum/1000, short/1000,
			len(v.Colours), f.Guessed/1000)
	}
	if len(v.Joints) != f.Joints || f.Joints != 2*f.Extend || f.Troubled != 0 {
		t.Errorf("%d joints for %d wires, %d crowded", len(v.Joints), f.Extend, f.Troubled)
	}
	compare := show[reachapi.CompareView](c, job+"/reach/compare")
	built := compare.Options[slices.IndexFunc(compare.Options,
		func(o reach.Compared) bool { return o.Option.ID == "as-built" })]
	if built.Figures.Extend+built.Figures.Replace != 0 || len(built.Relocations) != 1 ||
		len(built.Relocations[0].Wires) != 74 {
		t.Errorf("as it was built all 74 reach: %+v", built.Figures)
	}
	if _, code := send[desk.Done](c, "POST", job+"/reach/choose",
		reachapi.ChooseRequest{ID: c.change(), Seen: v.Revision, Option: "as-built"}); code != "no-reason" {
		t.Errorf("chosen without a reason: %q", code)
	}
	if _, code := send[desk.Done](c, "POST", job+"/reach/choose",
		reachapi.ChooseRequest{ID: c.change(), Seen: v.Revision, Option: "as-built", Reason: "no wire to buy"}); code != "" {
		t.Fatal(code)
	}
	v = c.reach(job)
	block := v.Things[slices.IndexFunc(v.Things, func(x reachapi.PlacedThing) bool { return x.Thing.ID == "fuse block" })]
	if v.Figures.Buy != 0 || block.Station != "front locker" || block.Reason != "no wire to buy" {
		t.Errorf("chosen: %+v, %+v", v.Figures, block)
	}
	if back := show[reachapi.CompareView](c, job+"/reach/compare"); !slices.ContainsFunc(back.Options,
		func(o reach.Compared) bool { return o.Figures.Extend == f.Extend }) {
		t.Error("where it was is not kept to compare with")
	}
}

// Route all, measure all, cut, join, cover: the whole of it ticked in its order, and the plan goes on as it said.
func TestTheWholeWorkOfReachIsTicked(t *testing.T) {
	c := start(t)
	job := c.demoJob(2)
	v := c.reach(job)
	cut := reachStep(v, reach.CutWire, "")
	if code := c.reachTick(job, v.Revision, true, "", cut.ID); code != "needs-first" || cut.Blocked == "" {
		t.Errorf("cut before anything is routed: %q, %q", code, cut.Blocked)
	}
	gate := reachStep(v, reach.Gate, "")
	if code := c.reachTick(job, v.Revision, true, "", gate.ID); code != "gate-open" {
		t.Errorf("the gate is closed: %q", code)
	}
	done := 0
	all := show[workapi.WorkView](c, job+"/work").Steps
	for _, s := range all {
		why := ""
		if s.Kind == thin.Gate && len(s.Missing) > 0 {
			why = "labels and photographs are on the wall"
		}
		if code := c.reachTick(job, v.Revision, true, why, s.ID); code != "" {
			t.Fatalf("step %d, %s: %s", done+1, s.Text, code)
		}
		if done++; done%40 == 0 {
			if v := c.reach(job); !v.Proof.Reached || v.Proof.Partial || v.Proof.Steps != len(all)-done {
				t.Fatalf("after %d steps: %+v", done, v.Proof)
			}
		}
	}
	end := c.reach(job)
	if end.Proof.Steps != 0 || !end.Proof.Reached || len(end.Strays) != 0 || end.Line != "Nothing is left to do: the "+
		"harness is as it is wanted." {
		t.Fatalf("%+v, %d strays, %s", end.Proof, len(end.Strays), end.Line)
	}
	if w := show[workapi.WorkView](c, job+"/thin/work"); !w.Proof.Reached || !w.Counts.Balanced || len(w.Strays) != 0 {
		t.Errorf("Thin: %+v, %+v, %d strays", w.Proof, w.Counts, len(w.Strays))
	}
	if code := c.reachTick(job, end.Revision, false, "", cut.ID); code != "later-steps" {
		t.Errorf("the first cut taken back: %q", code)
	}
	// The block is moved after all: what was cut for the old place is said, and nothing of the work is lost.
	_, code := send[desk.Done](c, "POST", job+"/reach/places",
		reachapi.PlacesRequest{ID: c.change(), Seen: end.Revision,
			Places: []route.Place{{Thing: route.Thing{Kind: route.ADevice, ID: "fuse block"}, Station: "front locker"}}})
	if code != "" {
		t.Fatal(code)
	}
	moved := c.reach(job)
	old := 0
	for _, f := range moved.Findings {
		if f.Code == "cut-for-old-place" {
			old++
		}
	}
	if old != end.Figures.Extend+end.Figures.Replace || !moved.Proof.Partial || len(moved.Strays) == 0 {
		t.Errorf("%d of %d wires were cut for the old place; %+v, %d strays", old, end.Figures.Extend+end.Figures.Replace,
			moved.Proof, len(moved.Strays))
	}
}

// A length typed in at the wire changes the plan; so do a decision, a path and a place.
func TestWhatIsMeasuredChangesThePlan(t *testing.T) {
	c := start(t)
	job := c.demoJob(1)
	v := c.reach(job)
	before := cutLine(t, v, "7110")
	if before.Verdict != reach.Extend {
		t.Fatalf("7110 %s", before.Verdict)
	}
	put := func(what string, method, path string, body any) {
		t.Helper()
		if _, code := send[desk.Done](c, method, job+path, body); code != "" {
			t.Fatalf("%s: %s", what, code)
		}
		v = c.reach(job)
	}
	put("a length", "POST", "/reach/length", reachapi.LengthRequest{ID: c.change(), Seen: v.Revision, Wire: "7110",
		Had: before.Need + 40})
	if l := cutLine(t, v, "7110"); l.Verdict != reach.Reaches || l.HadBy != "measured by Inès" {
		t.Errorf("measured long enough: %s, %s", l.Verdict, l.HadBy)
	}
	put("taken back", "POST", "/reach/length", reachapi.LengthRequest{ID: c.change(), Seen: v.Revision, Wire: "7110"})
	if l := cutLine(t, v, "7110"); l.Verdict != reach.Extend || len(v.Measured) != 3 {
		t.Errorf("taken back: %s", l.Verdict)
	}
	put("a decision", "POST", "/reach/span", reachapi.SpanRequest{ID: c.change(), Seen: v.Revision,
		Wish: reach.Wish{Wire: "7110", Whole: true, Reason: "nicked"}})
	if l := cutLine(t, v, "7110"); l.Verdict != reach.Replace {
		t.Errorf("replace it: %s", l.Verdict)
	}
	m := v.Map
	for i := range m.Paths {
		if m.Paths[i].ID == "bulkhead in – unit shelf" {
			m.Paths[i].Length = 30
		}
	}
	need := cutLine(t, v, "7115").Need
	put("a path", "PUT", "/reach/map", reachapi.MapRequest{ID: c.change(), Seen: v.Revision, Map: m})
	if l := cutLine(t, v, "7115"); l.Need != need-300 {
		t.Errorf("a path 300 mm shorter: %v, was %v", l.Need, need)
	}
	for i := range m.Stations {
		if m.Stations[i].ID == "unit shelf" {
			m.Stations[i].ID = "shelf"
		}
	}
	for i := range m.Paths {
		m.Paths[i].From, m.Paths[i].To = strings.Replace(m.Paths[i].From, "unit shelf", "shelf", 1),
			strings.Replace(m.Paths[i].To, "unit shelf", "shelf", 1)
	}
	put("another name", "PUT", "/reach/map", reachapi.MapRequest{ID: c.change(), Seen: v.Revision, Map: m,
		Renamed: map[string]string{"unit shelf": "shelf"}})
	if l := cutLine(t, v, "7115"); l.Need != need-300 || l.Stations[0] != "shelf" {
		t.Errorf("the unit did not go with the station's name: %v over %v", l.Need, l.Stations)
	}
	for range 5 {
		put("a leftover", "POST", "/reach/leftover", reachapi.LeftoverRequest{ID: c.change(), Seen: v.Revision, Wire: "7110",
			Left: 50})
	}
	if !v.Learned.Ready || v.Learned.Less != 25 {
		t.Errorf("learned %+v", v.Learned)
	}
	rules := v.Rules
	rules.Drop = 130
	put("a rule", "PUT", "/reach/rules", reachapi.RulesRequest{ID: c.change(), Seen: v.Revision, Rules: rules})
	if l := cutLine(t, v, "7115"); l.Need != need-300+100 {
		t.Errorf("50 mm more at both ends: %v", l.Need)
	}
}

func TestReachRefuses(t *testing.T) {
	c := start(t)
	job := c.demoJob(1)
	seen := c.reach(job).Revision
	far := reach.Rules{Apart: -1}
	bad := reach.Standard()
	bad.School = "glue"
	for name, x := range map[string]struct {
		method, path string
		body         any
		want         string
	}{
		"a wire that there is not": {"POST", "/reach/length", reachapi.LengthRequest{Wire: "9", Had: 5}, "no-such-wire"},
		"a length of a mile": {"POST", "/reach/length", reachapi.LengthRequest{Wire: "7110", Had: 1.6e6},
			"bad-number"},
		"a negative length": {"POST", "/reach/length", reachapi.LengthRequest{Wire: "7110", Had: -5}, "bad-number"},
		"a station that there is not": {"POST", "/reach/places",
			reachapi.PlacesRequest{Places: []route.Place{{Thing: route.Thing{Kind: route.ADevice, ID: "VK-2"},
				Station: "moon"}}}, "no-such-station"},
		"a thing that there is not": {"POST", "/reach/places",
			reachapi.PlacesRequest{Places: []route.Place{{Thing: route.Thing{Kind: route.ADevice, ID: "VK-9"},
				Station: "dash"}}}, "no-such-thing"},
		"nothing to place": {"POST", "/reach/places", reachapi.PlacesRequest{}, "no-action"},
		"a path that there is not": {"POST", "/reach/span",
			reachapi.SpanRequest{Wish: reach.Wish{Wire: "7110", Avoid: []string{"moon"}}}, "no-such-path"},
		"a third end": {"POST", "/reach/span", reachapi.SpanRequest{Wish: reach.Wish{Wire: "7110", At: 3}},
			"bad-number"},
		"negative allowance": {"PUT", "/reach/rules", reachapi.RulesRequest{Rules: far}, "bad-value"},
		"no such school":     {"PUT", "/reach/rules", reachapi.RulesRequest{Rules: bad}, "bad-value"},
		"a station without a name": {"PUT", "/reach/map",
			reachapi.MapRequest{Map: route.Map{Stations: []route.Station{{ID: " "}}}}, "bad-value"},
		"a map without end": {"PUT", "/reach/map",
			reachapi.MapRequest{Map: route.Map{Stations: make([]route.Station, 301)}}, "bad-value"},
		"an option without a name": {"POST", "/reach/option",
			reachapi.OptionRequest{Option: route.Option{ID: "x", Moves: []route.Place{{}}}}, "no-name"},
		"choose what is not there": {"POST", "/reach/choose",
			reachapi.ChooseRequest{Option: "x", Reason: "y"}, "no-such-thing"},
		"a step that is not there": {"POST", "/work/tick", workapi.TickRequest{Steps: []string{"x"}, Done: true},
			"no-such-step"},
		"an endless leftover": {"POST", "/reach/leftover", reachapi.LeftoverRequest{Wire: "7110", Left: 1e9}, "bad-number"},
	} {
		text, err := json.Marshal(x.body)
		if err != nil {
			t.Fatal(err)
		}
		body := map[string]any{}
		if err := json.Unmarshal(text, &body); err != nil {
			t.Fatal(err)
		}
		body["id"], body["seen"] = c.change(), seen // every change has an id and what was seen
		if _, code := send[desk.Done](c, x.method, job+x.path, body); code != x.want {
			t.Errorf("%s: %q, want %q", name, code, x.want)
		}
	}
	if c.reach(job).Revision != seen {
		t.Error("something that was refused was kept")
	}
}

func TestPackingCutListAndTemplates(t *testing.T) {
	c := start(t)
	job := c.demoJob(1)
	first := show[reachapi.PackView](c, job+"/reach/pack?path=bulkhead%20in%20%E2%80%93%20bulkhead%20out")
	if !first.Packed || len(first.Circles) < 50 || first.Floor < first.Area || first.Floor > first.Laid {
		t.Errorf("%d circles, %v between %v and %v", len(first.Circles), first.Floor, first.Area, first.Laid)
	}
	if again := show[reachapi.PackView](c, job+
		"/reach/pack?path=bulkhead%20in%20%E2%80%93%20bulkhead%20out"); again.Floor != first.Floor {
		t.Error("packed otherwise the second time")
	}
	if status, _, _ := c.do("GET", job+"/reach/pack?path=moon", "", nil); status != http.StatusNotFound {
		t.Errorf("no such path: %d", status)
	}
	status, data, _ := c.do("GET", job+"/reach/cuts.csv", "", nil)
	rows, err := csv.NewReader(strings.NewReader(string(data))).ReadAll()
	if status != http.StatusOK || err != nil || len(rows) != len(c.reach(job).Lines)+1 || rows[0][8] != "Need mm" {
		t.Errorf("%d, %d rows, %v", status, len(rows), err)
	}
	if l := show[reachapi.TemplateList](c, "/api/maps"); len(l.Templates) < 3 || len(l.Classes) != 8 {
		t.Errorf("%d templates", len(l.Templates))
	}
	b := show[pinapi.BenchView](c, job+"/bench?stage=reach")
	if b.Stage != "reach" || len(b.Steps) != len(c.reach(job).Steps) || !b.Proven {
		t.Errorf("the bench has %d steps, %s", len(b.Steps), b.Line)
	}
}

// What Reach keeps comes back from the database and from the job file.
func TestReachIsKept(t *testing.T) {
	c := start(t)
	jobs, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	job := c.opened(jobs[1], func(j *stored.Job) {
		j.Leftover = []reach.Leftover{{ID: "l", Wire: "7110", Left: 12,
			When: 5}}
	})
	v := c.reach(job)
	if len(v.Map.Paths) != len(jobs[1].Map.Paths) || len(v.Measured) != 3 || len(v.Wishes) != 7 || len(v.Leftover) != 1 ||
		v.Rules.Plugs["A"] != 74 || len(v.Rules.Shelf) != 2 {
		t.Errorf("%d paths, %d measured, %d decided, rules %+v", len(v.Map.Paths), len(v.Measured), len(v.Wishes), v.Rules)
	}
	if n := len(show[reachapi.CompareView](c, job+"/reach/compare").Options); n != 3 {
		t.Errorf("%d options", n)
	}
}

// A disconnect is taken and taken back, also when no wire runs there any more; then it cannot be taken.
func TestADisconnectIsTakenAndTakenBack(t *testing.T) {
	c := start(t)
	gone := [2]string{"body", "garden"}
	job := c.packhorse(func(j *stored.Job) {
		j.Partings = []reach.Parting{{Between: gone, Plugs: []reach.PartingPlug{{ID: "D9", Blade: 1.5, Ways: 4}}}}
	})
	set := func(between [2]string, back bool) string {
		_, code := send[desk.Done](c, "POST", job+"/reach/disconnect", reachapi.PartingRequest{ID: c.change(),
			Seen: c.reach(job).Revision, Between: between, Back: back})
		return code
	}
	taken := func(between [2]string) bool {
		return slices.ContainsFunc(c.reach(job).Disconnects, func(d reach.Disconnect) bool {
			return d.Between == between && len(d.Taken) > 0
		})
	}
	if code := set([2]string{"body", "moon"}, false); code != "no-such-thing" {
		t.Errorf("between which nothing runs: %q", code)
	}
	if code := set(gone, false); code != "nothing-tied" {
		t.Errorf("taken anew where nothing runs: %q", code)
	}
	if !taken(gone) {
		t.Error("what was taken is not shown")
	}
	if code := set(gone, true); code != "" || taken(gone) {
		t.Errorf("it is not taken back: %q", code)
	}
	real := [2]string{"body", "engine"}
	if code := set(real, false); code != "" || !taken(real) {
		t.Errorf("it is not taken: %q", code)
	}
	if code := set(real, true); code != "" || taken(real) {
		t.Errorf("it is not taken back: %q", code)
	}
}
