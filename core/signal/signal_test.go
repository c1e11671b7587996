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
			t.Errorf("%q read as %s.%s %q (others %v), want %s.%s %q", cells[0], r.Device, r.Aspect, indices(r), r.Others, cells[1], cells[2], want)
		}
	}
}
