package jobsapi

import (
	"context"
	"io"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/prove"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/server/desk"
	"draxel/store"
)

// openJobFile makes a job of a job file, which is read as it comes: no more than one of its pictures is in memory.
func (s *API) openJobFile(c *gin.Context) error {
	id := c.Query("id") // the client's, so that a retry makes no second job
	if id == "" || len(id) > 100 {
		id = s.NewID()
	}
	return s.made(c, store.NewJob{ID: s.NewID(), Request: id, Path: desk.Asked(c),
		Bring: func(n *store.NewJob, keep func(store.Picture) error) (err error) {
			n.Job, err = exchange.ReadJobFrom(c.Request.Body, func(id string, p exchange.Picture) error {
				return keep(store.Picture{ID: id, Picture: p.Data, Thumb: p.Thumb})
			})
			return err
		}})
}

// saveJobFile gives the job as one file, with its pictures or, where that is asked for, without them.
func (s *API) saveJobFile(c *gin.Context) error {
	state, err := s.Store.Load(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	write := s.JobFile(c.Request.Context(), state.ID, &state.Job)
	if c.Query("pictures") == "no" {
		write = func(w io.Writer) error { return exchange.WriteJob(w, state.Job, nil) }
	}
	return desk.Stream(c, state.Job.Title+".draxel.json", "application/json", write)
}

func listKinds(c *gin.Context) error {
	c.JSON(http.StatusOK, KindList{stored.Kinds(), stored.FirstQuestion()})
	return nil
}

func (s *API) listJobs(c *gin.Context) error {
	jobs, err := s.Store.Jobs(c.Request.Context())
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, s.listedJobs(jobs))
	return nil
}

func (s *API) listedJobs(jobs []store.Listed) JobList {
	out := JobList{Jobs: []JobLine{}, Demo: s.Demo.Jobs != nil}
	for _, j := range jobs {
		l := JobLine{ID: j.ID, Title: j.Head.Title, Kind: j.Head.Kind, Donor: j.Head.Donor, Chassis: j.Head.Chassis,
			Changed: j.Changed, Revision: j.Revision, Archived: j.Archived, Demo: slices.Contains(s.Demo.IDs, j.ID)}
		if j.Deleted > 0 {
			l.Until = j.Deleted + store.Bringable.Milliseconds()
		}
		out.Jobs = append(out.Jobs, l)
	}
	return out
}

// listDeleted lists the jobs that can be brought back.
func (s *API) listDeleted(c *gin.Context) error {
	jobs, err := s.Store.Deleted(c.Request.Context())
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, s.listedJobs(jobs))
	return nil
}

// restoreJob brings a deleted job back.
func (s *API) restoreJob(c *gin.Context) error {
	if err := s.Store.Restore(c.Request.Context(), c.Param("job")); err != nil {
		return err
	}
	c.JSON(http.StatusOK, desk.Done{Job: c.Param("job")})
	return nil
}

func checkJobRequest(r JobRequest) error {
	if r.ID == "" || len(r.ID) > 100 {
		return desk.Refusal(http.StatusBadRequest, "no-change-id", "The change has no id.", "/id")
	}
	if strings.TrimSpace(r.Title) == "" || len(r.Title) > 200 {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-title", "Give the job a title.", "/title")
	}
	if _, ok := r.Kind.Info(); !ok {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-kind", "Say what kind of job it is.", "/kind")
	}
	return nil
}

func (s *API) createJob(c *gin.Context) error {
	r, err := desk.Read[JobRequest](c)
	if err == nil {
		err = checkJobRequest(r)
	}
	if err != nil {
		return err
	}
	return s.create(c, r.ID, stored.Job{Title: strings.TrimSpace(r.Title), Kind: r.Kind, Donor: r.Donor,
		Chassis: r.Chassis, OneScheme: r.OneScheme})
}

func (s *API) create(c *gin.Context, requestID string, j stored.Job) error {
	return s.made(c, store.NewJob{ID: s.NewID(), Request: requestID, Path: desk.Asked(c), Job: j})
}

func (s *API) made(c *gin.Context, n store.NewJob) error {
	id, err := s.Store.Create(c.Request.Context(), desk.Who(c), n)
	if err != nil {
		return err
	}
	c.JSON(http.StatusCreated, desk.Done{Job: id, Revision: 1})
	return nil
}

