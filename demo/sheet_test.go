package demo_test

import (
	"bytes"
	"cmp"
	"encoding/csv"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"os/exec"
	"slices"
	"strings"
	"testing"

	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/pin"
	"draxel/core/proof"
	"draxel/core/terminal"
	"draxel/core/wanted"
	"draxel/core/work"
	"draxel/demo"
	"draxel/exchange"
)

func sheet(t testing.TB) exchange.Sheet {
	t.Helper()
	job, _ := jobs(t)
	return exchange.Sheet{Title: job.Title, Donor: job.Donor, Chassis: job.Chassis, From: job.From.Name, To: job.To.Name,
		Revision: 3, Hash: "5d41402abc4b", Printed: "2026-11-24", Plan: compute(t, job, job.Decisions)}
}

// pdfText gives the words of a PDF, with one blank between them.
func pdfText(t *testing.T, pdf io.Reader) string {
	t.Helper()
	cmd := exec.Command("pdftotext", "-layout", "-", "-")
	cmd.Stdin = pdf
	out, err := cmd.Output()
	if err != nil {
		t.Fatalf("pdftotext (Debian package poppler-utils): %v", err)
	}
	return strings.Join(strings.Fields(string(out)), " ")
}

func TestSheetPDF(t *testing.T) {
	s := sheet(t)
	var a, b bytes.Buffer
	for _, w := range []*bytes.Buffer{&a, &b} {
		if err := exchange.WriteSheetPDF(w, s); err != nil {
			t.Fatal(err)
		}
	}
	if !bytes.Equal(a.Bytes(), b.Bytes()) {
		t.Error("the same sheet gave other bytes")
	}
	text := pdfText(t, &a)
	for _, want := range []string{"Sorrel refit", "lead to the wanted harness", "revision 3", "Battery negative off",
		"Plug A, 52-way", "secondary lock", s.Plan.Steps[0].From.String() + " → "} {
		if !strings.Contains(text, want) {
			t.Errorf("the sheet does not say %q", want)
		}
	}
}

// Whatever is long, every line of every list comes out on paper, and so does a step that is longer than a page.
func TestNothingFallsOffThePage(t *testing.T) {
	s := sheet(t)
	marks := map[string]string{}
	mark := func(what string, n int) string {
		word := fmt.Sprintf("%s%04d", what, n)
		marks[word] = what
		return word
	}
	s.Plan.Findings, s.Plan.Join.Joints, s.Plan.Join.Wires, s.Plan.Pin.Settings = nil, nil, nil, nil
	for n := range 119 {
		s.Plan.Join.Joints = append(s.Plan.Join.Joints, wanted.Joined{Name: harness.JointID(mark("joint", n)),
			Why: strings.Repeat("so that it is long ", n%9)})
		s.Plan.Join.Wires = append(s.Plan.Join.Wires, wanted.Laid{ID: harness.WireID(mark("wire", n)),
			Row: harness.Row{Conductor: harness.Conductor{Function: "feed"}}})
		s.Plan.Pin.Settings = append(s.Plan.Pin.Settings, mark("setting", n))
		s.Plan.Pin.Orders = append(s.Plan.Pin.Orders, pin.Order{Part: terminal.Part{Name: mark("part", n)}, Need: 1})
		s.Plan.Findings = append(s.Plan.Findings, finding.Finding{Subject: mark("finding", n), Text: "known",
			Answer: &finding.Answer{Reason: "seen"}})
	}
	long := ""
	for n := range 900 {
		long += mark("word", n) + " "
	}
	for i := range s.Plan.Steps {
		s.Plan.Steps[i].Text = mark("move", i)
	}
	s.Plan.Steps[2].Text += " " + long
	var pdf bytes.Buffer
	if err := exchange.WriteSheetPDF(&pdf, s); err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command("pdftotext", "-bbox", "-", "-")
	cmd.Stdin = bytes.NewReader(pdf.Bytes())
	out, err := cmd.Output()
	if err != nil {
		t.Fatalf("pdftotext (Debian package poppler-utils): %v", err)
	}
	var pages struct {
		Page []struct {
			High  float64 `xml:"height,attr"`
			Words []word  `xml:"word"`
		} `xml:"body>doc>page"`
	}
	if err := xml.Unmarshal(out, &pages); err != nil {
		t.Fatal(err)
	}
	seen := map[string]bool{}
	for _, p := range pages.Page {
		for _, w := range p.Words {
			if w.YMax <= p.High-12 {
				seen[strings.Trim(w.Text, ".:,")] = true
			}
		}
	}
	lost := map[string]int{}
	for word, what := range marks {
		if !seen[word] {
			lost[what]++
		}
	}
	if len(lost) > 0 || len(pages.Page) < 15 {
		t.Errorf("lost on %d pages: %v", len(pages.Page), lost)
	}
}

