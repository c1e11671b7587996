package network

import (
	_ "embed"
	"strconv"
	"strings"
	"sync"
)

//go:embed bodies.txt
var bodiesText string

// Body is what is inside of a device between the end that is fed and the other: its resistance in Ω at work at 12 V.
type Body struct {
	Kind    Kind    // Load or Lamp
	Ohms    float64 // at work
	Stalled float64 // Ω of a motor that stands, 0 where it is none
}

var bodies = sync.OnceValue(func() map[string]Body {
	out := map[string]Body{}
	for _, line := range strings.Split(bodiesText, "\n") {
		f := strings.Split(line, "|")
		if strings.HasPrefix(line, "#") || len(f) < 3 {
			continue
		}
		b := Body{Kind: Load}
		if strings.TrimSpace(f[1]) == "lamp" {
			b.Kind = Lamp
		}
		b.Ohms, _ = strconv.ParseFloat(strings.TrimSpace(f[2]), 64)
		if len(f) > 3 {
			b.Stalled, _ = strconv.ParseFloat(strings.TrimSpace(f[3]), 64)
		}
		out[strings.TrimSpace(f[0])] = b
	}
	return out
})

// BodyOf gives what is usual inside of a device of the vocabulary (common practice), and false where nothing is.
func BodyOf(device string) (Body, bool) {
	b, ok := bodies()[device]
	return b, ok
}

// Usual resistances in Ω of what hands current on: common practice, no source.
const (
	ContactOhms = 0.002  // a pair of contacts with its two crimps
	JointOhms   = 0.0005 // a crimp at a joint
	StudOhms    = 0.0002 // a lug on a stud
	SwitchOhms  = 0.01   // a contact of a switch
	RelayOhms   = 0.005  // a contact of a relay
	OutputOhms  = 0.15   // an output of a unit that is on
)

// FuseOhms gives the usual resistance in Ω of a blade fuse of a rating in A: it loses about 0.1 V at its rating (common
// practice).
func FuseOhms(rating float64) float64 { return 0.1 / max(rating, 1) }
