// Package work holds what every stage's steps have in common: a step is a few edits of the harness, said in one
// sentence, and the steps that must come first. Order puts the steps of all stages into one order, and running them
// on the model shows whether they lead where they should.
package work

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"

	"draxel/core/harness"
)

// Stage is the stage of the work that a step belongs to, by the word that stands for it everywhere.
type Stage string

// The stages that have steps. Own are the person's own steps between them.
const (
	NoStage Stage = "" // the steps of all
	Thin    Stage = "thin"
	Pin     Stage = "pin"
	Reach   Stage = "reach"
	Join    Stage = "join"
	Feed    Stage = "feed"
	Own     Stage = "own"
)

// Stages lists them.
func Stages() []Stage { return []Stage{Thin, Pin, Reach, Feed, Join, Own} }

// Kind is what a step is about, a word of its stage.
type Kind string

// Step is one thing that hands do, in one go.
type Step struct {
	ID       string           `json:"id"`
	Edits    []harness.Edit   `json:"edits"`
	Needs    []string         `json:"needs,omitempty"` // ids of steps that must be done before
	Stage    Stage            `json:"stage,omitempty"`
	Kind     Kind             `json:"kind"`
	Text     string           `json:"text"`          // what to do, in one sentence
	Why      string           `json:"why,omitempty"` // why, or why now and not earlier
	Wires    []harness.WireID `json:"wires,omitempty"`
	At       []harness.Ref    `json:"at,omitempty"`
	System   string           `json:"system,omitempty"`  // whose circuits it takes out
	Path     string           `json:"path,omitempty"`    // of the map
	Length   float64          `json:"length,omitempty"`  // mm, of the piece that is let in
	Missing  []string         `json:"missing,omitempty"` // of a gate: what is not complete
	Minutes  float64          `json:"minutes"`
	NoReturn bool             `json:"noReturn,omitempty"` // it cannot be undone in the metal
	Warn     []string         `json:"warn,omitempty"`

	// Live says that it is done with the power on: before the battery is taken off.
	Live bool `json:"live,omitempty"`

	// Guards are ends that nothing may be done to before this step is done: what is measured is measured before it is cut.
	Guards         []harness.TipID      `json:"-"`
	GuardsTerminal []harness.TerminalID `json:"-"` // terminals that nothing may be done to before
}

// New gives a step for the edits. Its id is a hash of them, so that the same work keeps its id in a plan that changed.
func New(edits []harness.Edit, needs ...string) Step {
	text := make([]byte, 0, 128)
	for i := range edits {
		text = edits[i].AppendKey(text)
	}
	sum := sha256.Sum256(text)
	return Step{ID: hex.EncodeToString(sum[:6]), Edits: edits, Needs: needs}
}

// As gives a step with the id, the edits and the needs of another: what New and Check make is told further with it.
func (s Step) As(made Step) Step {
	s.ID, s.Edits, s.Needs = made.ID, made.Edits, made.Needs
	return s
}

// Caution is the kind of the steps that only say what to be careful about.
const Caution Kind = "caution"

// BatteryOff gives the caution before the first cut. It is one step, whichever stages ask for it.
func BatteryOff(stage Stage, minutes float64) Step {
	s := Step{Stage: stage, Kind: Caution, Minutes: minutes,
		Text: "Take the battery's negative off and unplug the control units before anything is cut or extracted.",
		Why: "A cut across a live feed shorts it; a fan or the starter may move; a unit that is plugged in takes the " +
			"harm."}
	return s.As(Check(string(Caution), "battery"))
}

// Check gives a step that changes nothing in the harness: something to look at, to mark or to make sure of. Its id
// comes from what it is about.
func Check(about ...string) Step {
	text, err := json.Marshal(about)
	if err != nil {
		panic("work: words are only strings: " + err.Error())
	}
	sum := sha256.Sum256(text)
	return Step{ID: "c" + hex.EncodeToString(sum[:6]), Edits: []harness.Edit{}}
}

// Tick gives what is kept of a step when it has been carried out; who and when are the caller's to fill in.
func (s *Step) Tick() Tick {
	return Tick{
		Step:    s.ID,
		Edits:   s.Edits,
		Text:    s.Text,
		Minutes: s.Minutes,
		Stage:   s.Stage,
		Kind:    s.Kind,
		At:      s.At,
		Wire:    s.Wire(),
		Length:  s.Length,
	}
}

// Wire names the wire that a step is about, empty where it is about none or several.
func (s *Step) Wire() harness.WireID {
	if len(s.Wires) != 1 {
		return ""
	}
	return s.Wires[0]
}

// Cuts says whether a step cuts into the harness.
func (s *Step) Cuts() bool {
	for i := range s.Edits {
		switch s.Edits[i].Do {
		case harness.Cut, harness.Sever, harness.Open, harness.Tap, harness.Clip:
			return true
		}
	}
	return false
}

// Run carries the steps out on the harness in their order. It fails on a step that comes before one it needs and on an
// edit that cannot be done, naming the step by its place in the list, from 1. It also gives the greatest number of
// terminals that were loose between two steps. After each step look is asked, where it is not nil.
func Run(
	h harness.Harness,
	steps []Step,
	look func(*Step, harness.Harness) error,
) (end harness.Harness, inHand int, err error) {
	done := map[string]bool{}
	b := harness.Work(h)
	for i := range steps {
		s := &steps[i]
		for _, n := range s.Needs {
			if !done[n] {
				return b.Harness(), inHand, fmt.Errorf(
					"step %d: it needs step %s, which comes later or not at all",
					i+1,
					n,
				)
			}
		}
		if err := b.Do(s.Edits...); err != nil {
			return b.Harness(), inHand, fmt.Errorf("step %d: %w", i+1, err)
		}
		done[s.ID] = true
		inHand = max(inHand, b.InHand())
		if look != nil {
			if err := look(s, b.Look()); err != nil {
				return b.Harness(), inHand, fmt.Errorf("step %d: %w", i+1, err)
			}
		}
	}
	return b.Harness(), inHand, nil
}
