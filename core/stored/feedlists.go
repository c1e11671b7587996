package stored

import (
	"fmt"
	"maps"

	"draxel/core/gather"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/vehicle"
)

// FeedSheets gives the lists of what stands in the vehicle beside its wires, that Feed goes by.
func (j Job) FeedSheets() map[gather.SheetKind]*gather.Sheet {
	out := map[gather.SheetKind]*gather.Sheet{}
	for _, kind := range gather.FeedKinds() {
		if s := j.Sheets[kind]; s != nil {
			out[kind] = s
		}
	}
	return out
}

// FeedLists reads such lists. It fails where one of them cannot be read, and gives the others.
func FeedLists(sheets map[gather.SheetKind]*gather.Sheet) (map[string][]vehicle.Line, error) {
	out := map[string][]vehicle.Line{}
	var failed error
	for _, kind := range gather.FeedKinds() {
		s := sheets[kind]
		if s == nil {
			continue
		}
		r, err := gather.ReadSheet(kind, *s)
		if err != nil {
			failed = fmt.Errorf("read the list of %s: %w", kind, err)
			continue
		}
		for _, row := range r.Rows {
			out[string(kind)] = append(out[string(kind)], vehicle.Line{Line: row.Line, Cells: row.Cells})
		}
	}
	return out, failed
}

// Found gives of a job what was found, and nothing of what was decided or done; the lists that Feed goes by are
// FeedSheets.
func (j Job) Found() Job {
	gathered := j.OfGather
	gathered.Sheets = maps.Clone(j.Sheets)
	for _, kind := range gather.FeedKinds() {
		delete(gathered.Sheets, kind)
	}
	return Job{Kind: j.Kind, OneScheme: j.OneScheme, From: j.From, To: j.To, More: j.More,
		OfMatch:  match.Record{Kept: j.Kept, Met: j.Met, Vehicle: j.Vehicle},
		OfGather: gathered, Photos: j.Photos, OfPin: pin.Record{Layouts: j.Layouts}, Carried: j.Carried, Aside: j.Aside}
}
