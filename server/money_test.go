package server_test

import (
	"encoding/csv"
	"slices"
	"strings"
	"testing"

	"draxel/core/finding"
	"draxel/core/handover"
	"draxel/core/stored"
	"draxel/demo"
	"draxel/server/desk"
	"draxel/server/handoverapi"
	"draxel/server/jobsapi"
	"draxel/server/matchapi"
	"draxel/server/workapi"
)

func handedOver(t *testing.T) func(*stored.Job) {
	return func(j *stored.Job) {
		if err := demo.HandOver(j); err != nil {
			t.Fatal(err)
		}
	}
}

// What is noted changes what is left, what is said of a part changes what it costs and when all is done, and each can
// be taken back.
func TestTimePartsAndMoney(t *testing.T) {
	c := start(t)
	job := c.packhorse(handedOver(t))
	v := show[handoverapi.MoneyView](c, job+"/handover/money")
	if v.Hours.Left <= 0 || v.Hours.Spent <= 0 || len(v.Lines) < 20 || len(v.Chain) == 0 || !v.Known ||
		v.Ready == "" {
		t.Fatalf("%d lines, %+v, ready %q", len(v.Lines), v.Hours, v.Ready)
	}
	for _, stage := range v.Hours.Stages {
		if stage.Stage == "thin" && (stage.Learned <= 1 || stage.Done == 0) {
			t.Errorf("Thin took longer than reckoned, and what is learned is %v", stage.Learned)
		}
	}
	grommet := lineOf(t, &v, "grommet")
	if grommet.Late == "" || len(v.Late) == 0 || v.Late[0].Key != grommet.Key {
		t.Errorf("the grommet comes in %d days and is not late: %+v", grommet.Wait, v.Late)
	}
	// It is there: nothing waits for it, and all is done sooner.
	said := grommet.Said
	said.There = 1
	if _, code := send[desk.Done](c, "POST", job+"/handover/bought",
		handoverapi.BoughtRequest{ID: c.change(), Seen: v.Revision,
			Bought: said}); code != "" {
		t.Fatal(code)
	}
	after := show[handoverapi.MoneyView](c, job+"/handover/money")
	if x := lineOf(t, &after, "grommet"); x.Wait != 0 || x.Order != 0 || after.Ready >= v.Ready ||
		after.Idle >= v.Idle {
		t.Errorf("it is there: %+v; ready %s, was %s", x, after.Ready, v.Ready)
	}
	// An hour of Reach is noted, by somebody who is named.
	if _, code := send[desk.Done](c, "POST", job+"/handover/spent",
		handoverapi.SpentRequest{ID: c.change(), Seen: after.Revision,
			Spent: handover.Spent{Stage: "reach", Minutes: 60, Day: "2025-11-27", Who: "Aron"}}); code != "" {
		t.Fatal(code)
	}
	noted := show[handoverapi.MoneyView](c, job+"/handover/money")
	if noted.Hours.Spent != after.Hours.Spent+60 || len(noted.Spent) != len(after.Spent)+1 {
		t.Errorf("an hour more is %v, was %v", noted.Hours.Spent, after.Hours.Spent)
	}
	if d := noted.Cost.Work - after.Cost.Work; d < 61.9 || d > 62.1 {
		t.Errorf("an hour costs %v more, 62 was said", d)
	}
	for what, bad := range map[string]any{
		"no-date": handoverapi.SpentRequest{ID: c.change(), Seen: noted.Revision,
			Spent: handover.Spent{Stage: "reach", Minutes: 5,
				Day: "tomorrow", Who: "x"}},
		"bad-value": handoverapi.SpentRequest{ID: c.change(), Seen: noted.Revision,
			Spent: handover.Spent{Stage: "lunch", Minutes: 5}},
	} {
		if _, code := send[desk.Done](c, "POST", job+"/handover/spent", bad); code != what {
			t.Errorf("%+v is answered %q", bad, code)
		}
	}
	_, data, _ := c.do("GET", job+"/handover/orders.csv", "", nil)
	rows, err := csv.NewReader(strings.NewReader(string(data))).ReadAll()
	if err != nil || len(rows) != len(noted.Lines)+1 {
		t.Errorf("%d rows, %d lines, %v", len(rows), len(noted.Lines), err)
	}
}

func lineOf(t *testing.T, v *handoverapi.MoneyView, begins string) handover.OrderLine {
	t.Helper()
	for _, l := range v.Lines {
		if strings.HasPrefix(l.What, begins) {
			return l
		}
	}
	t.Fatalf("no line begins with %s", begins)
	return handover.OrderLine{}
}

// The ways of Feed and Reach are planned whole, and each costs what its own parts and hours come to.
func TestCostsBesideOtherWays(t *testing.T) {
	c := start(t)
	job := c.packhorse(handedOver(t))
	v := show[handoverapi.CostsView](c, job+"/handover/costs")
	if len(v.Ways) < 2 || v.Ways[0].Stage != "" || v.Currency != "crowns" {
		t.Fatalf("%+v", v)
	}
	m := show[handoverapi.MoneyView](c, job+"/handover/money")
	if v.Ways[0].Cost != m.Cost {
		t.Errorf("as it stands costs %+v and %+v", v.Ways[0].Cost, m.Cost)
	}
	feed := v.Ways[1]
	if feed.Stage != "feed" || feed.Lines <= v.Ways[0].Lines || feed.Minutes <= v.Ways[0].Minutes {
		t.Errorf("a fuse block of its own has more parts and more work: %+v beside %+v", feed, v.Ways[0])
	}
}

