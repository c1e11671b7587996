package join

import (
	_ "embed"
	"fmt"
	"slices"
	"strings"
	"sync"
)

//go:embed functions.txt
var functionsText string

// Function is something that must work in the finished vehicle.
type Function struct {
	ID    string           `json:"id"`
	Name  string           `json:"name"`
	Kind  FunctionKind     `json:"kind"`
	Ends  []string         `json:"ends"` // devices of the vocabulary
	Codes []string         `json:"codes,omitempty"`
	Law   string           `json:"law,omitempty"`
	of    map[string]place // of codes that are of one of several devices: which
}

// place is a bank and a position before (1) or after the catalyst (2).
type place struct{ bank, position int }

// codes reads a list of codes, each with @bank.position behind it where it is of one of several devices.
func codes(text string) ([]string, map[string]place) {
	var out []string
	var of map[string]place
	for _, s := range strings.Fields(text) {
		code, where, found := strings.Cut(s, "@")
		out = append(out, code)
		if !found {
			continue
		}
		var at place
		if _, err := fmt.Sscanf(where, "%d.%d", &at.bank, &at.position); err != nil {
			panic("functions.txt: " + s) // the list is built in, and a test reads it
		}
		if of == nil {
			of = map[string]place{}
		}
		of[code] = at
	}
	return out, of
}

// FunctionKind says what a function asks for before it counts.
type FunctionKind string

// The kinds of function: two of its ends must be on one circuit; its consumer must have volts; it is a matter of
// plan; it goes through every plug and back; an end of it must have volts.
const (
	WhereJoined FunctionKind = "joined"
	WhereWorks  FunctionKind = "works"
	WherePlan   FunctionKind = "plan"
	WhereLoop   FunctionKind = "loop"
	WhereFed    FunctionKind = "fed"
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
		list, of := codes(f[4])
		out = append(out, Function{ID: f[0], Name: f[1], Kind: FunctionKind(f[2]), Ends: strings.Fields(f[3]),
			Codes: list, Law: f[5], of: of})
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
