package thin

import "draxel/core/harness"

// law gives what may be unlawful to remove, by the device of the vocabulary and then by system. Which rules apply where
// is for local authorities to say; common practice, no source.
var law = map[string]string{
	"brakeswitch": "brake lamps", "stopfeed": "brake lamps", "reverseswitch": "reverse lamps", "reversefeed": "reverse lamps",
	"brakefluid": "brake warning", "parkbrake": "brake warning", "horn": "horn", "wiper": "wipers", "washer": "wipers",
	"immobiliser": "immobiliser", "immocoil": "immobiliser", "shiftlock": "shift lock", "pnp": "start interlock",
}

var lawOfSystem = map[string]string{"lighting": "lighting", "emissions": "emissions equipment", "restraint": "restraint", "brakes": "anti-lock or stability"}

// legal gives the function of a wire that the law may want kept, empty where there is none.
func legal(w *harness.Wire) string {
	if name, known := law[w.Signal.Device]; known {
		return name
	}
	return lawOfSystem[w.Signal.System]
}
