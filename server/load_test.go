package server_test

import (
	"bytes"
	"flag"
	"fmt"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/xuri/excelize/v2"

	"draxel/core/gather"
	"draxel/core/match"
	"draxel/core/stored"
	"draxel/demo"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/server/gatherapi"
	"draxel/server/handoverapi"
	"draxel/server/jobsapi"
	"draxel/server/matchapi"
)

var loading = flag.Bool("load", false, "measure what large jobs and many people cost, and print it")

// TestLoad measures what large jobs and many people cost, and prints the figures that stand in docs/performance.md:
// go test ./server -run Load -load -v. It fails where something is not answered, not where it is slow.
func TestLoad(t *testing.T) {
	if !*loading {
		t.Skip("measured with -load")
	}
	t.Run("wordings", loadWordings)
	t.Run("spreadsheet", loadSpreadsheet)
	t.Run("lists", loadLists)
	t.Run("wires", loadWires)
	t.Run("people", loadPeople)
}

// spent says how much of the processors something took, and how long.
func spent(t *testing.T, what string, do func()) {
	t.Helper()
	runtime.GC()
	cpu, begun := processors(), time.Now()
	do()
	t.Logf("%-60s %6.2f s of processor, %6.2f s", what, (processors() - cpu).Seconds(), time.Since(begun).Seconds())
}

// loadWordings matches two tables of 5,000 rows in which each wording stands 400 times.
func loadWordings(t *testing.T) {
	words := strings.Split("Injector control,Coolant sensor signal,Power ground,Ignition coil trigger,Sensor supply,"+
		"Fuel pump relay,Oil pressure switch,Lambda heater,Throttle position,Fan relay,Battery feed,Starter relay,"+
		"Brake switch", ",")
	table := func(prefix string) gather.Reading {
		cells := [][]string{{"Connector", "Pin", "Colour", "Function"}}
		for i := range 5000 {
			cells = append(cells, []string{prefix + fmt.Sprint(i/100), fmt.Sprint(i%100 + 1), "RD", words[i%len(words)]})
		}
		r, err := gather.Read(cells, gather.Options{})
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	a, b := table("A").Pinout("a"), table("B").Pinout("b")
	spent(t, "match of 2 × 5,000 rows, each wording some 400 times", func() {
		if r := match.Crosswalk(a, b, match.SameNames(a, b), nil); len(r.Lines) != 5000 {
			t.Error(len(r.Lines))
		}
	})
}

// loadSpreadsheet brings a spreadsheet of 60,000 rows, which is too many.
func loadSpreadsheet(t *testing.T) {
	book := excelize.NewFile()
	w, err := book.NewStreamWriter("Sheet1")
	if err != nil {
		t.Fatal(err)
	}
	for i := 1; i <= 60_000; i++ {
		if err := w.SetRow(fmt.Sprintf("A%d", i), []any{"A", i, "RD", "Injector control"}); err != nil {
			t.Fatal(err)
		}
	}
	var b bytes.Buffer
	if err = w.Flush(); err == nil {
		err = book.Write(&b)
	}
	if err != nil {
		t.Fatal(err)
	}
	spent(t, fmt.Sprintf("a spreadsheet of 60,000 rows, %d KB, refused", b.Len()>>10), func() {
		if _, err := exchange.ReadTable(b.Bytes(), ""); err == nil {
			t.Error("it is taken")
		}
	})
}

// loadLists brings a list of 5,000 fuses and asks for the page of Feed.
func loadLists(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	var table strings.Builder
	table.WriteString("Fuse,Rating,In,Out\n")
	for i := range 5000 {
		fmt.Fprintf(&table, "X%d,10,battery +,load %d\n", i, i)
	}
	seen := show[jobsapi.JobView](c, job).Revision
	spent(t, "a list of 5,000 fuses brought", func() {
		if _, code := bring[desk.Done](c, "PUT", job+"/gather/lists/fuses", []byte(table.String()),
			map[string]string{"id": c.change(), "seen": fmt.Sprint(seen)}); code != "" {
			t.Error(code)
		}
	})
	if rows := show[gatherapi.SheetView](c, job+"/gather/lists/fuses").Reading.Rows; len(rows) != 5000 {
		t.Errorf("%d fuses are taken", len(rows))
	}
	spent(t, "Feed's page with it", func() { c.answered(job + "/feed") })
	seen = show[jobsapi.JobView](c, job).Revision
	spent(t, "one cell of it changed, and the page again", func() {
		if _, code := send[desk.Done](c, "POST", job+"/gather/lists/fuses/cells", gatherapi.SheetEditRequest{ID: c.change(),
			Seen: seen, Edits: []gather.CellEdit{{Line: 9, Field: "rating", Text: "15"}}}); code != "" {
			t.Error(code)
		}
		c.answered(job + "/feed")
	})
}

// answered asks for a page, which must be there.
func (c *client) answered(path string) {
	c.t.Helper()
	if status, data, _ := c.do("GET", path, "", nil); status != 200 {
		c.t.Errorf("GET %s: %d %.200s", path, status, data)
	}
}

// loadWires opens a job of some 20,000 wires, and every page of it.
func loadWires(t *testing.T) {
	c := start(t)
	var job string
	copies := 57
	spent(t, "a job file of 20,000 wires brought", func() {
		job = c.packhorse(func(j *stored.Job) { demo.Enlarge(j, copies) })
	})
	for _, page := range []string{"", "/gather", "/match", "/thin", "/pin", "/reach", "/feed", "/join", "/prove",
		"/handover", "/work", "/front"} {
		spent(t, "its page "+page, func() { c.answered(job + page) })
	}
	seen := show[jobsapi.JobView](c, job).Revision
	row := show[matchapi.MatchView](c, job+"/match").Lines[0].From
	if _, code := send[desk.Done](c, "POST", job+"/match/decide", matchapi.DecideRequest{ID: c.change(), Seen: seen,
		Side: match.From, At: row, Action: matchapi.GoesAs, Reason: "a trial"}); code != "" {
		t.Error(code)
	}
	spent(t, "after a decision, its head", func() { c.answered(job) })
	spent(t, "after a decision, hand over", func() { c.answered(job + "/handover") })
}

// loadPeople lets many write without a pause.
func loadPeople(t *testing.T) {
	for _, x := range []struct {
		people, jobs int
		wanted       string
	}{{50, 1, "1.0 s"}, {200, 1, "3 s"}, {200, 30, "3 s"}} {
		c := start(t)
		all, err := demo.Jobs()
		if err != nil {
			t.Fatal(err)
		}
		var jobs []string
		for i := range x.jobs {
			jobs = append(jobs, c.opened(all[i%2], func(j *stored.Job) { j.Title = fmt.Sprint(j.Title, " ", i) }))
		}
		answers := inCrowd(t, x.people, 4, func(who, n int) (time.Duration, int, []byte, error) {
			job := jobs[(who+7*n)%len(jobs)]
			if who%3 != 0 {
				return c.timed("POST", job+"/handover/spent", handoverapi.SpentRequest{ID: fmt.Sprint("spent ", who, " ", n),
					Seen: 1 << 40, Spent: spentOf(who)})
			}
			return c.timed("GET", job+[]string{"/match", "/front", "/stand", "/thin", "/journal", ""}[(who+n)%6], nil)
		})
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		t.Logf("%d people on %d jobs, two thirds writing: p99 %.2f s (%s wanted), median %.2f s; %d MB of heap from the "+
			"system",
			x.people, x.jobs, answers.part(0.99).Seconds(), x.wanted, answers.part(0.5).Seconds(), m.HeapSys>>20)
	}
}
