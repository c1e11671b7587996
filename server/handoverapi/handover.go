package handoverapi

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/feed"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/papers"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/store"
)

// pagesOf gives the pages of the job's book, drawn when they are first asked for.
func pagesOf(j *desk.Computed) ([]handover.Page, error) {
	type bound struct {
		pages []handover.Page
		err   error
	}
	b := desk.Kept(j, "book", func() bound {
		measure, err := exchange.Measure()
		if err != nil {
			return bound{err: fmt.Errorf("measure the book's text: %w", err)}
		}
		return bound{pages: handover.Pages(papers.Book(j.Plan(), &j.Facts), exchange.BookPaper, measure)}
	})
	return b.pages, b.err
}

// withPages gives a job with the pages of its book.
func (s *API) withPages(c *gin.Context) (*desk.Computed, []handover.Page, error) {
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return nil, nil, err
	}
	pages, err := pagesOf(j)
	return j, pages, err
}

// bookState says why the book is not as built throughout.
func bookState(pages []handover.Page, open int) string {
	planned, all := 0, 0
	for i := range pages {
		planned += pages[i].Planned
		all += len(pages[i].Lengths)
	}
	var out []string
	if planned > 0 {
		out = append(out, fmt.Sprintf("NOT FINISHED: %d of %d wires are planned and not done yet", planned, all))
	}
	if open > 0 {
		out = append(out, fmt.Sprintf("%d things are open and nobody owns them", open))
	}
	return strings.Join(out, "; ")
}

func (s *API) showHandover(c *gin.Context) error {
	j, pages, err := s.withPages(c)
	if err != nil {
		return err
	}
	v := HandoverView{
		Revision:  j.Revision,
		Pages:     []BookPage{},
		Delivered: states(j.Job.Delivered),
		Loans:     desk.OrEmpty(j.Job.Loans),
	}
	v.Lists, v.Open = DueOf(j)
	for k := range pages {
		p := &pages[k]
		v.Pages = append(v.Pages, BookPage{p.Title(), p.Group, exchange.NumberOf(k), len(p.Lengths), p.Planned})
	}
	v.State = bookState(pages, v.Open)
	v.Missing = unprintable(j, pages)
	c.JSON(http.StatusOK, v)
	return nil
}

// mostMissing bounds the texts that are named of those that no print can show.
const mostMissing = 12

// unprintable lists texts of the book with signs that its font has not.
func unprintable(j *desk.Computed, pages []handover.Page) []string {
	texts := []string{j.Job.Title, j.Job.Donor, j.Job.Chassis}
	for i := range pages {
		for k := range pages[i].Lengths {
			l := &pages[i].Lengths[k]
			texts = append(texts, l.Name.Name(), l.Function, l.Circuit, l.Ends[0].At, l.Ends[1].At)
		}
	}
	for _, x := range j.Job.Photos {
		texts = append(texts, x.Note)
	}
	missing := exchange.Unprintable(texts)
	return missing[:min(len(missing), mostMissing)]
}

// pageOf gives the page of a book that is asked for by its number.
func pageOf(c *gin.Context, pages []handover.Page) (*handover.Page, error) {
	n, err := strconv.Atoi(strings.TrimSuffix(c.Param("page"), ".svg"))
	k := n - exchange.NumberOf(0)
	if err != nil || k < 0 || k >= len(pages) {
		return nil, desk.Refusal(http.StatusNotFound, "no-such-thing", "The book has no such page.", "")
	}
	return &pages[k], nil
}

