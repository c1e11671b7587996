package server_test

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"encoding/xml"
	"errors"
	"io"
	"net/http"
	"os/exec"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/papers"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/server/handoverapi"
	"draxel/server/jobsapi"
	"draxel/server/matchapi"
)

// What is open holds the hand-over: refused without a reason, and with one it is kept and printed. What has an owner
// is not open; what is gone is in no list.
func TestWhatIsOpenHoldsTheHandOver(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	view := func() handoverapi.HandoverView { return show[handoverapi.HandoverView](c, job+"/handover") }
	post := func(path string, body any) string {
		_, code := send[desk.Done](c, "POST", job+"/handover"+path, body)
		return code
	}
	v := view()
	sum := 0
	for _, l := range v.Lists {
		sum += len(l.Items)
	}
	if v.Open == 0 || v.Open != sum || len(v.Pages) < 20 || !strings.Contains(v.State, "NOT FINISHED") {
		t.Fatalf("%d open of %d, %d pages, %s", v.Open, sum, len(v.Pages), v.State)
	}
	if code := post("/deliver", handoverapi.DeliverRequest{ID: c.change(), Seen: v.Revision,
		Name: "as delivered"}); code != "not-zero" {
		t.Errorf("with %d open it is handed over: %q", v.Open, code)
	}
	i := slices.IndexFunc(v.Lists, func(l handover.DueList) bool { return l.ID == "gates" })
	key := v.Lists[i].Items[0].Key
	for _, x := range []struct {
		r    handoverapi.LeftRequest
		want string
	}{{handoverapi.LeftRequest{Key: key, Owner: "Fen"}, "bad-value"},
		{handoverapi.LeftRequest{Key: "a ghost", Owner: "Fen", Reason: "so"}, "no-such-thing"},
		{handoverapi.LeftRequest{Key: key, Owner: "Fen", Reason: "when the unit is back"}, ""}} {
		x.r.ID, x.r.Seen = c.change(), view().Revision
		if code := post("/left", x.r); code != x.want {
			t.Errorf("%+v: %q, want %q", x.r, code, x.want)
		}
	}
	if after := view(); after.Open != v.Open-1 || after.Lists[i].Items[0].Left == nil {
		t.Errorf("owned, and %d of %d are open", after.Open, v.Open)
	}
	loan := handover.Loan{Kind: handover.Temporary, Text: "jumper from 30 to 87"}
	if code := post("/loan", handoverapi.LoanRequest{ID: c.change(), Seen: view().Revision,
		Loan: loan}); code != "bad-value" {
		t.Errorf("a jumper that is nowhere: %q", code)
	}
	loan.Where = "pump relay socket"
	if code := post("/loan", handoverapi.LoanRequest{ID: c.change(), Seen: view().Revision, Loan: loan}); code != "" {
		t.Fatal(code)
	}
	after := view()
	if after.Open != v.Open || show[jobsapi.JobView](c, job).Open.Handover != 1 {
		t.Errorf("with a jumper in %d are open", after.Open)
	}
	loan = after.Loans[0]
	if loan.Gone = true; post("/loan", handoverapi.LoanRequest{ID: c.change(), Seen: after.Revision, Loan: loan}) != "" ||
		view().Open != v.Open-1 {
		t.Error("gone, and it is open")
	}
	if code := post("/deliver", handoverapi.DeliverRequest{ID: c.change(), Seen: view().Revision, Name: "as delivered",
		Reason: "the owner waits"}); code != "" {
		t.Fatal(code)
	}
	if d := view().Delivered; len(d) != 1 || d[0].Open != v.Open-1 || d[0].Hash == "" ||
		d[0].Reason != "the owner waits" {
		t.Errorf("kept as %+v", d)
	}
	state := view().Delivered[0].ID
	same := show[handoverapi.CompareStatesView](c, job+"/handover/compare?was="+state)
	if same.All != 0 || same.Was != "as delivered" {
		t.Errorf("just handed over, and %d differ: %+v", same.All, same.Differences)
	}
	// By hand: K10's match is taken back, and one setting comes with a fan's rule; a state does not change with the
	// job.
	decided := show[matchapi.MatchView](c, job+"/match")
	k := slices.IndexFunc(decided.Lines, func(l match.Line) bool { return l.Decided && l.From.Connector != "" })
	if k < 0 {
		t.Fatal("nothing is decided")
	}
	at := decided.Lines[k].From
	if _, code := send[desk.Done](c, "POST", job+"/match/decide",
		matchapi.DecideRequest{ID: c.change(), Seen: view().Revision, Side: match.From,
			At: at, Action: matchapi.Reopen}); code != "" {
		t.Fatal(code)
	}
	diff := show[handoverapi.CompareStatesView](c, job+"/handover/compare?was="+state)
	if !slices.ContainsFunc(diff.Differences, func(d handover.Difference) bool {
		return d.Kind == "decision" && d.At == at.String() && d.Was != "" && d.Is == ""
	}) {
		t.Errorf("%s is reopened, and the differences are %+v", at, diff.Differences)
	}
	other := show[handoverapi.CompareStatesView](c, job+"/handover/compare?was="+state+"&is="+state)
	if other.All != 0 {
		t.Errorf("a state differs from itself: %+v", other.Differences)
	}
	_, data, _ := c.do("GET", job+"/handover/state/"+state, "", nil)
	if back, _, err := exchange.ReadJob(data); err != nil || !strings.Contains(back.Title, "as delivered") {
		t.Errorf("the state is no job: %v", err)
	}
	if status, _, _ := c.do("GET", job+"/handover/compare?was=ghost", "", nil); status != http.StatusNotFound {
		t.Errorf("a state that there is not: %d", status)
	}
	if code := post("/left", handoverapi.LeftRequest{ID: c.change(), Seen: view().Revision, Key: key}); code != "" ||
		view().Open != v.Open {
		t.Error("taken back, and it is not open")
	}
}

