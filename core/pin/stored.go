package pin

import "draxel/core/face"

// Record is all that is stored of this stage: faces of connectors, and what was wished, reported and checked at
// cavities.
type Record struct {
	// By connector of the model: what its face is like.
	Layouts   map[string]*face.Layout `json:"layouts,omitempty" kept:"layout/*" grain:"fields" said:"{0}" along:"yes"`
	Wishes    []Wish                  `json:"wishes,omitempty" kept:"wish/Step"`
	Exchanges []Exchange              `json:"exchanges,omitempty" kept:"exchange/A.Connector/A.Cavity" said:"cavity"`
	Reports   []Report                `json:"reports,omitempty" kept:"report/ID" grain:"fields" word:"not as expected"`
	Checks    []Check                 `json:"checks,omitempty" kept:"check/At.Connector/At.Cavity" said:"cavity"`
	Have      map[string]bool         `json:"have,omitempty" kept:"have" grain:"fields"` // parts and tools that are there
}

// Entry is an entry of one of its lists.
type Entry interface {
	Wish | Exchange | Report | Check
}

// Keyed is what it has by a key.
type Keyed interface{ face.Layout }

// Chosen gives what the moves go by. Hand is how many terminals may be in hand; nil: one.
func (r *Record) Chosen(hand *int) Decisions {
	d := Decisions{Limit: 1, Wishes: r.Wishes, Exchanges: r.Exchanges, Reports: r.Reports, Checks: r.Checks, Have: r.Have}
	if hand != nil {
		d.Limit = *hand
	}
	return d
}
