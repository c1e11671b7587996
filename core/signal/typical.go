package signal

import "strings"

// typical is the current in A that a device usually takes through its supply, its ground or the output that drives it:
// common practice, no source; what was measured comes first.
var typical = map[string]float64{
	"injector": 1, "injectorpower": 1, "coldstart": 2, "coil": 3, "coilground": 3, "coilpower": 3, "coilminus": 3,
	"ballast": 4, "ballastbypass": 6, "o2": 1.5,
	"fuelpump": 8, "fuelpumprelay": 0.2, "mainrelaycoil": 0.2, "throttlemotor": 4, "iac": 1, "egr": 1, "purge": 1,
	"wastegate": 1, "superclutch": 4,
	"headhigh": 5, "headlow": 5, "headlamp": 10, "sidelamp": 2, "foglamp": 9, "beacon": 5, "spotlamp": 9,
	"stopfeed": 4, "reversefeed": 4, "horn": 5, "wiper": 6,
	"washer": 4, "rearheat": 15, "blower": 15, "startsignal": 10, "fan": 20, "trailer": 10, "radio": 5, "interior": 2,
	"cigar": 10, "windowmotor": 10,
	"seat": 5, "alarmhorn": 2, "indicatorleft": 4, "indicatorright": 4, "flasher": 8, "airvalve": 1, "transfer4wd": 8,
	"doorlock": 8, "mirror": 2,
}

// small is what a signal, a reference or a data line is reckoned at, A.
const small = 0.02

// Typical gives the current in A that a circuit usually carries, and false where nothing is known of it.
func Typical(s *Reading) (float64, bool) {
	switch s.Role {
	case Analogue, Frequency, SwitchInput, Bus, Shield, SensorGround, Reference5V, SensorSupply, OutputSignal:
		return small, true
	case RelayCoil, Lamp:
		return 0.2, true
	}
	if s.Device == "o2" && !strings.HasPrefix(string(s.Aspect), "heater") {
		return small, true
	}
	a, known := typical[s.Device]
	return a, known
}
