package signal

// law gives what may be unlawful to remove, by the device of the vocabulary and then by system. Which rules apply where
// is for local authorities to say; common practice, no source.
var law = map[string]string{
	"brakeswitch": "brake lamps", "stopfeed": "brake lamps", "reverseswitch": "reverse lamps",
	"reversefeed": "reverse lamps",
	"brakefluid":  "brake warning", "parkbrake": "brake warning", "horn": "horn", "wiper": "wipers", "washer": "wipers",
	"immobiliser": "immobiliser", "immocoil": "immobiliser", "shiftlock": "shift lock", "pnp": "start interlock",
}

var lawOfSystem = map[string]string{"lighting": "lighting", "emissions": "emissions equipment",
	"restraint": "restraint", "brakes": "anti-lock or stability"}

// Legal gives the function of a circuit that the law may want kept, empty where there is none.
func Legal(r *Reading) string {
	if name, known := law[r.Device]; known {
		return name
	}
	return lawOfSystem[r.System]
}
