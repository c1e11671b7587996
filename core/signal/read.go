package signal

import (
	"cmp"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// Read gives what the text says of a circuit; an unread one is the zero Reading.
//
// The device is the one whose phrase explains most of the text: the words of a phrase are summed, weak words count a
// third, and a phrase that stands in one piece counts a little more. A plain feed or ground gives way to any device
// that is named beside it ("MAP 5 V reference" is the sensor's). What the phrase leaves over names the aspect, then the
// indices; words that nothing explains lower Sure. A word that makes another device of what is named, a relay beside an
// injector, is never passed over: the text is then of a relay, of that.
func Read(text string) Reading { return read.get(text) }

func (l *lexicon) read(text string) Reading {
	p := l.passage(text)
	hits := l.devices(p)
	if len(hits) == 0 || l.defs[hits[0].def].Index == ByExchange && l.sensorInitials(p) { // "CHTS gnd" is the sensor's
		return l.initialled(p)
	}
	chosen, odd := l.pick(p, hits)
	best := hits[chosen]
	if odd >= 0 {
		return l.notInVocabulary(p, best, odd)
	}
	d := l.defs[best.def]
	p.take(d.phrases[best.phrase])
	r := Reading{Device: d.ID, Name: d.Name, System: d.System, Index: d.Index}
	for _, h := range hits[chosen+1:] {
		if h.score >= 0.85*best.score && len(r.Others) < 3 {
			r.Others = append(r.Others, l.defs[h.def].ID)
		}
	}
	p.polarity(&r)
	l.aspect(p, d, &r)
	p.indices(&r)
	explained := best.score + p.said
	r.Sure = explained / (explained + 0.4*p.unexplained(l)) * min(1, best.score/0.6)
	if len(r.Others) > 0 {
		r.Sure *= 0.8
	}
	r.Text = r.String()
	return r
}

// passage is a text being read: its canonical words and which of them are used up.
type passage struct {
	words []string
	used  []bool
	said  float64 // weight of the words that aspect and indices explained
}

func (l *lexicon) passage(text string) *passage {
	p := &passage{}
	for _, t := range tokenize(text) {
		if _, known := slices.BinarySearch(l.known, t); !known {
			if parts := l.compound(t); parts != nil {
				for _, w := range parts {
					p.words = append(p.words, l.canonical(w))
				}
				continue
			}
		}
		p.words = append(p.words, l.canonical(l.mend(t)))
	}
	p.used = make([]bool, len(p.words))
	p.ranges()
	return p
}

// ranges passes over volts that stand beside "signal": they are what the signal ranges over, and no supply or
// reference.
func (p *passage) ranges() {
	if !slices.Contains(p.words, "signal") || slices.ContainsFunc(p.words,
		func(w string) bool { return w == "supply" || w == "reference" }) {
		return
	}
	for i, w := range p.words {
		if w == "v5" || w == "v12" {
			p.used[i] = true
		}
	}
}

type hit struct {
	def, phrase int
	score       float64
}

// devices lists, best first, one hit for each definition with a phrase that the text contains whole.
func (l *lexicon) devices(p *passage) []hit {
	best := map[int]hit{}
	for _, w := range p.words {
		for _, u := range l.uses[w] {
			phrase := l.defs[u.def].phrases[u.phrase]
			whole := p.at(phrase) >= 0
			if !whole && (numbered(phrase) || faint(phrase) || !p.holds(phrase)) {
				continue
			}
			s := 0.0
			for _, w := range phrase {
				s += l.weight(w)
			}
			if whole {
				s += 0.15
			}
			if old, ok := best[u.def]; !ok || s > old.score {
				best[u.def] = hit{u.def, u.phrase, s}
			}
		}
	}
	var hits []hit
	for _, h := range best {
		if l.givesWay(h, best) {
			h.score *= 0.3
		}
		hits = append(hits, h)
	}
	slices.SortFunc(hits, func(a, b hit) int { return cmp.Or(cmp.Compare(b.score, a.score), cmp.Compare(a.def, b.def)) })
	return hits
}

// givesWay says that a hit is a plain feed or ground beside which a device is named in words of its own; "run and
// crank" does not give way to the crank sensor.
func (l *lexicon) givesWay(h hit, all map[int]hit) bool {
	if l.defs[h.def].Index != ByExchange {
		return false
	}
	plain := l.defs[h.def].phrases[h.phrase]
	for _, other := range all {
		if l.defs[other.def].Index == ByExchange {
			continue
		}
		for _, w := range l.defs[other.def].phrases[other.phrase] {
			if !slices.Contains(plain, w) {
				return true
			}
		}
	}
	return false
}

// faint says whether a phrase has none but words for kinds of thing, "lamp switch": then it must stand in one piece, or
// the lamp of any switch would be taken for it.
func faint(phrase []string) bool {
	return len(phrase) > 1 && !slices.ContainsFunc(phrase, func(w string) bool { _, kind := makes[w]; return !kind })
}

func (l *lexicon) weight(word string) float64 {
	switch {
	case l.weak[word]:
		return 0.33
	case isDigit(word[0]):
		return 0.5
	}
	return 1
}

func (p *passage) holds(phrase []string) bool {
	for i, w := range phrase {
		need := 0
		for _, v := range phrase[:i+1] {
			if v == w {
				need++
			}
		}
		for k, v := range p.words {
			if v == w && !p.used[k] {
				need--
			}
		}
		if need > 0 {
			return false
		}
	}
	return true
}

// at gives where the phrase stands in one piece among the unused words, or −1.
func (p *passage) at(phrase []string) int {
	for i := 0; i+len(phrase) <= len(p.words); i++ {
		if slices.Equal(p.words[i:i+len(phrase)], phrase) && !slices.Contains(p.used[i:i+len(phrase)], true) {
			return i
		}
	}
	return -1
}

// numbered says whether a number belongs to the phrase ("terminal 1"): then it must stand in one piece, or the 1 of
// "ground 1, terminal 31" would be taken for it.
func numbered(phrase []string) bool {
	return len(phrase) > 1 && slices.ContainsFunc(phrase, func(w string) bool { return isDigit(w[0]) })
}

// take marks the phrase's words as used, in one piece where they stand so.
func (p *passage) take(phrase []string) {
	if i := p.at(phrase); i >= 0 {
		for k := range phrase {
			p.used[i+k] = true
		}
		return
	}
	for _, w := range phrase {
		for k, v := range p.words {
			if v == w && !p.used[k] {
				p.used[k] = true
				break
			}
		}
	}
}

var polarities = map[string]string{"positive": openPolarity, "high": openPolarity, "open": openPolarity,
	"opening": openPolarity, "plus": openPolarity,
	"negative": shutPolarity, "low": shutPolarity, "close": shutPolarity, "closed": shutPolarity, "closing": shutPolarity,
	"shut": shutPolarity}

// polarity notes the first word that says which end of two is meant, without using up words that an aspect may need.
func (p *passage) polarity(r *Reading) {
	for i, w := range p.words {
		if s, ok := polarities[w]; ok && !p.used[i] {
			r.Polarity = s
			return
		}
	}
}

// aspect chooses the device's wire that the left-over words name best: the longest phrase, then the order of the file.
// Where no phrase does, the polarity may: the low end of a sensor is its ground, that of a load is the driver.
func (l *lexicon) aspect(p *passage, d definition, r *Reading) {
	var best []string
	chosen := d.Aspects[0]
	for _, a := range l.aspects {
		i := slices.IndexFunc(d.Aspects, func(x aspectRole) bool { return x.Aspect == a.aspect })
		if i < 0 {
			continue
		}
		for _, phrase := range a.phrases {
			if len(phrase) > len(best) && p.holds(phrase) {
				best, chosen = phrase, d.Aspects[i]
			}
		}
	}
	if best != nil {
		p.take(best)
		p.said += 0.5
	} else if r.Polarity != "" {
		want := polarAspect(d, r.Polarity)
		if i := slices.IndexFunc(d.Aspects, func(x aspectRole) bool { return x.Aspect == want }); i >= 0 {
			chosen = d.Aspects[i]
		}
	}
	r.Aspect, r.Role = chosen.Aspect, chosen.Role
	switch r.Role {
	case Motor, Load, Restraint, HighVoltage:
	default: // of the rest the aspect says it, or the device's own name: CAN high
		r.Polarity = ""
	}
	p.override(r)
}

// polarAspect says which wire of a device without further words the high or the low end is.
func polarAspect(d definition, polarity string) Aspect {
	switch d.Aspects[0].Role {
	case Analogue, Frequency, SwitchInput:
		if polarity == shutPolarity {
			return AspectGround
		}
		return AspectSignal
	case LowSide, PWM, RelayCoil, CoilDriver, Lamp:
		if polarity == openPolarity && d.ID != "fan" {
			return AspectSupply
		}
		return AspectControl
	}
	return ""
}

// override lets the text's own words about the electrical kind outrank the vocabulary's.
func (p *passage) override(r *Reading) {
	has := func(words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return slices.Contains(p.words, w) })
	}
	text := strings.Join(p.words, " ")
	switch r.Role {
	case LowSide, PWM, RelayCoil, HighSide:
		if strings.Contains(text, "high side") {
			r.Role = HighSide
		} else if strings.Contains(text, "low side") && r.Role != RelayCoil {
			r.Role = LowSide
		}
	case Ignition: // an instrument's battery feed is always on
		if d := load().byID[r.Device]; d.Aspects[0].Role == Ignition && d.ID != "ignition" && d.ID != "voltmeter" &&
			has("battery", "permanent", "constant") && !has("ignition", "switched", "run") {
			r.Role = Battery
		}
	case Analogue:
		if has("frequency", "freq", "hz", "digital") {
			r.Role = Frequency
		}
	}
	switch {
	case has("hall"):
		r.Form = "hall"
	case has("inductive", "induction", "reluctor", "reluctance", "vr"):
		r.Form = "inductive"
	}
}

// unexplained sums the weights of the words that nothing has used and that are not idle.
func (p *passage) unexplained(l *lexicon) float64 {
	sum := 0.0
	for i, w := range p.words {
		if p.used[i] || l.idle[w] || polarities[w] != "" {
			continue
		}
		if _, err := strconv.Atoi(w); err == nil || len(w) == 1 {
			continue
		}
		sum += l.weight(w)
	}
	return sum
}

// Words gives the text's canonical words in order, for comparing texts that Read cannot read. It is quick and rough:
// spelling is not mended.
func Words(text string) []string {
	l := load()
	words := strings.FieldsFunc(strings.ToLower(text),
		func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	for i, w := range words {
		words[i] = l.canonical(w)
	}
	return words
}
