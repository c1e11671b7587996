package server_test

import (
	"bytes"
	"encoding/json"
	"image"
	"image/png"
	"mime/multipart"
	"net/http"
	"slices"
	"strings"
	"testing"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
	"draxel/demo"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/server/gatherapi"
	"draxel/server/jobsapi"
	"draxel/server/thinapi"
	"draxel/server/workapi"
)

// packhorse opens the demonstration's whole harness from its job file.
func (c *client) packhorse(change func(*stored.Job)) string {
	c.t.Helper()
	jobs, err := demo.Jobs()
	if err != nil {
		c.t.Fatal(err)
	}
	return c.opened(jobs[1], change)
}

// opened opens a job from its job file, changed before.
func (c *client) opened(job stored.Job, change func(*stored.Job)) string {
	c.t.Helper()
	if change != nil {
		change(&job)
	}
	var b bytes.Buffer
	if err := exchange.WriteJob(&b, job, nil); err != nil {
		c.t.Fatal(err)
	}
	status, data, _ := c.do("POST", "/api/jobs/file", "application/json", &b)
	done, code := decode[desk.Done](c, status, data)
	if code != "" {
		c.t.Fatal(code)
	}
	return "/api/jobs/" + done.Job
}

func (c *client) thin(job string, seen int64, decisions ...thinapi.ThinDecision) (thinapi.ThinChange, string) {
	c.t.Helper()
	return send[thinapi.ThinChange](c, "POST", job+"/thin/decide",
		thinapi.ThinRequest{ID: c.change(), Seen: seen, Decisions: decisions})
}

// What a decision answers with, put into what was shown, is what is shown anew.
func TestADecisionAnswersWithWhatItChanged(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	before := show[thinapi.ThinView](c, job+"/thin")
	change, code := c.thin(job, before.Revision, thinapi.ThinDecision{On: thin.System, ID: "climate", Choice: thin.Goes,
		Reason: "no cooling wanted"})
	if code != "" {
		t.Fatal(code)
	}
	after := show[thinapi.ThinView](c, job+"/thin")
	patched := slices.Clone(before.Verdicts)
	for i, v := range change.Verdicts {
		patched[i] = v
	}
	if !slices.Equal(patched, after.Verdicts) || len(change.Verdicts) == 0 || change.Revision != after.Revision {
		t.Errorf("%d verdicts changed, and the patched ones are not those shown", len(change.Verdicts))
	}
	if len(change.Systems) == 0 || change.Systems[0].By.Reason != "no cooling wanted" {
		t.Errorf("systems %+v", change.Systems)
	}
	if _, code := c.thin(job, before.Revision, thinapi.ThinDecision{On: thin.System, ID: "climate",
		Choice: thin.Keep}); code != "stale" {
		t.Errorf("a stale decision: %q", code)
	}
	if _, code := send[desk.Done](c, "POST", job+"/undo", jobsapi.UndoRequest{ID: c.change()}); code != "" {
		t.Fatal(code)
	}
	if undone := show[thinapi.ThinView](c, job+"/thin"); !slices.Equal(undone.Verdicts, before.Verdicts) {
		t.Error("undo did not bring the verdicts back")
	}
}

