package thin_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/thin"
)

// bench builds a harness from lines: "W1 A-1 S1 Injector 1, control", "device injector 1: part fuel IJ", "link JA 1".
func bench(t *testing.T, lines ...string) *harness.Loom {
	t.Helper()
	l := &harness.Loom{}
	splices := map[string]bool{}
	end := func(text string) harness.End {
		if c, n, ok := strings.Cut(text, "-"); ok {
			return harness.End{At: harness.Ref{Connector: c, Cavity: n}}
		}
		switch {
		case text == "?":
			return harness.End{}
		case text == "taped":
			return harness.End{Taped: true}
		case !splices[text]:
			splices[text] = true
			l.Splices = append(l.Splices, harness.Splice{ID: harness.JointID(text)})
		}
		return harness.End{Splice: harness.JointID(text)}
	}
	for _, line := range lines {
		f := strings.Fields(line)
		switch f[0] {
		case "device": // device name kind system connectors…
			d := harness.Device{ID: f[1], System: f[3]}
			if f[2] != "part" {
				d.Kind = harness.DeviceKind(f[2])
			}
			l.Devices = append(l.Devices, d)
			for _, c := range f[4:] {
				l.Connectors = append(l.Connectors, harness.Half{Connector: harness.Connector{ID: c}, Device: d.ID})
			}
		case "plug": // plug name [mate]
			h := harness.Half{Connector: harness.Connector{ID: f[1]}}
			if len(f) > 2 {
				h.Mate = f[2]
			}
			l.Connectors = append(l.Connectors, h)
		case "link": // link connector cavities…
			for i := range l.Connectors {
				if l.Connectors[i].ID == f[1] {
					l.Connectors[i].Links = append(l.Connectors[i].Links, f[2:])
				}
			}
		case "locked":
			for i := range l.Connectors {
				l.Connectors[i].Locked = l.Connectors[i].Locked || l.Connectors[i].ID == f[1]
			}
		default:
			w := harness.Wire{ID: harness.WireID(f[0]), Ends: [2]harness.End{end(f[1]), end(f[2])},
				Conductor: harness.Conductor{Function: strings.Join(f[3:], " ")}}
			w.Signal = signal.Read(w.Function)
			l.Wires = append(l.Wires, w)
		}
	}
	return l
}

// decide reads decisions: "goes module purge", "keep wire W1".
func decide(texts ...string) []thin.Decision {
	var out []thin.Decision
	for _, text := range texts {
		f := strings.SplitN(text, " ", 3)
		out = append(out, thin.Decision{On: thin.Scope(f[1]), ID: f[2], Choice: thin.Choice(f[0])})
	}
	return out
}

// fates writes the verdicts: "W1 goes, W2 keep".
func fates(l *harness.Loom, r *thin.Result) string {
	var out []string
	for i, v := range r.Wires {
		if v.Choice != thin.Undecided {
			out = append(out, string(l.Wires[i].ID+" ")+string(v.Choice))
		}
	}
	for _, j := range r.Joints {
		if j.Fate != thin.Leave {
			out = append(out, string(j.ID)+" "+string(j.Fate))
		}
	}
	return strings.Join(out, ", ")
}

