package thinapi

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"net/http"
	"reflect"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/fact"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/part"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/wanted"
	"draxel/server/desk"
)

// wiresKeyOf names the wires as they were found: a page that has them is not sent them again.
func wiresKeyOf(j *desk.Computed) string {
	return *part.Of(j.Memory, "wires key", wireReads{Found: j.Found.Bare}, func(r wireReads) *string {
		h := sha256.New()
		_ = json.NewEncoder(h).Encode(r.Found.Laid.Loom.Wires)
		key := hex.EncodeToString(h.Sum(nil))[:12]
		return &key
	})
}

type wireReads struct{ Found *fact.Facts }

func (s *API) showThin(c *gin.Context, j *desk.Computed) error {
	t := j.Begun().Thin
	v := ThinView{Revision: j.Revision, Facts: wiresKeyOf(j), Wires: j.Facts.Laid.Loom.Wires,
		Verdicts: verdicts(t.Result),
		Systems:  t.Result.Systems, Joints: t.Result.Joints, Brought: []thin.Decision{}, Drawing: j.Drawing(),
		ThinRest: ThinRest{Proposed: []wanted.Proposal{}, Findings: []finding.Finding{}}}
	if v.Begun = c.Query("begun") != ""; !v.Begun {
		v.ThinRest = thinRestOf(j)
	}
	for _, d := range j.Job.Thin {
		if d.Verify != "" {
			v.Brought = append(v.Brought, d)
		}
	}
	if v.Kept = c.Query("facts") == v.Facts; v.Kept || v.Wires == nil {
		v.Wires = []harness.Wire{}
	}
	if v.Systems == nil {
		v.Systems = []thin.SystemLine{}
	}
	if v.Joints == nil {
		v.Joints = []thin.JointVerdict{}
	}
	c.JSON(http.StatusOK, v)
	return nil
}

func thinRestOf(j *desk.Computed) ThinRest {
	t := &j.Plan().Thin
	return ThinRest{Counts: t.Counts, Proof: j.Plan().Proof, Proposed: desk.OrEmpty(t.Proposed),
		Findings: desk.StageFindings(j.Plan().Findings, "thin")}
}

// showThinRest gives what of Thin follows from the whole plan.
func (s *API) showThinRest(c *gin.Context, j *desk.Computed) error {
	c.JSON(http.StatusOK, thinRestOf(j))
	return nil
}

func verdicts(r *thin.Result) []WireVerdict {
	out := make([]WireVerdict, len(r.Wires))
	for i, v := range r.Wires {
		out[i] = WireVerdict{Choice: v.Choice, Exception: v.Exception, Contested: v.Contested, Circuit: v.Circuit,
			System: v.System}
		if v.By != nil {
			out[i].By, out[i].Reason = string(v.By.On)+" "+v.By.ID, v.By.Reason
		}
	}
	return out
}

// decideThin decides, and answers with what that changed. A connector or module that carries what is kept or undecided
// asks for a reason and lists it; another's half of a plug, restraint and high voltage are refused.
func (s *API) decideThin(c *gin.Context) error {
	r, err := desk.Read[ThinRequest](c)
	if err == nil && len(r.Decisions) == 0 {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-action", "Nothing is decided.", "/decisions")
	}
	if err != nil {
		return err
	}
	return s.Checked(c, func(j *desk.Computed) error {
		bodies := map[string]any{}
		for i, d := range r.Decisions {
			x := thin.Decision{On: d.On, ID: d.ID, Choice: d.Choice, Reason: strings.TrimSpace(d.Reason), Who: desk.Who(c),
				When: s.Now().UTC().UnixMilli()}
			pointer := fmt.Sprintf("/decisions/%d", i)
			subject := stored.SubjectOf(x)
			if err := s.Fresh(c, r.ID, r.Seen, subject); err != nil { // before a reason is asked for what is decided
				return err
			}
			if d.Choice != thin.Undecided {
				if err := checkThin(j, x, pointer); err != nil {
					return err
				}
				bodies[subject] = x
			} else {
				bodies[subject] = nil
			}
		}
		what := "thin-" + string(r.Decisions[0].Choice)
		if r.Decisions[0].Choice == thin.Undecided {
			what = "thin-reopen"
		}
		done, err := s.Write(c, desk.Change{ID: r.ID, What: what, Reason: r.Decisions[0].Reason, Seen: r.Seen,
			Base:   j.Revision,
			Bodies: bodies})
		if err != nil {
			return err
		}
		after, err := s.Compute(c.Request.Context(), j.ID)
		if err != nil {
			return err
		}
		c.JSON(http.StatusOK, changed(j, after, done))
		return nil
	})
}

func checkThin(j *desk.Computed, d thin.Decision, pointer string) error {
	if d.Choice != thin.Keep && d.Choice != thin.Goes {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-action", "A thing is kept, or it goes.", pointer)
	}
	r := j.Begun().Thin.Result
	if why := r.Refuses(d); why != "" {
		return desk.Refusal(http.StatusUnprocessableEntity, "not-to-be-decided",
			desk.Sentence(fmt.Sprintf("%s %s: %s", d.On, d.ID,
				why)), pointer)
	}
	if d.Choice != thin.Goes || d.Reason != "" {
		return nil
	}
	cut, err := r.Cut(d.On, d.ID)
	if err != nil || len(cut.Dies) == 0 && len(cut.Legal) == 0 {
		return nil
	}
	kept := slices.ContainsFunc(cut.Dies, func(l thin.Loss) bool { return l.Kept || l.Feed && d.On == thin.Wire })
	// Of a wire or a system the reason is asked where it costs what is kept, of a wire where it is the last feed of
	// others.
	if d.On != thin.Connector && d.On != thin.Module && !kept {
		return nil
	}
	names := make([]string, 0, len(cut.Dies))
	for _, l := range cut.Dies {
		names = append(names, strings.TrimSpace(l.At+" "+l.Function))
	}
	return desk.Refusal(http.StatusUnprocessableEntity, "reason-wanted",
		fmt.Sprintf("%s carries %d wires that are not decided away; these lose what feeds or reads them: %s. "+
			"Say why it goes.", d.ID, cut.Carries, strings.Join(names[:min(len(names), 8)], "; ")), pointer)
}

