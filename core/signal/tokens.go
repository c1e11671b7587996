package signal

import (
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"
)

// rewrite brings a written form that a split at letters and digits would tear apart into words of its own. It is tried
// only on texts that hold one of the hints, which is what makes reading thousands of rows quick.
type rewrite struct {
	hints []string
	from  *regexp.Regexp
	to    string
}

func rule(hints, from, to string) rewrite {
	list := strings.Fields(hints)
	for i := range list {
		list[i] = strings.ReplaceAll(list[i], "_", " ") // an underscore stands for a blank
	}
	return rewrite{list, regexp.MustCompile(from), to}
}

func (r rewrite) apply(text string) string {
	for _, h := range r.hints {
		if strings.Contains(text, h) {
			return r.from.ReplaceAllString(text, r.to)
		}
	}
	return text
}

var rewrites = []rewrite{
	// a range of volts up to five is what a signal gives: 0–5 V, 0.5 to 4.5 V
	rule("- _to_ .. _bis_", `\b(?:0|0?[.,]\d+|1(?:[.,]\d+)?)\s*v?\s*(?:-|to|bis|\.\.+)\s*`+
		`[1-5](?:[.,]\d+)?\s*v(?:olts?|dc)?\b`, " signal "),
	rule("a/c a_/ a.c.", `\ba\s?/\s?c\b|\ba\.c\.`, " ac "),
	rule("/", `\ba\s?/\s?f\b`, " afr "),
	rule("/", `\bp\s?/\s?n\b`, " pnp "),
	rule("h02 02s", `\bh?02s`, "ho2s"),         // zero for O
	rule("+", `(\d)\s*\+\s*(\d)`, "$1 and $2"), // of cylinders, no polarity
	rule("acc", `^\s*acc\s*(pos(?:ition)?|feed|supply|on|12v|power)?\s*$`, " accessory $1 "),
	rule("0v 0_v", `\b0\s?v(?:olts?)?\b`, " ground "),
	rule("h2o", `\bh2o\b`, " coolant "),
	rule("#", `^#\s?([1-9])0$`, " injector $1 "),
	rule("ox ht", `\box\d[ab]\b`, " oxygen "),
	rule("ht", `\bht\d[ab]\b`, " oxygen heater "),
	rule("oc1 oc2", `\boc([12])\s?([+-])?`, " oil control bank $1 "),
	rule("+b", `(?:^|\s)\+b\d?\b`, " bplus "),
	rule("w", `^\s*w\s*$`, " check engine "),
	rule("2", `\bh?o2s?(\d)\s?[-/.]?\s?(\d)\b`, " oxygen bank $1 sensor $2 "),
	rule("2", `\bh?o\s?2s?\b`, " oxygen "),
	rule("o2s ho2s", `\bh?o2s`, " oxygen "),
	rule("b1 b2 b3 b4", `\bb(\d)\s?[-/]?\s?s(\d)\b`, " bank $1 sensor $2 "),
	rule("s1 s2 s3 s4", `\bs(\d)\s?[-/]?\s?b(\d)\b`, " sensor $1 bank $2 "),
	rule("bank bnk bk b1 b2 b3 b4 b_1 b_2 b_3", `\b(?:bank|bnk|bk|b)\s?(\d)\b`, " bank $1 "),
	rule("5v 5-v 5_v 5_-", `[+]?\b5\s?-?\s?v(?:olts?|dc)?\b\.?`, " v5 "),
	rule("12v 14v 12-v 12_v 14_v 14-v 12_-", `[+]?\b1[24]\s?-?\s?v(?:olts?|dc)?\b\.?`, " v12 "),
	rule("+", `\bb\+|^b \+`, " bplus "),
	rule("+", `\bd\+|^d \+`, " dplus "),
	rule("k-line kline k_line", `\bk[\s-]?line\b`, " kline "),
	rule("l-line l_line", `\bl[\s-]line\b`, " lline "),
	rule("air", `\bair[\s-]?con\b`, " ac "),
	rule("air", `\bair\s?cond(?:itioning|itioner)?\b`, " air conditioning "),
	rule("pass", `\bby[\s-]pass\b`, " bypass "),
	rule("gate", `\bwaste[\s-]gate\b`, " wastegate "),
	rule("wire", `\bdrive[\s-]by[\s-]wire\b`, " dbw "),
	rule("+ pos. pos", `\(\s*\+\s*\)|(?:^|\s)\+(?:\s|$|,)|\+\s*$|\s\+ve\b|\bpos\.?\s*$`, " positive "),
	rule("-", `\(\s*-\s*\)|(?:^|\s)-(?:\s*$|\s*,)|([a-z0-9)])-\s*$|\s-ve\b`, "$1 negative "),
	rule("pre-c pre_c precat prekat upst up-st up_st before", `\bpre[\s-]?(?:cat|kat)\w*\.?|\bupstream\b|\bbefore (?:the )?(?:cat|kat)\w*\.?|\bup\s?str\w*`, " upstream "),
	rule("post-c post_c postc postk downst down-st down_st after behind", `\bpost[\s-]?(?:cat|kat)\w*\.?|\bdownstream\b|\b(?:after|behind) (?:the )?(?:cat|kat)\w*\.?|\bdown\s?str\w*`, " downstream "),
	rule("ss", `\bss\s?([a-e])\b`, " ss $1 "),
	rule("cyl", `\bcyl(?:inder)?s?\.?\s?#?\s?(\d)`, " cylinder $1 "),
	rule("no nr num n.", `\bn(?:o|r|um)?\.\s?(\d)|\bn[or]\s?(\d)`, " $1$2 "),
	rule("1st first one_ _one", `\b(?:1st|first|one)\b`, " 1 "),
	rule("2nd second two ii", `\b(?:2nd|second|two|ii)\b`, " 2 "),
	rule("3rd third three iii", `\b(?:3rd|third|three|iii)\b`, " 3 "),
	rule("left lh l.h", `\b(?:left[\s-]hand|lh|l\.h\.)`, " left "),
	rule("right rh r.h", `\b(?:right[\s-]hand|rh|r\.h\.)`, " right "),
}

