package reach_test

import (
	"fmt"
	"math/rand"

	"draxel/core/colour"
	"draxel/core/harness"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/signal"
	"draxel/core/size"
	"draxel/core/stock"
)

// yard is a small vehicle: the unit inside, a wall, the engine with two banks, the fuse block, all in a line but for
// the banks.
func yard() route.Map {
	return route.Map{
		Stations: []route.Station{{ID: "unit", Group: "body"}, {ID: "in", Group: "body"}, {ID: "out", Group: "body"},
			{ID: "engine", Group: "engine"}, {ID: "bank 1", Group: "engine"}, {ID: "bank 2", Group: "engine"},
			{ID: "fuses", Group: "body"}},
		Paths: []route.Path{{ID: "a", From: "unit", To: "in", Length: 600, Spread: 20},
			{ID: "w", From: "in", To: "out", Length: 300, Wall: true, Spread: 10},
			{ID: "m", From: "out", To: "engine", Length: 400, Moving: true, Spread: 20},
			{ID: "b1", From: "engine", To: "bank 1", Length: 500, Heat: 95, Spread: 20, Cover: route.Tape},
			{ID: "b2", From: "bank 2", To: "engine", Length: 450, Heat: 95, Spread: 20},
			{ID: "f", From: "in", To: "fuses", Length: 700}},
	}
}

func yardLoom() *harness.Loom {
	l := &harness.Loom{Devices: []harness.Device{{ID: "VK", Kind: harness.Unit}, {ID: "injector 1"}, {ID: "injector 2"},
		{ID: "block", Kind: harness.Fuses}}, Splices: []harness.Splice{{ID: "S1"}}}
	for _, c := range []struct{ id, device string }{{"A", "VK"}, {"J1", "injector 1"}, {"J2", "injector 2"},
		{"F", "block"}} {
		l.Connectors = append(l.Connectors, harness.Half{Connector: harness.Connector{ID: c.id, Name: c.id,
			Cavities: harness.Numbered(200), Rows: 1}, Device: c.device})
	}
	return l
}

func yardPlaces() []route.Place {
	put := func(k route.Kind, id, station string) route.Place {
		return route.Place{Thing: route.Thing{Kind: k, ID: id}, Station: station}
	}
	return []route.Place{put(route.ADevice, "VK", "unit"), put(route.ADevice, "injector 1", "bank 1"),
		put(route.AConnector, "J2", "bank 2"), put(route.ADevice, "block", "fuses"), put(route.ASplice, "S1", "engine")}
}

func at(connector string, cavity int) harness.End {
	return harness.End{At: harness.Ref{Connector: connector, Cavity: fmt.Sprint(cavity)}}
}

func wire(id string, a, b harness.End, mm float64, text string) reach.Run {
	return reach.Run{Wire: harness.Wire{ID: harness.WireID(id), Ends: [2]harness.End{a, b},
		Conductor: harness.Conductor{Colour: colour.Parse("GN-BK", colour.IEC), Size: 0.75, Function: text,
			Signal: signal.Read(text)}, Length: mm}}
}

func yardInput(wires ...reach.Run) reach.Input {
	return reach.Input{Loom: yardLoom(), Wires: wires,
		Decisions: reach.Decisions{Map: yard(), Places: yardPlaces(), Rules: reach.Standard()}}
}

// sprawl is a random harness on a random map: everything in the places where Reach is asked of it.
func sprawl(r *rand.Rand, wires, paths int) reach.Input {
	stations := paths*2/3 + 2
	in := reach.Input{Loom: &harness.Loom{}, Decisions: reach.Decisions{Rules: reach.Standard()}}
	d := &in.Decisions
	for i := range stations {
		d.Map.Stations = append(d.Map.Stations, route.Station{ID: fmt.Sprint("s", i),
			Group: []string{"engine", "body", "body"}[r.Intn(3)]})
	}
	for i := range paths {
		a, b := i+1, r.Intn(i+1)
		if a >= stations {
			a, b = r.Intn(stations), r.Intn(stations)
		}
		p := route.Path{ID: fmt.Sprint("p", i), From: fmt.Sprint("s", a), To: fmt.Sprint("s", b),
			Length: 50 + float64(r.Intn(900)), Spread: float64(r.Intn(40)), Heat: float64(40 + r.Intn(80))}
		p.Wall, p.Moving, p.Cover = r.Intn(9) == 0, r.Intn(7) == 0, route.Covers()[r.Intn(4)]
		if r.Intn(30) == 0 {
			p.Waits = "radiator"
		}
		d.Map.Paths = append(d.Map.Paths, p)
	}
	connectors := max(4, wires/12)
	for c := range connectors {
		id := fmt.Sprint("C", c)
		in.Loom.Devices = append(in.Loom.Devices, harness.Device{ID: "D" + id,
			Kind: []harness.DeviceKind{harness.Part, harness.Unit, harness.Fuses}[r.Intn(3)]})
		in.Loom.Connectors = append(in.Loom.Connectors, harness.Half{Connector: harness.Connector{ID: id, Name: id,
			Cavities: harness.Numbered(2*wires + 2), Rows: 2}, Device: "D" + id})
		d.Places = append(d.Places, route.Place{Thing: route.Thing{Kind: route.ADevice, ID: "D" + id},
			Station: fmt.Sprint("s", r.Intn(stations))})
	}
	for k := range 1 + wires/20 {
		in.Loom.Splices = append(in.Loom.Splices, harness.Splice{ID: harness.JointID(fmt.Sprint("S", k))})
		d.Places = append(d.Places, route.Place{Thing: route.Thing{Kind: route.ASplice, ID: fmt.Sprint("S", k)},
			Station: fmt.Sprint("s", r.Intn(stations))})
	}
	colours, texts := []string{"GN-BK", "GN", "BU", "BU-WH", "RD", "YE-BU", "BK"},
		[]string{"Injector 1, control", "Battery feed", "Knock sensor signal", "Coolant temperature sensor signal",
			"Main beam", ""}
	for i := range wires {
		end := func(n int) harness.End {
			if r.Intn(8) == 0 {
				return harness.End{Splice: harness.JointID(fmt.Sprint("S", r.Intn(len(in.Loom.Splices))))}
			}
			cavity := 2*i + n
			if r.Intn(25) == 0 {
				cavity = r.Intn(2*i + n + 1)
			}
			return at(fmt.Sprint("C", r.Intn(connectors)), cavity+1)
		}
		w := wire(fmt.Sprint("W", i), end(0), end(1), float64(r.Intn(4000)), texts[r.Intn(len(texts))])
		w.Colour, w.Size = colour.Parse(colours[r.Intn(len(colours))], colour.IEC),
			[]size.Section{0, 0.35, 0.5, 0.75, 1.5, 4}[r.Intn(6)]
		if r.Intn(8) == 0 {
			w.Length = 0
		}
		if r.Intn(10) == 0 {
			w.Pair = fmt.Sprint("pair", i/2)
		}
		w.Renewed = [2]bool{r.Intn(5) == 0, r.Intn(5) == 0}
		in.Wires = append(in.Wires, w)
		if r.Intn(12) == 0 {
			d.Wishes = append(d.Wishes, reach.Wish{Wire: w.ID, Avoid: []string{fmt.Sprint("p", r.Intn(paths))},
				Whole: r.Intn(3) == 0})
		}
		if r.Intn(5) == 0 {
			in.Stock = append(in.Stock, stock.Piece{ID: fmt.Sprint("old ", i), Colour: w.Colour, Size: w.Size,
				Length: float64(r.Intn(2500))})
		}
	}
	return in
}
