package face_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"draxel/core/face"
	"draxel/core/terminal"
)

// rows writes a drawing row by row.
func rows(d face.Drawing) string {
	var out []string
	at := 0
	for _, n := range d.Rows {
		var names []string
		for _, c := range d.Cells[at : at+n] {
			names = append(names, c.Name)
		}
		out = append(out, strings.Join(names, " "))
		at += n
	}
	return strings.Join(out, " | ")
}

// The rules of numbering by which housings are moulded: common practice of the trade, no source.
func TestNumberingAndMirroring(t *testing.T) {
	for _, c := range []struct{ words, wire, mating string }{
		{"2 rows of 4", "1 2 3 4 | 5 6 7 8", "4 3 2 1 | 8 7 6 5"},
		{"2 rows of 4 numbered from top right on the wire side", "4 3 2 1 | 8 7 6 5", "1 2 3 4 | 5 6 7 8"},
		{"2 rows of 4 from top right on the mating face", "1 2 3 4 | 5 6 7 8", "4 3 2 1 | 8 7 6 5"},
		{"3 rows of 3, 3, 2, numbered from top right on the wire side", "3 2 1 | 6 5 4 | 8 7", "1 2 3 | 4 5 6 | 7 8"},
		{"2x3 from bottom left", "4 5 6 | 1 2 3", "6 5 4 | 3 2 1"},
		{"2x3 from the lower right", "6 5 4 | 3 2 1", "4 5 6 | 1 2 3"},
		{"2x3 down the columns", "1 3 5 | 2 4 6", "5 3 1 | 6 4 2"},
		{"2x3 from top right by columns", "5 3 1 | 6 4 2", "1 3 5 | 2 4 6"},
		{"2x3 back and forth", "1 2 3 | 6 5 4", "3 2 1 | 4 5 6"},
		{"1x3 starting at 0", "0 1 2", "2 1 0"},
		{"one row of 10 lettered", "A B C D E F G H J K", "K J H G F E D C B A"},
		{"1x10 all letters", "A B C D E F G H I J", "J I H G F E D C B A"},
		{"1x3 lettered from top right", "C B A", "A B C"},
		{"sealed, 1.5 mm, named 1 2 . 3 / b B 7 X", "1 2 3 | b B 7 X", "3 2 1 | X 7 B b"},
		{"on the mating face, named 1 2 / 3 4", "2 1 | 4 3", "1 2 | 3 4"},
		{"2x2, 1.5 mm, row 2 of 2.8 mm, key at the bottom 25%, key at the left", "1 2 | 3 4", "2 1 | 4 3"},
	} {
		l, err := face.Parse(c.words)
		if err != nil {
			t.Fatalf("%s: %v", c.words, err)
		}
		if got := rows(l.Draw(face.WireSide)); got != c.wire {
			t.Errorf("%s: the wire side is %s, want %s", c.words, got, c.wire)
		}
		if got := rows(l.Draw(face.MatingFace)); got != c.mating {
			t.Errorf("%s: the mating face is %s, want %s", c.words, got, c.mating)
		}
	}
}

// Lettered housings usually leave out I, O and Q and go on past Z in one of two ways (common practice, no source).
func TestLettersPastZ(t *testing.T) {
	for _, c := range []struct {
		style face.Style
		at    int
		want  string
	}{
		{face.Letters, 8, "J"}, {face.Letters, 13, "P"}, {face.Letters, 14, "R"}, {face.Letters, 22, "Z"},
		{face.Letters, 23, "AA"}, {face.Letters, 24, "AB"}, {face.Letters, 45, "AZ"}, {face.Letters, 46, "BA"},
		{face.AllLetters, 25, "Z"}, {face.AllLetters, 26, "AA"}, {face.AllLetters, 52, "BA"},
		{face.ThenSmall, 22, "Z"}, {face.ThenSmall, 23, "a"}, {face.ThenSmall, 31, "j"},
		{face.Numbers, 41, "42"},
	} {
		if got := c.style.Names(60, 0)[c.at]; got != c.want {
			t.Errorf("%q: cavity %d is %s, want %s", c.style, c.at+1, got, c.want)
		}
	}
	for _, s := range []face.Style{face.Letters, face.AllLetters, face.ThenSmall, face.Numbers} {
		names := s.Names(face.Most, 0)
		slices.Sort(names)
		if len(slices.Compact(names)) != face.Most {
			t.Errorf("%q names two cavities alike", s)
		}
	}
}

