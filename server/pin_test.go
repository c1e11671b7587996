package server_test

import (
	"bytes"
	"net/http"
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/plan"
	"draxel/demo"
	"draxel/exchange"
	"draxel/server"
)

// demoRefit opens the demonstration's re-pin job.
func (c *client) demoRefit(change func(*plan.Job)) string {
	c.t.Helper()
	jobs, err := demo.Jobs()
	if err != nil {
		c.t.Fatal(err)
	}
	if change != nil {
		change(&jobs[0])
	}
	var b bytes.Buffer
	if err := exchange.WriteJob(&b, jobs[0], nil); err != nil {
		c.t.Fatal(err)
	}
	status, data, _ := c.do("POST", "/api/jobs/file", "application/json", &b)
	done, code := decode[server.Done](c, status, data)
	if code != "" {
		c.t.Fatal(code)
	}
	return "/api/jobs/" + done.Job
}

func (c *client) pin(job string) server.PinView {
	c.t.Helper()
	return show[server.PinView](c, job+"/pin")
}

func (c *client) tick(job string, seen int64, done bool, steps ...string) string {
	c.t.Helper()
	_, code := send[server.Done](c, "POST", job+"/pin/tick", server.PinTickRequest{ID: c.change(), Seen: seen, Steps: steps, Done: done, Spent: 1.5})
	return code
}

func at(name string) harness.Ref {
	return harness.Ref{Connector: name[:1], Cavity: name[1:]}
}

func stepIDs(v server.PinView) []string {
	var out []string
	for _, s := range v.Steps {
		out = append(out, s.ID)
	}
	return out
}

// Every step of the demonstration is ticked; the plan goes on as it said it would, and ends with nothing to do.
func TestTheWholeSheetIsTicked(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	whole := stepIDs(v)
	if len(whole) < 50 || !v.Proof.Reached || v.Proof.InHand > 1 {
		t.Fatalf("%d steps, %+v", len(whole), v.Proof)
	}
	if code := c.tick(job, v.Revision, true, v.Steps[1].ID); code != "needs-first" {
		t.Errorf("the second step first: %q", code)
	}
	closing := slices.IndexFunc(v.Steps, func(s plan.Step) bool { return s.Kind == pin.Close })
	if code := c.tick(job, v.Revision, true, v.Steps[closing].ID); code != "needs-first" {
		t.Errorf("a connector closed before it is finished: %q", code)
	}
	for i, id := range whole {
		if code := c.tick(job, v.Revision, true, id); code != "" {
			t.Fatalf("step %d: %s", i+1, code)
		}
		if i%9 == 0 || i == len(whole)-1 {
			v = c.pin(job)
			if got := stepIDs(v); !slices.Equal(got, whole[i+1:]) || len(v.Done) != i+1 || !v.Proof.Reached {
				t.Fatalf("after step %d: %d left, %d done, proof %+v", i+1, len(got), len(v.Done), v.Proof)
			}
		}
	}
	if v.Done[0].Who != "Inès" || v.Done[0].Spent != 1.5 || v.Done[0].Minutes != 4 {
		t.Errorf("ticked as %+v", v.Done[0])
	}
	if code := c.tick(job, v.Revision, false, whole[0]); code != "later-steps" {
		t.Errorf("the first tick taken back under all others: %q", code)
	}
	if code := c.tick(job, v.Revision, false, whole[len(whole)-1]); code != "" {
		t.Errorf("the last tick taken back: %q", code)
	}
}

// A browser that lost the reply sends the change again: it is one change.
func TestATickArrivesOnce(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	r := server.PinTickRequest{ID: "again", Seen: v.Revision, Steps: []string{v.Steps[0].ID}, Done: true}
	first, code := send[server.Done](c, "POST", job+"/pin/tick", r)
	if code != "" {
		t.Fatal(code)
	}
	second, code := send[server.Done](c, "POST", job+"/pin/tick", r)
	if code != "" || second.Revision != first.Revision || len(c.pin(job).Done) != 1 {
		t.Errorf("sent twice: %q, revisions %d and %d, %d done", code, first.Revision, second.Revision, len(c.pin(job).Done))
	}
	r.ID = "other"
	if _, code = send[server.Done](c, "POST", job+"/pin/tick", r); code != "no-such-step" {
		t.Errorf("a step that is done, done again: %q", code)
	}
}

