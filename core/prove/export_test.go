package prove

// Feels says whether a measure is taken to feel a cause.
func Feels(v *Vehicle, m *Measure, c Cause) bool {
	x, err := v.Expect(m)
	if err != nil {
		return true
	}
	f := v.feel([]MeterReading{{Measure: *m, Value: x.Value, Over: x.Over}}, []Shown{x})
	return f.feels(0, m.Setup, []Cause{c})
}
