package match_test

import (
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/signal"
)

// hard are kinds of pair in which a counterpart is there and hard to see: its words are blank or cannot be read on one
// side alone, its number is shared by half, repeated or misprinted.
var hard = []struct {
	recipe
	blankTo, unreadTo float64 // share of the To texts that were readable and are not any more
	misprint          float64 // share of To numbers with one figure wrong
	typo              float64 // share of texts with two letters exchanged
	renamed           float64 // share of To texts that name another circuit: an error of the table
}{
	{recipe: recipe{name: "blank on the other side", houses: [2]int{0, 1}, colours: 0}, blankTo: 0.18},
	{recipe: recipe{name: "unread on the other side", houses: [2]int{1, 0}, colours: 0}, unreadTo: 0.18},
	{recipe: recipe{name: "half of them unread", houses: [2]int{0, 2}, colours: 0.1}, unreadTo: 0.5},
	{recipe: recipe{name: "half shared, blank", houses: [2]int{0, 1}, shared: 0.5, colours: 0.3}, blankTo: 0.2},
	{recipe: recipe{name: "half shared, unread both", houses: [2]int{2, 1}, shared: 0.5, colours: 0.3, unread: 0.15},
		unreadTo: 0.1},
	{recipe: recipe{name: "shared, blank", houses: [2]int{0, 3}, shared: 1, colours: 0.5}, blankTo: 0.3},
	{recipe: recipe{name: "shared, repeated, unread", houses: [2]int{0, 2}, shared: 1, repeated: true, colours: 0.4},
		unreadTo: 0.2},
	{recipe: recipe{name: "misprinted numbers", houses: [2]int{0, 1}, shared: 1, colours: 0.5}, misprint: 0.15,
		blankTo: 0.15},
	{recipe: recipe{name: "misprinted, words in order", houses: [2]int{1, 3}, shared: 1, colours: 0.2}, misprint: 0.3},
	{recipe: recipe{name: "typing errors", houses: [2]int{2, 3}, colours: 0}, typo: 0.5},
	{recipe: recipe{name: "accidents, blank both", houses: [2]int{0, 3}, accident: 30, colours: 0, blank: 0.1},
		blankTo: 0.1},
	{recipe: recipe{name: "wrong words now and then", houses: [2]int{0, 1}, shared: 0.9, colours: 0.5}, renamed: 0.05},
}

// spoilt makes a pair of a hard kind.
func spoilt(all []wording, k int, seed uint64) madePair {
	h := hard[k%len(hard)]
	p := madeFrom(all, h.recipe, seed)
	r := rand.New(rand.NewPCG(seed, 5))
	for side, rows := range [][]harness.Row{p.from.Rows, p.to.Rows} {
		for i := range rows {
			row := &rows[i]
			switch x := r.Float64(); {
			case side == 1 && x < h.blankTo:
				row.Function = ""
			case side == 1 && x < h.blankTo+h.unreadTo:
				row.Function = nonsense(r)
			case side == 1 && x < h.blankTo+h.unreadTo+h.renamed:
				row.Function = all[r.IntN(len(all))].texts[h.houses[1]]
			case x > 1-h.typo && len(row.Function) > 6:
				b := []byte(row.Function)
				at := 1 + r.IntN(len(b)-3)
				b[at], b[at+1] = b[at+1], b[at]
				row.Function = string(b)
			}
			if side == 1 && r.Float64() < h.misprint {
				b := []byte(row.Circuit)
				b[r.IntN(len(b))] = byte('0' + r.IntN(10))
				row.Circuit = string(b)
			}
			row.Signal = signal.Read(row.Function)
		}
	}
	return p
}

var plot = flag.Bool("plot", false, "write docs/calibration.svg from the figures of TestWhatIsSentAwayHasNoCounterpart")

// bin is what was said with about one certainty: how often, the sum of what was said, and how often it was right.
type bin struct{ n, said, right float64 }

func count(b *[10]bin, said float64, right bool) {
	x := &b[min(9, int(said*10))]
	x.n++
	x.said += said
	if right {
		x.right++
	}
}

