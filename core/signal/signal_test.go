package signal_test

import (
	"bufio"
	"fmt"
	"os"
	"strings"
	"testing"

	"draxel/core/signal"
)

func indices(r signal.Reading) string {
	var out []string
	for _, n := range []struct {
		mark  string
		value int
	}{{"c", r.Cylinder}, {"b", r.Bank}, {"p", r.Position}, {"n", r.Channel}} {
		if n.value > 0 && (n.mark != "b" || r.Index != signal.ByChannel) {
			out = append(out, fmt.Sprint(n.mark, n.value))
		}
	}
	for _, s := range []string{r.Place, r.Polarity} {
		if s != "" {
			out = append(out, s)
		}
	}
	return strings.Join(out, " ")
}

func TestWordings(t *testing.T) {
	f, err := os.Open("testdata/wordings.txt")
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	for s := bufio.NewScanner(f); s.Scan(); {
		cells := strings.Split(s.Text(), "|")
		if len(cells) < 3 || s.Text()[0] == '#' {
			continue
		}
		for i := range cells {
			cells[i] = strings.TrimSpace(cells[i])
		}
		want := ""
		if len(cells) > 3 {
			want = cells[3]
		}
		r := signal.Read(cells[0])
		if r.Device != cells[1] || string(r.Aspect) != cells[2] || indices(r) != want {
			t.Errorf("%q read as %s.%s %q (others %v), want %s.%s %q", cells[0], r.Device, r.Aspect, indices(r), r.Others,
				cells[1], cells[2], want)
		}
	}
}

func TestCompare(t *testing.T) {
	for _, c := range []struct {
		a, b string
		want signal.Likeness
	}{
		{"Lambda sensor after cat., bank 2", "HO2S 2/2 SIG", signal.Same},
		{"Injector 3", "Injection valve, cylinder 3", signal.Same},
		{"Injector 3", "Injector 5", signal.IndexConflict},
		{"O2 heater", "HO2S heater bank 1 sensor 1", signal.IndexUnknown},
		{"MAP signal", "MAP sensor ground", signal.OtherAspect},
		{"MAP sensor supply", "MAP 5V reference", signal.IndexUnknown},
		{"Knock sensor 1", "Coolant temperature", signal.OtherDevice},
		{"Terminal 30", "Battery positive voltage", signal.Same},
		{"Terminal 30, second", "Battery positive voltage", signal.Interchangeable},
		{"Sensor ground", "Coolant temperature sensor ground", signal.NotCompared},
		{"zzqk", "Injector 3", signal.NotCompared},
		{"Ignition coil 1 and 4", "Coil 1/4", signal.Same},
		{"Ignition coil 4 + 1", "Coil cyl. 4", signal.IndexUnknown},
		{"Ignition coil 1 and 4", "Coil 2 and 3", signal.IndexConflict},
		{"Ignition coil 1 and 4", "Coil 2", signal.IndexConflict},
		{"Ignition coil 1 and 4", "Ignition coil", signal.IndexUnknown},
		{"Throttle motor +", "Throttle actuator motor close", signal.IndexConflict},
	} {
		a, b := signal.Read(c.a), signal.Read(c.b)
		if got := signal.Compare(a, b); got != c.want || signal.Compare(b, a) != got {
			t.Errorf("%q (%s) and %q (%s): %v, want %v both ways", c.a, a, c.b, b, got, c.want)
		}
	}
}

func TestUnreadAndUnsure(t *testing.T) {
	if r := signal.Read("zqk vgh"); r.Read() || r.Sure != 0 {
		t.Errorf("nonsense read as %+v", r)
	}
	plain, odd := signal.Read("coolant temperature"), signal.Read("coolant temperature grommet bracket clamp")
	if plain.Sure < 0.95 || odd.Sure >= plain.Sure {
		t.Errorf("sure %.2f and %.2f: unexplained words must cost", plain.Sure, odd.Sure)
	}
}

func ExampleRead() {
	fmt.Println(signal.Read("Lambda sensor after cat., bank 2"))
	fmt.Println(signal.Read("HO2S 2/2 HTR"))
	// Output:
	// oxygen sensor, bank 2, position 2
	// oxygen sensor heater, bank 2, position 2
}

func FuzzRead(f *testing.F) {
	for _, s := range []string{"HO2S 2/2 SIG", "Injector 3 (-)", "", "+", "1 2 3 4 5", "Ä-Ö_ü²", "b1s2b1s2"} {
		f.Add(s)
	}
	roles := map[signal.Role]bool{signal.Unread: true}
	for _, r := range signal.Roles() {
		roles[r] = true
	}
	f.Fuzz(func(t *testing.T, text string) {
		r := signal.Read(text)
		if r.Sure < 0 || r.Sure > 1 || !roles[r.Role] || r.Read() != (r.Text != "") {
			t.Errorf("%q read as %+v", text, r)
		}
		if got := signal.Compare(r, r); r.Read() && got != signal.Same {
			t.Errorf("%q is not itself: %v", text, got)
		}
		if again := signal.Read(text); again.Text != r.Text || again.Sure != r.Sure {
			t.Errorf("%q read as %q, then as %q", text, r.Text, again.Text)
		}
	})
}

func TestTypingErrorsAreRead(t *testing.T) {
	for written, device := range map[string]string{
		"Injecter 3": "injector", "Cooolant temperature": "ect", "Cranksh. sensor": "ckp", "Thorttle position": "tps",
		"Alternatr lamp": "alternatorlamp", "Xnjector": "injector", "Pu": "",
	} {
		if got := signal.Read(written).Device; got != device {
			t.Errorf("%q read as %q, want %q", written, got, device)
		}
	}
}

// Initials of a device's own words are read by rule, less surely than words; those of several devices are a guess.
func TestInitials(t *testing.T) {
	for text, want := range map[string]struct {
		device string
		sure   float64
		others int
	}{
		"BPPS": {"brakeswitch", 0.6, 0}, "FTPS signal": {"fueltankpressure", 0.6, 0}, "CHTS gnd": {"headtemp", 0.6, 0},
		"OLS": {"oillevel", 0.3, 1}, "H02S 1/2": {"o2", 1, 0}, "XYZ": {"", 0, 0},
	} {
		r := signal.Read(text)
		if r.Device != want.device || r.Sure != want.sure || len(r.Others) != want.others {
			t.Errorf("%q read as %s, others %v, sure %.2f", text, r.Device, r.Others, r.Sure)
		}
	}
}

// Initials never make another thing of a feed that is named in words, and where devices of several systems have them
// the text is of none: Thin would let a wire go with a system that was only guessed.
func TestInitialsGuessNoFeedAndNoSystem(t *testing.T) {
	if r := signal.Read("SAM battery feed"); r.Device != "battery" || r.Sure < 0.5 {
		t.Errorf("a feed read as %s with %.2f", r.Device, r.Sure)
	}
	if r := signal.Read("TCM power supply"); r.System != "" || len(r.Others) == 0 || r.Sure >= 0.5 {
		t.Errorf("initials of several devices read as %s of %q, others %v, %.2f", r.Device, r.System, r.Others, r.Sure)
	}
}
