// Package demo holds the demonstration jobs, invented throughout, as the same files that a user would import.
package demo

import (
	"embed"
	"encoding/json"
	"fmt"
	"sync"

	"draxel/core/fact"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/plan"
	"draxel/core/stored"
	"draxel/exchange"
)

//go:embed sorrel-refit packhorse fuse-block
var files embed.FS

// File gives one of the demonstration's tables: "sorrel-refit/vk-1-harness.csv".
func File(name string) ([]byte, error) { return files.ReadFile(name) }

// IDs gives the names of the jobs in their addresses, in the order of Jobs.
func IDs() []string { return []string{"sorrel-refit", "packhorse", "fuse-block"} }

// Jobs gives the demonstration jobs: "Sorrel refit", in which what is sure has been decided and the rest is open, and
// "Packhorse", whose whole harness is listed, and in which nothing is matched and a few things have been decided
// away; and "Packhorse fuse block", whose body harness must reach a fuse block at the other end of the vehicle.
func Jobs() ([]stored.Job, error) {
	data, err := described()
	if err != nil {
		return nil, err
	}
	var jobs []stored.Job // made anew for whoever asks: they are his to change
	if err := json.Unmarshal(data, &jobs); err != nil {
		return nil, fmt.Errorf("demo: %w", err)
	}
	return jobs, nil
}

// described gives the jobs as JSON, made from the files once.
var described = sync.OnceValues(func() ([]byte, error) {
	jobs, err := describe()
	if err != nil {
		return nil, err
	}
	return json.Marshal(jobs)
})

func describe() ([]stored.Job, error) {
	sorrel := stored.Job{Title: "Sorrel refit", Kind: stored.Repinned, Donor: "Tarn Sorrel, VK-1 harness",
		Chassis: "Tarn Sorrel, VK-2 unit"}
	packhorse := stored.Job{Title: "Packhorse", Kind: stored.Integrated, Donor: "Tarn Sorrel 2.2 V4",
		Chassis: "Bellweather Packhorse"}
	for _, t := range []struct {
		into  **stored.Table
		file  string
		table stored.Table
	}{
		{&sorrel.From, "sorrel-refit/vk-1-harness.csv", stored.Table{Name: "VK-1 harness", Source: "service sheet 41-07",
			Date: "2019-03-01", Trust: harness.Maker}},
		{&sorrel.To, "sorrel-refit/vk-2-unit.xlsx", stored.Table{Name: "VK-2 unit", Source: "forwarded by the customer",
			Date: "2021-11-15", Trust: harness.Copied}},
		{&packhorse.From, "packhorse/packhorse-chassis.csv",
			stored.Table{Name: "Packhorse SP-5 and body plug", Source: "workshop folder, pages 8 to 11", Date: "1991-06-01",
				Trust: harness.Copied}},
		{&packhorse.To, "packhorse/sorrel-body-side.csv",
			stored.Table{Name: "Sorrel plug E and unit", Source: "service sheet 41-09", Date: "2021-11-15",
				Trust: harness.Maker}},
	} {
		data, err := File(t.file)
		if err != nil {
			return nil, fmt.Errorf("demo: %w", err)
		}
		table, err := exchange.ReadTable(data, "")
		if err != nil {
			return nil, fmt.Errorf("demo: %s: %w", t.file, err)
		}
		t.table.Cells = table.Cells
		*t.into = &t.table
	}
	data, err := File("sorrel-refit/faces.json")
	if err != nil {
		return nil, fmt.Errorf("demo: %w", err)
	}
	if sorrel.Layouts, err = exchange.ReadFaces(data); err != nil {
		return nil, fmt.Errorf("demo: faces: %w", err)
	}
	if err := describePackhorse(&packhorse); err != nil {
		return nil, err
	}
	facts, err := fact.Of(sorrel)
	if err != nil {
		return nil, fmt.Errorf("demo: %w", err)
	}
	for i, l := range plan.Compute(facts, stored.Decisions{}).Match.Lines {
		if l.Feeds() && l.P >= 0.99 && i%29 != 5 {
			sorrel.Decisions = append(sorrel.Decisions, match.Decision{Side: match.From, At: l.From, Choice: match.Matched,
				To: l.To, Who: "Ines", When: 1_764_000_000_000})
		}
	}
	block, err := fuseBlock()
	return []stored.Job{sorrel, packhorse, block}, err
}
