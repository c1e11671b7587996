package server_test

import (
	"bytes"
	"math"
	"math/rand/v2"
	"net/http"
	"slices"
	"strings"
	"testing"

	"draxel/core/harness"
	"draxel/core/prove"
	"draxel/server/desk"
	"draxel/server/jobsapi"
	"draxel/server/proveapi"
	"draxel/server/workapi"
)

// proved is a Packhorse on a server, with what Prove shows of it.
type proved struct {
	*client
	job string
}

func (p proved) view() proveapi.ProveView { return show[proveapi.ProveView](p.client, p.job+"/prove") }

// post sends a request that is no change, or a change without anything of its own to be read from its reply.
func post[T any](p proved, method, path string, body any) (T, string) {
	p.t.Helper()
	return send[T](p.client, method, p.job+"/prove"+path, body)
}

// A simulated vehicle that is started from the page: its unit says who it is, what it sees and its codes, works one
// output, which the rig sees, and gives it back; the meter's vehicle is brought into the setup of the line. Draxel
// asks them as it would any other.
func TestASimulatedVehicleIsAsked(t *testing.T) {
	c := start(t)
	p := proved{c, c.packhorse(nil)}
	// What is to be seen and heard at key-on: by hand, the unit pulls its main relay and lights its lamps.
	if on := p.view().KeyOn; !slices.Contains(on, "main relay clicks") || !slices.Contains(on, "check-engine lamp on") {
		t.Errorf("at key-on: %v", on)
	}
	bench, code := post[proveapi.Benched](p, "POST", "/standin", proveapi.StandinRequest{On: true})
	if code != "" || bench.Unit == "" || bench.Rig == "" {
		t.Fatal(code, bench)
	}
	ask := func(r proveapi.UnitRequest) proveapi.UnitSays {
		t.Helper()
		r.Address = bench.Unit
		out, code := post[proveapi.UnitSays](p, "POST", "/unit", r)
		if code != "" {
			t.Fatal(r.What, code)
		}
		return out
	}
	who := ask(proveapi.UnitRequest{What: "identity"}).Identity
	want := "none said"
	if len(who) == 0 || who[0].What != "hardware number" || who[0].Says == "" || who[0].Says == want {
		t.Errorf("it is %+v", who)
	}
	if _, code := post[desk.Done](p, "PUT", "/live", proveapi.LiveRequest{ID: c.change(), Seen: p.view().Revision,
		Simulated: true}); code != "" {
		t.Fatal(code)
	}
	live := p.view().Live
	k := slices.IndexFunc(live, func(v prove.Value) bool { return v.Drives == "B1" })
	if len(live) < 80 || k < 0 {
		t.Fatalf("%d values, B1 at %d", len(live), k)
	}
	lit := func() (on []string) {
		t.Helper()
		out, code := post[proveapi.RigSays](
			p,
			"POST",
			"/rig",
			proveapi.RigRequest{Address: bench.Rig, Wheel: prove.Wheel{Teeth: 60, Missing: 2, RPM: 900}},
		)
		if code != "" || !out.Read || math.Abs(out.RPM-900) > 1 || out.Missing != 2 {
			t.Fatalf("%s, %+v", code, out)
		}
		// By hand: the V4 gives 2 pulses a revolution and the dial expects 2.5: it shows four fifths.
		if math.Abs(out.Dial-720) > 2 {
			t.Errorf("at 900 the dial is to show %g", out.Dial)
		}
		for _, l := range out.Lit {
			if l.On {
				on = append(on, l.Output)
			}
		}
		return on
	}
	if on := lit(); len(on) != 0 {
		t.Errorf("with nothing driven %v light", on)
	}
	driven := ask(proveapi.UnitRequest{What: "drive", Value: live[k].ID, Seconds: 1})
	if len(driven.Values) != 1 || driven.Values[0].Says > 1 {
		t.Errorf("driven, B1 has %+v", driven.Values)
	}
	if on := lit(); len(on) != 0 {
		t.Errorf("given back, %v light", on)
	}
	if codes := ask(proveapi.UnitRequest{What: "codes"}).Codes; len(codes) != 0 {
		t.Errorf("in order it has %+v", codes)
	}
	for name, x := range map[string]struct {
		r    proveapi.UnitRequest
		want string
	}{
		"nothing of the kind": {proveapi.UnitRequest{Address: bench.Unit, What: "explode"}, "no-action"},
		"no such output":      {proveapi.UnitRequest{Address: bench.Unit, What: "drive", Value: "FFFF"}, "no-such-value"},
		"a feed": {proveapi.UnitRequest{Address: bench.Unit, What: "drive",
			Value: live[slices.IndexFunc(live, func(v prove.Value) bool { return v.Drives == "" })].ID}, "no-such-value"},
		"the meter's address": {proveapi.UnitRequest{Address: bench.Meter, What: "codes"}, "no-unit"},
		"far away":            {proveapi.UnitRequest{Address: "198.51.100.9:13400", What: "codes"}, "not-allowed"},
		"this machine":        {proveapi.UnitRequest{Address: "127.0.0.1:22", What: "codes"}, "not-allowed"},
	} {
		if _, code := post[proveapi.UnitSays](p, "POST", "/unit", x.r); code != x.want {
			t.Errorf("%s: %q, want %q", name, code, x.want)
		}
	}
	m := prove.Measure{Kind: prove.Volts, A: "B1", B: "battery −", Setup: prove.Setup{Key: "off", Battery: true}}
	if x, code := post[prove.Shown](p, "POST", "/meter", proveapi.MeterRequest{Address: bench.Meter, Simulated: true,
		Measure: m}); code != "" ||
		math.Abs(x.Value) > 0.2 {
		t.Errorf("with the key off the meter shows %+v, %s", x, code)
	}
	// What is kept while it runs is its own, and no gate of the real vehicle is passed by it.
	before := p.view()
	if _, code := post[prove.Shown](p, "POST", "/meter",
		proveapi.MeterRequest{Address: bench.Meter, Measure: m}); code != "simulated" {
		t.Errorf("the simulated meter reads for the real vehicle: %q", code)
	}
	if _, code := post[desk.Done](p, "POST", "/reading",
		proveapi.ReadingProvedRequest{ID: c.change(), Seen: before.Revision,
			Simulated: true, Reading: prove.MeterReading{Measure: prove.Measure{Kind: prove.Works, A: "injector 1",
				Setup: prove.Setup{Key: "running", Battery: true, Units: true}}}}); code != "" {
		t.Fatal(code)
	}
	if d := show[proveapi.DiagnosisView](c, p.job+"/prove/diagnosis?simulated=1"); d.Readings != 1 || len(d.Out) != 1 {
		t.Errorf("at the simulated vehicle %d readings, %v", d.Readings, d.Out)
	}
	if _, code := post[desk.Done](p, "POST", "/gate",
		proveapi.GateRequest{ID: c.change(), Seen: before.Revision, Gate: "look", Simulated: true}); code != "simulated" {
		t.Errorf("a gate is passed at a simulated vehicle: %q", code)
	}
	if _, code := post[proveapi.Benched](p, "POST", "/standin", proveapi.StandinRequest{}); code != "" {
		t.Fatal(code)
	}
	if _, code := post[proveapi.UnitSays](p, "POST", "/unit",
		proveapi.UnitRequest{Address: bench.Unit, What: "codes"}); code != "not-allowed" {
		t.Errorf("stopped, and it answers %q", code)
	}
	if after := p.view(); after.Revision != before.Revision || len(after.Others) != 1 ||
		after.Others[0].A != "headlamp left" {
		t.Errorf(
			"something of it is in the job: revision %d after %d, %+v",
			after.Revision,
			before.Revision,
			after.Others,
		)
	}
}

