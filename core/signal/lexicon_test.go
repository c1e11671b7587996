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
