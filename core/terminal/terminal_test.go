package terminal_test

import (
	"strings"
	"testing"

	"draxel/core/size"
	"draxel/core/terminal"
)

var sealed = terminal.Seat{Family: "s15", Blade: 1.5, Gender: terminal.Female, Sealing: terminal.WireSeal,
	Plating: "tin"}

func with(change func(*terminal.Seat)) terminal.Seat {
	s := sealed
	change(&s)
	return s
}

func TestWhatBecomesOfATerminal(t *testing.T) {
	for _, c := range []struct {
		name     string
		from, to terminal.Seat
		wire     size.Section
		want     terminal.Verdict
		why      string
		parts    string
	}{
		{"the same", sealed, sealed, 0.75, terminal.Travels, "same terminal", "pick"},
		{"not known", terminal.Seat{}, sealed, 0.75, terminal.Unknown, "not known", ""},
		{"another family", with(func(s *terminal.Seat) { s.Family = "m15"; s.Sealing = terminal.Mat }), sealed, 0.75,
			terminal.Reterminated, "different families", "pick terminal crimper seal"},
		{"wider", sealed, with(func(s *terminal.Seat) { s.Blade = 2.8 }), 0.75, terminal.Reterminated, "1.5 mm wide",
			"pick terminal crimper seal"},
		{"wire too thin", sealed, with(func(s *terminal.Seat) { s.Blade = 6.3 }), 0.5, terminal.Pigtail,
			"No 6.3 mm terminal", "lead joint"},
		{"male into female", sealed, with(func(s *terminal.Seat) { s.Gender = terminal.Male }), 0.75, terminal.Reterminated,
			"male ones", "pick terminal crimper seal"},
		{"gold against tin", sealed, with(func(s *terminal.Seat) { s.Plating = "gold" }), 0.75, terminal.Reterminated,
			"unlike metals", "pick terminal crimper seal"},
		{"no seal on the wire", with(func(s *terminal.Seat) { s.Sealing = terminal.Mat }), sealed, 0.75,
			terminal.Reterminated, "before the crimp", "pick terminal crimper seal"},
		{"a seal too many", sealed, with(func(s *terminal.Seat) { s.Sealing = terminal.Mat }), 0.75, terminal.Travels, "",
			"pick"},
		{"pulled to seat", with(func(s *terminal.Seat) { s.Release = terminal.PullToSeat }), sealed, 0.75,
			terminal.Reterminated, "mating face", "terminal crimper seal"},
		{"over-moulded", with(func(s *terminal.Seat) { s.Ends = terminal.Moulded }), sealed, 0.75, terminal.Pigtail,
			"over-moulded", "lead joint"},
		{"pierced", with(func(s *terminal.Seat) { s.Ends = terminal.Pierced }), terminal.Seat{}, 0, terminal.Pigtail,
			"insulation-displacement", "lead joint"},
		{"wire's size not known", sealed, with(func(s *terminal.Seat) { s.Blade = 2.8 }), 0, terminal.Reterminated, "",
			"pick terminal crimper seal"},
	} {
		f := terminal.Move(c.from, c.to, c.wire)
		var parts []string
		for _, p := range f.Parts {
			parts = append(parts, string(p.Kind))
		}
		if f.Verdict != c.want || !strings.Contains(f.Why, c.why) || strings.Join(parts, " ") != c.parts {
			t.Errorf("%s: %q, %s, parts %v; want %q, %q, %s", c.name, f.Verdict, f.Why, parts, c.want, c.why, c.parts)
		}
	}
}

// Each width has a terminal for every wire between its thinnest and its thickest.
func TestGripsHaveNoHoles(t *testing.T) {
	for _, b := range terminal.Blades() {
		var last terminal.Grip
		for wire := size.Section(0.1); wire < 20; wire += 0.01 {
			g, ok := terminal.GripFor(b, wire)
			if ok && (wire < g.Least || wire > g.Most) {
				t.Errorf("%g mm: %v does not hold %v", b, g, wire)
			}
			if !ok && last.Most > 0 && wire < last.Most {
				t.Errorf("%g mm: no terminal for %v", b, wire)
			}
			if ok {
				last = g
			}
		}
	}
	if _, ok := terminal.GripFor(3.3, 1); ok {
		t.Error("a width that nobody makes has a terminal")
	}
}

