package server

import (
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/gather"
)

// FeedView is what stands in a vehicle beside its wires, and what follows.
type FeedView struct {
	Revision    int64                    `json:"revision"`
	Said        bool                     `json:"said"` // somebody has said enough for it to be reckoned
	Lists       []SheetLine              `json:"lists"`
	Positions   []feed.Position          `json:"positions"`
	Trees       map[string][]feed.Feeder `json:"trees"` // by position
	Fuses       []feed.Protected         `json:"fuses"`
	Unprotected []feed.Bare              `json:"unprotected"`
	Sleeps      float64                  `json:"sleeps"` // A with the key off
	Days        float64                  `json:"days"`   // until the battery is flat, 0 where its capacity is not known
	Takes       float64                  `json:"takes"`  // A of everything with the engine running
	Switches    []string                 `json:"switches"`
	Closed      []string                 `json:"closed"` // switches of their own that are on as a rule
	Grounds     []feed.Ground            `json:"grounds"`
	Nodes       []string                 `json:"nodes"` // places that can touch
	Wires       []string                 `json:"wires"` // that can break
	Relays      []string                 `json:"relays"`
	Assumed     []string                 `json:"assumed"`
	Unknown     []string                 `json:"unknown"`  // devices of which nothing is known
	Unfed       []string                 `json:"unfed"`    // devices that nothing leads to which a source feeds
	Measured    []string                 `json:"measured"` // contacts of the key, as readings have them
	Findings    []finding.Finding        `json:"findings"`
}

// FeedTree is the tree in one condition.
type FeedTree struct {
	Tree []feed.Feeder `json:"tree"`
}

// feedLines gives how many lines each of Feed's lists has.
func feedLines(j *computed) []SheetLine {
	var out []SheetLine
	for _, kind := range gather.FeedKinds() {
		line := SheetLine{Kind: kind}
		if sheet := j.Job.Sheets[kind]; sheet != nil {
			if r, err := gather.ReadSheet(kind, *sheet); err == nil {
				line.Rows, line.Rejected = len(r.Rows), len(r.Rejected)
			}
		}
		out = append(out, line)
	}
	return out
}