// drawn is a picture of what was said against what was right, a mark for every bin of fifty and more.
func drawn(matches, goes, wires *[10]bin) []byte {
	var b strings.Builder
	const side, edge = 300.0, 44.0
	at := func(said, was float64) (x, y float64) { return edge + said*side, edge/2 + (1-was)*side }
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %.0f %.0f" font-family="sans-serif" font-size="11">`+"\n", side+240, side+70)
	b.WriteString(`<rect width="100%" height="100%" fill="#fcfbf8"/>` + "\n")
	x0, y0 := at(0, 0)
	x1, y1 := at(1, 1)
	fmt.Fprintf(&b, `<path d="M%.0f %.0fH%.0fV%.0fH%.0fZ" fill="none" stroke="#b5ae9f"/>`+"\n", x0, y0, x1, y1, x0)
	fmt.Fprintf(&b, `<path d="M%.0f %.0fL%.0f %.0f" stroke="#22262a"/>`+"\n", x0, y0, x1, y1)
	_, low := at(0, -0.05)
	_, lower := at(1, 0.95)
	fmt.Fprintf(&b, `<path d="M%.0f %.0fL%.0f %.0f" stroke="#22262a" stroke-dasharray="3 4"/>`+"\n", x0, low, x1, lower)
	for k := 0; k <= 10; k += 2 {
		x, y := at(float64(k)/10, float64(k)/10)
		fmt.Fprintf(&b, `<text x="%.0f" y="%.0f" text-anchor="middle">%.1f</text><text x="%.0f" y="%.0f" text-anchor="end">%.1f</text>`+"\n",
			x, y0+16, float64(k)/10, x0-6, y+4, float64(k)/10)
	}
	fmt.Fprintf(&b, `<text x="%.0f" y="%.0f" text-anchor="middle">said</text><text x="6" y="%.0f">was</text>`+"\n", (x0+x1)/2, y0+34, edge/2-8)
	for k, of := range []struct {
		name string
		bins *[10]bin
		mark string
	}{{"this is its counterpart", matches, `<circle cx="%.1f" cy="%.1f" r="4.5" fill="#22262a"/>`},
		{"it has none, and goes", goes, `<circle cx="%.1f" cy="%.1f" r="4.5" fill="#fcfbf8" stroke="#22262a" stroke-width="1.6"/>`},
		{"nothing feeds it", wires, `<path d="M%.1f %.1fm-4.5 -4.5l9 9m0 -9l-9 9" stroke="#0e5a63" stroke-width="2"/>`}} {
		for _, n := range of.bins {
			if n.n >= 50 {
				x, y := at(n.said/n.n, n.right/n.n)
				fmt.Fprintf(&b, of.mark+"\n", x, y)
			}
		}
		fmt.Fprintf(&b, of.mark+`<text x="%.0f" y="%.0f">%s</text>`+"\n", x1+18, 40+22*float64(k), x1+30, 44+22*float64(k), of.name)
	}
	b.WriteString("</svg>\n")
	return []byte(b.String())
}