// In-line halves run opposite ways so that they meet.
func TestHalvesMeet(t *testing.T) {
	engine, _ := face.Parse("2x12 from top left, male, lock at the left")
	body := engine.Mate()
	if got := rows(body.Draw(face.WireSide)); !strings.HasPrefix(got, "12 11 10") ||
		body.Terminal.Gender != terminal.Female || body.Lock != face.Right {
		t.Errorf("the mate is %s, %s, lock %s", got, body.Terminal.Gender, body.Lock)
	}
	if err := face.Meets(engine, body); err != nil {
		t.Errorf("the halves do not meet: %v", err)
	}
	if rows(body.Draw(face.MatingFace)) != rows(engine.Draw(face.WireSide)) {
		t.Error("pressed together, the one half's wire side is not the other's mating face")
	}
	other, _ := face.Parse("2x12 from top left, female")
	if err := face.Meets(engine, other); err == nil || !strings.Contains(err.Error(), `"12" faces "1"`) {
		t.Errorf("two halves that run the same way meet: %v", err)
	}
	if small, _ := face.Parse("2x11"); face.Meets(engine, small) == nil {
		t.Error("halves of different size meet")
	}
	if one, _ := face.Parse("1x12"); face.Meets(engine, one) == nil {
		t.Error("halves of different rows meet")
	}
}

func TestMixedSizesGapsAndKeys(t *testing.T) {
	l := face.Layout{Lock: face.Bottom, Keys: []face.Key{{Side: face.Top, At: 0.25}, {Side: face.Left, At: 0.5}},
		Terminal: terminal.Seat{Family: "m15", Blade: 1.5},
		Rows: []face.Row{{Slots: []face.Slot{{Name: "1", Blade: 2.8}, {Gap: 2}, {Name: "2"}}},
			{Slots: []face.Slot{{Name: "3"}, {Name: "4"}}, Shift: 1}}}
	if err := l.Check(); err != nil || l.Ways() != 4 {
		t.Fatalf("%d ways, %v", l.Ways(), err)
	}
	if s, ok := l.Seat("1"); !ok || s.Blade != 2.8 || s.Family != "m15" {
		t.Errorf("cavity 1 takes %v", s)
	}
	if s, _ := l.Seat("2"); s.Blade != 1.5 {
		t.Errorf("cavity 2 takes %v", s)
	}
	if _, ok := l.Seat("9"); ok {
		t.Error("there is no cavity 9")
	}
	w, m := l.Draw(face.WireSide), l.Draw(face.MatingFace)
	if w.Words != "wire side, lock at the bottom" || w.W != m.W || w.H != m.H {
		t.Errorf("%s: %g by %g, mirrored %g by %g", w.Words, w.W, w.H, m.W, m.H)
	}
	at := func(d face.Drawing, name string) face.Cell {
		return d.Cells[slices.IndexFunc(d.Cells, func(c face.Cell) bool { return c.Name == name })]
	}
	for _, name := range []string{"1", "2", "3", "4"} {
		a, b := at(w, name), at(m, name)
		if diff := a.X + a.W + b.X - w.W; diff > 1e-9 || diff < -1e-9 || a.Y != b.Y {
			t.Errorf("cavity %s is at %g of %g, mirrored at %g", name, a.X, w.W, b.X)
		}
	}
	if k := m.Keys[0]; k.X+k.W/2 != 0.75*m.W {
		t.Errorf("the key at the top lies at %g of %g", k.X, m.W)
	}
	if m.Keys[1].X != m.W {
		t.Error("the key on the left is not on the right from the mating side")
	}
	if !face.Alike(l, l) || face.Alike(l, l.Mirrored()) {
		t.Error("a housing looks like itself, and not like its mirror image with other keys")
	}
}