func TestOutAndStoppers(t *testing.T) {
	if got := terminal.Out(sealed); len(got) != 1 || got[0].Kind != terminal.Pick {
		t.Errorf("out of a sealed cavity: %v", got)
	}
	if got := terminal.Stopper(sealed); len(got) != 1 || got[0].Kind != terminal.Plug {
		t.Errorf("the plug of a sealed cavity: %v", got)
	}
	if got := terminal.Out(with(func(s *terminal.Seat) { s.Ends = terminal.Soldered })); got != nil {
		t.Errorf("a pick for what does not come out: %v", got)
	}
	if got := terminal.Out(with(func(s *terminal.Seat) { s.Sealing = terminal.Unsealed })); len(got) != 1 {
		t.Errorf("out of an unsealed cavity: %v", got)
	}
	if got := terminal.Stopper(terminal.Seat{}); got != nil {
		t.Errorf("a plug for a cavity of which nothing is known: %v", got)
	}
	if s := sealed.String(); s != "1.5 mm female, family s15, single-wire seal, tin" {
		t.Errorf("described as %q", s)
	}
	if s := (terminal.Seat{}).String(); s != "terminal not known" {
		t.Errorf("described as %q", s)
	}
}

// What is ordered says all that a person at a counter asks, and nothing that nobody knows.
func TestWhatIsOrdered(t *testing.T) {
	front := with(func(s *terminal.Seat) { s.Release, s.Sealing = terminal.Front, terminal.Mat })
	for _, c := range []struct {
		name string
		fit  terminal.Fit
		want string
	}{
		{"a sealed one", terminal.New(sealed, 0.75), "1.5 mm female, family s15, single-wire seal, tin, for 0.5–1 mm²; " +
			"crimper for 1.5 mm terminals, with seal; single-wire seal for 1.5 mm, family s15"},
		{"behind a mat, size not known", terminal.New(front, 0), "1.5 mm female, family s15, sealed by a mat, tin, for " +
			"the wire's " +
			"size (not known); crimper for 1.5 mm terminals"},
		{"a lead for a wire", terminal.Move(with(func(s *terminal.Seat) { s.Ends = terminal.Moulded }), front, 1),
			"lead with a 1.5 mm female, family s15, sealed by a mat, tin terminal, wire at least 1 mm²; joint, sealed"},
		{"a lead of which nothing is known", terminal.Move(with(func(s *terminal.Seat) { s.Ends = terminal.Moulded }),
			terminal.Seat{}, 0), "lead with the terminal of the new cavity; joint, sealed"},
		{"released from the front", terminal.Move(front, front, 0.75), "release pick for 1.5 mm, front release"},
		{"released as nobody has said", terminal.Move(sealed, sealed, 0.75), "release pick for 1.5 mm, rear release"},
		{"from a width that is not known", terminal.Fit{Parts: terminal.Out(terminal.Seat{Family: "x"})}, ""},
	} {
		var names []string
		for _, p := range c.fit.Parts {
			names = append(names, p.Name)
		}
		if got := strings.Join(names, "; "); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
	}
}

// What a contact carries for long is that of the widest that is no wider: common practice, no source.
func TestWhatContactsCarry(t *testing.T) {
	for blade, amps := range map[float64]float64{0: 0, 0.5: 0, 0.64: 3, 1.2: 3, 1.5: 12, 2.8: 25, 6.3: 40, 9.5: 60,
		12: 60} {
		if got := (terminal.Seat{Blade: blade}).Carries(); got != amps {
			t.Errorf("%g mm carries %g A, not %g", blade, got, amps)
		}
	}
}
