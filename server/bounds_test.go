package server_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"net/http"
	"runtime"
	"runtime/debug"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/xuri/excelize/v2"

	"draxel/core/gather"
	"draxel/core/join"
	"draxel/core/prove"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/server/gatherapi"
	"draxel/server/handoverapi"
	"draxel/server/jobsapi"
)

// stopwatch starts; asked later it gives the time since, and whether that is longer than something may take. Counted
// is what processors did for this process, whatever else the machine does at the moment; the clock may show patience
// times as much. What is too long is measured against a piece of work that is always the same, at that moment: on a
// machine that is half as fast just then, everything may take twice as long. Before says how slow it was just before.
func stopwatch(before ...float64) func(longest time.Duration) (took time.Duration, tooLong bool) {
	begun, worked := time.Now(), processors()
	return func(longest time.Duration) (time.Duration, bool) {
		took, did := time.Since(begun), processors()-worked
		if min(took, did) <= longest && took <= patience*longest {
			return took, false
		}
		slow := max(1, slices.Max(append(before, slowness())))
		return took, float64(min(took, did)) > slow*float64(longest) || float64(took) > slow*patience*float64(longest)
	}
}

// quiet is how long the piece of work of slowness takes on the machine on which the bounds were set, with nothing else
// on it.
const quiet = 150 * time.Millisecond

// slowness says how many times as long as there a piece of work takes at this moment, and never less than once: names
// are made, put into a map and put in order.
func slowness() float64 {
	begun, worked := time.Now(), processors()
	names := make([]string, 0, 150_000)
	at := map[string]int{}
	for i := range cap(names) {
		name := fmt.Sprint("wire ", i*7919%cap(names))
		names, at[name] = append(names, name), i
	}
	slices.Sort(names)
	took := min(time.Since(begun), processors()-worked)
	return max(1, float64(took)/float64(quiet))
}

// processors gives how long processors have worked for this process.
func processors() time.Duration {
	var u syscall.Rusage
	if syscall.Getrusage(syscall.RUSAGE_SELF, &u) != nil {
		return 0
	}
	return time.Duration(u.Utime.Nano() + u.Stime.Nano())
}

// within fails where something takes longer, or takes more memory from the system than so many MB.
func within(t *testing.T, what string, longest time.Duration, mb uint64, do func()) {
	t.Helper()
	defer debug.SetGCPercent(debug.SetGCPercent(100)) // as the program runs, however seldom the tests collect
	var before, after runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&before)
	late := stopwatch(slowness())
	do()
	took, tooLong := late(longest)
	runtime.ReadMemStats(&after)
	grown := (max(after.Sys, before.Sys) - before.Sys) >> 20 // asked of the system, beyond what was there
	t.Logf("%s: %v, %d MB", what, took.Round(time.Millisecond), grown)
	if tooLong || grown > mb {
		t.Errorf("%s takes %v and %d MB, allowed %v and %d MB", what, took, grown, longest, mb)
	}
}

// Tables with numbers that no housing has, and with cells where no table has them: refused or read as found, and the
// job opens.
func TestTablesWithoutBound(t *testing.T) {
	c := start(t)
	made, code := send[desk.Done](
		c,
		"POST",
		"/api/jobs",
		jobsapi.JobRequest{ID: c.change(), Title: "bounds", Kind: "re-pinned"},
	)
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
	refused := map[string]string{}
	for name, table := range map[string]string{
		"twenty million ways":        "Connector,Pin,Function\nA (20000000-way),1,Ground\nA,2,Battery\n",
		"a cavity of twenty million": "Connector,Pin,Function\nA,20000000,Ground\nA,2,Battery\n",
		"cavity 999 of 19,990 plugs": many.String(),
		"cavity 400 of 19,990 plugs": wide.String(),
		"forty thousand words": "Connector,Pin,Function\nA,1,\"" + strings.Repeat("coolant temperature ",
			2000) + "\"\nA,2,Ground\n",
		"a word of a hundred thousand": "Connector,Pin,Function\nA,1," + strings.Repeat("W",
			100_000) + "\nA,2,Ground\n",
	} {
		within(t, name, 4*longestAnswer, 600, func() { // five answers
			if _, code := bring[desk.Done](c, "PUT", job+"/gather/from", []byte(table),
				map[string]string{"id": c.change(),
					"meta": `{"name":"x","trust":"maker"}`, "seen": "99"}); code != "" {
				refused[name] = code
			}
			slow := slowness()
			for _, page := range []string{"", "/gather", "/match", "/front"} {
				late := stopwatch(slow)
				status, data, _ := c.do("GET", job+page, "", nil)
				if took, tooLong := late(longestAnswer); status != http.StatusOK || tooLong {
					t.Errorf("%s: page %q answers %d after %v: %.200s", name, page, status, took, data)
				}
			}
		})
	}
	if refused["forty thousand words"] != "cell-too-long" ||
		refused["a word of a hundred thousand"] != "cell-too-long" ||
		len(refused) != 2 {
		t.Errorf("refused are %v", refused)
	}
}

