package jobsapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	api.GET("/kinds", desk.Answer(listKinds))
	api.GET("/jobs", desk.Answer(s.listJobs))
	api.POST("/jobs", desk.Limited(1<<20), desk.Answer(s.createJob))
	api.POST("/jobs/file", desk.Limited(desk.MaxJobFile), s.Queued, desk.Answer(s.openJobFile))
	api.POST("/demo", desk.Answer(s.tryDemo))
	api.DELETE("/demo", desk.Answer(s.leaveDemo))
	api.GET("/deleted", desk.Answer(s.listDeleted))
	api.POST("/deleted/:job", desk.Answer(s.restoreJob))
	job.GET("", desk.Packed, s.Of(s.showJob))
	job.PUT("", desk.Limited(1<<20), desk.Answer(s.changeJob))
	job.DELETE("", desk.Answer(s.deleteJob))
	job.GET("/front", desk.Packed, s.Of(s.showFront))
	job.GET("/find", s.Of(s.find))
	job.GET("/file", desk.Answer(s.saveJobFile))
	job.GET("/journal", desk.Answer(s.showJournal))
	job.POST("/undo", desk.Limited(1<<16), desk.Answer(s.undo))
	job.POST("/redo", desk.Limited(1<<16), desk.Answer(s.redo))
	job.GET("/stand", desk.Answer(s.showStand))
	job.POST("/archive", desk.Limited(1<<16), desk.Answer(s.archive))
	job.POST("/copy", desk.Limited(1<<16), desk.Answer(s.copyJob))
}

// JobsTypes lists its requests and replies: the types of the page are made from them.
type JobsTypes struct {
	JobList        JobList
	KindList       KindList
	JobRequest     JobRequest
	JobView        JobView
	UndoRequest    UndoRequest
	JournalView    JournalView
	FrontView      FrontView
	ArchiveRequest ArchiveRequest
	CopyRequest    CopyRequest
	StandView      StandView
	FoundView      FoundView
}
