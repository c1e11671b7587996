package stored_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/feed"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/core/thin"
)

func of[T any](x T) *T { return &x }

// What is kept says itself why it cannot be, to the letter of its bounds.
func TestWhatCannotBeKept(t *testing.T) {
	own := func(change func(*stored.OwnStep)) *stored.OwnStep {
		o := &stored.OwnStep{ID: "o", Text: "gearbox lowered", What: "clearance", Unit: "mm"}
		change(o)
		return o
	}
	way := func(change func(*stored.FeedOption)) *stored.FeedOption {
		o := &stored.FeedOption{ID: "f", Name: strings.Repeat("n", 80)}
		change(o)
		return o
	}
	type can = interface{ Check() error }
	letters := func(n int) string { return strings.Repeat("x", n) }
	for name, c := range map[string]struct {
		value can
		says  string // part of why; empty: it can be
	}{
		"a step":                   {own(func(*stored.OwnStep) {}), ""},
		"a step without a text":    {own(func(o *stored.OwnStep) { o.Text = " " }), "say what is done"},
		"a step without a name":    {own(func(o *stored.OwnStep) { o.ID = "" }), "say what is done"},
		"a step of 300 letters":    {own(func(o *stored.OwnStep) { o.Text = letters(300) }), ""},
		"a step of 301":            {own(func(o *stored.OwnStep) { o.Text = letters(301) }), "too long"},
		"a quantity of 81 letters": {own(func(o *stored.OwnStep) { o.What = letters(81) }), "too long"},
		"a unit of 13 letters":     {own(func(o *stored.OwnStep) { o.Unit = letters(13) }), "too long"},
		"a least of nothing": {
			own(func(o *stored.OwnStep) { o.What, o.Least = "", of(1.0) }),
			"say what is measured"},
		"a most of nothing": {
			own(func(o *stored.OwnStep) { o.What, o.Most = "", of(1.0) }),
			"say what is measured"},
		"a reading of nothing": {
			own(func(o *stored.OwnStep) { o.What, o.Saw = "", of(1.0) }),
			"say what is measured"},
		"nothing measured":    {own(func(o *stored.OwnStep) { o.What = "" }), ""},
		"limits that are one": {own(func(o *stored.OwnStep) { o.Least, o.Most = of(2.0), of(2.0) }), ""},
		"limits the wrong way round": {
			own(func(o *stored.OwnStep) { o.Least, o.Most = of(3.0), of(2.0) }),
			"more than the most"},
		"a way to feed":           {way(func(*stored.FeedOption) {}), ""},
		"a way without a name":    {way(func(o *stored.FeedOption) { o.Name = "" }), "a name"},
		"a way without an id":     {way(func(o *stored.FeedOption) { o.ID = "" }), "a name"},
		"a way with a name of 81": {way(func(o *stored.FeedOption) { o.Name += "n" }), "at most 80"},
		"a way with a bad block": {
			way(func(o *stored.FeedOption) { o.Block = &feed.Block{} }),
			"a block has"},
		"a way with a bad decision": {
			way(func(o *stored.FeedOption) { o.Decisions = []match.Decision{{Side: "up"}} }),
			"side"},
		"what came along":               {&stored.Carried{From: "before", What: []string{"map", "lists"}}, ""},
		"what came along from nowhere":  {&stored.Carried{}, "a title"},
		"what came along by a long way": {&stored.Carried{From: letters(201)}, "a title"},
		"what never comes along":        {&stored.Carried{From: "before", What: []string{"ticks"}}, "ticks"},
		"a picture of nothing":          {&stored.Photo{ID: "p"}, "of a connector"},
		"a picture without a name":      {&stored.Photo{Connector: "C1"}, "of a connector"},
		"a picture":                     {&stored.Photo{ID: "p", Connector: "C1"}, ""},
		"something without a name":      {&stored.Aside{}, "a name"},
	} {
		err := c.value.Check()
		if (err == nil) != (c.says == "") || err != nil && !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s: %v, want %q", name, err, c.says)
		}
	}
}

