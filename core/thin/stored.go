package thin

// Record is all that is stored of this stage: what goes, what stays, and how the person works at the bench.
type Record struct {
	Thin  []Decision `json:"thin,omitempty" kept:"thin/On/ID" said:"{1}"`
	Bench *Bench     `json:"bench,omitempty" kept:"bench" grain:"fields" along:"yes" word:"how we work"`
}

// Entry is an entry of one of its lists.
type Entry interface {
	Decision
}

// Single is what it has one of.
type Single interface{ Bench }
