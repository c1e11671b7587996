package papers

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/plan"
	"draxel/core/signal"
	"draxel/core/stored"
)

// Sheets gives the sheets for others: fitter, programmer, inspector, the second person's check, the yard.
func Sheets(p *plan.Plan, f *fact.Facts, j *stored.Job) []handover.Sheet {
	return []handover.Sheet{fitter(p, f), programmer(p, j), inspector(p, f), second(p), yard(p, j)}
}

// fitter says what plugs where, in which order, and what is to be left alone.
func fitter(p *plan.Plan, f *fact.Facts) handover.Sheet {
	s := handover.Sheet{ID: "fitter", Title: "Fitting the harness", For: "Whoever puts it into the vehicle."}
	plugs := handover.SheetPart{Title: "Plugs, and where they go", Boxes: true, Empty: "There is no plug."}
	alone := handover.SheetPart{Title: "Leave alone", Empty: "Nothing but good sense."}
	grounds := handover.SheetPart{Title: "Grounds: bare metal, tight, before anything else", Boxes: true,
		Empty: "Nobody has said where it is grounded."}
	units := handover.SheetPart{Title: "Last, with the battery off", Boxes: true, Empty: "No control unit."}
	kind := map[string]harness.DeviceKind{}
	for i := range f.Laid.Loom.Devices {
		d := &f.Laid.Loom.Devices[i]
		kind[d.ID] = d.Kind
		if d.Kind == harness.Grounds {
			grounds.Lines = append(grounds.Lines, d.ID)
		}
	}
	seen := map[string]bool{}
	for i := range f.Laid.Loom.Connectors {
		h := &f.Laid.Loom.Connectors[i]
		switch {
		case p.Wanted.Free(h.ID):
			alone.Lines = append(alone.Lines, fmt.Sprintf("Plug %s hangs free: it is plugged into nothing.", h.ID))
		case h.Locked:
			alone.Lines = append(alone.Lines, fmt.Sprintf("Plug %s is the vehicle's own, and stays as it is.", h.ID))
		case kind[h.Device] == harness.Grounds || seen[h.ID]:
		case !slices.ContainsFunc(h.Cavities, func(c string) bool {
			_, full := p.Wanted.In(harness.Ref{Connector: h.ID, Cavity: c})
			return full
		}):
			alone.Lines = append(alone.Lines, fmt.Sprintf("Plug %s has no wire in it any more.", h.ID))
		case kind[h.Device] == harness.Unit:
			units.Lines = append(units.Lines, fmt.Sprintf("%s, %d-way, into %s", h.ID, h.Ways(), h.Device))
		case h.Mate != "":
			seen[h.Mate] = true
			plugs.Lines = append(plugs.Lines, fmt.Sprintf("%s onto %s, %d-way", h.ID, h.Mate, h.Ways()))
		case h.Device != "":
			plugs.Lines = append(plugs.Lines, fmt.Sprintf("%s, %d-way, onto %s", h.ID, h.Ways(), h.Device))
		}
	}
	for _, w := range p.Wanted.Wires() {
		if tips, _ := p.Wanted.Tips(w); tips[0].State == harness.Sealed || tips[1].State == harness.Sealed {
			alone.Lines = append(alone.Lines, fmt.Sprintf("%s ends sealed: its end is not opened.", w))
		}
	}
	s.Parts = []handover.SheetPart{{Title: "First", Boxes: true, Lines: []string{"Battery off. Units out.",
		"Lay the harness without a sharp bend; clips and troughs back; a grommet on every raw " +
			"edge."}}, grounds, plugs, units,
		{Title: "Before the key is turned", Boxes: true, Lines: []string{"Every lock home, every plug tugged.",
			"No strand, no tool, no loose metal.", "The test sheet with everything dead: continuity and isolation " +
				"in band.",
			"A small master fuse; neutral, chocks, hands clear of fans and starter; an extinguisher to hand."}}, alone}
	return s
}

// programmer says what the unit is to be told.
func programmer(p *plan.Plan, j *stored.Job) handover.Sheet {
	s := handover.Sheet{
		ID:    "programmer",
		Title: "Programming the unit",
		For:   "Whoever programs it. Back up before anything is written.",
	}
	var who, engine []string
	if id := j.Identity; id != nil {
		for _, x := range [][2]string{{"hardware number", id.Unit.Hardware}, {"service number", id.Unit.Service}} {
			if x[1] != "" {
				who = append(who, x[0]+": "+x[1])
			}
		}
		for _, x := range [][2]string{{"cylinders", fmt.Sprint(id.Cylinders)}, {"firing order", id.FiringOrder},
			{"cylinder 1", id.Cylinder1},
			{"bank 1", id.Bank1}, {"immobiliser", id.Immobiliser}, {"throttle", id.Throttle.Will}, {"gearbox",
				id.Gearbox.Will},
			{"alternator", id.Alternator.Will}} {
			if x[1] != "" && x[1] != "0" {
				engine = append(engine, x[0]+": "+x[1])
			}
		}
	}
	gone := handover.SheetPart{
		Title: "Circuits that are not there any more, and the generic codes they raise (SAE J2012)",
		Boxes: true,
		Empty: "Nothing of the list of functions that raises a code was given up, goes, is left away or is stood in for.",
	}
	for _, name := range slices.Sorted(maps.Keys(p.Join.Raised)) {
		gone.Lines = append(gone.Lines, fmt.Sprintf("%s: %s", name, strings.Join(p.Join.Raised[name], " ")))
	}
	exchanged := handover.SheetPart{Title: "Outputs exchanged", Boxes: true, Empty: "None."}
	for _, x := range j.Exchanges {
		if x.Verify == "" {
			exchanged.Lines = append(
				exchanged.Lines,
				strings.TrimSpace(fmt.Sprintf("%s and %s. %s", x.A, x.B, x.Reason)),
			)
		}
	}
	s.Parts = []handover.SheetPart{
		{Title: "The unit", Lines: who, Empty: "Its numbers are not noted: read them off it, never its case."},
		{Title: "The engine and what goes with it", Lines: engine, Empty: "Nothing is said."},
		gone,
		exchanged,
		{Title: "Settings", Lines: p.Settings(), Boxes: true, Empty: "Nothing is to be set by the plan."},
		{
			Title: "Record",
			Boxes: true,
			Lines: []string{
				"backup: name, hash, date ____________________",
				"written: name, hash, date ____________________",
				"checksum verified",
				"read back and compared",
				"codes before ____________________",
				"codes after ____________________",
			},
		},
	}
	return s
}

