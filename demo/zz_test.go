package demo_test

import (
	"fmt"
	"testing"

	"draxel/core/plan"
	"draxel/demo"
)

func TestZZ(t *testing.T) {
	jobs, _ := demo.Jobs()
	for i := range jobs {
		f, err := jobs[i].Facts()
		if err != nil {
			t.Fatal(err)
		}
		p := plan.Compute(f, jobs[i].Chosen())
		fmt.Println("==", jobs[i].Title, p.Proof.Line())
		n := map[string]int{}
		for _, x := range p.Findings {
			n[string(x.Severity)]++
			if x.Code == "size-unknown" {
				fmt.Println(x.Text)
			}
		}
		fmt.Println(n)
	}
}
