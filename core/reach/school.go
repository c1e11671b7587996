package reach

import "draxel/core/route"

// thickWire and strongAmps are from where on a crimp is the better joint: common practice, no source.
const (
	thickWire  = 4.0 // mm²
	strongAmps = 15  // A
	hotJoint   = 105 // °C
)

// school gives how a joint is made: as a person said of the wire, else what the place and the load ask for, else as the
// job does it.
func (r *Result) school(s *settled, w *Run, l *Line, path *route.Path) School {
	if x := s.wish[w.ID]; x != nil && x.School != "" {
		return x.School
	}
	school := r.in.Decisions.Rules.School
	if school == Solder && againstSolder(w, l, path) != "" {
		return Crimp
	}
	return school
}

// againstSolder says why a joint is better crimped, empty where nothing speaks for it.
func againstSolder(w *Run, l *Line, path *route.Path) string {
	switch {
	case path != nil && path.Moving:
		return "the bundle flexes there, and solder makes the wire stiff beside the joint"
	case path != nil && path.Air() > hotJoint:
		return "the air there is hot"
	case max(w.Size, l.Size) >= thickWire:
		return "the wire is thick, and its heat would run into the insulation"
	case l.Amps >= strongAmps:
		return "it carries much current"
	}
	return ""
}

// aboutJoint says why a joint is made so, and what to mind.
func (r *Result) aboutJoint(
	s *settled, w *Run, l *Line, path *route.Path, school School,
) (why string, cautions []string) {
	asked := s.wish[w.ID] != nil && s.wish[w.ID].School != ""
	against := againstSolder(w, l, path)
	switch {
	case asked:
		why = "It was chosen for this wire."
	case school != r.in.Decisions.Rules.School:
		why = "Crimped, since " + against + "."
	default:
		why = "The job's own way."
	}
	if asked && school == Solder && against != "" {
		cautions = append(cautions, "Solder is not the best here: "+against+".")
	}
	if path != nil && path.Wet {
		cautions = append(cautions, "It gets wet there: adhesive heat shrink over the joint, and over both ends of a sleeve.")
	}
	if path != nil && path.Air() > 85 {
		cautions = append(cautions, "Hot: sleeve and shrink must stand it too.")
	}
	if w.Shield != "" {
		cautions = append(cautions, "Carry the shield over the joint, insulated; it stays grounded at one end only.")
	}
	if w.Pair != "" {
		cautions = append(cautions, "Keep the pair twisted up to the joints, and the joints of its two wires apart.")
	}
	for end := range 2 {
		if d := s.deviceAt(w, end); d != nil && breathes(w, d) {
			cautions = append(cautions, "The sensor breathes through its own lead: never solder, seal or cut that one; joint "+
				"on the harness side.")
			break
		}
	}
	return why, cautions
}
