package workapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	job.GET("/thin/work", desk.Packed, s.Of(s.showWork))
	job.GET("/work", desk.Packed, s.Of(s.showWorkList))
	job.POST("/work/tick", desk.Limited(1<<20), desk.Answer(s.tick))
	job.POST("/work/own", desk.Limited(1<<16), desk.Answer(s.putOwn))
	job.POST("/findings/answer", desk.Limited(1<<16), desk.Answer(s.answerFinding))
}

// WorkTypes lists its requests and replies: the types of the page are made from them.
type WorkTypes struct {
	WorkListView  WorkListView
	OwnRequest    OwnRequest
	AnswerRequest AnswerRequest
	WorkView      WorkView
	TickRequest   TickRequest
}