// What is said of rows without a counterpart means what it says: over 20 pairs of each kind, of the wires that are said
// to go with about 90 % about 90 % have no counterpart, and so for cavities that need a new wire. Of wires that have a
// counterpart hardly any is sent away, and none surely.
func TestWhatIsSentAwayHasNoCounterpart(t *testing.T) {
	all := wordings(t)
	var goes, wires, matches [10]bin
	pairs, away, surely := 0, 0, 0
	byKind := map[string][3]int{}
	for k := range 20 * len(hard) {
		p := spoilt(all, k, uint64(7000+k))
		back := map[harness.Ref]bool{}
		for _, to := range p.truth {
			back[to] = true
		}
		r := match.Crosswalk(p.from, p.to, match.SameNames(p.from, p.to), nil)
		for _, l := range r.Lines {
			has := p.truth[l.From].Cavity != ""
			kind := byKind[hard[k%len(hard)].name]
			if has {
				pairs++
				kind[0]++
			}
			if len(l.Candidates) > 0 {
				count(&matches, l.Candidates[0].P, p.truth[l.From] == l.Candidates[0].To)
			}
			if l.Verdict == match.Goes || l.Verdict == match.NeedsSource {
				count(&goes, l.P, !has)
				kind[2]++
				if has {
					away++
					kind[1]++
				}
				if has && l.P >= 0.9 {
					surely++
				}
			}
			byKind[hard[k%len(hard)].name] = kind
		}
		for _, w := range r.Wants {
			count(&wires, w.P, !back[w.To])
		}
	}
	for name, k := range byKind {
		t.Logf("%s: %d pairs, %d sent away, of %d that are", name, k[0], k[1], k[2])
	}
	if *plot {
		if err := os.WriteFile("../../docs/calibration.svg", drawn(&matches, &goes, &wires), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	for name, bins := range map[string]*[10]bin{"matches": &matches, "goes": &goes, "needs a wire": &wires} {
		for _, b := range bins {
			if b.n < 50 {
				continue
			}
			said, was := b.said/b.n, b.right/b.n
			t.Logf("%s: said %.3f, was %.3f of %.0f", name, said, was, b.n)
			if was < said-0.05 {
				t.Errorf("%s: said %.3f, and %.3f of %.0f are right", name, said, was, b.n)
			}
		}
	}
	if pairs < 10000 || share(away, pairs) > 0.02 || surely > 0 {
		t.Errorf("of %d wires with a counterpart %d are sent away (%s), %d of them surely", pairs, away,
			fmt.Sprintf("%.1f %%", 100*share(away, pairs)), surely)
	}
}

// What the law or the dash may want, and what a row there that nobody can read may be, is not sent away; it is said
// why.
func TestNotSentAwayAndWhy(t *testing.T) {
	from := side("A1 11 GN Injector 1", "A2 12 GN Injector 2", "A3 13 BU Fuel level sender",
		"A4 14 BK Reverse lamp switch", "A5 15 RD Brake switch",
		"A6 16 BN EGR valve", "A7 17 WH Knock sensor 1", "A8 18 VT zqk vvxw", "A9 19 VT Radiator fan relay")
	full := side("P1 91 GN INJ 1", "P2 92 GN INJ 2")
	blank := side("P1 91 GN INJ 1", "P2 92 GN INJ 2", "P3 93 WH -", "P4 94 WH zzkq")
	for at, want := range map[string]string{"A3": "gauge", "A4": "reverse lamps", "A5": "brake lamps", "A6": "emissions",
		"A8": "cannot be read"} {
		if l := line(t, match.Crosswalk(from, full, match.SameNames(from, full), nil), at); l.Verdict != match.Undecided ||
			!strings.Contains(l.Because, want) {
			t.Errorf("%s: %s because %q, want %q", at, l.Verdict, l.Because, want)
		}
	}
	for to, want := range map[*harness.Pinout]string{&full: "goes ", &blank: "undecided 2 rows there cannot be read"} {
		l := line(t, match.Crosswalk(from, *to, match.SameNames(from, *to), nil), "A9")
		if got := fmt.Sprintf("%s %s", l.Verdict, l.Because); !strings.HasPrefix(got, want) {
			t.Errorf("the fan: %s with %.2f, want %s", got, l.P, want)
		}
	}
}

// Numbers that are said to be of one scheme count where words are blank, and tell rows apart that cannot be read; where
// the words that can be read speak against it they do not, and it is told.
func TestNumbersOfOneScheme(t *testing.T) {
	var ours, theirs, other []string
	for i, text := range []string{"Injector 1", "Injector 2", "Injector 3", "Injector 4", "Knock sensor 1",
		"Coolant temperature", "Battery", "Ground",
		"Purge valve", "Check engine lamp", "Oil temperature", "Fuel pump relay"} {
		ours = append(ours, fmt.Sprintf("A%d %d - %s", i+1, 100+i, text))
		theirs = append(theirs, fmt.Sprintf("P%d %d - ", 20-i, 100+i))
		other = append(other, fmt.Sprintf("P%d %d - %s", 20-i, 100+i,
			[]string{"CAN high", "Radiator fan relay", "Throttle position signal"}[i%3]))
	}
	from, blank, wrong := side(ours...), side(theirs...), side(other...)
	right := func(to harness.Pinout) (n int, r *match.Result) {
		r = match.Crosswalk(from, to, match.SameNames(from, to), nil)
		for i, l := range r.Lines {
			if l.To == ref(fmt.Sprint("P", 20-i)) && l.P >= match.Offered {
				n++
			}
		}
		return n, r
	}
	if n, _ := right(blank); n > 0 {
		t.Errorf("%d blank rows are matched by numbers that nobody spoke for", n)
	}
	from.OneScheme, blank.OneScheme, wrong.OneScheme = true, true, true
	if n, _ := right(blank); n != 12 {
		t.Errorf("of 12 rows %d are matched by their number", n)
	}
	told := 0
	n, r := right(wrong)
	for _, f := range r.Findings(from, wrong) {
		if f.Code == "not-one-scheme" {
			told++
		}
	}
	if n > 0 || told != 1 {
		t.Errorf("words speak against it: %d matched, told %d times", n, told)
	}
}
