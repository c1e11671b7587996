package handoverapi

import (
	"archive/zip"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"hash"
	"io"
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/diagram"
	"draxel/core/handover"
	"draxel/core/papers"
	"draxel/exchange"
	"draxel/server/desk"
)

// Packed is a file of the whole hand-over, as its manifest has it.
type Packed struct {
	Name   string `json:"name"`
	Bytes  int    `json:"bytes"`
	SHA256 string `json:"sha256"`
	What   string `json:"what"`
}

// Manifest says what a ZIP of a job holds.
type Manifest struct {
	Draxel   string   `json:"draxel"` // the form of the manifest
	Title    string   `json:"title"`
	Revision int64    `json:"revision"`
	Hash     string   `json:"hash"` // of the job
	State    string   `json:"state,omitempty"`
	Files    []Packed `json:"files"`
}

// entry is a file that is packed.
type entry struct {
	name, what string
	write      func(w io.Writer) error
}

// everything lists all files that can be handed over.
func (s *API) everything(ctx context.Context, j *desk.Computed, b *exchange.Book) []entry {
	p, m := j.Plan(), MoneyOf(j, s.Now())
	in := papers.Book(p, &j.Facts)
	lengths := handover.Lengths(in)
	items := s.workItems(j, m)
	files := []entry{
		{"job.draxel.json", "the whole job: Draxel opens it again",
			s.JobFile(ctx, j.ID, &j.Job)},
		{"book.pdf", "the book", func(w io.Writer) error { return exchange.WriteBookPDF(w, b) }},
		{"order-list.csv", "the order list, with what is there, prices and lead times",
			func(w io.Writer) error { return writeOrders(w, m) }},
		{"cut-list.csv", "the cut list", func(w io.Writer) error { return exchange.WriteCutList(w, p.Reach.Result) }},
		{"work.csv", "the work list", func(w io.Writer) error { return exchange.WriteWorkCSV(w, items) }},
		{"work.ics", "the work list as to-dos of a calendar", func(w io.Writer) error {
			return exchange.WriteWorkICS(w, items, j.Job.Title, b.Printed)
		}},
		{"harness.dot", "the harness as a graph", func(w io.Writer) error {
			return exchange.WriteHarnessDOT(w, lengths, j.Job.Title)
		}},
	}
	table := func(name, what string, rows [][]string) {
		files = append(files,
			entry{name + ".csv", what, func(w io.Writer) error { return exchange.WriteTableCSV(w, rows) }},
			entry{name + ".xlsx", what, func(w io.Writer) error { return exchange.WriteTableXLSX(w, "sheet", rows) }})
	}
	table(
		"harness-wires",
		"the finished harness, in the form of the list of wires that Gather reads",
		handover.WireTable(lengths),
	)
	table("pinout-from", "the pinout of the one side, as it is read", exchange.PinoutTable(j.Facts.From))
	table("pinout-to", "the pinout of the other side", exchange.PinoutTable(j.Facts.To))
	for _, kind := range slices.Sorted(maps.Keys(j.Job.Sheets)) {
		if sheet := j.Job.Sheets[kind]; sheet != nil {
			rows := sheet.Cells
			files = append(
				files,
				entry{"lists/" + string(kind) + ".csv", "the list of " + string(kind) + ", as it was brought",
					func(w io.Writer) error { return exchange.WriteTableCSV(w, rows) }},
			)
		}
	}
	for i := range b.Sections {
		sec := &b.Sections[i]
		name := strings.ReplaceAll(strings.ToLower(strings.ReplaceAll(sec.Title, ",", "")), " ", "-") + ".csv"
		files = append(
			files,
			entry{"book/" + name, sec.Title, func(w io.Writer) error { return exchange.WriteSectionCSV(w, sec) }},
		)
	}
	for k := range b.Pages {
		page := &b.Pages[k]
		files = append(files, entry{fmt.Sprintf("book/page-%03d.svg", exchange.NumberOf(k)), page.Title(),
			func(w io.Writer) error { return exchange.WriteSVG(w, &page.Drawing, page.Title()) }})
	}
	for _, sheet := range papers.Sheets(p, &j.Facts, &j.Job) {
		files = append(files, entry{"sheets/" + sheet.ID + ".pdf", sheet.Title, func(w io.Writer) error {
			return exchange.WriteOtherPDF(w, j.Job.Title, sheetHead(j, b.Hash, b.Printed), b.Printed, &sheet)
		}})
	}
	if r := p.Feed.Result; r != nil {
		files = append(
			files,
			entry{"network.cir", "the network with the engine running, SPICE", func(w io.Writer) error {
				return exchange.WriteSpice(w, r.States[len(r.States)-1], j.Job.Title)
			}},
		)
	}
	return files
}

// sheetHead is what stands over a sheet for others.
func sheetHead(j *desk.Computed, hash, printed string) string {
	return fmt.Sprintf(
		"%s → %s · revision %d · %s · printed %s",
		j.Job.Donor,
		j.Job.Chassis,
		j.Revision,
		hash,
		printed,
	)
}

