package wanted

import (
	"fmt"
	"strings"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/thin"
)

// Unplugged holds the log of what was unplugged to see what happens against what becomes of it: without a module with
// which it did not start again the engine does not run, and restraint and high voltage are never tried so.
func Unplugged(f *fact.Facts, goes *thin.Result) []finding.Finding {
	var out []finding.Finding
	off := map[string]bool{}
	for _, c := range goes.Off {
		off[c] = true
	}
	for _, u := range f.Log {
		d := device(&f.Laid.Loom, u.Item)
		if d == nil {
			continue
		}
		if (d.System == "restraint" || d.System == "high-voltage") && u.Refuses() == "" {
			out = append(out, finding.Finding{Code: "unplugged-wrongly", Place: finding.Place{Part: "before"},
				Severity: finding.Danger,
				Stage:    "gather", Subject: u.Item,
				Text: fmt.Sprintf("%s was unplugged to see what happens, and it belongs to %s: never.", u.Item,
					d.System),
				Remedy: "Plug it back in, key and battery off, and leave it to qualified hands."})
		}
		if u.Restarted {
			continue
		}
		for _, h := range f.Laid.Loom.Connectors {
			if h.Device == d.ID && off[h.ID] {
				out = append(out, finding.Finding{Code: "needed-to-start", Place: finding.Place{Of: "module"},
					Severity: finding.Wrong,
					Stage:    "thin", Subject: d.ID,
					Text:   fmt.Sprintf("%s goes, and with it unplugged the vehicle did not start again.", d.ID),
					Remedy: "Keep it, or try once more and note that it starts without."})
				break
			}
		}
	}
	return out
}

// device gives the device that a person named, nil where there is none.
func device(l *harness.Loom, name string) *harness.Device {
	for i := range l.Devices {
		if strings.EqualFold(strings.TrimSpace(name), l.Devices[i].ID) {
			return &l.Devices[i]
		}
	}
	return nil
}
