package match_test

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"draxel/core/colour"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
)

// side makes a pinout from lines "A1 number colour text"; a dash is a blank.
func side(lines ...string) harness.Pinout {
	var rows []harness.Row
	for i, l := range lines {
		cells := strings.SplitN(l, " ", 4)
		for k := range cells {
			if cells[k] == "-" {
				cells[k] = ""
			}
		}
		rows = append(rows, harness.Row{Ref: ref(cells[0]),
			Conductor: harness.Conductor{Circuit: cells[1], Colour: colour.Parse(cells[2], colour.IEC), Function: cells[3],
				Signal: signal.Read(cells[3])}, Line: i + 1})
	}
	return madePinout("side", rows)
}

func ref(s string) harness.Ref { return harness.Ref{Connector: s[:1], Cavity: s[1:]} }

func line(t *testing.T, r *match.Result, at string) match.Line {
	t.Helper()
	i := slices.IndexFunc(r.Lines, func(l match.Line) bool { return l.From == ref(at) })
	if i < 0 {
		t.Fatalf("no line for %s", at)
	}
	return r.Lines[i]
}

// engine is a small From side, unit a To side in other words; every row of engine but A9 and B1 has a counterpart.
func engine() harness.Pinout {
	return side("A1 11 GN-YE Injector 1 control", "A2 12 GN-WH Injector 2 control",
		"A3 13 BU Coolant temperature sensor signal", "A4 14 BK-WH Knock sensor 1 signal",
		"A5 15 RD Battery, terminal 30", "A6 16 BN Power ground", "A7 17 WH Crankshaft sensor signal",
		"A8 18 VT Canister purge valve", "A9 19 GY Radiator fan relay", "B1 20 OG zqk vvxw")
}

func unit() harness.Pinout {
	return side("A1 91 YE INJ 1", "A4 92 RD INJ 2", "P1 93 BK CLT", "P2 94 WH KNOCK 1", "P3 95 RD B+", "P4 96 BN GND",
		"P5 97 WH CKP SIG", "P6 98 VT PURGE", "P7 99 PK OIL TEMP SENSOR")
}

func TestVerdicts(t *testing.T) {
	from, to := engine(), unit()
	r := match.Crosswalk(from, to, match.SameNames(from, to), nil)
	for at, want := range map[string]string{"A1": "stays A1", "A2": "moves A4", "A3": "moves-connector P1",
		"A5": "moves-connector P3", "A8": "moves-connector P6", "A9": "goes ", "B1": "undecided "} {
		l := line(t, r, at)
		if got := fmt.Sprintf("%s %s", l.Verdict, l.To); got != want && (at != "B1" || l.Verdict != match.Undecided) {
			t.Errorf("%s: %s, want %s", at, got, want)
		}
	}
	if len(r.Wants) != 1 || r.Wants[0].To != ref("P7") || r.Wants[0].Verdict != match.NeedsWire {
		t.Errorf("wants %+v", r.Wants)
	}
	if n := r.Totals(); !n.Reconciled || n.From != 10 || n.To != 9 || n.Filled != 8 || n.Open != 10 {
		t.Errorf("totals %+v", n)
	}
}

func TestDecisionsAreTakenAsGiven(t *testing.T) {
	from, to := engine(), unit()
	kept := match.SameNames(from, to)
	decide := func(at string, d match.Decision) match.Decision {
		d.Side, d.At = match.From, ref(at)
		return d
	}
	r := match.Crosswalk(from, to, kept, []match.Decision{
		decide("A3", match.Decision{Choice: match.Matched, To: ref("P7"), Reason: "seen"}),
		decide("A5", match.Decision{Choice: match.Sourced, Source: "battery"}),
		decide("A8", match.Decision{Choice: match.Gone}),
		decide("A4", match.Decision{Rejected: []harness.Ref{ref("P2")}}),
		decide("A7", match.Decision{Choice: match.Matched, To: ref("P7")}), // taken: ignored
		{Side: match.To, At: ref("P1"), Choice: match.Vacant, Reason: "gauge only"},
		{Side: match.From, At: ref("Z9"), Choice: match.Gone}, // no such row: ignored
	})
	if l := line(t, r, "A3"); !l.Decided || l.To != ref("P7") || l.P != 1 || l.Reason != "seen" ||
		l.Verdict != match.MovesConnector {
		t.Errorf("A3 %+v", l)
	}
	if l := line(t, r, "A5"); l.Verdict != match.NeedsSource || l.Source != "battery" {
		t.Errorf("A5 %+v", l)
	}
	if l := line(t, r, "A8"); l.Verdict != match.Goes || !l.Decided {
		t.Errorf("A8 %+v", l)
	}
	if l := line(t, r, "A4"); l.To == ref("P2") || l.Decided ||
		slices.ContainsFunc(l.Candidates, func(c match.Candidate) bool { return c.To == ref("P2") }) {
		t.Errorf("A4 was rejected from P2, yet %+v", l)
	}
	if l := line(t, r, "A7"); l.Decided || l.To != ref("P5") {
		t.Errorf("A7 %+v: P7 is A3's", l)
	}
	lost := 0
	for _, f := range r.Findings(from, to) {
		if f.Code == "decision-lost" {
			lost++
		}
	}
	if lost != 2 {
		t.Errorf("%d decisions said to be lost, want those about A7 and Z9", lost)
	}
	empty := slices.IndexFunc(r.Wants, func(w match.Want) bool { return w.To == ref("P1") })
	if empty < 0 || r.Wants[empty].Verdict != match.LeftEmpty || r.Wants[empty].Reason != "gauge only" {
		t.Errorf("wants %+v", r.Wants)
	}
	if n := r.Totals(); !n.Reconciled || n.Decided != 3 || n.LeftEmpty != 1 {
		t.Errorf("totals %+v", n)
	}
}

