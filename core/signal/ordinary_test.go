package signal_test

import (
	"bufio"
	"os"
	"strings"
	"testing"

	"draxel/core/signal"
)

func texts(t *testing.T, name string) [][2]string {
	t.Helper()
	f, err := os.Open("testdata/" + name)
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	var out [][2]string
	for s := bufio.NewScanner(f); s.Scan(); {
		if a, b, ok := strings.Cut(s.Text(), "|"); ok && s.Text()[0] != '#' || strings.HasPrefix(s.Text(), "#1") ||
			strings.HasPrefix(s.Text(), "#2") {
			out = append(out, [2]string{strings.TrimSpace(a), strings.TrimSpace(b)})
		}
	}
	return out
}

// Ordinary texts are read right in 95 % and wrongly in hardly any; one that is not read is no error, only a pity.
func TestOrdinaryTexts(t *testing.T) {
	right, wrong := 0, 0
	var all [][2]string
	for _, list := range []string{"ordinary.txt", "second.txt", "third.txt", "fourth.txt", "fifth.txt", "sixth.txt"} {
		all = append(all, texts(t, list)...)
	}
	for _, x := range all {
		switch r := signal.Read(x[0]); {
		case r.Device == x[1]:
			right++
		case !r.Read():
			t.Logf("%q is not read", x[0])
		default:
			wrong++
			t.Logf("%q read as %s with %.2f", x[0], r.Device, r.Sure)
		}
	}
	t.Logf("of %d texts %d are read right, %d wrong", len(all), right, wrong)
	if 100*right < 95*len(all) || 200*wrong > len(all) {
		t.Errorf("of %d texts %d are read right, %d wrong", len(all), right, wrong)
	}
}

// What the vocabulary has not is not read as its neighbour.
func TestUnknownThingsAreNotTheirNeighbours(t *testing.T) {
	first, second := texts(t, "unknown.txt"), texts(t, "unknown2.txt")
	wrong, all := 0, append(first, second...)
	for i, x := range all { // of the second list with certainty: a guess at half the certainty is asked about
		if r := signal.Read(x[0]); r.Device == x[1] && i < len(first) || r.Sure >= 0.9 &&
			!strings.Contains(r.Device, " of ") {
			wrong++
			t.Logf("%q read as %s with %.2f", x[0], r.Device, r.Sure)
		}
	}
	if 50*wrong > len(all) {
		t.Errorf("of %d unknown things %d are read as something else", len(all), wrong)
	}
}

// A feed that a text calls battery or permanent is always on, whatever it feeds: taken for a switched one it would be
// matched to what the key cuts.
func TestABatteryFeedIsNotSwitched(t *testing.T) {
	for text, want := range map[string]signal.Role{
		"Instrument battery feed": signal.Battery, "Instrument feed": signal.Ignition,
		"Instrument ignition feed": signal.Ignition,
		"Cluster permanent supply": signal.Battery, "Gauge feed, ignition switched": signal.Ignition,
		"Ignition feed": signal.Ignition,
		"Battery gauge": signal.Ignition,
	} {
		if r := signal.Read(text); r.Role != want {
			t.Errorf("%q is %s, want %s", text, r.Role, want)
		}
	}
}
