package live

import (
	"slices"

	"draxel/core/feed"
	"draxel/core/join"
	"draxel/core/network"
	"draxel/core/signal"
)

// knownOf notes what the network says of the sums: the current of the charge lamp, the volts at the pump.
func knownOf(in *join.Inputs, r *feed.Result) {
	tried := map[string]bool{}
	for _, s := range in.Sockets {
		switch s.Signal.Device {
		case "clutchswitch", "pnp", "transferneutral":
			if tried[s.Device] || !slices.Contains(r.Drawn.Own, s.Device) {
				continue
			}
			tried[s.Device] = true
			if turns, known := r.CranksWithout(s.Device); turns && known {
				in.Job.Cranks = append(in.Job.Cranks, s.Device)
			}
		}
		if s.Unit && (s.Signal.Role == signal.Analogue || s.Signal.Role == signal.Reference5V) {
			if v, known := r.VoltsAt("run", s.At); known && v > inputVolts {
				in.Job.Over = append(in.Job.Over, join.Over{At: s.At.String(), Text: s.Text, Volts: v})
			}
		}
		switch s.Signal.Device {
		case "alternatorlamp":
			if lit(r, s.Device) {
				in.Job.LampAmps = max(in.Job.LampAmps, r.In("run", network.ContactOf(s.At.String())))
			}
		case "fuelpump":
			if v := r.Has("running", s.Device); v > in.Job.PumpVolts {
				in.Job.PumpVolts = v
			}
			in.Job.PumpAmps = max(in.Job.PumpAmps, r.In("running", network.ContactOf(s.At.String())))
		}
	}
}

// lampSwitches are the devices of the vocabulary whose switches light the lamps of a function.
var lampSwitches = map[string]string{"brake": "brakeswitch", "reverse": "reverseswitch"}

// litBy notes what the network says of the lamps that a switch of the driver lights: the harness's own, or one that a
// list of Feed has.
func litBy(in *join.Inputs, r *feed.Result) {
	in.Lit = map[string]join.Lit{}
	are := map[string]map[string]bool{} // devices of the harness by what their wires are read as
	for _, s := range in.Sockets {
		if are[s.Signal.Device] == nil {
			are[s.Signal.Device] = map[string]bool{}
		}
		are[s.Signal.Device][s.Device] = true
	}
	lights := map[string][]string{} // switches by the device that they are, or are called
	for _, x := range r.Own() {
		called := signal.Read(x).Device
		for _, device := range lampSwitches {
			if are[device][x] || called == device {
				lights[device] = append(lights[device], x)
			}
		}
	}
	for function, device := range lampSwitches {
		switches := lights[device]
		if len(switches) == 0 {
			continue
		}
		lit, err := r.Lights(switches)
		if err != nil {
			continue
		}
		l := join.Lit{Switches: switches, On: map[string]bool{}}
		for at := range lit {
			l.On[at.String()] = true
		}
		in.Lit[function] = l
	}
}

// inputVolts is what an input for 5 V bears at most (common practice).
const inputVolts = 6

// lit says whether the network has a lamp in a device.
func lit(r *feed.Result, device string) bool {
	return slices.ContainsFunc(r.Drawn.Of[device], func(i int32) bool { return r.Drawn.Elements[i].Kind == network.Lamp })
}
