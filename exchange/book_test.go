package exchange_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"draxel/core/handover"
	"draxel/core/plan"
	"draxel/demo"
	"draxel/exchange"
)

// bookOf makes the book of a demonstration job.
func bookOf(t testing.TB, job int) (*exchange.Book, *plan.Plan) {
	t.Helper()
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	f, err := all[job].Facts()
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, all[job].Chosen())
	measure, err := exchange.Measure()
	if err != nil {
		t.Fatal(err)
	}
	in := p.Book(&f)
	b := &exchange.Book{
		Title:    all[job].Title,
		Donor:    all[job].Donor,
		Chassis:  all[job].Chassis,
		Revision: 7,
		Hash:     "abc",
		Printed:  "2026-11-27",
		State:    "Not finished: planned wires are dotted.",
		Pages:    handover.Pages(in, exchange.BookPaper, measure),
	}
	b.Sections = handover.Sections(in, b.Pages, exchange.NumberOf)
	return b, &p
}

// Every wire of the book is in its drawings' tables and in its index, every cavity in its table, by what pdftotext
// (poppler) reads
// back; its page is the page that the index says. The same book gives the same bytes.
func TestTheBookIsReadBack(t *testing.T) {
	tool, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Skip("pdftotext is not installed: apt install poppler-utils")
	}
	b, p := bookOf(t, 1)
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
			if !strings.Contains(page, l.Name) {
				if missing++; missing < 5 {
					t.Errorf("%s is not on page %d", l.Name, nr)
				}
			}
		}
	}
	index := strings.Join(pages[exchange.NumberOf(len(b.Pages))-1:], "\n")
	for _, w := range p.Wanted.Wires() {
		if !strings.Contains(index, w) {
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
	for name, title := range map[string]string{"long": strings.Repeat("W", 5000), "pictures": "Pack🚒horse\x00", "right to left": "חבילה", "nothing": ""} {
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

// BenchmarkBook makes the book of the Packhorse, some 360 lengths of wire, from its plan to its bytes.
func BenchmarkBook(b *testing.B) {
	b.Run("300", func(b *testing.B) {
		all, err := demo.Jobs()
		if err != nil {
			b.Fatal(err)
		}
		f, err := all[1].Facts()
		if err != nil {
			b.Fatal(err)
		}
		p := plan.Compute(f, all[1].Chosen())
		for b.Loop() {
			measure, err := exchange.Measure()
			if err != nil {
				b.Fatal(err)
			}
			in := p.Book(&f)
			book := &exchange.Book{
				Title:   "x",
				Printed: "2026-11-27",
				Pages:   handover.Pages(in, exchange.BookPaper, measure),
			}
			book.Sections = handover.Sections(in, book.Pages, exchange.NumberOf)
			var out bytes.Buffer
			if err := exchange.WriteBookPDF(&out, book); err != nil {
				b.Fatal(err)
			}
			b.SetBytes(int64(out.Len()))
		}
	})
}
