package demo_test

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"os/exec"
	"strings"
	"testing"

	"draxel/core/plan"
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
	for _, want := range []string{"Sorrel refit", "reached the wanted harness", "revision 3", "Battery negative off", "Plug A, 52-way", "secondary lock", s.Plan.Steps[0].From.String() + " → "} {
		if !strings.Contains(text, want) {
			t.Errorf("the sheet does not say %q", want)
		}
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
	if err != nil || len(lines) != len(s.Plan.Steps)+2 || lines[2][4] != s.Plan.Steps[0].Text {
		t.Errorf("%d lines for %d steps, %v", len(lines), len(s.Plan.Steps), err)
	}
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
	s.Plan.Proof = plan.Proof{Steps: 4, Differences: []string{"x"}}
	var b bytes.Buffer
	if err := exchange.WriteSheetCSV(&b, s); err != nil || !strings.Contains(b.String(), "DO NOT WORK FROM THIS SHEET") {
		t.Errorf("%v: %.200s", err, b.String())
	}
}
