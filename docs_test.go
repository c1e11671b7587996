package draxel

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// named is what the code has names for: "package.Name", "package.Type.Member", and tests by themselves.
func named(t *testing.T) (names, packages map[string]bool) {
	t.Helper()
	names, packages = map[string]bool{}, map[string]bool{}
	files := token.NewFileSet()
	err := filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() && (d.Name() == "node_modules" || path != "." && strings.HasPrefix(d.Name(), ".")) {
			return filepath.SkipDir
		}
		if !strings.HasSuffix(path, ".go") {
			return nil
		}
		f, err := parser.ParseFile(files, path, nil, parser.SkipObjectResolution)
		if err != nil {
			return err
		}
		pkg := strings.TrimSuffix(f.Name.Name, "_test")
		packages[pkg] = true
		for _, d := range f.Decls {
			switch d := d.(type) {
			case *ast.FuncDecl:
				name := pkg + "." + d.Name.Name
				if d.Recv != nil {
					name = pkg + "." + receiver(d.Recv.List[0].Type) + "." + d.Name.Name
				} else if strings.HasSuffix(path, "_test.go") {
					names[d.Name.Name] = true
				}
				names[name] = true
			case *ast.GenDecl:
				for _, s := range d.Specs {
					specNames(names, pkg, s)
				}
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	return names, packages
}

func receiver(e ast.Expr) string {
	switch e := e.(type) {
	case *ast.StarExpr:
		return receiver(e.X)
	case *ast.IndexExpr:
		return receiver(e.X)
	case *ast.Ident:
		return e.Name
	}
	return ""
}

// specNames notes what a declaration names, the fields of structs among it.
func specNames(names map[string]bool, pkg string, s ast.Spec) {
	switch s := s.(type) {
	case *ast.ValueSpec:
		for _, n := range s.Names {
			names[pkg+"."+n.Name] = true
		}
	case *ast.TypeSpec:
		names[pkg+"."+s.Name.Name] = true
		if fields, is := s.Type.(*ast.StructType); is {
			for _, f := range fields.Fields.List {
				for _, n := range f.Names {
					names[pkg+"."+s.Name.Name+"."+n.Name] = true
				}
			}
		}
	}
}

var (
	quoted   = regexp.MustCompile("`([^`\n]+)`")
	code     = regexp.MustCompile(`^([a-z]+)((?:\.[A-Za-z]\w*)+)(?:\(.*\))?$`)
	testName = regexp.MustCompile(`^((?:Test|Benchmark|Fuzz|Example)\w+)(?:/.*)?$`)
	place    = regexp.MustCompile(`^(?:core|server|store|exchange|standins|demo|web|browser|docs|cmd|scripts)/[\w./-]+$`)
)

// What the documents name is there: code, tests, files. What is called otherwise now is called so in them too.
func TestDocumentsNameWhatIsThere(t *testing.T) {
	names, packages := named(t)
	documents, err := filepath.Glob("docs/*.md")
	if err != nil {
		t.Fatal(err)
	}
	checked := 0
	for _, file := range append(documents, "README.md") {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		for i, line := range strings.Split(string(text), "\n") {
			for _, m := range quoted.FindAllStringSubmatch(line, -1) {
				known := true
				if x := testName.FindStringSubmatch(m[1]); x != nil {
					known = names[x[1]]
				} else if x := code.FindStringSubmatch(m[1]); x != nil && packages[x[1]] && !isFile(m[1]) {
					known = names[x[1]+x[2]]
				} else if place.MatchString(m[1]) {
					_, err := os.Stat(m[1])
					known = err == nil
				} else {
					continue
				}
				if checked++; !known {
					t.Errorf("%s:%d: there is no %s", file, i+1, m[1])
				}
			}
		}
	}
	if checked < 150 {
		t.Errorf("only %d names were looked up: the test looks in the wrong place", checked)
	}
}

// isFile says whether a name is that of a file, whatever package is called so.
func isFile(name string) bool {
	switch filepath.Ext(name) {
	case ".go", ".md", ".json", ".csv", ".xlsx", ".pdf", ".zip", ".svg", ".png", ".dot", ".ts", ".tsx", ".css", ".db":
		return true
	}
	return false
}
