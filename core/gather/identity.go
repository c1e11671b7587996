package gather

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
)

// Identity is what a job says of its vehicles and its control unit before anything is taken apart.
type Identity struct {
	Sources     []Origin `json:"sources,omitempty"`
	Unit        UnitID   `json:"unit,omitzero"`
	Throttle    Change   `json:"throttle,omitzero"`   // cable or electric
	Gearbox     Change   `json:"gearbox,omitzero"`    // manual, automatic, twin clutch
	Alternator  Change   `json:"alternator,omitzero"` // self-exciting, lamp-excited, controlled
	Cylinders   int      `json:"cylinders,omitempty"`
	FiringOrder string   `json:"firingOrder,omitempty"`
	Cylinder1   string   `json:"cylinder1,omitempty"` // where it is: "front left"
	Bank1       string   `json:"bank1,omitempty"`     // which bank that is, from the driver's seat
	Immobiliser string   `json:"immobiliser,omitempty"`
	Programmer  Person   `json:"programmer,omitzero"`
}

// Origin is where parts come from: the donor, the chassis, a third vehicle.
type Origin struct {
	Name    string `json:"name"`
	Gives   string `json:"gives,omitempty"` // what of the job comes from it
	Year    string `json:"year,omitempty"`
	Variant string `json:"variant,omitempty"`
	Added   string `json:"added,omitempty"` // who added it, where it is not as the factory made it
}

// UnitID is how a control unit is known: by its numbers, never by its case.
type UnitID struct {
	Hardware string `json:"hardware,omitempty"`
	Service  string `json:"service,omitempty"`
	Read     bool   `json:"read,omitempty"` // somebody read it on the part itself
}

// Change is a property of the donor and what the finished vehicle has; the same in both where nothing changes.
type Change struct {
	Donor string `json:"donor,omitempty"`
	Will  string `json:"will,omitempty"`
}

// Changed says whether both are known and differ.
func (c Change) Changed() bool { return c.Donor != "" && c.Will != "" && c.Donor != c.Will }

// Person is who programs the unit.
type Person struct {
	Name      string `json:"name,omitempty"`
	Confirmed bool   `json:"confirmed,omitempty"` // they said that they can, for this unit and engine
}

// The choices of an identity.
var (
	throttles    = []string{"cable", "electric"}
	gearboxes    = []string{"manual", "automatic", "twin clutch"}
	alternators  = []string{"self-exciting", "lamp-excited", "controlled"}
	immobilisers = []string{"keep and relearn", "remove in programming", "none fitted"}
)

// Choices gives what can be chosen for a property of the identity.
func Choices() map[string][]string {
	return map[string][]string{"throttle": throttles, "gearbox": gearboxes, "alternator": alternators,
		"immobiliser": immobilisers}
}

// OpenItem is something that a change brings with it: circuits and modules to add, to remove, to code.
type OpenItem struct {
	ID   string `json:"id"`
	Do   string `json:"do"` // add, remove or code
	Text string `json:"text"`
	Why  string `json:"why"`
	Of   string `json:"-"` // what is changed: throttle, gearbox, alternator
}

