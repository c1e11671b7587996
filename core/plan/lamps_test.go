package plan_test

import (
	"slices"
	"testing"

	"draxel/core/gather"
	"draxel/core/join"
	"draxel/core/stored"
	"draxel/core/thin"
)

// lamps is a vehicle of two brake lamps with a pedal's switch between them and a fuse, each lamp grounded by a wire of
// its own.
func lamps(change func(wires [][]string) [][]string) stored.Job {
	wires := [][]string{{"Wire", "From", "Cavity", "To", "Cavity", "Colour", "Size", "Function"},
		{"p1", "FB", "1", "PS", "1", "GN", "1", "Brake lamp switch feed"},
		{"p2", "PS", "2", "S9", "", "GN-PK", "1", "Brake lamp switch, to the brake lamps"},
		{"p3", "S9", "", "LL", "1", "GN-PK", "1", "Brake lamp feed"},
		{"p4", "S9", "", "LR", "1", "GN-PK", "1", "Brake lamp feed"},
		{"p5", "LL", "2", "G", "1", "BN", "1", "Ground"}, {"p6", "LR", "2", "G", "2", "BN", "1", "Ground"}}
	if change != nil {
		wires = change(wires)
	}
	table := func(rows ...[]string) *gather.Sheet { return &gather.Sheet{Cells: rows} }
	return stored.Job{Title: "t", Kind: stored.Classic, OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{
		gather.WireList: table(wires...),
		gather.ConnectorList: table([]string{"Connector", "Device"}, []string{"FB", "fuse box"},
			[]string{"PS", "brake pedal switch"},
			[]string{"LL", "lamp at the left"}, []string{"LR", "lamp at the right"}, []string{"G", "ground by the tail"}),
		gather.DeviceList: table([]string{"Device", "Kind", "System"}, []string{"fuse box", "fuses", "power"},
			[]string{"brake pedal switch", "", "lighting"}, []string{"lamp at the left", "", "lighting"},
			[]string{"lamp at the right", "", "lighting"}, []string{"ground by the tail", "grounds", "power"}),
		gather.SpliceList: table([]string{"Splice", "Seen"}, []string{"S9", "yes"}),
		gather.SourceList: table([]string{"Source", "Volts", "Positive at", "Negative at"},
			[]string{"battery", "12.6", "battery +",
				"battery −"}),
		gather.FuseList: table([]string{"Fuse", "Rating", "Fed from", "Feeds"}, []string{"F1", "10", "battery +", "FB1"}),
		gather.CableList: table([]string{"Cable", "From", "To", "Size", "Length"},
			[]string{"strap", "ground by the tail", "battery −",
				"16", "500"}),
	}}}
}

// Brake lamps work with the pedal's switch, their feed and their ground: each is taken away in turn, as a list that
// lacks it and as a wire that goes, and they do not.
func TestBrakeLampsWantTheirGround(t *testing.T) {
	state := func(j stored.Job) join.State {
		p := computeJob(t, j)
		i := slices.IndexFunc(p.Join.Functions, func(it join.Item) bool { return it.ID == "brake" })
		return p.Join.Functions[i].State
	}
	if s := state(lamps(nil)); s != join.OnPaper {
		t.Fatalf("whole they are %q", s)
	}
	for _, wire := range []string{"p1", "p2", "p3", "p4", "p5", "p6"} {
		j := lamps(nil)
		j.Thin = []thin.Decision{{On: thin.Wire, ID: wire, Choice: thin.Goes, Reason: "a trial"}}
		if s := state(j); s == join.OnPaper {
			t.Errorf("%s goes, and they work on paper", wire)
		}
	}
	for _, ground := range []string{"p5", "p6"} {
		open := lamps(func(wires [][]string) [][]string {
			for i := range wires {
				if wires[i][0] == ground {
					wires[i][3], wires[i][4] = "taped", ""
				}
			}
			return wires
		})
		if s := state(open); s == join.OnPaper {
			t.Errorf("%s ends in nothing, and they work on paper", ground)
		}
	}
}
