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

	"github.com/invopop/jsonschema"

	"draxel/exchange"
	"draxel/server/desk"
)

func main() {
	dir := "docs"
	if len(os.Args) > 1 {
		dir = os.Args[1]
	}
	values, err := enums()
	if err != nil {
		fmt.Fprintln(os.Stderr, "schema:", err)
		os.Exit(1)
	}
	for name, v := range map[string]any{"job.schema.json": exchange.JobFile{}, "api.schema.json": api{},
		"faces.schema.json": exchange.FacesFile{}} {
		if err := write(filepath.Join(dir, name), v, values); err != nil {
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

func write(path string, v any, values map[string][]any) error {
	enums := jsonschema.Definitions{}
	r := jsonschema.Reflector{Namer: name, Mapper: asEnum(values, enums)}
	s := r.ReflectFromType(reflect.TypeOf(v))
	s.ID = ""
	for name, values := range enums {
		if _, taken := s.Definitions[name]; taken {
			return fmt.Errorf("%s is a type and a set of values", name)
		}
		s.Definitions[name] = values
	}
	text, err := json.MarshalIndent(s, "", "  ")
	if err != nil {
		return err
	}
	return os.WriteFile(path, append(text, '\n'), 0o644)
}

// named remembers which type each name in the schema stands for.
var named = map[string]reflect.Type{}

// name gives the name of a type in the schema. Two types must not share one, where one of them has a schema of its own:
// the schema would show that for both.
func name(t reflect.Type) string {
	n := plainName(t)
	if n == "" {
		return n
	}
	other, taken := named[n]
	inline := t.Kind() == reflect.String
	if taken && other != t && !(inline && other.Kind() == reflect.String) {
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
	case "draxel/core/route.Map":
		return "RouteMap"
	case "draxel/core/route.Path":
		return "RoutePath"
	case "draxel/core/reach.Wish":
		return "Span"
	case "draxel/core/reach.Rates":
		return "ReachRates"
	case "draxel/core/reach.Joint":
		return "ReachJoint"
	case "draxel/core/route.Option":
		return "PlaceOption"
	case "draxel/core/reach.Line":
		return "CutLine"
	case "draxel/core/stored.Table":
		return "StoredTable"
	}
	return t.Name()
}
