package exchange_test

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/demo"
	"draxel/exchange"
)

// bookOf makes the book of a demonstration job, so many times as large.
func bookOf(t testing.TB, job, times int) (*exchange.Book, *plan.Plan) {
	t.Helper()
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	j := &all[job]
	if times > 1 {
		demo.Enlarge(j, times)
	}
	f, err := fact.Of(*j)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	return bound(t, j, &f, &p), &p
}

// bound makes the book of a plan.
func bound(t testing.TB, j *stored.Job, f *fact.Facts, p *plan.Plan) *exchange.Book {
	t.Helper()
	measure, err := exchange.Measure()
	if err != nil {
		t.Fatal(err)
	}
	in := papers.Book(p, f)
	b := &exchange.Book{
		Title:    j.Title,
		Donor:    j.Donor,
		Chassis:  j.Chassis,
		Revision: 7,
		Hash:     "abc",
		Printed:  "2026-11-27",
		State:    "Not finished: planned wires are dotted.",
		Pages:    handover.Pages(in, exchange.BookPaper, measure),
		Faces:    handover.Faces(in),
		Sources:  papers.Sources(j),
	}
	b.Sections = append(handover.Sections(in, b.Pages, exchange.NumberOf), papers.Appendix(p, f, j.Chosen())...)
	return b
}