// packAll gives everything that can be handed over as one ZIP, with a manifest of checksums. The same job on the same
// day gives the same bytes.
func (s *API) packAll(c *gin.Context, j *desk.Computed) error {
	b, err := s.book(c.Request.Context(), j)
	if err != nil {
		return err
	}
	files := s.everything(c.Request.Context(), j, b)
	m := Manifest{Draxel: "hand-over 1", Title: j.Job.Title, Revision: j.Revision, Hash: b.Hash, State: b.State}
	return desk.Stream(c, j.Job.Title+".zip", "application/zip", func(out io.Writer) error {
		z := zip.NewWriter(out)
		for _, f := range files {
			w, err := z.CreateHeader(&zip.FileHeader{Name: f.name, Method: zip.Deflate})
			if err != nil {
				return fmt.Errorf("pack %s: %w", f.name, err)
			}
			sum := summing{hash: sha256.New()}
			if err := f.write(io.MultiWriter(w, &sum)); err != nil {
				return fmt.Errorf("pack %s: %w", f.name, err)
			}
			m.Files = append(m.Files, Packed{f.name, sum.n, hex.EncodeToString(sum.hash.Sum(nil)), f.what})
		}
		manifest, err := json.MarshalIndent(m, "", " ")
		if err != nil {
			return fmt.Errorf("pack the manifest: %w", err)
		}
		w, err := z.CreateHeader(&zip.FileHeader{Name: "manifest.json", Method: zip.Deflate})
		if err == nil {
			_, err = w.Write(manifest)
		}
		if err == nil {
			err = z.Close()
		}
		if err != nil {
			return fmt.Errorf("pack the hand-over: %w", err)
		}
		return nil
	})
}

// summing counts and sums what is written.
type summing struct {
	hash hash.Hash
	n    int
}

func (s *summing) Write(p []byte) (int, error) {
	s.n += len(p)
	return s.hash.Write(p)
}

// workItems gives the work list as other programs take it.
func (s *API) workItems(j *desk.Computed, m *money) []exchange.WorkItem {
	p := j.Plan()
	number := make(map[string]int, len(p.Work.Steps))
	out := make([]exchange.WorkItem, len(p.Work.Steps))
	today := s.Now().UTC()
	for i := range p.Work.Steps {
		x := &p.Work.Steps[i]
		number[x.ID] = i + 1
		item := exchange.WorkItem{
			ID:      x.ID,
			Number:  i + 1,
			Stage:   string(x.Stage),
			Text:    x.Text,
			Why:     x.Why,
			Warn:    x.Warn,
			Minutes: x.Minutes,
		}
		for _, need := range x.Needs {
			if n := number[need]; n > 0 {
				item.Needs = append(item.Needs, n)
			}
		}
		if t, done := p.Done(x.ID); done {
			item.Done, item.Who, item.On = true, t.Who, time.UnixMilli(t.When).UTC().Format(time.DateOnly)
		} else if on, known := m.Timing.On[x.ID]; known {
			item.On = Day(today, on)
		}
		out[i] = item
	}
	return out
}

// workFile gives the work list as CSV or as to-dos of a calendar.
func (s *API) workFile(c *gin.Context, j *desk.Computed) error {
	items := s.workItems(j, MoneyOf(j, s.Now()))
	var out bytes.Buffer
	if c.Param("form") == "work.ics" {
		err := exchange.WriteWorkICS(&out, items, j.Job.Title, s.Now().UTC().Format(time.DateOnly))
		if err == nil {
			desk.Download(c, j.Job.Title+" work.ics", "text/calendar; charset=utf-8", out.Bytes())
		}
		return err
	}
	err := exchange.WriteWorkCSV(&out, items)
	if err == nil {
		desk.Download(c, j.Job.Title+" work.csv", "text/csv; charset=utf-8", out.Bytes())
	}
	return err
}

// wiresXLSX gives the finished harness in the form of the list of wires that Gather reads.
func (s *API) wiresXLSX(c *gin.Context, j *desk.Computed) error {
	var out bytes.Buffer
	rows := handover.WireTable(handover.Lengths(papers.Book(j.Plan(), &j.Facts)))
	if err := exchange.WriteTableXLSX(&out, "wires", rows); err != nil {
		return err
	}
	desk.Download(
		c,
		j.Job.Title+" wires.xlsx",
		"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
		out.Bytes(),
	)
	return nil
}

// pageSVG gives a drawing of the book as SVG.
func (s *API) pageSVG(c *gin.Context) error {
	j, pages, err := s.withPages(c)
	if err != nil {
		return err
	}
	page, err := pageOf(c, pages)
	if err != nil {
		return err
	}
	return s.svg(c, &page.Drawing, j.Job.Title+" "+page.Title())
}

func (s *API) svg(c *gin.Context, d *diagram.Drawing, title string) error {
	var out bytes.Buffer
	if err := exchange.WriteSVG(&out, d, title); err != nil {
		return err
	}
	desk.Download(c, title+".svg", "image/svg+xml", out.Bytes())
	return nil
}

// harnessDOT gives the finished harness as a graph.
func (s *API) harnessDOT(c *gin.Context, j *desk.Computed) error {
	var out bytes.Buffer
	if err := exchange.WriteHarnessDOT(&out, handover.Lengths(papers.Book(j.Plan(), &j.Facts)), j.Job.Title); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" harness.dot", "text/vnd.graphviz; charset=utf-8", out.Bytes())
	return nil
}
