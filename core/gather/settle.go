package gather

import (
	"fmt"
	"slices"

	"draxel/core/harness"
	"draxel/core/signal"
)

// Settle says whether what was read at a cavity fits what its wire is said to be, so that it need not be measured
// again before anything is joined to it; and in words what contradicts it, empty where nothing does. A supply is
// live where it should be, a ground is one by its ohms; of anything else a reading that shows that it leads
// somewhere is enough. Common practice, no source.
func Settle(said *signal.Reading, at harness.Ref, all []Measurement) (fits bool, against string) {
	var here []Measurement
	for _, m := range all {
		if m.At == at {
			here = append(here, m)
		}
	}
	if len(here) == 0 {
		return false, ""
	}
	sortByTime(here)
	latest := map[Key]Measurement{} // by position: loaded before bare, else the last
	for _, m := range here {
		if was, two := latest[m.Key]; m.Volts != nil && (!two || m.Loaded || !was.Loaded) {
			latest[m.Key] = m
		}
	}
	switch positions := lives[said.Role]; {
	case said.Device == "ballast" || said.Device == "ballastbypass": // it falls under load: that is what it is
		return true, ""
	case said.Device == "accessory":
		return supplied([]Key{KeyRun}, latest)
	case len(positions) > 0:
		return supplied(positions, latest)
	case said.Role == signal.Ground:
		return grounded(here, latest)
	}
	for _, m := range here {
		if yes, says := m.joined(); m.Volts != nil || says && yes || m.Ohms != nil && !says {
			fits = true
		}
	}
	return fits, ""
}

// lives are the positions of the key in which a supply is live.
var lives = map[signal.Role][]Key{signal.Battery: Keys(), signal.Ignition: {KeyRun, KeyCrank}, signal.Start: {KeyCrank}}

func supplied(lives []Key, latest map[Key]Measurement) (fits bool, against string) {
	for _, k := range append(Keys(), "") {
		m, read := latest[k]
		switch {
		case !read || k != "" && !slices.Contains(lives, k):
		case *m.Volts < liveVolts:
			return false, m.String()
		default:
			fits = true
		}
	}
	return fits, ""
}

func grounded(here []Measurement, latest map[Key]Measurement) (fits bool, against string) {
	for _, m := range here {
		switch toGround := m.To == (harness.Ref{}); {
		case !toGround:
		case m.Ohms != nil && *m.Ohms > groundOhms, m.Joined != nil && !*m.Joined:
			against = m.String()
		case m.Ohms != nil, m.Joined != nil:
			fits, against = true, ""
		}
	}
	for _, k := range append(Keys(), "") {
		if m, read := latest[k]; read && *m.Volts >= deadVolts {
			return false, m.String()
		}
	}
	return fits && against == "", against
}

// Contradicted is a cavity at which the meter contradicts what its wire is said to be.
type Contradicted struct {
	At   harness.Ref
	Role signal.Role
	Read string // what was read, in words
}

// Text says it in one sentence.
func (c Contradicted) Text() string {
	return fmt.Sprintf("%s is said to be %s, and the meter says otherwise (%s): what is to be joined to it is held.", c.At,
		roleWords[c.Role], c.Read)
}

var roleWords = map[signal.Role]string{signal.Battery: "a battery feed", signal.Ignition: "an ignition feed",
	signal.Start: "a start signal", signal.Ground: "a ground"}
