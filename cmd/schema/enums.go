package main

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"github.com/invopop/jsonschema"
)

// enums gives the values of the string types that have a set of constants in the source below the working directory, by
// the type's package and name, in the order in which they stand there.
func enums() (map[string][]any, error) {
	out := map[string][]any{}
	files := token.NewFileSet()
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() {
			if name := d.Name(); path != "." && (name == "web" || name == "testdata" || strings.HasPrefix(name, ".")) {
				return fs.SkipDir
			}
			return nil
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		f, err := parser.ParseFile(files, path, nil, parser.SkipObjectResolution)
		if err != nil {
			return fmt.Errorf("read %s: %w", path, err)
		}
		for _, d := range f.Decls {
			if g, ok := d.(*ast.GenDecl); ok && g.Tok == token.CONST {
				collect(out, typesIn(f, "draxel/"+filepath.ToSlash(filepath.Dir(path))), g)
			}
		}
		return nil
	})
	return out, err
}

// typesIn gives what names a type that a file writes, of its own package or of one that it imports; empty where it is
// no name.
func typesIn(f *ast.File, pkg string) func(ast.Expr) string {
	return func(e ast.Expr) string {
		switch e := e.(type) {
		case *ast.Ident:
			return pkg + "." + e.Name
		case *ast.SelectorExpr:
			for _, i := range f.Imports {
				path := strings.Trim(i.Path.Value, `"`)
				if from, ok := e.X.(*ast.Ident); ok && i.Name == nil && path[strings.LastIndex(path, "/")+1:] == from.Name {
					return path + "." + e.Sel.Name
				}
			}
		}
		return ""
	}
}

// collect adds the string constants of a declaration that state their type.
func collect(out map[string][]any, named func(ast.Expr) string, g *ast.GenDecl) {
	for _, s := range g.Specs {
		spec := s.(*ast.ValueSpec)
		key := named(spec.Type)
		if key == "" {
			continue
		}
		for _, v := range spec.Values {
			lit, ok := v.(*ast.BasicLit)
			if !ok || lit.Kind != token.STRING {
				continue
			}
			text, err := strconv.Unquote(lit.Value)
			if err != nil {
				panic(err) // the parser has read it
			}
			if !slices.Contains(out[key], any(text)) {
				out[key] = append(out[key], text)
			}
		}
	}
}

// asEnum gives the schema of a type with a set of values: a reference to a definition that is called after the type and
// its package, and that is put among those that were asked for.
func asEnum(values map[string][]any, asked jsonschema.Definitions) func(reflect.Type) *jsonschema.Schema {
	return func(t reflect.Type) *jsonschema.Schema {
		all := values[t.PkgPath()+"."+t.Name()]
		if t.Kind() != reflect.String || len(all) == 0 {
			return nil
		}
		pkg := strings.TrimSuffix(t.PkgPath()[strings.LastIndex(t.PkgPath(), "/")+1:], "api")
		name := strings.ToUpper(pkg[:1]) + pkg[1:] + t.Name()
		asked[name] = &jsonschema.Schema{Type: "string", Enum: all}
		return &jsonschema.Schema{Ref: "#/$defs/" + name}
	}
}
