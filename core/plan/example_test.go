package plan_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"draxel/core/fact"
	"draxel/core/gather"
	"draxel/core/part"
	"draxel/core/plan"
	"draxel/core/reach"
	"draxel/core/stored"
)

type copperReads struct{ Reach *reach.Result }

// copper gives the kg of copper in the wires, at 8.96 g/cm³.
func copper(r copperReads) *float64 {
	kg := 0.0
	for i, w := range r.Reach.Wires() {
		line := &r.Reach.Lines[i]
		square, mm := max(w.Size, line.Size), max(w.Length, line.Need)
		kg += float64(square) * mm * 8.96e-6
	}
	return &kg
}

// A part of one's own, beside those of the table: it is computed again when the lengths are, and not for a note.
func ExampleBegin() {
	wires := func(mm string) map[gather.SheetKind]*gather.Sheet {
		return map[gather.SheetKind]*gather.Sheet{gather.WireList: {Cells: [][]string{
			{"Wire", "From", "Cavity", "To", "Cavity", "Size", "Length mm"}, {"w1", "A", "1", "V", "1", "0.75", mm}}}}
	}
	j := stored.Job{Title: "weighed", Kind: stored.Repinned, OfGather: gather.Record{Sheets: wires("1000")}}
	var memory part.Memory
	weigh := func() float64 {
		f, err := fact.Read(j, &memory)
		if err != nil {
			fmt.Println(err)
			return 0
		}
		p := plan.Begin(f, j.Chosen(), &memory).Whole()
		return *part.Of(&memory, "copper", copperReads{p.Reach.Result}, func(r copperReads) *float64 {
			fmt.Println("weighed")
			return copper(r)
		})
	}
	fmt.Printf("%.1f g\n", 1000*weigh())
	j.Own = []stored.OwnStep{{ID: "1", Text: "Wash it."}}
	fmt.Printf("%.1f g\n", 1000*weigh())
	j.Sheets = wires("2000")
	fmt.Printf("%.1f g\n", 1000*weigh())
	// Output:
	// weighed
	// 6.7 g
	// 6.7 g
	// weighed
	// 13.4 g
}

// The part that the lesson adds is the one that runs here.
func TestTheLessonIsTheExample(t *testing.T) {
	lesson, err := os.ReadFile("../../docs/plan.md")
	if err != nil {
		t.Fatal(err)
	}
	example, err := os.ReadFile("example_test.go")
	if err != nil {
		t.Fatal(err)
	}
	_, block, found := strings.Cut(string(lesson), "```go\n")
	block, _, closed := strings.Cut(block, "```")
	if !found || !closed || !strings.Contains(string(example), strings.TrimSpace(block)) {
		t.Errorf("docs/plan.md has\n%s\nand that is not what runs", block)
	}
}