// The same move can be made, undone by hand and made again: each is kept.
func TestTheSameMoveTwice(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	s := v.Steps[0]
	for round := range 2 {
		if code := c.tick(job, v.Revision, true, s.ID); code != "" {
			t.Fatal(round, code)
		}
		v = c.pin(job)
		if _, code := send[server.Done](c, "POST", job+"/pin/otherwise", server.OtherwiseRequest{ID: c.change(), Seen: v.Revision, At: s.To, To: s.From}); code != "" {
			t.Fatal(round, code)
		}
		v = c.pin(job)
		if len(v.Done) != 2*round+2 || v.Steps[0].ID != s.ID || !v.Proof.Reached || slices.ContainsFunc(v.Findings, func(f finding.Finding) bool { return f.Code == "tick-lost" }) {
			t.Fatalf("round %d: %d done, first %q, proof %+v, %v", round, len(v.Done), v.Steps[0].Text, v.Proof, v.Findings)
		}
	}
}

func TestDoneOtherwise(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	s := v.Steps[0]
	other := func(r server.OtherwiseRequest) string {
		r.ID, r.Seen = c.change(), c.pin(job).Revision
		_, code := send[server.Done](c, "POST", job+"/pin/otherwise", r)
		return code
	}
	for _, x := range []struct {
		r    server.OtherwiseRequest
		code string
	}{
		{server.OtherwiseRequest{At: harness.Ref{Connector: "A", Cavity: "99"}}, "no-such-terminal"},
		{server.OtherwiseRequest{At: s.From, To: v.Steps[1].From}, "cannot-be"},
		{server.OtherwiseRequest{Label: "nobody", To: s.To}, "no-such-terminal"},
		{server.OtherwiseRequest{At: s.From}, ""},
	} {
		if code := other(x.r); code != x.code {
			t.Errorf("%+v: %q, want %q", x.r, code, x.code)
		}
	}
	v = c.pin(job)
	if !slices.Equal(v.Hand, []string{"from " + s.From.String()}) || v.Steps[0].Terminal != s.Terminal || !v.Proof.Reached {
		t.Fatalf("in hand %v, next %q, proof %+v", v.Hand, v.Steps[0].Text, v.Proof)
	}
	if code := other(server.OtherwiseRequest{Label: v.Hand[0], To: s.To}); code != "" || len(c.pin(job).Hand) != 0 {
		t.Errorf("put in by its label: %q", code)
	}
	if code := other(server.OtherwiseRequest{At: s.To, Off: true}); code != "" {
		t.Errorf("sealed off: %q", code)
	}
	if v = c.pin(job); !v.Proof.Reached || len(v.Hand) != 0 {
		t.Errorf("after it was sealed off: %+v", v.Proof)
	}
}

func TestReportsAreSettled(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	say := func(what pin.What, ref harness.Ref, saw string) string {
		_, code := send[server.Done](c, "POST", job+"/pin/reports", server.ReportRequest{ID: c.change(), Seen: v.Revision, What: what, At: ref, Saw: saw})
		return code
	}
	s := v.Steps[0]
	for _, x := range []struct {
		what pin.What
		at   harness.Ref
		code string
	}{{"burnt", s.From, "no-action"}, {pin.IsStuck, harness.Ref{}, "no-cavity"}, {pin.IsStuck, at("A99"), "no-cavity"}, {pin.Occupied, s.From, "known-wire"}, {pin.Differs, s.To, "no-such-terminal"}, {pin.IsStuck, s.From, ""}} {
		if code := say(x.what, x.at, ""); code != x.code {
			t.Errorf("%s at %s: %q, want %q", x.what, x.at, code, x.code)
		}
	}
	after := c.pin(job)
	if slices.Contains(stepIDs(after), s.ID) || len(after.Steps) >= len(v.Steps) || !after.Proof.Reached {
		t.Errorf("the stuck terminal is still to be moved: %d steps, %+v", len(after.Steps), after.Proof)
	}
	settle := job + "/pin/reports/" + after.Reports[0].ID + "/settle"
	if _, code := send[server.Done](c, "POST", settle, server.SettleRequest{ID: c.change(), Seen: after.Revision}); code != "no-reason" {
		t.Errorf("settled without saying how: %q", code)
	}
	if _, code := send[server.Done](c, "POST", settle, server.SettleRequest{ID: c.change(), Seen: after.Revision, Settled: "came out with the other pick"}); code != "" {
		t.Error(code)
	}
	if got := stepIDs(c.pin(job)); !slices.Equal(got, stepIDs(v)) {
		t.Error("settled, and the plan is not as it was")
	}
}

