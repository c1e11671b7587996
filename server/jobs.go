package server

import (
	"encoding/json"
	"net/http"
	"net/url"
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
	"draxel/store"
)

// Bounds of what is brought: a table or a list with its form, and a job file.
const (
	maxUpload  = exchange.MaxBytes + 1<<20
	maxJobFile = exchange.MaxFileBytes
)

func listKinds(c *gin.Context) error {
	c.JSON(http.StatusOK, KindList{stored.Kinds()})
	return nil
}

// who gives the name of who is working, as the page sends it; it is a name for the journal and nothing more.
func who(c *gin.Context) string {
	name, err := url.QueryUnescape(c.GetHeader("Draxel-Who"))
	if err != nil || strings.TrimSpace(name) == "" {
		return "somebody"
	}
	if r := []rune(name); len(r) > 60 {
		name = string(r[:60])
	}
	return strings.TrimSpace(name)
}

func (s *Server) listJobs(c *gin.Context) error {
	jobs, err := s.store.Jobs(c.Request.Context())
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, listedJobs(jobs))
	return nil
}

func listedJobs(jobs []store.Listed) JobList {
	out := JobList{Jobs: []JobLine{}}
	for _, j := range jobs {
		l := JobLine{ID: j.ID, Title: j.Head.Title, Kind: j.Head.Kind, Donor: j.Head.Donor, Chassis: j.Head.Chassis,
			Changed: j.Changed, Revision: j.Revision, Archived: j.Archived}
		if j.Deleted > 0 {
			l.Until = j.Deleted + store.Bringable.Milliseconds()
		}
		out.Jobs = append(out.Jobs, l)
	}
	return out
}

// listDeleted lists the jobs that can be brought back.
func (s *Server) listDeleted(c *gin.Context) error {
	jobs, err := s.store.Deleted(c.Request.Context())
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, listedJobs(jobs))
	return nil
}

// restoreJob brings a deleted job back.
func (s *Server) restoreJob(c *gin.Context) error {
	if err := s.store.Restore(c.Request.Context(), c.Param("job")); err != nil {
		return err
	}
	c.JSON(http.StatusOK, Done{Job: c.Param("job")})
	return nil
}

func checkJobRequest(r JobRequest) error {
	if r.ID == "" || len(r.ID) > 100 {
		return problem(http.StatusBadRequest, "no-change-id", "The change has no id.", "/id")
	}
	if strings.TrimSpace(r.Title) == "" || len(r.Title) > 200 {
		return problem(http.StatusUnprocessableEntity, "no-title", "Give the job a title.", "/title")
	}
	if _, ok := r.Kind.Info(); !ok {
		return problem(http.StatusUnprocessableEntity, "no-kind", "Say what kind of job it is.", "/kind")
	}
	return nil
}

func (s *Server) createJob(c *gin.Context) error {
	r, err := read[JobRequest](c)
	if err == nil {
		err = checkJobRequest(r)
	}
	if err != nil {
		return err
	}
	return s.create(c, r.ID, stored.Job{Title: strings.TrimSpace(r.Title), Kind: r.Kind, Donor: r.Donor,
		Chassis: r.Chassis, OneScheme: r.OneScheme})
}

func (s *Server) create(c *gin.Context, requestID string, j stored.Job) error {
	return s.made(c, store.NewJob{ID: s.newID(), Request: requestID, Path: asked(c), Job: j})
}

func (s *Server) made(c *gin.Context, n store.NewJob) error {
	id, err := s.store.Create(c.Request.Context(), who(c), n)
	if err != nil {
		return err
	}
	c.JSON(http.StatusCreated, Done{Job: id, Revision: 1})
	return nil
}

