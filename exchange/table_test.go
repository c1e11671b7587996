package exchange_test

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/exchange"
)

const sheet = "Connector,Cavity,Colour,Function\nA,1,GN-YE,Kühlmitteltemperatur\n\nA,2,BN,\"Ground, sensor\"\n"

func book(t testing.TB, fill func(*excelize.File)) []byte {
	t.Helper()
	f := excelize.NewFile()
	defer f.Close()
	fill(f)
	var b bytes.Buffer
	if err := f.Write(&b); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

func TestEncodingsAndSeparators(t *testing.T) {
	utf16 := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder()
	bare := unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewEncoder()
	for name, data := range map[string][]byte{
		"utf-8":        []byte(sheet),
		"bom":          []byte("\xEF\xBB\xBF" + sheet),
		"utf-16":       must(utf16.Bytes([]byte(sheet))),
		"bare utf-16":  must(bare.Bytes([]byte(sheet))),
		"windows-1252": must(charmap.Windows1252.NewEncoder().Bytes([]byte(sheet))),
		"semicolons":   []byte(strings.NewReplacer(`"Ground, sensor"`, "Ground, sensor", ",C", ";C", ",F", ";F", "A,", "A;", "1,", "1;", "2,", "2;", "E,", "E;", "BN,", "BN;").Replace(sheet)),
		"tabs, cr lf": []byte("Connector\tCavity\tColour\tFunction\r\n" +
			"A\t1\tGN-YE\tKühlmitteltemperatur\r\n\r\nA\t2\tBN\tGround, sensor\r\n"),
		"xlsx": book(t, func(f *excelize.File) {
			for cell, row := range map[string][]any{"A1": {"Connector", "Cavity", "Colour", "Function"},
				"A2": {"A", 1, "GN-YE", "Kühlmitteltemperatur"}, "A4": {"A", 2, "BN", "Ground, sensor"}} {
				if err := f.SetSheetRow("Sheet1", cell, &row); err != nil {
					t.Fatal(err)
				}
			}
		}),
	} {
		t.Run(name, func(t *testing.T) {
			table, err := exchange.ReadTable(data, "")
			if err != nil {
				t.Fatal(err)
			}
			if got := fmt.Sprintf("%q", table.Cells[:4]); got != `[["Connector" "Cavity" "Colour" "Function"] ["A" "1" "GN-YE" "Kühlmitteltemperatur"] [] ["A" "2" "BN" "Ground, sensor"]]` {
				t.Errorf("read %s", got)
			}
		})
	}
}

func TestRefusals(t *testing.T) {
	bomb := func() []byte {
		var b bytes.Buffer
		z := zip.NewWriter(&b)
		w := must(z.Create("xl/worksheets/sheet1.xml"))
		zeros := make([]byte, 1<<20)
		for range 100 {
			must(w.Write(zeros))
		}
		must(0, z.Close())
		return b.Bytes()
	}()
	plainZip := func() []byte {
		var b bytes.Buffer
		z := zip.NewWriter(&b)
		must(must(z.Create("readme.txt")).Write([]byte("hello")))
		must(0, z.Close())
		return b.Bytes()
	}()
	for _, c := range []struct {
		name string
		data []byte
		code string
	}{
		{"nothing", nil, "empty"},
		{"blank lines", []byte("\n \n"), "empty"},
		{"50 MB", make([]byte, 50<<20), "too-large"},
		{"zip bomb", bomb, "too-large"},
		{"an archive", plainZip, "not-a-table"},
		{"half a spreadsheet", book(t, func(*excelize.File) {})[:300], "not-a-table"},
		{"binary", []byte("\x7fELF\x02\x01\x01\x00\x00\x00\x00\x00\x01\x02\x03\xff\xfe"), "not-text"},
		{"a PDF", []byte("%PDF-1.7 ..."), "not-a-table"},
		{"an old spreadsheet", []byte("\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1"), "old-spreadsheet"},
		{"an empty book", book(t, func(*excelize.File) {}), "empty"},
		{"too wide", []byte(strings.Repeat("a,", 500) + "\n"), "too-wide"},
		{"too long", []byte(strings.Repeat("a,b\n", 30_000)), "too-many-rows"},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, err := exchange.ReadTable(c.data, "")
			var r *exchange.Refusal
			if !errors.As(err, &r) || r.Code != c.code {
				t.Errorf("got %v, want a refusal %s", err, c.code)
			}
		})
	}
}