// whole words that digits belong to
var joined = regexp.MustCompile(`^(v5|v12|e0?\d|g\d\d?|te\d|j1850|4wd|4x4|ig\d?|igsw\d?|\d+[a-z]|56[ab])$`)

// tokenize takes a text apart into lower-case words and numbers.
func tokenize(text string) []string {
	t := strings.ToLower(first(text))
	t = strings.NewReplacer("ü", "ue", "ä", "ae", "ö", "oe", "ß", "ss", "²", "2", "_", " ", "–", "-", "−", "-").Replace(t)
	for _, r := range rewrites {
		t = r.apply(t)
	}
	var out []string
	for _, word := range strings.FieldsFunc(t, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }) {
		if joined.MatchString(word) && !isLettered(word) {
			out = append(out, word)
			continue
		}
		out = append(out, splitDigits(word)...)
	}
	return out
}

// mostRead is how much of a text is read, bytes: what says what a circuit is for does so in a few words, and a whole
// page in a cell would be read against every device.
const mostRead = 480

// first gives as much of a text as is read, whole letters only.
func first(text string) string {
	if len(text) <= mostRead {
		return text
	}
	n := mostRead
	for n > 0 && !utf8.RuneStart(text[n]) {
		n--
	}
	return text[:n]
}

// isLettered says whether a number with one letter is a cylinder or channel and not a terminal: 1a, 2b.
func isLettered(word string) bool {
	return len(word) == 2 && word[0] >= '1' && word[0] <= '9' && word[1] >= 'a' && word[1] <= 'd'
}

func splitDigits(word string) []string {
	var out []string
	start := 0
	for i := 1; i <= len(word); i++ {
		if i == len(word) || isDigit(word[i]) != isDigit(word[i-1]) {
			out = append(out, word[start:i])
			start = i
		}
	}
	return out
}

func isDigit(b byte) bool { return b >= '0' && b <= '9' }
