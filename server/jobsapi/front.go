package jobsapi

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/plan"
	"draxel/core/work"
	"draxel/server/desk"
	"draxel/server/handoverapi"
)

// FrontView is where a job stands and what is next: the page on which it opens.
type FrontView struct {
	Revision  int64                  `json:"revision"`
	Stages    []FrontStage           `json:"stages"`
	Next      *FrontNext             `json:"next,omitempty"` // not there when nothing is left to be done
	Danger    []finding.Finding      `json:"danger"`         // what can hurt, the first of each kind
	Alike     map[string]int         `json:"alike"`          // by kind: how many more there are
	Dangers   int                    `json:"dangers"`
	Wrong     int                    `json:"wrong"`
	Hours     float64                `json:"hours"`           // of the work that is left, at what was learned
	Ready     string                 `json:"ready,omitempty"` // ISO date on which it is done, where somebody said how long is worked
	Late      []handoverapi.LatePart `json:"late"`            // parts that are not there when they are wanted
	Steps     int                    `json:"steps"`           // that are left
	Done      int                    `json:"done"`
	Open      int                    `json:"open"` // of what must end at zero before the job is handed over
	Last      []JournalLine          `json:"last"`
	Delivered string                 `json:"delivered,omitempty"` // the last state that was handed over
	Proven    bool                   `json:"proven"`
	Line      string                 `json:"line"` // how the proof stands
}

// FrontStage is how a stage stands.
type FrontStage struct {
	Stage string `json:"stage"`
	Done  int    `json:"done"`
	Open  int    `json:"open"`
	What  string `json:"what"` // what is counted
	Held  string `json:"held,omitempty"`
}

// FrontNext is what is to be done next, and what it waits for.
type FrontNext struct {
	Text  string   `json:"text"`
	Stage string   `json:"stage"`
	At    string   `json:"at"` // the screen on which it is done
	Why   string   `json:"why,omitempty"`
	Waits []string `json:"waits"`
	Warn  []string `json:"warn"`
}

// Bounds of what the front page shows.
const (
	mostDanger = 4
	mostLast   = 6
)

