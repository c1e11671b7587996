package plan_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/core/thin"
)

// What goes in Thin and what is left empty in Match raises its codes like what is given up in Join; a wire that only
// moves raises none, nor one that goes with its whole unit. Codes: SAE J2012 (from memory), P0443 purge, P0135
// and P0141 heaters of the oxygen sensors before and after the catalyst: of several sensors only the one that goes.
func TestWhatGoesRaisesItsCodes(t *testing.T) {
	base := func() stored.Job {
		list := func(rows ...[]string) *gather.Sheet { return &gather.Sheet{Cells: rows} }
		return stored.Job{Title: "t", Kind: stored.Classic,
			OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{
				gather.WireList: list([]string{"Wire", "From", "Cavity", "To", "Cavity", "Size", "Function"},
					[]string{"w1", "A", "1", "V", "1", "0.75", "Canister purge valve, control"},
					[]string{"w2", "A", "2", "V", "2", "0.75", "Canister purge valve, supply"},
					[]string{"w3", "A", "3", "J", "1", "0.75", "Injector 1, control"},
					[]string{"w4", "Z", "1", "O", "1", "0.75", "Oxygen sensor heater, control"},
					[]string{"w5", "A", "4", "F", "1", "0.75", "Oxygen sensor heater, bank 1 sensor 1, control"},
					[]string{"w6", "A", "5", "R", "1", "0.75", "Oxygen sensor heater, bank 1 sensor 2, control"}),
				gather.ConnectorList: list([]string{"Connector", "Device"}, []string{"A", "unit"}, []string{"V", "valve"},
					[]string{"J", "injector"}, []string{"Z", "old unit"}, []string{"O", "sensor"}, []string{"F", "front sensor"},
					[]string{"R", "rear sensor"}),
				gather.DeviceList: list([]string{"Device", "Kind", "System"}, []string{"unit", "unit", "engine"},
					[]string{"old unit", "unit", "engine"}, []string{"valve", "", "emissions"}, []string{"injector", "", "fuel"},
					[]string{"sensor", "", "emissions"}, []string{"front sensor", "", "emissions"},
					[]string{"rear sensor", "", "emissions"})}}}
	}
	raised := func(j stored.Job) string {
		p := computeJob(t, j)
		var out []string
		for _, codes := range p.Join.Raised {
			out = append(out, codes...)
		}
		slices.Sort(out)
		return strings.Join(out, " ")
	}
	if got := raised(base()); got != "" {
		t.Errorf("nothing goes, and %s", got)
	}
	j := base()
	j.Thin = []thin.Decision{{On: thin.Module, ID: "valve", Choice: thin.Goes, Reason: "a trial"}}
	if got := raised(j); !strings.Contains(got, "P0443") {
		t.Errorf("the valve goes: %q", got)
	}
	j = base()
	j.Thin = []thin.Decision{{On: thin.Module, ID: "old unit", Choice: thin.Goes, Reason: "a trial"},
		{On: thin.Module, ID: "sensor", Choice: thin.Goes, Reason: "a trial"}}
	if got := raised(j); got != "" {
		t.Errorf("a unit goes with what hangs on it: %q", got)
	}
	for sensor, want := range map[string]string{"front sensor": "P0030 P0135", "rear sensor": "P0141"} {
		j = base()
		j.Thin = []thin.Decision{{On: thin.Module, ID: sensor, Choice: thin.Goes, Reason: "a trial"}}
		if got := raised(j); got != want {
			t.Errorf("the %s goes: %q, want %s", sensor, got, want)
		}
	}
	refit := job([]string{"A1 Injector 1, control"}, []string{"A2 Injector 1, control",
		"A3 Canister purge valve, control"},
		matched("A1", "A2"))
	if got := raised(refit); got != "" {
		t.Errorf("a wire moves: %q", got)
	}
	refit.Decisions = append(refit.Decisions, match.Decision{Side: match.To, At: harness.Ref{Connector: "A", Cavity: "3"},
		Choice: match.Vacant, Reason: "no canister"})
	if got := raised(refit); !strings.Contains(got, "P0443") {
		t.Errorf("its cavity is left empty: %q", got)
	}
}
