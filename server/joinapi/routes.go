package joinapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	job.GET("/join", desk.Packed, s.Of(s.showJoin))
	job.POST("/join/function", desk.Limited(1<<16), desk.Answer(s.setFunction))
	job.POST("/join/rule", desk.Limited(1<<16), desk.Answer(s.setRule))
	job.POST("/join/way", desk.Limited(1<<16), desk.Answer(s.takeWay))
	job.POST("/join/part", desk.Limited(1<<16), desk.Answer(s.addWire))
	job.GET("/join/holds", desk.Answer(s.holdsOf))
	job.GET("/join/try", desk.Answer(s.tryJoin))
}

// JoinTypes lists its requests and replies: the types of the page are made from them.
type JoinTypes struct {
	JoinView        JoinView
	HoldsView       HoldsView
	FunctionRequest FunctionRequest
	TrialView       TrialView
	OutRuleRequest  OutRuleRequest
	WayRequest      WayRequest
	PartRequest     PartRequest
}