// A job is put away and comes back; the list says so. One line says where it stands.
func TestPutAwayAndInOneLine(t *testing.T) {
	c := start(t)
	job := c.packhorse(handedOver(t))
	id := strings.TrimPrefix(job, "/api/jobs/")
	away := func() bool {
		for _, j := range show[jobsapi.JobList](c, "/api/jobs").Jobs {
			if j.ID == id {
				return j.Archived
			}
		}
		t.Fatal("it is not in the list")
		return false
	}
	stand := show[jobsapi.StandView](c, job+"/stand")
	front := show[jobsapi.FrontView](c, job+"/front")
	if stand.Steps != front.Steps || stand.Done != front.Done || stand.Danger != front.Dangers ||
		stand.Open != front.Open ||
		stand.Next != front.Next.Text || stand.Late != len(front.Late) || stand.Hours != front.Hours ||
		stand.Late == 0 {
		t.Errorf("in one line %+v, on its page %+v", stand, front)
	}
	for _, want := range []bool{true, false} {
		done, code := send[desk.Done](
			c,
			"POST",
			job+"/archive",
			jobsapi.ArchiveRequest{ID: c.change(), Seen: 1 << 40, Archived: want},
		)
		if code != "" || away() != want {
			t.Fatalf("put away %v: %q, the list says %v", want, code, away())
		}
		if s := show[jobsapi.StandView](c, job+"/stand"); s.Revision != done.Revision {
			t.Errorf("its line is of revision %d, the job of %d", s.Revision, done.Revision)
		}
	}
}

// The next job starts with what was found and decided, each decision to be verified, and with nothing that was done.
func TestTheNextJobStartsFromOne(t *testing.T) {
	c := start(t)
	job := c.packhorse(handedOver(t))
	done, code := send[desk.Done](
		c,
		"POST",
		job+"/copy",
		jobsapi.CopyRequest{ID: c.change(), Title: "Packhorse, the next"},
	)
	if code != "" {
		t.Fatal(code)
	}
	was, is := jobOf(c, job), jobOf(c, "/api/jobs/"+done.Job)
	if is.Title != "Packhorse, the next" || len(is.Decisions) == 0 || len(is.Thin) == 0 ||
		len(is.Sheets) != len(was.Sheets) {
		t.Errorf("%q, %d decisions, %d of Thin, %d lists", is.Title, len(is.Decisions), len(is.Thin), len(is.Sheets))
	}
	if is.Carried == nil || is.Carried.From != was.Title ||
		!slices.Equal(is.Carried.What, []string{"map", "places", "feeds", "functions", "lists"}) {
		t.Errorf("what came along beside decisions is asked about: %+v", is.Carried)
	}
	next := "/api/jobs/" + done.Job
	asked := func() (open []finding.Finding) {
		for _, f := range show[matchapi.MatchView](c, next+"/match").Findings {
			if strings.HasPrefix(f.Code, "carried-") && f.Answer == nil {
				open = append(open, f)
			}
		}
		return open
	}
	all := asked()
	if len(all) != 5 || all[0].Stage == "" {
		t.Fatalf("asked about: %+v", all)
	}
	x := all[0]
	if _, code := send[desk.Done](c, "POST", next+"/findings/answer",
		workapi.AnswerRequest{ID: c.change(), Seen: 1 << 40,
			Answer: finding.Answer{Code: x.Code, Stage: x.Stage, Side: x.Side, Subject: x.Subject, Text: x.Text,
				Reason: "measured again, path by path"}}); code != "" || len(asked()) != 4 {
		t.Errorf("one is looked at: %q, %d are left", code, len(asked()))
	}
	for _, d := range is.Decisions {
		if d.Verify != was.Title {
			t.Errorf("%s is decided and nobody has verified it here", d.At)
		}
	}
	for _, d := range is.Thin {
		if d.Verify != was.Title {
			t.Errorf("%s %s is decided and nobody has verified it here", d.On, d.ID)
		}
	}
	if n := len(is.Ticks) + len(is.Readings) + len(is.Proved) + len(is.Gates) + len(is.Spent) + len(is.Delivered) +
		len(is.Photos) + len(is.Loans) + len(is.Acks); n > 0 || is.Program != nil || is.Identity.Unit.Hardware != "" {
		t.Errorf("%d things that were done to another vehicle came along", n)
	}
	for _, b := range is.Bought {
		if b.There > 0 || b.Price == 0 && b.Days == 0 && b.Supplier == "" {
			t.Errorf("%+v is on no shelf of this job", b)
		}
	}
	if v := show[jobsapi.FrontView](c, "/api/jobs/"+done.Job+"/front"); v.Done != 0 || v.Delivered != "" ||
		v.Next == nil {
		t.Errorf("its front page: %+v", v)
	}
}

func spentOf(who int) handover.Spent {
	return handover.Spent{Stage: "thin", Minutes: float64(1 + who%50), Who: "somebody"}
}
