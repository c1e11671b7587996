package fact

import "draxel/core/stored"

// Start gives a job as the start of the next one of its kind: the tables, lists, faces, map and rules as they are, and
// every decision of it that still applies, to be verified; what else came along is asked about. What was done,
// measured, photographed, spent and handed over belongs to the vehicle that it was done to, and stays there.
func Start(j stored.Job, title string) (stored.Job, error) {
	fresh := j.Along()
	fresh.Title, fresh.Bought = title, nil
	if j.Bench != nil {
		bench := *j.Bench
		bench.Worked = 0
		fresh.Bench = &bench
	}
	if j.Identity != nil { // who and what it is; that the unit is this one is found out anew
		id := *j.Identity
		id.Unit.Hardware, id.Unit.Service = "", ""
		fresh.Identity = &id
	}
	for _, b := range j.Bought { // what it costs and where it comes from holds; what is there does not
		b.There, b.Ordered, b.On = 0, 0, ""
		if !b.Unsaid() {
			fresh.Bought = append(fresh.Bought, b)
		}
	}
	brought, err := Earlier(fresh, j)
	if err != nil {
		return stored.Job{}, err
	}
	fresh.Carried = fresh.Carries(j.Title)
	fresh.Decisions, fresh.Thin, fresh.Exchanges = brought.Match, brought.Thin, brought.Exchanges
	return fresh, nil
}
