package demo

import (
	"fmt"
	"slices"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/exchange"
)

// when is the moment at which the demonstration's decisions were made: 24 November 2025, in milliseconds.
const when = 1_764_000_000_000

// describePackhorse gives the Packhorse its whole harness, what is known of its vehicles, and the first decisions.
func describePackhorse(j *stored.Job) error {
	j.Sheets = map[gather.SheetKind]*gather.Sheet{}
	for _, kind := range append(gather.SheetKinds(), gather.FeedKinds()...) {
		data, err := File("packhorse/" + string(kind) + ".csv")
		if err != nil {
			return fmt.Errorf("demo: %w", err)
		}
		table, err := exchange.ReadTable(data, "")
		if err != nil {
			return fmt.Errorf("demo: %s: %w", kind, err)
		}
		source := "traced on the bench"
		if slices.Contains(gather.FeedKinds(), kind) {
			source = "read off the Packhorse"
		}
		j.Sheets[kind] = &gather.Sheet{Source: source, Cells: table.Cells}
	}
	j.Identity = &gather.Identity{
		Sources: []gather.Origin{
			{Name: "Tarn Sorrel 2.2 V4", Gives: "engine harness", Year: "2021", Variant: "twin clutch"},
			{Name: "Bellweather Packhorse", Gives: "body harness", Year: "1991", Variant: "mountain rescue"},
			{Name: "Tarn Sorrel estate", Gives: "engine harness", Year: "2019", Variant: "injector pigtails"},
		},
		Unit:       gather.UnitID{Hardware: "VK2-0417", Service: "VK2-0417-C"},
		Throttle:   gather.Change{Donor: "electric", Will: "electric"},
		Gearbox:    gather.Change{Donor: "twin clutch", Will: "manual"},
		Alternator: gather.Change{Donor: "controlled", Will: "lamp-excited"},
		Cylinders:  4, FiringOrder: "1-3-2-4", Cylinder1: "front left", Bank1: "left",
		Immobiliser: "remove in programming", Programmer: gather.Person{Name: "Fen Programming"},
	}
	j.Before = &gather.Before{
		Baseline: []gather.Baseline{{Function: "brake lamps", Works: gather.DidWork}, {Function: "reverse lamps",
			Works: gather.DidNot}, {Function: "fuel gauge", Works: gather.DidWork}},
		Unplugged: []gather.Unplugged{{Item: "alarm siren", KeyOff: true, Restarted: true, Saw: "starts and runs",
			Who: "Ines", When: when}},
	}
	j.Looked = map[string]gather.Looked{
		"SP": {Labelled: true, Counted: 30}, "AL": {Labelled: true, Counted: 7,
			Note: "the alarm's book says 8 wires; one is under tape"}, "TC": {Labelled: true},
		"IJ3": {Labelled: true, Latch: gather.Broken, Seals: gather.Worn},
	}
	j.Readings = ignitionSwitch()
	for _, d := range []thin.Decision{
		{On: thin.Module, ID: "SP-5", Choice: thin.Goes, Reason: "the VK-2 takes its place"},
		{On: thin.Module, ID: "alarm", Choice: thin.Goes, Reason: "nobody has the key for it"},
		{On: thin.System, ID: "emissions", Choice: thin.Goes, Reason: "expedition use off the road; checked with the owner"},
		{On: thin.Module, ID: "oxygen sensor 1 front", Choice: thin.Keep, Reason: "the unit runs closed loop on it"},
		{On: thin.Module, ID: "oxygen sensor 2 front", Choice: thin.Keep, Reason: "the unit runs closed loop on it"},
		{On: thin.System, ID: "ignition", Choice: thin.Keep},
	} {
		d.Who, d.When = "Ines", when
		j.Thin = append(j.Thin, d)
	}
	j.Readings = append(j.Readings, resistanceWire()...)
	crosswalkPackhorse(j)
	if err := reachPackhorse(j); err != nil {
		return err
	}
	joinPackhorse(j)
	if err := provePackhorse(j); err != nil {
		return err
	}
	return feedPackhorse(j)
}

// resistanceWire is the old coil feed, read with nothing on it and with a headlamp of 55 W.
func resistanceWire() []gather.Measurement {
	at, bare, loaded := harness.Ref{Connector: "KB", Cavity: "2"}, 12.4, 7.7
	return []gather.Measurement{
		{ID: "coil-bare", At: at, Key: gather.KeyRun, Volts: &bare, Who: "Ines", When: when + 50},
		{ID: "coil-loaded", At: at, Key: gather.KeyRun, Volts: &loaded, Loaded: true, Watts: 55, Who: "Ines",
			When: when + 51}}
}

// feedPackhorse keeps a fuse block of its own beside the vehicle's own fuses, by which it is fed.
func feedPackhorse(j *stored.Job) error {
	f, err := fact.Of(*j)
	if err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	p := plan.Compute(f, j.Chosen())
	o := p.Fed.Propose(j.Chosen(), f.Feed, false)
	o.ID, o.Who, o.When = "own-block", "Ines", when
	for i := range o.Decisions {
		o.Decisions[i].Who, o.Decisions[i].When = "Ines", when
	}
	j.Feeds = []stored.FeedOption{o}
	return nil
}

// ignitionSwitch is the old switch, read cavity by cavity in each position of the key, with a lamp on it.
func ignitionSwitch() []gather.Measurement {
	volts := map[string][4]float64{"1": {12.5, 12.4, 12.3, 10.6}, "2": {0, 0, 12.2, 10.4}, "3": {0, 12.3, 12.2, 0},
		"4": {0, 0, 0, 10.5}}
	var all []gather.Measurement
	for _, cavity := range []string{"1", "2", "3", "4"} {
		for i, key := range gather.Keys() {
			v := volts[cavity][i]
			all = append(
				all,
				gather.Measurement{ID: fmt.Sprintf("switch-%s-%s", cavity, key), At: harness.Ref{Connector: "IS",
					Cavity: cavity}, Key: key, Volts: &v, Loaded: true, Who: "Ines", When: when + int64(len(all))},
			)
		}
	}
	return all
}

// Enlarge adds so many copies of every wire in the list, each with connectors and splices of its own, for measuring
// what a larger harness costs.
func Enlarge(j *stored.Job, copies int) {
	sheet := *j.Sheets[gather.WireList]
	cells := slices.Clone(sheet.Cells)
	for n := range copies {
		for _, line := range sheet.Cells[1:] {
			line = slices.Clone(line)
			line[0] += fmt.Sprint("-", n)
			for _, end := range []int{1, 3} { // the columns From and To
				if line[end] != "" && line[end] != "taped" && line[end] != "?" {
					line[end] += fmt.Sprint("c", n)
				}
			}
			cells = append(cells, line)
		}
	}
	sheet.Cells = cells
	j.Sheets[gather.WireList] = &sheet
}
