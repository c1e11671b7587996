package pinapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	api.GET("/faces", desk.Answer(listFaces))
	api.POST("/faces/preview", desk.Limited(1<<20), desk.Answer(s.previewFace))
	job.GET("/pin", desk.Packed, s.Of(s.showPin))
	job.POST("/pin/otherwise", desk.Limited(1<<16), desk.Answer(s.otherwise))
	job.POST("/pin/reports", desk.Limited(1<<16), desk.Answer(s.report))
	job.POST("/pin/reports/:fact/settle", desk.Limited(1<<16), desk.Answer(s.settle))
	job.POST("/pin/order", desk.Limited(1<<16), desk.Answer(s.wish))
	job.POST("/pin/exchange", desk.Limited(1<<16), desk.Answer(s.exchangeOutputs))
	job.PUT("/pin/have", desk.Limited(1<<18), desk.Answer(s.putHave))
	job.PUT("/pin/faces/:connector", desk.Limited(1<<20), desk.Answer(s.putFace))
	job.GET("/pin/faces", desk.Packed, s.Of(s.showFaces))
	job.GET("/pin/faces.json", desk.Answer(s.saveFaces))
	job.POST("/pin/faces", desk.Limited(desk.MaxUpload), s.Queued, desk.Answer(s.openFaces))
	job.GET("/pin/check", desk.Packed, s.Of(s.showCheck))
	job.POST("/pin/check", desk.Limited(1<<16), desk.Answer(s.check))
	job.GET("/bench", desk.Packed, s.Of(s.showBench))
	job.GET("/pin/sheet.pdf", desk.Answer(s.sheetPDF))
	job.GET("/pin/sheet.csv", desk.Answer(s.sheetCSV))
}

// PinTypes lists its requests and replies: the types of the page are made from them.
type PinTypes struct {
	PinView          PinView
	OtherwiseRequest OtherwiseRequest
	ReportRequest    ReportRequest
	SettleRequest    SettleRequest
	WishRequest      WishRequest
	ExchangeRequest  ExchangeRequest
	HaveRequest      HaveRequest
	FaceRequest      FaceRequest
	FacePreview      FacePreview
	FacesView        FacesView
	LibraryView      LibraryView
	CheckView        CheckView
	CheckRequest     CheckRequest
	BenchView        BenchView
}
