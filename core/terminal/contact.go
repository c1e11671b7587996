package terminal

// Contact is a width of contact with what it carries.
type Contact struct {
	Blade float64 // mm
	Amps  float64 // A for long
}

// Contacts lists what contacts of the generic sealed families carry by their width, the narrowest first: common
// practice, no source; the data sheet comes first.
func Contacts() []Contact { return []Contact{{0.64, 3}, {1.5, 12}, {2.8, 25}, {6.3, 40}, {9.5, 60}} }

// Carries gives the A that the contact of a seat carries for long, 0 where its width is not known.
func (s Seat) Carries() float64 {
	amps := 0.0
	for _, c := range Contacts() {
		if s.Blade >= c.Blade {
			amps = c.Amps
		}
	}
	return amps
}