func (s *API) showFront(c *gin.Context, j *desk.Computed) error {
	v, err := s.front(c.Request.Context(), j)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// front works out where a job stands.
func (s *API) front(ctx context.Context, j *desk.Computed) (FrontView, error) {
	p := j.Plan()
	v := FrontView{
		Revision: j.Revision,
		Danger:   []finding.Finding{},
		Last:     []JournalLine{},
		Proven:   p.Proof.Reached && p.Proof.Fault == "",
		Line:     p.Proof.Line(),
	}
	done := map[work.Stage]int{}
	for _, t := range p.Past.Done {
		done[t.Of()]++
		v.Done++
	}
	left := map[work.Stage]int{}
	for i := range p.Work.Steps {
		x := &p.Work.Steps[i]
		if _, is := p.Done(x.ID); is {
			continue
		}
		left[x.Stage]++
		v.Steps++
		if v.Next == nil {
			v.Next = next(p, x)
		}
	}
	m := handoverapi.MoneyOf(j, s.Now())
	v.Hours, v.Late = m.Hours.Left/60, handoverapi.LateParts(m, s.Now())
	if m.Timing.Known {
		v.Ready = handoverapi.Day(s.Now().UTC(), m.Timing.Day)
	}
	var head JobView
	head.stand(p, len(j.Job.Gates))
	_, v.Open = handoverapi.DueOf(j)
	if v.Next == nil {
		v.Next = behind(p, &head.Open, v.Open, len(j.Job.Delivered) > 0)
	}
	v.Dangers, v.Wrong = head.Severity[finding.Danger], head.Severity[finding.Wrong]
	v.Danger, v.Alike = foremost(finding.Open(p.Findings))
	held := func(stage work.Stage) string {
		n := 0
		for i := range p.Work.Steps {
			if x := &p.Work.Steps[i]; x.Stage == stage && p.Work.Held[x.ID] != "" {
				n++
			}
		}
		if n == 0 {
			return ""
		}
		return fmt.Sprintf("%d cannot be done as the harness is now", n)
	}
	v.Stages = []FrontStage{
		{"match", p.Totals.From - p.Totals.Open, p.Totals.Open, "wires decided", ""},
		{"thin", done[work.Thin], left[work.Thin], "steps", held(work.Thin)},
		{"pin", done[work.Pin], left[work.Pin], "steps", held(work.Pin)},
		{"reach", done[work.Reach], left[work.Reach], "steps", held(work.Reach)},
		{"feed", 0, head.Open.Feed, "findings of power, fuses and grounds", ""},
		{"join", len(p.Join.Functions) - head.Open.Join, head.Open.Join, "functions that work on paper", ""},
		{"prove", len(j.Job.Gates), head.Open.Prove, "gates passed", ""},
		{"handover", len(j.Job.Delivered), v.Open, "open before it is handed over", ""},
	}
	if n := len(j.Job.Delivered); n > 0 {
		v.Delivered = j.Job.Delivered[n-1].Name
	}
	entries, err := s.Store.Journal(ctx, j.ID, 0, mostLast)
	if err != nil {
		return v, err
	}
	for i := range entries {
		v.Last = append(v.Last, journalLine(&entries[i]))
	}
	return v, nil
}

// next says what a step is, and what it waits for: decisions, what a gate lacks, what holds it.
func next(p *plan.Plan, x *work.Step) *FrontNext {
	n := &FrontNext{
		Text:  x.Text,
		Stage: string(x.Stage),
		At:    "work",
		Why:   x.Why,
		Waits: []string{},
		Warn:  desk.OrEmpty(x.Warn),
	}
	n.Waits = append(n.Waits, x.Missing...)
	if why := p.Work.Held[x.ID]; why != "" {
		n.Waits = append(n.Waits, why)
	}
	for _, id := range x.Needs {
		for i := range p.Work.Steps {
			if need := &p.Work.Steps[i]; need.ID == id {
				if _, done := p.Done(id); !done {
					n.Waits = append(n.Waits, strings.TrimRight(need.Text, "."))
				}
			}
		}
	}
	return n
}

// behind says what is next where no step of the work is left: decisions before anything else, then functions, proof,
// and the hand-over; nil where all of it is done.
func behind(p *plan.Plan, open *OpenCounts, due int, delivered bool) *FrontNext {
	say := func(stage, at, text, why string) *FrontNext {
		return &FrontNext{Text: text, Stage: stage, At: at, Why: why, Waits: []string{}, Warn: []string{}}
	}
	switch {
	case p.Totals.From == 0 && len(p.Wanted.Wires()) == 0:
		return say(
			"gather",
			"gather",
			"Bring what there is: two pinouts, or the lists of a harness.",
			"There is no wire yet.",
		)
	case open.Match > 0:
		return say(
			"match",
			"match",
			fmt.Sprintf("Decide %d wires.", open.Match),
			"What is not decided stays where it is, and has no step.",
		)
	case open.Join > 0:
		return say(
			"join",
			"join",
			fmt.Sprintf("See to %d functions that need something, or are open.", open.Join),
			"",
		)
	case open.Prove > 0:
		return say(
			"prove",
			"prove?part=power",
			fmt.Sprintf("Prove it: %d gates of powering up are not passed.", open.Prove),
			"",
		)
	case due > 0:
		return say("handover", "handover", fmt.Sprintf("%d things are open and nobody owns them.", due), "")
	case !delivered:
		return say("handover", "handover?part=give", "Hand it over.", "Nothing is open.")
	}
	return nil
}

// foremost gives of what can hurt the first of each kind, at most a few, and how many more there are like it: eight
// thin wires do not hide that the starter may crank.
func foremost(open []finding.Finding) (first []finding.Finding, alike map[string]int) {
	first, alike = []finding.Finding{}, map[string]int{}
	for _, f := range open {
		if f.Severity != finding.Danger {
			continue
		}
		_, known := alike[f.Code]
		switch {
		case known:
			alike[f.Code]++
		case len(first) < mostDanger:
			first, alike[f.Code] = append(first, f), 0
		}
	}
	return first, alike
}
