package server_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"net/http"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/xuri/excelize/v2"

	"draxel/core/gather"
	"draxel/core/plan"
	"draxel/exchange"
	"draxel/server"
)

// within fails where something takes longer, or takes more memory from the system than so many MB.
func within(t *testing.T, what string, longest time.Duration, mb uint64, do func()) {
	t.Helper()
	var before, after runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&before)
	begun := time.Now()
	do()
	took := time.Since(begun)
	runtime.ReadMemStats(&after)
	grown := (max(after.Sys, before.Sys) - before.Sys) >> 20 // asked of the system, beyond what was there
	t.Logf("%s: %v, %d MB", what, took.Round(time.Millisecond), grown)
	if took > longest || grown > mb {
		t.Errorf("%s takes %v and %d MB, allowed %v and %d MB", what, took, grown, longest, mb)
	}
}

// Tables with numbers that no housing has, and with cells where no table has them: refused or read as found, and the job
// opens.
func TestTablesWithoutBound(t *testing.T) {
	c := start(t)
	made, code := send[server.Done](c, "POST", "/api/jobs", server.JobRequest{ID: c.change(), Title: "bounds", Kind: "re-pinned"})
	if code != "" {
		t.Fatal(code)
	}
	job := "/api/jobs/" + made.Job
	var many, wide strings.Builder
	many.WriteString("Connector,Pin,Function\n")
	for i := range 19_990 {
		fmt.Fprintf(&many, "C%d,999,Injector\n", i)
	}
	wide.WriteString("Connector,Pin,Function\n")
	for i := range 19_990 {
		fmt.Fprintf(&wide, "C%d,400,Injector\n", i)
	}
	for name, table := range map[string]string{
		"twenty million ways":          "Connector,Pin,Function\nA (20000000-way),1,Ground\nA,2,Battery\n",
		"a cavity of twenty million":   "Connector,Pin,Function\nA,20000000,Ground\nA,2,Battery\n",
		"cavity 999 of 19,990 plugs":   many.String(),
		"cavity 400 of 19,990 plugs":   wide.String(),
		"forty thousand words":         "Connector,Pin,Function\nA,1,\"" + strings.Repeat("coolant temperature ", 2000) + "\"\nA,2,Ground\n",
		"a word of a hundred thousand": "Connector,Pin,Function\nA,1," + strings.Repeat("W", 100_000) + "\nA,2,Ground\n",
	} {
		within(t, name, 4*longestAnswer, 600, func() { // five answers, none longer than one may be
			if _, code := bring[server.Done](c, "PUT", job+"/gather/from", []byte(table), map[string]string{"id": c.change(),
				"meta": `{"name":"x","trust":"maker"}`, "seen": "99"}); code != "" {
				t.Logf("%s: %s", name, code)
			}
			for _, page := range []string{"", "/gather", "/match", "/front"} {
				begun := time.Now()
				status, data, _ := c.do("GET", job+page, "", nil)
				if took := time.Since(begun); status != http.StatusOK || took > longestAnswer {
					t.Errorf("%s: page %q answers %d after %v: %.200s", name, page, status, took, data)
				}
			}
		})
	}
}

