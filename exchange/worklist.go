package exchange

import (
	"fmt"
	"io"
	"strings"
	"unicode/utf8"
)

// WorkItem is a step of the work list as it is handed to other programs.
type WorkItem struct {
	ID      string
	Number  int
	Stage   string
	Text    string
	Why     string
	Warn    []string
	Minutes float64
	Needs   []int // numbers of what comes before
	Done    bool
	Who     string
	On      string // ISO date on which it would be done; empty where nobody has said how long is worked
}

// WriteWorkCSV writes the work list as CSV, a line a step.
func WriteWorkCSV(w io.Writer, all []WorkItem) error {
	rows := [][]string{{"No.", "Stage", "Do", "Why", "Mind", "Minutes", "After", "Done", "By", "On"}}
	for i := range all {
		x := &all[i]
		after := make([]string, len(x.Needs))
		for k, n := range x.Needs {
			after[k] = fmt.Sprint(n)
		}
		rows = append(rows, []string{fmt.Sprint(x.Number), x.Stage, x.Text, x.Why, strings.Join(x.Warn, " "),
			fmt.Sprintf(
				"%.0f",
				x.Minutes,
			), strings.Join(after, " "), map[bool]string{true: "done"}[x.Done], x.Who, x.On})
	}
	return WriteTableCSV(w, rows)
}

// WriteWorkICS writes the work list as to-dos of a calendar, RFC 5545. Stamped is the date of writing, ISO.
func WriteWorkICS(w io.Writer, all []WorkItem, title, stamped string) error {
	var b strings.Builder
	line := func(name, value string) { fold(&b, name+":"+value) }
	line("BEGIN", "VCALENDAR")
	line("VERSION", "2.0")
	line("PRODID", "-//Draxel//work list//EN")
	line("X-WR-CALNAME", calendarText(title))
	for i := range all {
		x := &all[i]
		line("BEGIN", "VTODO")
		line("UID", x.ID+"@draxel.invalid")
		line("DTSTAMP", strings.ReplaceAll(stamped, "-", "")+"T000000Z")
		line("SUMMARY", calendarText(fmt.Sprintf("%d %s: %s", x.Number, x.Stage, x.Text)))
		if words := strings.TrimSpace(x.Why + "\n" + strings.Join(x.Warn, "\n")); words != "" {
			line("DESCRIPTION", calendarText(words))
		}
		line("CATEGORIES", calendarText(x.Stage))
		if x.On != "" && !x.Done {
			line("DUE;VALUE=DATE", strings.ReplaceAll(x.On, "-", ""))
		}
		for _, n := range x.Needs {
			if n >= 1 && n <= len(all) {
				line("RELATED-TO", all[n-1].ID+"@draxel.invalid")
			}
		}
		if x.Done {
			line("STATUS", "COMPLETED")
			line("PERCENT-COMPLETE", "100")
		} else {
			line("STATUS", "NEEDS-ACTION")
		}
		line("END", "VTODO")
	}
	line("END", "VCALENDAR")
	if _, err := io.WriteString(w, b.String()); err != nil {
		return fmt.Errorf("write the work list: %w", err)
	}
	return nil
}

// calendarText is a TEXT value: RFC 5545, 3.3.11.
func calendarText(text string) string {
	return strings.NewReplacer("\\", "\\\\", ";", "\\;", ",", "\\,", "\r\n", "\\n", "\n", "\\n", "\r", "\\n").
		Replace(text)
}

// longestLine is how many octets a line may have, RFC 5545, 3.1.
const longestLine = 75

// fold writes a line, broken so that no part is longer than is allowed and no letter is parted.
func fold(b *strings.Builder, text string) {
	room := longestLine
	for _, r := range text {
		n := utf8.RuneLen(r)
		if n < 0 {
			r, n = utf8.RuneError, utf8.RuneLen(utf8.RuneError)
		}
		if room < n {
			b.WriteString("\r\n ")
			room = longestLine - 1
		}
		b.WriteRune(r)
		room -= n
	}
	b.WriteString("\r\n")
}
