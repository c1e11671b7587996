package stored

// KindQuestion is asked of somebody who begins a job, to find its kind.
type KindQuestion struct {
	Asks    string       `json:"asks"`
	Answers []KindAnswer `json:"answers"`
}

// KindAnswer is one that can be given: it says the kind of job, or leads to another question.
type KindAnswer struct {
	Says string        `json:"says"`
	Kind Kind          `json:"kind,omitempty"`
	Then *KindQuestion `json:"then,omitempty"`
}

// FirstQuestion gives the question with which a job begins. Three answers at most lead to each kind.
func FirstQuestion() KindQuestion {
	return KindQuestion{"What is before you?", []KindAnswer{
		{"An engine and its harness, for another vehicle", "", &KindQuestion{"Where will its harness end?", []KindAnswer{
			{"In a fuse and relay block of its own", Standalone, nil},
			{"In the vehicle's own plugs, fuses and relays", "",
				&KindQuestion{"What of the vehicle stays as it is?", []KindAnswer{
					{"Its body harness, and the ends are joined to it", Integrated, nil},
					{"The body half of one bulkhead plug, which is locked", Bulkhead, nil},
					{"An old body harness, which is sorted, and its gauges", Classic, nil},
				}}},
			{"It was bought ready: the feeds and the body side remain", Bought, nil},
			{"The donor's body harness, modules and dash come along", "", &KindQuestion{"What drives it?", []KindAnswer{
				{"An engine", Transplant, nil},
				{"Electric motors, at high voltage", Electric, nil},
			}}},
		}}},
		{"A harness that stays, and another control unit", "", &KindQuestion{"How do its wires get there?", []KindAnswer{
			{"They are moved, cavity by cavity, to the other unit's plugs", "",
				&KindQuestion{"How many cylinders?", []KindAnswer{
					{"As many as before", Repinned, nil},
					{"More: circuits are added", Grown, nil},
				}}},
			{"Through a short harness between, and its own plugs stay", Adapter, nil},
			{"Several plugs become one, or one becomes several", Exchange, nil},
		}}},
		{"A harness with more in it than is wanted", ThinningOnly, nil},
		{"One sensor with another plug", Sensor, nil},
	}}
}