// showPage gives a page of the book as it is drawn.
func (s *API) showPage(c *gin.Context) error {
	j, pages, err := s.withPages(c)
	if err != nil {
		return err
	}
	p, err := pageOf(c, pages)
	if err != nil {
		return err
	}
	v := BookPageView{Title: p.Title(), Drawing: p.Drawing, Goes: exchange.GoesOn(p), Wires: []BookWire{}}
	for i := range p.Lengths {
		l := &p.Lengths[i]
		v.Wires = append(
			v.Wires,
			BookWire{Name: l.Name, Whole: l.Whole(), Text: l.Text(), Circuit: l.Circuit, Function: l.Function,
				From: l.Ends[0].At, To: l.Ends[1].At, Mm: l.Mm, Extended: l.Extended, Planned: l.Planned, In: []feed.LiveIn{}},
		)
		if r := j.Plan().Feed.Result; r != nil {
			v.Wires[i].In = r.LiveOf([]harness.WireID{l.Name})
		}
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// bookWhere says on which page a wire is drawn: a whole wire, or a length of one.
func (s *API) bookWhere(c *gin.Context) error {
	_, pages, err := s.withPages(c)
	if err != nil {
		return err
	}
	wire := harness.WireID(c.Query("wire"))
	for k := range pages {
		v := BookWhere{Page: exchange.NumberOf(k), Wires: []harness.WireID{}}
		for i := range pages[k].Lengths {
			if l := &pages[k].Lengths[i]; l.Name == wire || l.Whole() == wire {
				v.Wires = append(v.Wires, l.Name)
			}
		}
		if len(v.Wires) > 0 {
			c.JSON(http.StatusOK, v)
			return nil
		}
	}
	return desk.Refusal(http.StatusNotFound, "no-such-wire",
		"The finished harness has no such wire: it is not drawn in the book.", "")
}

// book gives the whole book of a job.
func (s *API) book(ctx context.Context, j *desk.Computed) (*exchange.Book, error) {
	pages, err := pagesOf(j)
	if err != nil {
		return nil, err
	}
	hash, err := j.Hash()
	if err != nil {
		return nil, err
	}
	lists, open := DueOf(j)
	s.making.Store(j.ID, Making{0, len(pages)})
	b := &exchange.Book{
		Title:    j.Job.Title,
		Donor:    j.Job.Donor,
		Chassis:  j.Job.Chassis,
		Revision: int(j.Revision),
		Hash:     hash,
		Printed: s.Now().
			UTC().
			Format(time.DateOnly),
		State:   bookState(pages, open),
		Tell:    func(done, of int) { s.making.Store(j.ID, Making{done, of}) },
		Sources: papers.Sources(&j.Job),
		Pages:   pages,
	}
	in := papers.Book(j.Plan(), &j.Facts)
	b.Faces = handover.Faces(in)
	b.Sections = append(handover.Sections(in, pages, exchange.NumberOf),
		papers.Appendix(j.Plan(), &j.Facts, j.Job.Chosen())...)
	b.Sections = append(b.Sections, papers.BookSections(j.Plan(), &j.Job, lists)...)
	history, err := s.history(ctx, j.ID)
	if err != nil {
		return nil, err
	}
	b.Sections = append(b.Sections, history)
	for _, x := range j.Job.Photos {
		photo, err := s.Store.Photo(ctx, j.ID, x.ID)
		if err != nil && !errors.Is(err, store.ErrNoPhoto) {
			return nil, err
		}
		b.Photos = append(b.Photos, exchange.BookPhoto{Connector: x.Connector, Note: x.Note, JPEG: photo.Thumb})
	}
	return b, nil
}

// mostHistory bounds the changes that a book lists, the last of them.
const mostHistory = 2000

// history lists what was changed by hand, the last first.
func (s *API) history(ctx context.Context, job string) (handover.Section, error) {
	out := handover.Section{Title: "Changed by hand", Head: []string{"when", "what", "about", "why", "who"},
		Share: []float64{13, 17, 28, 30, 12}, Empty: "Nothing has been changed since the job was made."}
	entries, err := s.Store.Journal(ctx, job, 0, mostHistory)
	if err != nil {
		return out, err
	}
	for i := range entries {
		e := &entries[i]
		what := desk.ChangeWord(e.What)
		if e.Undone != nil {
			what += ", taken back"
		}
		out.Rows = append(out.Rows, []string{time.UnixMilli(e.At).UTC().Format("2006-01-02 15:04 UTC"), what, desk.About(*e),
			e.Reason, e.Who})
	}
	return out, nil
}

// showMaking says how far a book of the job that is being made has come.
func (s *API) showMaking(c *gin.Context) error {
	v, _ := s.making.Load(c.Param("job"))
	made, _ := v.(Making)
	c.JSON(http.StatusOK, made)
	return nil
}

func (s *API) bookPDF(c *gin.Context, j *desk.Computed) error {
	b, err := s.book(c.Request.Context(), j)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := exchange.WriteBookPDF(&out, b); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" book.pdf", "application/pdf", out.Bytes())
	return nil
}

// wiresCSV gives the wire list of the finished harness.
func (s *API) wiresCSV(c *gin.Context) error {
	j, pages, err := s.withPages(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	all := handover.Sections(papers.Book(j.Plan(), &j.Facts), pages, exchange.NumberOf)
	if err := exchange.WriteSectionCSV(&out, &all[0]); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" wires.csv", "text/csv; charset=utf-8", out.Bytes())
	return nil
}

// leave says who owns something that stays open.
func (s *API) leave(c *gin.Context) error {
	r, err := desk.Read[LeftRequest](c)
	if err != nil {
		return err
	}
	if strings.TrimSpace(r.Owner) == "" {
		return s.Apply(
			c,
			desk.Change{ID: r.ID, What: "left-back", Seen: r.Seen, Bodies: desk.Dropping(handover.Left{Key: r.Key})},
		)
	}
	return s.Checked(c, func(j *desk.Computed) error {
		lists, _ := DueOf(j)
		for i := range lists {
			k := slices.IndexFunc(lists[i].Items, func(d handover.Due) bool { return d.Key == r.Key })
			if k < 0 {
				continue
			}
			x := handover.Left{Key: r.Key, Text: lists[i].Items[k].Text, Owner: strings.TrimSpace(r.Owner),
				Reason: strings.TrimSpace(r.Reason), Who: desk.Who(c), When: s.Now().UTC().UnixMilli()}
			if err := desk.Unsound(&x, "/owner"); err != nil {
				return err
			}
			return s.Apply(c, desk.Change{ID: r.ID, What: "left", Reason: x.Reason, Seen: r.Seen, Base: j.Revision,
				Bodies: desk.Keeping(x)})
		}
		return desk.Refusal(http.StatusNotFound, "no-such-thing", "That is not open any more.", "/key")
	})
}

// lend notes something temporary, borrowed or put off, or that it is gone.
func (s *API) lend(c *gin.Context) error {
	r, err := desk.Read[LoanRequest](c)
	if err != nil {
		return err
	}
	x := r.Loan
	if x.ID == "" {
		x.ID = r.ID
	}
	x.Text, x.Where, x.Who, x.When = strings.TrimSpace(
		x.Text,
	), strings.TrimSpace(
		x.Where,
	), desk.Who(
		c,
	), s.Now().
		UTC().
		UnixMilli()
	if err := desk.Unsound(&x, "/loan"); err != nil {
		return err
	}
	return s.Apply(
		c,
		desk.Change{
			ID:     r.ID,
			What:   "loan",
			Reason: x.Text,
			Seen:   r.Seen,
			Bodies: desk.Keeping(x),
		},
	)
}
