package network

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"

	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/size"
)

// inside draws what somebody has said.
func (d *drawing) inside() {
	in := &d.in.Inside
	for _, s := range in.Sources {
		minus := cmp.Or(s.Minus, "battery −")
		d.b.Add(Element{Name: s.Name, Kind: Source, A: d.place(s.Plus), B: d.place(minus), Volts: s.Volts,
			Ohms:  cmp.Or(s.Ohms, 0.006),
			Limit: s.Limit, Gate: Gate{Running: running(s.Running)}})
	}
	for _, s := range in.Slots {
		d.b.Add(Element{Name: "fuse " + s.Name, Of: s.Name, Kind: Fuse, A: d.point(s.In), B: d.point(s.Out),
			Ohms: FuseOhms(s.Rating), Limit: s.Rating})
	}
	for _, s := range in.Switches {
		d.b.Add(
			Element{
				Name: s.Name,
				Kind: Switch,
				A:    d.place(s.From),
				B:    d.place(s.To),
				Ohms: cmp.Or(s.Ohms, SwitchOhms),
				Gate: Gate{Key: s.Key, Switch: s.Switch},
			},
		)
	}
	for _, r := range in.Relays {
		plus, minus := d.place(r.Coil[0]), d.place(r.Coil[1])
		coil := d.load(r.Name, Element{Name: r.Name + " coil", Kind: Load, A: plus, B: minus, Ohms: cmp.Or(r.Ohms,
			bodies()["mainrelaycoil"].Ohms)})
		k := d.b.Relay(Relay{Name: r.Name, Coil: coil, PullIn: pullVolts, DropOut: dropVolts})
		if r.Diode {
			d.b.Add(Element{Name: r.Name + " diode", Kind: Diode, A: minus, B: plus, Ohms: 0.05, Volts: 0.7})
		}
		if r.Make != "" {
			d.b.Add(Element{Name: r.Name + " contact", Kind: Switch, A: d.place(r.Common), B: d.place(r.Make),
				Ohms: RelayOhms, Gate: Gate{Relay: k}})
		}
		if r.Break != "" {
			d.b.Add(Element{Name: r.Name + " rest contact", Kind: Switch, A: d.place(r.Common),
				B: d.place(r.Break), Ohms: RelayOhms,
				Gate: Gate{Relay: k, Rest: true}})
		}
	}
	for _, c := range in.Cables {
		ohms := c.Ohms
		if ohms == 0 {
			ohms = size.Section(cmp.Or(c.Square, 16)).WorstResistance(20)*cmp.Or(c.Length, 500)/1000 + 2*StudOhms
		}
		d.b.Add(Element{Name: c.Name, Kind: Copper, A: d.point(c.From), B: d.point(c.To), Ohms: ohms})
	}
	for _, u := range in.Uses {
		volts := cmp.Or(u.Volts, 12)
		e := Element{Name: u.Name, Kind: Load, A: d.place(u.Plus), B: d.place(cmp.Or(u.Minus, "body")),
			Ohms: volts / u.Amps, Volts: volts,
			Gate: Gate{Switch: u.Switch}}
		if u.Lamp {
			e.Kind = Lamp
		}
		d.out.Starters[u.Name] = u.Starter || calledStarter(u.Name)
		if u.Starter {
			d.motors = append(d.motors, e)
			continue
		}
		d.load(u.Name, e)
	}
}

// At what volts a 12 V relay pulls and lets go: three fifths and a fifth (common practice).
const (
	pullVolts = 7.5
	dropVolts = 2.4
)

func running(only bool) int8 {
	if only {
		return 1
	}
	return 0
}

// place gives the node of a point, and notes that somebody has said what is there: the device of that cavity, if it
// is no hub, is not guessed at.
func (d *drawing) place(text string) Node {
	if at, ok := d.ref(text); ok {
		if h := d.halves[at.Connector]; h != nil && h.Device != "" {
			d.said[h.Device] = true
		}
	}
	return d.point(text)
}