func TestDecisionsOfThinThatAreRefused(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	seen := show[thinapi.ThinView](c, job+"/thin").Revision
	for _, x := range []struct {
		code string
		d    thinapi.ThinDecision
	}{
		{"reason-wanted", thinapi.ThinDecision{On: thin.Connector, ID: "WB", Choice: thin.Goes}}, // the classic disaster
		{"not-to-be-decided", thinapi.ThinDecision{On: thin.Connector, ID: "KB", Choice: thin.Goes}},
		{"not-to-be-decided", thinapi.ThinDecision{On: thin.Wire, ID: "Q", Choice: thin.Goes}},
		{"not-to-be-decided", thinapi.ThinDecision{On: thin.System, ID: "restraint", Choice: thin.Goes}},
		{"not-to-be-decided", thinapi.ThinDecision{On: thin.Joint, ID: "S1", Choice: thin.Goes}},
		{"no-action", thinapi.ThinDecision{On: thin.Wire, ID: "7001", Choice: "burn"}},
	} {
		if _, code := c.thin(job, seen, x.d); code != x.code {
			t.Errorf("%s %s: %q, want %s", x.d.On, x.d.ID, code, x.code)
		}
	}
	if _, code := c.thin(job, seen); code != "no-action" {
		t.Errorf("nothing decided: %q", code)
	}
	if _, code := c.thin(job, seen, thinapi.ThinDecision{On: thin.Connector, ID: "WB", Choice: thin.Goes,
		Reason: "the rear loom is new"}); code != "" {
		t.Errorf("with a reason: %q", code)
	}
	cut := show[thinapi.CutView](c, job+"/thin/cut?on=connector&id=WB")
	if len(cut.Dies) == 0 || !slices.Contains(cut.Legal, "brake lamps") || len(cut.Fuses) == 0 {
		t.Errorf("cut %+v", cut)
	}
}

// The work from the gate to the last wire, with a wire that does not come out on the way.
func TestTheWorkIsCarriedOut(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	tick := func(r workapi.TickRequest) string {
		r.ID, r.Seen = c.change(), show[workapi.WorkView](c, job+"/thin/work").Revision
		_, code := send[desk.Done](c, "POST", job+"/work/tick", r)
		return code
	}
	w := show[workapi.WorkView](c, job+"/thin/work")
	at := func(kind work.Kind) desk.WorkStep {
		return w.Steps[slices.IndexFunc(w.Steps, func(s desk.WorkStep) bool { return s.Kind == kind && !s.Done })]
	}
	gate, trim, out := at(thin.Gate), at(thin.Legs), at(thin.ComeOut)
	for code, r := range map[string]workapi.TickRequest{"needs-first": {Steps: []string{trim.ID}, Done: true},
		"gate-open": {Steps: []string{gate.ID}, Done: true}, "no-such-step": {Steps: []string{"x"}, Done: true},
		"no-action": {Steps: []string{gate.ID}, Outcome: "burnt"}} {
		if got := tick(r); got != code {
			t.Errorf("%q, want %s", got, code)
		}
	}
	if trim.Blocked == "" || len(gate.Missing) == 0 {
		t.Error("nothing is said of the gate")
	}
	if code := tick(workapi.TickRequest{Steps: []string{gate.ID}, Done: true,
		Reason: "a scrap harness to learn on"}); code != "" {
		t.Fatal(code)
	}
	if code := tick(workapi.TickRequest{Steps: []string{out.ID}, Done: true}); code != "needs-first" {
		t.Errorf("a wire fell out before it was cut: %q", code)
	}
	if code := tick(workapi.TickRequest{Steps: []string{out.ID}, Done: true, Outcome: "stuck"}); code != "" {
		t.Fatal(code)
	}
	w = show[workapi.WorkView](c, job+"/thin/work")
	if !w.Proof.Reached || slices.ContainsFunc(w.Steps, func(s desk.WorkStep) bool {
		return s.ID == out.ID && slices.Contains(s.Wires, out.Wires[0]) && s.Text == out.Text &&
			len(s.Needs) == len(out.Needs)
	}) {
		t.Errorf("a wire that does not come out changed nothing: %+v", w.Proof)
	}
	if v := show[thinapi.ThinView](c, job+"/thin"); !slices.ContainsFunc(v.Wires,
		func(x harness.Wire) bool { return x.ID == out.Wires[0]+" hidden leg" }) {
		t.Error("no splice was added to the model")
	}
	var rest []string
	for _, s := range show[workapi.WorkView](c, job+"/work").Steps {
		rest = append(rest, s.ID)
	}
	if code := tick(workapi.TickRequest{Steps: rest, Done: true}); code != "" {
		t.Fatal(code)
	}
	w = show[workapi.WorkView](c, job+"/thin/work")
	if k := w.Counts; k.Done != k.Steps || !k.Balanced || k.InHand != 0 || k.Pulled == 0 || k.Left != 0 ||
		w.Proof.Steps != 0 || !w.Proof.Reached {
		t.Errorf("when all is done: %+v %+v", k, w.Proof)
	}
	if code := tick(workapi.TickRequest{Steps: []string{trim.ID}}); code != "later-steps" {
		t.Errorf("a cut was taken back under what rests on it: %q", code)
	}
	last := w.Steps[len(w.Steps)-1]
	if code := tick(workapi.TickRequest{Steps: []string{last.ID}}); code != "" {
		t.Errorf("the last tick is not taken back: %q", code)
	}
}

