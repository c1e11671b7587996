package main

import (
	"draxel/core/feed"
	"draxel/core/prove"
	"draxel/server/desk"
	"draxel/server/feedapi"
	"draxel/server/gatherapi"
	"draxel/server/handoverapi"
	"draxel/server/jobsapi"
	"draxel/server/joinapi"
	"draxel/server/matchapi"
	"draxel/server/pinapi"
	"draxel/server/proveapi"
	"draxel/server/reachapi"
	"draxel/server/thinapi"
	"draxel/server/workapi"
)

// api lists every request and reply; it exists to be reflected on.
type api struct {
	jobsapi.JobsTypes
	gatherapi.GatherTypes
	matchapi.MatchTypes
	workapi.WorkTypes
	pinapi.PinTypes
	thinapi.ThinTypes
	feedapi.FeedTypes
	handoverapi.HandOverTypes
	joinapi.JoinTypes
	proveapi.ProveTypes
	reachapi.ReachTypes
	Done           desk.Done
	Problem        desk.Problem
	LinkView       desk.LinkView
	PassRequest    desk.PassRequest
	Shown          prove.Shown
	Outcome        feed.Outcome
	LettersRequest desk.LettersRequest
	LettersReply   desk.LettersReply
}