// The trade's rules for splices and dead legs (common practice).
func TestVerdicts(t *testing.T) {
	parts := []string{"device unit unit engine U", "device fuses fuses power F", "device valve part emissions V",
		"device lamp part lighting L", "device lamp2 part lighting L2"}
	for _, c := range []struct {
		name    string
		lines   []string
		decided []string
		want    string
	}{
		{"both ends unwanted: it falls out", []string{"W1 U-1 V-1"}, []string{"goes module valve"}, "W1 goes"},
		{"nothing decided: it stays", []string{"W1 U-1 V-1", "W2 V-2 ?"}, nil, ""},
		{"a system is inherited", []string{"W1 U-1 V-1", "W2 U-2 L-1"},
			[]string{"goes system emissions", "keep system lighting"}, "W1 goes, W2 keep"},
		{"the smaller thing wins", []string{"W1 U-1 V-1"}, []string{"goes system emissions", "keep module valve"}, "W1 keep"},
		{"an exception on a wire wins", []string{"W1 U-1 V-1", "W2 U-2 V-2"}, []string{"goes module valve", "keep wire W2"},
			"W1 goes, W2 keep"},
		{"three legs stay: trim", []string{"W1 F-1 S1", "W2 S1 L-1", "W3 S1 L2-1", "W4 S1 V-1"},
			[]string{"goes module valve"}, "W4 goes, S1 trim"},
		{"two legs stay: one through wire", []string{"W1 F-1 S1", "W2 S1 L-1", "W4 S1 V-1"}, []string{"goes module valve"},
			"W4 goes, S1 through"},
		{"one leg stays: the splice is not needed", []string{"W2 S1 L-1", "W3 S1 V-1", "W4 S1 V-2"},
			[]string{"goes module valve"}, "W3 goes, W4 goes, S1 remove"},
		{"a chain is resolved as a whole", []string{"W1 F-1 S1", "W2 S1 L-1", "W3 S1 S2", "W4 S2 S3", "W5 S3 V-1",
			"W6 S3 V-2", "W7 S2 V-3"}, []string{"goes module valve"},
			"W3 goes, W4 goes, W5 goes, W6 goes, W7 goes, S1 through, S2 remove, S3 remove"},
		{"a chain with a kept end at its far side stays",
			[]string{"W1 F-1 S1", "W2 S1 V-1", "W3 S1 S2", "W4 S2 L-1", "W5 S2 V-2"},
			[]string{"goes module valve", "keep module lamp"},
			"W1 keep, W2 goes, W3 keep, W4 keep, W5 goes, S1 through, S2 through"},
		{"a feed whose every load goes is not held by its fuse", []string{"W1 F-1 S1", "W2 S1 V-1", "W3 S1 V-2"},
			[]string{"goes module valve"}, "W1 goes, W2 goes, W3 goes, S1 remove"},
		{"a ring that leads from a fuse to nothing wanted goes whole",
			[]string{"W1 F-1 S1", "W2 S1 S2", "W3 S1 S2", "W4 S2 V-1"}, []string{"goes module valve"},
			"W1 goes, W2 goes, W3 goes, W4 goes, S1 remove, S2 remove"},
		{"a feed from fuse to unit stays without its loads", []string{"W1 F-1 S1", "W2 S1 U-1", "W3 S1 V-1"},
			[]string{"goes module valve"}, "W3 goes, S1 through"},
		{"an end that nobody followed is not understood, and stays", []string{"W1 S1 ?", "W2 S1 V-1", "W3 S1 U-1"},
			[]string{"goes module valve"}, "W2 goes, S1 through"},
		{"kept at one end and going at the other: contested, it stays", []string{"W1 L-1 V-1"},
			[]string{"goes module valve", "keep module lamp"}, "W1 keep"},
		{"a junction's row loses a leg", []string{"plug J", "link J 1 2 3", "W1 F-1 J-1", "W2 J-2 L-1", "W3 J-3 V-1"},
			[]string{"goes module valve"}, "W3 goes, J1 trim"},
		{"what only passes through is joined without it", []string{"link U 7 8", "W1 F-1 U-7", "W2 U-8 L-1", "W3 U-1 V-1"},
			[]string{"goes module unit"}, "U7 rejoin"},
		{"across an in-line pair", []string{"plug X Y", "plug Y X", "W1 U-1 X-1", "W2 Y-1 V-1"},
			[]string{"goes module valve"}, "W1 goes, W2 goes"},
		{"another's half is never decided", []string{"plug X Y", "plug Y X", "locked Y", "W1 U-1 X-1", "W2 Y-1 L-1"},
			[]string{"goes connector Y", "keep module lamp"}, "W1 keep, W2 keep"},
		{"a system goes and one sensor of it is kept", []string{"W1 U-1 V-1 Canister purge valve, control",
			"W2 U-2 L-1 Canister purge valve, control"}, []string{"goes system emissions", "keep module lamp"},
			"W1 goes, W2 keep"},
		{"beside restraint the other legs are free, and the splice is left alone",
			[]string{"device bag part restraint R", "W1 F-1 S1", "W2 S1 R-1 Airbag, driver", "W3 S1 L-1", "W4 S1 V-1"},
			[]string{"goes module valve", "goes module lamp", "goes module fuses"}, "W3 goes, W4 goes, S1 trim"},
		{"the other cavities of a fuse box that feeds restraint are free",
			[]string{"device bag part restraint R", "W1 F-1 R-1 Airbag, driver", "W3 F-2 V-1"},
			[]string{"goes module fuses", "goes module valve"}, "W3 goes"},
		{"a data line that a restraint unit shares is free beside its leg",
			[]string{"device bag unit restraint R", "W1 U-1 S1 CAN bus high", "W2 S1 R-1 CAN bus high",
				"W3 S1 V-1 CAN bus high"},
			[]string{"goes module valve", "goes module bag"}, "W3 goes, S1 trim"},
		{"a restraint signal that nothing known feeds is left whole",
			[]string{"W1 U-1 S1 Airbag, driver", "W2 S1 L-1", "W3 S1 V-1"}, []string{"goes module valve"}, ""},
		{"high voltage is left whole", []string{"W1 F-1 S1 Traction battery, high voltage", "W2 S1 L-1", "W3 S1 V-1"},
			[]string{"goes module valve"}, ""},
		{"restraint is left alone", []string{"W1 U-1 V-1 Airbag, driver"}, []string{"goes module valve", "goes wire W1"}, ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := bench(t, append(slices.Clone(parts), c.lines...)...)
			r := thin.Compute(thin.Input{Loom: l, Decisions: decide(c.decided...), Bench: thin.Standard()})
			if got := fates(l, r); got != c.want {
				t.Errorf("got  %s\nwant %s", got, c.want)
			}
		})
	}
}

