package matchapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	job.GET("/match", desk.Packed, s.Of(s.showMatch))
	job.GET("/match/evidence", s.Of(s.showEvidence))
	job.PUT("/match/meetings", desk.Limited(1<<20), desk.Answer(s.meet))
	job.POST("/match/decide", desk.Limited(1<<20), desk.Answer(s.decide))
	job.POST("/match/accept", desk.Limited(1<<16), desk.Answer(s.acceptAbove))
}

// First gives what the page asks for beside the job.
func (s *API) First() (page, ask string) { return "match", "/match" }

// MatchTypes lists its requests and replies: the types of the page are made from them.
type MatchTypes struct {
	MatchView     MatchView
	EvidenceView  EvidenceView
	MeetRequest   MeetRequest
	DecideRequest DecideRequest
	AcceptRequest AcceptRequest
}
