package match_test

import (
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
)

// What must never share a wire: the danger rules of the trade, no source.
func TestWhatNeverSharesAWire(t *testing.T) {
	for _, c := range []struct {
		a, b string
		why  string
	}{
		{"Injector 1", "Injector 1", ""},
		{"Injector 1", "Injector 2", "different outputs"},
		{"Fan relay 1 control", "Canister purge", "two different outputs"},
		{"Fuel pump relay control", "Main relay control", "two different outputs"},
		{"Injector 1", "Ignition coil 1 trigger", "unlike kinds of output"},
		{"Coolant temperature sensor signal", "Intake air temperature sensor signal", "two different signals"},
		{"Battery feed", "Battery feed", ""},
		{"Power ground 1", "Power ground 2", ""},
		{"Battery feed", "Power ground", "one is a ground"},
		{"Battery feed", "Injector 1", "one feeds"},
		{"Airbag squib", "Power ground", "left alone"},
		{"zqk", "Power ground", ""},
	} {
		why, never := match.NeverJoin(signal.Read(c.a), signal.Read(c.b))
		if never != (c.why != "") || !strings.Contains(why, c.why) {
			t.Errorf("%s with %s: %v %q, want %q", c.a, c.b, never, why, c.why)
		}
		if _, other := match.NeverJoin(signal.Read(c.b), signal.Read(c.a)); other != never {
			t.Errorf("%s with %s: it depends on which comes first", c.a, c.b)
		}
	}
}

// Outputs of a programmable unit change places within one kind only.
func TestWhatCanBeExchanged(t *testing.T) {
	for _, c := range []struct {
		a, b string
		why  string
	}{
		{"Fan relay 1 control", "Canister purge", ""}, {"Fuel pump relay control", "Main relay control", ""},
		{"Fan relay 1 control", "Ignition coil 1 trigger", "one is a low-side output, the other coil-driver"},
		{"Fan relay 1 control", "Battery feed", "only outputs"}, {"zqk", "Fan relay 1 control", "only outputs"},
	} {
		a, b := signal.Read(c.a), signal.Read(c.b)
		if why := match.CannotExchange(&a, &b); (why == "") != (c.why == "") || !strings.Contains(why, c.why) {
			t.Errorf("%s for %s: %q, want %q", c.a, c.b, why, c.why)
		}
	}
}

// A joint that came to be what must never be, when a table was put right, is a danger; a lead from such a wire too.
func TestJointsAreLookedAtAgain(t *testing.T) {
	pinout := func(lines ...string) harness.Pinout {
		p := harness.Pinout{Trust: harness.Maker, Connectors: []harness.Connector{{ID: "A", Cavities: harness.Numbered(9)}}}
		for i, text := range lines {
			p.Rows = append(p.Rows, harness.Row{Ref: harness.Ref{Connector: "A", Cavity: harness.Numbered(9)[i]},
				Conductor: harness.Conductor{Function: text, Signal: signal.Read(text)}, Line: i + 1})
		}
		return p
	}
	at := func(n int) harness.Ref { return harness.Ref{Connector: "A", Cavity: harness.Numbered(9)[n-1]} }
	from, to := pinout("Fan relay 1 control", "Power ground 1", "Canister purge"),
		pinout("Fan relay 1 control", "Power ground 1", "Power ground 2")
	kept := match.Kept{"A": "A"}.Meetings()
	for _, c := range []struct {
		name      string
		decisions []match.Decision
		at        string
	}{
		{"a ground with a ground", []match.Decision{{Side: match.To, At: at(3), Choice: match.Branch, Of: at(2)}}, ""},
		{"an output joined to another", []match.Decision{{Side: match.From, At: at(3), Choice: match.Joined, To: at(1)}},
			"A3"},
		{"a ground served from an output", []match.Decision{{Side: match.To, At: at(3), Choice: match.Branch, Of: at(1)}},
			"A3"},
		{"joined to nothing that is wanted", []match.Decision{{Side: match.From, At: at(3), Choice: match.Joined,
			To: at(9)}}, "lost"},
		{"served from a wire that is not there", []match.Decision{{Side: match.To, At: at(3), Choice: match.Branch,
			Of: at(9)}}, "lost"},
	} {
		r := match.Crosswalk(from, to, kept, c.decisions)
		if !r.Totals().Reconciled {
			t.Errorf("%s: the counts do not balance: %+v", c.name, r.Totals())
		}
		got := ""
		for _, f := range r.Findings(from, to) {
			switch {
			case f.Code == "never-joined" && f.Severity == finding.Danger:
				got = f.Subject
			case f.Code == "decision-lost":
				got = "lost"
			}
		}
		if got != c.at {
			t.Errorf("%s: %q, want %q", c.name, got, c.at)
		}
	}
}