// inspected are the words by which an inspector's subjects are known.
var inspected = []struct {
	title, says string
	words       []string
}{
	{
		"Lighting",
		"Lamps that the road needs work as before, or are told.",
		[]string{"lamp", "light", "beam", "indicator", "horn"},
	},
	{"Brakes and stability", "May be unlawful to change: local rules, an engineer's certificate where required.",
		[]string{"brake", "anti-lock", "abs", "stability"}},
	{
		"Restraint",
		"Left to qualified hands; never probed with a meter.",
		[]string{"airbag", "restraint", "pretension"},
	},
	{
		"Emissions",
		"May be unlawful on the road; check local rules.",
		[]string{"oxygen", "purge", "catalyst", "recirculation", "secondary air",
			"evaporat"},
	},
	{
		"High voltage",
		"Only qualified persons; this plan is of the 12 V side.",
		[]string{"high voltage", "interlock loop", "traction"},
	},
}

// inspector says what was changed in what the law looks at.
func inspector(p *plan.Plan, f *fact.Facts) handover.Sheet {
	s := handover.Sheet{ID: "inspector", Title: "For the engineer or inspector",
		For: "What was changed in what rules may be about. Local rules and qualified persons decide; this list " +
			"decides nothing."}
	changed := map[harness.WireID]bool{}
	for _, w := range p.Wanted.Wires() {
		was, found := p.Found.Tips(w)
		if is, _ := p.Wanted.Tips(w); !found || was != is {
			changed[w] = true
		}
	}
	for _, w := range p.Found.Wires() {
		if _, there := p.Wanted.Tips(w); !there {
			changed[w] = true
		}
	}
	wires := map[harness.WireID]*harness.Wire{}
	for i := range f.Laid.Loom.Wires {
		wires[f.Laid.Loom.Wires[i].ID] = &f.Laid.Loom.Wires[i]
	}
	names := slices.SortedFunc(maps.Keys(changed), finding.Natural)
	for _, x := range inspected {
		part := handover.SheetPart{Title: x.title + ". " + x.says, Empty: "Nothing of it was changed."}
		for _, name := range names {
			w := wires[name]
			if w == nil {
				continue
			}
			role := w.Signal.Role == signal.Restraint && x.title == "Restraint" ||
				w.Signal.Role == signal.HighVoltage && x.title == "High voltage"
			if role ||
				slices.ContainsFunc(
					x.words,
					func(word string) bool { return strings.Contains(strings.ToLower(w.Function), word) },
				) {
				verb := "changed"
				if _, there := p.Wanted.Tips(name); !there {
					verb = "cut, or taken out"
				}
				part.Lines = append(part.Lines, fmt.Sprintf("%s, %s: %s", name, w.Function, verb))
			}
		}
		s.Parts = append(s.Parts, part)
	}
	structure := handover.SheetPart{
		Title: "Structure. Holes are not drilled in it without approval.",
		Empty: "The plan asks for no hole.",
	}
	for _, x := range p.Findings {
		if strings.Contains(x.Code, "hole") || strings.Contains(x.Code, "wall") ||
			strings.Contains(x.Code, "structure") {
			structure.Lines = append(structure.Lines, x.Text)
		}
	}
	s.Parts = append(s.Parts, structure)
	return s
}

// second is the second person's check: every power and ground cavity of what is plugged into a unit.
func second(p *plan.Plan) handover.Sheet {
	s := handover.Sheet{ID: "second", Title: "The second person's check",
		For: "Another person, or another day: look at the plug first, then at this. Before the unit is plugged in."}
	power := handover.SheetPart{
		Title: "Powers and grounds",
		Boxes: true,
		Empty: "Nothing is expected: the plan has no such cavity.",
	}
	rest := handover.SheetPart{Title: "The others", Boxes: true, Empty: "None."}
	for _, e := range p.Pin.Expected {
		text := fmt.Sprintf(
			"%s: %s",
			e.At,
			strings.TrimSpace(strings.Join([]string{e.Colour, e.Circuit, e.Function}, " ")),
		)
		if e.Empty {
			text = fmt.Sprintf("%s: empty", e.At)
		}
		if e.Power {
			power.Lines = append(power.Lines, text)
		} else {
			rest.Lines = append(rest.Lines, text)
		}
	}
	s.Parts = []handover.SheetPart{power, rest}
	return s
}

func yard(p *plan.Plan, j *stored.Job) handover.Sheet {
	s := handover.Sheet{ID: "yard", Title: "From the yard", For: "What to bring from the donor before it is gone."}
	part := handover.SheetPart{Title: "Bring", Boxes: true, Empty: "Nothing is known to be wanted."}
	for _, y := range j.Yard(p.Thin.Result) {
		part.Lines = append(part.Lines, y.Text+". "+y.Why)
	}
	s.Parts = []handover.SheetPart{part}
	return s
}
