package gather

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"draxel/core/colour"
	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/signal"
	"draxel/core/size"
)

// Structure is everything that says what lies between the connectors: the pinouts of the harnesses at hand, the sheets,
// what was seen when a wire was followed, and what was measured.
type Structure struct {
	Pinouts  []harness.Pinout
	Sheets   map[SheetKind]SheetReading
	Habit    colour.Habit // in which the sheets write their colours
	Traces   []Trace
	Readings []Measurement
	Sources  []Origin // what the connectors come from
}

// Belief is something that was believed until it was seen or measured otherwise.
type Belief struct {
	Wire harness.WireID `json:"wire"`
	Was  string         `json:"was"`
	Now  string         `json:"now"`
	By   string         `json:"by"` // the trace or reading
	Who  string         `json:"who,omitempty"`
	When int64          `json:"when,omitempty"`
}

// Laid is the harness as it is known, with what had to be assumed and what was believed before.
type Laid struct {
	Loom     harness.Loom
	Beliefs  []Belief
	Findings []finding.Finding
}

// Lay puts together what is known of the harness. Pinout rows show one end of a wire each; a stated far end makes a
// whole wire of a row; rows of one harness with one circuit number propose a wire or, of more than two, a splice, which
// is implied until somebody has seen it. What was seen and measured outranks all of that.
func Lay(s Structure) Laid {
	b := &builder{in: s, connector: map[string]int{}, device: map[string]int{}, splice: map[harness.JointID]int{},
		wire: map[harness.WireID]int{}, at: map[harness.Ref][]int{}, rows: map[harness.Ref]*harness.Row{}}
	b.devices()
	b.connectors()
	b.branches()
	b.splices()
	b.wires()
	b.farEnds()
	b.sameNumbers()
	b.lone()
	b.legs()
	b.traces()
	b.readings()
	b.remarks()
	b.findings = append(b.findings, checkOrigins(&b.loom, s.Sources)...)
	l := Laid{Loom: b.loom, Beliefs: b.beliefs, Findings: b.findings}
	finding.Sort(l.Findings)
	return l
}

type builder struct {
	in        Structure
	loom      harness.Loom
	connector map[string]int
	device    map[string]int
	splice    map[harness.JointID]int
	wire      map[harness.WireID]int
	at        map[harness.Ref][]int // wires that end in a cavity
	rows      map[harness.Ref]*harness.Row
	order     []harness.Ref // of the rows
	beliefs   []Belief
	findings  []finding.Finding
	filled    int // cavities that the list of connectors filled in
}

func (b *builder) sheet(k SheetKind) []SheetRow { return b.in.Sheets[k].Rows }

func (b *builder) find(code string, s finding.Severity, subject, remedy, format string, args ...any) *finding.Finding {
	b.findings = append(b.findings, finding.Finding{Code: code, Severity: s, Stage: "gather", Subject: subject,
		Text: fmt.Sprintf(format, args...), Remedy: remedy})
	return &b.findings[len(b.findings)-1]
}

func (b *builder) devices() {
	for _, r := range b.sheet(DeviceList) {
		d := harness.Device{ID: r.Cells["device"], System: strings.ToLower(r.Cells["system"]), Added: r.Cells["added"]}
		kind := strings.ToLower(r.Cells["kind"])
		switch {
		case strings.Contains(kind, "fuse"), strings.Contains(kind, "relay box"):
			d.Kind = harness.Fuses
		case strings.Contains(kind, "unit"), strings.Contains(kind, "module"), strings.Contains(kind, "instrument"):
			d.Kind = harness.Unit
		case strings.Contains(kind, "ground"), strings.Contains(kind, "earth"):
			d.Kind = harness.Grounds
		case strings.Contains(kind, "suppress"):
			d.Kind = harness.Suppressor
		}
		if o := harness.Owner(strings.ToLower(r.Cells["owner"])); slices.Contains(harness.Owners(), o) {
			d.Owner = o
		}
		if _, twice := b.device[d.ID]; twice {
			b.find("listed-twice", finding.Check, d.ID, "Strike one of the lines out.", "Device %s is listed twice.", d.ID)
			continue
		}
		b.addDevice(d)
	}
}

func (b *builder) addDevice(d harness.Device) {
	b.device[d.ID] = len(b.loom.Devices)
	b.loom.Devices = append(b.loom.Devices, d)
}