func TestNewHousingsMakeEverythingMove(t *testing.T) {
	from, to := engine(), unit()
	if l := line(t, match.Crosswalk(from, to, match.Meetings{}, nil), "A1"); l.Verdict != match.MovesConnector {
		t.Errorf("A1 %+v, though no housing is kept", l)
	}
}

func TestVeto(t *testing.T) {
	for _, c := range []struct {
		a, b string
		says string // empty: allowed
	}{
		{"Battery, terminal 30", "Power ground", "ground"},
		{"Battery, terminal 30", "Injector 1", "feeds"},
		{"Sensor supply +5 V", "Ignition, terminal 15", "another voltage"},
		{"Knock sensor 1 signal", "Knock sensor 1 ground", "ground"},
		{"Coolant temperature signal", "Fan relay 1", "input"},
		{"Injector 1", "Injector 2", "two different outputs"},
		{"Injector 1", "Ignition coil 1", "unlike kinds"},
		{"Injector 1 low side", "Check engine lamp", "unlike kinds"},
		{"Radiator fan relay, high side", "Radiator fan relay", "unlike kinds"},
		{"CAN high", "CAN low", "data lines"},
		{"CAN high", "Tachometer", "data line"},
		{"Coil feed, resistance wire", "Ignition, terminal 15", "8 V"},
		{"Airbag squib", "Airbag squib", "restraint"},
		{"Injector 1", "HV interlock loop", "high-voltage"},
		{"Injector 2", "Injection valve cyl. 2", ""},
		{"Fuel pump relay", "Fuel pump relay control", ""},
		{"Sensor ground", "Power ground", ""},
		{"Purge valve", "EGR valve", ""},
		{"Coolant temperature", "Oil temperature", ""},
		{"zqk", "Battery", ""},
	} {
		why, vetoed := match.Veto(signal.Read(c.a), signal.Read(c.b))
		back, both := match.Veto(signal.Read(c.b), signal.Read(c.a))
		if vetoed != (c.says != "") || vetoed != both || !strings.Contains(why, c.says) || (back == "") != (why == "") {
			t.Errorf("%q with %q: %v %q, want %q", c.a, c.b, vetoed, why, c.says)
		}
	}
}

func TestEvidence(t *testing.T) {
	from, to := engine(), unit()
	r := match.Crosswalk(from, to, match.SameNames(from, to), nil)
	reasons, err := r.Evidence(ref("A7"), ref("P5"))
	if err != nil || len(reasons) < 3 || reasons[0].Code != "words" || reasons[0].Bits < 5 || reasons[0].Source == "" {
		t.Errorf("evidence %+v, %v", reasons, err)
	}
	vetoed, err := r.Evidence(ref("A5"), ref("P4"))
	if err != nil || len(vetoed) != 1 || vetoed[0].Code != "veto" {
		t.Errorf("a feed and a ground: %+v, %v", vetoed, err)
	}
	if _, err := r.Evidence(ref("A7"), ref("Q9")); err == nil {
		t.Error("evidence for a cavity that is not there")
	}
	if got := match.Bits(-1.25) + " " + match.Bits(9.1); got != "−1.2 +9.1" {
		t.Errorf("bits written %q", got)
	}
}

// A number that agrees by accident is worth nothing however rare; one that the words confirm is worth much.
func TestNumbersNeedCorroboration(t *testing.T) {
	bits := func(numbers [10]string) float64 {
		to := unit()
		for i := range to.Rows {
			to.Rows[i].Circuit = numbers[i]
		}
		from := engine()
		r := match.Crosswalk(from, to, match.SameNames(from, to), nil)
		reasons, err := r.Evidence(ref("B1"), ref("P7")) // words unread on one side
		if err != nil {
			t.Fatal(err)
		}
		for _, e := range reasons {
			if e.Code == "number" {
				return e.Bits
			}
		}
		return 0
	}
	right := bits([10]string{"11", "12", "13", "14", "15", "16", "17", "18", "20"})
	wrong := bits([10]string{"12", "13", "14", "15", "16", "17", "18", "11", "20"})
	if right <= 1 || wrong != 0 {
		t.Errorf("an equal number weighs %+.1f bits where eight others agree in words, %+.1f where eight disagree", right,
			wrong)
	}
}