func TestAMeasurementOfOnesOwn(t *testing.T) {
	for _, c := range []struct {
		step   stored.OwnStep
		says   string
		within bool
	}{
		{stored.OwnStep{Text: "x"}, "", true},
		{stored.OwnStep{What: "clearance", Unit: "mm", Least: of(15.0)}, "clearance at least 15 mm", true},
		{stored.OwnStep{What: "clearance", Unit: "mm", Least: of(15.0), Saw: of(15.0)},
			"clearance at least 15 mm, measured 15 mm", true},
		{stored.OwnStep{What: "clearance", Unit: "mm", Least: of(15.0), Saw: of(14.0)},
			"clearance at least 15 mm, measured 14 mm", false},
		{stored.OwnStep{What: "torque", Unit: "Nm", Most: of(9.0), Saw: of(9.0)}, "torque at most 9 Nm, measured 9 Nm", true},
		{stored.OwnStep{What: "torque", Unit: "Nm", Least: of(7.0), Most: of(9.0), Saw: of(9.5)},
			"torque at least 7 Nm at most 9 Nm, measured 9.5 Nm", false},
		{stored.OwnStep{What: "turns", Saw: of(3.0)}, "turns, measured 3", true},
	} {
		if got := c.step.Limit(); got != c.says || c.step.Within() != c.within {
			t.Errorf("%q within %v, want %q %v", got, c.step.Within(), c.says, c.within)
		}
	}
}

// Taking a way to feed and then the one that was kept of before leads back to what was decided before.
func TestTheWayBackFromAWayToFeed(t *testing.T) {
	at := func(cavity string) harness.Ref { return harness.Ref{Connector: "A", Cavity: cavity} }
	d := func(cavity, source string) match.Decision {
		return match.Decision{Side: match.To, At: at(cavity), Choice: match.Sourced, Source: source}
	}
	had := []match.Decision{d("1", "battery"), d("2", "ignition")}
	taken := []match.Decision{d("2", "battery"), d("3", "ground")}
	// It knew of 2 already, as it was; 1 went and 3 came.
	before := stored.FeedOption{Decisions: []match.Decision{d("2", "ignition")}}.Before(had, taken)
	if want := []string{"A2 ignition", "A1 battery"}; !slices.Equal(sources(before.Decisions), want) {
		t.Errorf("decides %v, want %v", sources(before.Decisions), want)
	}
	if want := []stored.FeedRow{{Side: match.To, At: at("3")}}; !slices.Equal(before.Open, want) {
		t.Errorf("opens %v, want %v", before.Open, want)
	}
	known := stored.FeedOption{Open: []stored.FeedRow{{Side: match.To, At: at("3")}, {Side: match.To, At: at("1")}}}
	if got := known.Before(had, taken); len(got.Open) != 2 || len(got.Decisions) != 0 {
		t.Errorf("what it says of a row stands: %+v", got)
	}
	other := []match.Decision{{Side: match.From, At: at("1")}} // the row of the other side is another
	if got := (stored.FeedOption{}).Before(had[:1], other); len(got.Decisions) != 1 || len(got.Open) != 1 {
		t.Errorf("a row of the other side is taken for this one: %+v", got)
	}
}

func sources(all []match.Decision) []string {
	var out []string
	for _, d := range all {
		out = append(out, d.At.String()+" "+d.Source)
	}
	return out
}

// What is brought from the donor, and what a change of the vehicle brings with it until it is seen to.
func TestWhatIsBroughtFromTheDonor(t *testing.T) {
	plain := stored.Job{}
	if len(plain.Yard(&thin.Result{})) != 0 || plain.OpenItems() != nil {
		t.Errorf("of a job that says nothing: %v", plain.Yard(&thin.Result{}))
	}
	j := stored.Job{OfGather: gather.Record{Identity: &gather.Identity{Throttle: gather.Change{Donor: "cable",
		Will: "electric"},
		Immobiliser: "keep and relearn", Gearbox: gather.Change{Donor: "manual", Will: "automatic"}},
		Looked: map[string]gather.Looked{"C2": {Lock: gather.Broken}, "C1": {Lock: gather.Broken},
			"C3": {Lock: gather.Good}}}}
	var got []string
	for _, y := range j.Yard(&thin.Result{Off: []string{"C1"}}) {
		got = append(got, y.Text)
	}
	for _, want := range []string{"the accelerator pedal", "every key", "the gearbox unit", "a plug like C2"} {
		if !slices.ContainsFunc(got, func(text string) bool { return strings.HasPrefix(text, want) }) {
			t.Errorf("%s is not brought: %q", want, got)
		}
	}
	if text := strings.Join(got, "; "); strings.Contains(text, "C1") || strings.Contains(text, "C3") {
		t.Errorf("a plug that goes, or is good, is brought: %s", text)
	}
	j.Identity.Gearbox.Will = "manual"
	j.Identity.Gearbox.Donor = "automatic"
	for _, y := range j.Yard(&thin.Result{}) {
		if strings.HasPrefix(y.Text, "the gearbox unit") {
			t.Errorf("a manual gearbox has no unit: %s", y.Text)
		}
	}
	open := j.OpenItems()
	j.Items = map[string]bool{open[0].ID: true}
	if left := j.OpenItems(); len(left) != len(open)-1 || left[0].ID == open[0].ID {
		t.Errorf("seen to is one of %d, open are %d", len(open), len(left))
	}
}

