package gather

import (
	"fmt"
	"slices"
	"strings"

	"draxel/core/finding"
)

// Before is what is noted before anything is taken apart.
type Before struct {
	Baseline  []Baseline  `json:"baseline,omitempty"`
	Unplugged []Unplugged `json:"unplugged,omitempty"`
}

// Works is how a body function was found.
type Works string

// How it was found.
const (
	NotTried  Works = ""
	DidWork   Works = "works"
	DidNot    Works = "did not"
	NotFitted Works = "not fitted"
)

// Baseline is one body function before the work.
type Baseline struct {
	Function string `json:"function"`
	Works    Works  `json:"works"`
	Note     string `json:"note,omitempty"`
}

// Functions lists the body functions that every baseline asks for.
func Functions() []string {
	return []string{"side lamps", "dipped beam", "main beam", "brake lamps", "reverse lamps", "indicators",
		"hazard lamps", "wipers", "washer", "horn", "charge lamp", "oil lamp or gauge", "temperature gauge", "fuel gauge",
		"tachometer", "speedometer", "heater fan", "start interlock"}
}

// Unplugged is one candidate that was unplugged with the key off while the vehicle still ran, and what it did then.
type Unplugged struct {
	Item      string `json:"item"`
	KeyOff    bool   `json:"keyOff"`
	Restarted bool   `json:"restarted"`
	Saw       string `json:"saw,omitempty"`
	Who       string `json:"who,omitempty"`
	When      int64  `json:"when,omitempty"`
}

// excluded are what is never unplugged to see what happens.
var excluded = []string{"restraint", "airbag", "air bag", "srs", "pretensioner", "squib", "crash sensor",
	"high voltage", "high-voltage", "hv ", "traction battery", "inverter", "orange", "battery", "alternator", "generator"}

// Refuses says why the item must not be unplugged to see what happens, empty where nothing stands against it.
func (u Unplugged) Refuses() string {
	text := strings.ToLower(u.Item) + " "
	for _, word := range excluded {
		if strings.Contains(text, word) {
			return "never restraint, high voltage, battery or alternator"
		}
	}
	if !u.KeyOff {
		return "the key must be off, and the battery too where the maker says so"
	}
	return ""
}

// State is the condition of a part of a connector.
type State string

// The states.
const (
	NotLooked State = ""
	Good      State = "good"
	Worn      State = "worn"
	Broken    State = "broken"
)

// Looked is what a person noted at one connector or branch.
type Looked struct {
	Labelled   bool   `json:"labelled,omitempty"`
	Counted    int    `json:"counted,omitempty"` // wires counted at the plug; 0 where nobody has
	Latch      State  `json:"latch,omitempty"`
	Lock       State  `json:"lock,omitempty"`
	Seals      State  `json:"seals,omitempty"`
	Corrosion  State  `json:"corrosion,omitempty"`
	Insulation State  `json:"insulation,omitempty"`
	Note       string `json:"note,omitempty"`
}

// Replace lists what of it has to be replaced.
func (l Looked) Replace() []string {
	var out []string
	for _, p := range []struct {
		name  string
		state State
	}{{"latch", l.Latch}, {"secondary lock", l.Lock}, {"seals", l.Seals}, {"terminals, corroded", l.Corrosion},
		{"insulation", l.Insulation}} {
		if p.state == Broken || p.state == Worn && p.name == "seals" {
			out = append(out, p.name)
		}
	}
	return out
}

// CheckBefore says what of the notes is doubtful.
func CheckBefore(b Before, looked map[string]Looked) []finding.Finding {
	var out []finding.Finding
	for _, u := range b.Unplugged {
		if why := u.Refuses(); why != "" {
			out = append(out, finding.Finding{Code: "unplugged-wrongly", Place: finding.Place{Part: "before"},
				Severity: finding.Danger, Stage: "gather", Subject: u.Item,
				Text: fmt.Sprintf("%s was unplugged to see what happens: %s.", u.Item, why),
				Remedy: "Plug it back in, key and battery off, and leave it to qualified hands where it is a restraint or high " +
					"voltage."})
		}
	}
	var replace []string
	for _, id := range sortedKeys(looked) {
		if parts := looked[id].Replace(); len(parts) > 0 {
			replace = append(replace, id+" ("+strings.Join(parts, ", ")+")")
		}
	}
	if len(replace) > 0 {
		out = append(out, finding.Finding{Code: "to-replace", Place: finding.Place{Part: "connectors"},
			Severity: finding.Check, Stage: "gather", Subject: replace[0],
			Text: "To be replaced: " + strings.Join(replace, "; ") + ".", Remedy: "Order them before the harness is opened."})
	}
	did := slices.ContainsFunc(b.Baseline, func(x Baseline) bool { return x.Works == DidNot })
	if did {
		var what []string
		for _, x := range b.Baseline {
			if x.Works == DidNot {
				what = append(what, x.Function)
			}
		}
		out = append(out, finding.Finding{Code: "did-not-work", Place: finding.Place{Part: "before"},
			Severity: finding.Note, Stage: "gather", Subject: what[0], Text: "Did not work before the work began: " +
				strings.Join(what, ", ") + ".", Remedy: "Tell the owner now."})
	}
	return out
}
