// Command schema writes the published schema of the job file and that of the API, from the Go types. The front end's
// TypeScript types are made from the latter, so that no type is written twice.
package main

import (
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"strings"

	"draxel/server/matchapi"

	"github.com/invopop/jsonschema"

	"draxel/core/colour"
	"draxel/core/face"
	"draxel/core/finding"
	"draxel/core/gather"
	"draxel/core/harness"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/prove"
	"draxel/core/reach"
	"draxel/core/size"
	"draxel/core/stored"
	"draxel/core/terminal"
	"draxel/core/thin"
	"draxel/core/work"
	"draxel/exchange"
	"draxel/server/desk"
)

func main() {
	dir := "docs"
	if len(os.Args) > 1 {
		dir = os.Args[1]
	}
	for name, v := range map[string]any{"job.schema.json": exchange.JobFile{}, "api.schema.json": api{},
		"faces.schema.json": exchange.FacesFile{}} {
		if err := write(filepath.Join(dir, name), v); err != nil {
			fmt.Fprintln(os.Stderr, "schema:", err)
			os.Exit(1)
		}
	}
	if err := writeWords(filepath.Join(dir, "changes.gen.ts")); err != nil {
		fmt.Fprintln(os.Stderr, "schema:", err)
		os.Exit(1)
	}
}

// writeWords writes what a change was, as the page says it: the words are the server's, since the book says them too.
func writeWords(path string) error {
	var b strings.Builder
	b.WriteString("/** What a change was, by the word that the journal has for it. */\n" +
		"export const changeWord: Record<string, string> = {\n")
	for _, what := range slices.Sorted(maps.Keys(desk.ChangeWords)) {
		key := what
		if strings.Contains(what, "-") {
			key = "'" + what + "'"
		}
		fmt.Fprintf(&b, "  %s: '%s',\n", key, desk.ChangeWords[what])
	}
	b.WriteString("};\n")
	return os.WriteFile(path, []byte(b.String()), 0o644)
}

func write(path string, v any) error {
	r := jsonschema.Reflector{Namer: name, Mapper: enum}
	s := r.ReflectFromType(reflect.TypeOf(v))
	s.ID = ""
	text, err := json.MarshalIndent(s, "", "  ")
	if err != nil {
		return err
	}
	return os.WriteFile(path, append(text, '\n'), 0o644)
}

