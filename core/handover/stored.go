package handover

// Record is all that is stored of this stage: what stays open, was lent, delivered, spent and bought.
type Record struct {
	// What stays open, and whose it is.
	Left      []Left      `json:"left,omitempty" kept:"left/Key"`
	Loans     []Loan      `json:"loans,omitempty" kept:"loan/ID"`          // temporary, borrowed, put off
	Delivered []Delivered `json:"delivered,omitempty" kept:"delivered/ID"` // states with a name
	Spent     []Spent     `json:"spent,omitempty" kept:"spent/ID"`         // time that was noted
	// What is said of lines of the order list.
	Bought []Bought `json:"bought,omitempty" kept:"bought/Key" said:"{0}" along:"yes"`
	// What hours and prices are reckoned with.
	Terms *Terms `json:"terms,omitempty" kept:"terms" along:"yes"`
}
