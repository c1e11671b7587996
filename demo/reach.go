package demo

import (
	"encoding/json"
	"fmt"

	"draxel/core/colour"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/stock"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/exchange"
)

// lay gives a job the Packhorse's stations and paths, and puts its things there.
func lay(j *stored.Job, placesFile string) error {
	data, err := File("packhorse/map.json")
	if err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	j.Map = &route.Map{}
	if err := json.Unmarshal(data, j.Map); err != nil {
		return fmt.Errorf("demo: map: %w", err)
	}
	if data, err = File(placesFile); err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	table, err := exchange.ReadTable(data, "")
	if err != nil {
		return fmt.Errorf("demo: %s: %w", placesFile, err)
	}
	for _, row := range table.Cells[1:] {
		j.Places = append(j.Places, route.Place{Thing: route.Thing{Kind: route.Kind(row[0]), ID: row[1]}, Station: row[2],
			Who: "Ines", When: when})
	}
	return nil
}

func put(device, station string) route.Place {
	return route.Place{Thing: route.Thing{Kind: route.ADevice, ID: device}, Station: station}
}

// reachPackhorse puts the donor's harness into the Packhorse: what was measured, what was decided about single wires,
// and three ways to place the control unit.
func reachPackhorse(j *stored.Job) error {
	if err := lay(j, "packhorse/places.csv"); err != nil {
		return err
	}
	j.Options = []route.Option{
		{ID: "by-the-engine", Name: "unit by the engine", Moves: []route.Place{put("VK-2", "bulkhead out")}},
		{ID: "behind-the-seats", Name: "unit behind the seats", Moves: []route.Place{put("VK-2", "chassis, middle")}},
		{ID: "locker", Name: "fuse box in the front locker", Moves: []route.Place{put("fuse box", "front locker")}},
	}
	j.Lengths = []reach.Measured{
		{Wire: "7431", Had: 1290, Spread: 10, From: "unit shelf", To: "engine front", Who: "Ines", When: when},
		{Wire: "7432", Had: 1290, Spread: 10, From: "unit shelf", To: "engine front", Who: "Ines", When: when + 1},
		{Wire: "7503", Need: 1420, Spread: 15, From: "unit shelf", To: "engine front", Who: "Ines", When: when + 2},
	}
	j.Spans = []reach.Wish{{Wire: "7507", Amps: 5, Reason: "measured at the throttle, blocked", Who: "Ines", When: when}}
	for _, w := range []harness.WireID{"7004d", "7109c", "7230", "7480", "7519", "7600"} {
		j.Spans = append(j.Spans, reach.Wish{Wire: w, Whole: true,
			Reason: "no room for more joints on the unit shelf", Who: "Ines", When: when})
	}
	rules := reach.Standard()
	rules.Unit = "VK-2"
	rules.Plugs = map[string]float64{"A": 74, "B": 62, "E": 41, "TB": 33}
	rules.Shelf = []stock.Piece{{ID: "reel white", Colour: colour.Parse("WH", colour.IEC), Size: 0.5, Class: "C",
		Length: 25000}, {ID: "reel black", Colour: colour.Parse("BK", colour.IEC), Size: 0.5, Class: "C", Length: 12000}}
	j.Rules = &rules
	return nil
}

// fuseBlock is a job of its own on the Packhorse's body harness: its fuse block goes from the front locker to the rear,
// and 74 wires hang on it.
func fuseBlock() (stored.Job, error) {
	j := stored.Job{Title: "Packhorse fuse block", Kind: stored.Classic, Donor: "Bellweather Packhorse, body harness",
		Chassis: "Bellweather Packhorse", OfGather: gather.Record{Sheets: map[gather.SheetKind]*gather.Sheet{}}}
	kinds := []gather.SheetKind{gather.WireList, gather.ConnectorList, gather.DeviceList, gather.BranchList}
	for _, kind := range append(kinds, gather.FeedKinds()...) {
		data, err := File("fuse-block/" + string(kind) + ".csv")
		if err != nil {
			return j, fmt.Errorf("demo: %w", err)
		}
		table, err := exchange.ReadTable(data, "")
		if err != nil {
			return j, fmt.Errorf("demo: %s: %w", kind, err)
		}
		j.Sheets[kind] = &gather.Sheet{Source: "measured in the vehicle", Cells: table.Cells}
	}
	if err := lay(&j, "fuse-block/places.csv"); err != nil {
		return j, err
	}
	for i := range j.Places {
		if j.Places[i].Thing.ID == "fuse block" {
			j.Places[i].Station, j.Places[i].Reason = "rear locker", "dry, and the front locker is wanted for the winch"
		}
	}
	j.Options = []route.Option{
		{ID: "as-built", Name: "front locker, as built", Moves: []route.Place{put("fuse block", "front locker")}},
		{ID: "cab", Name: "beside the driver's seat", Moves: []route.Place{put("fuse block", "fuse box")}},
	}
	for _, w := range []harness.WireID{"F43", "F44"} {
		j.Spans = append(j.Spans, reach.Wish{Wire: w, Amps: 20, Reason: "the fan's plate says so", Who: "Ines", When: when})
	}
	j.Thin = []thin.Decision{{On: thin.Module, ID: "trailer socket", Choice: thin.Goes,
		Reason: "no trailer is drawn any more", Who: "Ines", When: when},
		{On: thin.Module, ID: "trailer module", Choice: thin.Goes, Reason: "no trailer is drawn any more", Who: "Ines",
			When: when}}
	rules := reach.Standard()
	rules.Class, rules.School, rules.Guess = "C", reach.Crimp, 3500
	j.Rules = &rules
	return j, nil
}