// enums gives the values of the string types that have a fixed set of them.
var enums = map[reflect.Type][]any{
	reflect.TypeFor[join.Choice](): list(join.Unsaid, join.Wanted, join.GivenUp, join.NotFitted),
	reflect.TypeFor[prove.Kind]():  list(prove.Ohms, prove.Volts, prove.Works),
	reflect.TypeFor[join.Body]():   list(join.Resistor, join.RelayBody, join.Through, join.SingleWire, join.Fitted),
	reflect.TypeFor[join.State]():  list(join.OnPaper, join.Needs, join.Open, join.Gone, join.NotThere),
	reflect.TypeFor[match.Verdict](): list(match.StaysPut, match.Moves, match.MovesConnector, match.Meets,
		match.Faces, match.Goes, match.NeedsSource, match.Undecided, match.NeedsWire, match.LeftEmpty, match.Joins,
		match.Branches, match.NewWire),
	reflect.TypeFor[match.Side](): list(match.From, match.To),
	reflect.TypeFor[match.Choice](): list(match.Open, match.Matched, match.Gone, match.Sourced, match.Vacant,
		match.Joined, match.Branch, match.Wired),
	reflect.TypeFor[match.Met]():        list(match.Mets()...),
	reflect.TypeFor[match.Way]():        list(append(match.Ways(), match.Proposed)...),
	reflect.TypeFor[match.OriginKind](): list(match.OriginKinds()...),
	reflect.TypeFor[work.Stage]():       list(append(work.Stages(), "")...),
	reflect.TypeFor[matchapi.Action](): list(matchapi.Accept, matchapi.Reject, matchapi.GoesAs, matchapi.Source,
		matchapi.Empty,
		matchapi.Reopen, matchapi.JoinTo, matchapi.BranchOf, matchapi.WireFrom, matchapi.ByWay),
	reflect.TypeFor[finding.Severity](): list(finding.Severities()...),
	reflect.TypeFor[gather.Column]():    list(append(gather.Columns(), gather.Ignored)...),
	reflect.TypeFor[gather.Beside]():    {gather.LeftTable, gather.RightTable, gather.AllTables},
	reflect.TypeFor[colour.Habit]():     list(append(colour.Habits(), colour.Unknown)...),
	reflect.TypeFor[colour.Shade]():     list(colour.Light, colour.Dark),
	reflect.TypeFor[size.Unit]():        list(size.Square, size.Gauge, ""),
	reflect.TypeFor[harness.Trust]():    list(exchange.Trusts()...),
	reflect.TypeFor[face.Corner]():      list(face.TopLeft, face.TopRight, face.BottomLeft, face.BottomRight, ""),
	reflect.TypeFor[stored.Kind]():      kinds(),
	reflect.TypeFor[gather.SheetKind](): list(append(gather.SheetKinds(), gather.FeedKinds()...)...),
	reflect.TypeFor[gather.Key]():       list(gather.Keys()...),
	reflect.TypeFor[gather.Works]():     list(gather.NotTried, gather.DidWork, gather.DidNot, gather.NotFitted),
	reflect.TypeFor[gather.State]():     list(gather.NotLooked, gather.Good, gather.Worn, gather.Broken),
	reflect.TypeFor[gather.Saw](): list(gather.GoesHere, gather.JoinsAt, gather.EndsOff, gather.AddedTo,
		gather.Differs, gather.Stuck, gather.NamedAs),
	reflect.TypeFor[pin.What]():       list(pin.Whats()...),
	reflect.TypeFor[face.View]():      list(face.WireSide, face.MatingFace),
	reflect.TypeFor[face.Side]():      list(face.Top, face.Bottom, face.Left, face.Right, ""),
	reflect.TypeFor[face.Secondary](): list(face.NoLock, face.Comb, face.Wedge, face.Cover, face.Slide),
	reflect.TypeFor[face.Style](): list(
		face.Numbers,
		face.Letters,
		face.ThenSmall,
		face.AllLetters,
		face.ByHand,
	),
	reflect.TypeFor[terminal.Gender]():  list(terminal.Female, terminal.Male, ""),
	reflect.TypeFor[terminal.Sealing](): list(terminal.Unsealed, terminal.Mat, terminal.WireSeal),
	reflect.TypeFor[terminal.Release](): list(terminal.Rear, terminal.Front, terminal.PullToSeat, ""),
	reflect.TypeFor[terminal.Ends](): list(
		terminal.Crimped,
		terminal.Moulded,
		terminal.Pierced,
		terminal.Soldered,
	),
	reflect.TypeFor[terminal.Verdict](): list(
		terminal.Unknown,
		terminal.Travels,
		terminal.Reterminated,
		terminal.Pigtail,
	),
	reflect.TypeFor[thin.Scope]():    list(thin.System, thin.Module, thin.Connector, thin.Wire, thin.Joint),
	reflect.TypeFor[thin.Choice]():   list(thin.Undecided, thin.Keep, thin.Goes),
	reflect.TypeFor[thin.Fate]():     list(thin.Leave, thin.Trim, thin.Through, thin.Rejoin, thin.Dissolve),
	reflect.TypeFor[thin.School]():   list(thin.Extract, thin.CutSeal),
	reflect.TypeFor[reach.Kind]():    list(reach.Kinds()...),
	reflect.TypeFor[reach.Cover]():   list(reach.Covers()...),
	reflect.TypeFor[reach.School]():  list(append(reach.Schools(), "")...),
	reflect.TypeFor[reach.Verdict](): list(reach.Verdicts()...),
	reflect.TypeFor[reach.Lead]():    list(reach.Single, reach.Twisted, reach.Shielded),
	reflect.TypeFor[size.Class]():    list(append(size.Classes(), "")...),
}