// connectors takes those of the pinouts, then what the list says of them and of others.
func (b *builder) connectors() {
	for i := range b.in.Pinouts {
		p := &b.in.Pinouts[i]
		for _, c := range p.Connectors {
			b.addConnector(harness.Half{Connector: c, Source: p.Name})
		}
		for k := range p.Rows {
			if r := &p.Rows[k]; !r.Empty && b.rows[r.Ref] == nil {
				b.rows[r.Ref] = r
				b.order = append(b.order, r.Ref)
			}
		}
	}
	for _, r := range b.sheet(ConnectorList) {
		id := r.Cells["connector"]
		i, known := b.connector[id]
		if !known {
			i = b.addConnector(harness.Half{Connector: harness.Connector{ID: id, Name: id, Assumed: true, First: face.TopLeft}})
		}
		c := &b.loom.Connectors[i]
		if ways, err := strconv.Atoi(r.Cells["ways"]); err == nil && ways > 0 && ways <= face.Most && c.Ways() == 0 &&
			b.filled+ways <= mostFilled {
			b.filled += ways
			c.Cavities, c.Rows = harness.Numbered(ways), guessRows(ways)
		}
		c.Device, c.Mate, c.Branch = r.Cells["device"], r.Cells["mate"], r.Cells["branch"]
		if origin := r.Cells["origin"]; origin != "" {
			c.Origin = origin
		}
		c.Links, c.Locked = groups(r.Cells["joined"]), yes(r.Cells["locked"])
		if _, known := b.device[c.Device]; !known && c.Device != "" {
			b.addDevice(harness.Device{ID: c.Device})
		}
	}
}

func (b *builder) addConnector(c harness.Half) int {
	if i, known := b.connector[c.ID]; known {
		return i
	}
	b.connector[c.ID] = len(b.loom.Connectors)
	b.loom.Connectors = append(b.loom.Connectors, c)
	return len(b.loom.Connectors) - 1
}

var between = regexp.MustCompile(`[;/|]`)

// groups reads which cavities are joined inside a connector: "1-2-3; 4-5".
func groups(text string) [][]string {
	var out [][]string
	for _, g := range between.Split(text, -1) {
		if cavities := strings.FieldsFunc(g, func(r rune) bool {
			return strings.ContainsRune(" ,-–+=",
				r)
		}); len(cavities) > 1 {
			out = append(out, cavities)
		}
	}
	return out
}

func yes(text string) bool {
	t := strings.ToLower(strings.TrimSpace(text))
	return t != "" && t != "no" && t != "n" && t != "-" && t != "0" && t != "false"
}

func (b *builder) branches() {
	seen := map[string]bool{}
	for _, r := range b.sheet(BranchList) {
		if id := r.Cells["branch"]; !seen[id] {
			seen[id] = true
			clips, _ := strconv.Atoi(r.Cells["clips"])
			b.loom.Branches = append(b.loom.Branches, harness.Branch{ID: id, Parent: r.Cells["parent"],
				At: millimetres(r.Cells["at"]), Length: millimetres(r.Cells["length"]), Clips: clips})
		}
	}
}

var number = regexp.MustCompile(`^\s*(\d+(?:[.,]\d+)?)\s*(mm|cm|m|in|inch|"|ft)?\s*$`)

// millimetres reads a length: bare numbers are millimetres, decimal commas are read; 0 where there is none.
func millimetres(text string) float64 {
	m := number.FindStringSubmatch(strings.ToLower(text))
	if m == nil {
		return 0
	}
	v, err := strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64)
	if err != nil || v > 1e6 {
		return 0
	}
	return v * map[string]float64{"": 1, "mm": 1, "cm": 10, "m": 1000, "in": 25.4, "inch": 25.4, `"`: 25.4, "ft": 304.8}[m[2]]
}

func (b *builder) splices() {
	for _, r := range b.sheet(SpliceList) {
		seen := r.Cells["seen"]
		b.addSplice(harness.Splice{ID: harness.ListedSplice(r.Cells["splice"]), Branch: r.Cells["branch"],
			Added: r.Cells["added"], Note: r.Cells["note"], Implied: seen != "" && !yes(seen)})
	}
}

func (b *builder) isSplice(id harness.JointID) bool {
	_, known := b.splice[id]
	return known
}

func (b *builder) addSplice(s harness.Splice) {
	if _, known := b.splice[s.ID]; !known {
		b.splice[s.ID] = len(b.loom.Splices)
		b.loom.Splices = append(b.loom.Splices, s)
	}
}

// wires takes the wire list.
func (b *builder) wires() {
	read := readers{signals: map[string]signal.Reading{}, colours: map[string]colour.Colour{}}
	for _, r := range b.sheet(WireList) {
		w := harness.Wire{ID: harness.Listed(r.Cells["wire"]),
			Conductor: harness.Conductor{Circuit: r.Cells["circuit"], Function: r.Cells["function"]},
			Length:    millimetres(r.Cells["length"]), Branch: r.Cells["branch"],
			Pair: r.Cells["pair"], Shield: r.Cells["shield"], Added: r.Cells["added"], Note: r.Cells["note"]}
		if _, twice := b.wire[w.ID]; twice {
			b.find("listed-twice", finding.Check, string(w.ID), "Give one of them another number.",
				"Wire %s is listed twice; the second, on line %d, is left out.", w.ID, r.Line)
			continue
		}
		w.Colour = read.colour(r.Cells["colour"], b.in.Habit)
		w.Size, _ = size.Parse(r.Cells["size"], size.Square)
		if w.Function != "" {
			w.Signal = read.signal(w.Function)
		}
		w.Ends = [2]harness.End{b.end(r.Cells["from"], r.Cells["fromCavity"]), b.end(r.Cells["to"], r.Cells["toCavity"])}
		if w.Ends[0] == w.Ends[1] && w.Ends[0].Seen() && !w.Ends[0].Taped {
			b.find("wire-loops", finding.Check, string(w.ID), "Put one of its ends right.",
				"Wire %s is said to begin and end at %s; its far end is taken as not seen.", w.ID, w.Ends[0])
			w.Ends[1] = harness.End{}
		}
		b.addWire(w)
	}
}

