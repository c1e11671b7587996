package signal

import (
	_ "embed"
	"fmt"
	"slices"
	"strings"
	"sync"
)

//go:embed vocabulary.txt
var vocabulary string

// definition is one line of the vocabulary: a device or feed, and the wires that it can have.
type definition struct {
	ID      string
	Name    string
	System  string
	Index   Index
	Aspects []aspectRole // the first is meant when a text names no aspect
	phrases [][]string
}

// aspectRole is one wire of a device and its electrical role seen from the control unit.
type aspectRole struct {
	Aspect Aspect
	Role   Role
}

type lexicon struct {
	words   map[string]string   // alias to canonical word
	parts   map[string][]string // German word, of which others are put together, to what it says
	weak    map[string]bool
	idle    map[string]bool
	aspects []aspectPhrases // in the order in which they are tried
	defs    []definition
	byID    map[string]*definition
	known   []string // every canonical or alias word, sorted, for typing errors and cut-off words
	uses    map[string][]phraseUse
	letters map[string][]phraseUse // initials of phrases of three words and more: "fls" for fuel level sensor
}

type aspectPhrases struct {
	aspect  Aspect
	phrases [][]string
}

// phraseUse points from a phrase's rarest word to the phrase, so that a text is compared with few of them.
type phraseUse struct {
	def    int
	phrase int
}

var load = sync.OnceValue(func() *lexicon {
	l, err := parse(vocabulary)
	if err != nil {
		panic("signal: the embedded vocabulary is wrong: " + err.Error())
	}
	return l
})

func parse(text string) (*lexicon, error) {
	l := &lexicon{words: map[string]string{}, parts: map[string][]string{}, weak: map[string]bool{},
		idle: map[string]bool{}, byID: map[string]*definition{}, uses: map[string][]phraseUse{}}
	kinds := map[string][]aspectRole{}
	var rows []string
	for i, line := range strings.Split(text, "\n") {
		word, rest, _ := strings.Cut(strings.TrimSpace(line), " ")
		var err error
		switch {
		case word == "" || word == "#":
		case word == "word":
			err = l.addWord(rest)
		case word == "part":
			german, says, ok := strings.Cut(rest, "=")
			if !ok {
				err = fmt.Errorf("part without =")
			}
			l.parts[strings.TrimSpace(german)] = strings.Fields(says)
		case word == "weak":
			addAll(l.weak, rest)
		case word == "idle":
			addAll(l.idle, rest)
		case word == "aspect" || word == "kind":
			name, list, ok := strings.Cut(rest, "=")
			if !ok {
				err = fmt.Errorf("no = in it")
			} else if word == "kind" {
				kinds[strings.TrimSpace(name)], err = aspectRoles(list)
			} else {
				l.aspects = append(l.aspects, aspectPhrases{Aspect(strings.TrimSpace(name)), l.phrases(list, "|")})
			}
		default:
			rows = append(rows, line)
		}
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", i+1, err)
		}
	}
	for _, row := range rows {
		if err := l.addDefinition(row, kinds); err != nil {
			return nil, fmt.Errorf("%q: %w", row, err)
		}
	}
	l.index()
	return l, nil
}

func addAll(set map[string]bool, list string) {
	for _, w := range strings.Fields(list) {
		set[w] = true
	}
}

func (l *lexicon) addWord(rest string) error {
	canonical, aliases, ok := strings.Cut(rest, "=")
	if !ok {
		return fmt.Errorf("word without =")
	}
	canonical = strings.TrimSpace(canonical)
	for _, a := range strings.Fields(aliases) {
		if old, twice := l.words[a]; twice && old != canonical {
			return fmt.Errorf("%q stands for %q and for %q", a, old, canonical)
		}
		l.words[a] = canonical
	}
	return nil
}

func aspectRoles(list string) ([]aspectRole, error) {
	var out []aspectRole
	for _, pair := range strings.Fields(list) {
		aspect, role, ok := strings.Cut(pair, ":")
		if !ok || !slices.Contains(Roles(), Role(role)) {
			return nil, fmt.Errorf("%q is not aspect:role", pair)
		}
		out = append(out, aspectRole{Aspect(aspect), Role(role)})
	}
	return out, nil
}

func (l *lexicon) phrases(list, separator string) [][]string {
	var out [][]string
	for _, p := range strings.Split(list, separator) {
		if words := l.canonicals(p); len(words) > 0 {
			out = append(out, words)
		}
	}
	return out
}

// canonicals gives a phrase's canonical words as plain strings.
func (l *lexicon) canonicals(phrase string) []string {
	var out []string
	for _, t := range tokenize(phrase) {
		out = append(out, l.canonical(t))
	}
	return out
}

func (l *lexicon) canonical(word string) string {
	if c, ok := l.words[word]; ok {
		return c
	}
	return word
}

