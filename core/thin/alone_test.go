package thin_test

import (
	"math/rand/v2"
	"testing"

	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/thin"
	"draxel/core/work"
)

// copper is the loom once more, as names joined by wires: what shares a name is joined.
type copper struct {
	ends    map[string][2]string // by wire
	at      map[string][]string  // wires by name
	source  map[string]bool
	anchor  map[string]bool
	through map[string]bool // an in-line contact, or where exactly two ends meet in a splice or a junction
}

func copperOf(l *harness.Loom) *copper {
	c := &copper{map[string][2]string{}, map[string][]string{}, map[string]bool{}, map[string]bool{}, map[string]bool{}}
	halves, devices := map[string]*harness.Half{}, map[string]*harness.Device{}
	for i := range l.Devices {
		devices[l.Devices[i].ID] = &l.Devices[i]
	}
	for i := range l.Connectors {
		halves[l.Connectors[i].ID] = &l.Connectors[i]
	}
	joint := map[string]bool{}
	for _, w := range l.Wires {
		var names [2]string
		for k, e := range w.Ends {
			name := "open end of " + string(w.ID) + string(rune('1'+k))
			h := halves[e.At.Connector]
			switch {
			case e.Splice != "":
				name = "splice " + string(e.Splice)
				joint[name] = true
			case e.Taped:
			case h == nil:
				c.anchor[name] = true
			default:
				name = e.At.String()
				linked := false
				for _, row := range h.Links {
					for _, cavity := range row {
						if cavity == e.At.Cavity {
							name, linked = h.ID+" row "+row[0], true
							joint[name] = true
						}
					}
				}
				if h.Mate != "" && !linked {
					name = min(h.ID, h.Mate) + " contact " + e.At.Cavity
					c.through[name] = true
				} else if d := devices[h.Device]; d != nil && (d.Kind == harness.Fuses || d.Kind == harness.Grounds) {
					c.source[name], c.anchor[name] = true, true
				}
			}
			names[k] = name
		}
		c.ends[string(w.ID)] = names
		c.at[names[0]], c.at[names[1]] = append(c.at[names[0]], string(w.ID)), append(c.at[names[1]], string(w.ID))
	}
	for name := range joint {
		c.through[name] = c.through[name] || len(c.at[name]) == 2
	}
	return c
}

// side gives the names that are joined to one without a wire, and how many wires lie among them.
func (c *copper) side(from, without string) (names map[string]bool, wires map[string]bool) {
	names, wires = map[string]bool{from: true}, map[string]bool{}
	for queue := []string{from}; len(queue) > 0; queue = queue[1:] {
		for _, w := range c.at[queue[0]] {
			if w == without || wires[w] {
				continue
			}
			wires[w] = true
			for _, n := range c.ends[w] {
				if !names[n] {
					names[n] = true
					queue = append(queue, n)
				}
			}
		}
	}
	return names, wires
}

// leftAlone says which wires nobody may decide about, by taking each wire out in turn: those of restraint and their
// runs, those without which a fuse, a ground or an end that nobody followed would no longer be joined to them, whole
// circuits of high voltage, and those of restraint that nothing known feeds.
func leftAlone(l *harness.Loom) map[string]bool {
	c := copperOf(l)
	out, own, high, seed := map[string]bool{}, map[harness.WireID]bool{}, map[harness.WireID]bool{},
		map[harness.WireID]bool{}
	system := map[string]string{}
	for _, h := range l.Connectors {
		for _, d := range l.Devices {
			if d.ID == h.Device {
				system[h.ID] = d.System
			}
		}
	}
	var run []string
	for _, w := range l.Wires {
		own[w.ID] = w.Signal.Role == signal.Restraint
		high[w.ID] = w.Signal.Role == signal.HighVoltage
		seed[w.ID] = own[w.ID] || high[w.ID] || system[w.Ends[0].At.Connector] == "restraint" ||
			system[w.Ends[1].At.Connector] == "restraint"
		if seed[w.ID] {
			run = append(run, string(w.ID))
		}
	}
	for len(run) > 0 {
		w := run[0]
		run = run[1:]
		if out[w] {
			continue
		}
		out[w] = true
		for _, n := range c.ends[w] {
			c.anchor[n] = true
			if c.through[n] {
				run = append(run, c.at[n]...)
			}
		}
	}
	var more []string
	for _, w := range l.Wires {
		names, wires := c.side(c.ends[string(w.ID)][0], "")
		some, whole, signals, fed := false, false, false, false
		for other := range wires {
			some = some || seed[harness.WireID(other)]
			whole, signals = whole || high[harness.WireID(other)], signals || own[harness.WireID(other)]
		}
		for n := range names {
			fed = fed || c.source[n]
		}
		if some && (whole || !fed && signals || fed && c.between(w.ID)) {
			more = append(more, string(w.ID))
		}
	}
	for _, w := range more {
		out[w] = true
	}
	return out
}