// added: an alarm cut the starter wire in two; when it goes the factory wire is joined again.
func TestWhatSomebodyAddedIsUndone(t *testing.T) {
	l := bench(t, "device switch part starting IS", "device starter part starting ST", "device alarm unit security AL",
		"link AL 3 4", "W1 IS-4 AL-3", "W2 AL-4 ST-1", "W3 AL-1 S1", "W4 S1 IS-1", "W5 S1 ST-2")
	l.Devices[2].Added, l.Splices[0].Added = "a previous owner", "a previous owner"
	r := thin.Compute(thin.Input{Loom: l, Decisions: decide("goes module alarm"), Bench: thin.Standard()})
	if got := fates(l, r); got != "W3 goes, S1 through, AL3 rejoin" {
		t.Errorf("fates %s", got)
	}
	if !hasFinding(r, "factory-rejoined", finding.Note) {
		t.Errorf("findings %v", r.Findings)
	}
}

func hasFinding(r *thin.Result, code string, s finding.Severity) bool {
	return slices.ContainsFunc(r.Findings, func(f finding.Finding) bool { return f.Code == code && f.Severity == s })
}

func TestWhatKeepingImplies(t *testing.T) {
	base := []string{"device unit unit engine U", "device fuses fuses power F", "device earth ground power G"}
	for _, c := range []struct {
		code     string
		severity finding.Severity
		lines    []string
		decided  []string
		change   func(*harness.Loom)
	}{
		{"part-incomplete", finding.Wrong, []string{"device map part air M", "W1 U-1 M-1 Manifold pressure sensor signal",
			"W2 U-2 M-2 Manifold pressure sensor +5 V"}, []string{"goes wire W2"}, nil},
		{"pair-split", finding.Wrong, []string{"device k part ignition K", "W1 U-1 K-1", "W2 U-2 K-2"},
			[]string{"goes wire W2"}, func(l *harness.Loom) { l.Wires[0].Pair, l.Wires[1].Pair = "p", "p" }},
		{"shield-lost", finding.Wrong, []string{"device k part ignition K", "W1 U-1 K-1",
			"W2 U-2 taped Knock sensor shield"}, []string{"goes wire W2"},
			func(l *harness.Loom) { l.Wires[0].Shield, l.Wires[1].Shield = "p", "p" }},
		{"lone-survivor", finding.Note, []string{"device v part emissions V", "device k part engine K", "W1 U-1 V-1",
			"W2 U-2 V-2", "W3 U-3 K-1"}, []string{"goes module v"}, func(l *harness.Loom) {
			for i := range l.Wires {
				l.Wires[i].Branch = "b"
			}
		}},
		{"function-dies", finding.Danger, []string{"device lamp part lighting L", "W1 F-1 L-1 Brake lamp feed"},
			[]string{"keep module lamp", "goes module fuses"}, nil},
		{"function-dies", finding.Danger, []string{"device lamp part lighting L", "device switch part brakes B",
			"W1 B-1 L-1 Brake lamp feed"}, []string{"keep module lamp", "goes module switch"}, nil},
		{"feed-thinned", finding.Check, []string{"W1 F-1 U-1 Battery", "W2 F-2 U-2 Battery"}, []string{"goes wire W2"}, nil},
		{"suppressor", finding.Check, []string{"device noise suppressor ignition N", "W1 G-1 N-1"},
			[]string{"goes module noise"}, nil},
		{"passes-through", finding.Wrong, []string{"device lamp part lighting L", "device old unit fuel O", "link O 1 2",
			"W1 F-1 O-1 Brake lamp feed", "W2 O-2 L-1 Brake lamp feed"}, []string{"goes module old"}, nil},
		{"carries-kept", finding.Wrong, []string{"device lamp part lighting L", "device old unit fuel O", "W1 O-1 L-1"},
			[]string{"goes module old", "keep module lamp"}, nil},
		{"bus-end", finding.Check, []string{"device box unit gearbox B", "device abs unit brakes A",
			"W1 U-1 S1 CAN bus high", "W2 S1 B-1 CAN bus high", "W3 S1 A-1 CAN bus high"}, []string{"goes module box"}, nil},
		{"law", finding.Check, []string{"device lamp part lighting L", "W1 U-1 L-1 Reverse lamp feed"},
			[]string{"goes module lamp"}, nil},
		{"rides-along", finding.Note, []string{"device axle part driveline X", "W1 U-1 X-1"},
			[]string{"goes system driveline"}, func(l *harness.Loom) { l.Devices[3].Owner = harness.Driveline }},
		{"contested", finding.Check, []string{"device a part air A", "device b part body B", "W1 A-1 B-1"},
			[]string{"goes module a", "keep module b"}, nil},
		{"pair-contested", finding.Check, []string{"plug X Y", "plug Y X", "W1 U-1 X-1", "W2 Y-1 F-1"},
			[]string{"goes connector X", "keep connector Y"}, nil},
		{"decision-lost", finding.Check, []string{"W1 U-1 F-1"}, []string{"goes wire W9"}, nil},
		{"decision-lost", finding.Check, []string{"device bag unit restraint R", "W1 U-1 R-1 Airbag, driver"},
			[]string{"goes system restraint"}, nil},
	} {
		t.Run(c.code, func(t *testing.T) {
			l := bench(t, append(slices.Clone(base), c.lines...)...)
			if c.change != nil {
				c.change(l)
			}
			r := thin.Compute(thin.Input{Loom: l, Decisions: decide(c.decided...), Bench: thin.Standard()})
			if !hasFinding(r, c.code, c.severity) {
				t.Errorf("not found: %v", r.Findings)
			}
			for _, f := range r.Findings {
				if f.Remedy == "" && f.Severity != finding.Note {
					t.Errorf("%s has no remedy", f.Code)
				}
			}
			if quiet := thin.Compute(thin.Input{Loom: l, Bench: thin.Standard()}); len(quiet.Findings) > 0 {
				t.Errorf("found although nothing is decided: %v", quiet.Findings)
			}
		})
	}
}

