package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"slices"
	"strings"
	"testing"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/demo"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/server/gatherapi"
	"draxel/server/pinapi"
	"draxel/server/thinapi"
	"draxel/server/workapi"
)

// A list is brought as a file, read, put right and exported with the job.
func TestAListIsBrought(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *stored.Job) { j.Sheets = nil })
	data, err := demo.File("packhorse/wires.csv")
	if err != nil {
		t.Fatal(err)
	}
	meta := map[string]string{"id": c.change(), "seen": "9", "meta": `{"name":"wires","trust":"copied","source":"traced"}`}
	if _, code := bring[desk.Done](c, "PUT", job+"/gather/lists/wires", data, meta); code != "" {
		t.Fatal(code)
	}
	v := show[gatherapi.SheetView](c, job+"/gather/lists/wires")
	if len(v.Reading.Rows) != 274 || v.Source != "traced" || v.Fields[0].Name != "wire" {
		t.Errorf("%d rows from %q", len(v.Reading.Rows), v.Source)
	}
	if th := show[thinapi.ThinView](c, job+"/thin"); len(th.Wires) < 274 {
		t.Errorf("%d wires", len(th.Wires))
	}
	for code, x := range map[string]struct {
		kind string
		data string
	}{"no-such-list": {"nonsense", "a,b\n1,2\n"}, "no-rows": {"wires", "a,b\n1,2\n"}} {
		meta["id"] = c.change()
		if _, got := bring[desk.Done](c, "PUT", job+"/gather/lists/"+x.kind, []byte(x.data), meta); got != code {
			t.Errorf("%q, want %s", got, code)
		}
	}
	odd := []byte("one;two;three\nW1;A;1\nW2;A;2\n")
	p, code := bring[gatherapi.SheetPreview](c, "POST", job+"/gather/lists/wires/preview", odd, map[string]string{})
	if code != "" || p.Problem == "" || p.Rows != 0 || len(p.Sample) != 3 {
		t.Errorf("a list whose headings say nothing: %+v, %q", p, code)
	}
	p, code = bring[gatherapi.SheetPreview](c, "POST", job+"/gather/lists/wires/preview", odd, map[string]string{"map": `{"0":"wire","1":"from","2":"fromCavity"}`})
	if code != "" || p.Problem != "" || p.Rows != 3 {
		t.Errorf("after its columns were named: %+v, %q", p, code)
	}
	if _, code := bring[gatherapi.SheetPreview](c, "POST", job+"/gather/lists/wires/preview", odd,
		map[string]string{"map": "nonsense"}); code != "bad-request" {
		t.Errorf("%q", code)
	}
	struck := gatherapi.SheetEditRequest{ID: c.change(), Seen: v.Revision, Edits: []gather.CellEdit{},
		Gone: []int{v.Reading.Rows[0].Line}}
	if _, code := send[desk.Done](c, "POST", job+"/gather/lists/wires/cells", struck); code != "" {
		t.Fatal(code)
	}
	if after := show[gatherapi.SheetView](c, job+"/gather/lists/wires"); len(after.Reading.Rows) != 273 {
		t.Errorf("%d rows after one was struck out", len(after.Reading.Rows))
	}
	begun := gatherapi.SheetEditRequest{ID: c.change(), Seen: 99,
		Edits: []gather.CellEdit{{Line: 2, Field: "branch", Text: "trunk"}}}
	if _, code := send[desk.Done](c, "POST", job+"/gather/lists/branches/cells", begun); code != "" {
		t.Fatal(code)
	}
	if b := show[gatherapi.SheetView](c, job+"/gather/lists/branches"); len(b.Reading.Rows) != 1 ||
		b.Reading.Rows[0].Cells["branch"] != "trunk" {
		t.Errorf("a list begun by hand: %+v", b.Reading)
	}
}

func TestThingsOfThinThatAreNotThere(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	for path, code := range map[string]string{
		"/thin/cut?on=wire&id=Q": "no-such-thing", "/thin/cut?on=burnt&id=7001": "no-such-thing",
		"/thin/circuit?wire=Q": "no-such-thing", "/gather/photos/q": "no-such-photo",
		"/gather/photos/q/thumb": "no-such-photo",
		"/gather/lists/nonsense": "no-such-list",
	} {
		if _, got := send[json.RawMessage](c, "GET", job+path, nil); got != code {
			t.Errorf("%s: %q, want %s", path, got, code)
		}
	}
	for _, path := range []string{"/gather", "/thin", "/thin/work", "/gather/labels.pdf"} {
		if _, got := send[json.RawMessage](c, "GET", "/api/jobs/none"+path, nil); got != "no-such-job" {
			t.Errorf("%s: %q", path, got)
		}
	}
	if _, got := send[desk.Done](c, "POST", job+"/gather/earlier",
		gatherapi.EarlierRequest{ID: c.change(), Job: "none"}); got != "no-such-job" {
		t.Errorf("an earlier job that is not there: %q", got)
	}
	refit := c.refit()
	if _, got := send[desk.Done](c, "POST", job+"/gather/earlier",
		gatherapi.EarlierRequest{ID: c.change(), Job: strings.TrimPrefix(refit, "/api/jobs/")}); got != "nothing-applies" {
		t.Errorf("an earlier job that has nothing to say: %q", got)
	}
}