func (s *API) showJob(c *gin.Context, j *desk.Computed) error {
	info, _ := j.Job.Kind.Info()
	v := JobView{JobLine: JobLine{ID: j.ID, Title: j.Job.Title, Kind: j.Job.Kind, Donor: j.Job.Donor,
		Chassis: j.Job.Chassis, OneScheme: j.Job.OneScheme, Changed: j.Changed, Revision: j.Revision,
		Archived: j.Job.Archived}, KindInfo: info,
		Sides: Sides{j.Facts.From.Name, j.Facts.To.Name}, Findings: []finding.Finding{},
		Severity: map[finding.Severity]int{}, Tables: map[match.Side]TableState{}}
	for _, side := range []match.Side{match.From, match.To} {
		r, ok := j.Found.Readings[side]
		if !ok {
			if side == match.From || slices.Contains(info.Stages, "match") {
				v.Open.Gather++
			}
			continue
		}
		v.Tables[side] = TableState{len(r.Rows), len(r.Rejected)}
	}
	v.further(j.Job)
	for i := range j.Job.Photos {
		v.Photos.Count++
		v.Photos.Bytes += j.Job.Photos[i].Bytes * 4 / 3 // as base64
	}
	if v.Begun = c.Query("begun") != ""; !v.Begun {
		v.stand(j.Plan(), len(j.Job.Gates))
		for i := range j.Job.Loans {
			if !j.Job.Loans[i].Gone {
				v.Open.Handover++
			}
		}
	}
	entry, err := s.Store.LastUndoable(c.Request.Context(), j.ID, desk.Who(c))
	if err != nil {
		return err
	}
	if entry != nil {
		v.Undo, v.UndoOf = entry.What, entry.Who
	}
	if v.Redo, err = s.Store.Redoable(c.Request.Context(), j.ID, desk.Who(c)); err != nil {
		return err
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// further fills in the further pinouts, and what parts can come from.
func (v *JobView) further(j stored.Job) {
	v.More, v.Origins = []Further{}, []string{}
	for _, key := range slices.Sorted(maps.Keys(j.More)) {
		v.More = append(v.More, Further{key, j.More[key].Name})
		v.Tables[match.Side(key)] = TableState{}
	}
	if j.Identity != nil {
		for _, o := range j.Identity.Sources {
			if o.Name != "" {
				v.Origins = append(v.Origins, o.Name)
			}
		}
	}
}

// stand fills in how the whole plan stands.
func (v *JobView) stand(p *plan.Plan, passed int) {
	if p.Feed.Result != nil { // else nothing can be said of what a meter must show
		v.Open.Prove = len(prove.Gates()) - passed
	}
	open := finding.Open(p.Findings)
	v.Findings, v.Severity = desk.OrEmpty(p.Findings), finding.Count(open)
	v.Answered = len(p.Findings) - len(open)
	t := p.Thin.Counts
	v.Open.Match, v.Open.Thin, v.Open.Pin, v.Open.Work = p.Totals.Open, t.Steps-t.Done, len(p.Steps), p.Proof.Steps
	for _, f := range open {
		if f.Stage == "feed" {
			v.Open.Feed++
		}
	}
	for i := range p.Join.Functions {
		if st := p.Join.Functions[i].State; st == join.Needs || st == join.Open {
			v.Open.Join++
		}
	}
	for i := range p.Reach.Result.Steps {
		if _, done := p.Done(p.Reach.Result.Steps[i].ID); !done {
			v.Open.Reach++
		}
	}
}

func (s *API) changeJob(c *gin.Context) error {
	r, err := desk.Read[JobRequest](c)
	if err == nil {
		err = checkJobRequest(r)
	}
	if err != nil {
		return err
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "describe", Seen: r.Seen,
		Bodies: map[string]any{stored.SubjectJob: stored.Head{Title: strings.TrimSpace(r.Title), Kind: r.Kind,
			Donor: r.Donor, Chassis: r.Chassis,
			OneScheme: r.OneScheme}}})
}

func (s *API) deleteJob(c *gin.Context) error {
	if err := s.Store.Delete(c.Request.Context(), c.Param("job")); err != nil {
		return err
	}
	c.JSON(http.StatusOK, desk.Done{Job: c.Param("job")})
	return nil
}

func (s *API) undo(c *gin.Context) error {
	r, err := readBack(c)
	if err != nil {
		return err
	}
	return s.back(c, r, s.Store.Undo)
}

func (s *API) redo(c *gin.Context) error {
	r, err := readBack(c)
	if err != nil {
		return err
	}
	return s.back(c, r, s.Store.Redo)
}

func readBack(c *gin.Context) (UndoRequest, error) {
	r, err := desk.Read[UndoRequest](c)
	if err == nil && r.ID == "" {
		err = desk.Refusal(http.StatusBadRequest, "no-change-id", "The change has no id.", "/id")
	}
	return r, err
}

// back takes a change back, or does again what was taken back, and says which it was.
func (s *API) back(c *gin.Context, r UndoRequest,
	do func(ctx context.Context, job string, b store.Back) (store.TakenBack, error)) error {
	job := c.Param("job")
	done, err := do(c.Request.Context(), job, store.Back{ID: r.ID, Who: desk.Who(c), Hand: desk.Hand(c), Of: r.Of})
	if err != nil {
		return err
	}
	s.Events.Tell(job, done.Revision)
	reply := desk.Done{Job: job, Revision: done.Revision, What: done.Entry.What, About: desk.About(done.Entry),
		Count: len(done.Entry.Changes)}
	for i := range done.Skipped {
		reply.Skipped = append(reply.Skipped, strings.TrimSpace(desk.ChangeWord(done.Skipped[i].What)+" "+
			desk.About(done.Skipped[i])))
	}
	c.JSON(http.StatusOK, reply)
	return nil
}

// journalPage is how many changes are shown at once.
const journalPage = 200

func (s *API) showJournal(c *gin.Context) error {
	before, _ := strconv.ParseInt(c.Query("before"), 10, 64)
	entries, err := s.Store.Journal(c.Request.Context(), c.Param("job"), before, journalPage+1)
	if err != nil {
		return err
	}
	out := JournalView{Entries: []JournalLine{}, More: len(entries) > journalPage}
	entries = entries[:min(len(entries), journalPage)]
	for i := range entries {
		out.Entries = append(out.Entries, journalLine(&entries[i]))
	}
	c.JSON(http.StatusOK, out)
	return nil
}

// journalLine gives a change as it is shown.
func journalLine(e *store.Entry) JournalLine {
	return JournalLine{Seq: e.Seq, Revision: e.Revision, Who: e.Who, At: e.At, What: e.What, Reason: e.Reason,
		About: desk.About(*e), Subjects: len(e.Changes), Undone: e.Undone != nil, Back: e.Undoable()}
}