func TestOrderExchangeAndParts(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	wish := func(a, b string) string {
		_, code := send[server.Done](c, "POST", job+"/pin/order", server.WishRequest{ID: c.change(), Seen: c.pin(job).Revision, Step: a, Then: b})
		return code
	}
	if code := wish(v.Steps[1].ID, v.Steps[0].ID); code != "cannot-be" {
		t.Errorf("a move into a full cavity first: %q", code)
	}
	free := slices.IndexFunc(v.Steps[1:], func(s plan.Step) bool { return s.Kind == pin.Move && len(s.Needs) == 0 }) + 1
	if code := wish(v.Steps[free].ID, v.Steps[0].ID); code != "" || c.pin(job).Steps[0].ID != v.Steps[free].ID {
		t.Errorf("a step that nothing hinders: %q", code)
	}
	if code := wish(v.Steps[free].ID, ""); code != "" || c.pin(job).Steps[0].ID != v.Steps[0].ID {
		t.Errorf("the wish taken back: %q", code)
	}
	kinds := map[string][]harness.Ref{}
	for _, o := range v.Outputs {
		kinds[string(o.Kind)] = append(kinds[string(o.Kind)], o.At)
	}
	low, coil := kinds["low-side"], kinds["coil-driver"]
	swap := func(a, b harness.Ref) string {
		_, code := send[server.Done](c, "POST", job+"/pin/exchange", server.ExchangeRequest{ID: c.change(), Seen: c.pin(job).Revision, A: a, B: b, Reason: "a trial"})
		return code
	}
	if code := swap(low[0], coil[0]); code != "unlike-outputs" {
		t.Errorf("a low-side output with a coil driver: %q", code)
	}
	if code := swap(low[0], low[0]); code != "unlike-outputs" {
		t.Errorf("an output with itself: %q", code)
	}
	if code := swap(low[0], low[1]); code != "" || len(c.pin(job).Settings) != 2 {
		t.Errorf("two of a kind: %q, settings %q", code, c.pin(job).Settings)
	}
	if code := swap(low[1], low[2]); code != "" || len(c.pin(job).Settings) != 2 {
		t.Errorf("one of them with a third: %q, settings %q", code, c.pin(job).Settings)
	}
	if code := swap(low[2], harness.Ref{}); code != "" || len(c.pin(job).Settings) != 0 {
		t.Errorf("taken back from the other end: %q", code)
	}
	have := map[string]bool{"x": false}
	for _, o := range v.Orders {
		have[o.Name] = true
	}
	if _, code := send[server.Done](c, "PUT", job+"/pin/have", server.HaveRequest{ID: c.change(), Seen: c.pin(job).Revision, Have: have}); code != "" {
		t.Error(code)
	}
	if after := c.pin(job); !after.Orders[0].Have || len(after.Orders) != len(v.Orders) {
		t.Errorf("orders %+v", after.Orders)
	}
}

