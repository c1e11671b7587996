package stored

import (
	"slices"
	"strings"

	"draxel/core/harness"
	"draxel/core/route"
	"draxel/core/thin"
)

// WithIDs gives the job with connectors named as they are now. Jobs that were kept before named a connector of both
// sides after the title of the To table; every title that the table has had is known.
func (j Job) WithIDs() Job {
	j.wireNames()
	if j.To == nil || j.From == nil {
		return j
	}
	as := func(id string) string {
		for _, title := range append([]string{j.To.Name}, j.To.Was...) {
			if rest, ok := strings.CutPrefix(id, title+" "); ok && title != "" {
				return OtherName(rest)
			}
		}
		return id
	}
	both := func(at, to *harness.Ref) { at.Connector, to.Connector = as(at.Connector), as(to.Connector) }
	j.Readings, j.Traces = slices.Clone(j.Readings), slices.Clone(j.Traces)
	for i := range j.Readings {
		both(&j.Readings[i].At, &j.Readings[i].To)
	}
	for i := range j.Traces {
		both(&j.Traces[i].At, &j.Traces[i].To)
	}
	j.Places = slices.Clone(j.Places)
	for i := range j.Places {
		if j.Places[i].Thing.Kind == route.AConnector {
			j.Places[i].Thing.ID = as(j.Places[i].Thing.ID)
		}
	}
	j.Thin = slices.Clone(j.Thin)
	for i := range j.Thin {
		j.Thin[i].ID = as(j.Thin[i].ID)
	}
	j.Layouts, j.Looked = renamed(j.Layouts, as), renamed(j.Looked, as)
	return j
}

// wireNames puts the names of wires in decisions as the harness has them: a job of an earlier Draxel may have a wire's
// name as it was listed.
func (j *Job) wireNames() {
	j.Thin, j.Spans = slices.Clone(j.Thin), slices.Clone(j.Spans)
	j.Lengths, j.Leftover = slices.Clone(j.Lengths), slices.Clone(j.Leftover)
	for i := range j.Thin {
		if j.Thin[i].On == thin.Wire {
			j.Thin[i].ID = string(harness.Listed(j.Thin[i].ID))
		}
	}
	for i := range j.Spans {
		j.Spans[i].Wire = ourOr(j.Spans[i].Wire)
	}
	for i := range j.Lengths {
		j.Lengths[i].Wire = ourOr(j.Lengths[i].Wire)
	}
	for i := range j.Leftover {
		j.Leftover[i].Wire = ourOr(j.Leftover[i].Wire)
	}
}

// ourOr leaves the name of a new wire of ours as it is, and gives that of a listed one as the harness has it.
func ourOr(wire harness.WireID) harness.WireID {
	if wire.New() {
		return wire
	}
	return harness.Listed(string(wire))
}

// renamed gives a map with other keys; what has the new name already is not overwritten by what had the old one.
func renamed[V any](m map[string]V, as func(string) string) map[string]V {
	if len(m) == 0 {
		return m
	}
	out := make(map[string]V, len(m))
	for id, v := range m {
		if as(id) == id {
			out[id] = v
		}
	}
	for id, v := range m {
		if _, taken := out[as(id)]; !taken {
			out[as(id)] = v
		}
	}
	return out
}

// OtherName names a connector of the To side apart from one of the From side that has the same name. It does not rest
// on what a table is called: tables are renamed.
func OtherName(id string) string { return "other " + id }
