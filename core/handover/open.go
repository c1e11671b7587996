package handover

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
)

// Due is something that is open when a job is handed over: it ends at zero, or somebody owns it.
type Due struct {
	Key  string `json:"key"` // names it, whatever is said of it
	Text string `json:"text"`
	At   string `json:"at,omitempty"` // the screen at which it is seen to, below the job: "match?row=…"
	// The finding that it is, which knows its own place.
	Finding *finding.Finding `json:"finding,omitempty"`
	Left    *Left            `json:"left,omitempty"`
}

// DueList is a list that must end at zero, or with an owner for each.
type DueList struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Items []Due  `json:"items"`
}

// Open counts the items that nobody owns.
func (l *DueList) Open() int {
	n := 0
	for i := range l.Items {
		if l.Items[i].Left == nil {
			n++
		}
	}
	return n
}

// Left says who owns something that stays open, and why it may. It holds for what was open as it was: where that
// changes it is nobody's again.
type Left struct {
	Key    string `json:"key"`
	Text   string `json:"text"` // of what was open, when somebody took it
	Owner  string `json:"owner"`
	Reason string `json:"reason"`
	Who    string `json:"who,omitempty"`
	When   int64  `json:"when,omitempty"` // Unix milliseconds
}

// Check says why nothing can be left so.
func (l *Left) Check() error {
	switch {
	case l.Key == "" || len(l.Key) > 400 || l.Text == "" || len(l.Text) > 4000:
		return fmt.Errorf("say what is left")
	case strings.TrimSpace(l.Owner) == "" || len(l.Owner) > 80:
		return fmt.Errorf("say who owns it, in at most 80 letters")
	case strings.TrimSpace(l.Reason) == "" || len(l.Reason) > 400:
		return fmt.Errorf("say in at most 400 letters why it stays open")
	}
	return nil
}

// Loan is something temporary or borrowed: a jumper, a ground, a part that goes back, work that was put off. It is
// open until it is gone.
type Loan struct {
	ID    string   `json:"id"`
	Kind  LoanKind `json:"kind"`
	Text  string   `json:"text"`
	Where string   `json:"where,omitempty"`
	Gone  bool     `json:"gone,omitempty"` // taken out, given back, done
	Who   string   `json:"who,omitempty"`
	When  int64    `json:"when,omitempty"` // Unix milliseconds
}

// LoanKind says what a Loan is.
type LoanKind string

// The kinds of loans.
const (
	Temporary LoanKind = "temporary" // a ground or a jumper that is not to stay
	Borrowed  LoanKind = "borrowed"
	Deferred  LoanKind = "deferred" // work that was put off
)

// LoanKinds lists them.
func LoanKinds() []LoanKind { return []LoanKind{Temporary, Borrowed, Deferred} }

// Check says why a loan cannot be.
func (l *Loan) Check() error {
	switch {
	case l.ID == "" || len(l.ID) > 40 || !slices.Contains(LoanKinds(), l.Kind):
		return fmt.Errorf("it is temporary, borrowed or deferred")
	case strings.TrimSpace(l.Text) == "" || len(l.Text) > 400 || len(l.Where) > 200:
		return fmt.Errorf("say in at most 400 letters what it is")
	case l.Kind == Temporary && strings.TrimSpace(l.Where) == "":
		return fmt.Errorf("say where the temporary one is: it has to be found again")
	}
	return nil
}

// Loans makes the lists of what is temporary, borrowed and put off.
func Loans(all []Loan) []DueList {
	out := []DueList{
		{ID: "temporary", Title: "Temporary grounds and jumpers"},
		{ID: "borrowed", Title: "Borrowed, to be returned"},
		{ID: "deferred", Title: "Put off"},
	}
	for i := range all {
		l := &all[i]
		k := slices.Index(LoanKinds(), l.Kind)
		if l.Gone || k < 0 {
			continue
		}
		text := l.Text
		if l.Where != "" {
			text += ", " + l.Where
		}
		out[k].Items = append(out[k].Items, Due{Key: "loan " + l.ID, Text: text, At: "handover"})
	}
	return out
}

// Owned puts what is left to somebody beside the items, and gives how many of all are open.
func Owned(lists []DueList, left []Left) (open int) {
	for i := range lists {
		if lists[i].Items == nil {
			lists[i].Items = []Due{}
		}
		for k := range lists[i].Items {
			x := &lists[i].Items[k]
			if n := slices.IndexFunc(left, func(l Left) bool { return l.Key == x.Key && l.Text == x.Text }); n >= 0 {
				x.Left = &left[n]
			}
		}
		open += lists[i].Open()
	}
	return open
}

// Delivered is a state of the job with a name, as it was handed over. It is never changed.
type Delivered struct {
	ID       string `json:"id"`
	Name     string `json:"name"` // "as delivered 2026-11-20"
	Open     int    `json:"open"` // items that nobody owned
	Reason   string `json:"reason,omitempty"`
	Revision int64  `json:"revision"`
	Hash     string `json:"hash"` // of the job at that revision
	Who      string `json:"who,omitempty"`
	When     int64  `json:"when,omitempty"` // Unix milliseconds
	// The whole job as it was, as JSON, without its pictures and the states before.
	Kept []byte `json:"kept,omitempty"`
}

// Check says why a state cannot be kept: with something open a reason is wanted.
func (d *Delivered) Check() error {
	switch {
	case d.ID == "" || len(d.ID) > 40 || strings.TrimSpace(d.Name) == "" || len(d.Name) > 80:
		return fmt.Errorf("a state has a name of at most 80 letters")
	case d.Open > 0 && strings.TrimSpace(d.Reason) == "":
		return fmt.Errorf("%d things are open and nobody owns them: say why it is handed over all the same", d.Open)
	case len(d.Reason) > 400 || d.Open < 0:
		return fmt.Errorf("say in at most 400 letters why")
	}
	return nil
}