// changed lists what is different between two states of a job in Thin.
func changed(before, after *desk.Computed, done desk.Done) ThinChange {
	v := ThinChange{Done: done, Verdicts: map[int]WireVerdict{}, Systems: []thin.SystemLine{},
		Joints: []thin.JointVerdict{}}
	was, is := verdicts(before.Begun().Thin.Result), verdicts(after.Begun().Thin.Result)
	for i := range is {
		if i >= len(was) || was[i] != is[i] {
			v.Verdicts[i] = is[i]
		}
	}
	old := map[string]thin.SystemLine{}
	for _, l := range before.Begun().Thin.Result.Systems {
		old[l.System] = l
	}
	for _, l := range after.Begun().Thin.Result.Systems {
		if !reflect.DeepEqual(old[l.System], l) {
			v.Systems = append(v.Systems, l)
		}
	}
	v.Limbs, v.Spots = redrawn(before.Drawing(), after.Drawing())
	type known struct {
		kind thin.JointKind
		id   harness.JointID
	}
	fates := map[known]thin.Fate{}
	for _, x := range before.Begun().Thin.Result.Joints {
		fates[known{x.Kind, x.ID}] = x.Fate
	}
	for _, x := range after.Begun().Thin.Result.Joints {
		if fates[known{x.Kind, x.ID}] != x.Fate {
			v.Joints = append(v.Joints, x)
		}
	}
	return v
}

// redrawn lists what of a drawing looks different: the layout itself follows from the facts and does not change.
func redrawn(was, is thin.Drawing) ([]thin.Limb, []thin.Spot) {
	limbs, spots := []thin.Limb{}, []thin.Spot{}
	for i, b := range is.Branches {
		if i >= len(was.Branches) || was.Branches[i] != b {
			limbs = append(limbs, b)
		}
	}
	for i, x := range is.Spots {
		if i >= len(was.Spots) || was.Spots[i] != x {
			spots = append(spots, x)
		}
	}
	return limbs, spots
}

func (s *API) showCut(c *gin.Context, j *desk.Computed) error {
	cut, err := j.Begun().Thin.Result.Cut(thin.Scope(c.Query("on")), c.Query("id"))
	if err != nil {
		return desk.Refusal(http.StatusNotFound, "no-such-thing", desk.Sentence(err.Error()), "")
	}
	c.JSON(http.StatusOK, CutView{cut})
	return nil
}

func (s *API) showCircuit(c *gin.Context, j *desk.Computed) error {
	r := j.Begun().Thin.Result
	wire := harness.WireID(c.Query("wire"))
	i := slices.IndexFunc(j.Facts.Laid.Loom.Wires, func(w harness.Wire) bool { return w.ID == wire })
	if i < 0 {
		return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such wire.", "")
	}
	asked := func(w int) bool { return r.Wires[w].Circuit == r.Wires[i].Circuit }
	v := CircuitView{Circuit: r.Wires[i].Circuit, Limbs: r.Routes(j.Drawing(), asked), Wires: []harness.WireID{},
		Beliefs: []gather.Belief{}}
	for k, x := range r.Wires {
		if x.Circuit == v.Circuit {
			v.Wires = append(v.Wires, j.Facts.Laid.Loom.Wires[k].ID)
		}
	}
	for _, b := range j.Facts.Laid.Beliefs {
		if slices.Contains(v.Wires, b.Wire) {
			v.Beliefs = append(v.Beliefs, b)
		}
	}
	c.JSON(http.StatusOK, v)
	return nil
}

func (s *API) putBench(c *gin.Context) error {
	r, err := desk.Read[BenchRequest](c)
	if err != nil {
		return err
	}
	b := r.Bench
	if b.School != thin.Extract && b.School != thin.CutSeal {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-school", "Dead ends are extracted, or cut and sealed.",
			"/bench/school")
	}
	for name, v := range map[string]float64{"stub": b.Stub, "usable": b.Usable, "worked": b.Worked, "seal": b.Rates.Seal,
		"join": b.Rates.Join, "out": b.Rates.Out,
		"check": b.Rates.Check, "splice": b.Rates.Splice, "extract": b.Rates.Extract, "takeOff": b.Rates.TakeOff} {
		if v < 0 || v > 1e5 {
			return desk.Refusal(http.StatusUnprocessableEntity, "bad-number", "That is not a length or a time: "+name+".",
				"/bench/"+name)
		}
	}
	if b.Hand != nil && (*b.Hand < 0 || *b.Hand > 9) {
		return desk.Refusal(http.StatusUnprocessableEntity, "bad-number", "In hand may be none to 9.", "/bench/hand")
	}
	return s.Apply(c, desk.Change{ID: r.ID, What: "bench", Seen: r.Seen, Bodies: desk.Keeping(b)})
}
