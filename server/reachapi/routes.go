package reachapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	api.GET("/maps", desk.Answer(listTemplates))
	job.GET("/reach", desk.Packed, s.Of(s.showReach))
	job.GET("/reach/compare", s.Of(s.compareReach))
	job.GET("/reach/pack", s.Of(s.packReach))
	job.GET("/reach/cuts.csv", s.Of(s.cutListCSV))
	job.PUT("/reach/map", desk.Limited(1<<20), desk.Answer(s.putMap))
	job.PUT("/reach/rules", desk.Limited(1<<20), desk.Answer(s.putRules))
	job.POST("/reach/places", desk.Limited(1<<20), desk.Answer(s.putPlaces))
	job.POST("/reach/span", desk.Limited(1<<16), desk.Answer(s.putSpan))
	job.POST("/reach/length", desk.Limited(1<<16), desk.Answer(s.putLength))
	job.POST("/reach/option", desk.Limited(1<<18), desk.Answer(s.putOption))
	job.POST("/reach/choose", desk.Limited(1<<16), desk.Answer(s.chooseOption))
	job.POST("/reach/disconnect", desk.Limited(1<<16), desk.Answer(s.takeDisconnect))
	job.POST("/reach/leftover", desk.Limited(1<<16), desk.Answer(s.logLeftover))
}

// ReachTypes lists its requests and replies: the types of the page are made from them.
type ReachTypes struct {
	ReachView       ReachView
	CompareView     CompareView
	PackView        PackView
	TemplateList    TemplateList
	MapRequest      MapRequest
	RulesRequest    RulesRequest
	PlacesRequest   PlacesRequest
	SpanRequest     SpanRequest
	LengthRequest   LengthRequest
	OptionRequest   OptionRequest
	ChooseRequest   ChooseRequest
	PartingRequest  PartingRequest
	LeftoverRequest LeftoverRequest
}
