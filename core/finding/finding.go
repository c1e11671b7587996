// Package finding says why, and what is wrong.
//
// A Reason explains a result: the rule that gave it, what went in, and where the rule comes from. A Finding is
// something wrong or doubtful: how bad, about what, in one plain sentence, and what to do. Both carry a stable code and
// parameters, so that tests and screens need not read sentences. Findings are computed with the plan and are never
// stored: they go when their cause does.
package finding

import (
	"cmp"
	"slices"
)

// Severity grades a finding.
type Severity string

// From what can hurt to what is worth knowing.
const (
	Danger Severity = "danger" // can hurt, burn or destroy
	Wrong  Severity = "wrong"  // will not work as it stands
	Check  Severity = "check"  // doubtful until somebody looks or measures
	Note   Severity = "note"   // worth knowing
)

// Severities lists them, worst first.
func Severities() []Severity { return []Severity{Danger, Wrong, Check, Note} }

// Finding is one thing that is wrong or doubtful.
type Finding struct {
	Code     string   `json:"code"` // stable, lower case with hyphens
	Severity Severity `json:"severity"`
	Stage    string   `json:"stage,omitempty"`   // the stage whose screen shows the subject, where it is not Match
	Side     string   `json:"side,omitempty"`    // which pinout the subject is in: from or to
	Subject  string   `json:"subject,omitempty"` // a cavity as people write it, "A14", or a step's number
	Name     string   `json:"name,omitempty"`    // what people call the subject, where it is an id
	Text     string   `json:"text"`              // one plain sentence
	Remedy   string   `json:"remedy,omitempty"`  // what to do
	Place    Place    `json:"place,omitzero"`    // where on its stage's screen it is seen to
	Answer   *Answer  `json:"answer,omitempty"`  // what somebody said to it, where it may stand
}

// Place is where on its stage's screen a finding is seen to, where that is not where the stage shows its subject.
type Place struct {
	Part string `json:"part,omitempty"` // of the screen
	Of   string `json:"of,omitempty"`   // what kind of thing the subject is: module, joint, connector
	List string `json:"list,omitempty"` // of the lists of Feed
	Key  string `json:"key,omitempty"`  // position of the key in which it shows
}

// Reason is one line of an explanation.
type Reason struct {
	Code   string  `json:"code"`
	Text   string  `json:"text"`
	Bits   float64 `json:"bits,omitempty"`   // weight of evidence in bits, where the reason is evidence
	Source string  `json:"source,omitempty"` // the published source of the rule, where it has one
}

// Sort orders findings by severity, then side, subject, code and text.
func Sort(all []Finding) {
	rank := func(f Finding) int { return slices.Index(Severities(), f.Severity) }
	slices.SortStableFunc(all, func(a, b Finding) int {
		return cmp.Or(cmp.Compare(rank(a), rank(b)), cmp.Compare(a.Side, b.Side), Natural(a.Subject, b.Subject),
			cmp.Compare(a.Code, b.Code), cmp.Compare(a.Text, b.Text))
	})
}

// Count gives how many findings there are of each severity.
func Count(all []Finding) map[Severity]int {
	n := map[Severity]int{}
	for _, f := range all {
		n[f.Severity]++
	}
	return n
}

// Natural compares two names as people order them: digits by value, so that W2 comes before W10.
func Natural[T ~string](a, b T) int {
	i, j := 0, 0
	for i < len(a) && j < len(b) {
		if isDigit(a[i]) && isDigit(b[j]) {
			si, sj := i, j
			for i < len(a) && isDigit(a[i]) {
				i++
			}
			for j < len(b) && isDigit(b[j]) {
				j++
			}
			x, y := trimZeros(a[si:i]), trimZeros(b[sj:j])
			if c := cmp.Or(cmp.Compare(len(x), len(y)), cmp.Compare(x, y)); c != 0 {
				return c
			}
			continue
		}
		if a[i] != b[j] {
			return cmp.Compare(a[i], b[j])
		}
		i, j = i+1, j+1
	}
	return cmp.Or(cmp.Compare(len(a)-i, len(b)-j), cmp.Compare(a, b))
}

func isDigit(c byte) bool { return c >= '0' && c <= '9' }

func trimZeros[T ~string](s T) T {
	for len(s) > 1 && s[0] == '0' {
		s = s[1:]
	}
	return s
}

// Answer is what a person said to a finding that has no remedy to be carried out, or whose remedy is not wanted: it is
// known, and why it may stand. It holds for the finding as it was; where its facts change the finding comes back.
type Answer struct {
	Code    string `json:"code"`
	Stage   string `json:"stage,omitempty"`
	Side    string `json:"side,omitempty"`
	Subject string `json:"subject,omitempty"`
	Text    string `json:"text"` // of the finding when it was answered
	Reason  string `json:"reason"`
	Who     string `json:"who,omitempty"`
	When    int64  `json:"when,omitempty"` // Unix milliseconds
}

// Key names what an answer is about, whatever the finding said of it.
func (a Answer) Key() string { return a.Code + "|" + a.Stage + "|" + a.Side + "|" + a.Subject }

// Key names what a finding is about, as the answers to it do.
func (f *Finding) Key() string {
	return Answer{Code: f.Code, Stage: f.Stage, Side: f.Side, Subject: f.Subject}.Key()
}

// Answered marks the findings that somebody has answered as they stand. Danger cannot be waved through.
func Answered(all []Finding, answers []Answer) []Finding {
	by := map[string]*Answer{}
	for i := range answers {
		by[answers[i].Key()+"|"+answers[i].Text] = &answers[i]
	}
	for i := range all {
		f := &all[i]
		if a := by[f.Key()+"|"+f.Text]; a != nil && f.Severity != Danger {
			f.Answer = a
		}
	}
	return all
}

// Open gives the findings that nobody has answered.
func Open(all []Finding) []Finding {
	return slices.DeleteFunc(slices.Clone(all), func(f Finding) bool { return f.Answer != nil })
}