// A spreadsheet of few bytes with a cell in its last column on every line is refused before it is unpacked.
func TestASpreadsheetThatUnpacksWide(t *testing.T) {
	book := excelize.NewFile()
	w, err := book.NewStreamWriter("Sheet1")
	if err != nil {
		t.Fatal(err)
	}
	for i := 1; i <= 3000; i++ {
		if err := w.SetRow(fmt.Sprintf("XFD%d", i), []any{"x"}); err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Flush(); err != nil {
		t.Fatal(err)
	}
	var b bytes.Buffer
	if err := book.Write(&b); err != nil {
		t.Fatal(err)
	}
	within(t, fmt.Sprintf("%d KB of XLSX", b.Len()>>10), 2*time.Second, 60, func() {
		if _, err := exchange.ReadTable(b.Bytes(), ""); err == nil || !strings.Contains(err.Error(), "cells") {
			t.Errorf("it is taken: %v", err)
		}
	})
}

// noisy is a photograph as large as one is kept, that no packing makes small.
func noisy(side int) []byte {
	m := image.NewRGBA(image.Rect(0, 0, side, side*3/4))
	x := uint32(7)
	for i := range m.Pix {
		x = x*1664525 + 1013904223
		m.Pix[i] = byte(x >> 24)
	}
	m.Set(0, 0, color.White)
	var b bytes.Buffer
	_ = jpeg.Encode(&b, m, &jpeg.Options{Quality: 90})
	return b.Bytes()
}

// What Draxel writes it reads: a job with more photographs than fit into what a job without may have. A byte-order mark
// is passed over; what is no format, or has a part that no job file has, or goes on behind its end is refused.
func TestALargeJobFileComesBack(t *testing.T) {
	c := start(t)
	picture, err := exchange.ReadPicture("", noisy(2048))
	if err != nil {
		t.Fatal(err)
	}
	j := plan.Job{Title: "many photographs", Kind: plan.Repinned}
	n := exchange.MaxJobBytes/len(picture.Data) + 2
	pictures := map[string]exchange.Picture{}
	for i := range n {
		id := fmt.Sprintf("p%03d", i)
		j.Photos = append(j.Photos, plan.Photo{ID: id, Connector: "A", Width: 2048, Height: 1536})
		pictures[id] = picture
	}
	var b bytes.Buffer
	if err := exchange.WriteJob(&b, j, pictures); err != nil {
		t.Fatal(err)
	}
	if b.Len() < exchange.MaxJobBytes {
		t.Fatalf("%d photographs are only %d MB", n, b.Len()>>20)
	}
	open := func(body []byte) (server.Done, string) {
		status, data, _ := c.do("POST", "/api/jobs/file", "application/json", bytes.NewReader(body))
		return decode[server.Done](c, status, data)
	}
	done, code := open(b.Bytes())
	if code != "" {
		t.Fatal(code)
	}
	_, back, _ := c.do("GET", "/api/jobs/"+done.Job+"/file", "", nil)
	again, code := open(back)
	if code != "" {
		t.Fatalf("what it wrote it does not read: %s", code)
	}
	if v := jobOf(c, "/api/jobs/"+again.Job); len(v.Photos) != n {
		t.Errorf("%d photographs of %d come back", len(v.Photos), n)
	}
	if status, _, _ := c.do("GET", "/api/jobs/"+again.Job+"/gather/photos/p001", "", nil); status != http.StatusOK {
		t.Errorf("a photograph does not come back: %d", status)
	}
	_, small, _ := c.do("GET", "/api/jobs/"+done.Job+"/file?pictures=no", "", nil)
	if len(small) > 100_000 {
		t.Errorf("without its pictures it has %d KB", len(small)>>10)
	}
	if _, code := open(append([]byte("\xef\xbb\xbf"), small...)); code != "" {
		t.Errorf("with a byte-order mark: %s", code)
	}
	for want, text := range map[string]string{
		"not-a-job":    `{"format": 0, "job": {"title": "x", "kind": "re-pinned"}}`,
		"newer-format": `{"format": 99, "job": {}}`,
		"damaged-job":  `{"format": 9, "job": {"title": "x", "kind": "re-pinned"}, "extra": 1}`,
	} {
		if _, code := open([]byte(text)); code != want {
			t.Errorf("%s is answered %q, not %q", text, code, want)
		}
	}
	for _, text := range []string{string(small) + "{}", "[]", "", "{", `{"format": 9}`, `{"job": {}}`, `{"format": 9, "format": 9, "job": {}}`} {
		if _, code := open([]byte(text)); code != "not-a-job" && code != "damaged-job" {
			t.Errorf("%.60q is answered %q", text, code)
		}
	}
	jobs := show[server.JobList](c, "/api/jobs").Jobs
	if len(jobs) != 3 {
		t.Errorf("%d jobs; what was refused leaves none behind", len(jobs))
	}
}

// Signs that no font of ours has are printed as a visible one, in every print that there is.
func TestEverySignPrints(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *plan.Job) {
		handedOver(t)(j)
		j.Title, j.Donor = "Pack🚒horse \x01 חבילה", strings.Repeat("😀", 400)
		j.Loans[0].Text = "🔧 jumper"
		j.Ticks[0].Reason = "👍"
	})
	for _, path := range []string{"/gather/labels.pdf", "/pin/sheet.pdf", "/prove/sheet.pdf", "/handover/book.pdf", "/handover/labels.pdf",
		"/handover/sheet/fitter.pdf", "/handover/sheet/programmer.pdf", "/handover/svg/9.svg", "/handover/all.zip"} {
		if status, data, _ := c.do("GET", job+path, "", nil); status != http.StatusOK {
			t.Errorf("%s: %d %.200s", path, status, data)
		}
	}
	if v := show[server.HandoverView](c, job+"/handover"); len(v.Missing) == 0 || !strings.Contains(v.Missing[0], "🚒") {
		t.Errorf("nobody is told that it cannot be printed: %q", v.Missing)
	}
}

// Eighteen thousand branches, each of which breaks out of the one before.
func TestDeepNesting(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *plan.Job) {
		cells := [][]string{{"Branch", "Breaks out of", "At mm", "Length mm"}}
		for i := range 18_000 {
			cells = append(cells, []string{fmt.Sprint("b", i+1), fmt.Sprint("b", i), "10", "50"})
		}
		j.Sheets[gather.BranchList] = &gather.Sheet{Cells: cells}
	})
	within(t, "18,000 branches", 5*time.Second, 2000, func() {
		for _, page := range []string{"/thin", "/front"} {
			if status, data, _ := c.do("GET", job+page, "", nil); status != http.StatusOK {
				t.Errorf("%d %.200s", status, data)
			}
		}
	})
}
