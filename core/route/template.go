package route

import (
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/harness"
)

// Template is a map to start from: its lengths are guesses and stay provisional until they are measured.
type Template struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Meaning string `json:"meaning"`
	Map     Map    `json:"map"`
}

// Names of the stations that templates share; Propose puts things there.
const (
	unitPlace   = "control unit"
	fuseBlock   = "fuse block"
	battery     = "battery"
	engineRear  = "engine rear"
	engineFront = "engine front"
	bankOne     = "bank 1"
	bankTwo     = "bank 2"
	gearbox     = "gearbox"
	dash        = "dash"
	pedals      = "pedals"
	bulkheadIn  = "bulkhead in"
	bulkheadOut = "bulkhead out"
	nose        = "nose"
	rear        = "rear"
	axle        = "axle"
	oneBranch   = "branch"
)

// guessed marks a template's paths until somebody has measured them.
const guessed = "tape measure: this length is a guess"

// Templates lists the maps to start from. The lengths are common practice for a middling car, no source.
func Templates() []Template {
	return []Template{
		{"front", "Engine in front", "Engine in front of the bulkhead, control unit and fuse block where you put them.",
			frontEngine()},
		{"forward", "Forward control", "Engine between or under the seats, its lid in the cab, long runs to nose and rear.",
			forwardControl()},
		{"rear", "Engine behind", "Engine behind the cab, control unit and battery near it or in front.", rearEngine()},
		{"bench", "One unit and one branch", "A sensor, an adapter or a patch harness: two places and a path.", twoPlaces()},
	}
}

func at(id string, x, y float64, group harness.Owner) Station {
	// the drawing is as high as it is wide, the vehicle is not
	return Station{ID: id, X: x, Y: 2.4 * y, Group: string(group)}
}

func way(from, to string, length float64, mark ...func(*Path)) Path {
	p := Path{ID: from + " – " + to, From: from, To: to, Length: length, Waits: guessed, Cover: Tape}
	for _, m := range mark {
		m(&p)
	}
	return p
}

func hot(celsius float64) func(*Path) { return func(p *Path) { p.Heat = celsius } }
func wet(p *Path)                     { p.Wet = true }
func moving(p *Path)                  { p.Moving = true }
func wall(p *Path)                    { p.Wall, p.Edge, p.Cover = true, true, Sleeve }

func frontEngine() Map {
	return Map{
		Stations: []Station{at(nose, 150, 700, harness.Body), at(engineFront, 700, 750, harness.Engine),
			at(bankOne, 1000, 450, harness.Engine), at(bankTwo, 1000, 1080, harness.Engine),
			at(engineRear, 1600, 750, harness.Engine), at(gearbox, 2350, 1150, harness.Gearbox),
			at(bulkheadOut, 1950, 500, harness.Body), at(bulkheadIn, 2750, 500, harness.Body),
			at(unitPlace, 3150, 200, harness.Body), at(fuseBlock, 3050, 850, harness.Body), at(dash, 3600, 500, harness.Body),
			at(pedals, 3600, 1000, harness.Body),
			at(battery, 900, 200, harness.Body), at(rear, 4900, 750, harness.Body), at(axle, 4100, 1150, harness.Driveline)},
		Paths: []Path{way(engineRear, bankOne, 450, hot(95)), way(engineRear, bankTwo, 450, hot(95)),
			way(engineRear, engineFront, 850, hot(95)), way(engineRear, bulkheadOut, 500, moving, hot(80)),
			way(engineRear, gearbox, 800, hot(90), wet), way(bulkheadOut, bulkheadIn, 250, wall),
			way(bulkheadIn, unitPlace, 550), way(bulkheadIn, fuseBlock, 500), way(bulkheadIn, dash, 700),
			way(dash, pedals, 600), way(bulkheadOut, battery, 1300), way(battery, nose, 800, wet), way(bulkheadIn, rear, 3200),
			way(gearbox, axle, 1900, wet)},
	}
}

func forwardControl() Map {
	return Map{
		Stations: []Station{at(nose, 150, 700, harness.Body), at(dash, 550, 350, harness.Body),
			at(pedals, 550, 1050, harness.Body), at(bulkheadIn, 1150, 650, harness.Body),
			at(bulkheadOut, 1900, 650, harness.Body), at(engineFront, 2250, 950, harness.Engine),
			at(bankOne, 2800, 600, harness.Engine), at(bankTwo, 2250, 1300, harness.Engine),
			at(engineRear, 3050, 1000, harness.Engine), at(gearbox, 3600, 1200, harness.Gearbox),
			at(unitPlace, 1050, 200, harness.Body), at(fuseBlock, 1200, 1150, harness.Body),
			at(battery, 1800, 250, harness.Body), at(rear, 4900, 350, harness.Body), at(axle, 4300, 1200, harness.Driveline)},
		Paths: []Path{way(nose, dash, 800, wet), way(dash, pedals, 650), way(dash, bulkheadIn, 600),
			way(bulkheadIn, unitPlace, 450), way(bulkheadIn, fuseBlock, 500), way(bulkheadIn, bulkheadOut, 220, wall),
			way(bulkheadOut, engineFront, 600, moving, hot(85)), way(engineFront, bankOne, 700, hot(95)),
			way(engineFront, bankTwo, 700, hot(95)), way(engineFront, engineRear, 900, hot(95)),
			way(engineRear, gearbox, 650, hot(90), wet), way(bulkheadIn, battery, 700), way(bulkheadIn, rear, 4100, wet),
			way(gearbox, axle, 1400, wet)},
	}
}

