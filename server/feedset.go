package server

import (
	"bytes"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/feed"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/exchange"
	"draxel/store"
)

// decisionBodies gives the subjects by which the decisions of a job become others: those that differ, and those that
// are gone.
func (s *Server) decisionBodies(c *gin.Context, j *computed, to []match.Decision, bodies map[string]any) {
	had := map[string]match.Decision{}
	for _, d := range j.Job.Decisions {
		had[store.SubjectDecision(d.Side, d.At)] = d
	}
	for _, d := range to {
		name := store.SubjectDecision(d.Side, d.At)
		was, known := had[name]
		delete(had, name)
		if known && sameDecision(was, d) {
			continue
		}
		d.Who, d.When = who(c), s.now().UTC().UnixMilli()
		bodies[name] = d
	}
	for name := range had {
		bodies[name] = nil
	}
}

func sameDecision(a, b match.Decision) bool {
	sameOrigin := a.Origin == nil && b.Origin == nil || a.Origin != nil && b.Origin != nil && *a.Origin == *b.Origin
	return a.Choice == b.Choice && a.To == b.To && a.Of == b.Of && a.Way == b.Way && a.Source == b.Source && sameOrigin &&
		a.Verify == b.Verify
}

// proposeBlock gives the job a fuse block of its own, as the trade would group it, and leads every circuit to it.
func (s *Server) proposeBlock(c *gin.Context) error {
	r, err := read[ProposeBlockRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		chosen := j.Job.Chosen()
		o := j.plan().Fed.Propose(chosen, j.found.Feed, r.One)
		if len(o.Decisions) == 0 {
			return problem(http.StatusUnprocessableEntity, "nothing-to-feed",
				"No row of the tables wants a battery or an ignition feed: there is nothing that a block would feed.", "")
		}
		return s.takeFeeds(c, j, &o, r.ID, r.Seen, "block")
	})
}

// takeFeeds makes a way to feed the job the one that it has; what it was fed by is kept as another way.
func (s *Server) takeFeeds(
	c *gin.Context,
	j *computed,
	o *stored.FeedOption,
	id string,
	seen int64,
	what string,
) error {
	chosen := j.Job.Chosen()
	taken := j.plan().Fed.Take(chosen, o)
	bodies := map[string]any{store.SubjectBlock: nil}
	if o.Block != nil {
		bodies[store.SubjectBlock] = o.Block
	}
	s.decisionBodies(c, j, taken.Match, bodies)
	if o.ID != "" { // the one that is taken stands no more beside itself
		bodies[store.SubjectFeed(o.ID)] = nil
	}
	name := "the vehicle’s own fuses"
	if j.Job.Block != nil {
		name = "the block " + j.Job.Block.ID + " as it was"
	}
	before := j.plan().Fed.Option(chosen, "before "+id, name).Before(chosen.Match, taken.Match)
	before.Who, before.When = who(c), s.now().UTC().UnixMilli()
	if len(before.Decisions) > 0 {
		kept := len(j.Job.Feeds)
		if slices.ContainsFunc(j.Job.Feeds, func(x stored.FeedOption) bool { return x.ID == o.ID }) {
			kept--
		}
		if kept >= mostFeeds { // what it was fed by would be lost without a word
			return tooManyFeeds()
		}
		bodies[store.SubjectFeed(before.ID)] = before
	}
	return s.apply(c, change{id: id, what: what, seen: seen, base: j.Revision, bodies: bodies})
}

// mostFeeds is how many ways to feed a job are kept beside each other.
const mostFeeds = 12

func tooManyFeeds() error {
	return problem(http.StatusUnprocessableEntity, "too-many", "A dozen ways are kept at most: take one away.", "")
}

