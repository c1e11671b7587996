package join

import (
	_ "embed"
	"fmt"
	"slices"
	"strings"
	"sync"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

//go:embed functions.txt
var functionsText string

// Function is something that must work in the finished vehicle.
type Function struct {
	ID    string   `json:"id"`
	Name  string   `json:"name"`
	Kind  string   `json:"kind"` // joined, works, plan
	Ends  []string `json:"ends"` // devices of the vocabulary
	Codes []string `json:"codes,omitempty"`
	Law   string   `json:"law,omitempty"`
}

// The kinds of function: two of its ends must be on one circuit; its consumer must have volts; it is a matter of plan.
const (
	WhereJoined = "joined"
	WhereWorks  = "works"
	WherePlan   = "plan"
)

var catalogue = sync.OnceValue(func() []Function {
	var out []Function
	for _, line := range strings.Split(functionsText, "\n") {
		f := strings.Split(line, "|")
		if strings.HasPrefix(line, "#") || len(f) < 6 {
			continue
		}
		for i := range f {
			f[i] = strings.TrimSpace(f[i])
		}
		out = append(out, Function{ID: f[0], Name: f[1], Kind: f[2], Ends: strings.Fields(f[3]), Codes: strings.Fields(f[4]),
			Law: f[5]})
	}
	return out
})

// Functions lists what must work in a finished vehicle, in the order in which people ask about it.
func Functions() []Function { return slices.Clone(catalogue()) }

// FunctionOf gives a function by its id, and false where there is none.
func FunctionOf(id string) (Function, bool) {
	i := slices.IndexFunc(catalogue(), func(f Function) bool { return f.ID == id })
	if i < 0 {
		return Function{}, false
	}
	return catalogue()[i], true
}

// FunctionNamed gives the function that people mean by a few words, "brake lamps", and false where they mean none.
func FunctionNamed(text string) (Function, bool) {
	words := strings.Fields(strings.ToLower(text))
	if len(words) == 0 {
		return Function{}, false
	}
	best, most := -1, 0
	for i, f := range catalogue() {
		n := 0
		for _, w := range words {
			if slices.Contains(strings.Fields(f.Name), strings.TrimSuffix(w, ",")) {
				n++
			}
		}
		if n > most {
			best, most = i, n
		}
	}
	if best < 0 || most*2 < len(words) {
		return Function{}, false
	}
	return catalogue()[best], true
}

// Choice is what a person wants of a function.
type Choice string

// The choices. The zero value is that nobody has said: what the tables have, is wanted.
const (
	Unsaid    Choice = ""
	Wanted    Choice = "wanted"
	GivenUp   Choice = "given-up"   // it was there, and will not be
	NotFitted Choice = "not-fitted" // this vehicle has none
)

// FunctionWish is what a person decided and stated about a function.
type FunctionWish struct {
	Function string            `json:"function"`
	Choice   Choice            `json:"choice,omitempty"`
	Facts    map[string]string `json:"facts,omitempty"` // what its sum works with, by name, as it was typed
	Reason   string            `json:"reason,omitempty"`
	Who      string            `json:"who,omitempty"`
	When     int64             `json:"when,omitempty"` // Unix milliseconds
}

// Check says why a wish cannot be.
func (w *FunctionWish) Check() error {
	if _, known := FunctionOf(w.Function); !known {
		return fmt.Errorf("there is no function %q", w.Function)
	}
	if !slices.Contains([]Choice{Unsaid, Wanted, GivenUp, NotFitted}, w.Choice) {
		return fmt.Errorf("of a function it cannot be decided %q", w.Choice)
	}
	if len(w.Facts) > 40 {
		return fmt.Errorf("a function has at most 40 facts")
	}
	for name, text := range w.Facts {
		if len(name) > 40 || len(text) > 400 {
			return fmt.Errorf("a fact of a function is a few words: %s is not", name[:min(len(name), 20)])
		}
	}
	return nil
}

// Socket is a cavity of a device in the wanted harness, with what its wire is read as and the circuit that it is on.
type Socket struct {
	At      harness.Ref
	Device  string
	Signal  signal.Reading
	Text    string
	Circuit int  // sockets of one number are joined by copper and by contacts that can close
	Unit    bool // of a control unit: that it is awake says nothing of what it drives
}

// State says how a function stands.
type State string

// The states.
const (
	OnPaper  State = "works on paper"
	Needs    State = "needs something"
	Open     State = "open"
	Gone     State = "given up"
	NotThere State = "not fitted"
)

// Item is a function with how it stands, why, and its sum.
type Item struct {
	Function
	State  State    `json:"state"`
	Choice Choice   `json:"choice,omitempty"`
	Reason string   `json:"reason,omitempty"`
	Why    string   `json:"why"`
	Ends   []EndAt  `json:"at"`
	Sum    *Sum     `json:"sum,omitempty"`
	Asks   []Ask    `json:"asks,omitempty"` // what its sum works with
	Needs  []string `json:"needs,omitempty"`
	apart  bool     // no two of its ends are one circuit
	works  string   // a device of it that has volts
	unsaid bool     // it cannot be judged before Feed is said: no finding
}

// EndAt is an end of a function: a cavity of a device.
type EndAt struct {
	Ref     harness.Ref `json:"-"`
	At      string      `json:"at"`
	Device  string      `json:"device"`
	Text    string      `json:"text"`
	Circuit int         `json:"circuit"`
	Unit    bool        `json:"unit,omitempty"` // of a control unit
}

// Inputs is what the list of functions works on.
type Inputs struct {
	Sockets []Socket
	Works   map[string]bool   // by device: something in it has volts in some position with everything on
	Before  map[string]string // by function: "worked" or "did not" before the work began
	Wishes  []FunctionWish
	Job     Known
	Unfed   bool // nobody has said what stands in the vehicle: that nothing has volts says nothing
}

// Known is what the job says of itself and the network of it, for the sums.
type Known struct {
	Cylinders  int
	Alternator string  // self-exciting, lamp-excited, controlled
	LampAmps   float64 // A through the charge lamp with the key in run, 0 where it is not known
	PumpVolts  float64 // V at the pump with the engine running, 0 where it is not known
	PumpAmps   float64
	Cranks     []string // clutch, park or neutral switches without which the starter turns all the same
}

// List gives the functions of a job with how each stands. It is pure.
func List(in Inputs) ([]Item, []finding.Finding) {
	var out []Item
	var found []finding.Finding
	wish := map[string]FunctionWish{}
	for _, w := range in.Wishes {
		wish[w.Function] = w
	}
	for _, f := range catalogue() {
		it := Item{Function: f, Ends: []EndAt{}}
		w := wish[f.ID]
		it.Choice, it.Reason = w.Choice, w.Reason
		circuits := map[int]map[string]bool{}
		for _, s := range in.Sockets {
			if !slices.Contains(f.Ends, s.Signal.Device) {
				continue
			}
			if in.Works[s.Device] && !s.Unit && it.works == "" {
				it.works = s.Device
			}
			if carries(s.Signal.Role) {
				continue
			}
			it.Ends = append(it.Ends, EndAt{s.At, s.At.String(), s.Device, s.Text, s.Circuit, s.Unit})
			if circuits[s.Circuit] == nil {
				circuits[s.Circuit] = map[string]bool{}
			}
			circuits[s.Circuit][s.Device] = true
		}
		it.stand(&in, circuits)
		it.sum(&in, w)
		out = append(out, it)
		found = append(found, it.findings(&in)...)
	}
	return out, found
}

// carries says whether a wire only feeds or grounds what a function is made of, and is no end of it.
func carries(r signal.Role) bool {
	switch r {
	case signal.Ground, signal.SensorGround, signal.Battery, signal.Ignition, signal.SensorSupply, signal.Reference5V,
		signal.Shield:
		return true
	}
	return false
}

// stand says how a function stands by its circuits.
func (it *Item) stand(in *Inputs, circuits map[int]map[string]bool) {
	joined := false
	for _, devices := range circuits {
		joined = joined || len(devices) > 1
	}
	var loose []string // ends at units that nothing of the function comes to
	for _, e := range it.Ends {
		if e.Unit && len(circuits[e.Circuit]) == 1 {
			loose = append(loose, e.At)
		}
	}
	before := in.Before[it.ID]
	switch {
	case it.Choice == GivenUp:
		it.State, it.Why = Gone, "it was decided"
	case it.Choice == NotFitted:
		it.State, it.Why = NotThere, "it was decided"
	case len(it.Ends) == 0 && it.Choice == Unsaid && before == "":
		it.State, it.Why = NotThere, "no wire of the tables is for it"
	case len(it.Ends) == 0:
		it.State, it.Why = Open, "no wire of the finished harness is for it"
		it.Needs = append(it.Needs, "say in Gather which wires are for it, or give it up here")
	case it.Kind == WherePlan:
		it.State, it.Why = Open, "nothing is said of what becomes of it"
		if it.Choice == Wanted {
			it.State, it.Why = OnPaper, "it was decided"
		}
	case it.Kind == WhereWorks && it.works != "":
		it.State, it.Why = OnPaper, fmt.Sprintf("%s has volts with everything on", it.works)
	case it.Kind == WhereWorks && in.Unfed:
		it.State, it.Why, it.unsaid = Open, "nobody has said what stands in the vehicle", true
		it.Needs = append(it.Needs, "say in Feed what feeds it")
	case it.Kind == WhereWorks:
		it.State, it.Why = Needs, "nothing in it has volts in any position"
		it.Needs = append(it.Needs, "a feed, a ground or what switches it: look at it in Feed")
	case it.ID == "interlock" && len(in.Job.Cranks) > 0:
		it.State, it.Why = Needs, "the starter turns without it"
	case joined && len(loose) > 0:
		it.State, it.Why = Needs, "nothing of it comes to "+strings.Join(loose[:min(len(loose), 6)], ", ")
		it.Needs = append(it.Needs, "join the rest to them in Match, or say that the unit is set to do without")
	case joined:
		it.State, it.Why = OnPaper, "its ends are one circuit"
	default:
		var at []string
		for _, e := range it.Ends {
			at = append(at, e.At)
		}
		it.State, it.apart = Needs, true
		it.Why = "its ends are not one circuit: " + strings.Join(at[:min(len(at), 6)], ", ")
		it.Needs = append(it.Needs, "join them in Match, or name what feeds them")
	}
}