func rearEngine() Map {
	return Map{
		Stations: []Station{at(nose, 150, 700, harness.Body), at(dash, 900, 450, harness.Body),
			at(pedals, 700, 1050, harness.Body), at(battery, 400, 250, harness.Body), at(fuseBlock, 1000, 900, harness.Body),
			at(bulkheadIn, 2250, 650, harness.Body), at(unitPlace, 2400, 200, harness.Body),
			at(bulkheadOut, 2950, 650, harness.Body), at(engineFront, 3250, 700, harness.Engine),
			at(bankOne, 3700, 350, harness.Engine),
			at(bankTwo, 3700, 1050, harness.Engine), at(engineRear, 4100, 700, harness.Engine),
			at(gearbox, 4600, 1050, harness.Gearbox), at(axle, 4300, 1250, harness.Driveline),
			at(rear, 4850, 400, harness.Body)},
		Paths: []Path{way(nose, dash, 900, wet), way(dash, pedals, 600), way(nose, battery, 500),
			way(dash, fuseBlock, 500), way(dash, bulkheadIn, 1700), way(bulkheadIn, unitPlace, 450),
			way(bulkheadIn, bulkheadOut, 250, wall),
			way(bulkheadOut, engineFront, 450, moving, hot(85)), way(engineFront, bankOne, 500, hot(95)),
			way(engineFront, bankTwo, 500, hot(95)), way(engineFront, engineRear, 800, hot(95)),
			way(engineRear, gearbox, 600, hot(90), wet), way(gearbox, axle, 400, wet), way(bulkheadIn, rear, 2100)},
	}
}

func twoPlaces() Map {
	return Map{Stations: []Station{
		at(unitPlace, 600, 400, harness.Body), at(oneBranch, 1800, 400, harness.Engine)},
		Paths: []Path{way(unitPlace, oneBranch, 800)}}
}

// Propose puts things that have no station where such things usually are, as far as the map has such a place. It is
// never applied unasked. Placed is what has a station, unit the device from which tape marks are measured.
func (m *Map) Propose(loom *harness.Loom, placed map[Thing]string, unit string) []Place {
	var out []Place
	put := func(t Thing, stations ...string) {
		if _, has := placed[t]; has {
			return
		}
		for _, s := range append(stations, oneBranch) {
			if slices.ContainsFunc(m.Stations, func(x Station) bool { return x.ID == s }) {
				out = append(out, Place{Thing: t, Station: s})
				return
			}
		}
	}
	for i := range loom.Devices {
		d := &loom.Devices[i]
		put(Thing{Kind: ADevice, ID: d.ID}, usual(d, d.ID == unit)...)
	}
	for i := range loom.Connectors {
		if h := &loom.Connectors[i]; h.Device == "" {
			stations := []string{bulkheadIn}
			if h.Mate == "" {
				stations = usualBranch(h.Branch)
			} else if h.Branch != "" && !h.Locked {
				stations = []string{bulkheadIn, bulkheadOut}
			}
			put(Thing{Kind: AConnector, ID: h.ID}, stations...)
		}
	}
	for i := range loom.Branches {
		put(Thing{Kind: ABranch, ID: loom.Branches[i].ID}, usualBranch(loom.Branches[i].ID)...)
	}
	slices.SortStableFunc(out, func(a, b Place) int { return finding.Natural(a.Thing.String(), b.Thing.String()) })
	return out
}

// usual gives the stations at which a device usually is, the likeliest first.
func usual(d *harness.Device, mainUnit bool) []string {
	id := strings.ToLower(d.ID)
	has := func(words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(id, w) })
	}
	switch {
	case has("rear lamp", "fuel pump", "tank", "beacon", "boot", "trailer"):
		return []string{rear}
	case has("headlamp", "horn", "siren", "winch", "radiator", "front lamp"):
		return []string{nose}
	case has("pedal", "clutch switch", "brake lamp switch", "brake switch"):
		return []string{pedals, dash}
	case mainUnit:
		return []string{unitPlace}
	case d.Kind == harness.Fuses, has("relay"):
		return []string{fuseBlock}
	case d.Owner == harness.Gearbox:
		return []string{gearbox, engineRear}
	case d.Owner == harness.Driveline:
		return []string{axle, gearbox}
	case d.Owner == harness.Body || d.System == "instruments":
		return []string{dash}
	case d.Kind == harness.Unit:
		return []string{unitPlace}
	case strings.HasSuffix(id, " 1") || strings.HasSuffix(id, " 2"):
		return []string{bankOne, engineRear}
	case strings.HasSuffix(id, " 3") || strings.HasSuffix(id, " 4"):
		return []string{bankTwo, engineRear}
	}
	return []string{engineFront, engineRear}
}

// usualBranch gives the stations at which a branch usually breaks out.
func usualBranch(branch string) []string {
	b := strings.ToLower(branch)
	for _, x := range []struct {
		word string
		at   string
	}{{"bank 1", bankOne}, {"bank 2", bankTwo}, {"gearbox", gearbox}, {"front", engineFront}, {"throttle", engineFront},
		{"exhaust", engineRear}, {"body", bulkheadIn}, {"dash", dash}, {"fuse", fuseBlock},
		{"rear", rear}, {"nose", nose}, {"unit", unitPlace}, {"shelf", unitPlace}, {"alarm", dash}, {"trunk", engineRear},
		{"engine", engineRear}, {"ignition", dash}} {
		if strings.Contains(b, x.word) {
			return []string{x.at}
		}
	}
	return []string{bulkheadIn}
}
