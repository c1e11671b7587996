package prove_test

import (
	"math/rand/v2"
	"testing"

	"draxel/core/network"
	"draxel/core/prove"
)

// thousand is a vehicle of some thousand wires.
func thousand() *prove.Vehicle { return vehicle(rand.New(rand.NewPCG(16, 1000)), 320) }

// BenchmarkSheet is the whole test sheet of a vehicle of a thousand wires, with what every line must show.
func BenchmarkSheet(b *testing.B) {
	b.Run("1000", func(b *testing.B) {
		for b.Loop() {
			b.StopTimer()
			v := thousand()
			b.StartTimer()
			s, err := v.Sheet([]string{"off", "run", "crank"})
			if err != nil || len(s.Lines) < 1000 {
				b.Fatal(len(s.Lines), err)
			}
		}
	})
}

// twenty are twenty readings about a fault, as the advice asks for them.
func twenty(b *testing.B, v *prove.Vehicle) []prove.MeterReading {
	b.Helper()
	hidden := []network.Fault{{Do: network.Open, Element: "w40"}}
	var out []prove.MeterReading
	for _, m := range v.Options([]prove.MeterReading{{Measure: prove.Measure{Kind: prove.Volts, A: "D9-1", B: "D9-2",
		Setup: live}}}) {
		if len(out) == 20 {
			break
		}
		x, err := v.With(&m, hidden)
		if err != nil {
			b.Fatal(err)
		}
		out = append(out, prove.MeterReading{Measure: m, Value: x.Value, Over: x.Over})
		out[len(out)-1].ID = m.ID
	}
	return out
}

// BenchmarkDiagnose ranks all single faults of a vehicle of a thousand wires against twenty readings.
func BenchmarkDiagnose(b *testing.B) {
	diagnose(b, []prove.Measure{{Kind: prove.Volts, A: "battery +", B: "battery −", Setup: live}})
}

// BenchmarkNext does that, and finds the next best measurement.
func BenchmarkNext(b *testing.B) { diagnose(b, nil) }

func diagnose(b *testing.B, options []prove.Measure) {
	v := thousand()
	readings := twenty(b, v)
	b.Run("1000", func(b *testing.B) {
		for b.Loop() {
			if _, err := v.Diagnose(readings, options); err != nil {
				b.Fatal(err)
			}
		}
	})
}
