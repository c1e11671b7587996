package exchange_test

import (
	"bytes"
	"fmt"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/qr"

	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/exchange"
)

// Labels on sheets and rolls: as many on a page as the paper has, each with its text as pdftotext reads it, QR codes
// as zbarimg reads them; a text that does not fit is told, and paper that is no paper refused.
func TestLabelsFitOrAreTold(t *testing.T) {
	var all []handover.Sticker
	for i := range 50 {
		all = append(
			all,
			handover.Sticker{
				Kind:  handover.OnWire,
				Text:  fmt.Sprint("71", 10+i),
				Under: "A8 → PR1",
				Wire:  harness.WireID(fmt.Sprint("71", 10+i)),
			},
		)
	}
	long := handover.Sticker{Text: strings.Repeat("W", 200)}
	sheet := exchange.Stock{Columns: 3, Rows: 8, Wide: 70, High: 36, Top: 4.5}
	var out, again bytes.Buffer
	cut, err := exchange.WriteStickersPDF(&out, "x", "2026-11-27", sheet, append(all, long), nil)
	if err != nil || len(cut) != 1 || cut[0] != long.Text {
		t.Fatalf("cut %v, %v", cut, err)
	}
	if _, err := exchange.WriteStickersPDF(&again, "x", "2026-11-27", sheet, append(all, long), nil); err != nil ||
		!bytes.Equal(out.Bytes(), again.Bytes()) {
		t.Error("the same labels give other bytes")
	}
	for name, bad := range map[string]exchange.Stock{"nothing": {},
		"too wide": {Columns: 4, Rows: 8, Wide: 70, High: 36},
		"too high": {Columns: 3, Rows: 9, Wide: 70, High: 36}, "a stripe": {Roll: true, Wide: 50, High: 1}} {
		if _, err := exchange.WriteStickersPDF(&again, "x", "2026-11-27", bad, all, nil); err == nil {
			t.Errorf("%s is taken", name)
		}
	}
	dir := t.TempDir()
	file := filepath.Join(dir, "labels.pdf")
	if err := os.WriteFile(file, out.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	if tool, err := exec.LookPath("pdftotext"); err == nil {
		text, err := exec.CommandContext(t.Context(), tool, file, "-").Output()
		pages := strings.Split(strings.TrimRight(string(text), "\f"), "\f")
		if err != nil || len(pages) != 3 || strings.Count(pages[0], "A8") != 24 ||
			!strings.Contains(pages[2], "7159") {
			t.Errorf("%d pages, %v", len(pages), err)
		}
	}
	code := func(s *handover.Sticker) []byte {
		c, err := qr.Encode("http://127.0.0.1:7000/jobs/x/thin?sel=wire:"+string(s.Wire), qr.M, qr.Auto)
		if err != nil {
			t.Fatal(err)
		}
		c, _ = barcode.Scale(c, 160, 160)
		var b bytes.Buffer
		_ = png.Encode(&b, c)
		return b.Bytes()
	}
	var roll bytes.Buffer
	if _, err := exchange.WriteStickersPDF(&roll, "x", "2026-11-27", exchange.Stock{Roll: true, Wide: 50, High: 20},
		all[:2], code); err != nil {
		t.Fatal(err)
	}
	raster, err1 := exec.LookPath("pdftoppm")
	reader, err2 := exec.LookPath("zbarimg")
	if err1 != nil || err2 != nil {
		t.Skip("pdftoppm or zbarimg is not installed: apt install poppler-utils zbar-tools")
	}
	if err := os.WriteFile(file, roll.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	if err := exec.CommandContext(t.Context(), raster, "-r", "300", "-png", file,
		filepath.Join(dir, "l")).Run(); err != nil {
		t.Fatal(err)
	}
	pictures, _ := filepath.Glob(filepath.Join(dir, "l*.png"))
	for i, p := range pictures {
		read, err := exec.CommandContext(t.Context(), reader, "-q", "--raw", p).Output()
		if want := "wire:" + all[i].Wire; err != nil || !strings.Contains(string(read), string(want)) {
			t.Errorf("label %d reads %q, %v", i, read, err)
		}
	}
	if len(pictures) != 2 {
		t.Errorf("%d pages of a roll", len(pictures))
	}
}

// A sheet for others of anything is a sheet: long lines are broken, pages follow, what the font has not is a visible
// sign.
func TestSheetsForOthers(t *testing.T) {
	s := handover.Sheet{
		ID:    "x",
		Title: "Fitting",
		For:   strings.Repeat("long ", 400),
		Parts: []handover.SheetPart{{Title: "none", Empty: "Nothing."}},
	}
	for i := range 120 {
		s.Parts = append(
			s.Parts,
			handover.SheetPart{
				Title: fmt.Sprint("part ", i),
				Lines: []string{"one 🚒", strings.Repeat("W", 900)},
				Boxes: i%2 == 0,
			},
		)
	}
	var out, again bytes.Buffer
	if err := exchange.WriteOtherPDF(&out, "Packhorse", "head", "2026-11-27", &s); err != nil ||
		!bytes.HasPrefix(out.Bytes(), []byte("%PDF")) {
		t.Fatal(err)
	}
	if err := exchange.WriteOtherPDF(&again, "Packhorse", "head", "2026-11-27", &s); err != nil ||
		!bytes.Equal(out.Bytes(), again.Bytes()) {
		t.Error("the same sheet gives other bytes")
	}
}

// BenchmarkLabels writes ten thousand labels.
func BenchmarkLabels(b *testing.B) {
	all := make([]handover.Sticker, 10000)
	for i := range all {
		all[i] = handover.Sticker{Kind: handover.OnWire, Text: fmt.Sprint("71", i), Under: "A8 → PR1"}
	}
	for b.Loop() {
		var out bytes.Buffer
		if _, err := exchange.WriteStickersPDF(&out, "x", "2026-11-27",
			exchange.Stock{Columns: 7, Rows: 27, Wide: 25.4, High: 10, Left: 9, Top: 13.5}, all, nil); err != nil {
			b.Fatal(err)
		}
	}
}
