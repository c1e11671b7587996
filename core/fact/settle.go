package fact

import (
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/signal"
)

// settle notes at which cavities a reading fits what their wires are said to be, and at which one contradicts it: there
// nothing is joined.
func (f *Facts) settle(all []gather.Measurement) {
	f.Measured, f.Against = map[harness.Ref]bool{}, map[harness.Ref]bool{}
	for _, m := range all {
		if _, seen := f.Measured[m.At]; seen {
			continue
		}
		row := f.rowAt(m.At)
		role := row.Signal.Role
		fits, read := gather.Settle(&row.Signal, m.At, all)
		f.Measured[m.At] = fits || row.Measured != "" // what the reading made of it it fits
		if read == "" || row.Measured != "" {
			continue
		}
		f.Against[m.At] = true
		severity := finding.Danger
		if role == signal.Ground {
			severity = finding.Wrong
		}
		c := gather.Contradicted{At: m.At, Role: role, Read: read}
		f.Findings = append(f.Findings, finding.Finding{Code: "reading-contradicts", Place: finding.Place{Part: "readings"},
			Severity: severity, Stage: "gather",
			Subject: m.At.String(), Text: c.Text(),
			Remedy: "Measure it once more, with a lamp on it; where the reading stands put the table right, or choose another " +
				"source in Match."})
	}
}
