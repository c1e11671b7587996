package thinapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	job.GET("/thin", desk.Packed, s.Of(s.showThin))
	job.GET("/thin/rest", desk.Packed, s.Of(s.showThinRest))
	job.POST("/thin/decide", desk.Limited(1<<20), desk.Answer(s.decideThin))
	job.GET("/thin/cut", s.Of(s.showCut))
	job.GET("/thin/circuit", s.Of(s.showCircuit))
	job.PUT("/thin/bench", desk.Limited(1<<16), desk.Answer(s.putBench))
}

// First gives what the page asks for beside the job.
func (s *API) First() (page, ask string) { return "thin", "/thin?begun=1&facts=" }

// ThinTypes lists its requests and replies: the types of the page are made from them.
type ThinTypes struct {
	ThinView     ThinView
	ThinChange   ThinChange
	ThinRequest  ThinRequest
	CutView      CutView
	CircuitView  CircuitView
	BenchRequest BenchRequest
	ThinRest     ThinRest
}
