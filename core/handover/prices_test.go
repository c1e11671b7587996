package handover_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"draxel/core/handover"
)

var asked = []handover.OrderLine{
	{Key: "sleeve 6 mm m", What: "sleeve 6 mm", Unit: "m"}, {Key: "sleeve 6 mm pcs", What: "sleeve 6 mm", Unit: "pcs"},
	{Key: "relay 12 V, 30 A", What: "relay 12 V, 30 A", Said: handover.Bought{Key: "relay 12 V, 30 A", There: 2,
		Price: 4}},
	{Key: "grommet", What: "Grommet, hole 28 mm"}, {Key: "seal", What: "seal"},
}

// Amounts as people write them, by hand.
func TestAmountsOfPrices(t *testing.T) {
	for text, want := range map[string]float64{"12.50": 12.5, "12,50": 12.5, "1.234,50": 1234.5, "1,234.50": 1234.5,
		"1 234.5": 1234.5, "crowns 7": 7, "7 crowns": 7, "€ 0,035": 0.035, "1'200": 1200, "1.000.000": 1e6, "3,-": 3} {
		got, err := handover.Prices([][]string{{"What", "Price"}, {"seal", text}}, asked)
		if err != nil || len(got.Lines) != 1 || got.Lines[0].Said.Price != want {
			t.Errorf("%s: %+v, %v, want %g", text, got, err, want)
		}
	}
	for _, text := range []string{"1.234", "on request", "-4", "1e9", "12.50 12.60"} {
		if got, _ := handover.Prices([][]string{{"What", "Price"}, {"seal", text}}, asked); len(got.Bad) != 1 {
			t.Errorf("%s is read: %+v", text, got)
		}
	}
}

// What the order list itself wrote says nothing new, whatever its decimals could be taken for.
func TestTheOrderListReadsItself(t *testing.T) {
	line := handover.OrderLine{Key: "k", What: "k", Said: handover.Bought{Key: "k", Price: 12.125, There: 1.275}}
	got, err := handover.Prices([][]string{{"What", "There", "Price"}, {"k", fmt.Sprint(line.Said.There),
		fmt.Sprint(line.Said.Price)}}, []handover.OrderLine{line})
	if err != nil || len(got.Lines)+len(got.Bad)+len(got.Unknown) != 0 {
		t.Errorf("%+v, %v", got, err)
	}
}

// A supplier's list by hand: a heading below two lines of address, other words, a unit that tells two lines apart, a
// line twice, one that nobody asked for, one that says nothing new.
func TestASuppliersList(t *testing.T) {
	got, err := handover.Prices([][]string{
		{"Fellside Parts, Tarn"}, {},
		{"Pos.", "Description", "per", "Unit price", "Delivery, days", "Supplier"},
		{"1", "Sleeve  6 MM", "m", "0,80", "3", "Fellside"},
		{"2", "relay 12 V, 30 A", "", "4.00", "", ""},
		{"3", "grommet, hole 28 mm", "", "2.10", "12", ""},
		{"4", "grommet, hole 28 mm", "", "2.20", "", ""},
		{"5", "a mug", "", "9", "", ""},
		{"6", "sleeve 6 mm", "", "1", "", ""},
		{"7", "seal", "", "", "soon", ""},
		{"", "", "", "12", "", ""},
	}, asked)
	if err != nil {
		t.Fatal(err)
	}
	var lines []string
	for _, l := range got.Lines {
		lines = append(lines, fmt.Sprintf("%s %g %d %s %g", l.Said.Key, l.Said.Price, l.Said.Days, l.Said.Supplier,
			l.Said.There))
	}
	if want := []string{"sleeve 6 mm m 0.8 3 Fellside 0", "grommet 2.1 12  0"}; !slices.Equal(lines, want) {
		t.Errorf("%q, want %q", lines, want)
	}
	if !slices.Equal(got.Unknown, []string{"a mug", "sleeve 6 mm"}) {
		t.Errorf("no line of the order list: %q", got.Unknown)
	}
	if len(got.Bad) != 2 || !strings.Contains(got.Bad[0], "line 7") ||
		!strings.Contains(got.Bad[0], "stands on line 6") ||
		!strings.Contains(got.Bad[1], "soon") {
		t.Errorf("not read: %q", got.Bad)
	}
	if _, err := handover.Prices([][]string{{"What", "Colour"}, {"seal", "red"}}, asked); err == nil {
		t.Error("a table without prices is read")
	}
}
