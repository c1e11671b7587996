package handover_test

import (
	"math"
	"strings"
	"testing"

	"draxel/core/handover"
)

// long is a text of so many letters.
func long(n int) string { return strings.Repeat("x", n) }

// What is kept of the hand over is what people can say: at its bound it is taken, a letter more or an amount beyond is
// refused.
func TestWhatIsKeptOfTheHandOver(t *testing.T) {
	left := handover.Left{Key: "k", Text: "t", Owner: "o", Reason: "r"}
	loan := handover.Loan{ID: "i", Kind: handover.Temporary, Text: "ground strap", Where: "left strut tower"}
	state := handover.Delivered{ID: "i", Name: "n"}
	spent := handover.Spent{ID: "i", Stage: "thin", Minutes: 5, Who: "w"}
	bought := handover.Bought{Key: "k"}
	var terms handover.Terms
	for _, c := range []struct {
		name string
		err  error
		can  bool
	}{
		{"left", check(left, func(*handover.Left) {}), true},
		{"left at its bounds", check(left, func(l *handover.Left) {
			l.Key, l.Text, l.Owner, l.Reason = long(400), long(4000), long(80), long(400)
		}), true},
		{"left without a key", check(left, func(l *handover.Left) { l.Key = "" }), false},
		{"left under a long key", check(left, func(l *handover.Left) { l.Key = long(401) }), false},
		{"left unsaid", check(left, func(l *handover.Left) { l.Text = "" }), false},
		{"left with a novel", check(left, func(l *handover.Left) { l.Text = long(4001) }), false},
		{"left to nobody", check(left, func(l *handover.Left) { l.Owner = " " }), false},
		{"left to a crowd", check(left, func(l *handover.Left) { l.Owner = long(81) }), false},
		{"left for no reason", check(left, func(l *handover.Left) { l.Reason = " " }), false},
		{"left for many", check(left, func(l *handover.Left) { l.Reason = long(401) }), false},

		{"a loan", check(loan, func(*handover.Loan) {}), true},
		{"a loan at its bounds", check(loan, func(l *handover.Loan) {
			l.ID, l.Text, l.Where = long(40), long(400), long(200)
		}), true},
		{"a borrowed one anywhere", check(loan, func(l *handover.Loan) { l.Kind, l.Where = handover.Borrowed, "" }), true},
		{"a temporary one anywhere", check(loan, func(l *handover.Loan) { l.Where = " " }), false},
		{"a loan of no kind", check(loan, func(l *handover.Loan) { l.Kind = "given" }), false},
		{"a loan without an id", check(loan, func(l *handover.Loan) { l.ID = "" }), false},
		{"a loan with a long id", check(loan, func(l *handover.Loan) { l.ID = long(41) }), false},
		{"a loan of nothing", check(loan, func(l *handover.Loan) { l.Text = " " }), false},
		{"a loan of much", check(loan, func(l *handover.Loan) { l.Text = long(401) }), false},
		{"a loan far away", check(loan, func(l *handover.Loan) { l.Where = long(201) }), false},

		{"a state", check(state, func(*handover.Delivered) {}), true},
		{"a state with open things, and why", check(state, func(d *handover.Delivered) { d.Open, d.Reason = 3, long(400) }),
			true},
		{"a state with open things", check(state, func(d *handover.Delivered) { d.Open = 1 }), false},
		{"a state with a novel", check(state, func(d *handover.Delivered) { d.Reason = long(401) }), false},
		{"a state with less than none open", check(state, func(d *handover.Delivered) { d.Open, d.Reason = -1, "r" }), false},
		{"a state without a name", check(state, func(d *handover.Delivered) { d.Name = " " }), false},
		{"a state with a long name", check(state, func(d *handover.Delivered) { d.Name = long(81) }), false},
		{"a state without an id", check(state, func(d *handover.Delivered) { d.ID = "" }), false},
		{"a state with a long id", check(state, func(d *handover.Delivered) { d.ID = long(41) }), false},

		{"time", check(spent, func(*handover.Spent) {}), true},
		{"time of no stage", check(spent, func(s *handover.Spent) { s.Stage = "lunch" }), false},
		{"no time", check(spent, func(s *handover.Spent) { s.Minutes = 0 }), false},
		{"less than no time", check(spent, func(s *handover.Spent) { s.Minutes = -1 }), false},
		{"time that is no number", check(spent, func(s *handover.Spent) { s.Minutes = math.NaN() }), false},
		{"nobody's time", check(spent, func(s *handover.Spent) { s.Who = "" }), false},
		{"a crowd's time", check(spent, func(s *handover.Spent) { s.Who = long(81) }), false},
		{"time with a novel", check(spent, func(s *handover.Spent) { s.Text = long(401) }), false},
		{"time of a long day", check(spent, func(s *handover.Spent) { s.Day = long(11) }), false},

		{"a line", check(bought, func(b *handover.Bought) { b.Days, b.Supplier = 1000, long(120) }), true},
		{"a line of nothing", check(bought, func(b *handover.Bought) { b.Key = " " }), false},
		{"a line with a long key", check(bought, func(b *handover.Bought) { b.Key = long(401) }), false},
		{"less than none there", check(bought, func(b *handover.Bought) { b.There = -1 }), false},
		{"ordered without end", check(bought, func(b *handover.Bought) { b.Ordered = math.Inf(1) }), false},
		{"paid to be taken", check(bought, func(b *handover.Bought) { b.Price = -1 }), false},
		{"comes before it is ordered", check(bought, func(b *handover.Bought) { b.Days = -1 }), false},
		{"never comes", check(bought, func(b *handover.Bought) { b.Days = 1001 }), false},
		{"from a long supplier", check(bought, func(b *handover.Bought) { b.Supplier = long(121) }), false},
		{"on a long day", check(bought, func(b *handover.Bought) { b.On = long(11) }), false},

		{"no terms", check(terms, func(*handover.Terms) {}), true},
		{"terms at their bounds", check(terms, func(x *handover.Terms) {
			x.Currency, x.PerHour, x.Tax, x.HoursADay, x.DaysAWeek = long(12), 1e6, 100, 24, 7
		}), true},
		{"a long currency", check(terms, func(x *handover.Terms) { x.Currency = long(13) }), false},
		{"less than nothing an hour", check(terms, func(x *handover.Terms) { x.PerHour = -1 }), false},
		{"all of it tax and more", check(terms, func(x *handover.Terms) { x.Tax = 101 }), false},
		{"a long day", check(terms, func(x *handover.Terms) { x.HoursADay = 25 }), false},
		{"a long week", check(terms, func(x *handover.Terms) { x.DaysAWeek = 8 }), false},
		{"a week before Monday", check(terms, func(x *handover.Terms) { x.DaysAWeek = -1 }), false},
		{"fewer than no hands", check(terms, func(x *handover.Terms) { x.Hands = -1 }), false},
		{"hands without end", check(terms, func(x *handover.Terms) { x.Hands = 1000 }), false},
	} {
		if (c.err == nil) != c.can {
			t.Errorf("%s: %v", c.name, c.err)
		}
	}
}

