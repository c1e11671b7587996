package proveapi

import (
	"sync"

	"draxel/core/prove"
	"draxel/server/desk"
)

// sheetKeys are the positions of the key in which feeds are measured.
var sheetKeys = []string{"off", "accessory", "run", "crank"}

// proving is the vehicle that a job's meter is put on, with its sheet. It is made when it is first asked for, and
// asked by one at a time.
type proving struct {
	asking  sync.Mutex
	vehicle *prove.Vehicle
	sheet   prove.Sheet
	err     error
	round   *prove.Round   // of the trainer, the last that was asked for
	causes  []string       // what could be wrong, in words
	said    *DiagnosisView // of the job's own readings
}

// vehicleOf gives the vehicle of a job, and holds it until it is given back.
func vehicleOf(j *desk.Computed) (*proving, func()) {
	p := desk.Kept(j, "proving", func() *proving {
		p := &proving{}
		if p.vehicle, p.err = j.Plan().Vehicle(&j.Facts); p.err == nil {
			p.sheet, p.err = p.vehicle.Sheet(sheetKeys)
		}
		return p
	})
	p.asking.Lock()
	return p, p.asking.Unlock
}

// standingOf says how the sections of the sheet stand.
func standingOf(j *desk.Computed, p *proving) map[string]prove.Standing {
	now := prove.Since(j.Job.Proved, j.Job.Mended)
	out := map[string]prove.Standing{}
	for i := range p.sheet.Lines {
		l := &p.sheet.Lines[i]
		if !l.First && l.Section != "feeds" && l.Section != "relays" {
			continue
		}
		st := out[l.Section]
		st.Lines++
		x := ProvedLine{SheetLine: *l}
		if x.read(j.Job.Proved, now); x.Reading != nil && !x.Again {
			if st.Done++; !x.Fits {
				st.Out++
			}
		}
		out[l.Section] = st
	}
	return out
}
