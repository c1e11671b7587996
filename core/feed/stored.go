package feed

// Record is all that is stored of this stage: the block of one's own and the fuses that are to be changed.
type Record struct {
	// A fuse block of one's own.
	Block *Block `json:"block,omitempty" kept:"block" grain:"fields" along:"feeds" word:"the fuse block"`
	// Fuses of the vehicle that are to be changed.
	Rated []Rated `json:"rated,omitempty" kept:"rated/Fuse" said:"fuse {0}" along:"feeds" word:"another fuse in"`
}

// Entry is an entry of one of its lists.
type Entry interface {
	Rated
}

// Single is what it has one of.
type Single interface{ Block }
