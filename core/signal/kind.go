package signal

import "slices"

// makes are the words that make another device of whatever they stand beside: an injector relay is no injector, a
// battery current sensor no battery feed. What the thing then is, and its role seen from the control unit.
var makes = map[string]struct {
	noun string
	role Role
}{
	"relay": {"relay", RelayCoil}, "switch": {"switch", SwitchInput}, "sensor": {"sensor", Analogue},
	"motor":    {"motor", Motor},
	"solenoid": {"valve", LowSide}, "lamp": {"lamp", Lamp}, "current": {"sensor", Analogue}, "level": {"sensor", Analogue},
	"pressure": {"sensor", Analogue}, "temperature": {"sensor", Analogue}, "position": {"sensor", Analogue},
}

// quantities are what is measured: a word beside them says what measures it.
var quantities = []string{"current", "level", "pressure", "temperature", "position"}

// own lists the words that are natural beside a device, by the role of its first wire.
var own = map[Role][]string{
	Analogue: {"sensor"}, Frequency: {"sensor"}, SwitchInput: {"switch", "sensor"}, LowSide: {"solenoid"},
	PWM:      {"solenoid"},
	HighSide: {"solenoid"}, Motor: {"motor", "solenoid"}, RelayCoil: {"relay"}, Lamp: {"lamp"}, Load: {"motor"},
	Restraint: {"sensor", "switch", "relay", "motor", "solenoid", "lamp", "current", "level", "pressure",
		"temperature", "position"},
	HighVoltage: {"sensor", "switch", "relay", "motor", "solenoid", "lamp", "current", "level", "pressure", "temperature",
		"position"},
}

// behind are the words after which it is told where a wire comes from, not what it is.
var behind = []string{"from", "via", "ex", "von", "over", "through"}

// other gives the place of the word that makes another device of what a phrase names, −1 where none does: of several
// the last that names a thing, else a quantity.
func (l *lexicon) other(p *passage, def, phrase int) int {
	d := &l.defs[def]
	used := p.places(d.phrases[phrase])
	if says(d, d.phrases[phrase]) { // only what stands right behind it can make another thing of it: injector power relay
		last := -1
		for i := range used {
			if used[i] && !p.used[i] {
				last = i
			}
		}
		if last+1 < len(p.words) && !used[last+1] {
			if _, kind := makes[p.words[last+1]]; kind && p.words[last+1] != "sensor" && !l.names(d, p.words[last+1]) {
				return last + 1
			}
		}
		return -1
	}
	at := -1
	for i, w := range p.words {
		if slices.Contains(behind, w) {
			break
		}
		if _, kind := makes[w]; !kind || used[i] || slices.Contains(own[d.Aspects[0].Role], w) || l.names(d, w) {
			continue
		}
		if at < 0 || !slices.Contains(quantities, w) || slices.Contains(quantities, p.words[at]) {
			at = i
		}
	}
	return at
}

// says whether a phrase leaves no doubt that a wire is a feed or a ground: what else is named hangs on it. "Battery
// feed to the ignition switch", "rear lamp ground"; but not "battery current sensor".
func says(d *definition, phrase []string) bool {
	switch d.Aspects[0].Role {
	case Ground, SensorGround, Reference5V:
		return true
	case Battery, Ignition, Start:
		return slices.ContainsFunc(phrase, func(w string) bool {
			return slices.Contains([]string{"supply", "output", "voltage", "positive", "terminal", "bplus", "v12"}, w)
		})
	}
	return false
}

// names says whether a word stands in any phrase of a device.
func (l *lexicon) names(d *definition, word string) bool {
	return slices.ContainsFunc(d.phrases, func(p []string) bool { return slices.Contains(p, word) })
}

// places marks the words that a phrase takes up.
func (p *passage) places(phrase []string) []bool {
	q := passage{words: p.words, used: slices.Clone(p.used)}
	q.take(phrase)
	return q.used
}

// sameThing is the share of the best phrase's score from which a phrase is taken that leaves no such word over.
const sameThing = 0.7

// pick gives the hit that the text means: the best, or the next that leaves no word over which makes another device of
// it. Where all do, it gives the place of the word that the best leaves over.
func (l *lexicon) pick(p *passage, hits []hit) (chosen, odd int) {
	odd = -1
	for i, h := range hits {
		if h.score < sameThing*hits[0].score {
			break
		}
		at := l.other(p, h.def, h.phrase)
		if at < 0 {
			return i, -1
		}
		if i == 0 {
			odd = at
		}
	}
	return 0, odd
}

// notInVocabulary gives the reading of a device that the vocabulary has not, but whose kind is said: a relay, switch,
// sensor, motor, valve or lamp of something that it has.
func (l *lexicon) notInVocabulary(p *passage, h hit, at int) Reading {
	d, kind := &l.defs[h.def], makes[p.words[at]]
	p.take(d.phrases[h.phrase])
	p.used[at] = true
	r := Reading{Device: kind.noun + " of " + d.ID, Name: kind.noun + ", of " + d.Name, System: d.System,
		Index: ByChannel, Role: kind.role}
	r.Aspect = AspectSignal
	if kind.role == RelayCoil || kind.role == LowSide || kind.role == Motor || kind.role == Lamp {
		r.Aspect = AspectControl
	}
	for _, w := range p.words {
		switch {
		case w == "ground" && r.Aspect == AspectSignal:
			r.Aspect, r.Role = AspectGround, SensorGround
		case w == "supply" && r.Aspect == AspectControl:
			r.Aspect, r.Role = AspectSupply, Ignition
		}
	}
	p.indices(&r)
	explained := h.score + p.said
	r.Sure = 0.7 * explained / (explained + 0.4*p.unexplained(l))
	r.Text = r.String()
	return r
}
