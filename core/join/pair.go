package join

import (
	"fmt"
	"maps"
	"slices"

	"draxel/core/signal"
)

// tracks is how many signals a pedal, and a throttle with a motor, give their unit: it compares the two (common
// practice).
const tracks = 2

// pair says what an electric pedal and its throttle lack, empty where nothing is: every wire that they were found with
// comes to a unit, and each has two tracks.
func (it *Item) pair(in *Inputs) string {
	unit := map[int]bool{}
	of := map[string]string{} // devices of the pair, by what they are
	for i := range in.Sockets {
		s := &in.Sockets[i]
		if s.Unit {
			unit[s.Circuit] = true
		} else if d := s.Signal.Device; slices.Contains(it.Function.Ends, d) && (of[s.Device] == "" || d == "throttlemotor") {
			of[s.Device] = d
		}
	}
	if len(unit) == 0 {
		return "" // nobody has said which plugs are a unit's
	}
	for _, device := range slices.Sorted(maps.Keys(of)) {
		signals := 0
		for i := range in.Lost {
			if s := &in.Lost[i]; s.Device == device && !s.Unit {
				return fmt.Sprintf("the wire of %s (%s) goes", s.At, s.Text)
			}
		}
		for i := range in.Sockets {
			s := &in.Sockets[i]
			switch {
			case s.Device != device || s.Unfollowed:
			case !unit[s.Circuit] && (slices.Contains(it.Function.Ends, s.Signal.Device) ||
				s.Signal.Role == signal.Reference5V || s.Signal.Role == signal.SensorGround):
				return fmt.Sprintf("%s (%s) comes to no unit", s.At, s.Text)
			case s.Signal.Role == signal.Analogue:
				signals++
			}
		}
		if what := of[device]; (what == "app" || what == "throttlemotor") && signals > 0 && signals < tracks {
			return fmt.Sprintf("%s has one track, and the unit compares two", device)
		}
	}
	return ""
}