func TestSheetCSV(t *testing.T) {
	s := sheet(t)
	var b bytes.Buffer
	if err := exchange.WriteSheetCSV(&b, s); err != nil {
		t.Fatal(err)
	}
	r := csv.NewReader(&b)
	r.FieldsPerRecord = -1
	lines, err := r.ReadAll()
	if err != nil || len(lines) != s.Plan.Proof.Steps+2 || !strings.Contains(all(lines, 5), s.Plan.Steps[0].Text) {
		t.Errorf("%d lines for %d steps, %v", len(lines), s.Plan.Proof.Steps, err)
	}
	hand, changes := false, false
	for _, l := range lines[2:] {
		if len(l) != len(lines[1]) {
			t.Fatalf("a line of %d cells under %d headings", len(l), len(lines[1]))
		}
		hand = hand || l[14] != ""
		changes = changes || strings.Contains(l[15], "It changes its plug")
	}
	if !hand || !changes || !strings.Contains(all(lines, 13), "travels") {
		t.Errorf("nothing in hand %v, no plug changed %v, terminals %q", !hand, !changes, all(lines, 13))
	}
}

// all gives a column in one piece.
func all(lines [][]string, column int) string {
	var out []string
	for _, l := range lines[1:] {
		out = append(out, l[column])
	}
	return strings.Join(out, "\n")
}

func TestASheetThatIsNotWholeSaysSo(t *testing.T) {
	s := sheet(t)
	if s.Plan.Withheld == 0 || s.Plan.Totals.Open == 0 {
		t.Fatal("the demonstration leaves nothing open")
	}
	var pdf, list bytes.Buffer
	if err := errors.Join(exchange.WriteSheetPDF(&pdf, s), exchange.WriteSheetCSV(&list, s)); err != nil {
		t.Fatal(err)
	}
	want := fmt.Sprintf("%d decided moves or new wires are left off", s.Plan.Withheld)
	if got := pdfText(t, &pdf); !strings.Contains(got, want) || !strings.Contains(list.String(), want) {
		t.Errorf("neither sheet may hide that %s", want)
	}
	s.Plan.Withheld, s.Plan.Totals.Open = 0, 0
	if exchange.OpenLine(s.Plan) != "" {
		t.Error("a whole sheet says that it is not")
	}
}

func TestASheetThatIsNotProvenSaysSo(t *testing.T) {
	s := sheet(t)
	s.Plan.Proof = proof.Proof{Steps: 4, Differences: []string{"x"}}
	var b bytes.Buffer
	if err := exchange.WriteSheetCSV(&b, s); err != nil || !strings.Contains(b.String(), "DO NOT WORK FROM THIS") {
		t.Errorf("%v: %.200s", err, b.String())
	}
}

// word is a word of a PDF with its place on the page, in points of 1/72 inch.
type word struct {
	XMin float64 `xml:"xMin,attr"`
	YMin float64 `xml:"yMin,attr"`
	XMax float64 `xml:"xMax,attr"`
	YMax float64 `xml:"yMax,attr"`
	Text string  `xml:",chardata"`
}