func TestReadingsAndTracesOverTheAPI(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	zero, volts := 0.2, 12.0
	at := harness.Ref{Connector: "K", Cavity: "18"}
	seen := show[gatherapi.GatherView](c, job+"/gather").Revision
	for code, m := range map[string]gather.Measurement{"no-cavity": {Ohms: &zero}, "no-reading": {At: at},
		"bad-volts": {At: at, Volts: &volts}} {
		if _, got := send[desk.Done](c, "POST", job+"/gather/readings",
			gatherapi.ReadingRequest{ID: c.change(), Seen: seen, Reading: m}); got != code {
			t.Errorf("%q, want %s", got, code)
		}
	}
	id := c.change()
	if _, code := send[desk.Done](c, "POST", job+"/gather/readings",
		gatherapi.ReadingRequest{ID: id, Seen: seen, Reading: gather.Measurement{At: at, Ohms: &zero}}); code != "" {
		t.Fatal(code)
	}
	v := show[jobsapi.JobView](c, job)
	overturned := func(v jobsapi.JobView) bool {
		for _, f := range v.Findings {
			if f.Code == "reading-overturns" && f.Subject == "K18" {
				return true
			}
		}
		return false
	}
	if !overturned(v) {
		t.Error("the reading overturns nothing")
	}
	if _, code := send[desk.Done](c, "POST", job+"/gather/readings/"+id+"/drop",
		gatherapi.DropRequest{ID: c.change(), Seen: v.Revision}); code != "" || overturned(show[jobsapi.JobView](c, job)) {
		t.Errorf("the reading is not taken back: %q", code)
	}
	seen = show[gatherapi.GatherView](c, job+"/gather").Revision
	for code, x := range map[string]gather.Trace{"no-cavity": {Saw: gather.EndsOff},
		"not-traced": {Wire: "Q", At: at, Saw: gather.JoinsAt, With: []string{"Q"}}} {
		if _, got := send[desk.Done](c, "POST", job+"/gather/traces",
			gatherapi.TraceRequest{ID: c.change(), Seen: seen, Trace: x}); got != code {
			t.Errorf("%q, want %s", got, code)
		}
	}
	if _, code := send[desk.Done](c, "POST", job+"/gather/traces",
		gatherapi.TraceRequest{ID: c.change(), Seen: seen,
			Trace: gather.Trace{Wire: "P102", Saw: gather.GoesHere,
				To: harness.Ref{Connector: "GB", Cavity: "1"}}}); code != "" {
		t.Fatal(code)
	}
	circuit := show[thinapi.CircuitView](c, job+"/thin/circuit?wire=P102")
	if len(circuit.Beliefs) != 1 || circuit.Beliefs[0].Was != "not seen" || circuit.Beliefs[0].Now != "GB1" ||
		len(circuit.Limbs["P102"]) == 0 {
		t.Errorf("circuit %+v", circuit)
	}
}