// Codes that the unit has lead to its output: one stored for a broken injector wire names the output and the device.
func TestACodeLeadsToItsOutput(t *testing.T) {
	c := start(t)
	p := proved{c, c.packhorse(nil)}
	v := vehicleOf(c, p.job)
	at, device, is := v.OutputOf("P0203")
	if !is || at != "B3" || device != "injector 3" {
		t.Errorf("P0203 is about %s, %s, %v", at, device, is)
	}
	if _, _, is := v.OutputOf("P0562"); is {
		t.Error("low volts are about an output")
	}
	seed := uint64(0)
	for n := uint64(1); n < 400 && seed == 0; n++ { // a number whose fault the unit sees
		r, err := v.Train(2, n, rand.New(rand.NewPCG(n, 2)))
		if err == nil && strings.Contains(r.Hidden[0].Text, "terminal in B3 is not seated") {
			seed = n
		}
	}
	if seed == 0 {
		t.Skip("no number hides the terminal of B3")
	}
	bench, _ := post[proveapi.Benched](p, "POST", "/standin", proveapi.StandinRequest{On: true, Seed: seed})
	out, code := post[proveapi.UnitSays](p, "POST", "/unit", proveapi.UnitRequest{Address: bench.Unit, What: "codes"})
	if code != "" || len(out.Codes) != 1 || out.Codes[0].Code != "P0203" || out.Codes[0].Output != "B3" ||
		!out.Codes[0].Now {
		t.Errorf("%s, %+v", code, out.Codes)
	}
}