// How a connector is met until somebody says otherwise, by the kind of job: in the words of the kinds.
func TestHowConnectorsAreMet(t *testing.T) {
	pinout := func(ids ...string) harness.Pinout {
		p := harness.Pinout{}
		for _, id := range ids {
			p.Connectors = append(p.Connectors, harness.Connector{ID: id})
		}
		return p
	}
	for _, c := range []struct {
		kind     stored.Kind
		from, to harness.Pinout
		at       string
		want     match.Meeting
	}{
		{stored.Repinned, pinout("A"), pinout("A", "B"), "A", match.Meeting{Met: match.SameAs, With: "A"}},
		{stored.Repinned, pinout("A"), pinout("A", "B"), "B", match.Meeting{Met: match.NewHousing}},
		{stored.Adapter, pinout("A"), pinout("A"), "A", match.Meeting{Met: match.NewHousing}},
		{stored.Bulkhead, pinout("A", "B"), pinout("A", "C"), "A", match.Meeting{Met: match.PlugsOnto, With: "A"}},
		{stored.Bulkhead, pinout("A", "B"), pinout("A", "C"), "C", match.Meeting{Met: match.Stays}},
		{stored.Bulkhead, pinout("A"), pinout("C"), "C", match.Meeting{Met: match.PlugsOnto, With: "A"}},
		{stored.Bulkhead, pinout("A", "B"), pinout("C"), "C", match.Meeting{Met: match.Stays}},
		{stored.Bulkhead, pinout("A"), pinout("C", "D"), "C", match.Meeting{Met: match.Stays}},
		{stored.Bought, pinout("A"), pinout("A", "B"), "A", match.Meeting{Met: match.PlugsOnto, With: "A"}},
		{stored.Bought, pinout("A"), pinout("A", "B"), "B", match.Meeting{Met: match.Stays}},
		{stored.Integrated, pinout("A"), pinout("A"), "A", match.Meeting{Met: match.Stays}},
	} {
		if got := c.kind.Meetings(c.from, c.to)[c.at]; got != c.want {
			t.Errorf("%s: %s is met as %+v, want %+v", c.kind, c.at, got, c.want)
		}
	}
	if stored.Integrated.Vehicle() != match.From || stored.Repinned.Vehicle() != match.To {
		t.Error("the vehicle's own wiring is on the wrong side")
	}
	// As jobs of old said it, in kinds that move terminals; and what somebody says of a connector that there is.
	j := stored.Job{Kind: stored.Repinned, OfMatch: match.Record{Kept: match.Kept{"B": "A"},
		Met: match.Meetings{"A": {Met: match.Stays}, "gone": {Met: match.Stays}}}}
	got := j.Meetings(pinout("A"), pinout("A", "B"))
	if len(got) != 2 || got["A"].Met != match.Stays || got["B"] != (match.Meeting{Met: match.SameAs, With: "A"}) {
		t.Errorf("met are %+v", got)
	}
	j.Kind = stored.Integrated
	if got := j.Meetings(pinout("A"), pinout("A", "B")); got["B"].Met != match.Stays {
		t.Errorf("where nothing moves no housing is kept: %+v", got)
	}
}

// What was noted at connectors before they came off, and what is decided where nobody has said anything.
func TestWhatIsNotedAndChosen(t *testing.T) {
	j := stored.Job{Kind: stored.Classic, OfGather: gather.Record{Looked: map[string]gather.Looked{"A": {Labelled: true}}},
		Photos: []stored.Photo{{Connector: "A"}, {Connector: "A"}, {Connector: "B"}}}
	got := j.Records()
	if len(got) != 2 || got["A"].Photos != 2 || !got["A"].Labelled || got["B"].Photos != 1 {
		t.Errorf("noted are %+v", got)
	}
	d := j.Chosen()
	if d.Bench.School != thin.CutSeal || d.Pin.Limit != 1 || d.Reach.Rules.Apart != reach.Standard().Apart {
		t.Errorf("chosen is %+v", d)
	}
	bench := thin.Bench{School: thin.Extract, Hand: of(4)}
	rules := reach.Standard()
	rules.Apart++
	j.Bench, j.Rules, j.Map = &bench, &rules, &route.Map{Stations: []route.Station{{ID: "a"}}}
	d = j.Chosen()
	if d.Bench.School != thin.Extract || d.Pin.Limit != 4 || d.Reach.Rules.Apart != rules.Apart ||
		len(d.Reach.Map.Stations) != 1 {
		t.Errorf("chosen is %+v", d)
	}
}
