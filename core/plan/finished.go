package plan

import (
	"slices"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/reach"
	"draxel/core/wanted"
)

type finishReads struct {
	Model *wanted.Model
	Reach *reach.Result
	Added []join.Added
	Studs []string // that parts can come to
}

// finished is the harness as it should become.
type finished struct {
	Wanted   harness.Harness
	Whole    harness.Harness // before what is parted later is parted
	Plain    harness.Harness // without the parts that functions ask for
	Reach    *reach.Result   // with the disconnects that were taken
	Parted   reach.Parted
	Added    join.AddedPart
	Findings []finding.Finding
}

// finish brings the lengths, the disconnects and the parts into what the joints make.
func finish(r finishReads) *finished {
	m, out := r.Model, &finished{Reach: r.Reach.Again()}
	lengthened := m.Joined.With(r.Reach.Changes(m.Joined))
	out.Parted = out.Reach.Part(m.Found, m.Past.Now, lengthened)
	out.Plain = lengthened.With(out.Parted.Changes)
	out.Added = m.Add(r.Added, r.Studs, out.Plain)
	out.Wanted = out.Plain.With(out.Added.Changes)
	out.Whole = lengthened.With(out.Parted.Made).With(out.Added.Made)
	out.Findings = slices.Concat(out.Parted.Findings, out.Added.Findings)
	return out
}
