package stored_test

import (
	"encoding/json"
	"slices"
	"testing"

	"draxel/core/gather"
	"draxel/core/stored"
)

// Of a stored job each value is read by itself: what cannot be is named by where it stood, and the rest is there.
func TestEachValueIsReadByItself(t *testing.T) {
	j, err := stored.Read([]byte(`{"title":"x","kind":"re-pinned",
		"photos":[{"id":"p1","connector":"A"},{"id":"p2"},{"id":"p3","connector":"B"}],
		"looked":{"A":{"labelled":true},"B":7},
		"sheets":{"wires":{"cells":[["Wire"]]}},
		"own":"no list","items":["no table"],"from":null,"carried":{"from":""},"later":{"a":1},"archived":"yes"}`))
	if err != nil {
		t.Fatal(err)
	}
	var aside []string
	for _, a := range j.Aside {
		if !json.Valid(a.Value) || a.Why == "" {
			t.Errorf("%s is set aside as %s, because %q", a.Name, a.Value, a.Why)
		}
		aside = append(aside, a.Name)
	}
	want := []string{"archived", "carried", "items", "later", "looked B", "own", "photos 2"}
	if !slices.Equal(aside, want) {
		t.Errorf("set aside are %q, want %q", aside, want)
	}
	if len(j.Photos) != 2 || j.Photos[1].ID != "p3" || len(j.Looked) != 1 || !j.Looked["A"].Labelled ||
		j.Sheets[gather.WireList] == nil || j.From != nil || j.Carried != nil || j.Archived || j.Title != "x" {
		t.Errorf("read is %+v", j)
	}
	if _, err := stored.Read([]byte(`[]`)); err == nil {
		t.Error("a list is read as a job")
	}
}

// A list that has not changed is taken from the job as it was, and none of its neighbours is.
func TestWhatIsTakenOver(t *testing.T) {
	last := stored.Job{From: &stored.Table{Name: "a"}, To: &stored.Table{Name: "b"},
		More:     map[string]*stored.Table{"m": {Name: "c"}},
		OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{gather.WireList: {}}}}
	var j stored.Job
	for _, name := range []string{"table/from", "table/m", "sheet/" + string(gather.WireList)} {
		j.TakeOver(name, &last)
	}
	if j.From != last.From || j.To != nil || j.More["m"] != last.More["m"] ||
		j.Sheets[gather.WireList] != last.Sheets[gather.WireList] {
		t.Errorf("taken over is %+v", j)
	}
}
