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
		return Table{}, refuse("too-large", "the spreadsheet unpacks to %d MB; a pinout has less than %d MB", total>>20, maxUnpacked>>20)
	}
	book, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{UnzipSizeLimit: maxUnpacked, UnzipXMLSizeLimit: maxUnpacked / 2, RawCellValue: false})
	if err != nil {
		return Table{}, refuse("not-a-table", "the spreadsheet cannot be opened: %v", err)
	}
	defer book.Close()
	t := Table{Sheets: book.GetSheetList(), Encoding: "XLSX"}
	for _, name := range t.Sheets {
		if sheet != "" && name != sheet {
			continue
		}
		rows, err := book.GetRows(name)
		if err != nil {
			return Table{}, refuse("not-a-table", "sheet %q cannot be read: %v", name, err)
		}
		if len(rows) == 0 && sheet == "" {
			continue
		}
		if len(rows) > MaxRows {
			return Table{}, refuse("too-many-rows", "%d lines; at most %d are read", len(rows), MaxRows)
		}
		for _, line := range rows {
			if len(line) > MaxCells {
				return Table{}, refuse("too-wide", "a line has %d cells; a pinout has less than %d columns", len(line), MaxCells)
			}
			for i := range line {
				line[i] = clean(line[i])
			}
		}
		t.Sheet, t.Cells = name, rows
		return t, nil
	}
	if sheet != "" {
		return Table{}, refuse("no-such-sheet", "there is no sheet %q", sheet)
	}
	return Table{}, refuse("empty", "there is nothing in it")
}