// The ZIP is opened again: every file has the size and the checksum of the manifest, the job file is the same job,
// the pinouts are read back, and a page on screen has the wires of the page on paper.
func TestTheWholeHandOverIsOpenedAgain(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	status, data, _ := c.do("GET", job+"/handover/all.zip", "", nil)
	_, again, _ := c.do("GET", job+"/handover/all.zip", "", nil)
	if status != http.StatusOK || !bytes.Equal(data, again) {
		t.Fatalf("%d, or other bytes the second time", status)
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	files := map[string][]byte{}
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		files[f.Name], _ = io.ReadAll(r)
	}
	var m handoverapi.Manifest
	if err := json.Unmarshal(files["manifest.json"], &m); err != nil || len(m.Files) != len(files)-1 ||
		len(m.Files) < 15 {
		t.Fatalf("%d files, %+v, %v", len(files), m, err)
	}
	for _, f := range m.Files {
		sum := sha256.Sum256(files[f.Name])
		if len(files[f.Name]) != f.Bytes || hex.EncodeToString(sum[:]) != f.SHA256 || f.What == "" {
			t.Errorf("%s is not what the manifest says", f.Name)
		}
	}
	back, _, err := exchange.ReadJob(files["job.draxel.json"])
	if err != nil {
		t.Fatal(err)
	}
	_, file, _ := c.do("GET", job+"/file", "", nil)
	mine, _, err := exchange.ReadJob(file)
	if err != nil || !reflect.DeepEqual(back, mine) {
		t.Errorf("the job comes back as another: %v", err)
	}
	comesBack(t, files, &mine)
	if !bytes.HasPrefix(files["book.pdf"], []byte("%PDF")) || !bytes.Contains(files["book/wires.csv"],
		[]byte("P105")) ||
		len(files["network.cir"]) == 0 {
		t.Error("book, wires or network are missing")
	}
	v := show[handoverapi.HandoverView](c, job+"/handover")
	seen := map[harness.WireID]bool{}
	for _, p := range v.Pages {
		page := show[handoverapi.BookPageView](c, job+"/handover/page/"+strconv.Itoa(p.Number))
		if len(page.Wires) != p.Wires || page.Title != p.Title {
			t.Errorf("page %d has %d wires, of %d", p.Number, len(page.Wires), p.Wires)
		}
		for _, w := range page.Wires {
			if seen[w.Name] {
				t.Errorf("%s is on two pages", w.Name)
			}
			seen[w.Name] = true
		}
	}
	for _, bad := range []string{"0", "2", "9999", "x"} {
		if status, _, _ := c.do("GET", job+"/handover/page/"+bad, "", nil); status != http.StatusNotFound {
			t.Errorf("page %s: %d", bad, status)
		}
	}
}