// Notes, and the record of the programming: two changes with no test between are found; a record is closed only when
// it is whole.
func TestRecordsOfProve(t *testing.T) {
	c := start(t)
	p := proved{c, c.packhorse(unproved)}
	note := func(kind prove.NoteKind, text string) string {
		_, code := post[desk.Done](
			p,
			"POST",
			"/note",
			proveapi.NoteRequest{ID: c.change(), Seen: p.view().Revision, Kind: kind, Text: text},
		)
		return code
	}
	has := func(code string) bool {
		for _, f := range show[jobsapi.JobView](c, p.job).Findings {
			if f.Code == code {
				return true
			}
		}
		return false
	}
	if note(prove.Changed, "another relay") != "" || note(prove.Heard, "a click") != "" || has("two-changes") {
		t.Error("one change is two")
	}
	if note(prove.Changed, "a new fuse") != "" || !has("two-changes") {
		t.Error("two changes are not found")
	}
	if note("smelt", "smoke") != "bad-value" || note(prove.Seen, " ") != "bad-value" {
		t.Error("a note that cannot be is taken")
	}
	last := p.view().Notes[2]
	if _, code := post[desk.Done](p, "POST", "/note", proveapi.NoteRequest{ID: c.change(), Seen: p.view().Revision,
		Out: last.ID}); code != "" ||
		has("two-changes") {
		t.Errorf("taken back: %q", code)
	}
	put := func(x prove.Programming) string {
		_, code := post[desk.Done](
			p,
			"PUT",
			"/program",
			proveapi.ProgramRequest{ID: c.change(), Seen: p.view().Revision, Program: x},
		)
		return code
	}
	x := prove.Programming{Backup: prove.FileMark{Name: "as it came", Hash: "0123456789ab", Date: "2026-11-26"}}
	if put(x) != "" || !has("record-open") {
		t.Error("a record that is begun is not open")
	}
	x.Written = prove.FileMark{Name: "v4", Hash: "abcdef012345", Date: "2026-11-27"}
	if x.Done = true; put(x) != "not-whole" {
		t.Error("it is closed with nothing verified")
	}
	x.Verified, x.ReadBack, x.Ticked = true, true, p.view().Settings
	if code := put(x); code != "" || has("record-open") {
		t.Errorf(
			"whole, it is not closed: %q, %+v, %+v",
			code,
			p.view().Program,
			show[jobsapi.JobView](c, p.job).Findings,
		)
	}
}