func (l *lexicon) addDefinition(row string, kinds map[string][]aspectRole) error {
	cells := strings.Split(row, "|")
	if len(cells) != 6 {
		return fmt.Errorf("%d cells, want 6", len(cells))
	}
	for i := range cells {
		cells[i] = strings.TrimSpace(cells[i])
	}
	d := definition{ID: cells[0], Name: cells[1], System: cells[2], Aspects: kinds[cells[3]], Index: Index(cells[4])}
	if d.Index == "-" {
		d.Index = NoIndex
	}
	if len(d.Aspects) == 0 {
		return fmt.Errorf("no kind %q", cells[3])
	}
	for _, o := range l.defs {
		if o.ID == d.ID {
			return fmt.Errorf("id %q twice", d.ID)
		}
	}
	d.phrases = l.phrases(cells[1]+";"+cells[5], ";")
	l.defs = append(l.defs, d)
	return nil
}

// index files each phrase under its rarest word and lists the words for spelling.
func (l *lexicon) index() {
	count := map[string]int{}
	seen := map[string]bool{}
	for i := range l.defs {
		l.byID[l.defs[i].ID] = &l.defs[i]
		for _, p := range l.defs[i].phrases {
			for _, w := range p {
				count[w]++
				seen[w] = true
			}
		}
	}
	for i, d := range l.defs {
		for j, p := range d.phrases {
			rare := p[0]
			for _, w := range p[1:] {
				if count[w] < count[rare] {
					rare = w
				}
			}
			l.uses[rare] = append(l.uses[rare], phraseUse{i, j})
		}
	}
	for alias, w := range l.words {
		seen[alias], seen[w] = true, true
	}
	l.initials(seen)
	for w := range seen {
		if len(w) >= 4 {
			l.known = append(l.known, w)
		}
	}
	slices.Sort(l.known)
}

// initials files every phrase of three to five words under its first letters, once for each device. What is a word of
// its own is no initialism.
func (l *lexicon) initials(known map[string]bool) {
	l.letters = map[string][]phraseUse{}
	for i := range l.defs {
		mine := map[string]bool{}
		for j, p := range l.defs[i].phrases {
			short := ""
			for _, w := range p {
				if isDigit(w[0]) || len(w) < 2 {
					short = ""
					break
				}
				short += w[:1]
			}
			if len(short) < 3 || len(short) > 5 || known[short] || mine[short] || l.idle[short] {
				continue
			}
			mine[short] = true
			l.letters[short] = append(l.letters[short], phraseUse{i, j})
		}
	}
}

// initial gives the place of the first word that is the initials of a phrase, −1 where none is.
func (l *lexicon) initial(p *passage) int {
	return slices.IndexFunc(p.words, func(w string) bool { return len(l.letters[w]) > 0 })
}

// sensorInitials says whether a word is the initials of one sensor or switch and of nothing else: a ground or a supply
// named beside it is its own. Of anything else a plain feed stays what it says, "SAM battery feed".
func (l *lexicon) sensorInitials(p *passage) bool {
	i := l.initial(p)
	if i < 0 || len(l.letters[p.words[i]]) > 1 {
		return false
	}
	switch l.defs[l.letters[p.words[i]][0].def].Aspects[0].Role {
	case Analogue, Frequency, SwitchInput:
		return true
	}
	return false
}

// initialled reads the first word that is the initials of a device's phrase: surely enough to be offered where one
// device has them, and as a guess where several do. What else the text says names the aspect and the number.
func (l *lexicon) initialled(p *passage) Reading {
	i := l.initial(p)
	if i < 0 {
		return Reading{}
	}
	p.used[i] = true
	uses := l.letters[p.words[i]]
	d := l.defs[uses[0].def]
	r := Reading{Device: d.ID, Name: d.Name, System: d.System, Index: d.Index, Sure: 0.6}
	for _, other := range uses[1:] {
		if r.Sure = 0.3; len(r.Others) < 3 {
			r.Others = append(r.Others, l.defs[other.def].ID)
		}
		if l.defs[other.def].System != d.System {
			r.System = "" // nothing is to go with a system that is only guessed
		}
	}
	p.polarity(&r)
	l.aspect(p, d, &r)
	p.indices(&r)
	r.Sure *= 1 / (1 + 0.4*p.unexplained(l))
	r.Text = r.String()
	return r
}

// Known says whether the vocabulary has a device of that id.
func Known(device string) bool {
	return load().byID[device] != nil
}

// Switches says whether a device of the vocabulary is a switch that a hand, a foot, a lever or a pressure works.
func Switches(device string) bool {
	return strings.HasSuffix(device, "switch") && device != "keyswitch" || device == "pnp" || device == "parkbrake" ||
		device == "throttleidle" || device == "throttlefull" || device == "startbutton"
}