// comesBack reads back what can be: a table says the same as CSV and as XLSX, a pinout is the pinout that it was, a
// list the list as it was brought, and the finished harness a list of wires that Gather takes whole. The work list is
// read line by line as RFC 5545 has it, a drawing as XML.
func comesBack(t *testing.T, files map[string][]byte, j *stored.Job) {
	t.Helper()
	read := func(name string) [][]string {
		table, err := exchange.ReadTable(files[name], "")
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		for i, row := range table.Cells { // a spreadsheet has no empty cells at the end of a line
			for len(row) > 0 && row[len(row)-1] == "" {
				row = row[:len(row)-1]
			}
			table.Cells[i] = row
		}
		return table.Cells
	}
	for _, name := range []string{"harness-wires", "pinout-from", "pinout-to"} {
		if a, b := read(name+".csv"), read(name+".xlsx"); !reflect.DeepEqual(a, b) || len(a) < 10 {
			t.Errorf("%s has %d lines as CSV and %d as XLSX, or they differ", name, len(a), len(b))
		}
	}
	f, err := fact.Of(*j)
	if err != nil {
		t.Fatal(err)
	}
	for name, want := range map[string]harness.Pinout{"pinout-from.xlsx": f.From, "pinout-to.csv": f.To} {
		r, err := gather.Read(read(name), gather.Options{})
		if err != nil || len(r.Rows) != len(want.Rows) {
			t.Fatalf("%s comes back with %d rows of %d, %v", name, len(r.Rows), len(want.Rows), err)
		}
		for i, row := range r.Pinout(want.Name).Rows {
			if w := want.Rows[i]; row.Ref != w.Ref || row.Circuit != w.Circuit || row.Function != w.Function ||
				row.Colour.Written != w.Colour.Written {
				t.Errorf("%s, row %d: %+v, was %+v", name, i, row.Ref, w.Ref)
			}
		}
	}
	for kind, sheet := range j.Sheets {
		back := read("lists/" + string(kind) + ".csv")
		now, errA := gather.ReadSheet(kind, gather.Sheet{Cells: back})
		was, errB := gather.ReadSheet(kind, gather.Sheet{Cells: sheet.Cells})
		if errA != nil || errB != nil || !reflect.DeepEqual(now.Rows, was.Rows) {
			t.Errorf("the list of %s comes back as another: %v %v", kind, errA, errB)
		}
	}
	p := plan.Compute(f, j.Chosen())
	lengths := 0
	ends := map[harness.WireID][2]string{}
	for _, l := range handover.Lengths(papers.Book(&p, &f)) {
		if !l.Cable {
			lengths++
			ends[l.Name] = [2]string{l.Ends[0].Cavity.String(), l.Ends[1].Cavity.String()}
		}
	}
	wires, err := gather.ReadSheet(gather.WireList, gather.Sheet{Cells: read("harness-wires.xlsx")})
	if err != nil || len(wires.Rows) != lengths || len(wires.Rejected) > 0 {
		t.Fatalf("Gather takes %d of %d wires, rejects %d: %v", len(wires.Rows), lengths, len(wires.Rejected), err)
	}
	for _, row := range wires.Rows {
		for end, at := range ends[harness.WireID(row.Cells["wire"])] {
			side := []string{"from", "to"}[end]
			got := harness.Ref{Connector: row.Cells[side], Cavity: row.Cells[side+"Cavity"]}
			if at != "" && got.String() != at || at == "" && row.Cells[side+"Cavity"] != "" {
				t.Errorf("%s comes back at %s, it ends at %q", row.Cells["wire"], got, at)
			}
		}
	}
	todos, line := 0, 0
	for _, text := range strings.Split(string(files["work.ics"]), "\r\n") {
		if line++; len(text) > 75 || strings.ContainsAny(text, "\n\r") {
			t.Errorf("line %d of the calendar has %d octets", line, len(text))
		}
		if text == "BEGIN:VTODO" {
			todos++
		}
	}
	if todos != len(p.Work.Steps) || len(read("work.csv")) != todos+1 {
		t.Errorf("%d to-dos and %d lines of %d steps", todos, len(read("work.csv")), len(p.Work.Steps))
	}
	if dot, err := exec.LookPath("dot"); err == nil { // else nothing here reads the language
		run := exec.CommandContext(t.Context(), dot, "-Tcanon")
		run.Stdin = bytes.NewReader(files["harness.dot"])
		if out, err := run.CombinedOutput(); err != nil || bytes.Count(out, []byte(" -- ")) < lengths {
			t.Errorf("dot reads the graph as %d edges of %d: %v", bytes.Count(out, []byte(" -- ")), lengths, err)
		}
	}
	for name, data := range files {
		if !strings.HasSuffix(name, ".svg") {
			continue
		}
		d := xml.NewDecoder(bytes.NewReader(data))
		for {
			if _, err := d.Token(); errors.Is(err, io.EOF) {
				break
			} else if err != nil {
				t.Fatalf("%s: %v", name, err)
			}
		}
	}
}