// The classic disaster: a plug that looks like a door's carries half the body.
func TestIfICutHere(t *testing.T) {
	l := bench(t, "device fuses fuses power F", "device unit unit engine U", "device lamp part lighting L",
		"device pump part fuel P", "device rest part restraint R", "plug W V", "plug V W",
		"W1 F-1 W-1 Brake lamp feed", "W2 V-1 L-1 Brake lamp feed", "W3 F-2 W-2 Fuel pump feed", "W4 V-2 P-1 Fuel pump feed",
		"W5 U-1 S1 Injector 1, control", "W6 S1 P-2", "W7 S1 U-2", "W8 U-3 R-1 Airbag, driver")
	r := thin.Compute(thin.Input{Loom: l, Decisions: decide("keep module lamp"), Bench: thin.Standard()})
	for _, c := range []struct {
		on       thin.Scope
		id       string
		dies     string
		legal    string
		fuses    string
		circuits int
		carries  int
	}{
		{thin.Connector, "W", "L1 kept, P1", "brake lamps", "F1 F2", 2, 2},
		{thin.Wire, "W4", "P1", "", "F2", 1, 1},
		{thin.Joint, "S1", "P2", "", "", 1, 3},
		{thin.Module, "pump", "P1, P2", "", "F2", 2, 2},
		{thin.Wire, "W8", "R1", "restraint", "", 1, 1},
	} {
		cut, err := r.Cut(c.on, c.id)
		if err != nil {
			t.Fatal(err)
		}
		var dies []string
		for _, d := range cut.Dies {
			if d.Kept {
				d.At += " kept"
			}
			dies = append(dies, d.At)
		}
		if got := strings.Join(dies, ", "); got != c.dies || strings.Join(cut.Legal, " ") != c.legal ||
			strings.Join(cut.Fuses, " ") != c.fuses || len(cut.Circuits) != c.circuits || cut.Carries != c.carries {
			t.Errorf("%s %s: dies %q, legal %v, fuses %v, %d circuits, carries %d", c.on, c.id, got, cut.Legal, cut.Fuses,
				len(cut.Circuits), cut.Carries)
		}
	}
	if cut, _ := r.Cut(thin.Wire, "W8"); cut.Locked == "" {
		t.Error("nothing is said about the restraint wire")
	}
	if _, err := r.Cut(thin.Connector, "Q"); err == nil {
		t.Error("a connector that is not there was cut")
	}
}