// Every wire of the book is in its drawings' tables and in its index, every cavity in its table, by what pdftotext
// (poppler) reads back; its page is the page that the index says. The same book gives the same bytes.
func TestTheBookIsReadBack(t *testing.T) {
	tool, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Skip("pdftotext is not installed: apt install poppler-utils")
	}
	b, p := bookOf(t, 1, 1)
	var out, again bytes.Buffer
	if err := exchange.WriteBookPDF(&out, b); err != nil {
		t.Fatal(err)
	}
	if err := exchange.WriteBookPDF(&again, b); err != nil || !bytes.Equal(out.Bytes(), again.Bytes()) {
		t.Errorf("the same book gives other bytes: %v", err)
	}
	if out.Len() > 20<<20 {
		t.Errorf("%d bytes", out.Len())
	}
	file := filepath.Join(t.TempDir(), "book.pdf")
	if err := os.WriteFile(file, out.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	text, err := exec.CommandContext(t.Context(), tool, "-layout", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	pages := strings.Split(string(text), "\f")
	missing := 0
	for k := range b.Pages {
		nr := exchange.NumberOf(k)
		page := pages[nr-1]
		if !strings.Contains(page, fmt.Sprint("page ", nr)) || !strings.Contains(page, "Not finished") {
			t.Errorf("page %d does not say so", nr)
		}
		for _, l := range b.Pages[k].Lengths {
			if !strings.Contains(page, string(l.Name)) {
				if missing++; missing < 5 {
					t.Errorf("%s is not on page %d", l.Name, nr)
				}
			}
		}
	}
	marks := 0
	for k := range b.Pages { // a mark leads to a page on which the same is drawn, and that leads back
		for _, m := range b.Pages[k].Goes {
			for _, other := range m.On {
				marks++
				back := slices.ContainsFunc(b.Pages[other].Goes, func(x handover.Mark) bool {
					return x.Title == m.Title && slices.Contains(x.On, k)
				})
				if nr := exchange.NumberOf(other); !back || !strings.Contains(pages[nr-1], m.Title) {
					t.Errorf("page %d leads for %s to page %d, where it is not", exchange.NumberOf(k), m.Title, nr)
				}
			}
		}
		if len(b.Pages[k].Goes) > 0 && !strings.Contains(pages[exchange.NumberOf(k)-1], "goes on on page: ") {
			t.Errorf("page %d does not say where it goes on", exchange.NumberOf(k))
		}
	}
	if marks == 0 {
		t.Error("no circuit goes on on another page")
	}
	index := strings.Join(pages[exchange.NumberOf(len(b.Pages))-1:], "\n")
	for _, w := range p.Wanted.Wires() {
		if !strings.Contains(index, string(w)) {
			t.Errorf("%s is not in the index", w)
		}
	}
	for _, s := range b.Sections {
		if !strings.Contains(pages[1], s.Title) {
			t.Errorf("%q is not in the contents", s.Title)
		}
	}
}

// Names of thousands of letters, from right to left, with pictures in them, and nothing at all: a book all the same.
func TestABookOfAnything(t *testing.T) {
	for name, title := range map[string]string{"long": strings.Repeat("W", 5000), "pictures": "Pack🚒horse\x00",
		"right to left": "חבילה", "nothing": ""} {
		b := &exchange.Book{Title: title, Printed: "2026-11-27", Sources: [][2]string{{title, title}},
			Sections: []handover.Section{
				{Title: title, Head: []string{"a", title}, Share: []float64{1, 1}, Rows: [][]string{{title, title}}},
				{Title: "none"},
			}}
		var out bytes.Buffer
		if err := exchange.WriteBookPDF(&out, b); err != nil || !bytes.HasPrefix(out.Bytes(), []byte("%PDF")) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// BenchmarkBook makes the book of the Packhorse, some 360 lengths of wire, from its plan to its bytes; and of a harness
// three times as large.
func BenchmarkBook(b *testing.B) {
	for name, times := range map[string]int{"300": 1, "1000": 3} {
		b.Run(name, func(b *testing.B) {
			all, err := demo.Jobs()
			if err != nil {
				b.Fatal(err)
			}
			j := &all[1]
			if times > 1 {
				demo.Enlarge(j, times)
			}
			f, err := fact.Of(*j)
			if err != nil {
				b.Fatal(err)
			}
			p := plan.Compute(f, j.Chosen())
			for b.Loop() {
				book := bound(b, j, &f, &p)
				var out bytes.Buffer
				if err := exchange.WriteBookPDF(&out, book); err != nil {
					b.Fatal(err)
				}
				b.ReportMetric(float64(out.Len())/(1<<20), "MB")
			}
			b.ReportMetric(float64(len(p.Wanted.Wires())), "lengths")
		})
	}
}

// Faces and what follows them are where the contents say; in each face stand the colours of the wires in it, by the
// harness itself; a photograph that cannot be read has its place and says so.
func TestFacesAndPhotographs(t *testing.T) {
	tool, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Skip("pdftotext is not installed: apt install poppler-utils")
	}
	b, p := bookOf(t, 1, 1)
	var picture bytes.Buffer
	if err := jpeg.Encode(&picture, image.NewGray(image.Rect(0, 0, 40, 30)), nil); err != nil {
		t.Fatal(err)
	}
	b.Photos = []exchange.BookPhoto{
		{Connector: "SP", Note: "as found", JPEG: picture.Bytes()},
		{Connector: "K", JPEG: []byte("no picture")},
		{Connector: "E"},
		{Connector: "A", JPEG: picture.Bytes()[:picture.Len()/2]},
	}
	told := 0
	b.Tell = func(done, of int) {
		if told++; done != told || of != len(b.Pages) {
			t.Errorf("told %d of %d after %d pages", done, of, told)
		}
	}
	var out bytes.Buffer
	if err := exchange.WriteBookPDF(&out, b); err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "book.pdf")
	if err := os.WriteFile(file, out.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	text, err := exec.CommandContext(t.Context(), tool, "-layout", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	pages := strings.Split(string(text), "\f")
	if told != len(b.Pages) {
		t.Errorf("told of %d pages of %d", told, len(b.Pages))
	}
	where := func(title string) int {
		m := regexp.MustCompile(regexp.QuoteMeta(title) + `\s+(\d+)`).FindStringSubmatch(pages[1])
		if m == nil {
			t.Fatalf("%s is not in the contents", title)
		}
		n, _ := strconv.Atoi(m[1])
		return n
	}
	for _, title := range []string{"Faces", "Routes", "Tape marks", "Deleted, and where its ends lie", "Photographs"} {
		if n := where(title); n > len(pages) || !strings.HasPrefix(strings.TrimSpace(pages[n-1]), title) {
			t.Errorf("%s is said to be on page %d, and is not", title, n)
		}
	}
	if n := strings.Count(pages[where("Photographs")-1], "cannot be read"); n != 3 {
		t.Errorf("%d photographs cannot be read, of 3", n)
	}
	faces := strings.Join(pages[where("Faces")-1:where("Wires")-1], "\n")
	count := strings.Fields(faces)
	full := map[harness.Ref]bool{}
	for _, name := range p.Wanted.Wires() {
		tips, _ := p.Wanted.Tips(name)
		for _, tip := range tips {
			if at, there := p.Wanted.Place(tip.Terminal); there && at.State == harness.Seated &&
				tip.State == harness.Crimped {
				full[at.At] = true
			}
		}
	}
	filled := 0
	for i := range b.Faces {
		f := &b.Faces[i]
		if !strings.Contains(faces, f.ID+", ") {
			t.Errorf("there is no face of %s", f.ID)
		}
		for cavity, in := range f.In {
			filled++
			if at := (harness.Ref{Connector: f.ID, Cavity: cavity}); !full[at] {
				t.Errorf("%s has no wire in it, and the face says %s", at, in.Text)
			}
		}
	}
	if filled != len(full) || filled > len(count) {
		t.Errorf("%d cavities are filled in the faces, %d in the harness", filled, len(full))
	}
}