// A wire whose number says one cavity and whose words another must not be let go: one of the rows is misprinted.
func TestNumberAgainstWords(t *testing.T) {
	var from, to []string
	for i := 1; i <= 12; i++ {
		from = append(from, fmt.Sprintf("A%d %d GN Injector %d", i, 100+i, i))
		to = append(to, fmt.Sprintf("A%d %d GN Injector %d", 13-i, 100+i, i))
	}
	to[11] = "A1 112 GN Injector 11" // should be 12
	a, b := side(from...), side(to...)
	r := match.Crosswalk(a, b, match.SameNames(a, b), nil)
	if l := line(t, r, "A12"); l.Verdict != match.Undecided || l.To.Cavity != "" {
		t.Errorf("A12 %+v", l)
	}
	if !slices.ContainsFunc(r.Findings(a, b), func(f finding.Finding) bool {
		return f.Code == "number-contradicts" &&
			f.Subject == "A12"
	}) {
		t.Errorf("findings %+v", r.Findings(a, b))
	}
}

// A number that stands on two rows of one circuit, as at a splice, is no misprint.
func TestARepeatedNumberContradictsNothing(t *testing.T) {
	var from, to []string
	for i := 1; i <= 12; i++ {
		from = append(from, fmt.Sprintf("A%d %d GN Injector %d", i, 100+i, i))
		to = append(to, fmt.Sprintf("A%d %d GN Injector %d", 13-i, 100+i, i))
	}
	from = append(from, "B1 200 GY Sensor supply +5 V", "B2 200 GY Sensor supply +5 V")
	to = append(to, "B3 200 GY Sensor supply +5 V")
	a, b := side(from...), side(to...)
	for _, f := range match.Crosswalk(a, b, match.SameNames(a, b), nil).Findings(a, b) {
		if f.Code == "number-contradicts" {
			t.Errorf("found %s", f.Text)
		}
	}
}

func TestTheSameInputGivesTheSame(t *testing.T) {
	p := madeFrom(wordings(t), recipes[4], 3)
	a := match.Crosswalk(p.from, p.to, match.SameNames(p.from, p.to), nil)
	for range 3 {
		b := match.Crosswalk(p.from, p.to, match.SameNames(p.from, p.to), nil)
		if !reflect.DeepEqual(a.Lines, b.Lines) || !reflect.DeepEqual(a.Wants, b.Wants) {
			t.Fatal("the same input gave another crosswalk")
		}
	}
}

func TestNothingOnOneSide(t *testing.T) {
	from := engine()
	r := match.Crosswalk(from, harness.Pinout{}, nil, nil)
	if n := r.Totals(); n.From != 10 || n.Filled != 0 || !n.Reconciled {
		t.Errorf("totals %+v", n)
	}
	if n := match.Crosswalk(harness.Pinout{}, from, nil, nil).Totals(); n.NeedsWire != 10 || !n.Reconciled {
		t.Errorf("totals %+v", n)
	}
}

func ExampleCrosswalk() {
	from, to := engine(), unit()
	r := match.Crosswalk(from, to, match.SameNames(from, to), nil)
	l := r.Lines[6]
	fmt.Printf("%s %s %s\n", l.From, l.Verdict, l.To)
	// Output: A7 moves-connector P5
}

// A decision brought from an earlier job is shown with what it says, and counts as open until somebody has verified it.
func TestWhatAnEarlierJobSaysIsOpen(t *testing.T) {
	from, to := side("A1 11 GN Injector 1", "A2 12 BU Injector 2"), side("A5 11 GN Injector 1", "A6 12 BU Injector 2")
	d := match.Decision{Side: match.From, At: from.Rows[0].Ref, Choice: match.Matched, To: to.Rows[0].Ref,
		Verify: "Second refit"}
	gone := match.Decision{Side: match.From, At: from.Rows[1].Ref, Choice: match.Gone, Verify: "Second refit"}
	r := match.Crosswalk(from, to, nil, []match.Decision{d, gone})
	if l := r.Lines[0]; l.Decided || l.Verify != "Second refit" || l.To != d.To || !l.Feeds() {
		t.Errorf("line %+v", l)
	}
	if l := r.Lines[1]; l.Decided || l.Verdict != match.Goes {
		t.Errorf("line %+v", l)
	}
	if n := r.Totals().Decided; n != 0 {
		t.Errorf("%d count as decided", n)
	}
	found := 0
	for _, f := range r.Findings(from, to) {
		if f.Code == "to-be-verified" {
			found++
		}
	}
	if found != 1 {
		t.Errorf("%d findings say that they are to be verified", found)
	}
	d.Verify = ""
	if l := match.Crosswalk(from, to, nil, []match.Decision{d}).Lines[0]; !l.Decided || l.Verify != "" {
		t.Errorf("verified: %+v", l)
	}
}
