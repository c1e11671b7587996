// Command mutate breaks the code at places drawn by lot, one at a time, and says which breaks no test of the package
// notices. It changes no file: the broken one is laid over the real one for the run of the tests.
//
//	go run ./scripts/mutate -n 20 ./core/thin ./core/pin
package main

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"go/ast"
	"go/parser"
	"go/printer"
	"go/token"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"
)

// mutant is a place that can be broken: what is done there, and how it is undone.
type mutant struct {
	file   string
	syntax *ast.File
	line   int
	what   string
	hurt   func()
	mend   func()
}

var (
	files = token.NewFileSet()
	n     = flag.Int("n", 20, "how many places are broken")
	seed  = flag.Uint64("seed", 1, "of the lot")
	limit = flag.Duration("limit", time.Minute, "how long the tests of a package may take")
	also  = flag.String("also", "",
		"further packages, by commas, whose tests are run where a package's own notice nothing")
)

func main() {
	flag.Parse()
	work, err := os.MkdirTemp("", "mutate")
	if err == nil {
		defer os.RemoveAll(work)
		err = run(work, flag.Args())
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "mutate:", err)
		os.Exit(1)
	}
}

func run(work string, packages []string) error {
	others := strings.FieldsFunc(*also, func(r rune) bool { return r == ',' })
	// Red tests would count for every mutant as if they had noticed it.
	for _, dir := range slices.Concat(packages, others) {
		if out, err := exec.Command("go", tests([]string{dir})...).CombinedOutput(); err != nil {
			return fmt.Errorf("the tests of %s are red before anything is broken: %s", dir, out)
		}
	}
	var all []mutant
	for _, dir := range packages {
		found, err := mutants(dir)
		if err != nil {
			return err
		}
		all = append(all, found...)
	}
	r := rand.New(rand.NewPCG(*seed, 1))
	r.Shuffle(len(all), func(i, k int) { all[i], all[k] = all[k], all[i] })
	killed, beside, tried := 0, 0, 0
	for _, m := range all {
		if tried == *n {
			break
		}
		by, built, err := try(work, &m, others)
		if err != nil {
			return err
		}
		if !built {
			continue
		}
		switch tried++; by {
		case nobody:
			fmt.Printf("alive: %s:%d: %s (%d of %d killed so far)\n", m.file, m.line, m.what, killed+beside, tried)
		case own:
			killed++
		case other:
			beside++
		}
	}
	fmt.Printf("%d of %d killed, %d of them by the package's own tests; drawn from %d places\n",
		killed+beside, tried, killed, len(all))
	return nil
}

// mutants lists the places of a package that can be broken.
func mutants(dir string) ([]mutant, error) {
	names, err := filepath.Glob(filepath.Join(dir, "*.go"))
	if err != nil {
		return nil, err
	}
	var all []mutant
	for _, name := range names {
		if strings.HasSuffix(name, "_test.go") {
			continue
		}
		f, err := parser.ParseFile(files, name, nil, parser.ParseComments|parser.SkipObjectResolution)
		if err != nil {
			return nil, err
		}
		ast.Inspect(f, func(node ast.Node) bool {
			if _, constant := node.(*ast.GenDecl); constant {
				return false // a table is data
			}
			if made, is := node.(*ast.CallExpr); is && room(made) {
				return false // how much is made room for changes nothing that is asked
			}
			m := mutant{file: name, syntax: f}
			if node != nil && change(node, &m) {
				m.line = files.Position(node.Pos()).Line
				all = append(all, m)
			}
			return true
		})
	}
	return all, nil
}

// room says whether a call makes a list of no length with room for some, or a map with a hint of its size.
func room(call *ast.CallExpr) bool {
	f, is := call.Fun.(*ast.Ident)
	if !is || f.Name != "make" || len(call.Args) < 2 {
		return false
	}
	if _, is := call.Args[0].(*ast.MapType); is {
		return true
	}
	n, is := call.Args[1].(*ast.BasicLit)
	return len(call.Args) == 3 && is && n.Value == "0"
}

var flipped = map[token.Token]token.Token{token.EQL: token.NEQ, token.NEQ: token.EQL, token.LSS: token.GEQ,
	token.GEQ: token.LSS, token.GTR: token.LEQ, token.LEQ: token.GTR, token.LAND: token.LOR, token.LOR: token.LAND,
	token.ADD: token.SUB, token.SUB: token.ADD}

// change says how a node can be broken: a comparison is turned round, a branch is dropped, a number is one more.
func change(node ast.Node, m *mutant) bool {
	switch x := node.(type) {
	case *ast.BinaryExpr:
		was, other := x.Op, flipped[x.Op]
		if other == 0 {
			return false
		}
		m.what = fmt.Sprintf("%s became %s", was, other)
		m.hurt, m.mend = func() { x.Op = other }, func() { x.Op = was }
	case *ast.IfStmt:
		was := x.Cond
		never := &ast.BinaryExpr{X: &ast.ParenExpr{X: was}, Op: token.LAND, Y: ast.NewIdent("false")}
		m.what = "the branch is never taken"
		m.hurt, m.mend = func() { x.Cond = never }, func() { x.Cond = was }
	case *ast.BasicLit:
		v, err := strconv.Atoi(x.Value)
		if x.Kind != token.INT || err != nil {
			return false
		}
		was := x.Value
		m.what = fmt.Sprintf("%d became %d", v, v+1)
		m.hurt, m.mend = func() { x.Value = strconv.Itoa(v + 1) }, func() { x.Value = was }
	default:
		return false
	}
	return true
}

// notice says whose tests noticed a break.
type notice int

const (
	nobody notice = iota
	own           // those of the package
	other         // those of a package that was named beside
)

// try runs the tests over a broken file: the package's own, then the others.
func try(work string, m *mutant, others []string) (by notice, built bool, err error) {
	m.hurt()
	var text bytes.Buffer
	err = printer.Fprint(&text, files, m.syntax)
	m.mend()
	if err != nil {
		return nobody, false, err
	}
	real, err := filepath.Abs(m.file)
	if err != nil {
		return nobody, false, err
	}
	broken, overlay := filepath.Join(work, "broken.go"), filepath.Join(work, "overlay.json")
	body, err := json.Marshal(map[string]map[string]string{"Replace": {real: broken}})
	if err != nil {
		return nobody, false, err
	}
	for path, data := range map[string][]byte{broken: text.Bytes(), overlay: body} {
		if err := os.WriteFile(path, data, 0o600); err != nil {
			return nobody, false, err
		}
	}
	dir := "./" + filepath.ToSlash(filepath.Dir(m.file))
	if exec.Command("go", "build", "-overlay", overlay, dir).Run() != nil {
		return nobody, false, nil // it does not compile: no test is needed to notice it
	}
	if exec.Command("go", tests([]string{dir}, "-overlay", overlay)...).Run() != nil {
		return own, true, nil
	}
	if len(others) > 0 && exec.Command("go", tests(others, "-overlay", overlay)...).Run() != nil {
		return other, true, nil
	}
	return nobody, true, nil
}

// tests gives the arguments with which go runs the tests of packages.
func tests(packages []string, flags ...string) []string {
	return slices.Concat([]string{"test", "-vet=off", "-count=1", "-failfast", "-timeout", limit.String()}, flags,
		packages)
}