// Drawing a random face twice mirrored gives the face again, and no two cavities overlap.
func TestDrawingsDoNotOverlap(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 1))
	for range 300 {
		lengths := make([]int, 1+r.IntN(4))
		for i := range lengths {
			lengths[i] = 1 + r.IntN(9)
		}
		l := face.Blank(lengths, 0).Named(face.Numbering{From: []face.Corner{face.TopLeft, face.TopRight, face.BottomLeft,
			face.BottomRight}[r.IntN(4)], Columns: r.IntN(2) == 0, Turns: r.IntN(2) == 0}, face.WireSide)
		for i := range l.Rows {
			l.Rows[i].Shift = float64(r.IntN(5)) - 2
			l.Rows[i].Slots[r.IntN(len(l.Rows[i].Slots))].Blade = []float64{0.64, 2.8, 6.3}[r.IntN(3)]
		}
		if rows(l.Mirrored().Draw(face.MatingFace)) != rows(l.Draw(face.WireSide)) {
			t.Fatal("mirrored twice, the face is another")
		}
		d := l.Draw(face.WireSide)
		for i, a := range d.Cells {
			if a.X < 0 || a.Y < 0 || a.X+a.W > d.W+1e-9 || a.Y+a.H > d.H+1e-9 {
				t.Fatalf("cavity %s lies outside the housing", a.Name)
			}
			for _, b := range d.Cells[:i] {
				if a.X < b.X+b.W-1e-9 && b.X < a.X+a.W-1e-9 && a.Y < b.Y+b.H-1e-9 && b.Y < a.Y+a.H-1e-9 {
					t.Fatalf("cavities %s and %s overlap", a.Name, b.Name)
				}
			}
		}
		if names := l.Names(); names[0] != "1" || names[len(names)-1] != fmt.Sprint(l.Ways()) {
			t.Fatalf("numbered %v", names)
		}
	}
}

func TestPhrasesThatAreRefused(t *testing.T) {
	for words, says := range map[string]string{
		"":                           "say how the rows lie",
		"sealed":                     "say how the rows lie",
		"3 rows of 12, 12":           "3 rows, and 2 lengths",
		"2 rows of 8 upside down":    `"upside"`,
		"0 rows of 4":                "0 rows",
		"2 rows of 0":                "1 cavity or more",
		"9 rows of 90":               "at most 400",
		"99999999999999999999x2":     "at most 400",
		"2 rows of 8, 17-way":        "hold 16",
		"2 rows of 8 from top":       `"from"`,
		"2 rows of 8, row 3 of 2 mm": "no row 3",
		"named 1 2 / 2 3":            `"2" twice`,
		"2x2, key at the left 150%":  "key lies between",
		"2 rows of 8, wiresidewards": "not understood",
	} {
		if l, err := face.Parse(words); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: got %d ways and %v, want an error that says %q", words, l.Ways(), err, says)
		}
	}
}

func FuzzParse(f *testing.F) {
	for _, l := range face.Library() {
		f.Add(l.Title)
	}
	f.Fuzz(func(t *testing.T, words string) {
		if l, err := face.Parse(words); err == nil && (l.Check() != nil || l.Ways() > face.Most) {
			t.Errorf("%q gives a face that is refused", words)
		}
	})
}

func TestChecks(t *testing.T) {
	for name, l := range map[string]face.Layout{
		"twice":            {Rows: []face.Row{{Slots: []face.Slot{{Name: "1"}, {Name: "1"}}}}},
		"1 to 400":         {},
		"has no name":      {Rows: []face.Row{{Slots: []face.Slot{{Name: "1"}, {Name: "2", Gap: 1}}}}},
		"0 to 20 mm":       {Rows: []face.Row{{Slots: []face.Slot{{Name: "1", Blade: 21}}}}},
		"8 characters":     {Rows: []face.Row{{Slots: []face.Slot{{Name: "123456789"}}}}},
		"along its edge":   {Rows: []face.Row{{Slots: []face.Slot{{Name: "1"}}}}, Keys: []face.Key{{At: 2}}},
		"more than 40 cav": {Rows: []face.Row{{Slots: []face.Slot{{Name: "1"}}, Shift: 50}}},
	} {
		if err := l.Check(); err == nil || !strings.Contains(err.Error(), name) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// The library's faces can be read, go out as JSON and come back the same.
func TestLibrary(t *testing.T) {
	seen := map[string]bool{}
	for _, l := range face.Library() {
		if seen[l.Title] || !l.Terminal.Known() {
			t.Errorf("%s: twice, or its terminals are not known", l.Title)
		}
		seen[l.Title] = true
		text, err := json.Marshal(l)
		if err != nil {
			t.Fatal(err)
		}
		var back face.Layout
		if err := json.Unmarshal(text, &back); err != nil || !face.Alike(l, back) ||
			rows(back.Draw(face.WireSide)) != rows(l.Draw(face.WireSide)) {
			t.Errorf("%s came back otherwise: %v", l.Title, err)
		}
	}
}

func ExampleParse() {
	l, _ := face.Parse("3 rows of 4, 4, 3, numbered from top right on the wire side")
	fmt.Println(l.Ways(), "ways")
	fmt.Println(rows(l.Draw(face.MatingFace)))
	// Output:
	// 11 ways
	// 1 2 3 4 | 5 6 7 8 | 9 10 11
}
