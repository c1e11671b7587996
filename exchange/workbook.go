package exchange

import (
	"fmt"
	"io"

	"github.com/xuri/excelize/v2"
)

// WriteTableXLSX writes rows as a spreadsheet of one sheet. Every cell is text, so that "007", "1E3" and "=A1" stay
// what they are. The same rows give the same bytes.
func WriteTableXLSX(w io.Writer, sheet string, rows [][]string) error {
	book := excelize.NewFile()
	defer book.Close()
	err := book.SetSheetName(book.GetSheetName(0), sheet)
	out, streamErr := book.NewStreamWriter(sheet)
	if err == nil {
		err = streamErr
	}
	for i := 0; err == nil && i < len(rows); i++ {
		cells := make([]any, len(rows[i]))
		for k, text := range rows[i] {
			cells[k] = text
		}
		var at string
		if at, err = excelize.CoordinatesToCellName(1, i+1); err == nil {
			err = out.SetRow(at, cells)
		}
	}
	if err == nil {
		err = out.Flush()
	}
	if err == nil {
		err = book.SetDocProps(&excelize.DocProperties{Created: "2000-01-01T00:00:00Z",
			Modified: "2000-01-01T00:00:00Z",
			Creator:  "Draxel", Title: sheet})
	}
	if err == nil {
		err = book.Write(w)
	}
	if err != nil {
		return fmt.Errorf("write the spreadsheet %s: %w", sheet, err)
	}
	return nil
}