// changes gives what each change brings: common practice of the trade, no source.
var changes = map[string][]OpenItem{
	"throttle cable electric": {
		{Do: "add", Text: "the accelerator pedal with its two sensors: two supplies, two grounds, two signals"},
		{Do: "add", Text: "the throttle motor's two wires and the throttle sensors', as one set with pedal and unit"},
		{Do: "add", Text: "the brake lamp and brake test switches, which the unit compares"},
		{Do: "remove", Text: "the throttle cable, the idle valve and its wires"},
		{Do: "code", Text: "pedal and throttle learned by the unit as a pair"},
	},
	"throttle electric cable": {
		{Do: "add", Text: "an idle valve and a throttle position sensor"},
		{Do: "remove", Text: "the pedal's sensors and the throttle motor's wires"},
		{Do: "code", Text: "the unit's electric throttle out, if it can run without"},
	},
	"gearbox automatic manual": {
		{Do: "add", Text: "a clutch switch, where the unit or the cruise control wants one"},
		{Do: "add", Text: "the manual's reverse switch to the reverse lamps: it is not the automatic's"},
		{Do: "remove", Text: "the gearbox unit, range switch, solenoids and speed sensors; shift lock"},
		{Do: "add", Text: "the start interlock: the range switch stood in it"},
		{Do: "code", Text: "the unit for a manual gearbox; its bus misses the gearbox unit otherwise"},
	},
	"gearbox twin clutch manual": {
		{Do: "add", Text: "a clutch switch, where the unit or the cruise control wants one"},
		{Do: "add", Text: "the manual's reverse switch to the reverse lamps"},
		{Do: "remove", Text: "the gearbox unit with its wake-up wire, feeds and bus ends"},
		{Do: "add", Text: "the start interlock: the gearbox unit granted it"},
		{Do: "code", Text: "the unit for a manual gearbox; torque requests and bus messages of the old one"},
	},
	"gearbox manual automatic": {
		{Do: "add", Text: "the range switch with start interlock and reverse lamps"},
		{Do: "add", Text: "the gearbox unit, its feeds, its solenoids and speed sensors, shift lock and brake switch"},
		{Do: "remove", Text: "the clutch switch, or its place in the start circuit"},
		{Do: "code", Text: "the unit for an automatic gearbox"},
	},
	"alternator self-exciting lamp-excited": {{Do: "add", Text: "the charge lamp as part of the circuit: it excites " +
		"the alternator"}},
	"alternator controlled lamp-excited": {{Do: "add", Text: "the charge lamp as part of the circuit: it excites " +
		"the alternator"}, {Do: "remove", Text: "the unit's control and load wires of the old alternator"},
		{Do: "code", Text: "the unit's fault codes for the alternator's control"}},
	"alternator lamp-excited controlled": {{Do: "add", Text: "the unit's control and load wires of the alternator"},
		{Do: "add", Text: "a charge lamp output, since the lamp excites nothing now"}},
	"alternator self-exciting controlled": {{Do: "add", Text: "the unit's control and load wires of the alternator"}},
	"alternator controlled self-exciting": {{Do: "remove", Text: "the unit's control and load wires of the old " +
		"alternator"}, {Do: "code", Text: "the unit's fault codes for the alternator's control"}},
	"alternator lamp-excited self-exciting": {{Do: "remove", Text: "the charge lamp from the exciting circuit; it can " +
		"stay as an indicator"}},
}

// OpenItems lists what the job's changes bring.
func (id Identity) OpenItems() []OpenItem {
	out := []OpenItem{}
	for _, c := range []struct {
		name string
		Change
	}{{"throttle", id.Throttle}, {"gearbox", id.Gearbox}, {"alternator", id.Alternator}} {
		if !c.Changed() {
			continue
		}
		why := fmt.Sprintf("the %s was %s and will be %s", c.name, c.Donor, c.Will)
		list := changes[c.name+" "+c.Donor+" "+c.Will]
		if len(list) == 0 {
			list = []OpenItem{{Do: "add", Text: "list what the change of " + c.name + " brings: Draxel has no list for it"}}
		}
		for i, item := range list {
			item.ID, item.Why, item.Of = fmt.Sprintf("%s %s to %s %d", c.name, c.Donor, c.Will, i+1), why, c.name
			out = append(out, item)
		}
	}
	return out
}

