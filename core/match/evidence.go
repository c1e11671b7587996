package match

import (
	"fmt"
	"math"
	"strings"

	"draxel/core/colour"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
)

const linkage = "Fellegi & Sunter, JASA 64 (1969)"

// Evidence explains a pair: the weight of each field in bits with what was compared, and the odds before anything was.
// A vetoed pair gives the veto alone. It fails when one of the cavities is in no row that takes part.
func (r *Result) Evidence(from, to harness.Ref) ([]finding.Reason, error) {
	i, okF := r.fromAt[from]
	j, okT := r.toAt[to]
	if !okF || !okT {
		return nil, fmt.Errorf("match: no rows for %s and %s", from, to)
	}
	a, b := r.from[i], r.to[j]
	if why, vetoed := Veto(a.Signal, b.Signal); vetoed {
		return []finding.Reason{{Code: "veto", Text: "never joined: " + why}}, nil
	}
	p := r.compare.pattern(i, j)
	out := []finding.Reason{{Code: "words", Text: wordsText(a, b), Bits: r.compare.function(i, j, r.n), Source: linkage}}
	for f, text := range []string{r.numberText(a, b, p), colourText(a, b), sizeText(a, b), placeText(a, b)} {
		level := p.level(f)
		if level == 0 {
			continue
		}
		out = append(out, finding.Reason{Code: []string{"number", "colour", "size", "place"}[f], Text: text,
			Bits: r.weights.bits(f, level), Source: linkage})
	}
	out = append(out, finding.Reason{Code: "prior", Bits: r.weights.prior(),
		Text: fmt.Sprintf("before comparing: %d %% of rows have a counterpart, one among %d", int(100*r.weights.lambda+0.5),
			int(r.n))})
	for k := range out {
		out[k].Bits = math.Round(out[k].Bits*10) / 10
	}
	return out, nil
}

func wordsText(a, b harness.Row) string {
	switch signal.Compare(a.Signal, b.Signal) {
	case signal.Same:
		return "both: " + a.Signal.String()
	case signal.IndexUnknown:
		return fmt.Sprintf("%s / %s: the same as far as it is said", a.Signal, b.Signal)
	case signal.Interchangeable:
		return fmt.Sprintf("%s / %s: one can stand in for the other", a.Signal, b.Signal)
	case signal.OtherAspect:
		return fmt.Sprintf("%s / %s: another wire of the same device", a.Signal, b.Signal)
	case signal.IndexConflict:
		return fmt.Sprintf("%s / %s: not the same one", a.Signal, b.Signal)
	case signal.OtherDevice:
		return fmt.Sprintf("%s / %s: different", a.Signal, b.Signal)
	}
	switch {
	case a.Function == "" || b.Function == "":
		return "one side says nothing"
	case !a.Signal.Read() || !b.Signal.Read():
		return fmt.Sprintf("%q / %q: not all read, compared by the words they share", a.Function, b.Function)
	}
	return fmt.Sprintf("%s / %s: may be the same", a.Signal, b.Signal)
}

func (r *Result) numberText(a, b harness.Row, p pattern) string {
	t := r.weights.numeral
	if p.number() != numberEqual {
		return fmt.Sprintf("%s / %s", a.Circuit, b.Circuit)
	}
	return fmt.Sprintf("%s = %s; of %d equal numbers whose words can be read, %d agree", a.Circuit, b.Circuit, t.equal,
		t.agree)
}

func colourText(a, b harness.Row) string {
	sign := map[colour.Agreement]string{colour.Equal: "=", colour.Compatible: "≈",
		colour.Differ: "/"}[colour.Compare(a.Colour, b.Colour)]
	return fmt.Sprintf("%s %s %s", a.Colour, sign, b.Colour)
}

func sizeText(a, b harness.Row) string { return fmt.Sprintf("%s / %s", a.Size, b.Size) }

func placeText(a, b harness.Row) string { return fmt.Sprintf("%s / %s in one housing", a.Ref, b.Ref) }

// Summary writes a pair's evidence in one line: "number +9.1 · words +11.0 · colour −1.2".
func (r *Result) Summary(from, to harness.Ref) string {
	reasons, err := r.Evidence(from, to)
	if err != nil {
		return ""
	}
	var parts []string
	for _, e := range reasons {
		if e.Code == "veto" {
			return e.Text
		}
		if e.Code != "prior" && e.Bits != 0 {
			parts = append(parts, e.Code+" "+Bits(e.Bits))
		}
	}
	return strings.Join(parts, " · ")
}

// Bits writes a weight with its sign: +9.1, −1.2.
func Bits(b float64) string {
	return strings.Replace(fmt.Sprintf("%+.1f", b), "-", "−", 1)
}
