package signal

import (
	"strings"
	"testing"
)

// A phrase of one weak word would read every text that holds it; two definitions with one phrase would always be a
// toss-up, of which the second never comes out.
func TestPhrasesSaySomething(t *testing.T) {
	l := load()
	owner := map[string]string{}
	for _, d := range l.defs {
		for _, p := range d.phrases {
			text := strings.Join(p, " ")
			if len(p) == 1 && l.weak[p[0]] && text != "ground" {
				t.Errorf("%s: the phrase %q is one weak word", d.ID, text)
			}
			if other, twice := owner[text]; twice && other != d.ID {
				t.Errorf("the phrase %q is claimed by %s and by %s", text, other, d.ID)
			}
			owner[text] = d.ID
		}
	}
}

func TestABadVocabularyIsRefused(t *testing.T) {
	for name, text := range map[string]string{
		"a row of three cells": "kind k = signal:analogue\nx | y | z",
		"no such kind":         "x | y | z | none | - | phrase",
		"no such role":         "kind k = signal:magic",
		"an id twice":          "kind k = signal:analogue\nx | y | z | k | - | a\nx | y | z | k | - | b",
		"an alias of two":      "word a = x\nword b = x",
		"a word without =":     "word a",
		"an aspect without =":  "aspect ground gnd",
	} {
		if _, err := parse(text); err == nil {
			t.Errorf("%s: accepted", name)
		}
	}
}

// The vocabulary reads like a table and holds together: enough signals, no phrase that two lines claim in vain.
func TestVocabulary(t *testing.T) {
	defs := load().defs
	if len(defs) < 320 {
		t.Errorf("%d definitions, want at least 320", len(defs))
	}
	systems, roles := map[string]int{}, map[Role]int{}
	for _, d := range defs {
		systems[d.System]++
		for _, a := range d.Aspects {
			roles[a.Role]++
		}
		if r := Read(d.Name); r.Device != d.ID {
			t.Errorf("%s: its own name %q is read as %s", d.ID, d.Name, r.Device)
		}
	}
	for _, s := range []string{"fuel", "ignition", "engine", "gearbox", "body", "restraint", "high-voltage", "network",
		"lighting"} {
		if systems[s] == 0 {
			t.Errorf("no signal of system %s", s)
		}
	}
	for _, r := range Roles() {
		if roles[r] == 0 && r != HighSide {
			t.Errorf("no signal has the role %s", r)
		}
	}
}
