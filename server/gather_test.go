package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"testing"

	"draxel/server/desk"
	"draxel/server/gatherapi"
	"draxel/server/jobsapi"
)

func TestGatherRefusesAndCorrects(t *testing.T) {
	c := start(t)
	job := c.refit()
	meta := `{"name":"x","trust":"copied"}`
	for name, upload := range map[string]struct {
		data   []byte
		fields map[string]string
	}{
		"too-large": {make([]byte, 50<<20), nil},
		"not-text":  {[]byte("\x7fELF\x00\x01\x02"), nil},
		"empty":     {nil, map[string]string{"text": "  "}},
		"no-rows":   {nil, map[string]string{"text": "hello there, how are you"}},
		"no-trust":  {nil, map[string]string{"text": "Cavity,Function\n1,Ground", "meta": `{"name":"x"}`}},
		"bad-date":  {nil, map[string]string{"text": "Cavity,Function\n1,Ground", "meta": `{"name":"x","trust":"maker","date":"soon"}`}},
	} {
		fields := map[string]string{"id": c.change(), "meta": meta, "seen": "99"}
		for k, v := range upload.fields {
			fields[k] = v
		}
		if _, code := bring[desk.Done](c, "PUT", job+"/gather/from", upload.data, fields); code != name {
			t.Errorf("%s: got %q", name, code)
		}
	}
	before := show[gatherapi.TableView](c, job+"/gather/to")
	if len(before.Reading.Rows) != 90 {
		t.Fatalf("%d rows", len(before.Reading.Rows))
	}
	var request gatherapi.CorrectRequest
	for _, r := range before.Reading.Rows {
		if r.Circuit == "4408" { // the misprinted row: coil 4 stands as coil 3
			text := fmt.Sprintf(`{"cells":[{"line":%d,"column":"function","text":"Ignition coil 4, trigger"}]}`, r.Line)
			if err := json.Unmarshal([]byte(text), &request.Options); err != nil {
				t.Fatal(err)
			}
		}
	}
	request.ID, request.Seen, request.Meta = c.change(), before.Revision, before.Meta
	if _, code := send[desk.Done](c, "PUT", job+"/gather/to/options", request); code != "" {
		t.Fatal(code)
	}
	for _, f := range show[jobsapi.JobView](c, job).Findings {
		if f.Code == "cylinder-twice" {
			t.Errorf("the misprint was put right, yet %s", f.Text)
		}
	}
	_, csv, _ := c.do("GET", job+"/gather/to/csv", "", nil)
	if !bytes.Contains(csv, []byte("Ignition coil 4, trigger")) {
		t.Error("the export does not hold the correction")
	}
}

func TestPreviewKeepsNothing(t *testing.T) {
	c := start(t)
	done, _ := send[desk.Done](c, "POST", "/api/jobs", jobsapi.JobRequest{ID: c.change(), Title: "x", Kind: "re-pinned"})
	v, code := bring[gatherapi.TableView](c, "POST", "/api/jobs/"+done.Job+"/gather/from/preview", nil,
		map[string]string{"text": "Pin;Farbe;Funktion\n1;sw/ge;Injector 1\n1;br;Ground"})
	if code != "" || len(v.Reading.Rows) != 1 || len(v.Reading.Rejected) != 1 || v.Reading.Habit.Habit != "german" {
		t.Errorf("preview %+v, %s", v.Reading, code)
	}
	if _, code := send[gatherapi.TableView](c, "GET", "/api/jobs/"+done.Job+"/gather/from", nil); code != "no-table" {
		t.Errorf("a preview was kept: %q", code)
	}
}
