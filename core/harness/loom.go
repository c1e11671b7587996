package harness

// Loom is a harness laid open: not only its connectors but what lies between them. It is what is known, and says of
// each wire and splice whether anybody has seen it. Its zero value is a harness of which nothing is known.
type Loom struct {
	Devices    []Device `json:"devices"`
	Connectors []Half   `json:"connectors"`
	Wires      []Wire   `json:"wires"`
	Splices    []Splice `json:"splices"`
	Branches   []Branch `json:"branches"`
}

// DeviceKind says how a device stands to the wires that end in it.
type DeviceKind string

// The kinds of device. Units, fuse boxes and ground points are hubs: to keep one says nothing of each wire in it.
const (
	Part       DeviceKind = ""           // a sensor, an actuator, a lamp, a switch: what its wires are for
	Unit       DeviceKind = "unit"       // a control unit, a body module, an instrument panel
	Fuses      DeviceKind = "fuses"      // a fuse or relay box
	Grounds    DeviceKind = "ground"     // a ground point
	Suppressor DeviceKind = "suppressor" // a noise suppressor: it looks deletable and is not
)

// DeviceKinds lists them.
func DeviceKinds() []DeviceKind { return []DeviceKind{Part, Unit, Fuses, Grounds, Suppressor} }

// Hub says whether many circuits meet in such a device.
func (k DeviceKind) Hub() bool { return k == Unit || k == Fuses || k == Grounds }

// Owner is the part of the vehicle that a circuit belongs to, whatever harness it rides in.
type Owner string

// The owners.
const (
	Engine    Owner = "engine"
	Gearbox   Owner = "gearbox"
	Driveline Owner = "driveline"
	Body      Owner = "body"
)

// Owners lists them.
func Owners() []Owner { return []Owner{Engine, Gearbox, Driveline, Body} }

// Device is a thing that connectors plug into.
type Device struct {
	ID     string     `json:"id"`
	Kind   DeviceKind `json:"kind,omitempty"`
	System string     `json:"system,omitempty"`
	Owner  Owner      `json:"owner,omitempty"`
	Added  string     `json:"added,omitempty"` // who added it, where it is not the factory's
}

// Half is a connector on the harness, with what it is plugged into: a device, or the other half of an in-line pair.
type Half struct {
	Connector
	Source string     `json:"source,omitempty"` // the table or vehicle that it comes from
	Device string     `json:"device,omitempty"`
	Mate   string     `json:"mate,omitempty"`  // the other half, cavity facing cavity
	Links  [][]string `json:"links,omitempty"` // cavities joined inside: a junction connector's rows, a wire that only passes through
	Branch string     `json:"branch,omitempty"`
	Locked bool       `json:"locked,omitempty"` // somebody else's: the body half of a bulkhead plug
}

// End is one end of a wire: in a cavity, at a splice, taped off, or not yet seen.
type End struct {
	At     Ref     `json:"at,omitzero"`
	Splice JointID `json:"splice,omitempty"`
	Taped  bool    `json:"taped,omitempty"` // seen to end in nothing
	Open   bool    `json:"open,omitempty"`  // it ends in nothing and bare; Taped too, for nothing more is known of it
}

// Seen says whether it is known where the wire ends.
func (e End) Seen() bool { return e.At != (Ref{}) || e.Splice != "" || e.Taped }

// String writes the end as people do.
func (e End) String() string {
	switch {
	case e.At != (Ref{}):
		return e.At.String()
	case e.Splice != "":
		return "splice " + string(e.Splice)
	case e.Open:
		return "nothing, bare"
	case e.Taped:
		return "taped off"
	}
	return "not seen"
}

// Wire is one length of wire between two ends.
type Wire struct {
	ID   WireID `json:"id"`
	Ends [2]End `json:"ends"`
	Conductor
	Length  float64 `json:"length,omitempty"` // mm, 0 where nobody has measured
	Branch  string  `json:"branch,omitempty"`
	Pair    string  `json:"pair,omitempty"`   // wires of one name are twisted together
	Shield  string  `json:"shield,omitempty"` // wires of one name run under one shield
	Source  string  `json:"source,omitempty"`
	Added   string  `json:"added,omitempty"` // who added it, where it is not the factory's
	Note    string  `json:"note,omitempty"`
	Implied bool    `json:"implied,omitempty"` // nobody has seen it: it follows from labels or a reading
}

// Splice is a factory joint of several wires.
type Splice struct {
	ID      JointID `json:"id"`
	Branch  string  `json:"branch,omitempty"`
	Added   string  `json:"added,omitempty"`
	Implied bool    `json:"implied,omitempty"` // implied until somebody opens the harness or measures
	Note    string  `json:"note,omitempty"`
}

// Branch is a length of the harness: it breaks out of another branch, or is a trunk.
type Branch struct {
	ID     string  `json:"id"`
	Parent string  `json:"parent,omitempty"`
	At     float64 `json:"at,omitempty"`     // mm along the parent to where it breaks out
	Length float64 `json:"length,omitempty"` // mm
	Clips  int     `json:"clips,omitempty"`
}
