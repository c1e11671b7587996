package feedapi

import (
	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/live"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/vehicle"
	"draxel/server/desk"
)

// FeedView is what stands in a vehicle beside its wires, and what follows.
type FeedView struct {
	Revision    int64                    `json:"revision"`
	Said        bool                     `json:"said"` // somebody has said enough for it to be reckoned
	Lists       []desk.SheetLine         `json:"lists"`
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
	Sensors     []feed.Sensed            `json:"sensors"` // what sensors read wrong by how their grounds are lifted
	Nodes       []string                 `json:"nodes"`   // places that can touch
	Body        string                   `json:"body"`    // what a chafed wire touches: the body, or the battery\'s negative
	Wires       []harness.WireID         `json:"wires"`   // that can break
	Relays      []string                 `json:"relays"`
	Assumed     []string                 `json:"assumed"`
	Unknown     []string                 `json:"unknown"`  // devices of which nothing is known
	Unfed       []string                 `json:"unfed"`    // devices that nothing leads to which a source feeds
	Measured    []string                 `json:"measured"` // contacts of the key, as readings have them
	Findings    []finding.Finding        `json:"findings"`
	Block       *feed.Block              `json:"block,omitempty"` // of one's own
	Circuits    []live.Circuit           `json:"circuits"`        // what a feed has to be led to
	Holders     []string                 `json:"holders"`         // fuses of the vehicle that a circuit can be put onto
	Parts       []feed.PartLine          `json:"parts"`
	Steps       []desk.WorkStep          `json:"steps"`
	Ways        []FeedWay                `json:"ways"`              // that are kept to be compared
	Station     string                   `json:"station,omitempty"` // where the block lives, as Reach has it
}

// FeedWay is a way to feed a job by its name.
type FeedWay struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// FeedCompareView is the ways to feed a job beside each other.
type FeedCompareView struct {
	Revision int64               `json:"revision"`
	Ways     []plan.FeedCompared `json:"ways"`
}

// ProposeBlockRequest asks for a block of one's own: split as the trade splits it, or one fuse for the engine.
type ProposeBlockRequest struct {
	ID   string `json:"id"`
	Seen int64  `json:"seen"`
	One  bool   `json:"one"`
}

// BlockRequest keeps the block as it was changed by hand; without one it is taken away.
type BlockRequest struct {
	ID    string      `json:"id"`
	Seen  int64       `json:"seen"`
	Block *feed.Block `json:"block,omitempty"`
}

// CircuitRequest puts a circuit onto a cavity, of the block or of the vehicle, or onto a fuse by name.
type CircuitRequest struct {
	ID   string      `json:"id"`
	Seen int64       `json:"seen"`
	Side match.Side  `json:"side"`
	At   harness.Ref `json:"at"`
	From harness.Ref `json:"from,omitzero"`
	Fuse string      `json:"fuse,omitempty"`
}

// RatedRequest says which fuse is to stand in a slot of the vehicle; 0 takes the change back.
type RatedRequest struct {
	ID     string  `json:"id"`
	Seen   int64   `json:"seen"`
	Fuse   string  `json:"fuse"`
	Amps   float64 `json:"amps"`
	Reason string  `json:"reason,omitempty"`
}

// FeedOptionRequest keeps, takes or takes away a way to feed the job.
type FeedOptionRequest struct {
	ID     string `json:"id"`
	Seen   int64  `json:"seen"`
	Option string `json:"option"`
	Name   string `json:"name,omitempty"`
}

// UsualView is what a vehicle usually has, proposed for lists that have no line yet.
type UsualView struct {
	Revision int64              `json:"revision"`
	Lines    []vehicle.Proposed `json:"lines"`
}

// UsualRequest takes lines that are proposed, by list and name, or says that those of a list have been looked at and
// are so.
type UsualRequest struct {
	ID    string      `json:"id"`
	Seen  int64       `json:"seen"`
	Lines []UsualLine `json:"lines,omitempty"`
	So    string      `json:"so,omitempty"` // the list whose lines are so
}

// UsualLine names a line that is proposed.
type UsualLine struct {
	List string `json:"list"`
	Name string `json:"name"`
}

// FeedTree is the tree in one condition.
type FeedTree struct {
	Tree []feed.Feeder `json:"tree"`
}

// FeedLines is the table of one condition.
type FeedLines struct {
	Rows []feed.LiveLine `json:"rows"`
}

// FeedWires is what wires are in each position of the key.
type FeedWires struct {
	Said  bool            `json:"said"` // enough is said for it to be reckoned
	Wires []feed.WireLive `json:"wires"`
}

// FeedLive is where the wires run that are live in a position.
type FeedLive struct {
	Limbs map[harness.WireID][]string `json:"limbs"` // of the harness's drawing, by wire
}

// feedLines gives how many lines each of Feed's lists has.
func feedLines(j *desk.Computed) []desk.SheetLine {
	var out []desk.SheetLine
	for _, kind := range gather.FeedKinds() {
		line := desk.SheetLine{Kind: kind}
		if sheet := j.Job.Sheets[kind]; sheet != nil {
			if r, err := gather.ReadSheet(kind, *sheet); err == nil {
				line.Rows, line.Rejected = len(r.Rows), len(r.Rejected)
			}
		}
		out = append(out, line)
	}
	return out
}
