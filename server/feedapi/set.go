package feedapi

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
	"draxel/server/desk"
)

// decisionBodies gives the subjects by which the decisions of a job become others: those that differ, and those that
// are gone.
func (s *API) decisionBodies(c *gin.Context, j *desk.Computed, to []match.Decision, bodies map[string]any) {
	had := map[string]match.Decision{}
	for _, d := range j.Job.Decisions {
		had[stored.SubjectOf(d)] = d
	}
	for _, d := range to {
		name := stored.SubjectOf(d)
		was, known := had[name]
		delete(had, name)
		if known && sameDecision(was, d) {
			continue
		}
		d.Who, d.When = desk.Who(c), s.Now().UTC().UnixMilli()
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
func (s *API) proposeBlock(c *gin.Context) error {
	r, err := desk.Read[ProposeBlockRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		chosen := j.Job.Chosen()
		o := j.Plan().Fed.Propose(chosen, j.Found.Feed, r.One)
		if len(o.Decisions) == 0 {
			return desk.Refusal(http.StatusUnprocessableEntity, "nothing-to-feed",
				"No row of the tables wants a battery or an ignition feed: there is nothing that a block would feed.", "")
		}
		return s.takeFeeds(c, j, &o, r.ID, r.Seen, "block")
	})
}

// takeFeeds makes a way to feed the job the one that it has; what it was fed by is kept as another way.
func (s *API) takeFeeds(
	c *gin.Context,
	j *desk.Computed,
	o *stored.FeedOption,
	id string,
	seen int64,
	what string,
) error {
	chosen := j.Job.Chosen()
	taken := j.Plan().Fed.Take(chosen, o)
	bodies := desk.Dropping(feed.Block{})
	if o.Block != nil {
		bodies[stored.SubjectOf(feed.Block{})] = o.Block
	}
	s.decisionBodies(c, j, taken.Match, bodies)
	if o.ID != "" { // the one that is taken stands no more beside itself
		bodies[stored.SubjectOf(*o)] = nil
	}
	name := "the vehicle’s own fuses"
	if j.Job.Block != nil {
		name = "the block " + j.Job.Block.ID + " as it was"
	}
	before := j.Plan().Fed.Option(chosen, "before "+id, name).Before(chosen.Match, taken.Match)
	before.Who, before.When = desk.Who(c), s.Now().UTC().UnixMilli()
	if len(before.Decisions) > 0 {
		kept := len(j.Job.Feeds)
		if slices.ContainsFunc(j.Job.Feeds, func(x stored.FeedOption) bool { return x.ID == o.ID }) {
			kept--
		}
		if kept >= mostFeeds { // what it was fed by would be lost without a word
			return tooManyFeeds()
		}
		bodies[stored.SubjectOf(before)] = before
	}
	return s.Apply(c, desk.Change{ID: id, What: what, Seen: seen, Base: j.Revision, Bodies: bodies})
}

// mostFeeds is how many ways to feed a job are kept beside each other.
const mostFeeds = 12

func tooManyFeeds() error {
	return desk.Refusal(http.StatusUnprocessableEntity, "too-many", "A dozen ways are kept at most: take one away.", "")
}

// putBlock keeps the block as it was changed by hand; without one it is taken away, and what it fed is open again.
func (s *API) putBlock(c *gin.Context) error {
	r, err := desk.Read[BlockRequest](c)
	if err == nil && r.Block != nil {
		err = desk.Unsound(r.Block, "/block")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		bodies := desk.Dropping(feed.Block{})
		if r.Block != nil {
			bodies[stored.SubjectOf(feed.Block{})] = r.Block
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
					bodies[stored.SubjectOf(d)] = nil
				}
			}
		}
		if r.Block != nil && slices.ContainsFunc(j.Found.Laid.Loom.Connectors,
			func(h harness.Half) bool { return h.ID == r.Block.ID }) {
			return desk.Refusal(http.StatusUnprocessableEntity, "name-taken", "There is a connector "+r.Block.ID+" already.",
				"/block/id")
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "block", Seen: r.Seen, Base: j.Revision, Bodies: bodies})
	})
}

// leadCircuit puts a circuit onto a slot of the block, or onto another cavity or place that feeds it.
func (s *API) leadCircuit(c *gin.Context) error {
	r, err := desk.Read[CircuitRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		if r.From.Cavity != "" && !j.HasCavity(r.From) {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-cavity", "There is no cavity "+r.From.String()+".",
				"/from")
		}
		d, open, err := j.Plan().Fed.Lead(r.Side, r.At, r.From)
		if err != nil {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-such-circuit", desk.Sentence(err.Error()), "/at")
		}
		if name := strings.TrimSpace(r.Fuse); name != "" {
			d.Origin = &match.Origin{Kind: match.AtFuse, Name: name}
		} else if r.From.Cavity == "" {
			return desk.Refusal(http.StatusUnprocessableEntity, "no-origin", "Say what feeds it.", "/from")
		}
		d.Who, d.When = desk.Who(c), s.Now().UTC().UnixMilli()
		bodies := desk.Keeping(d)
		for _, o := range open {
			bodies[stored.SubjectOf(match.Decision{Side: o.Side, At: o.At})] = nil
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "circuit", Seen: r.Seen, Base: j.Revision, Bodies: bodies})
	})
}

