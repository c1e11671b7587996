package gatherapi

import (
	"github.com/gin-gonic/gin"

	"draxel/exchange"
	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	job.GET("/gather", desk.Packed, s.Of(s.showGather))
	job.PUT("/gather/identity", desk.Limited(1<<20), desk.Answer(s.putIdentity))
	job.PUT("/gather/items", desk.Limited(1<<20), desk.Answer(s.putItems))
	job.PUT("/gather/before", desk.Limited(1<<20), desk.Answer(s.putBefore))
	job.PUT("/gather/looked/:connector", desk.Limited(1<<16), desk.Answer(s.putLooked))
	job.GET("/gather/lists/:kind", desk.Packed, desk.Answer(s.showSheet))
	job.PUT("/gather/lists/:kind", desk.Limited(desk.MaxUpload), s.Queued, desk.Answer(s.importSheet))
	job.POST("/gather/lists/:kind/preview", desk.Limited(desk.MaxUpload), s.Queued, desk.Answer(s.previewSheet))
	job.POST("/gather/lists/:kind/cells", desk.Limited(4<<20), desk.Answer(s.editSheet))
	job.POST("/gather/readings", desk.Limited(1<<16), desk.Answer(s.addReading))
	job.POST("/gather/readings/:fact/drop", desk.Limited(1<<16),
		desk.Answer(s.dropFact(reading, "drop-reading")))
	job.POST("/gather/traces", desk.Limited(1<<16), desk.Answer(s.addTrace))
	job.POST("/gather/traces/:fact/drop", desk.Limited(1<<16), desk.Answer(s.dropFact(trace, "drop-trace")))
	job.POST("/gather/photos", desk.Limited(exchange.MaxPicture+1<<16), s.Queued, desk.Answer(s.addPhoto))
	job.GET("/gather/photos/:fact", desk.Answer(s.showPhoto(false)))
	job.GET("/gather/photos/:fact/thumb", desk.Answer(s.showPhoto(true)))
	job.POST("/gather/photos/:fact/drop", desk.Limited(1<<16), desk.Answer(s.dropFact(photo, "drop-photo")))
	job.POST("/gather/earlier", desk.Limited(1<<16), desk.Answer(s.applyEarlier))
	job.GET("/gather/:side", desk.Packed, desk.Answer(s.showTable))
	job.POST("/gather/:side/preview", desk.Limited(desk.MaxUpload), s.Queued, desk.Answer(s.previewTable))
	job.PUT("/gather/:side", desk.Limited(desk.MaxUpload), s.Queued, desk.Answer(s.importTable))
	job.PUT("/gather/:side/options", desk.Limited(1<<20), desk.Answer(s.correctTable))
	job.POST("/gather/:side/drop", desk.Limited(1<<16), desk.Answer(s.dropTable))
	job.GET("/gather/:side/csv", desk.Answer(s.exportTable))
}

// GatherTypes lists its requests and replies: the types of the page are made from them.
type GatherTypes struct {
	TableView      TableView
	CorrectRequest CorrectRequest
	GatherView     GatherView
	SheetView      SheetView
	SheetEdit      SheetEditRequest
	SheetPreview   SheetPreview
	Identity       IdentityRequest
	Items          ItemsRequest
	Before         BeforeRequest
	Looked         LookedRequest
	Reading        ReadingRequest
	Trace          TraceRequest
	Drop           DropRequest
	Earlier        EarlierRequest
	PhotoMeta      PhotoMeta
}
