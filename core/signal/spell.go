package signal

import (
	"slices"
	"strings"
)

// compound takes a word apart that is put together of German words, with or without an s or n between them: what each
// says, in order; nil where that leaves anything over.
func (l *lexicon) compound(word string) []string {
	if len(word) < 6 {
		return nil
	}
	if _, known := l.words[word]; known {
		return nil
	}
	var walk func(rest string) []string
	walk = func(rest string) []string {
		if rest == "" {
			return []string{}
		}
		for n := len(rest); n >= 3; n-- {
			says, known := l.parts[rest[:n]]
			if !known {
				continue
			}
			for _, joint := range []string{"", "s", "n", "en"} {
				after, ok := strings.CutPrefix(rest[n:], joint)
				if !ok {
					continue
				}
				if after == "" && n < len(word) && rest[:n] == "motor" { // at the end it says what the thing is, and no engine
					return []string{"motor"}
				}
				if tail := walk(after); tail != nil {
					return append(slices.Clone(says), tail...)
				}
			}
		}
		return nil
	}
	return walk(word)
}

// mend gives the vocabulary's word for one that is cut off ("cranksh") or has one wrong, missing or extra letter
// ("injecter"). Where more than one word could be meant it changes nothing.
func (l *lexicon) mend(word string) string {
	if len(word) < 4 || isDigit(word[0]) || l.idle[word] {
		return word
	}
	if _, ok := l.words[word]; ok {
		return word
	}
	at, found := slices.BinarySearch(l.known, word)
	if found {
		return word
	}
	candidate := ""
	for _, k := range l.known[at:] {
		if !strings.HasPrefix(k, word) {
			break
		}
		c := l.canonical(k)
		if candidate != "" && c != candidate {
			return word
		}
		candidate = c
	}
	if candidate != "" {
		return candidate
	}
	if len(word) < 6 {
		return word
	}
	for _, k := range l.known {
		if len(k) >= 6 && oneEdit(word, k) {
			c := l.canonical(k)
			if candidate != "" && c != candidate {
				return word
			}
			candidate = c
		}
	}
	if candidate == "" {
		return word
	}
	return candidate
}

// oneEdit says that two words differ by one letter changed, dropped, added, or two neighbours swapped.
func oneEdit(a, b string) bool {
	if len(a) > len(b) {
		a, b = b, a
	}
	if len(b)-len(a) > 1 {
		return false
	}
	i := 0
	for i < len(a) && a[i] == b[i] {
		i++
	}
	if len(a) < len(b) {
		return a[i:] == b[i+1:]
	}
	if i == len(a) || a[i+1:] == b[i+1:] {
		return true
	}
	return i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && a[i+2:] == b[i+2:]
}