// A name that is a page is refused where it is entered.
func TestANameThatIsAPage(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	long := strings.Repeat("D", 100_000)
	seen := show[jobsapi.FrontView](c, job+"/front").Revision
	if _, code := bring[desk.Done](c, "PUT", job+"/gather/lists/devices", []byte("Device,Kind\n"+long+",unit\n"),
		map[string]string{
			"id": c.change(), "meta": `{"source":"x"}`, "seen": "99"}); code != "cell-too-long" {
		t.Errorf("a list with it is answered %q", code)
	}
	if _, code := send[desk.Done](c, "POST", job+"/gather/lists/devices/cells",
		gatherapi.SheetEditRequest{ID: c.change(), Seen: seen,
			Edits: []gather.CellEdit{{Line: 2, Field: "device", Text: long}}}); code != "cell-too-long" {
		t.Errorf("a cell of it is answered %q", code)
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
	within(t, fmt.Sprintf("%d KB of XLSX", b.Len()>>10), 600*time.Millisecond, 60, func() {
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
	j := stored.Job{Title: "many photographs", Kind: stored.Repinned}
	n := exchange.MaxJobBytes/len(picture.Data) + 2
	pictures := map[string]exchange.Picture{}
	for i := range n {
		id := fmt.Sprintf("p%03d", i)
		j.Photos = append(j.Photos, stored.Photo{ID: id, Connector: "A", Width: 2048, Height: 1536})
		pictures[id] = picture
	}
	var b bytes.Buffer
	if err := exchange.WriteJob(&b, j, pictures); err != nil {
		t.Fatal(err)
	}
	if b.Len() < exchange.MaxJobBytes {
		t.Fatalf("%d photographs are only %d MB", n, b.Len()>>20)
	}
	open := func(body []byte) (desk.Done, string) {
		status, data, _ := c.do("POST", "/api/jobs/file", "application/json", bytes.NewReader(body))
		return decode[desk.Done](c, status, data)
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
	jobs := show[jobsapi.JobList](c, "/api/jobs").Jobs
	if len(jobs) != 3 {
		t.Errorf("%d jobs; what was refused leaves none behind", len(jobs))
	}
}

// Signs that no font of ours has are printed as a visible one, in every print that there is.
func TestEverySignPrints(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *stored.Job) {
		handedOver(t)(j)
		j.Title, j.Donor = "Pack🚒horse \x01 חבילה", strings.Repeat("😀", 400)
		j.Loans[0].Text = "🔧 jumper"
		j.Ticks[0].Reason = "👍"
	})
	for _, path := range []string{"/gather/labels.pdf", "/pin/sheet.pdf", "/prove/sheet.pdf", "/handover/book.pdf",
		"/handover/labels.pdf",
		"/handover/sheet/fitter.pdf", "/handover/sheet/programmer.pdf", "/handover/svg/9.svg", "/handover/all.zip"} {
		if status, data, _ := c.do("GET", job+path, "", nil); status != http.StatusOK {
			t.Errorf("%s: %d %.200s", path, status, data)
		}
	}
	if v := show[handoverapi.HandoverView](c, job+"/handover"); len(v.Missing) == 0 ||
		!strings.Contains(v.Missing[0], "🚒") {
		t.Errorf("nobody is told that it cannot be printed: %q", v.Missing)
	}
}

// Eighteen thousand branches, each of which breaks out of the one before.
func TestDeepNesting(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *stored.Job) {
		cells := [][]string{{"Branch", "Breaks out of", "At mm", "Length mm"}}
		for i := range 18_000 {
			cells = append(cells, []string{fmt.Sprint("b", i+1), fmt.Sprint("b", i), "10", "50"})
		}
		j.Sheets[gather.BranchList] = &gather.Sheet{Cells: cells}
	})
	within(t, "18,000 branches", 2*time.Second, 2000, func() {
		for _, page := range []string{"/thin", "/front"} {
			if status, data, _ := c.do("GET", job+page, "", nil); status != http.StatusOK {
				t.Errorf("%d %.200s", status, data)
			}
		}
	})
}

