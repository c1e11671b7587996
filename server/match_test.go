package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"draxel/core/match"
	"draxel/server/desk"
	"draxel/server/matchapi"
)

func TestDecisionsThatAreRefused(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[matchapi.MatchView](c, job+"/match")
	first, second := m.Lines[0], m.Lines[1]
	var ground match.Line
	for _, l := range m.Lines {
		if l.From.String() == "B32" || l.Verdict == match.Goes {
			ground = l
		}
	}
	if code := c.decide(job, matchapi.DecideRequest{Side: match.From, At: first.From, Action: matchapi.Accept,
		To: first.To, Seen: m.Revision}); code != "" {
		t.Fatal(code)
	}
	now := m.Revision + 1
	for name, r := range map[string]matchapi.DecideRequest{
		"cavity-taken": {Side: match.From, At: ground.From, Action: matchapi.Accept, To: first.To, Seen: now},
		"stale":        {Side: match.From, At: first.From, Action: matchapi.GoesAs, Seen: m.Revision},
		"no-such-row":  {Side: match.From, At: match.Line{}.From, Action: matchapi.GoesAs, Seen: now},
		"no-source":    {Side: match.From, At: second.From, Action: matchapi.Source, Source: "sun", Seen: now},
		"no-reason":    {Side: match.To, At: second.To, Action: matchapi.Empty, Seen: now},
		"wrong-side":   {Side: match.To, At: second.To, Action: matchapi.GoesAs, Seen: now},
		"no-action":    {Side: match.From, At: second.From, Action: "burn", Seen: now},
	} {
		code := c.decide(job, r)
		if name == "cavity-taken" && code == "vetoed" { // the danger rule comes first, where it applies
			continue
		}
		if code != name {
			t.Errorf("%s: got %q", name, code)
		}
	}
	battery, coil := find(t, m, "Battery, terminal 30"), find(t, m, "Power ground 1")
	if code := c.decide(job, matchapi.DecideRequest{Side: match.From, At: battery.From, Action: matchapi.Accept,
		To: coil.To, Seen: now}); code != "vetoed" {
		t.Errorf("a battery feed onto a ground: %q", code)
	}
	if got := show[matchapi.MatchView](c, job+"/match"); got.Revision != now || got.Totals.Decided != 1 {
		t.Errorf("a refused decision changed the job: revision %d, %d decided", got.Revision, got.Totals.Decided)
	}
}

// Eight people want the same cavity at the same moment: one gets it, the others are told who has it.
func TestOneCavityIsGivenOnce(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[matchapi.MatchView](c, job+"/match")
	to := m.Lines[0].To
	codes := make(chan string, 8)
	for i := range 8 {
		body, err := json.Marshal(matchapi.DecideRequest{ID: fmt.Sprint("race-", i), Seen: m.Revision, Side: match.From,
			At: m.Lines[i].From, Action: matchapi.Accept, To: to})
		if err != nil {
			t.Fatal(err)
		}
		go func() {
			reply, err := http.Post(c.url+job+"/match/decide", "application/json", bytes.NewReader(body))
			if err != nil {
				codes <- err.Error()
				return
			}
			defer reply.Body.Close()
			var p desk.Problem
			if reply.StatusCode >= 400 && json.NewDecoder(reply.Body).Decode(&p) != nil {
				p.Code = "unreadable"
			}
			codes <- p.Code
		}()
	}
	count := map[string]int{}
	for range 8 {
		count[<-codes]++
	}
	decided := show[matchapi.MatchView](c, job+"/match").Totals.Decided
	if count[""] != 1 || decided != 1 || count["cavity-taken"]+count["vetoed"] != 7 {
		t.Errorf("answers %v, %d decided", count, decided)
	}
}

func find(t *testing.T, m matchapi.MatchView, function string) match.Line {
	t.Helper()
	for i, row := range m.From.Rows {
		if row.Function == function {
			for _, l := range m.Lines {
				if l.From == m.From.Rows[i].Ref {
					return l
				}
			}
		}
	}
	t.Fatalf("no row %q", function)
	return match.Line{}
}

func TestRejectingLeadsToTheNextBest(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[matchapi.MatchView](c, job+"/match")
	l := find(t, m, "Throttle motor +")
	if code := c.decide(job, matchapi.DecideRequest{Side: match.From, At: l.From, Action: matchapi.Reject, To: l.To,
		Seen: m.Revision}); code != "" {
		t.Fatal(code)
	}
	after := find(t, show[matchapi.MatchView](c, job+"/match"), "Throttle motor +")
	if after.To == l.To || after.Decided {
		t.Errorf("rejected %s, yet %+v", l.To, after)
	}
	if code := c.decide(job, matchapi.DecideRequest{Side: match.From, At: l.From, Action: matchapi.Reopen,
		Seen: m.Revision + 1}); code != "" {
		t.Fatal(code)
	}
	if again := find(t, show[matchapi.MatchView](c, job+"/match"), "Throttle motor +"); again.To != l.To {
		t.Errorf("reopened, yet %+v", again)
	}
}

func TestHousings(t *testing.T) {
	c := start(t)
	job := c.refit()
	m := show[matchapi.MatchView](c, job+"/match")
	meet := func(met match.Meetings) string {
		_, code := send[desk.Done](c, "PUT", job+"/match/meetings", matchapi.MeetRequest{ID: c.change(), Seen: 99, Met: met})
		return code
	}
	kept := match.Meeting{Met: match.SameAs, With: "A"}
	if code := meet(match.Meetings{"A": kept, "B": kept}); code != "cannot-meet" {
		t.Errorf("one housing for two connectors: %q", code)
	}
	if code := meet(match.Meetings{"A": {Met: match.SameAs, With: "Z"}}); code != "cannot-meet" {
		t.Errorf("no such housing: %q", code)
	}
	if code := meet(match.Meetings{"A": kept, "B": {Met: match.NewHousing}}); code != "" {
		t.Fatal(code)
	}
	after := show[matchapi.MatchView](c, job+"/match")
	if after.Totals.MovesConnector <= m.Totals.MovesConnector || after.Meetings["B"].Met == match.SameAs {
		t.Errorf("B is new, yet %+v", after.Totals)
	}
}