// A quotation mark left open must not swallow the rows after it.
func TestAnOpenQuoteLosesNoRow(t *testing.T) {
	text := "Connector,Cavity,Function\nA,1,\"Injector 1\nA,2,Injector 2\n\nA,3,\"Ground, sensors\"\nA,4,3/4\" hose, " +
		"see \"note\"\"\n"
	table := must(exchange.ReadTable([]byte(text), ""))
	r := must(gather.Read(table.Cells, gather.Options{}))
	if len(r.Rows) != 4 || r.Rows[0].Function != "Injector 1" || r.Rows[2].Function != "Ground, sensors" ||
		r.Rows[2].Line != 5 {
		t.Errorf("rows %+v", r.Rows)
	}
}

// A note full of commas must not make a table that is parted by semicolons too wide.
func TestAnotherSeparatorMayMakeSense(t *testing.T) {
	text := "Connector;Cavity;Function\nA;1;Injector 1\nA;2;Ground" + strings.Repeat(", see also", 300) + "\n"
	table := must(exchange.ReadTable([]byte(text), ""))
	if len(table.Cells) != 3 || len(table.Cells[2]) != 3 {
		t.Errorf("read as %d lines, the last of %d cells", len(table.Cells), len(table.Cells[len(table.Cells)-1]))
	}
}

func TestMergedCellsAndFormulas(t *testing.T) {
	data := book(t, func(f *excelize.File) {
		rows := map[string][]any{"A1": {"Connector", "Cavity", "Colour", "Function"}, "A2": {"A", 1, "GN", "Injector 1"},
			"A3": {nil, 2, "BN", "Injector 2"}, "A4": {nil, 3, "WH", nil}}
		for cell, row := range rows {
			must(0, f.SetSheetRow("Sheet1", cell, &row))
		}
		must(0, f.MergeCell("Sheet1", "A2", "A4"))
		must(0, f.SetCellFormula("Sheet1", "D4", `HYPERLINK("http://example.invalid","Injector 3")`))
	})
	table := must(exchange.ReadTable(data, ""))
	r := must(gather.Read(table.Cells, gather.Options{}))
	if len(r.Rows) != 3 || r.Rows[2].Ref.String() != "A3" {
		t.Fatalf("rows %+v", r.Rows)
	}
	if r.Rows[2].Function != "" {
		t.Errorf("a formula was evaluated: %q", r.Rows[2].Function)
	}
}

func TestPinoutComesBackFromItsCSV(t *testing.T) {
	for _, written := range []string{
		"Connector,Cavity,Colour,Circuit,Function,AWG,Goes to,Note\nA,1,PNK/BLK,101,=Injector 1,18,engine,+5 V " +
			"here\nA,2,LT GRN,,not used,,,\nA,3,,,,,,\nB,1,XYZ,7,Ground,20,,-\n",
		"Plug,Way,Function\nSP-5 (32-way),7,Injector 1\nK,B,Ground\n",
		"Plug;Contact;Colour;Function;mm²\nE;A;GN;'tis a knock sensor;0,75\nE;K;GN-YE;@ground;1,5\n",
	} {
		before := readPinout(t, []byte(written))
		var b bytes.Buffer
		if err := exchange.WritePinout(&b, before); err != nil {
			t.Fatal(err)
		}
		for _, cell := range strings.FieldsFunc(b.String(), func(r rune) bool { return r == ',' || r == '\n' }) {
			if strings.ContainsAny(cell[:1], "=+-@") {
				t.Errorf("cell %q would start a formula", cell)
			}
		}
		after := readPinout(t, b.Bytes())
		strip := func(p harness.Pinout) string {
			for i := range p.Rows {
				p.Rows[i].Line, p.Rows[i].SizeText = 0, ""
			}
			return fmt.Sprintf("%+v", p)
		}
		if x, y := strip(before), strip(after); x != y {
			t.Errorf("went out as\n%s\nand came back as\n%s", x, y)
		}
	}
}