func TestFacesInWordsAndAsAFile(t *testing.T) {
	c := start(t)
	job := c.demoRefit(func(j *plan.Job) { j.Layouts = nil })
	v := c.pin(job)
	if v.Housings[0].Layout != nil || !slices.ContainsFunc(v.Findings, func(f finding.Finding) bool { return f.Code == "terminal-system" }) {
		t.Fatal("without faces it is known what travels")
	}
	put := func(connector string, r server.FaceRequest) string {
		r.ID, r.Seen = c.change(), c.pin(job).Revision
		_, code := send[server.Done](c, "PUT", job+"/pin/faces/"+connector, r)
		return code
	}
	for words, want := range map[string]string{"4 rows of bananas": "bad-face", strings.Repeat("x", 301): "bad-face"} {
		if code := put("A", server.FaceRequest{Words: words}); code != want {
			t.Errorf("%.20s: %q", words, code)
		}
	}
	if code := put("Q", server.FaceRequest{Words: "2x2"}); code != "no-such-connector" {
		t.Errorf("of a connector that is not there: %q", code)
	}
	if p, code := send[server.FacePreview](c, "POST", "/api/faces/preview", server.FaceRequest{Words: "2 rows of 4, from top right"}); code != "" || p.Ways != 8 || p.Face.Wire.Cells[0].Name != "4" || p.Face.Mating.Cells[0].Name != "1" {
		t.Errorf("previewed: %q %+v", code, p)
	}
	words := "4 rows of 13, from top right, sealed by a mat, 1.5 mm, family m15"
	for _, id := range []string{"A", "B"} {
		if code := put(id, server.FaceRequest{Words: words}); code != "" {
			t.Fatal(code)
		}
	}
	status, file, head := c.do("GET", job+"/pin/faces.json", "", nil)
	if status != http.StatusOK || !strings.Contains(head.Get("Content-Disposition"), "faces.json") {
		t.Fatal(status, head)
	}
	if code := put("A", server.FaceRequest{}); code != "" || c.pin(job).Housings[0].Layout != nil {
		t.Errorf("forgotten: %q", code)
	}
	open := func(text string) string {
		status, data, _ := c.do("POST", job+"/pin/faces?id="+c.change(), "application/json", strings.NewReader(text))
		_, code := decode[server.Done](c, status, data)
		return code
	}
	for name, text := range map[string]string{"damaged-faces": `{"format":1,"faces":{"A":{"rows":[{"slots":[{"name":"1"},{"name":"1"}]}]}}}`, "newer-format": `{"format":9,"faces":{}}`, "no-such-connector": strings.Replace(strings.Replace(string(file), `"A":`, `"X":`, 1), `"B":`, `"Y":`, 1)} {
		if code := open(text); code != name {
			t.Errorf("%s: %q", name, code)
		}
	}
	if code := open(`{"format":1,"faces":{"A":null}}`); code != "damaged-faces" {
		t.Errorf("a name without a face: %q", code)
	}
	if code := open(string(file)); code != "" {
		t.Fatal(code)
	}
	if v = c.pin(job); v.Housings[0].Layout == nil || v.Housings[0].Layout.Terminal.Family != "m15" {
		t.Errorf("opened: %+v", v.Housings[0].Layout)
	}
	if f := show[server.FacesView](c, job+"/pin/faces"); len(f.Connectors) < 2 || f.Faces["A"].Wire.Cells[0].Name != "13" || len(f.Mates) != 0 {
		t.Errorf("the faces: %d connectors, mates %v", len(f.Connectors), f.Mates)
	}
	if code := put("A", server.FaceRequest{Mate: true}); code != "no-mate" {
		t.Errorf("the other half of nothing: %q", code)
	}
	whole := c.packhorse(nil) // K and KB are the two halves of the bulkhead plug
	for _, x := range []struct {
		id string
		r  server.FaceRequest
	}{{"K", server.FaceRequest{Words: "2x9, from top left, male"}}, {"KB", server.FaceRequest{Mate: true}}} {
		x.r.ID, x.r.Seen = c.change(), c.pin(whole).Revision
		if _, code := send[server.Done](c, "PUT", whole+"/pin/faces/"+x.id, x.r); code != "" {
			t.Fatalf("%s: %s", x.id, code)
		}
	}
	if f := show[server.FacesView](c, whole+"/pin/faces"); f.Faces["KB"].Wire.Cells[0].Name != "9" || f.Faces["KB"].Mating.Cells[0].Name != "1" {
		t.Errorf("the other half is %+v", f.Faces["KB"].Wire.Cells[:2])
	}
	if slices.ContainsFunc(c.pin(whole).Findings, func(f finding.Finding) bool { return f.Code == "halves-do-not-meet" }) {
		t.Error("the two halves do not meet")
	}
	if l := show[server.LibraryView](c, "/api/faces"); len(l.Faces) < 10 || len(l.Blades) < 4 {
		t.Errorf("the library: %d faces", len(l.Faces))
	}
}

