package feed_test

import (
	"testing"

	"draxel/core/harness"
	"draxel/core/vehicle"
)

// Whether a fuse of 20 A saves 0.5 mm² in a short at its far end, by hand. Some 0.08 Ω from the battery 154 A flow: 7.7
// times its rating, at the slowest 0.06 s (ISO 8820-3), and the wire lasts (52/154)² = 0.11 s (IEC 60364-5-54). With
// 0.15 Ω more before it 53 A flow: 2.6 times, between 0.08 and 1.6 s, and the wire lasts 0.98 s: at its slowest the
// fuse is late.
func TestWhatAFuseSavesInAShort(t *testing.T) {
	for ohms, want := range map[string]harness.WireID{"0.0005": "", "0.15": "W60"} {
		v := sound().with(vehicle.Fuses, "fuse=main; rating=40; in=battery +; out=main bus").
			put(vehicle.Fuses, 1, "fuse=2; rating=20; in=IG; out=F-2").
			with(vehicle.Cables, "cable=lead; from=F-2; to=H-1; ohms="+ohms)
		v.wires = append(v.wires, "W60 H-1 N-1 0.5 Spare feed")
		found := false
		for _, p := range v.compute(t).Fuses {
			if p.Fuse != "2" {
				continue
			}
			found = true
			if p.Unsaved != want || p.Carries >= p.Rating {
				t.Errorf("with %s Ω before it: %q is not saved, want %q (%+v)", ohms, p.Unsaved, want, p)
			}
		}
		if !found {
			t.Fatal("there is no fuse 2")
		}
	}
}