// Networks that nobody would build: two hundred sources on one post, a thousand relays that feed their own coils round
// in a circle, contacts and cables from everything to everything; rules, functions and readings by the thousand that
// contradict one another. Each page answers, and soon.
func TestNetworksAndReadingsWithoutSense(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *stored.Job) {
		add := func(kind gather.SheetKind, rows ...[]string) {
			s := j.Sheets[kind]
			if s == nil {
				t.Fatalf("there is no list of %s", kind)
			}
			s.Cells = append(slices.Clone(s.Cells), rows...)
		}
		for i := range 200 {
			add(
				gather.SourceList,
				[]string{
					fmt.Sprint("battery ", i),
					"battery",
					"battery post",
					"battery −",
					fmt.Sprint(10 + i%9),
					"",
					"",
					"",
					"",
				},
			)
		}
		for i := range 1000 {
			to := (i + 1) % 1000
			add(
				gather.RelayList,
				[]string{
					fmt.Sprint("loop ", i),
					fmt.Sprint("coil ", i),
					"body",
					"battery post",
					fmt.Sprint("coil ", to),
					"",
					"85",
					"30",
					"",
					"",
				},
			)
			add(
				gather.SwitchList,
				[]string{
					fmt.Sprint("contact ", i),
					fmt.Sprint("coil ", i),
					fmt.Sprint("coil ", (i*37)%1000),
					"own",
					"",
					"",
				},
			)
			add(
				gather.LoadList,
				[]string{fmt.Sprint("load ", i), fmt.Sprint("coil ", i), "body", "3", "12", "lamp", "", "", ""},
			)
		}
		for i := range 1000 {
			j.OutRules = append(
				j.OutRules,
				join.OutputRule{Output: fmt.Sprint("A", i), When: "coolant > 95 or ac and gear = neutral"},
			)
			j.Functions = append(j.Functions, join.FunctionWish{Function: fmt.Sprint("nothing ", i)})
		}
		for i := range 400 {
			j.Proved = append(
				j.Proved,
				prove.MeterReading{Measure: prove.Measure{ID: fmt.Sprint("r", i), Kind: prove.Ohms,
					A: fmt.Sprint(
						"A",
						1+i%52,
					), B: fmt.Sprint("B", 1+(i*7)%38)}, Value: float64(i % 3), Over: i%2 == 0},
			)
		}
	})
	for _, page := range []string{"/feed", "/join", "/prove", "/prove/diagnosis?next=yes", "/front", "/handover",
		"/feed/spice?position=run",
		"/feed/tree?position=running", "/handover/money", "/feed/ask?position=run&do=open&element=coil%201"} {
		late := stopwatch()
		status, data, _ := c.do("GET", job+page, "", nil)
		took, tooLong := late(longestAnswer)
		t.Logf("%s: %d after %v", page, status, took.Round(time.Millisecond))
		if status >= 500 || tooLong {
			t.Errorf("%s answers %d after %v: %.200s", page, status, took, data)
		}
	}
}
