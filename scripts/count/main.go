// Command count reads the output of go test -json, shows what failed and what was skipped, and closes with the counts.
package main

import (
	"bufio"
	"encoding/json"
	"fmt"
	"os"
)

type event struct {
	Action, Package, Test, Output string
}

func main() {
	f, err := os.Open(os.Args[1])
	if err != nil {
		fmt.Fprintln(os.Stderr, "count:", err)
		os.Exit(1)
	}
	defer f.Close()
	counts := map[string]int{}
	output := map[[2]string]string{}
	scan := bufio.NewScanner(f)
	scan.Buffer(nil, 16<<20)
	for scan.Scan() {
		var e event
		if json.Unmarshal(scan.Bytes(), &e) != nil {
			fmt.Println(scan.Text()) // what the compiler says of a package that does not build
			continue
		}
		key := [2]string{e.Package, e.Test}
		switch e.Action {
		case "output", "build-output":
			output[key] += e.Output
		case "pass", "fail", "skip":
			if e.Test != "" {
				counts[e.Action]++
			}
			if e.Action == "fail" || e.Action == "skip" && e.Test != "" {
				fmt.Printf("--- %s %s %s\n%s", e.Action, e.Package, e.Test, output[key])
			}
			delete(output, key)
		}
	}
	fmt.Printf("%d passed, %d failed, %d skipped\n", counts["pass"], counts["fail"], counts["skip"])
}