// Sheets for others and labels over HTTP: each is there and the same twice; labels of one plug are those of its wires
// and cavities, and paper that is no paper is refused.
func TestSheetsAndLabels(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	for _, id := range []string{"fitter", "programmer", "inspector", "second", "yard"} {
		status, a, _ := c.do("GET", job+"/handover/sheet/"+id+".pdf", "", nil)
		_, b, _ := c.do("GET", job+"/handover/sheet/"+id+".pdf", "", nil)
		if status != http.StatusOK || !bytes.HasPrefix(a, []byte("%PDF")) || !bytes.Equal(a, b) {
			t.Errorf("%s: %d", id, status)
		}
	}
	if status, _, _ := c.do("GET", job+"/handover/sheet/poem.pdf", "", nil); status != http.StatusNotFound {
		t.Errorf("a poem: %d", status)
	}
	all := show[handoverapi.StickersView](c, job+"/handover/labels")
	plug := show[handoverapi.StickersView](c, job+"/handover/labels?kinds=cavity&plug=FP")
	if all.All < 1000 || plug.All != 2 || plug.First[0].Text != "2/1" || plug.First[0].Under != "FP1" {
		t.Errorf("%d labels; of FP %d: %+v", all.All, plug.All, plug.First)
	}
	wires := show[handoverapi.StickersView](c, job+"/handover/labels?kinds=wire&plug=FP")
	if !slices.ContainsFunc(
		wires.First,
		func(s handover.Sticker) bool { return s.Text == "P127" && strings.HasPrefix(s.Under, "FP1") },
	) {
		t.Errorf("wires of FP: %+v", wires.First)
	}
	for query, want := range map[string]int{"?kinds=wire&plug=FP": 200, "?kinds=wire&plug=FP&codes=1": 200,
		"?roll=1&wide=50&high=12&kinds=fuse": 200,
		"?kinds=hat":                         422, "?columns=99": 422, "?wide=500": 422, "?high=nan": 422} {
		if status, _, _ := c.do("GET", job+"/handover/labels.pdf"+query, "", nil); status != want {
			t.Errorf("%s: %d, want %d", query, status, want)
		}
	}
	_, csv, _ := c.do("GET", job+"/handover/labels.csv?kinds=fuse", "", nil)
	if n := bytes.Count(csv, []byte("\n")); n != 15+1 {
		t.Errorf("%d lines of fuse labels:\n%s", n, csv)
	}
}

// What is said to the programmer and the inspector follows from the job: the unit's numbers, codes of what was given
// up, brake lamps that are cut; and powers and grounds are those of Pin's second check.
func TestWhatOthersAreTold(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	j := jobOf(c, job)
	f, err := fact.Of(j)
	if err != nil {
		t.Fatal(err)
	}
	p := plan.Compute(f, j.Chosen())
	text := map[string]string{}
	for _, s := range papers.Sheets(&p, &f, &j) {
		for _, part := range s.Parts {
			text[s.ID] += part.Title + "\n" + strings.Join(part.Lines, "\n") + "\n" + part.Empty + "\n"
		}
	}
	for id, wants := range map[string][]string{"programmer": {"VK2-0417", "1-3-2-4", "remove in programming",
		"checksum verified"},
		"fitter": {"A, 52-way, into VK-2", "Battery off", "FP, 2-way, onto fuel pump"}, "inspector": {"Brakes",
			"Restraint", "Lighting"},
		"yard": {"pedal"}} {
		for _, want := range wants {
			if !strings.Contains(text[id], want) {
				t.Errorf("the sheet for the %s does not say %q:\n%.600s", id, want, text[id])
			}
		}
	}
	powers := 0
	for _, e := range p.Pin.Expected {
		if e.Power {
			powers++
			if !strings.Contains(text["second"], e.At.String()+":") {
				t.Errorf("the second check has no %s", e.At)
			}
		}
	}
	if powers < 20 {
		t.Errorf("%d powers and grounds are to be checked", powers)
	}
}
