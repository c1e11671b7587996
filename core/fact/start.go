package fact

import (
	"draxel/core/feed"
	"draxel/core/gather"
	"draxel/core/handover"
	"draxel/core/join"
	"draxel/core/match"
	"draxel/core/pin"
	"draxel/core/reach"
	"draxel/core/stored"
	"draxel/core/thin"
)

// Start gives a job as the start of the next one of its kind: the tables, lists, faces, map and rules as they are, and
// every decision of it that still applies, to be verified; what else came along is asked about. What was done,
// measured, photographed, spent and handed over belongs to the vehicle that it was done to, and stays there.
func Start(j stored.Job, title string) (stored.Job, error) {
	fresh := stored.Job{
		Title: title, Kind: j.Kind, Donor: j.Donor, Chassis: j.Chassis, OneScheme: j.OneScheme,
		From: j.From, To: j.To, More: j.More, OfMatch: match.Record{Kept: j.Kept, Met: j.Met, Vehicle: j.Vehicle},
		OfGather: gather.Record{Sheets: j.Sheets}, OfThin: thin.Record{Bench: j.Bench},
		OfPin: pin.Record{Layouts: j.Layouts}, OfReach: reach.Record{Map: j.Map, Rules: j.Rules, Places: j.Places,
			Options: j.Options, Partings: j.Partings}, OfFeed: feed.Record{Block: j.Block, Rated: j.Rated}, Feeds: j.Feeds,
		OfJoin:     join.Record{Functions: j.Functions, OutRules: j.OutRules, Added: j.Added},
		OfHandOver: handover.Record{Terms: j.Terms},
	}
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
