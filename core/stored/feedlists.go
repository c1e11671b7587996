package stored

import (
	"draxel/core/feed"
	"draxel/core/gather"
)

// FeedLists takes the lists that Feed goes by from the job's sheets.
func (j Job) FeedLists() map[string][]feed.Line {
	out := map[string][]feed.Line{}
	for _, kind := range gather.FeedKinds() {
		s := j.Sheets[kind]
		if s == nil {
			continue
		}
		r, err := gather.ReadSheet(kind, *s)
		if err != nil {
			continue // said where the list is laid
		}
		for _, row := range r.Rows {
			out[string(kind)] = append(out[string(kind)], feed.Line{Line: row.Line, Cells: row.Cells})
		}
	}
	return out
}
