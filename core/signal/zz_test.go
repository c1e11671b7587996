package signal_test

import (
	"fmt"
	"testing"

	"draxel/core/signal"
)

func TestZZ(t *testing.T) {
	for _, s := range []string{"Starter solenoid feed", "Starter solenoid, through the gearbox unit", "Start, from the ignition switch", "Starter relay, control", "Starter motor", "TPS signal 0–5 V", "Drosselklappenmotor +", "ignition feed, run and start", "Ignition feed run/start", "Key start signal", "MAP signal 0-5V", "Throttle position sensor 5 V supply", "Drosselklappenpotentiometer Signal", "Fuel level 0-90 ohm", "Coolant temp signal 5 V", "Start signal", "Ignition, run and crank", "12V switched ign run & start", "Pedal position signal 1, 0.5-4.5 V", "Anlasserrelais", "Zündung Klemme 15", "Throttle motor +", "Sensor 5V", "Pump motor +", "Kühlerlüftermotor", "Leerlaufstellmotor", "Kraftstoffpumpenrelais", "Lambdasondenheizung", "Nockenwellensensor Signal", "Drosselklappensensor Masse","Wischermotor +", "Fensterhebermotor"} {
		r := signal.Read(s)
		fmt.Printf("%-45s dev=%s role=%s aspect=%s sure=%.2f\n", s, r.Device, r.Role, r.Aspect, r.Sure)
	}
}
