package network

import (
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/signal"
)

// starters draws the motors that crank the engine: each turns while a solenoid that a wire comes to has pulled. Where
// there is none it turns while the key is in crank.
func (d *drawing) starters() {
	for _, e := range d.motors {
		name := e.Name
		for i := range d.in.Devices {
			id := d.in.Devices[i].ID
			if len(d.out.Of[id]) == 0 || !d.out.Starters[id] {
				continue
			}
			e.Gate = Gate{
				Relay: d.b.Relay(
					Relay{Name: id + " solenoid", Pull: Solenoid, Coil: d.out.Of[id][0], PullIn: pullVolts, DropOut: dropVolts},
				),
			}
			d.out.Motors = append(d.out.Motors, d.load(name, e))
			e.Name = name + " by another solenoid"
		}
		if e.Gate.Relay == 0 {
			e.Gate.Key = Crank
			d.out.Motors = append(d.out.Motors, d.load(name, e))
		}
	}
}

// starterMotor is the starter in the vocabulary.
const starterMotor = "startermotor"

// calledStarter says whether a name is that of what turns the engine.
func calledStarter(name string) bool {
	return strings.Contains(strings.ToLower(name), "starter") || signal.Read(name).Device == starterMotor
}

// isStarter notes a device that turns the engine or pulls what does: by its wires, or by its name.
func (d *drawing) isStarter(dev *harness.Device, all []pin) {
	byWire := slices.ContainsFunc(all, func(p pin) bool { return p.Device == starterMotor })
	if !dev.Kind.Hub() && !isSwitch(all) && (byWire || calledStarter(dev.ID)) {
		d.out.Starters[dev.ID] = true
	}
}
