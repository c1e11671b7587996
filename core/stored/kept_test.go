package stored_test

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"reflect"
	"strings"
	"testing"

	"draxel/core/handover"
	"draxel/core/stored"
)

// A state comes back as it was kept, packed or as those of old; one that unpacks to more than a job can have, that ends
// in the middle, or that is none, is refused.
func TestAStateComesBack(t *testing.T) {
	j := stored.Job{Title: "kept", Kind: stored.Integrated,
		OfHandOver: handover.Record{Delivered: []handover.Delivered{{ID: "a", Name: "before"}},
			Spent: []handover.Spent{{ID: "s", Stage: "thin", Minutes: 5, Who: "Ines"}}}}
	kept, err := j.Frozen()
	if err != nil {
		t.Fatal(err)
	}
	want := j
	want.Delivered = nil
	plain, err := json.Marshal(want)
	if err != nil {
		t.Fatal(err)
	}
	for name, data := range map[string][]byte{"packed": kept, "of old": plain} {
		if back, err := stored.Thaw(data); err != nil || !reflect.DeepEqual(back, want) {
			t.Errorf("%s: %+v, %v", name, back, err)
		}
	}
	var bomb bytes.Buffer
	w := gzip.NewWriter(&bomb)
	for range 65 {
		if _, err := w.Write([]byte(strings.Repeat(" ", 1<<20))); err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	for name, data := range map[string][]byte{"a bomb": bomb.Bytes(), "half": kept[:len(kept)/2], "none": nil,
		"words": []byte("kept")} {
		if _, err := stored.Thaw(data); err == nil {
			t.Errorf("%s is taken for a state", name)
		}
	}
}
