package exchange

import (
	"archive/zip"
	"bytes"
	"strings"

	"github.com/xuri/excelize/v2"
)

const maxUnpacked = 64 << 20

func readXLSX(data []byte, sheet string) (Table, error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return Table{}, refuse("not-a-table", "the file is damaged: it begins like a spreadsheet and cannot be opened")
	}
	total, isBook := uint64(0), false
	for _, f := range z.File {
		total += f.UncompressedSize64
		isBook = isBook || strings.HasPrefix(f.Name, "xl/")
	}
	if !isBook {
		return Table{}, refuse("not-a-table", "this is an archive and not a spreadsheet")
	}
	if total > maxUnpacked {
		return Table{}, refuse("too-large", "the spreadsheet unpacks to %d MB; a pinout has less than %d MB", total>>20,
			maxUnpacked>>20)
	}
	book, err := excelize.OpenReader(bytes.NewReader(data),
		excelize.Options{UnzipSizeLimit: maxUnpacked, UnzipXMLSizeLimit: maxUnpacked / 2, RawCellValue: false})
	if err != nil {
		return Table{}, refuse("not-a-table", "the spreadsheet cannot be opened: %v", err)
	}
	defer book.Close()
	t := Table{Sheets: book.GetSheetList(), Encoding: "XLSX"}
	for _, name := range t.Sheets {
		if sheet != "" && name != sheet {
			continue
		}
		rows, err := readRows(book, name)
		if err != nil {
			return Table{}, err
		}
		if len(rows) == 0 && sheet == "" {
			continue
		}
		t.Sheet, t.Cells = name, rows
		return t, tooLong(rows)
	}
	if sheet != "" {
		return Table{}, refuse("no-such-sheet", "there is no sheet %q", sheet)
	}
	return Table{}, refuse("empty", "there is nothing in it")
}

// readRows reads a sheet row by row, and stops at the first that is more than a table can have: what a small file
// unpacks to is never built first.
func readRows(book *excelize.File, name string) ([][]string, error) {
	damaged := func(err error) error { return refuse("not-a-table", "sheet %q cannot be read: %v", name, err) }
	in, err := book.Rows(name)
	if err != nil {
		return nil, damaged(err)
	}
	defer in.Close()
	var rows [][]string
	last, size := 0, 0 // the last row with anything in it
	for in.Next() {
		line, err := in.Columns()
		if err != nil {
			return nil, damaged(err)
		}
		if len(rows) >= MaxRows {
			return nil, refuse("too-many-rows", "more than %d lines; at most that many are read", MaxRows)
		}
		if len(line) > MaxCells {
			return nil, refuse("too-wide", "a line has %d cells; a pinout has less than %d columns", len(line),
				MaxCells)
		}
		for i := range line {
			line[i] = clean(line[i])
			if size += len(line[i]); size > maxUnpacked {
				return nil, refuse("too-large", "the cells have more than %d MB of text", maxUnpacked>>20)
			}
		}
		if rows = append(rows, line); len(line) > 0 {
			last = len(rows)
		}
	}
	if err := in.Error(); err != nil {
		return nil, damaged(err)
	}
	return rows[:last], nil
}
