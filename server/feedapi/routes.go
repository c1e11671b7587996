package feedapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	job.GET("/feed", desk.Packed, s.Of(s.showFeed))
	job.POST("/feed/propose", desk.Limited(1<<16), desk.Answer(s.proposeBlock))
	job.PUT("/feed/block", desk.Limited(1<<18), desk.Answer(s.putBlock))
	job.POST("/feed/circuit", desk.Limited(1<<16), desk.Answer(s.leadCircuit))
	job.POST("/feed/rated", desk.Limited(1<<16), desk.Answer(s.rateFuse))
	job.POST("/feed/way", desk.Limited(1<<16), desk.Answer(s.keepFeeds))
	job.POST("/feed/take", desk.Limited(1<<16), desk.Answer(s.chooseFeeds))
	job.GET("/feed/usual", s.Of(s.showUsual))
	job.POST("/feed/usual", desk.Limited(1<<18), desk.Answer(s.takeUsual))
	job.GET("/feed/lid.pdf", s.Of(s.lidPDF))
	job.GET("/feed/compare", s.Of(s.compareFeeds))
	job.GET("/feed/wire", s.Of(s.feedWire))
	job.GET("/feed/live", desk.Packed, desk.Answer(s.feedLive))
	job.GET("/feed/tree", desk.Packed, desk.Answer(s.feedTree))
	job.GET("/feed/table", desk.Packed, desk.Answer(s.feedTable))
	job.GET("/feed/ask", desk.Answer(s.askFeed))
	job.GET("/feed/spice", desk.Answer(s.spice))
	job.GET("/feed/dot", desk.Answer(s.dot))
}

// FeedTypes lists its requests and replies: the types of the page are made from them.
type FeedTypes struct {
	FeedView            FeedView
	FeedTree            FeedTree
	FeedLines           FeedLines
	UsualView           UsualView
	UsualRequest        UsualRequest
	FeedWires           FeedWires
	FeedLive            FeedLive
	FeedCompareView     FeedCompareView
	ProposeBlockRequest ProposeBlockRequest
	BlockRequest        BlockRequest
	CircuitRequest      CircuitRequest
	RatedRequest        RatedRequest
	FeedOptionRequest   FeedOptionRequest
}
