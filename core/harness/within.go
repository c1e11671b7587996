package harness

// Within says whether numbers lie within bounds; what is not a number does not.
func Within(least, most float64, all ...float64) bool {
	for _, x := range all {
		if !(x >= least && x <= most) {
			return false
		}
	}
	return true
}