// Check says what of the identity is open or does not hang together.
func (id Identity) Check() []finding.Finding {
	var out []finding.Finding
	add := func(code string, s finding.Severity, subject, remedy, format string, args ...any) *finding.Finding {
		out = append(out, finding.Finding{Code: code, Severity: s, Stage: "gather", Subject: subject,
			Text: fmt.Sprintf(format, args...), Remedy: remedy})
		return &out[len(out)-1]
	}
	number := strings.TrimSpace(id.Unit.Hardware + " " + id.Unit.Service)
	if number != "" && !id.Unit.Read {
		add("unit-not-read", finding.Check, number, "Read the number on the part: two units that look alike can have "+
			"other pinouts.", "The control unit's number %s was not read on the part itself.",
			number).Place = finding.Place{Part: "vehicles"}
	}
	if p := id.Programmer; p.Name != "" && !p.Confirmed {
		add("programming-open", finding.Check, p.Name, "Ask before any wire is cut: can it be done for this unit and "+
			"engine, and what of the immobiliser?", "%s has not confirmed that the unit can be programmed for this job.",
			p.Name).Place = finding.Place{Part: "vehicles"}
	}
	if order := firing(id.FiringOrder); len(order) > 0 && id.Cylinders > 0 && !eachOnce(order, id.Cylinders) {
		add("firing-order", finding.Wrong, id.FiringOrder, "Write it as 1-3-2-4: every cylinder once.",
			"The firing order %s does not name each of %d cylinders once.", id.FiringOrder,
			id.Cylinders).Place = finding.Place{Part: "vehicles"}
	}
	mixed := map[string][]string{}
	for _, o := range id.Sources {
		if o.Gives != "" {
			mixed[o.Gives] = append(mixed[o.Gives], strings.TrimSpace(o.Name+" "+o.Year+" "+o.Variant))
		}
	}
	for _, gives := range sortedKeys(mixed) {
		if all := mixed[gives]; len(all) > 1 && !same(id.Sources, gives) {
			add("mixed-sources", finding.Check, gives, "Check plugs and pinouts against each other: makers change them with "+
				"the year and the variant.", "The %s comes from different years or variants: %s.", gives,
				strings.Join(all, "; ")).Place = finding.Place{Part: "vehicles"}
		}
	}
	return out
}

// Unsettled lists what must be settled about the unit before the first cut, none where it is: who programs it, whether
// they can, and what becomes of the immobiliser. Each comes with a code of its own.
func (id Identity) Unsettled() []finding.Finding {
	var out []finding.Finding
	add := func(code, text, remedy string) *finding.Finding {
		out = append(out, finding.Finding{Code: code, Severity: finding.Check, Stage: "gather",
			Subject: "control unit", Text: text, Remedy: remedy})
		return &out[len(out)-1]
	}
	if id.Programmer.Name == "" {
		add("no-programmer", "Nobody is named who programs the control unit.",
			"Name them under Vehicles, and ask before any wire is cut: a unit that cannot be programmed runs "+
				"nothing.").Place = finding.Place{Part: "vehicles"}
	}
	if id.Immobiliser == "" {
		add("no-immobiliser-plan", "It is not said what becomes of the immobiliser.",
			"Say so under Vehicles: kept and relearned, removed in programming, or none "+
				"fitted.").Place = finding.Place{Part: "vehicles"}
	}
	return out
}

// same says whether all sources that give a thing are of one year and variant.
func same(all []Origin, gives string) bool {
	var first *Origin
	for i := range all {
		switch o := &all[i]; {
		case o.Gives != gives:
		case first == nil:
			first = o
		case o.Year != first.Year || o.Variant != first.Variant:
			return false
		}
	}
	return true
}

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.SortFunc(keys, finding.Natural)
	return keys
}

// firing reads a firing order, nil where it is none.
func firing(text string) []int {
	var out []int
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune("- ,–/", r) }) {
		n := 0
		if _, err := fmt.Sscanf(part, "%d", &n); err != nil {
			return []int{0}
		}
		out = append(out, n)
	}
	return out
}

// Companions gives for each cylinder the one whose piston is at the top together with it: half the firing order further
// on. It gives none where the order does not name each of an even number of cylinders once.
func Companions(order string, cylinders int) map[int]int {
	fires := firing(order)
	n := len(fires)
	if n < 2 || n%2 != 0 || !eachOnce(fires, n) || cylinders > 0 && cylinders != n {
		return nil
	}
	out := map[int]int{}
	for i, c := range fires {
		out[c] = fires[(i+n/2)%n]
	}
	return out
}

func eachOnce(order []int, n int) bool {
	sorted := slices.Sorted(slices.Values(order))
	if len(sorted) != n {
		return false
	}
	for i, c := range sorted {
		if c != i+1 {
			return false
		}
	}
	return true
}
