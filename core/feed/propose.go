package feed

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/signal"
)

// Want is something that a block is to feed.
type Want struct {
	Reading signal.Reading
	Text    string
}

// Known is what a vehicle gives a block of one's own. What is empty nobody knows.
type Known struct {
	Plus        string // the battery's positive terminal
	Ignition    string // what is live in run and in crank, for the relay's coil and what wakes the unit
	Ground      string // a ground point for the coils that no unit switches
	MainControl string // the cavity by which the unit pulls the main relay
	PumpControl string // the cavity by which it pulls the pump's
}

// The names of groups of a block: what stands on it is live with the battery, in run and crank, or once the main
// relay has pulled.
const (
	OnBattery  = "battery"
	OnIgnition = "ignition"
	OnMain     = "through the main relay"
)

// spares is how many slots are left free, for what comes later (common practice).
const spares = 2

// Propose groups what is to be fed as the trade does (common practice): what keeps the unit's memory on the battery,
// what wakes it on the ignition, all else through a main relay: injectors by bank, coils, heaters with the air
// meter, the pump through its own relay, each fan alone. With one fuse for all of the engine, as some do for a first
// run, the main relay feeds a single slot. It gives the block, and for each want the cavity of the block that it
// begins at, empty where it is not the block's to feed: a start signal.
func Propose(id string, wants []Want, k Known, one bool) (Block, []string) {
	b := Block{ID: id, Groups: []FeedGroup{}, Slots: []BlockSlot{}, Relays: []BlockRelay{}}
	at := make([]string, len(wants))
	slots := map[string]string{} // by what a slot is for
	slot := func(group, what string) string {
		if b.group(group) == nil {
			g := FeedGroup{Name: group, From: k.Plus}
			switch group {
			case OnBattery:
				g.Fused = true
			case OnIgnition:
				g.From = k.Ignition
			case OnMain:
				g.From, g.Relay = "", "R1"
			}
			b.Groups = append(b.Groups, g)
		}
		if slots[group+what] == "" {
			name := fmt.Sprint(len(b.Slots) + 1)
			b.Slots = append(b.Slots, BlockSlot{Name: name, Group: group, For: what})
			slots[group+what] = name
		}
		return slots[group+what]
	}
	order := make([]int, len(wants))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(x, y int) int { return finding.Natural(kindOf(&wants[x]), kindOf(&wants[y])) })
	main := false
	for _, i := range order {
		w := &wants[i]
		kind := kindOf(w)
		switch {
		case w.Reading.Role == signal.Start:
		case w.Reading.Role == signal.Battery && kind == "":
			at[i] = slot(OnBattery, "unit battery")
		case w.Reading.Role == signal.Ignition && kind == "":
			at[i] = slot(OnIgnition, "unit ignition")
		case kind == "fuel pump" && k.PumpControl != "":
			s := slot(OnBattery, kind)
			if b.relay("R2") == nil {
				b.Relays = append(b.Relays, BlockRelay{Name: "R2", For: kind, From: slotWord + s, Plus: OnBattery,
					Minus: k.PumpControl, Suppressed: ByResistor})
			}
			at[i] = "R2.87"
		default:
			main = true
			if one {
				kind = "engine"
			}
			at[i] = slot(OnMain, kind)
		}
	}
	if main {
		b.lead(k)
	}
	for i := range b.Relays { // a coil on the battery's bus needs that there is one
		if b.Relays[i].Plus == OnBattery || b.Relays[i].From == OnBattery {
			if b.group(OnBattery) == nil {
				b.Groups = append(b.Groups, FeedGroup{Name: OnBattery, From: k.Plus, Fused: true})
			}
		}
	}
	for range spares {
		if len(b.Groups) > 0 {
			b.Slots = append(b.Slots, BlockSlot{Name: fmt.Sprint(len(b.Slots) + 1), Group: b.Groups[0].Name})
		}
	}
	return b, at
}

// lead adds the main relay: the unit pulls it where it has an output for that, else the old ignition wire triggers it.
func (b *Block) lead(k Known) {
	r := BlockRelay{Name: "R1", For: "main relay", From: OnBattery, Plus: OnBattery, Minus: k.MainControl,
		Suppressed: ByResistor}
	if r.Minus == "" {
		r.Plus, r.Minus = k.Ignition, k.Ground
		if b.group(OnIgnition) != nil {
			r.Plus = OnIgnition
		}
	}
	b.Relays = append([]BlockRelay{r}, b.Relays...)
}

// kindOf names what shares a slot, empty for what feeds a unit.
func kindOf(w *Want) string {
	r := &w.Reading
	switch d := r.Device; {
	case strings.HasPrefix(d, "injector"):
		if r.Bank > 0 {
			return fmt.Sprint("injectors bank ", r.Bank)
		}
		return "injectors"
	case strings.HasPrefix(d, "coil"):
		return "coils"
	case d == "o2", d == "maf":
		return "heaters and air meter"
	case d == "fuelpump":
		return "fuel pump"
	case d == "fan":
		if r.Channel > 0 {
			return fmt.Sprint("fan ", r.Channel)
		}
		return "fan"
	case d == "mainrelay":
		return "engine"
	case d == "" || d == "battery" || d == "ignition":
		return ""
	}
	return r.Name
}
