package network

import (
	_ "embed"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"draxel/core/signal"
)

//go:embed bodies.txt
var bodiesText string

// Body is what is inside of a device between the end that is fed and the other: its resistance in Ω at work at 12 V.
type Body struct {
	Kind    Kind    // Load or Lamp
	Ohms    float64 // at work
	Stalled float64 // Ω of a motor that stands, 0 where it is none
	Circuit float64 // A that a circuit of it usually takes, where that is another than what one body draws; else 0
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
		if len(f) > 4 {
			b.Circuit, _ = strconv.ParseFloat(strings.TrimSpace(f[4]), 64)
		}
		out[strings.TrimSpace(f[0])] = b
	}
	return out
})

// BodyOf gives what is usual inside of a device of the vocabulary (common practice), and false where nothing is.
func BodyOf(device string) (Body, bool) {
	b, ok := bodies()[device]
	return b, ok && b.Ohms > 0
}

// smallAmps is what a signal, a reference or a data line is reckoned at, and coilAmps what drives a relay or a small
// lamp (common practice).
const (
	smallAmps = 0.02
	coilAmps  = 0.2
)

// Small says whether a circuit is a signal, a reference, a sensor's ground or a data line: it never carries more than
// some 20 mA.
func Small(s *signal.Reading) bool {
	switch s.Role {
	case signal.Analogue, signal.Frequency, signal.SwitchInput, signal.Bus, signal.Shield, signal.SensorGround,
		signal.Reference5V, signal.SensorSupply, signal.OutputSignal:
		return true
	}
	return false
}

// UsualAmps gives the current in A that a circuit usually takes by what it is read as, and false where nothing is
// known of it: what the network says comes first.
func UsualAmps(s *signal.Reading) (float64, bool) {
	if Small(s) {
		return smallAmps, true
	}
	switch s.Role {
	case signal.RelayCoil, signal.Lamp:
		return coilAmps, true
	}
	if s.Device == "o2" && !strings.HasPrefix(string(s.Aspect), "heater") {
		return smallAmps, true
	}
	b, known := bodies()[s.Device]
	if !known || b.Circuit == 0 && b.Ohms > 500 { // a sensor: what it takes says nothing of what is fed to it
		return 0, false
	}
	if b.Circuit > 0 {
		return b.Circuit, true
	}
	return 12 / b.Ohms, true
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

// bodyFor gives what stands between two ends: what one of their wires says, else what the device is.
func bodyFor(p, m pin, other Body) Body {
	for _, x := range []pin{m, p} {
		if b, ok := BodyOf(x.Device); ok {
			return b
		}
	}
	return other
}

// stageWords are the words by which wires of one load say which of its speeds or beams they feed.
var stageWords = regexp.MustCompile(`(?i)\b(?:slow|fast|low|high|half|full|main|dipped|stage|speed)\b`)

// stages says whether wires of a load feed each another speed or beam of it: they are no two ends of one load.
func stages(all []pin) bool {
	return len(all) > 1 && !slices.ContainsFunc(all, func(p pin) bool { return !stageWords.MatchString(p.text) })
}
