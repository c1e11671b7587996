package desk

import (
	"slices"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/stored"
)

// Edited gives a copy of a list that can be edited; one that is begun by hand has its heading.
func Edited(kind gather.SheetKind, old *gather.Sheet) gather.Sheet {
	sheet := gather.Sheet{}
	if old != nil {
		sheet = *old
		sheet.Edits, sheet.Gone = slices.Clone(old.Edits), slices.Clone(old.Gone)
	}
	if len(sheet.Cells) == 0 {
		line := []string{}
		for _, f := range kind.Fields() {
			line = append(line, f.Title)
		}
		sheet.Cells = [][]string{line}
	}
	return sheet
}

// Put puts cells right in a list, the last of those that are about one cell.
func Put(sheet *gather.Sheet, edits []gather.CellEdit) {
	type cell struct {
		line  int
		field string
	}
	last := map[cell]int{}
	for i, e := range edits {
		last[cell{e.Line, e.Field}] = i
	}
	sheet.Edits = slices.DeleteFunc(sheet.Edits, func(e gather.CellEdit) bool {
		_, again := last[cell{e.Line, e.Field}]
		return again
	})
	for i, e := range edits {
		if last[cell{e.Line, e.Field}] == i {
			sheet.Edits = append(sheet.Edits, e)
		}
	}
}

// SheetLine is a list of the structure with how much is in it.
type SheetLine struct {
	Kind     gather.SheetKind `json:"kind"`
	Rows     int              `json:"rows"`
	Rejected int              `json:"rejected"`
}

// TableMeta is what a person says of a table.
type TableMeta struct {
	Name   string        `json:"name"`
	Source string        `json:"source,omitempty"`
	Date   string        `json:"date,omitempty"`
	Trust  harness.Trust `json:"trust"`
	Origin string        `json:"origin,omitempty"` // what its connectors come from, as Vehicles names it
	With   match.Side    `json:"with,omitempty"`   // of a further pinout: the side whose harness it belongs to
}

// Table gives the table with what is said of it.
func (m TableMeta) Table(cells [][]string, o gather.Options) stored.Table {
	return stored.Table{Name: m.Name, Source: m.Source, Date: m.Date, Trust: m.Trust, Origin: m.Origin, With: m.With,
		Cells: cells, Options: o}
}