func TestTheGateListsWhatIsMissing(t *testing.T) {
	l := bench(t, "device unit unit engine U", "device valve part emissions V", "W1 U-1 V-1", "W2 U-2 V-2")
	in := thin.Input{Loom: l, Decisions: decide("goes module valve"), Bench: thin.Standard(),
		Records: map[string]thin.Noted{"U": {Labelled: true, Photos: 1, Counted: 3}}}
	missing := func(at ...string) []string {
		touched := map[string]bool{}
		for _, c := range at {
			touched[c] = true
		}
		r := thin.Compute(in)
		return r.Missing(touched)
	}
	if got := fmt.Sprint(missing("U", "V")); got != "[U: 3 wires counted, 2 known V: no label, no photograph, wires "+
		"not counted]" {
		t.Errorf("missing %s", got)
	}
	if got := missing("U"); len(got) != 1 {
		t.Errorf("nothing is done at V, yet %v", got)
	}
	in.Records = map[string]thin.Noted{"U": {true, 1, 2}, "V": {true, 2, 2}}
	if got := missing("U", "V"); len(got) != 0 {
		t.Errorf("missing %v", got)
	}
}

// The screen shows which decision a verdict comes from: the wire's own, a larger thing's, or none.
func TestWhereAVerdictComesFrom(t *testing.T) {
	l := bench(t, "device unit unit engine U", "device valve part emissions V", "device lamp part lighting L",
		"device box fuses power F",
		"W1 U-1 V-1", "W2 U-2 V-2", "W3 F-1 S1", "W4 S1 V-3", "W5 S1 L-1", "W6 S1 U-3", "W7 V-4 L-2",
		"W8 U-4 L-3 Reverse lamp feed")
	all := []thin.Decision{
		{On: thin.System, ID: "emissions", Choice: thin.Goes, Reason: "none wanted"},
		{On: thin.Connector, ID: "V", Choice: thin.Goes, Reason: "nothing left in it"},
		{On: thin.Wire, ID: "W2", Choice: thin.Keep, Reason: "for later"}, {On: thin.Module, ID: "lamp", Choice: thin.Keep},
		{On: thin.System, ID: "lighting", Choice: thin.Goes}, {On: thin.Module, ID: "unit", Choice: thin.Keep},
	}
	r := thin.Compute(thin.Input{Loom: l, Decisions: all, Bench: thin.Standard()})
	for i, want := range []string{
		"goes by connector V: nothing left in it", "keep by wire W2: for later, itself", "keep",
		"goes by connector V: nothing left in it", "keep by module lamp: ", "keep", "keep by module lamp: , contested",
		"keep by module lamp: ",
	} {
		v := r.Wires[i]
		got := string(v.Choice)
		if v.By != nil {
			got += fmt.Sprintf(" by %s %s: %s", v.By.On, v.By.ID, v.By.Reason)
		}
		if v.Exception {
			got += ", itself"
		}
		if v.Contested {
			got += ", contested"
		}
		if got != want {
			t.Errorf("%s: %q, want %q", l.Wires[i].ID, got, want)
		}
	}
	for _, s := range r.Systems {
		sum := 0
		for _, v := range r.Wires {
			if v.System == s.System {
				sum++
			}
		}
		if s.Wires != sum || s.Keep+s.Goes+s.Undecided != s.Wires {
			t.Errorf("system %q counts %+v, %d wires are of it", s.System, s, sum)
		}
		for _, d := range s.Devices {
			if d.ID == "lamp" && (!d.Own || d.Choice != thin.Keep || d.Wires != 3 || len(d.Plugs) != 1 ||
				d.Plugs[0].By.On != thin.Module) {
				t.Errorf("device %+v", d)
			}
			if d.ID == "valve" && (d.Own || d.Choice != thin.Goes || d.By.On != thin.System ||
				d.Plugs[0].By.On != thin.Connector) {
				t.Errorf("device %+v", d)
			}
		}
	}
}

