package fact

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
	"draxel/core/stored"
)

// identify checks what is known of the vehicles and the unit. Where a unit's pinout is matched somebody must program
// it: until that is settled nothing is to be cut.
func (f *Facts) identify(j stored.Job) {
	id := gather.Identity{}
	if j.Identity != nil {
		id = *j.Identity
		f.Findings = append(f.Findings, id.Check()...)
	}
	f.From.OneScheme, f.To.OneScheme = j.OneScheme, j.OneScheme
	f.banks(id.Bank1)
	f.cylinders(id.Cylinders)
	f.coilPairs(gather.Companions(id.FiringOrder, id.Cylinders))
	if info, known := j.Kind.Info(); !known || !slices.Contains(info.Stages, "match") || j.From == nil || j.To == nil {
		return
	}
	for _, x := range id.Unsettled() {
		f.Findings = append(f.Findings, x)
		f.Unsettled = append(f.Unsettled, strings.TrimSuffix(x.Text, "."))
	}
	if p := id.Programmer; p.Name != "" && !p.Confirmed {
		f.Unsettled = append(f.Unsettled, p.Name+" has not confirmed that the unit can be programmed")
	}
}

// banks reads left and right as banks, where it was said which is bank 1: one table says "left", the other "bank 1".
func (f *Facts) banks(bank1 string) {
	first := ""
	for _, side := range []string{"left", "right"} {
		if strings.Contains(strings.ToLower(bank1), side) {
			if first != "" {
				return
			}
			first = side
		}
	}
	if first == "" {
		return
	}
	f.From.Rows, f.To.Rows = slices.Clone(f.From.Rows), slices.Clone(f.To.Rows)
	for _, rows := range [][]harness.Row{f.From.Rows, f.To.Rows} {
		for i := range rows {
			s := &rows[i].Signal
			banked := s.Index == signal.ByBank || s.Index == signal.ByBankPlace
			if !banked || s.Bank > 0 || s.Place != "left" && s.Place != "right" {
				continue
			}
			if s.Bank = 2; s.Place == first {
				s.Bank = 1
			}
			s.Place = ""
			s.Text = s.String()
		}
	}
}

// cylinders tells where a table names injectors of another number of cylinders than the engine has.
func (f *Facts) cylinders(n int) {
	if n == 0 {
		return
	}
	for _, side := range []struct {
		side match.Side
		rows []harness.Row
	}{{match.From, f.From.Rows}, {match.To, f.To.Rows}} {
		seen := map[int]bool{}
		for i := range side.rows {
			if s := &side.rows[i].Signal; s.Device == "injector" && s.Cylinder > 0 {
				seen[s.Cylinder] = true
			}
		}
		if len(seen) > 0 && len(seen) != n {
			f.Findings = append(f.Findings, finding.Finding{Code: "cylinder-count", Place: finding.Place{Part: "vehicles"},
				Severity: finding.Wrong,
				Stage:    "gather", Side: string(side.side),
				Subject: "injectors", Text: fmt.Sprintf("The engine has %d cylinders, and the table has injectors of %d.",
					n, len(seen)),
				Remedy: "Look for the missing rows, or for the wrong engine's table; else put the number of cylinders right."})
		}
	}
}

// coilPairs lets the firing order say which two cylinders a coil of two serves: those whose pistons are at the top
// together. A pair that is not one is told. Of a table that has half as many coils as cylinders, named after cylinders
// and not counted through, each coil is that of its companion too.
func (f *Facts) coilPairs(with map[int]int) {
	if len(with) == 0 {
		return
	}
	for _, side := range []struct {
		side match.Side
		p    *harness.Pinout
	}{{match.From, &f.From}, {match.To, &f.To}} {
		named, through := map[int]bool{}, true
		for i := range side.p.Rows {
			s := &side.p.Rows[i].Signal
			if s.Device != "coil" || s.Cylinder == 0 {
				continue
			}
			named[s.Cylinder] = true
			through = through && s.Cylinder <= len(with)/2 && s.Also == 0
			if s.Also > 0 && with[s.Cylinder] != s.Also {
				f.Findings = append(f.Findings, finding.Finding{Code: "coil-pair", Place: finding.Place{Part: "vehicles"},
					Severity: finding.Wrong,
					Stage:    "gather",
					Side:     string(side.side), Subject: side.p.Rows[i].Ref.String(),
					Text: fmt.Sprintf("%s is a coil of cylinders %d and %d; by the firing order %d fires with %d.",
						side.p.Rows[i].Ref, s.Cylinder, s.Also, s.Cylinder, with[s.Cylinder]),
					Remedy: "Put the row or the firing order right: a spark at the wrong stroke lights the intake."})
			}
		}
		if through || len(named) != len(with)/2 {
			continue
		}
		side.p.Rows = slices.Clone(side.p.Rows)
		for i := range side.p.Rows {
			s := &side.p.Rows[i].Signal
			if s.Device != "coil" || s.Cylinder == 0 || s.Also > 0 || named[with[s.Cylinder]] {
				continue
			}
			s.Cylinder, s.Also = min(s.Cylinder, with[s.Cylinder]), max(s.Cylinder, with[s.Cylinder])
			s.Text = s.String()
		}
	}
}