func readPinout(t testing.TB, data []byte) harness.Pinout {
	t.Helper()
	table, err := exchange.ReadTable(data, "")
	if err != nil {
		t.Fatal(err)
	}
	r, err := gather.Read(table.Cells, gather.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return r.Pinout("p")
}

func FuzzReadTable(f *testing.F) {
	f.Add([]byte(sheet))
	f.Add([]byte("\xFF\xFEa\x00"))
	f.Fuzz(func(t *testing.T, data []byte) {
		if table, err := exchange.ReadTable(data, ""); err == nil {
			_, _ = gather.Read(table.Cells, gather.Options{})
		}
	})
}

// Five thousand rows with distinct texts, from bytes to a pinout.
func BenchmarkImport(b *testing.B) {
	var text bytes.Buffer
	text.WriteString("Connector,Cavity,Colour,Circuit,Function,Size\n")
	words := []string{"Fuel injector %d control", "Engine coolant temperature sensor signal %d",
		"Ignition coil cyl. %d, trigger", "HO2S heater bank 1 sensor %d", "Terminal 30, permanent positive %d",
		"Unknown thing number %d"}
	for i := range 5000 {
		fmt.Fprintf(&text, "C%d,%d,GN-YE,%d,%s,\"0,75\"\n", i/100, i%100+1, 1000+i, fmt.Sprintf(words[i%len(words)], i))
	}
	b.Run("5000", func(b *testing.B) {
		b.ReportAllocs()
		for b.Loop() {
			if n := len(readPinout(b, text.Bytes()).Rows); n != 5000 {
				b.Fatalf("%d rows", n)
			}
		}
	})
}

// A cell that runs over lines stays one where the quotation marks mean it; two stray marks never swallow rows.
func TestStrayQuotesSwallowNothing(t *testing.T) {
	head := "Pin,Colour,Function,Size\n"
	rows := []string{`1,RD,Battery,2.5`, `2,BK,Ground,1`, `3,GN,Injector 1,0.5`, `4,BU,Injector 2,0.5`, `5,WH,Knock,0.5`, `6,VT,Purge,0.5`}
	with := func(change map[int]string) string {
		all := slices.Clone(rows)
		for i, s := range change {
			all[i] = s
		}
		return head + strings.Join(all, "\n") + "\n"
	}
	for name, c := range map[string]struct {
		text  string
		notes bool
	}{
		"none":                        {with(nil), false},
		"two at the beginning":        {with(map[int]string{1: `2,"BK,Ground,1`, 4: `5,"WH,Knock,0.5`}), true},
		"in neighbouring rows":        {with(map[int]string{1: `2,"BK,Ground,1`, 2: `3,"GN,Injector 1,0.5`}), true},
		"an inch mark":                {with(map[int]string{1: `2,BK,Ground 3",1`, 4: `5,WH,Knock 2",0.5`}), false},
		"one":                         {with(map[int]string{1: `2,"BK,Ground,1`}), true},
		"meant, over two lines":       {with(map[int]string{1: "2,BK,\"Ground,\nmain\",1"}), false},
		"meant, with a separator":     {with(map[int]string{1: `2,BK,"Ground, main",1`}), false},
		"meant, a quotation in a row": {with(map[int]string{1: `2,BK,"the ""star"" ground",1`}), false},
	} {
		table, err := exchange.ReadTable([]byte(c.text), "")
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		whole := 0
		for _, line := range table.Cells {
			if len(line) == 4 {
				whole++
			}
		}
		if whole != 7 || (len(table.Notes) > 0) != c.notes {
			t.Errorf("%s: %d lines, %d whole, said %v: %q", name, len(table.Cells), whole, table.Notes, table.Cells)
		}
	}
}