func (s *Server) showJob(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	info, _ := j.Job.Kind.Info()
	v := JobView{JobLine: JobLine{ID: j.ID, Title: j.Job.Title, Kind: j.Job.Kind, Donor: j.Job.Donor,
		Chassis: j.Job.Chassis, OneScheme: j.Job.OneScheme, Changed: j.Changed, Revision: j.Revision, Archived: j.Job.Archived}, KindInfo: info,
		Sides: Sides{j.facts.From.Name, j.facts.To.Name}, Findings: []finding.Finding{},
		Severity: map[finding.Severity]int{}, Tables: map[match.Side]TableState{}}
	for _, side := range []match.Side{match.From, match.To} {
		r, ok := j.found.Readings[side]
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
		v.stand(j.plan(), len(j.Job.Gates))
		for i := range j.Job.Loans {
			if !j.Job.Loans[i].Gone {
				v.Open.Handover++
			}
		}
	}
	entry, err := s.store.LastUndoable(c.Request.Context(), j.ID, who(c))
	if err != nil {
		return err
	}
	if entry != nil {
		v.Undo, v.UndoOf = entry.What, entry.Who
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// further fills in the further pinouts, and what parts can come from.
func (v *JobView) further(j stored.Job) {
	v.More, v.Origins = []Further{}, []string{}
	for _, key := range sortedKeys(j.More) {
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
	v.Findings, v.Severity = orEmpty(p.Findings), finding.Count(open)
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

func (s *Server) changeJob(c *gin.Context) error {
	r, err := read[JobRequest](c)
	if err == nil {
		err = checkJobRequest(r)
	}
	if err != nil {
		return err
	}
	return s.apply(c, change{id: r.ID, what: "describe", seen: r.Seen,
		bodies: map[string]any{store.SubjectJob: store.Head{Title: strings.TrimSpace(r.Title), Kind: r.Kind,
			Donor: r.Donor, Chassis: r.Chassis,
			OneScheme: r.OneScheme}}})
}

func (s *Server) deleteJob(c *gin.Context) error {
	if err := s.store.Delete(c.Request.Context(), c.Param("job")); err != nil {
		return err
	}
	c.JSON(http.StatusOK, Done{Job: c.Param("job")})
	return nil
}

// change is what a person asks to be written.
type change struct {
	id, what, reason string
	seen             int64          // the revision that the person saw: what was changed since is not overwritten
	base             int64          // the revision that it was checked against, 0 where nothing else matters
	bodies           map[string]any // subjects; nil removes one
	pictures         []store.Picture
}

// apply writes a change and answers with the job's new revision.
func (s *Server) apply(c *gin.Context, ch change) error {
	done, err := s.write(c, ch)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, done)
	return nil
}

// write writes a change.
func (s *Server) write(c *gin.Context, ch change) (Done, error) {
	ctx, job := c.Request.Context(), c.Param("job")
	if ch.id == "" || len(ch.id) > 100 {
		return Done{}, problem(http.StatusBadRequest, "no-change-id", "The change has no id.", "/id")
	}
	versions, err := s.fresh(c, ch.id, ch.seen, sortedKeys(ch.bodies)...)
	if err != nil {
		return Done{}, err
	}
	r := store.Request{ID: ch.id, Path: asked(c), Who: who(c), What: ch.what, Reason: ch.reason, Base: ch.base,
		Pictures: ch.pictures}
	for _, subject := range sortedKeys(ch.bodies) {
		p := store.Put{Subject: subject, Expect: versions[subject]}
		if body := ch.bodies[subject]; body != nil {
			if err := stored.Sound(body); err != nil {
				return Done{}, problem(http.StatusUnprocessableEntity, "bad-value", sentence(err.Error()), "")
			}
			if p.Body, err = json.Marshal(body); err != nil {
				return Done{}, err
			}
		}
		r.Puts = append(r.Puts, p)
	}
	revision, err := s.store.Apply(ctx, job, r)
	if err != nil {
		return Done{}, err
	}
	s.events.tell(job, revision)
	return Done{Job: job, Revision: revision, Count: len(r.Puts)}, nil
}

// fresh gives the versions of a job's subjects. It fails where one that a change is about has been changed since it
// was
// seen; a retry of a change that came through is not stale.
func (s *Server) fresh(c *gin.Context, id string, seen int64, subjects ...string) (map[string]int64, error) {
	versions, err := s.store.Versions(c.Request.Context(), c.Param("job"))
	if err != nil {
		return nil, err
	}
	known, err := s.store.Known(c.Request.Context(), c.Param("job"), id, asked(c))
	if err != nil {
		return nil, err
	}
	for _, subject := range subjects {
		if versions[subject] > seen && known == 0 {
			return nil, &store.StaleError{Subject: subject}
		}
	}
	return versions, nil
}

func (s *Server) undo(c *gin.Context) error {
	r, err := read[UndoRequest](c)
	if err == nil && r.ID == "" {
		err = problem(http.StatusBadRequest, "no-change-id", "The change has no id.", "/id")
	}
	if err != nil {
		return err
	}
	entry, revision, err := s.store.Undo(c.Request.Context(), c.Param("job"), r.ID, who(c), r.Of)
	if err != nil {
		return err
	}
	s.events.tell(c.Param("job"), revision)
	c.JSON(http.StatusOK, Done{Job: c.Param("job"), Revision: revision, What: entry.What, About: about(entry),
		Count: len(entry.Changes)})
	return nil
}

// journalPage is how many changes are shown at once.
const journalPage = 200

func (s *Server) showJournal(c *gin.Context) error {
	before, _ := strconv.ParseInt(c.Query("before"), 10, 64)
	entries, err := s.store.Journal(c.Request.Context(), c.Param("job"), before, journalPage+1)
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
	return JournalLine{e.Seq, e.Revision, e.Who, e.At, e.What, e.Reason, about(*e), len(e.Changes), e.Undone != nil}
}

// about gives what a change of one subject was about.
func about(e store.Entry) string {
	if len(e.Changes) != 1 {
		return ""
	}
	return store.Subject(e.Changes[0].Subject)
}
