package server_test

import (
	"net/http"
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/repin"
	"draxel/core/stored"
	"draxel/server/desk"
	"draxel/server/matchapi"
	"draxel/server/pinapi"
)

func TestOrderExchangeAndParts(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	v := c.pin(job)
	wish := func(a, b string) string {
		_, code := send[desk.Done](c, "POST", job+"/pin/order",
			pinapi.WishRequest{ID: c.change(), Seen: c.pin(job).Revision, Step: a, Then: b})
		return code
	}
	if code := wish(v.Steps[1].ID, v.Steps[0].ID); code != "cannot-be" {
		t.Errorf("a move into a full cavity first: %q", code)
	}
	free := slices.IndexFunc(v.Steps[1:], func(s repin.Step) bool { return s.Kind == pin.Move && len(s.Needs) == 0 }) + 1
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
		_, code := send[desk.Done](c, "POST", job+"/pin/exchange",
			pinapi.ExchangeRequest{ID: c.change(), Seen: c.pin(job).Revision, A: a, B: b, Reason: "a trial"})
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
	if _, code := send[desk.Done](c, "PUT", job+"/pin/have",
		pinapi.HaveRequest{ID: c.change(), Seen: c.pin(job).Revision, Have: have}); code != "" {
		t.Error(code)
	}
	if after := c.pin(job); !after.Orders[0].Have || len(after.Orders) != len(v.Orders) {
		t.Errorf("orders %+v", after.Orders)
	}
}