// putBlock keeps the block as it was changed by hand; without one it is taken away, and what it fed is open again.
func (s *Server) putBlock(c *gin.Context) error {
	r, err := read[BlockRequest](c)
	if err == nil && r.Block != nil {
		err = unsound(r.Block, "/block")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		bodies := map[string]any{store.SubjectBlock: nil}
		if r.Block != nil {
			bodies[store.SubjectBlock] = r.Block
		}
		if had := j.Job.Block; had != nil {
			at := map[string]bool{}
			if r.Block != nil && r.Block.ID == had.ID {
				for _, cavity := range r.Block.Half().Cavities {
					at[cavity] = true
				}
			}
			for _, d := range j.Job.Decisions { // what began at a cavity that is no more begins nowhere
				if d.Origin != nil && d.Origin.At.Connector == had.ID && !at[d.Origin.At.Cavity] {
					bodies[store.SubjectDecision(d.Side, d.At)] = nil
				}
			}
		}
		if r.Block != nil && slices.ContainsFunc(j.found.Laid.Loom.Connectors,
			func(h harness.Half) bool { return h.ID == r.Block.ID }) {
			return problem(http.StatusUnprocessableEntity, "name-taken", "There is a connector "+r.Block.ID+" already.",
				"/block/id")
		}
		return s.apply(c, change{id: r.ID, what: "block", seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

// leadCircuit puts a circuit onto a slot of the block, or onto another cavity or place that feeds it.
func (s *Server) leadCircuit(c *gin.Context) error {
	r, err := read[CircuitRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		if r.From.Cavity != "" && !j.hasCavity(r.From) {
			return problem(http.StatusUnprocessableEntity, "no-such-cavity", "There is no cavity "+r.From.String()+".", "/from")
		}
		d, open, err := j.plan().Fed.Lead(r.Side, r.At, r.From)
		if err != nil {
			return problem(http.StatusUnprocessableEntity, "no-such-circuit", sentence(err.Error()), "/at")
		}
		if name := strings.TrimSpace(r.Fuse); name != "" {
			d.Origin = &match.Origin{Kind: match.AtFuse, Name: name}
		} else if r.From.Cavity == "" {
			return problem(http.StatusUnprocessableEntity, "no-origin", "Say what feeds it.", "/from")
		}
		d.Who, d.When = who(c), s.now().UTC().UnixMilli()
		bodies := map[string]any{store.SubjectDecision(d.Side, d.At): d}
		for _, o := range open {
			bodies[store.SubjectDecision(o.Side, o.At)] = nil
		}
		return s.apply(c, change{id: r.ID, what: "circuit", seen: r.Seen, base: j.Revision, bodies: bodies})
	})
}

// rateFuse says which fuse is to stand in a slot of the vehicle; with that which is there the change is taken back.
func (s *Server) rateFuse(c *gin.Context) error {
	r, err := read[RatedRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		if j.Job.Block != nil && j.Job.Block.Holds(r.Fuse) {
			return problem(http.StatusUnprocessableEntity, "own-slot", "Say it in the block: that fuse stands in a slot of it.",
				"/fuse")
		}
		is := -1.0
		if f := j.found.Feed; f != nil {
			for _, x := range f.Inside.Slots {
				if x.Name == r.Fuse {
					is = x.Rating
				}
			}
		}
		if is < 0 {
			return problem(http.StatusNotFound, "no-such-thing", "No list has a fuse "+r.Fuse+".", "/fuse")
		}
		var body any
		if r.Amps != 0 && r.Amps != is {
			x := feed.Rated{Fuse: r.Fuse, Amps: r.Amps, Reason: r.Reason, Who: who(c), When: s.now().UTC().UnixMilli()}
			if err := unsound(&x, "/amps"); err != nil {
				return err
			}
			body = x
		}
		return s.apply(c, change{id: r.ID, what: "rated", reason: r.Reason, seen: r.Seen, base: j.Revision,
			bodies: map[string]any{store.SubjectRated(r.Fuse): body}})
	})
}

// keepFeeds keeps the way in which the job is fed now, under a name; of a name that is kept without one it is taken
// away.
func (s *Server) keepFeeds(c *gin.Context) error {
	r, err := read[FeedOptionRequest](c)
	if err == nil && (r.Option == "" || len(r.Option) > longestName || len(r.Name) > longestName) {
		err = problem(http.StatusUnprocessableEntity, "no-name", "Give it a name.", "/name")
	}
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		var body any
		if name := strings.TrimSpace(r.Name); name != "" {
			if len(j.Job.Feeds) >= mostFeeds {
				return tooManyFeeds()
			}
			o := j.plan().Fed.Option(j.Job.Chosen(), r.Option, name)
			o.Who, o.When = who(c), s.now().UTC().UnixMilli()
			body = o
		}
		return s.apply(c, change{id: r.ID, what: "feeds", seen: r.Seen, base: j.Revision,
			bodies: map[string]any{store.SubjectFeed(r.Option): body}})
	})
}

// chooseFeeds takes a way to feed the job that was kept.
func (s *Server) chooseFeeds(c *gin.Context) error {
	r, err := read[FeedOptionRequest](c)
	if err != nil {
		return err
	}
	return s.checked(c, func(j *computed) error {
		i := slices.IndexFunc(j.Job.Feeds, func(o stored.FeedOption) bool { return o.ID == r.Option })
		if i < 0 {
			return problem(http.StatusNotFound, "no-such-thing", "There is no such way.", "/option")
		}
		return s.takeFeeds(c, j, &j.Job.Feeds[i], r.ID, r.Seen, "feeds-chosen")
	})
}

// compareFeeds works out the ways to feed a job beside each other, when they are first asked for.
func (s *Server) compareFeeds(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	ways := Kept(j, "feeds", func() []plan.FeedCompared {
		return plan.CompareFeeds(j.facts, j.Job.Chosen(), j.plan(), j.Job.Feeds)
	})
	c.JSON(http.StatusOK, FeedCompareView{Revision: j.Revision, Ways: ways})
	return nil
}

// lidPDF prints the label inside the lid of the block.
func (s *Server) lidPDF(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	b, r := j.Job.Block, j.plan().Feed.Result
	if b == nil || r == nil {
		return problem(http.StatusNotFound, "no-such-thing", "The job has no fuse block of its own.", "")
	}
	rows := r.Lid(b, func(cavity string) string {
		var feeds []string
		for _, x := range j.plan().Feed.Circuits {
			if x.Slot == cavity {
				feeds = append(feeds, x.Text)
			}
		}
		return strings.Join(feeds, ", ")
	})
	var out bytes.Buffer
	if err := exchange.WriteLidPDF(&out, j.Job.Title, b.ID, s.now().UTC().Format(time.DateOnly), rows); err != nil {
		return err
	}
	download(c, j.Job.Title+" "+b.ID+" lid.pdf", "application/pdf", out.Bytes())
	return nil
}
