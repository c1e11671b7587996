package store

import (
	"strings"

	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/reach"
	"draxel/core/thin"
)

// Names of the subjects that a job has at most one of.
const (
	SubjectJob      = "job"  // title, kind, donor, chassis
	SubjectKept     = "kept" // which housings are kept, as jobs of old said it
	SubjectMet      = "met"  // how To connectors are met
	SubjectVehicle  = "vehicle"
	SubjectIdentity = "identity"
	SubjectItems    = "items" // open items that are seen to
	SubjectBefore   = "before"
	SubjectBench    = "bench"
	SubjectHave     = "have"    // parts and tools that are there
	SubjectMap      = "map"     // stations and paths
	SubjectRules    = "rules"   // how the person works in Reach
	SubjectBlock    = "block"   // a fuse block of one's own
	SubjectProgram  = "program" // what was written into the unit
	SubjectLive     = "live"    // what the unit can be asked for
	SubjectCarried  = "carried" // what came along from an earlier job
	SubjectTerms    = "terms"   // what hours and prices are reckoned with
	SubjectArchived = "archived"
)

// Beginnings of the names of subjects that a job can have many of.
const (
	tables    = "table/"
	decisions = "decision/"
	sheets    = "sheet/"
	looked    = "looked/"
	readings  = "reading/"
	traces    = "trace/"
	photos    = "photo/"
	thinned   = "thin/"
	ticks     = "tick/"
	layouts   = "layout/"
	wishes    = "wish/"
	exchanges = "exchange/"
	reports   = "report/"
	checks    = "check/"
	places    = "place/"
	lengths   = "length/"
	spans     = "span/"
	options   = "option/"
	leftovers = "leftover/"
	partings  = "parting/"
	owns      = "own/"
	asides    = "aside/"
	answers   = "answer/"
	rated     = "rated/"
	feeds     = "feed/"
	functions = "function/"
	outRules  = "outrule/"
	parts     = "part/"
	proved    = "proved/"
	gates     = "gate/"
	mends     = "mend/"
	notes     = "note/"
	rounds    = "trained/"
	left      = "left/"
	loans     = "loan/"
	delivered = "delivered/"
	spent     = "spent/"
	bought    = "bought/"
)

// SubjectTable names the table of a side.
func SubjectTable(side match.Side) string { return tables + string(side) }

// SubjectFurther names a further table by its key.
func SubjectFurther(key string) string { return tables + key }

// SubjectDecision names the decision about a row.
func SubjectDecision(side match.Side, at harness.Ref) string {
	return decisions + string(side) + "/" + at.Connector + "/" + at.Cavity
}

// SubjectSheet names a list of the structure.
func SubjectSheet(kind gather.SheetKind) string { return sheets + string(kind) }

// SubjectLooked names what was noted at a connector.
func SubjectLooked(connector string) string { return looked + connector }

// SubjectReading, SubjectTrace, SubjectPhoto and SubjectTick name a reading, a trace, a photograph and a step done.
func SubjectReading(id string) string { return readings + id }

// SubjectTrace names a trace.
func SubjectTrace(id string) string { return traces + id }

// SubjectPhoto names a photograph.
func SubjectPhoto(id string) string { return photos + id }

// SubjectTick names a step that was carried out.
func SubjectTick(step string) string { return ticks + step }

// SubjectLayout names the face of a connector of the model.
func SubjectLayout(connector string) string { return layouts + connector }

// SubjectWish names the wish about when a step of Pin is done.
func SubjectWish(step string) string { return wishes + step }

// SubjectExchange names the exchange of an output with another.
func SubjectExchange(a harness.Ref) string { return exchanges + a.Connector + "/" + a.Cavity }

// SubjectReport names a report of the bench.
func SubjectReport(id string) string { return reports + id }

// SubjectCheck names the second check of a cavity.
func SubjectCheck(at harness.Ref) string { return checks + at.Connector + "/" + at.Cavity }

// SubjectPlace names the station of a thing.
func SubjectPlace(t reach.Thing) string { return places + string(t.Kind) + "/" + t.ID }

// SubjectLength names what was measured at a wire.
func SubjectLength(wire harness.WireID) string { return string(lengths + wire) }

// SubjectSpan names what was decided about a wire in Reach.
func SubjectSpan(wire harness.WireID) string { return string(spans + wire) }

// SubjectOption names a way to place things that is compared.
func SubjectOption(id string) string { return options + id }

// SubjectParting names the disconnect that parts two service groups.
func SubjectParting(between [2]string) string { return partings + between[0] + "/" + between[1] }

// SubjectRated names the change of a fuse of the vehicle.
func SubjectRated(fuse string) string { return rated + fuse }

// SubjectProved names what was measured at the finished harness, by the measurement's name.
func SubjectProved(id string) string { return proved + id }

// SubjectGate names a gate of powering up.
func SubjectGate(id string) string { return gates + id }

// SubjectMend names a fault that was found and mended.
func SubjectMend(id string) string { return mends + id }

// SubjectNote names a note of what was heard, seen or changed.
func SubjectNote(id string) string { return notes + id }

// SubjectTrained names a round of the trainer.
func SubjectTrained(id string) string { return rounds + id }

// SubjectLeft names what stays open and has an owner.
func SubjectLeft(key string) string { return left + key }

// SubjectLoan names something temporary, borrowed or put off.
func SubjectLoan(id string) string { return loans + id }

// SubjectDelivered names a state that was handed over.
func SubjectDelivered(id string) string { return delivered + id }

// SubjectSpent names time that was noted.
func SubjectSpent(id string) string { return spent + id }

// SubjectBought names what is said of a line of the order list, by its key.
func SubjectBought(key string) string { return bought + key }

// SubjectAdded names a part that a function's sum asked for.
func SubjectAdded(id string) string { return parts + id }

// SubjectOutRule names when a unit works an output.
func SubjectOutRule(output string) string { return outRules + output }

// SubjectFunction names what is wanted and stated of a function.
func SubjectFunction(id string) string { return functions + id }

// SubjectFeed names a way to feed the vehicle that is compared.
func SubjectFeed(id string) string { return feeds + id }

// SubjectLeftover names what a wire left over.
func SubjectLeftover(id string) string { return leftovers + id }

// SubjectOwn names a step of the person's own.
func SubjectOwn(id string) string { return owns + id }

// SubjectAnswer names the answer to a finding by its key.
func SubjectAnswer(key string) string { return answers + key }

// SubjectThin names a decision of Thin.
func SubjectThin(on thin.Scope, id string) string { return thinned + string(on) + "/" + id }

// Subject says in words what a subject of the journal is about, empty where it is about the job as a whole.
func Subject(name string) string {
	kind, rest, many := strings.Cut(name, "/")
	if !many {
		return ""
	}
	switch kind + "/" {
	case decisions:
		if parts := strings.SplitN(rest, "/", 3); len(parts) == 3 {
			return harness.Ref{Connector: parts[1], Cavity: parts[2]}.String()
		}
	case thinned, places:
		_, id, _ := strings.Cut(rest, "/")
		return id
	case looked, layouts, lengths, spans:
		return rest
	case rated:
		return "fuse " + rest
	case functions, outRules, parts, proved, gates, mends, bought:
		return rest
	case exchanges, checks:
		if parts := strings.SplitN(rest, "/", 2); len(parts) == 2 {
			return harness.Ref{Connector: parts[0], Cavity: parts[1]}.String()
		}
	case partings:
		return strings.ReplaceAll(rest, "/", " from ")
	case sheets:
		return "the list of " + rest
	}
	return ""
}
