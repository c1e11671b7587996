package server_test

import (
	"fmt"
	"testing"

	"draxel/core/fact"
	"draxel/core/handover"
	"draxel/core/route"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/demo"
	"draxel/server/desk"
	"draxel/server/handoverapi"
	"draxel/server/jobsapi"
	"draxel/server/thinapi"
	"draxel/server/workapi"
)

// round lays a vehicle out as a ring of paths and places every device, connector and splice on it.
func round(j *stored.Job, paths int) {
	j.Map, j.Places = &route.Map{}, nil
	for i := range paths {
		j.Map.Stations = append(j.Map.Stations, route.Station{ID: fmt.Sprint("s", i),
			Group: []string{"body", "engine"}[i*2/paths]})
		j.Map.Paths = append(j.Map.Paths, route.Path{ID: fmt.Sprint("p", i), From: fmt.Sprint("s", i),
			To: fmt.Sprint("s", (i+1)%paths), Length: float64(200 + i*97%400), Spread: 10, Cover: route.Tape, Wall: i%13 == 0})
	}
	f, err := fact.Of(*j)
	if err != nil {
		panic(err)
	}
	loom := &f.Laid.Loom
	put := func(kind route.Kind, id string) {
		j.Places = append(j.Places, route.Place{Thing: route.Thing{Kind: kind, ID: id},
			Station: fmt.Sprint("s", len(j.Places)*7%paths)})
	}
	for i := range loom.Devices {
		put(route.ADevice, loom.Devices[i].ID)
	}
	for i := range loom.Connectors {
		if loom.Connectors[i].Device == "" {
			put(route.AConnector, loom.Connectors[i].ID)
		}
	}
	for i := range loom.Splices {
		put(route.ASplice, string(loom.Splices[i].ID))
	}
}

// decides measures a decision about a system in Thin over HTTP, with all its consequences, in a harness so many times
// the demonstration's that runs round a ring of paths, and what is asked after it.
func decides(b *testing.B, times, paths int, after ...func(c *client, job string)) {
	c, job := enlarged(b, times, paths)
	v := show[thinapi.ThinView](c, job+"/thin")
	seen, choice := v.Revision, []thin.Choice{thin.Goes, thin.Keep}
	b.ResetTimer()
	b.ReportMetric(float64(len(v.Wires)), "wires")
	for i := range b.N {
		change, code := c.thin(job, seen, thinapi.ThinDecision{On: thin.System, ID: "lighting", Choice: choice[i%2],
			Reason: "a trial"})
		if code != "" {
			b.Fatal(code)
		}
		seen = change.Revision
		for _, then := range after {
			then(c, job)
		}
	}
}

// BenchmarkDecide1000 is a decision in a harness of a thousand wires on the map of the demonstration; on a ring of 40
// paths; a tick there and its taking back; and all that follows from a decision, as the pages read it anew.
func BenchmarkDecide1000(b *testing.B) {
	b.Run("map", func(b *testing.B) { decides(b, 3, 0) })
	b.Run("ring", func(b *testing.B) { decides(b, 3, 40) })
	b.Run("tick", ticks)
	b.Run("whole", func(b *testing.B) {
		decides(b, 3, 40, func(c *client, job string) { show[jobsapi.JobView](c, job) })
	})
}

// ticks measures the tick of a step, and its taking back, once the plan has been read.
func ticks(b *testing.B) {
	c, job := enlarged(b, 3, 40)
	var step string
	for _, s := range show[workapi.WorkListView](c, job+"/work").Steps {
		if s.Ready && step == "" {
			step = s.ID
		}
	}
	b.ResetTimer()
	for i := range b.N {
		b.StopTimer()
		seen := show[jobsapi.JobView](c, job).Revision
		b.StartTimer()
		if _, code := send[desk.Done](c, "POST", job+"/work/tick", workapi.TickRequest{ID: c.change(), Seen: seen,
			Steps: []string{step}, Done: i%2 == 0, Reason: "a trial"}); code != "" {
			b.Fatal(code)
		}
	}
}

func enlarged(b *testing.B, times, paths int) (*client, string) {
	b.Helper()
	c := start(b)
	return c, c.packhorse(func(j *stored.Job) {
		demo.Enlarge(j, times)
		if paths > 0 {
			round(j, paths)
		}
	})
}

// BenchmarkDecide3000 is a decision in a harness of three thousand wires on a ring of 300 paths.
func BenchmarkDecide3000(b *testing.B) { decides(b, 9, 300) }

// BenchmarkFront3000 is the front page of a job of some three thousand wires after a change that touches no wire, and
// the line of it in the list of jobs.
func BenchmarkFront3000(b *testing.B) {
	c := start(b)
	job := c.packhorse(func(j *stored.Job) { demo.Enlarge(j, 9) })
	seen := show[jobsapi.FrontView](c, job+"/front").Revision
	for b.Loop() {
		done, code := send[desk.Done](c, "POST", job+"/handover/spent",
			handoverapi.SpentRequest{ID: c.change(), Seen: seen,
				Spent: handover.Spent{Stage: "thin", Minutes: 1, Who: "Ines"}})
		if code != "" {
			b.Fatal(code)
		}
		seen = done.Revision
		if v := show[jobsapi.FrontView](c, job+"/front"); v.Steps < 500 {
			b.Fatal(v.Steps)
		}
	}
}