// The printed face is true: the cavities of plug A stand where the core draws them, in figures of a size that can be
// read, and the steps go on counting from what is done.
func TestThePrintedFaceIsTrue(t *testing.T) {
	s := sheet(t)
	s.Plan.Pin.Done = make([]work.Tick, 7)
	s.Plan.Pin.Settings = []string{"Output A1 drives the fan."}
	var pdf bytes.Buffer
	if err := exchange.WriteSheetPDF(&pdf, s); err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command("pdftotext", "-bbox", "-f", "1", "-l", "1", "-", "-")
	cmd.Stdin = bytes.NewReader(pdf.Bytes())
	out, err := cmd.Output()
	if err != nil {
		t.Fatalf("pdftotext (Debian package poppler-utils): %v", err)
	}
	var page struct {
		Words []word `xml:"body>doc>page>word"`
	}
	if err := xml.Unmarshal(out, &page); err != nil {
		t.Fatal(err)
	}
	top := slices.IndexFunc(page.Words, func(w word) bool { return w.Text == "A," })
	bottom := slices.IndexFunc(page.Words, func(w word) bool { return w.Text == "B," })
	if top < 0 || bottom < 0 {
		t.Fatal("the two plugs are not on the first page")
	}
	var cells []word
	for _, w := range page.Words {
		if w.YMin > page.Words[top].YMax+12 && w.YMax < page.Words[bottom].YMin && strings.Trim(w.Text, "0123456789") == "" {
			cells = append(cells, w)
		}
	}
	slices.SortFunc(cells, func(a, b word) int {
		return cmp.Or(cmp.Compare(int(a.YMin/8), int(b.YMin/8)), cmp.Compare(a.XMin, b.XMin))
	})
	var printed, drawn []string
	for _, w := range cells {
		printed = append(printed, w.Text)
		if high := w.YMax - w.YMin; high < 8 {
			t.Errorf("cavity %s is printed %.1f points high", w.Text, high)
		}
	}
	for _, c := range s.Plan.Housings[0].Shape().Draw(face.WireSide).Cells {
		drawn = append(drawn, c.Name)
	}
	if !slices.Equal(printed, drawn) || drawn[0] != "13" {
		t.Errorf("printed %v\ndrawn %v", printed, drawn)
	}
	text := pdfText(t, &pdf)
	for _, want := range []string{"To have before the first terminal is pulled", "release pick for 1.5 mm",
		"7 steps are done", s.Plan.Steps[0].From.String() + " → ", "Output A1 drives the fan", "is finished"} {
		if !strings.Contains(text, want) {
			t.Errorf("the sheet does not say %q", want)
		}
	}
}

// The demonstration's faces are a file that a user would open, and say what its terminals need.
func TestTheDemonstrationsFaces(t *testing.T) {
	job, _ := jobs(t)
	if len(job.Layouts) != 2 || job.Layouts["A"].Ways() != 52 || job.Layouts["B"].Ways() != 38 {
		t.Fatalf("%d faces", len(job.Layouts))
	}
	var b bytes.Buffer
	if err := exchange.WriteFaces(&b, job.Layouts); err != nil {
		t.Fatal(err)
	}
	kept, err := demo.File("sorrel-refit/faces.json")
	if err != nil || !bytes.Equal(kept, b.Bytes()) {
		t.Errorf("the file of faces does not come back as it was: %v", err)
	}
	for name, text := range map[string]string{"not JSON": "faces", "no format": `{"faces":{"A":{"rows":[{"slots":[{"name":"1"}]}]}}}`, "nothing in it": `{"format":1,"faces":{}}`, "an unknown field": `{"format":1,"faces":{},"x":1}`, "of a newer one": `{"format":2,"faces":{"A":null}}`} {
		if _, err := exchange.ReadFaces([]byte(text)); err == nil {
			t.Errorf("a file that is %s is read", name)
		}
	}
	if _, err := exchange.ReadFaces(make([]byte, exchange.MaxBytes+1)); err == nil {
		t.Error("a file without end is read")
	}
	empty := bytes.Buffer{}
	if err := exchange.WriteFaces(&empty, nil); err != nil || !strings.Contains(empty.String(), `"faces": {}`) {
		t.Errorf("no faces are written as %s, %v", empty.String(), err)
	}
}
