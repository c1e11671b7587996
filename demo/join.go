package demo

import (
	"draxel/core/join"
	"draxel/core/stored"
)

// joinPackhorse says what is known of the Packhorse's functions: a dial for a five-cylinder, senders and gauges, a
// speed sensor at the gearbox, a bus that lost an end with the twin-clutch unit. What is left open is for whoever
// looks at it.
func joinPackhorse(j *stored.Job) {
	for _, w := range []join.FunctionWish{
		{Function: "tach", Facts: map[string]string{"dial": "2.5"}},
		{Function: "speed", Facts: map[string]string{"dial": "10900", "teeth": "6", "axle": "4.3", "tyre": "215/85 R 16"}},
		{Function: "coolantgauge", Facts: map[string]string{"sender": "40: 240, 80: 60, 120: 20",
			"gauge": "40: 290, 80: 110, 120: 70", "between": "straight", "steps": "straight"}},
		{Function: "oilgauge", Facts: map[string]string{"sender": "0: 10, 3: 82, 7: 184", "gauge": "0: 10, 3: 82, 7: 184",
			"own":       "yes",
			"tolerance": "0.3"}},
		{Function: "fuelgauge", Facts: map[string]string{"sender": "0: 73, 100: 8", "gauge": "0: 73, 100: 8"}},
		{Function: "charge", Facts: map[string]string{"alternator": "lamp-excited", "lamp": "bulb", "watts": "2"}},
		{Function: "bus", Facts: map[string]string{"ends": "1", "classes": "VK-2: 30 and 15, instrument panel: 15"}},
		{Function: "fans", Facts: map[string]string{"amps": "18", "rated": "30"}},
		{Function: "compressor", Facts: map[string]string{"by": "sensor", "knows": "yes"}},
		{Function: "brake", Facts: map[string]string{"second": "none", "wants": "closed"}},
		{Function: "diagnostic", Facts: map[string]string{"pins": "4: ground, 5: ground, 7: A29, 16: battery"}},
		{Function: "immobiliser", Choice: join.Wanted,
			Reason: "removed in the unit's programming, by Fen; the owner has it in writing"},
	} {
		w.Who, w.When = "Ines", when
		j.Functions = append(j.Functions, w)
	}
	j.Added = []join.Added{{ID: "P1", Function: "oilgauge", Body: join.Fitted, Who: "Ines", When: when,
		What: "sender of the gauge, in a second port", Reason: "the unit reads its own: a gauge beside it would draw current",
		Was: join.Stated{"sender": "0: 10, 3: 82, 7: 184", "gauge": "0: 10, 3: 82, 7: 184", "tolerance": "0.3"}}}
	j.OutRules = []join.OutputRule{{Output: "B18", When: "coolant above 95 or A/C request", Who: "Ines", Stated: when},
		{Output: "B19", When: "coolant above 102 or B18 and A/C request", Who: "Ines", Stated: when},
		{Output: "B32", When: "A/C request and not full throttle", Who: "Ines", Stated: when}}
}