func TestHowTheBenchIsSet(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	b := show[workapi.WorkView](c, job+"/thin/work").Bench
	put := func(change func(*thin.Bench)) string {
		x := b
		change(&x)
		_, code := send[desk.Done](c, "PUT", job+"/thin/bench", thinapi.BenchRequest{ID: c.change(), Seen: 99, Bench: x})
		return code
	}
	if code := put(func(b *thin.Bench) { b.School = "burn" }); code != "no-school" {
		t.Errorf("%q", code)
	}
	if code := put(func(b *thin.Bench) { b.Rates.Join = -1 }); code != "bad-number" {
		t.Errorf("%q", code)
	}
	if code := put(func(b *thin.Bench) { b.School, b.Stub = thin.CutSeal, 75 }); code != "" {
		t.Fatal(code)
	}
	w := show[workapi.WorkView](c, job+"/thin/work")
	if !slices.ContainsFunc(w.Steps, func(s desk.WorkStep) bool { return s.Kind == thin.Legs }) || !w.Proof.Reached {
		t.Error("the school that cuts does not cut")
	}
	if !slices.ContainsFunc(w.Steps, func(s desk.WorkStep) bool {
		return s.Kind == thin.Legs &&
			strings.Contains(s.Text, "75 mm")
	}) {
		t.Error("the length of a stub is not the job's")
	}
	if show[pinapi.PinView](c, job+"/pin").Steps == nil {
		t.Error("no list of steps")
	}
	if status, _, _ := c.do("GET", c.refit()+"/pin/sheet.pdf", "", nil); status != http.StatusConflict {
		t.Errorf("a sheet of nothing: %d", status)
	}
}

// What is taken out of connectors that stay stands on a sheet in every kind of job.
func TestTheSheetOfAJoinedKind(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	v := show[pinapi.PinView](c, job+"/pin")
	if v.Moves || len(v.Steps) == 0 || !v.Proof.Reached || !strings.Contains(v.Open, "not decided") {
		t.Errorf("%d steps, %+v, %q", len(v.Steps), v.Proof, v.Open)
	}
	seen := map[harness.Ref]bool{}
	for _, w := range v.Wires {
		if seen[w.At] {
			t.Errorf("%s stands twice", w.At)
		}
		seen[w.At] = true
	}
	for _, s := range v.Steps {
		if s.From != (harness.Ref{}) && !seen[s.From] {
			t.Errorf("the wire of step %q is not shown on its face", s.Text)
		}
	}
	status, pdf, _ := c.do("GET", job+"/pin/sheet.pdf", "", nil)
	if status != http.StatusOK || !bytes.HasPrefix(pdf, []byte("%PDF")) {
		t.Errorf("sheet: %d", status)
	}
}

// A job file from elsewhere brings nothing but pixels, and one that does not hang together is refused.
func TestJobFilesWithPictures(t *testing.T) {
	c := start(t)
	jobs, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	jobs[1].Photos = []stored.Photo{{ID: "p1", Connector: "SP"}}
	made := ""
	open := func(pictures map[string]exchange.Picture, change func(*stored.Job)) string {
		j := jobs[1]
		if change != nil {
			change(&j)
		}
		var b bytes.Buffer
		if err := exchange.WriteJob(&b, j, pictures); err != nil {
			t.Fatal(err)
		}
		status, data, _ := c.do("POST", "/api/jobs/file", "application/json", &b)
		done, code := decode[desk.Done](c, status, data)
		made = done.Job
		return code
	}
	if code := open(map[string]exchange.Picture{"p1": {Data: []byte("<script>alert(1)</script>")}},
		nil); code != "damaged-job" {
		t.Errorf("a script for a picture: %q", code)
	}
	if code := open(nil, func(j *stored.Job) {
		j.Sheets = map[gather.SheetKind]*gather.Sheet{"nonsense": {Cells: [][]string{{"a"}}}}
	}); code != "damaged-job" {
		t.Errorf("a list that is none: %q", code)
	}
	if code := open(nil, nil); code != "" {
		t.Errorf("without its pictures: %q", code)
	}
	if status, _, _ := c.do("GET", "/api/jobs/"+made+"/file", "", nil); status != http.StatusOK {
		t.Errorf("a job whose pictures are not there is not saved: %d", status)
	}
}

