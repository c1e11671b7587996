package reach_test

import (
	"slices"
	"testing"

	"draxel/core/colour"
	"draxel/core/reach"
	"draxel/core/size"
	"draxel/core/stock"
)

// What is bought: plain and printed where there is a tracer, never a plain colour that warns, one length for a whole
// lead, with the margin.
func TestWhatIsBought(t *testing.T) {
	short := func(id, c string, n int) reach.Run {
		w := wire(id, at("A", n), at("J1", n), 1900, "")
		w.Colour = colour.Parse(c, colour.IEC)
		return w
	}
	in := yardInput(short("1", "GN", 1), short("2", "GN-WH", 2), short("3", "RD", 3), short("4", "RD-WH", 4),
		short("5", "BU", 5), short("6", "BU-WH", 6))
	in.Wires[4].Pair, in.Wires[5].Pair = "bus", "bus"
	in.Decisions.Rules.Shelf = []stock.Piece{{ID: "reel", Colour: colour.Parse("GN", colour.IEC), Size: 0.75,
		Length: 300, Class: size.ClassC}}
	r := reach.Compute(in)
	bought := map[string]stock.BuyLine{}
	for _, b := range r.Buy {
		bought[b.Colour.String()+" "+string(b.Kind)] = b
	}
	if b := bought["RD "]; b.Coded || !slices.Equal(b.For, []string{"3"}) {
		t.Errorf("red: %+v", b)
	}
	if b := bought["WH "]; !b.Coded || !slices.Equal(b.For, []string{"4"}) {
		t.Errorf("red with a tracer: %+v", b)
	}
	if b := bought["GN "]; len(b.For) != 1 || b.Buy < b.Need*1.1 || b.Buy > b.Need*1.1+100 {
		t.Errorf("one of the two greens is served by the reel: %+v", b)
	}
	if b := bought["BU twisted"]; b.Need != r.Lines[4].By || len(b.For) != 2 {
		t.Errorf("the pair is bought once: %+v, %v", b, r.Lines[4].By)
	}
	if r.Lines[0].Provision[0].From != "reel" || r.Lines[0].Provision[0].Coded {
		t.Errorf("green is served by green first: %+v", r.Lines[0].Provision)
	}
	if r.Lines[0].Class != size.ClassB || r.Lines[0].Provision[0].Class != size.ClassC {
		t.Errorf("class of %v", r.Lines[0].Provision)
	}
	sum := 0.0
	for _, c := range r.Colours {
		sum += c.Short
		if c.Stock+c.Buy != c.Short {
			t.Errorf("%s: %v short, %v from stock and %v to buy", c.Colour, c.Short, c.Stock, c.Buy)
		}
	}
	if want := 6 * r.Lines[0].By; sum != want {
		t.Errorf("short of %v, want %v", sum, want)
	}
}
