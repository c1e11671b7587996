package handover

// Record is all that is stored of this stage: what stays open, was lent, delivered, spent and bought.
type Record struct {
	// What stays open, and whose it is.
	Left []Left `json:"left,omitempty" kept:"left/Key" word:"whose it is that stays open"`
	// Temporary, borrowed, put off.
	Loans []Loan `json:"loans,omitempty" kept:"loan/ID" grain:"fields" word:"temporary, borrowed or put off"`
	// States with a name.
	Delivered []Delivered `json:"delivered,omitempty" kept:"delivered/ID" word:"the state"`
	// Time that was noted.
	Spent []Spent `json:"spent,omitempty" kept:"spent/ID" word:"time noted"`
	// What is said of lines of the order list.
	Bought []Bought `json:"bought,omitempty" kept:"bought/Key" grain:"fields" said:"{0}" along:"yes" word:"the order list, about"`
	// What hours and prices are reckoned with.
	Terms *Terms `json:"terms,omitempty" kept:"terms" grain:"fields" along:"yes" word:"what hours and prices are reckoned with"`
}

// Entry is an entry of one of its lists.
type Entry interface {
	Left | Loan | Delivered | Spent | Bought
}

// Single is what it has one of.
type Single interface{ Terms }
