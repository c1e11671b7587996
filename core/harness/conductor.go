package harness

import (
	"draxel/core/colour"
	"draxel/core/signal"
	"draxel/core/size"
)

// Conductor is what is known of a conductor wherever it is: in a row of a table, a wire of the loom, a new wire.
type Conductor struct {
	Colour   colour.Colour  `json:"colour"`
	Circuit  string         `json:"circuit,omitempty"` // circuit number, a label as found
	Function string         `json:"function,omitempty"`
	Signal   signal.Reading `json:"signal"`         // what it is for, as its words are read
	Size     size.Section   `json:"size,omitempty"` // mm², 0 where nobody knows
}