// rateFuse says which fuse is to stand in a slot of the vehicle; with that which is there the change is taken back.
func (s *API) rateFuse(c *gin.Context) error {
	r, err := desk.Read[RatedRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		if j.Job.Block != nil && j.Job.Block.Holds(r.Fuse) {
			return desk.Refusal(http.StatusUnprocessableEntity, "own-slot",
				"Say it in the block: that fuse stands in a slot of it.",
				"/fuse")
		}
		is := -1.0
		if f := j.Found.Feed; f != nil {
			for _, x := range f.Inside.Slots {
				if x.Name == r.Fuse {
					is = x.Rating
				}
			}
		}
		if is < 0 {
			return desk.Refusal(http.StatusNotFound, "no-such-thing", "No list has a fuse "+r.Fuse+".", "/fuse")
		}
		var body any
		if r.Amps != 0 && r.Amps != is {
			x := feed.Rated{Fuse: r.Fuse, Amps: r.Amps, Reason: r.Reason, Who: desk.Who(c), When: s.Now().UTC().UnixMilli()}
			if err := desk.Unsound(&x, "/amps"); err != nil {
				return err
			}
			body = x
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "rated", Reason: r.Reason, Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(feed.Rated{Fuse: r.Fuse}): body}})
	})
}

// keepFeeds keeps the way in which the job is fed now, under a name; of a name that is kept without one it is taken
// away.
func (s *API) keepFeeds(c *gin.Context) error {
	r, err := desk.Read[FeedOptionRequest](c)
	if err == nil && (r.Option == "" || len(r.Option) > desk.LongestName || len(r.Name) > desk.LongestName) {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-name", "Give it a name.", "/name")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		var body any
		if name := strings.TrimSpace(r.Name); name != "" {
			if len(j.Job.Feeds) >= mostFeeds {
				return tooManyFeeds()
			}
			o := j.Plan().Fed.Option(j.Job.Chosen(), r.Option, name)
			o.Who, o.When = desk.Who(c), s.Now().UTC().UnixMilli()
			body = o
		}
		return s.Apply(c, desk.Change{ID: r.ID, What: "feeds", Seen: r.Seen, Base: j.Revision,
			Bodies: map[string]any{stored.SubjectOf(stored.FeedOption{ID: r.Option}): body}})
	})
}

// chooseFeeds takes a way to feed the job that was kept.
func (s *API) chooseFeeds(c *gin.Context) error {
	r, err := desk.Read[FeedOptionRequest](c)
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		i := slices.IndexFunc(j.Job.Feeds, func(o stored.FeedOption) bool { return o.ID == r.Option })
		if i < 0 {
			return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such way.", "/option")
		}
		return s.takeFeeds(c, j, &j.Job.Feeds[i], r.ID, r.Seen, "feeds-chosen")
	})
}

// compareFeeds works out the ways to feed a job beside each other, when they are first asked for.
func (s *API) compareFeeds(c *gin.Context, j *desk.Computed) error {
	ways := desk.Kept(j, "feeds", func() []plan.FeedCompared {
		return plan.CompareFeeds(j.Facts, j.Job.Chosen(), j.Plan(), j.Job.Feeds)
	})
	c.JSON(http.StatusOK, FeedCompareView{Revision: j.Revision, Ways: ways})
	return nil
}

// lidPDF prints the label inside the lid of the block.
func (s *API) lidPDF(c *gin.Context, j *desk.Computed) error {
	b, r := j.Job.Block, j.Plan().Feed.Result
	if b == nil || r == nil {
		return desk.Refusal(http.StatusNotFound, "no-such-thing", "The job has no fuse block of its own.", "")
	}
	rows := r.Lid(b, func(cavity string) string {
		var feeds []string
		for _, x := range j.Plan().Feed.Circuits {
			if x.Slot == cavity {
				feeds = append(feeds, x.Text)
			}
		}
		return strings.Join(feeds, ", ")
	})
	var out bytes.Buffer
	if err := exchange.WriteLidPDF(&out, j.Job.Title, b.ID, s.Now().UTC().Format(time.DateOnly), rows); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" "+b.ID+" lid.pdf", "application/pdf", out.Bytes())
	return nil
}
