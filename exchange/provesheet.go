package exchange

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strconv"
	"time"

	"draxel/core/prove"
)

// ProveSheet is the test sheet with what was measured.
type ProveSheet struct {
	Title    string
	Revision int
	Hash     string // of the job it was computed from
	Printed  string // ISO date
	Lines    []ProveLine
}

// ProveLine is a line of the test sheet with what was read.
type ProveLine struct {
	prove.SheetLine
	How     string
	Waits   bool // what it measures is not built yet
	Reading *prove.MeterReading
	Fits    bool
	Again   bool // something was mended since
}

// unitOf gives the unit of what is measured.
func unitOf(k prove.Kind) string {
	if k == prove.Ohms {
		return "Ω"
	}
	return "V"
}

// must says what a line must show.
func (l *ProveLine) must() string {
	if l.Band.Over {
		return "OL"
	}
	return fmt.Sprintf("%.3g–%.3g %s", l.Band.Least, l.Band.Most, unitOf(l.Kind))
}

// read says what was read, and how it stands.
func (l *ProveLine) read() (value, stands string) {
	switch r := l.Reading; {
	case r == nil && l.Waits:
		return "", "not built yet"
	case r == nil:
		return "", "open"
	case r.Over:
		value = "OL"
	default:
		value = fmt.Sprintf("%.4g %s", r.Value, unitOf(l.Kind))
	}
	switch {
	case l.Again:
		return value, "again"
	case l.Fits:
		return value, "in band"
	}
	return value, "OUT OF BAND"
}

// WriteProveCSV writes the test sheet as CSV: a line a measurement, with its band and what was read.
func WriteProveCSV(w *bytes.Buffer, x ProveSheet) error {
	out := csv.NewWriter(w)
	rows := [][]string{{"# " + x.Title, fmt.Sprintf("revision %d", x.Revision), x.Hash, x.Printed},
		{
			"no.",
			"section",
			"red probe",
			"black probe",
			"vehicle",
			"lamp W",
			"jumper",
			"unit",
			"least",
			"most",
			"read",
			"stands",
			"who",
			"when, UTC",
			"why",
		}}
	for i := range x.Lines {
		l := &x.Lines[i]
		value, stands := l.read()
		least, most := strconv.FormatFloat(l.Band.Least, 'g', 4, 64), strconv.FormatFloat(l.Band.Most, 'g', 4, 64)
		if l.Band.Over {
			least, most = "OL", "OL"
		}
		lamp, by, when := "", "", ""
		if l.Lamp > 0 {
			lamp = strconv.FormatFloat(l.Lamp, 'g', 3, 64)
		}
		if r := l.Reading; r != nil {
			by, when = r.Who, time.UnixMilli(r.When).UTC().Format("2006-01-02 15:04")
		}
		rows = append(
			rows,
			[]string{
				strconv.Itoa(i + 1),
				l.Section,
				l.A,
				l.B,
				l.How,
				lamp,
				l.Jumper,
				unitOf(l.Kind),
				least,
				most,
				value,
				stands,
				by,
				when,
				l.Why,
			},
		)
	}
	for _, row := range rows {
		for i := range row {
			row[i] = Guard(row[i])
		}
	}
	if err := out.WriteAll(rows); err != nil {
		return fmt.Errorf("write test sheet: %w", err)
	}
	return nil
}

// The columns of the printed test sheet, mm.
var proveColumns = []struct {
	name string
	wide float64
}{{"no.", 9}, {"red probe", 30}, {"black probe", 30}, {"what it proves", 62}, {"must show", 30}, {"read", 21}}

// proveFoot is how far down a page its lines go, mm.
const proveFoot = 280.0

// WriteProvePDF writes the test sheet to be filled in by hand: how the vehicle stands as a heading, and below it a
// line a measurement with room for what is read. The same sheet gives the same bytes.
func WriteProvePDF(w *bytes.Buffer, x ProveSheet) error {
	pdf, err := document(x.Title+" · test sheet", x.Printed, "P")
	if err != nil {
		return fmt.Errorf("write test sheet: %w", err)
	}
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(false, 0)
	y, page := proveFoot+1, 0
	begin := func() {
		page++
		pdf.AddPage()
		pdf.SetFont("mono", "B", 12)
		pdf.SetXY(margin, margin)
		pdf.CellFormat(0, 6, clipped(pdf, x.Title+" · test sheet", 180), "", 0, "L", false, 0, "")
		pdf.SetFont("text", "", 8)
		pdf.SetXY(margin, margin+6)
		pdf.CellFormat(
			0,
			4,
			fmt.Sprintf("revision %d · %s · printed %s · page %d · %d measurements · OL: nothing between the two",
				x.Revision, x.Hash, x.Printed, page, len(x.Lines)),
			"",
			0,
			"L",
			false,
			0,
			"",
		)
		y = margin + 13
	}
	how := ""
	for i := range x.Lines {
		l := &x.Lines[i]
		need := 5.5
		if l.How != how {
			need += 14
		}
		if y+need > proveFoot {
			begin()
			how = ""
		}
		if l.How != how {
			how = l.How
			pdf.SetFont("mono", "B", 9)
			pdf.SetXY(margin, y+1)
			pdf.CellFormat(0, 5, clipped(pdf, l.Section+": "+how, 180), "", 0, "L", false, 0, "")
			y += 6
			if l.Caution != "" {
				pdf.SetFont("text", "", 8)
				pdf.SetXY(margin, y)
				pdf.CellFormat(0, 4, clipped(pdf, "▲ "+l.Caution, 180), "", 0, "L", false, 0, "")
				y += 4
			}
			pdf.SetFont("text", "", 7)
			at := margin
			for _, c := range proveColumns {
				pdf.SetXY(at, y)
				pdf.CellFormat(c.wide, 4, c.name, "B", 0, "L", false, 0, "")
				at += c.wide
			}
			y += 4.5
		}
		value, stands := l.read()
		if value != "" && stands != "in band" {
			value += " !"
		}
		if l.Waits && value == "" {
			value = "not built"
		}
		why := l.Why
		if l.Lamp > 0 {
			why = fmt.Sprintf("%s (%s)", why, l.Setup.Key)
		}
		at := margin
		for k, text := range []string{strconv.Itoa(i + 1), l.A, l.B, why, l.must(), value} {
			if k == 3 {
				pdf.SetFont("text", "", 8)
			} else {
				pdf.SetFont("mono", "B", 8)
			}
			pdf.SetXY(at, y)
			pdf.CellFormat(
				proveColumns[k].wide,
				5,
				clipped(pdf, text, proveColumns[k].wide-1),
				"B",
				0,
				"L",
				false,
				0,
				"",
			)
			at += proveColumns[k].wide
		}
		y += 5.5
	}
	if page == 0 {
		begin()
	}
	if err := pdf.Output(w); err != nil {
		return fmt.Errorf("write test sheet: %w", err)
	}
	return nil
}
