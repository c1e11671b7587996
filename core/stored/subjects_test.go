package stored_test

import (
	"errors"
	"reflect"
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/prove"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/work"
)

// Databases hold these names: what is kept under one of them is found by it for ever.
func TestNamesOfSubjects(t *testing.T) {
	at := harness.Ref{Connector: "C1", Cavity: "7"}
	for got, want := range map[string]string{
		stored.SubjectOf(route.Map{}):                              "map",
		stored.SubjectOf(reach.Rules{}):                            "rules",
		stored.SubjectOf(feed.Block{}):                             "block",
		stored.SubjectOf(match.Meetings{}):                         "met",
		stored.SubjectOf(prove.Values{}):                           "live",
		stored.SubjectOf(match.Decision{Side: match.From, At: at}): "decision/from/C1/7",
		stored.SubjectOf(stored.OwnStep{ID: "o1"}):                 "own/o1",
		stored.SubjectOf(finding.Answer{Code: "code", Stage: "feed", Side: "from", Subject: "x"}): "answer/code|feed|from|x",
		stored.SubjectOf(gather.Measurement{ID: "r1"}):                                            "reading/r1",
		stored.SubjectOf(thin.Decision{On: thin.Wire, ID: "W/1"}):                                 "thin/wire/W/1",
		stored.SubjectOf(work.Tick{Step: "s1"}):                                                   "tick/s1",
		stored.SubjectOf(pin.Exchange{A: at}):                                                     "exchange/C1/7",
		stored.SubjectOf(pin.Check{At: at}):                                                       "check/C1/7",
		stored.SubjectOf(route.Place{Thing: route.Thing{Kind: route.AConnector, ID: "C1"}}):       "place/connector/C1",
		stored.SubjectOf(reach.Parting{Between: [2]string{"a", "b"}}):                             "parting/a/b",
		stored.SubjectOf(prove.MeterReading{Measure: prove.Measure{ID: "W1 R 1 2"}}):              "proved/W1 R 1 2",
		stored.SubjectOf(handover.Bought{Key: "wire 2.5 RD"}):                                     "bought/wire 2.5 RD",
		stored.SubjectOf(prove.Passed{Gate: "smoke"}):                                             "gate/smoke",
		stored.SubjectAt[gather.Sheet]("wires"):                                                   "sheet/wires",
	} {
		if got != want {
			t.Errorf("kept as %q, not %q", got, want)
		}
	}
}

func TestWordsOfSubjects(t *testing.T) {
	for name, want := range map[string]string{
		"decision/from/C1/7": "C1-7", "decision/from": "", "thin/wire/W/1": "W/1", "place/unit/ECU": "ECU", "looked/C1": "C1",
		"rated/F 3": "fuse F 3", "parting/a/b": "a from b", "sheet/wires": "the list of wires", "exchange/C1/7": "C1-7",
		"reading/0af3": "", "map": "", "job": "", "nothing/x": "", "table/from": "",
	} {
		if got := stored.SubjectSaid(name); got != want {
			t.Errorf("of %q is said %q, not %q", name, got, want)
		}
	}
}

// Every field of a job is of its head or has a subject, or one for each entry.
func TestEveryFieldIsKept(t *testing.T) {
	head := reflect.TypeFor[stored.Head]()
	for _, f := range stored.Fields() {
		var j stored.Job
		something(reflect.ValueOf(&j).Elem().FieldByIndex(f.Index))
		all, err := j.Subjects()
		if err != nil {
			t.Fatal(err)
		}
		if _, is := head.FieldByName(f.Name); is == (len(all) == 2) {
			t.Errorf("with %s alone, kept are %v", f.Name, all)
		}
	}
	if err := new(stored.Job).Take("later/x", []byte("{}")); !errors.Is(err, stored.ErrUnknown) {
		t.Errorf("a subject of a newer Draxel: %v", err)
	}
}

// something puts one entry, or a value that is not nothing, into a field.
// What belongs to the vehicle that it was done to stays there: of a job with something in every field these go with
// the next one, and no other.
func TestWhatGoesWithTheNextJob(t *testing.T) {
	var j stored.Job
	for _, f := range stored.Fields() {
		something(reflect.ValueOf(&j).Elem().FieldByIndex(f.Index))
	}
	next := j.Along()
	var along []string
	for _, f := range stored.Fields() {
		if !reflect.ValueOf(&next).Elem().FieldByIndex(f.Index).IsZero() {
			along = append(along, f.Name)
		}
	}
	if want := "Kind Donor Chassis OneScheme From To More Kept Met Vehicle Identity Sheets Bench Layouts Map Rules " +
		"Places Options Partings Block Rated Feeds Functions OutRules Added Bought Terms"; strings.Join(along, " ") != want {
		t.Errorf("along go %s", along)
	}
	if got := next.Carries("x"); got == nil || strings.Join(got.What, " ") != "map places feeds functions" {
		t.Errorf("asked is about %v", got)
	}
}

func something(v reflect.Value) {
	switch v.Kind() {
	case reflect.String:
		v.SetString("x")
	case reflect.Bool:
		v.SetBool(true)
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 1, 1))
	case reflect.Map:
		key, x := reflect.New(v.Type().Key()).Elem(), reflect.New(v.Type().Elem()).Elem()
		if x.Kind() == reflect.Pointer {
			x.Set(reflect.New(x.Type().Elem()))
		}
		v.Set(reflect.MakeMap(v.Type()))
		v.SetMapIndex(key, x)
	}
}
