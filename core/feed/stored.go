package feed

// Record is all that is stored of this stage: the block of one's own and the fuses that are to be changed.
type Record struct {
	Block *Block `json:"block,omitempty" kept:"block" along:"feeds"` // a fuse block of one's own
	// Fuses of the vehicle that are to be changed.
	Rated []Rated `json:"rated,omitempty" kept:"rated/Fuse" said:"fuse {0}" along:"feeds"`
}