// Two people decide about the same connector: the second is told, and nothing is lost.
func TestTwoPeopleThinOneHarness(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	seen := show[thinapi.ThinView](c, job+"/thin").Revision
	errs := make(chan string, 8)
	for i := range 8 {
		go func() {
			body, _ := json.Marshal(thinapi.ThinRequest{ID: "both" + string(rune('0'+i)), Seen: seen,
				Decisions: []thinapi.ThinDecision{{On: thin.System, ID: "lighting",
					Choice: []thin.Choice{thin.Keep, thin.Goes}[i%2]}}})
			status, data, _ := c.do("POST", job+"/thin/decide", "application/json", bytes.NewReader(body))
			_, code := decode[thinapi.ThinChange](c, status, data)
			errs <- code
		}()
	}
	done, stale := 0, 0
	for range 8 {
		switch code := <-errs; code {
		case "":
			done++
		case "stale":
			stale++
		default:
			t.Errorf("%q", code)
		}
	}
	if done != 1 || stale != 7 {
		t.Errorf("%d decided, %d were told that somebody else had", done, stale)
	}
}

// An upload whose connection breaks half way leaves nothing behind.
func TestAnUploadThatBreaksOff(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	address := strings.TrimPrefix(c.url, "http://")
	for _, sent := range []int{0, 200, 5000} {
		conn, err := net.Dial("tcp", address)
		if err != nil {
			t.Fatal(err)
		}
		body := "--x\r\nContent-Disposition: form-data; " +
			"name=\"meta\"\r\n\r\n{\"id\":\"p1\",\"connector\":\"SP\"}\r\n--x\r\nContent-Disposition: form-data; " +
			"name=\"file\"; filename=\"a.png\"\r\n\r\n" + strings.Repeat("\x89PNG", 5000)
		head := fmt.Sprintf("POST %s/gather/photos HTTP/1.1\r\nHost: %s\r\nContent-Type: multipart/form-data; "+
			"boundary=x\r\nContent-Length: %d\r\n\r\n", job, address, len(body)+100)
		if _, err := conn.Write([]byte(head + body[:sent])); err != nil {
			t.Fatal(err)
		}
		if err := conn.Close(); err != nil {
			t.Fatal(err)
		}
	}
	v := show[gatherapi.GatherView](c, job+"/gather")
	if len(v.Photos) != 0 || v.Revision != 1 {
		t.Errorf("%d photographs at revision %d", len(v.Photos), v.Revision)
	}
	if status, _, _ := c.do("GET", job+"/gather/photos/p1", "", nil); status != http.StatusNotFound {
		t.Errorf("half a picture: %d", status)
	}
}

// A restraint circuit is neither probed nor followed nor called something else on our word.
func TestRestraintIsLeftAlone(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *stored.Job) {
		sheet := *j.Sheets[gather.WireList]
		sheet.Cells = append(slices.Clone(sheet.Cells), []string{"R1", "SR", "1", "SQ", "1", "YE", "0.5", "",
			"Airbag, driver"})
		j.Sheets[gather.WireList] = &sheet
	})
	at, v := harness.Ref{Connector: "SR", Cavity: "1"}, 12.0
	if _, code := send[desk.Done](c, "POST", job+"/gather/readings",
		gatherapi.ReadingRequest{ID: c.change(), Seen: 9,
			Reading: gather.Measurement{At: at, Volts: &v, Key: gather.KeyRun}}); code != "left-alone" {
		t.Errorf("a restraint circuit was probed: %q", code)
	}
	for _, x := range []gather.Trace{{At: at, Saw: gather.EndsOff}, {Wire: "R1", Saw: gather.NamedAs, Text: "Horn"}} {
		if _, code := send[desk.Done](c, "POST", job+"/gather/traces",
			gatherapi.TraceRequest{ID: c.change(), Seen: 9, Trace: x}); code != "left-alone" {
			t.Errorf("a restraint circuit was traced: %q", code)
		}
	}
	for _, d := range []thinapi.ThinDecision{{On: thin.Wire, ID: "R1", Choice: thin.Goes},
		{On: thin.Connector, ID: "SR", Choice: thin.Goes, Reason: "no"}} {
		if _, code := c.thin(job, 9, d); code != "not-to-be-decided" {
			t.Errorf("%s %s: %q", d.On, d.ID, code)
		}
	}
	w := show[workapi.WorkView](c, job+"/thin/work")
	if !slices.ContainsFunc(w.Steps, func(s desk.WorkStep) bool {
		return s.Kind == thin.Caution && strings.Contains(s.Text, "restraint circuits")
	}) {
		t.Error("no caution about the restraint circuits")
	}
}