func TestFacesInWordsAndAsAFile(t *testing.T) {
	c := start(t)
	job := c.demoRefit(func(j *stored.Job) { j.Layouts = nil })
	v := c.pin(job)
	if v.Housings[0].Layout != nil || !slices.ContainsFunc(v.Findings,
		func(f finding.Finding) bool { return f.Code == "terminal-system" }) {
		t.Fatal("without faces it is known what travels")
	}
	put := func(connector string, r pinapi.FaceRequest) string {
		r.ID, r.Seen = c.change(), c.pin(job).Revision
		_, code := send[desk.Done](c, "PUT", job+"/pin/faces/"+connector, r)
		return code
	}
	for words, want := range map[string]string{"4 rows of bananas": "bad-face", strings.Repeat("x", 301): "bad-face"} {
		if code := put("A", pinapi.FaceRequest{Words: words}); code != want {
			t.Errorf("%.20s: %q", words, code)
		}
	}
	if code := put("Q", pinapi.FaceRequest{Words: "2x2"}); code != "no-such-connector" {
		t.Errorf("of a connector that is not there: %q", code)
	}
	if p, code := send[pinapi.FacePreview](c, "POST", "/api/faces/preview",
		pinapi.FaceRequest{Words: "2 rows of 4, from top right"}); code != "" || p.Ways != 8 ||
		p.Face.Wire.Cells[0].Name != "4" || p.Face.Mating.Cells[0].Name != "1" {
		t.Errorf("previewed: %q %+v", code, p)
	}
	words := "4 rows of 13, from top right, sealed by a mat, 1.5 mm, family m15"
	for _, id := range []string{"A", "B"} {
		if code := put(id, pinapi.FaceRequest{Words: words}); code != "" {
			t.Fatal(code)
		}
	}
	status, file, head := c.do("GET", job+"/pin/faces.json", "", nil)
	if status != http.StatusOK || !strings.Contains(head.Get("Content-Disposition"), "faces.json") {
		t.Fatal(status, head)
	}
	if code := put("A", pinapi.FaceRequest{}); code != "" || c.pin(job).Housings[0].Layout != nil {
		t.Errorf("forgotten: %q", code)
	}
	open := func(text string) string {
		status, data, _ := c.do("POST", job+"/pin/faces?id="+c.change(), "application/json", strings.NewReader(text))
		_, code := decode[desk.Done](c, status, data)
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
	if f := show[pinapi.FacesView](c, job+"/pin/faces"); len(f.Connectors) < 2 ||
		f.Faces["A"].Wire.Cells[0].Name != "13" || len(f.Mates) != 0 {
		t.Errorf("the faces: %d connectors, mates %v", len(f.Connectors), f.Mates)
	}
	if code := put("A", pinapi.FaceRequest{Mate: true}); code != "no-mate" {
		t.Errorf("the other half of nothing: %q", code)
	}
	whole := c.packhorse(nil) // K and KB are the two halves of the bulkhead plug
	for _, x := range []struct {
		id string
		r  pinapi.FaceRequest
	}{{"K", pinapi.FaceRequest{Words: "2x9, from top left, male"}}, {"KB", pinapi.FaceRequest{Mate: true}}} {
		x.r.ID, x.r.Seen = c.change(), c.pin(whole).Revision
		if _, code := send[desk.Done](c, "PUT", whole+"/pin/faces/"+x.id, x.r); code != "" {
			t.Fatalf("%s: %s", x.id, code)
		}
	}
	if f := show[pinapi.FacesView](c, whole+"/pin/faces"); f.Faces["KB"].Wire.Cells[0].Name != "9" ||
		f.Faces["KB"].Mating.Cells[0].Name != "1" {
		t.Errorf("the other half is %+v", f.Faces["KB"].Wire.Cells[:2])
	}
	if slices.ContainsFunc(c.pin(whole).Findings, func(f finding.Finding) bool { return f.Code == "halves-do-not-meet" }) {
		t.Error("the two halves do not meet")
	}
	if l := show[pinapi.LibraryView](c, "/api/faces"); len(l.Faces) < 10 || len(l.Blades) < 4 {
		t.Errorf("the library: %d faces", len(l.Faces))
	}
}

// Wires are joined in Match; what must never share a wire is refused.
func TestJoiningWires(t *testing.T) {
	c := start(t)
	job := c.demoRefit(nil)
	m := show[matchapi.MatchView](c, job+"/match")
	row := func(rows []harness.Row, function string) harness.Ref {
		i := slices.IndexFunc(rows, func(r harness.Row) bool { return strings.Contains(r.Function, function) })
		if i < 0 {
			t.Fatalf("no row for %q", function)
		}
		return rows[i].Ref
	}
	ask := func(side match.Side, at harness.Ref, action matchapi.Action, to harness.Ref) string {
		return c.decide(job, matchapi.DecideRequest{Seen: c.pin(job).Revision, Side: side, At: at, Action: action, To: to})
	}
	injector, coil := row(m.From.Rows, "Injector cyl. 1"), row(m.To.Rows, "Ignition coil 1")
	ground, toGround := row(m.From.Rows, "Power ground 2"), row(m.To.Rows, "Power ground 1")
	if code := ask(match.From, injector, matchapi.JoinTo, coil); code != "vetoed" {
		t.Errorf("an injector with a coil: %q", code)
	}
	if code := ask(match.From, injector, matchapi.JoinTo, row(m.To.Rows, "Injector 2")); code != "vetoed" {
		t.Errorf("two injectors: %q", code)
	}
	if code := ask(match.From, ground, matchapi.JoinTo, at("A99")); code != "no-such-row" {
		t.Errorf("with nothing: %q", code)
	}
	if code := ask(match.From, ground, matchapi.JoinTo, toGround); code != "" {
		t.Errorf("two grounds: %q", code)
	}
	if code := ask(match.To, row(m.To.Rows, "Power ground 2"), matchapi.BranchOf,
		row(m.From.Rows, "Power ground 1")); code != "" {
		t.Errorf("a lead from a ground: %q", code)
	}
	// A ground that is joined and a lead that is added meet at one place: it is one joint of three wires, not two.
	if v := c.pin(job); len(v.Joints) != 1 || len(v.Joints[0].Ends) != 3 || !v.Proof.Reached {
		t.Errorf("joints %+v, proof %+v", v.Joints, v.Proof)
	}
}
