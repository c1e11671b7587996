package handoverapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	job.GET("/gather/labels.pdf", s.Of(s.labelsPDF))
	job.GET("/handover", desk.Packed, desk.Answer(s.showHandover))
	job.GET("/handover/page/:page", desk.Packed, desk.Answer(s.showPage))
	job.GET("/handover/book.pdf", s.Of(s.bookPDF))
	job.GET("/handover/where", desk.Answer(s.bookWhere))
	job.GET("/handover/making", desk.Answer(s.showMaking))
	job.GET("/handover/wires.csv", desk.Answer(s.wiresCSV))
	job.GET("/handover/wires.xlsx", s.Of(s.wiresXLSX))
	job.GET("/handover/list/:form", s.Of(s.workFile))
	job.GET("/handover/harness.dot", s.Of(s.harnessDOT))
	job.GET("/handover/svg/:page", desk.Answer(s.pageSVG))
	job.GET("/handover/all.zip", s.Of(s.packAll))
	job.GET("/handover/sheets", desk.Packed, s.Of(s.showSheets))
	job.GET("/handover/sheet/:sheet", s.Of(s.sheetFor))
	job.GET("/handover/labels.pdf", desk.Answer(s.stickersPDF))
	job.GET("/handover/labels.csv", desk.Answer(s.stickersCSV))
	job.GET("/handover/labels", desk.Answer(s.countStickers))
	job.GET("/handover/compare", desk.Packed, s.Of(s.compareStates))
	job.GET("/handover/state/:state", s.Of(s.stateFile))
	job.GET("/handover/money", desk.Packed, s.Of(s.showMoney))
	job.GET("/handover/costs", s.Of(s.showCosts))
	job.GET("/handover/orders.csv", s.Of(s.ordersCSV))
	job.POST("/handover/spent", desk.Limited(1<<16), desk.Answer(s.noteSpent))
	job.POST("/handover/prices/preview", desk.Limited(desk.MaxUpload), s.Queued, s.Of(s.previewPrices))
	job.POST("/handover/prices", desk.Limited(desk.MaxUpload), s.Queued, desk.Answer(s.takePrices))
	job.POST("/handover/bought", desk.Limited(1<<16), desk.Answer(s.buy))
	job.POST("/handover/terms", desk.Limited(1<<16), desk.Answer(s.setTerms))
	job.POST("/handover/left", desk.Limited(1<<16), desk.Answer(s.leave))
	job.POST("/handover/loan", desk.Limited(1<<16), desk.Answer(s.lend))
	job.POST("/handover/deliver", desk.Limited(1<<16), desk.Answer(s.deliver))
}

// HandOverTypes lists its requests and replies: the types of the page are made from them.
type HandOverTypes struct {
	PricesView        PricesView
	HandoverView      HandoverView
	MoneyView         MoneyView
	Making            Making
	BookWhere         BookWhere
	CostsView         CostsView
	SpentRequest      SpentRequest
	BoughtRequest     BoughtRequest
	TermsRequest      TermsRequest
	StickersView      StickersView
	SheetsView        SheetsView
	CompareStatesView CompareStatesView
	BookPageView      BookPageView
	LeftRequest       LeftRequest
	LoanRequest       LoanRequest
	DeliverRequest    DeliverRequest
}