// pin is a cavity of a device with what comes to it.
type pin struct {
	at harness.Ref
	signal.Reading
	text string
	n    Node
}

// devices draws what is inside of devices, each as far as it is known.
func (d *drawing) devices() {
	pins := map[string][]pin{}
	for _, at := range d.in.Harness.Cavities() {
		h := d.halves[at.Connector]
		if h == nil || h.Device == "" || d.in.Harness.Free(at.Connector) {
			continue
		}
		if _, full := d.in.Harness.In(at); full {
			pins[h.Device] = append(
				pins[h.Device],
				pin{at, d.out.roles[at].signal, d.out.roles[at].text, d.cavity(at)},
			)
		}
	}
	for i := range d.in.Devices {
		dev := &d.in.Devices[i]
		all := pins[dev.ID]
		d.isStarter(dev, all)
		slices.SortFunc(all, func(a, b pin) int { return harness.CompareRefs(a.at, b.at) })
		switch {
		case len(all) == 0:
		case dev.Kind == harness.Grounds:
			for _, p := range all {
				d.b.Add(Element{Name: "stud " + p.at.String(), Kind: Contact, A: p.n, B: d.point(dev.ID),
					Ohms: StudOhms})
			}
		case dev.Kind == harness.Unit:
			d.unit(dev, all)
		case dev.Kind == harness.Fuses, dev.Kind == harness.Suppressor, d.said[dev.ID]:
		case !d.part(dev, all):
			d.out.Open = append(d.out.Open, dev.ID)
		}
	}
	d.starters()
}

// side says which end of a device a wire comes to.
type side int

const (
	signalEnd   side = iota
	fedEnd           // it is fed
	servedEnd        // it is controlled, or grounded
	senseFed         // a sensor's supply
	senseReturn      // a sensor's ground
	eitherEnd        // a load's: fed, or led on to a switch
)

// feedWords are the words by which a load's wire says that it brings current.
var feedWords = regexp.MustCompile(`(?i)\b(?:feed|fed|supply|supplied|battery|ignition|switched|live|power)\b`)

func (p *pin) side() side {
	switch p.Role {
	case signal.Battery, signal.Ignition, signal.Start, signal.HighSide:
		return fedEnd
	case signal.Load:
		if feedWords.MatchString(p.text) {
			return fedEnd
		}
		return eitherEnd
	case signal.SensorSupply, signal.Reference5V:
		return senseFed
	case signal.SensorGround:
		return senseReturn
	case signal.Ground, signal.LowSide, signal.CoilDriver, signal.PWM, signal.RelayCoil, signal.Lamp:
		if p.Aspect == signal.AspectSupply || p.Aspect == signal.AspectHeaterSupply {
			return fedEnd
		}
		return servedEnd
	}
	return signalEnd
}

// senseOhms is what a sensor draws of which only its supply is known: 5 mA of 5 V (common practice).
const senseOhms = 1000