func TestFactsOfAJob(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	put := func(path string, body any) string {
		_, code := send[desk.Done](c, "PUT", job+"/gather/"+path, body)
		return code
	}
	seen := show[gatherapi.GatherView](c, job+"/gather").Revision
	if code := put("before", gatherapi.BeforeRequest{ID: c.change(), Seen: seen,
		Before: gather.Before{Unplugged: []gather.Unplugged{{Item: "airbag",
			KeyOff: true}}}}); code != "not-to-be-unplugged" {
		t.Errorf("an airbag was unplugged: %q", code)
	}
	if code := put("identity", gatherapi.IdentityRequest{ID: c.change(), Seen: seen,
		Identity: gather.Identity{Sources: []gather.Origin{{Year: "1999"}}}}); code != "no-name" {
		t.Errorf("a source without a name: %q", code)
	}
	if code := put("looked/IJ1", gatherapi.LookedRequest{ID: c.change(), Seen: seen,
		Looked: gather.Looked{Labelled: true, Seals: gather.Broken}}); code != "" {
		t.Fatal(code)
	}
	v := show[gatherapi.GatherView](c, job+"/gather")
	i := slices.IndexFunc(v.Connectors, func(x gatherapi.ConnectorLine) bool { return x.ID == "IJ1" })
	if !v.Connectors[i].Looked.Labelled || !slices.Contains(v.Connectors[i].Replace, "seals") {
		t.Errorf("connector %+v", v.Connectors[i])
	}
	if code := put("items", gatherapi.ItemsRequest{ID: c.change(), Seen: v.Revision,
		Items: map[string]bool{v.Open[0].ID: true}}); code != "" ||
		!show[gatherapi.GatherView](c, job+"/gather").Open[0].Done {
		t.Errorf("an open item that is seen to: %q", code)
	}
	list := show[gatherapi.SheetView](c, job+"/gather/lists/wires")
	edit := func(e ...gather.CellEdit) string {
		_, code := send[desk.Done](c, "POST", job+"/gather/lists/wires/cells",
			gatherapi.SheetEditRequest{ID: c.change(), Seen: show[gatherapi.SheetView](c, job+"/gather/lists/wires").Revision,
				Edits: e})
		return code
	}
	if code := edit(gather.CellEdit{Line: list.Reading.Next, Field: "wire", Text: "N1"},
		gather.CellEdit{Line: list.Reading.Next, Field: "from", Text: "G2"},
		gather.CellEdit{Line: list.Reading.Next, Field: "fromCavity", Text: "9"}); code != "" {
		t.Fatal(code)
	}
	if code := edit(gather.CellEdit{Line: 2, Field: "burnt"}); code != "bad-cell" {
		t.Errorf("a cell that is none: %q", code)
	}
	if th := show[thinapi.ThinView](c, job+"/thin"); th.Wires[len(th.Wires)-1].ID != "N1" &&
		!slices.ContainsFunc(th.Wires, func(w harness.Wire) bool { return w.ID == "N1" }) {
		t.Error("the line added is no wire")
	}
	if status, _, _ := c.do("GET", job+"/gather/labels.pdf", "", nil); status != http.StatusOK {
		t.Errorf("labels: %d", status)
	}
}

func TestAnEarlierJobsMap(t *testing.T) {
	c := start(t)
	past := c.packhorse(nil)
	job := c.packhorse(func(j *stored.Job) { j.Thin, j.Title = nil, "Second" })
	before := show[thinapi.ThinView](c, job+"/thin")
	_, code := send[desk.Done](c, "POST", job+"/gather/earlier",
		gatherapi.EarlierRequest{ID: c.change(), Seen: before.Revision, Job: strings.TrimPrefix(past, "/api/jobs/")})
	if code != "" {
		t.Fatal(code)
	}
	v := show[thinapi.ThinView](c, job+"/thin")
	if len(v.Brought) != 6 || v.Counts.Goes != before.Counts.Goes || v.Counts.Goes != 0 {
		t.Errorf("%d brought, %d go although nobody has verified", len(v.Brought), v.Counts.Goes)
	}
	d := v.Brought[slices.IndexFunc(v.Brought, func(d thin.Decision) bool { return d.ID == "alarm" })]
	if _, code := c.thin(job, v.Revision, thinapi.ThinDecision{On: d.On, ID: d.ID, Choice: d.Choice,
		Reason: d.Reason}); code != "" {
		t.Fatal(code)
	}
	if v = show[thinapi.ThinView](c, job+"/thin"); len(v.Brought) != 5 || v.Counts.Goes == 0 {
		t.Errorf("%d brought, %d go after one was taken over", len(v.Brought), v.Counts.Goes)
	}
}