// between says whether something to be left alone, or a ring, is on either side of a wire.
func (c *copper) between(w harness.WireID) bool {
	for k, from := range c.ends[string(w)] {
		names, wires := c.side(from, string(w))
		if names[c.ends[string(w)][1-k]] {
			return true
		}
		held := len(wires) >= len(names)
		for n := range names {
			held = held || c.anchor[n]
		}
		if !held {
			return false
		}
	}
	return true
}

// Whatever is decided, what is left to qualified hands is as it was found: its ends, the splices and terminals that
// they are at, and that it is joined to every fuse and ground it was joined to. No step opens such a place.
func TestWhatIsLeftToQualifiedHandsIsNotTouched(t *testing.T) {
	alone, shared, freed := 0, 0, 0
	for seed := range uint64(*cases) {
		r := rand.New(rand.NewPCG(seed, 5))
		l := made(r, 4+r.IntN(60))
		decisions := decided(r, l)
		result := thin.Compute(thin.Input{Loom: l, Decisions: decisions, Bench: thin.Standard()})
		steps := carried(result)
		end, _, err := work.Run(l.Found(), steps, nil)
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		found, c := l.Found(), copperOf(l)
		places := map[string]bool{}
		is := leftAlone(l)
		for w := range is {
			alone++
			was, _ := found.Tips(harness.WireID(w))
			if now, ok := end.Tips(harness.WireID(w)); !ok || now != was {
				t.Fatalf("seed %d: %s is left alone and was touched: %v, was %v", seed, w, now, was)
			}
			for _, tip := range was {
				places[string(tip.Joint)], places[string(tip.Terminal)] = true, true
			}
			for _, n := range c.ends[w] {
				for _, o := range c.at[n] {
					if _, still := end.Tips(harness.WireID(o)); !is[o] && !still {
						shared++
					}
				}
			}
		}
		for _, s := range steps {
			for _, e := range s.Edits {
				switch e.Do {
				case harness.Open, harness.Join, harness.Tap:
					if e.Joint != "" && places[string(e.Joint)] {
						t.Fatalf("seed %d: %q opens %s", seed, s.Text, e.Joint)
					}
				case harness.Remove, harness.Insert, harness.Clip:
					if places[string(e.Terminal)] {
						t.Fatalf("seed %d: %q takes %s", seed, s.Text, e.Terminal)
					}
				}
			}
		}
		before, after := components(l, nil, func(string) bool { return false }), componentsOf(l, end)
		for _, w := range l.Wires {
			if w.Signal.Role != signal.Restraint {
				continue
			}
			for _, e := range w.Ends {
				for ref, k := range before {
					if e.At != (harness.Ref{}) && k == before[e.At] && c.source[ref.String()] && after[ref] != after[e.At] {
						t.Fatalf("seed %d: %s of restraint is no longer joined to %s", seed, e.At, ref)
					}
				}
			}
		}
		for i := range l.Wires {
			if !is[string(l.Wires[i].ID)] && result.Wires[i].Choice == thin.Goes {
				freed++
			}
		}
	}
	if alone == 0 || shared == 0 || freed == 0 {
		t.Errorf("nothing was tried: %d wires left alone, %d legs beside them gone, %d wires gone", alone, shared, freed)
	}
	t.Logf("%d wires left alone, %d legs beside them gone, %d wires gone", alone, shared, freed)
}