// The sheet on paper and as a table: a line for each of the fewest, and all of them where all are asked for.
func TestTheTestSheetIsPrinted(t *testing.T) {
	c := start(t)
	p := proved{c, c.packhorse(nil)}
	_, few, _ := c.do("GET", p.job+"/prove/sheet.csv", "", nil)
	_, all, _ := c.do("GET", p.job+"/prove/sheet.csv?all=1", "", nil)
	v := p.view()
	if n := bytes.Count(all, []byte("\n")); n != len(v.Lines)+2 || bytes.Count(few, []byte("\n")) >= n {
		t.Errorf("%d lines of %d", n, len(v.Lines))
	}
	status, pdf, head := c.do("GET", p.job+"/prove/sheet.pdf", "", nil)
	_, again, _ := c.do("GET", p.job+"/prove/sheet.pdf", "", nil)
	if status != http.StatusOK || !bytes.HasPrefix(pdf, []byte("%PDF")) || !bytes.Equal(pdf, again) ||
		head.Get("Content-Type") != "application/pdf" {
		t.Errorf("%d, %d bytes", status, len(pdf))
	}
}

// A round of the trainer over HTTP: what is told, what the meter shows, what could be meant; ended, it says what it
// was and keeps the result, and nothing of it is a reading of the job.
func TestATrainerRound(t *testing.T) {
	c := start(t)
	p := proved{c, c.packhorse(nil)}
	before := p.view()
	round := show[proveapi.TrainView](c, p.job+"/prove/train?level=0&seed=7")
	if round.Many != 1 || round.Text == "" || len(round.Points) < 200 || len(round.Levels) != 5 {
		t.Fatalf("%+v", round)
	}
	v := vehicleOf(c, p.job)
	r, err := v.Train(0, 7, rand.New(rand.NewPCG(7, 0)))
	if err != nil {
		t.Fatal(err)
	}
	m := prove.Measure{Kind: prove.Volts, A: "A8", B: "battery −", Setup: round.Told.Setup}
	x, code := post[prove.Shown](p, "POST", "/train/read", proveapi.TrainRequest{Seed: 7, Measure: m})
	if want, err := v.With(&m, r.Hidden[0].Faults); err != nil || code != "" || math.Abs(x.Value-want.Value) > 0.2 {
		t.Errorf("%s: %+v, want %+v, %v", code, x, want, err)
	}
	causes := show[[]string](c, p.job+"/prove/train/causes?q="+strings.ReplaceAll(r.Hidden[0].Text[:12], " ", "+"))
	if !slices.Contains(causes, r.Hidden[0].Text) {
		t.Errorf("%q is not offered: %v", r.Hidden[0].Text, causes)
	}
	end, code := post[proveapi.TrainEnd](
		p,
		"POST",
		"/train/end",
		proveapi.TrainEndRequest{ID: c.change(), Seen: before.Revision, Seed: 7, Took: 1, Seconds: 44,
			Guesses: []string{r.Hidden[0].Text}},
	)
	if code != "" || !end.Right || end.Hidden[0] != r.Hidden[0].Text || len(end.Way) == 0 {
		t.Errorf("%s: %+v", code, end)
	}
	after := p.view()
	if len(after.Trained) != len(before.Trained)+1 || after.Trained[len(after.Trained)-1].Who == "" ||
		len(after.Others) != len(before.Others) {
		t.Errorf("kept %+v", after.Trained)
	}
	if _, code := post[proveapi.TrainEnd](p, "POST", "/train/end",
		proveapi.TrainEndRequest{ID: c.change(), Level: 44}); code != "no-round" {
		t.Errorf("a level that there is not: %q", code)
	}
}