// Wires are joined in Match; what must never share a wire is refused.
func TestJoiningWires(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	m := show[server.MatchView](c, job+"/match")
	row := func(rows []harness.Row, function string) harness.Ref {
		i := slices.IndexFunc(rows, func(r harness.Row) bool { return strings.Contains(r.Function, function) })
		if i < 0 {
			t.Fatalf("no row for %q", function)
		}
		return rows[i].Ref
	}
	ask := func(side match.Side, at harness.Ref, action server.Action, to harness.Ref) string {
		return c.decide(job, server.DecideRequest{Seen: c.pin(job).Revision, Side: side, At: at, Action: action, To: to})
	}
	injector, coil := row(m.From.Rows, "Injector cyl. 1"), row(m.To.Rows, "Ignition coil 1")
	ground, toGround := row(m.From.Rows, "Power ground 2"), row(m.To.Rows, "Power ground 1")
	if code := ask(match.From, injector, server.JoinTo, coil); code != "vetoed" {
		t.Errorf("an injector with a coil: %q", code)
	}
	if code := ask(match.From, injector, server.JoinTo, row(m.To.Rows, "Injector 2")); code != "vetoed" {
		t.Errorf("two injectors: %q", code)
	}
	if code := ask(match.From, ground, server.JoinTo, at("A99")); code != "no-such-row" {
		t.Errorf("with nothing: %q", code)
	}
	if code := ask(match.From, ground, server.JoinTo, toGround); code != "" {
		t.Errorf("two grounds: %q", code)
	}
	if code := ask(match.To, row(m.To.Rows, "Power ground 2"), server.BranchOf, row(m.From.Rows, "Power ground 1")); code != "" {
		t.Errorf("a lead from a ground: %q", code)
	}
	if v := c.pin(job); len(v.Joints) != 2 || !v.Proof.Reached {
		t.Errorf("joints %+v, proof %+v", v.Joints, v.Proof)
	}
}

func TestSecondCheckAndBench(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := show[server.CheckView](c, job+"/pin/check")
	e := v.Expected[0]
	if !e.Power || v.Left == 0 {
		t.Fatalf("expected %+v", e)
	}
	say := func(r server.CheckRequest) string {
		r.ID, r.Seen = c.change(), c.pin(job).Revision
		_, code := send[server.Done](c, "POST", job+"/pin/check", r)
		return code
	}
	if code := say(server.CheckRequest{At: at("A99"), OK: true}); code != "no-cavity" {
		t.Errorf("of no cavity: %q", code)
	}
	if code := say(server.CheckRequest{At: e.At, Saw: "black"}); code != "" {
		t.Fatal(code)
	}
	if !slices.ContainsFunc(c.pin(job).Findings, func(f finding.Finding) bool { return f.Code == "second-check" && f.Severity == finding.Danger }) {
		t.Error("a power that differs is no danger")
	}
	if code := say(server.CheckRequest{At: e.At, Drop: true}); code != "" || len(show[server.CheckView](c, job+"/pin/check").Checks) != 0 {
		t.Errorf("taken back: %q", code)
	}
	b := show[server.BenchView](c, job+"/bench?stage=pin")
	last := b.Steps[len(b.Steps)-1]
	if b.Stage != "pin" || len(b.Steps) != len(c.pin(job).Steps) || last.Kind != "close" || !strings.Contains(last.After, "Count: ") {
		t.Errorf("the bench: %d steps, last %+v", len(b.Steps), last)
	}
	whole := c.packhorse(nil)
	thin := show[server.BenchView](c, whole+"/bench?stage=thin")
	if thin.Stage != "thin" || len(thin.Steps) != len(show[server.WorkView](c, whole+"/thin/work").Steps) {
		t.Errorf("Thin at the bench: %d steps", len(thin.Steps))
	}
	if link := show[server.LinkView](c, job+"/bench/link"); link.Address != "" || !strings.Contains(link.Why, "--lan") {
		t.Errorf("a link though nobody is let in: %+v", link)
	}
}
