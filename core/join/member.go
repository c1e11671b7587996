package join

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/signal"
)

// member notes a device of a function that uses current: whether it has volts in some position, has none in any, or
// nobody knows what is inside of it.
func (it *Item) member(in *Inputs, s *Socket) {
	works, modelled := in.Works[s.Device]
	list := &it.dead
	switch {
	case s.Unit || s.Function != "" && !modelled:
		return
	case !modelled && (signal.Switches(s.Signal.Device) || !in.Unknown[s.Device]):
		return // it hands current on, and uses none
	case !modelled:
		list = &it.untried
	case works:
		list = &it.works
	}
	if !slices.Contains(*list, s.Device) {
		*list = append(*list, s.Device)
	}
}

// at gives a cavity of a device of a function.
func (it *Item) at(device string) string {
	for _, e := range it.Ends {
		if e.Device == device {
			return e.At
		}
	}
	return it.first()
}

func few(all []string) string {
	if n := len(all); n > 4 {
		return strings.Join(all[:4], ", ") + fmt.Sprintf(" and %d more", n-4)
	}
	return strings.Join(all, ", ")
}

func has(n int) string {
	if n == 1 {
		return "has"
	}
	return "have"
}
