package thin_test

import (
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/thin"
)

// coils is a splice of four coils and a unit's sense input, fed from a fuse through an in-line plug, and grounded by a
// second splice.
func coils() *harness.Loom {
	l := &harness.Loom{Devices: []harness.Device{{ID: "fuse box", Kind: harness.Fuses},
		{ID: "unit", Kind: harness.Unit, System: "engine"},
		{ID: "ground", Kind: harness.Grounds}}, Splices: []harness.Splice{{ID: "S4"}, {ID: "S7"}}}
	plug := func(id, device, mate string, n int) {
		c := harness.Connector{ID: id, Name: id}
		for i := range n {
			c.Cavities = append(c.Cavities, string(rune('1'+i)))
		}
		l.Connectors = append(l.Connectors, harness.Half{Connector: c, Device: device, Mate: mate})
	}
	end := func(connector, cavity string) harness.End {
		return harness.End{At: harness.Ref{Connector: connector, Cavity: cavity}}
	}
	wire := func(id, text string, a, b harness.End) {
		l.Wires = append(l.Wires, harness.Wire{ID: harness.WireID(id), Ends: [2]harness.End{a, b},
			Conductor: harness.Conductor{Function: text, Signal: signal.Read(text)}})
	}
	plug("FB", "fuse box", "", 1)
	plug("X", "", "Y", 2)
	plug("Y", "", "X", 2)
	plug("A", "unit", "", 4)
	plug("G", "ground", "", 2)
	wire("f1", "Ignition coil supply", end("FB", "1"), end("X", "1"))
	wire("f2", "Ignition coil supply", end("Y", "1"), harness.End{Splice: "S4"})
	wire("s1", "Ignition coil supply, sensed", harness.End{Splice: "S4"}, end("A", "1"))
	wire("g1", "Ignition coil ground", end("G", "1"), harness.End{Splice: "S7"})
	for i := range 4 {
		n := string(rune('1' + i))
		l.Devices = append(l.Devices, harness.Device{ID: "coil " + n, System: "ignition"})
		plug("C"+n, "coil "+n, "", 3)
		wire("c"+n, "Ignition coil supply", harness.End{Splice: "S4"}, end("C"+n, "1"))
		wire("k"+n, "Ignition coil ground", harness.End{Splice: "S7"}, end("C"+n, "2"))
	}
	return l
}

// A wire that goes and is the last feed or ground of a splice whose legs stay is told, with what loses it, whether
// somebody has decided to keep that or nobody has decided; and before it is decided a reason is asked for. A leg that
// goes takes nothing from the others.
func TestTheLastFeedOfASplice(t *testing.T) {
	keep := func(id string) thin.Decision { return thin.Decision{On: thin.Module, ID: id, Choice: thin.Keep} }
	kept := []thin.Decision{keep("coil 1"), keep("coil 2"), keep("coil 3"), keep("coil 4"), keep("unit")}
	for _, decided := range [][]thin.Decision{nil, kept} {
		for wire, coils4 := range map[string]bool{"f1": true, "f2": true, "g1": true, "c1": false, "k2": false, "s1": false} {
			l := coils()
			in := thin.Input{Loom: l, Decisions: decided, Bench: thin.Standard()}
			before := thin.Compute(in)
			cut, err := before.Cut(thin.Wire, wire)
			if err != nil {
				t.Fatal(err)
			}
			lost := map[string]bool{}
			for _, x := range cut.Dies {
				if x.Feed && strings.HasPrefix(x.Device, "coil ") {
					lost[x.Device] = true
				}
			}
			if (len(lost) == 4) != coils4 {
				t.Errorf("%d decided, if %s is cut: %+v", len(decided), wire, cut.Dies)
			}
			in.Decisions = append(slices.Clone(decided), thin.Decision{On: thin.Wire, ID: wire, Choice: thin.Goes,
				Reason: "a trial"})
			told := map[string]bool{}
			for _, f := range thin.Compute(in).Findings {
				if f.Severity != finding.Wrong || f.Code != "feed-lost" && f.Code != "function-dies" {
					continue
				}
				for _, at := range []string{"C1", "C2", "C3", "C4"} {
					told[at] = told[at] || strings.Contains(f.Text, at)
				}
			}
			if n := len(slices.DeleteFunc([]string{"C1", "C2", "C3", "C4"},
				func(at string) bool { return !told[at] })); (n == 4) != coils4 {
				t.Errorf("%d decided, %s goes: %d coils are told of", len(decided), wire, n)
			}
		}
	}
}