// Terminals that are found in each other's cavity and left so are what is really there: the harness as it is now has
// them so, the plan moves them on, and its proof stands.
func TestWhatIsFoundBecomesWhatIsThere(t *testing.T) {
	c := start(t)
	p := proved{c, c.packhorse(nil)}
	text := "B1 and B3 are crossed: fuel injector, cylinder 1 and fuel injector, cylinder 3"
	steps := len(show[workapi.WorkView](c, p.job+"/work").Steps)
	if _, code := post[desk.Done](p, "POST", "/mended",
		proveapi.MendRequest{ID: c.change(), Seen: p.view().Revision, Text: "a wire is broken",
			Left: true}); code != "no-exchange" {
		t.Errorf("a broken wire is left as it is: %q", code)
	}
	if _, code := post[desk.Done](p, "POST", "/mended",
		proveapi.MendRequest{ID: c.change(), Seen: p.view().Revision, Text: text, Did: "the plan follows",
			Left: true}); code != "" {
		t.Fatal(code)
	}
	work := show[workapi.WorkView](c, p.job+"/work")
	at := func(s desk.WorkStep, from, to string) bool {
		return s.From == (harness.Ref{Connector: "B", Cavity: from}) &&
			s.To == (harness.Ref{Connector: "B", Cavity: to})
	}
	one := slices.ContainsFunc(work.Steps, func(s desk.WorkStep) bool { return at(s, "1", "3") })
	three := slices.ContainsFunc(work.Steps, func(s desk.WorkStep) bool { return at(s, "3", "1") })
	if !work.Proof.Reached || work.Proof.Fault != "" || len(work.Steps) <= steps || !one && !three {
		t.Errorf("%d steps after %d, moves %v %v: %s", len(work.Steps), steps, one, three, work.Proof.Line())
	}
	waits := 0
	for _, l := range p.view().Lines {
		if l.Waits && (l.A == "B1" || l.A == "B3") {
			waits++
		}
	}
	if waits == 0 {
		t.Error("what is measured at them does not wait for the plan")
	}
}

// What people read at real devices while a simulated vehicle runs is the job's, and stands when that has stopped; a
// meter that shows a little less than nothing with its leads shorted is believed.
func TestRealReadingsWhileASimulationRuns(t *testing.T) {
	t.Parallel()
	c := start(t)
	p := proved{c, c.packhorse(nil)}
	if _, code := post[proveapi.Benched](p, "POST", "/standin", proveapi.StandinRequest{On: true}); code != "" {
		t.Fatal(code)
	}
	v := p.view()
	var ohms *proveapi.ProvedLine
	for i := range v.Lines {
		if l := &v.Lines[i]; l.Kind == prove.Ohms && l.Reading == nil && !l.Band.Over && l.Band.Least == 0 {
			ohms = l
			break
		}
	}
	if !v.Bench.On || v.Simulated || ohms == nil {
		t.Fatalf("runs %v, shown as simulated %v, line %v", v.Bench.On, v.Simulated, ohms)
	}
	for value, want := range map[float64]string{-0.1: "", -3: "bad-value"} {
		r := prove.MeterReading{Measure: ohms.Measure, Value: value}
		if _, code := post[desk.Done](p, "POST", "/reading",
			proveapi.ReadingProvedRequest{ID: c.change(), Seen: v.Revision, Reading: r}); code != want {
			t.Errorf("%g Ω: %q, want %q", value, code, want)
		}
	}
	if _, code := post[proveapi.Benched](p, "POST", "/standin", proveapi.StandinRequest{}); code != "" {
		t.Fatal(code)
	}
	for _, l := range p.view().Lines {
		if l.ID == ohms.ID && (l.Reading == nil || l.Reading.Value != -0.1 || !l.Fits) {
			t.Errorf("what was read is %+v", l.Reading)
		}
	}
	if _, code := post[desk.Done](p, "POST", "/reading", proveapi.ReadingProvedRequest{ID: c.change(), Seen: v.Revision,
		Simulated: true, Reading: prove.MeterReading{Measure: ohms.Measure, Value: 1}}); code != "no-simulation" {
		t.Errorf("at a simulation that is gone: %q", code)
	}
}
