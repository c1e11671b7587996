package plan

// Kind is a kind of job.
type Kind string

// The kinds of job.
const (
	Standalone   Kind = "standalone"
	Integrated   Kind = "integrated"
	Repinned     Kind = "re-pinned"
	Grown        Kind = "grown"
	Adapter      Kind = "adapter"
	Exchange     Kind = "controller-exchange"
	Bought       Kind = "bought"
	Classic      Kind = "classic"
	Bulkhead     Kind = "bulkhead"
	Transplant   Kind = "transplant"
	Electric     Kind = "electric"
	ThinningOnly Kind = "thinning"
	Sensor       Kind = "sensor"
)

// KindInfo is what a person reads of a kind.
type KindInfo struct {
	ID      Kind   `json:"id"`
	Name    string `json:"name"`
	Meaning string `json:"meaning"`
	Moves   bool   `json:"moves"` // its work is terminal moves, which Pin plans
}

// Kinds lists the kinds in the order in which they are offered.
func Kinds() []KindInfo {
	return []KindInfo{
		{Repinned, "Re-pinned harness", "Existing wires are moved, cavity by cavity, to another unit's connectors.", true},
		{Grown, "Grown harness", "Same family, more cylinders: circuits added, others permuted.", true},
		{Exchange, "Controller exchange", "Several plugs of one controller become the plug of another, or the reverse.", true},
		{Sensor, "Sensor adaptation", "One sensor with another keyway or another order of the same wires.", true},
		{Integrated, "Integrated harness", "The engine harness ends in the chassis's own plugs, fuses and relays.", false},
		{Standalone, "Standalone harness", "The donor harness reduced to the engine, with its own fuse and relay block.", false},
		{Adapter, "Adapter harness", "A new unit behind the factory plugs, through a short harness.", false},
		{Bulkhead, "Bulkhead clean-out", "Only the engine half of a bulkhead plug changes; the body half is locked.", false},
		{Bought, "Bought harness", "Plugs onto engine and unit as delivered; feeds and body side remain.", false},
		{Classic, "Classic", "A new engine harness, the old body harness sorted, the gauges kept.", false},
		{Transplant, "Whole electrical transplant", "The donor's body harness, modules and dash move too.", false},
		{Electric, "Electric transplant", "As a transplant, with high voltage, which is left to qualified hands.", false},
		{ThinningOnly, "Thinning only", "What is not used comes out, the rest is left as made.", false},
	}
}

// Info gives what is known of the kind, and false when there is no such kind.
func (k Kind) Info() (KindInfo, bool) {
	for _, i := range Kinds() {
		if i.ID == k {
			return i, true
		}
	}
	return KindInfo{}, false
}

// MovesTerminals says whether matched wires are carried over by moving their terminals. In the other kinds they are
// joined onto the other harness, which Pin does not plan.
func (k Kind) MovesTerminals() bool {
	i, _ := k.Info()
	return i.Moves
}