func (b *builder) addWire(w harness.Wire) int {
	i := len(b.loom.Wires)
	b.wire[w.ID] = i
	for _, e := range w.Ends {
		if e.At != (harness.Ref{}) {
			b.at[e.At] = append(b.at[e.At], i)
			b.cavity(e.At)
			b.learn(&w, e.At)
		}
		if e.Splice != "" {
			b.addSplice(harness.Splice{ID: e.Splice, Branch: w.Branch})
		}
	}
	b.loom.Wires = append(b.loom.Wires, w)
	return i
}

// cavity makes sure that a connector and a cavity exist that a wire is said to end in.
func (b *builder) cavity(at harness.Ref) {
	i, known := b.connector[at.Connector]
	if !known {
		i = b.addConnector(harness.Half{Connector: harness.Connector{ID: at.Connector, Name: at.Connector, Rows: 1,
			First: face.TopLeft, Assumed: true}})
	}
	c := &b.loom.Connectors[i]
	if !c.Has(at.Cavity) {
		c.Cavities = append(slices.Clip(c.Cavities), at.Cavity)
		slices.SortFunc(c.Cavities, finding.Natural)
	}
	if c.Source == "" {
		c.Rows = guessRows(c.Ways())
	}
}

// learn takes over from a pinout's row what the wire list does not say, and notes where the two differ.
func (b *builder) learn(w *harness.Wire, at harness.Ref) {
	r := b.rows[at]
	if r == nil {
		return
	}
	if w.Circuit == "" {
		w.Circuit = r.Circuit
	}
	if w.Function == "" {
		w.Function, w.Signal = r.Function, r.Signal
	} else if !w.Signal.Read() {
		w.Signal = r.Signal
	}
	if w.Size == 0 {
		w.Size = r.Size
	}
	if !w.Colour.Known() {
		w.Colour = r.Colour
	} else if r.Colour.Known() && colour.Compare(w.Colour, r.Colour) == colour.Differ {
		b.find("colour-differs", finding.Check, at.String(), "Look at the wire; a colour alone is never proof.",
			"The table says %s in %s, the wire list says %s for %s.", r.Colour, at, w.Colour, w.ID)
	}
}

var (
	tapedWord  = regexp.MustCompile(`(?i)^(?:taped(?: off)?|cut(?: off)?|dead end|ends|capped)$`)
	openWord   = regexp.MustCompile(`(?i)^(?:open(?: end)?|nothing|loose|bare|free|not connected|hanging)$`)
	unseenWord = regexp.MustCompile(`(?i)^(?:\?+|unknown|not seen|unseen|-|–|not followed)?$`)
	spliceWord = regexp.MustCompile(`(?i)^(?:splice\s+\S+|s\d+[a-z0-9]*)$`)
	cavityText = regexp.MustCompile(`^(.*[^\s-])[\s-]+([A-Za-z]?\d{1,3}|[A-Z]{1,2})$`)
)

// end reads where a wire ends.
func (b *builder) end(where, cavity string) harness.End {
	if cavity == "" {
		if id := harness.ListedSplice(where); b.isSplice(id) {
			return harness.End{Splice: id}
		}
		switch {
		case unseenWord.MatchString(where):
			return harness.End{}
		case openWord.MatchString(where):
			return harness.End{Taped: true, Open: true}
		case tapedWord.MatchString(where):
			return harness.End{Taped: true}
		}
		if at, ok := b.cavityIn(where); ok {
			return harness.End{At: at}
		}
		if _, known := b.connector[where]; !known && spliceWord.MatchString(where) {
			return harness.End{Splice: harness.ListedSplice(strings.TrimSpace(
				strings.TrimPrefix(strings.TrimPrefix(where, "splice"), "Splice")))}
		}
		return harness.End{}
	}
	if n, err := strconv.Atoi(strings.TrimSuffix(cavity, ".0")); err == nil {
		cavity = strconv.Itoa(n)
	}
	return harness.End{At: harness.Ref{Connector: where, Cavity: cavity}}
}

// cavityIn reads "A14", "SP-26" or "C1 20" as a cavity of a connector that is known.
func (b *builder) cavityIn(text string) (harness.Ref, bool) {
	if m := cavityText.FindStringSubmatch(text); m != nil {
		if _, known := b.connector[m[1]]; known {
			return harness.Ref{Connector: m[1], Cavity: m[2]}, true
		}
	}
	for i := len(text) - 1; i > 0; i-- {
		if _, known := b.connector[text[:i]]; known && cavityOK.MatchString(text[i:]) && text[i] >= '0' && text[i] <= '9' {
			return harness.Ref{Connector: text[:i], Cavity: text[i:]}, true
		}
	}
	return harness.Ref{}, false
}