func list[T any](values ...T) []any {
	out := make([]any, len(values))
	for i, v := range values {
		out[i] = v
	}
	return out
}

func kinds() []any {
	var out []any
	for _, k := range stored.Kinds() {
		out = append(out, k.ID)
	}
	return out
}

func enum(t reflect.Type) *jsonschema.Schema {
	if values, ok := enums[t]; ok {
		return &jsonschema.Schema{Type: "string", Enum: values}
	}
	return nil
}

// named remembers which type each name in the schema stands for.
var named = map[string]reflect.Type{}

// name gives the name of a type in the schema. Two types must not share one: the schema would show one of them for
// both.
func name(t reflect.Type) string {
	n := plainName(t)
	if _, inline := enums[t]; inline || n == "" {
		return n
	}
	if other, taken := named[n]; taken && other != t {
		panic(fmt.Sprintf("schema: %s and %s are both called %s: tell them apart in plainName", other, t, n))
	}
	named[n] = t
	return n
}

// plainName keeps types of the same name in different packages apart.
func plainName(t reflect.Type) string {
	switch t.PkgPath() + "." + t.Name() {
	case "draxel/core/handover.Sheet":
		return "SheetForOthers"
	case "draxel/core/diagram.Drawing":
		return "DiagramDrawing"
	case "draxel/core/diagram.Point":
		return "DiagramPoint"
	case "draxel/core/diagram.Text":
		return "DiagramText"
	case "draxel/core/diagram.Run":
		return "DiagramRun"
	case "draxel/core/diagram.Wire":
		return "DiagramWire"
	case "draxel/core/diagram.Symbol":
		return "DiagramSymbol"
	case "draxel/core/diagram.Port":
		return "DiagramPort"
	case "draxel/core/diagram.End":
		return "DiagramEnd"
	case "draxel/core/diagram.Placed":
		return "DiagramPlaced"
	case "draxel/core/diagram.PlacedPort":
		return "DiagramPlacedPort"
	case "draxel/core/diagram.Kind":
		return "DiagramKind"
	case "draxel/core/colour.Reading":
		return "HabitReading"
	case "draxel/core/signal.Reading":
		return "Signal"
	case "draxel/core/match.Origin":
		return "WireOrigin"
	case "draxel/core/finding.Place":
		return "FindingPlace"
	case "draxel/core/wanted.Way":
		return "WireWay"
	case "draxel/core/repin.Step":
		return "SheetStep"
	case "draxel/core/face.Layout":
		return "FaceLayout"
	case "draxel/core/face.Drawing":
		return "FaceDrawing"
	case "draxel/core/terminal.Part":
		return "TerminalPart"
	case "draxel/core/pin.Order":
		return "PartOrder"
	case "draxel/core/face.Key":
		return "FaceKey"
	case "draxel/core/face.Row":
		return "FaceRow"
	case "draxel/core/thin.Decision":
		return "ThinMade"
	case "draxel/core/work.Step":
		return "PlanStep"
	case "draxel/core/reach.Map":
		return "RouteMap"
	case "draxel/core/reach.Path":
		return "RoutePath"
	case "draxel/core/reach.Wish":
		return "Span"
	case "draxel/core/reach.Rates":
		return "ReachRates"
	case "draxel/core/reach.Joint":
		return "ReachJoint"
	case "draxel/core/reach.Option":
		return "PlaceOption"
	case "draxel/core/reach.Line":
		return "CutLine"
	case "draxel/core/stored.Table":
		return "StoredTable"
	}
	return t.Name()
}