func TestPhotographsOverTheAPI(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	var pixels bytes.Buffer
	if err := png.Encode(&pixels, image.NewGray(image.Rect(0, 0, 30, 20))); err != nil {
		t.Fatal(err)
	}
	upload := func(name string, data []byte, cut int) (string, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		id := c.change()
		meta, _ := json.Marshal(gatherapi.PhotoMeta{ID: id, Connector: "SP", Seen: 99})
		_ = w.WriteField("meta", string(meta))
		part, _ := w.CreateFormFile("file", name)
		_, _ = part.Write(data)
		_ = w.Close()
		status, reply, _ := c.do("POST", job+"/gather/photos", w.FormDataContentType(),
			bytes.NewReader(b.Bytes()[:b.Len()-cut]))
		_, code := decode[desk.Done](c, status, reply)
		return id, code
	}
	for code, x := range map[string]struct {
		name string
		data []byte
		cut  int
	}{"too-large": {"x.png", make([]byte, 40<<20), 0}, "not-a-picture": {"x.png", []byte("<script>"), 0},
		"not-what-it-says": {"x.jpg", pixels.Bytes(), 0}, "bad-request": {"x.png", pixels.Bytes(), 60}} {
		if _, got := upload(x.name, x.data, x.cut); got != code {
			t.Errorf("%s: %q", code, got)
		}
	}
	if n := len(show[gatherapi.GatherView](c, job+"/gather").Photos); n != 0 {
		t.Fatalf("%d photographs of refused uploads", n)
	}
	id, code := upload("x.png", pixels.Bytes(), 0)
	if code != "" {
		t.Fatal(code)
	}
	for _, path := range []string{"", "/thumb"} {
		status, data, head := c.do("GET", job+"/gather/photos/"+id+path, "", nil)
		if status != http.StatusOK || head.Get("Content-Type") != "image/jpeg" || !bytes.HasPrefix(data, []byte("\xff\xd8")) {
			t.Errorf("photograph%s: %d %s", path, status, head.Get("Content-Type"))
		}
	}
	status, file, _ := c.do("GET", job+"/file", "", nil)
	if status != http.StatusOK {
		t.Fatal(status)
	}
	status, reply, _ := c.do("POST", "/api/jobs/file", "application/json", bytes.NewReader(file))
	done, code := decode[desk.Done](c, status, reply)
	if code != "" {
		t.Fatal(code)
	}
	if status, _, _ := c.do("GET", "/api/jobs/"+done.Job+"/gather/photos/"+id, "", nil); status != http.StatusOK {
		t.Error("the job file does not bring its photographs")
	}
}

func TestTheReplyToADecisionIsSmall(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *stored.Job) { demo.Enlarge(j, 3) })
	v := show[thinapi.ThinView](c, job+"/thin")
	if len(v.Wires) < 1000 {
		t.Fatalf("only %d wires", len(v.Wires))
	}
	body, err := json.Marshal(thinapi.ThinRequest{ID: c.change(), Seen: v.Revision,
		Decisions: []thinapi.ThinDecision{{On: thin.System, ID: "fuel", Choice: thin.Goes, Reason: "a race car"}}})
	if err != nil {
		t.Fatal(err)
	}
	status, reply, _ := c.do("POST", job+"/thin/decide", "application/json", bytes.NewReader(body))
	if status != http.StatusOK || len(reply) > 50_000 {
		t.Errorf("status %d, %d bytes", status, len(reply))
	}
}