// A decision that was brought from an earlier job counts for nothing, and is named.
func TestWhatIsToBeVerifiedCountsForNothing(t *testing.T) {
	l := bench(t, "device unit unit engine U", "device valve part emissions V", "W1 U-1 V-1")
	r := thin.Compute(thin.Input{Loom: l, Bench: thin.Standard(),
		Decisions: []thin.Decision{{On: thin.Module, ID: "valve", Choice: thin.Goes, Verify: "an earlier job"}}})
	if r.Wires[0].Choice != thin.Undecided || len(r.Steps) != 0 || !hasFinding(r, "to-be-verified", finding.Check) {
		t.Errorf("%+v, %v", r.Wires[0], r.Findings)
	}
}

// What somebody added is taken out by whatever scope it goes, and the factory feed that runs through it is joined
// again.
func TestWhatPassesThroughAnAddedThingIsRejoined(t *testing.T) {
	for _, how := range []string{"goes module alarm", "goes system security", "goes connector AL"} {
		l := bench(t, "device alarm part security AL", "device switch part ignition IS", "device box fuses power F",
			"device siren part security SI",
			"link AL 3 4", "W1 IS-1 AL-3 Ignition feed", "W2 AL-4 F-1 Ignition feed", "W3 AL-1 SI-1 Alarm siren",
			"W4 AL-2 F-2 Alarm ignition feed")
		l.Devices[0].Added = "Pell Alarms"
		r := thin.Compute(thin.Input{Loom: l, Decisions: decide(how), Bench: thin.Standard()})
		for i, w := range r.Wires {
			if id := l.Wires[i].ID; (id == "W1" || id == "W2") && w.Choice == thin.Goes {
				t.Errorf("%s: the factory feed %s goes", how, id)
			}
		}
		if got := fates(l, r); !strings.Contains(got, "AL3 rejoin") || !hasFinding(r, "factory-rejoined", finding.Note) {
			t.Errorf("%s: %s", how, got)
		}
	}
}