// part draws a sensor, an actuator or a lamp: its body between the ends that are fed and those that are not, each
// pair by what its own wire says. It is false where nothing is known of it.
func (d *drawing) part(dev *harness.Device, all []pin) bool {
	d.loop(dev, all)
	for i := range all {
		if role := all[i].Role; role == signal.Restraint || role == signal.HighVoltage {
			return true // left to qualified hands: nothing is reckoned of it
		}
	}
	if isSwitch(all) {
		d.toggle(dev, all)
		return true
	}
	body, known := Body{}, false
	for i := range all { // what a wire of its own says before the name of the device
		if b, ok := BodyOf(all[i].Device); ok && !known {
			body, known = b, true
		}
	}
	if !known {
		body, known = BodyOf(signal.Read(dev.ID).Device)
	}
	if !known {
		return false
	}
	at := map[side][]pin{}
	for _, p := range all {
		at[p.side()] = append(at[p.side()], p)
	}
	fed, served := at[fedEnd], at[servedEnd]
	switch grounded := slices.ContainsFunc(served, func(p pin) bool { return p.Role == signal.Ground }); {
	case len(fed) == 0 && !grounded && stages(at[eitherEnd]): // feeds of two speeds, of two beams
		fed = at[eitherEnd]
	case len(fed) == 0 && !grounded && len(at[eitherEnd]) == 2: // the two ends of one load
		fed, served = at[eitherEnd][:1], append(served, at[eitherEnd][1])
	case len(fed) == 0 || grounded:
		fed = append(fed, at[eitherEnd]...)
	default:
		served = append(served, at[eitherEnd]...)
	}
	if len(fed) > 0 && slices.ContainsFunc(served, func(p pin) bool { return p.Role == signal.Ground }) {
		// what a unit only triggers takes its current from feed to ground
		triggered := func(p pin) bool { return p.Role == signal.CoilDriver || p.Role == signal.LowSide }
		d.turning = slices.ContainsFunc(served, triggered)
		served = slices.DeleteFunc(served, triggered)
		defer func() { d.turning = false }()
	}
	if len(served) == 0 && len(at[senseFed]) == 0 && len(fed) > 0 {
		served = at[senseReturn]
	}
	cased := d.cased(dev)
	pairs := 0
	add := func(plus, minus Node, b Body) {
		d.body(dev.ID, b, plus, minus, number(pairs))
		pairs++
	}
	switch {
	case len(all) == 2 && len(fed)+len(served) < 2:
		add(all[0].n, all[1].n, body)
	case len(fed) > 0 && len(served) > 0:
		for i := range max(len(fed), len(served)) {
			p, m := fed[min(i, len(fed)-1)], served[min(i, len(served)-1)]
			add(p.n, m.n, bodyFor(p, m, body))
		}
	case len(fed) > 0: // it is grounded through its case
		for _, p := range fed {
			add(p.n, cased, bodyFor(p, p, body))
		}
	case len(served) > 0 && len(at[senseFed]) == 0:
		other := cased
		if rest := append(slices.Clone(at[signalEnd]), at[senseReturn]...); len(rest) > 0 {
			other = rest[0].n
		}
		add(served[0].n, other, body)
	}
	for i, p := range at[senseFed] {
		minus := cased
		if r := append(slices.Clone(at[senseReturn]), served...); len(r) > 0 {
			minus = r[min(i, len(r)-1)].n
		}
		add(p.n, minus, Body{Kind: Load, Ohms: max(body.Ohms, senseOhms)})
	}
	if pairs == 0 {
		minus := cased
		if r := at[senseReturn]; len(r) > 0 {
			minus = r[0].n
		}
		if rest := at[signalEnd]; len(rest) > 0 {
			add(rest[0].n, minus, body)
		}
	}
	return true
}

func number(i int) string {
	if i == 0 {
		return ""
	}
	return fmt.Sprint(" ", i+1)
}

func (d *drawing) body(device string, b Body, plus, minus Node, more string) {
	e := Element{Name: device + more, Kind: b.Kind, A: plus, B: minus, Ohms: b.Ohms, Volts: 12}
	if d.turning {
		e.Gate.Switch = Turning
	}
	if i := d.load(device, e); b.Stalled > 0 {
		d.out.Stalled[i] = b.Stalled
	}
}

// ground gives the place that the case of a device is bolted to.
func (d *drawing) ground(dev *harness.Device) string {
	if dev.Owner == harness.Engine || dev.Owner == harness.Gearbox {
		return "engine block"
	}
	return "body"
}

// What a unit draws: awake at its feeds, asleep at its battery feed; and at what volts it wakes and fails (common
// practice).
const (
	awakeOhms  = 24.0
	asleepOhms = 2400.0
	wakeVolts  = 7.0
	failVolts  = 5.5
	inputOhms  = 50e3
)

