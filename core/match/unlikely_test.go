package match_test

import (
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
)

// A supply and a ground are kept apart also where one of the readings is a little unsure; two signals that are not sure
// may still be tried.
func TestASupplyIsKeptFromAGroundHoweverUnsure(t *testing.T) {
	reading := func(role signal.Role, sure float64) signal.Reading {
		return signal.Reading{Role: role, Sure: sure, Device: string(role), Name: string(role)}
	}
	for _, c := range []struct {
		a, b signal.Role
		veto bool
	}{
		{signal.Battery, signal.Ground, true},
		{signal.Ignition, signal.SensorGround, true},
		{signal.Ground, signal.Start, true},
		{signal.Analogue, signal.LowSide, false},
	} {
		for _, sure := range []float64{0.1, 0.4} {
			if why, veto := match.Veto(reading(c.a, sure), reading(c.b, 0.9)); veto != c.veto {
				t.Errorf("%s at %g with %s: %v %s", c.a, sure, c.b, veto, why)
			}
			if why, veto := match.Veto(reading(c.b, 0.9), reading(c.a, sure)); veto != c.veto {
				t.Errorf("%s with %s at %g: %v %s", c.b, c.a, sure, veto, why)
			}
		}
	}
}

// A pair that was accepted at less than even odds is a finding with that figure, until it is reopened; one that was
// likely is none, nor one of which nobody noted how likely it was.
func TestAPairThatWasUnlikelyIsTold(t *testing.T) {
	row := func(connector, cavity, text string) harness.Row {
		return harness.Row{Ref: harness.Ref{Connector: connector, Cavity: cavity},
			Conductor: harness.Conductor{Function: text, Signal: signal.Read(text)}}
	}
	from := harness.Pinout{Rows: []harness.Row{row("K", "1", "Reverse lamp feed"),
		row("K", "2", "Coolant temperature signal")}}
	to := harness.Pinout{Rows: []harness.Row{row("A", "1", "Launch switch"), row("A", "2", "Coolant temperature signal")}}
	open := match.Crosswalk(from, to, nil, nil)
	low, known := open.Chance(from.Rows[0].Ref, to.Rows[0].Ref)
	high, _ := open.Chance(from.Rows[1].Ref, to.Rows[1].Ref)
	if !known || low >= 0.5 || low == 0 || high < 0.9 {
		t.Fatalf("the chances are %v and %v", low, high)
	}
	for name, c := range map[string]struct {
		sure float64
		want string
	}{"as it is": {low, "accepted at "}, "at 30 %": {0.3, "accepted at 30 %"}, "at 60 %": {0.6, ""},
		"not noted": {0, ""}} {
		r := match.Crosswalk(from, to, nil, []match.Decision{{Side: match.From, At: from.Rows[0].Ref, Choice: match.Matched,
			To: to.Rows[0].Ref, Sure: c.sure}})
		said := ""
		for _, f := range r.Findings(from, to) {
			if f.Code == "unlikely-match" && f.Severity == finding.Check {
				said = f.Text
			}
		}
		if (said == "") != (c.want == "") || !strings.Contains(said, c.want) {
			t.Errorf("%s: %q", name, said)
		}
		if _, known := r.Chance(from.Rows[0].Ref, to.Rows[0].Ref); known {
			t.Error("a decided row says how likely it is")
		}
	}
}

// A sensor's ground or signal is never matched to the driven wire of a motor or an actuator, in either language.
func TestASensorIsNoActuator(t *testing.T) {
	sensors := []string{"TPS signal 0–5 V", "TPS sensor ground", "Drosselklappenpotentiometer Signal",
		"Drosselklappensensor Masse",
		"Throttle position sensor signal"}
	driven := []string{"Drosselklappenmotor +", "Throttle motor −", "Idle air control valve",
		"Canister purge solenoid control",
		"Injector 1"}
	for _, a := range sensors {
		for _, b := range driven {
			if _, veto := match.Veto(signal.Read(a), signal.Read(b)); !veto {
				t.Errorf("%q may be matched to %q", a, b)
			}
			if _, veto := match.Veto(signal.Read(b), signal.Read(a)); !veto {
				t.Errorf("%q may be matched to %q", b, a)
			}
		}
	}
}