// check changes a copy of something and says whether it can be.
func check[T any, P interface {
	*T
	Check() error
}](x T, change func(P)) error {
	change(&x)
	return P(&x).Check()
}

// What is gone is on no list, what is open is somebody's only as it was when he took it, and the rest is counted.
func TestWhatIsDue(t *testing.T) {
	lists := handover.Loans([]handover.Loan{{ID: "1", Kind: handover.Temporary, Text: "jumper", Where: "at the pump"},
		{ID: "2", Kind: handover.Deferred, Text: "loom tape"},
		{ID: "3", Kind: handover.Borrowed, Text: "crimper", Gone: true},
		{ID: "4", Kind: handover.Borrowed, Text: "scope"}, {ID: "5", Kind: "given", Text: "advice"}})
	var got []string
	for _, l := range lists {
		for _, x := range l.Items {
			got = append(got, l.ID+": "+x.Key+", "+x.Text)
		}
	}
	want := "temporary: loan 1, jumper, at the pump | borrowed: loan 4, scope | deferred: loan 2, loom tape"
	if strings.Join(got, " | ") != want {
		t.Errorf("due are %q", got)
	}
	owned := []handover.Left{{Key: "loan 4", Text: "scope", Owner: "Ines", Reason: "needed"},
		{Key: "loan 2", Text: "other tape", Owner: "Ines", Reason: "changed since"}}
	if open := handover.Owned(lists, owned); open != 2 || lists[1].Items[0].Left == nil || lists[2].Items[0].Left != nil {
		t.Errorf("%d are open: %+v", open, lists)
	}
	if none := handover.Loans(nil); handover.Owned(none, nil) != 0 || none[0].Items == nil {
		t.Errorf("of nothing is due %+v", none)
	}
}