// unit draws a control unit: what it draws, its references, its outputs. Without its feed, or without its ground, it
// does nothing.
func (d *drawing) unit(dev *harness.Device, all []pin) {
	id := dev.ID
	if !d.in.OwnGround[id] && !slices.ContainsFunc(all, func(p pin) bool { return p.Role == signal.Ground }) {
		d.b.Add(Element{Name: id + " case", Kind: Contact, A: d.point(d.ground(dev)),
			B: d.b.Place(id+" ground inside", Within), Ohms: 0.01})
		d.out.Assumed = append(d.out.Assumed,
			fmt.Sprintf("%s has no ground in the lists: reckoned as grounded by its case", id))
	}
	in := d.b.Place(id+" ground inside", Within)
	inFeed := d.b.Place(id+" feed inside", Within)
	d.out.Inner[in], d.out.Inner[inFeed] = true, true
	var wake *pin
	for i := range all {
		p := &all[i]
		switch {
		case p.Role == signal.Ground:
			d.b.Add(Element{Name: "ground pin " + p.at.String(), Kind: Contact, A: p.n, B: in, Ohms: 0.005})
		case p.Role == signal.Ignition && (wake == nil ||
			wake.Device == "mainrelay"): // that comes once the unit is awake
			wake = p
		}
	}
	for i := range all {
		if p := &all[i]; wake == nil && p.Role == signal.Battery {
			wake = p
		}
	}
	if wake == nil {
		d.out.Open = append(d.out.Open, id)
		return
	}
	draws := awakeOhms
	if wake.Role == signal.Battery { // nothing says that it is to wake
		draws = asleepOhms
	}
	coil := d.load(id, Element{Name: id, Kind: Load, A: wake.n, B: in, Ohms: draws})
	k := d.b.Relay(Relay{Name: id + " awake", Pull: Awake, Coil: coil, PullIn: wakeVolts, DropOut: failVolts})
	d.out.Units[id] = k
	feeds := 0
	for _, p := range all {
		name := p.at.String()
		switch p.Role {
		case signal.Ground:
		case signal.Battery, signal.Ignition:
			if feeds == 0 && (p.Role == signal.Battery || p.Device == "mainrelay") {
				d.b.Add(Element{Name: "feed pin " + name, Kind: Contact, A: p.n, B: inFeed, Ohms: 0.02})
				feeds++
			}
			if p.Role == signal.Battery {
				d.load(id, Element{Name: id + " asleep " + name, Kind: Load, A: p.n, B: in, Ohms: asleepOhms})
			}
		case signal.SensorGround, signal.Shield:
			d.b.Add(Element{Name: "sensor ground pin " + name, Role: SensorPin, Of: name, Kind: Contact, A: p.n, B: in,
				Ohms: 0.05})
		case signal.Reference5V, signal.SensorSupply:
			i := d.b.Add(Element{Name: "reference " + name, Kind: Source, A: p.n, B: in, Volts: 5, Ohms: 0.5,
				Limit: 0.1, Gate: Gate{Relay: k}})
			d.out.Device[i] = id
		case signal.LowSide, signal.CoilDriver, signal.PWM, signal.RelayCoil, signal.Lamp:
			d.b.Add(Element{Name: "output " + name, Role: OutputPin, Of: name, Kind: Switch, A: p.n, B: in, Ohms: OutputOhms,
				Gate: Gate{Relay: k, Switch: name}})
			d.out.Outputs[name] = p.Text
		case signal.HighSide:
			d.b.Add(Element{Name: "output " + name, Role: OutputPin, Of: name, Kind: Switch, A: inFeed, B: p.n, Ohms: OutputOhms,
				Gate: Gate{Relay: k, Switch: name}})
			d.out.Outputs[name] = p.Text
		case signal.Motor:
			e := Element{Name: "output " + name, Role: OutputPin, Of: name, Kind: Switch, A: inFeed, B: p.n, Ohms: OutputOhms,
				Gate: Gate{Relay: k, Switch: name}}
			if p.Polarity != "+" {
				e.A, e.B = p.n, in
			}
			d.b.Add(e)
			d.out.Outputs[name] = p.Text
		default: // also of what is fed elsewhere: whether a unit uses it or switches it, its wire does not say
			d.b.Add(Element{Name: "input " + name, Role: InputPin, Of: name, Kind: Load, A: p.n, B: in, Ohms: inputOhms})
		}
	}
}
