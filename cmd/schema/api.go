package main

import (
	"draxel/core/feed"
	"draxel/core/prove"
	"draxel/server/desk"
	"draxel/server/feedapi"
	"draxel/server/gatherapi"
	"draxel/server/handoverapi"
	"draxel/server/jobsapi"
	"draxel/server/joinapi"
	"draxel/server/matchapi"
	"draxel/server/pinapi"
	"draxel/server/proveapi"
	"draxel/server/reachapi"
	"draxel/server/thinapi"
	"draxel/server/workapi"
)

// api lists every request and reply; it exists to be reflected on.
type api struct {
	JobList        jobsapi.JobList
	KindList       jobsapi.KindList
	JobRequest     jobsapi.JobRequest
	JobView        jobsapi.JobView
	Done           desk.Done
	UndoRequest    jobsapi.UndoRequest
	TableView      gatherapi.TableView
	CorrectRequest gatherapi.CorrectRequest
	MatchView      matchapi.MatchView
	EvidenceView   matchapi.EvidenceView
	MeetRequest    matchapi.MeetRequest
	WorkListView   workapi.WorkListView
	OwnRequest     workapi.OwnRequest
	AnswerRequest  workapi.AnswerRequest
	DecideRequest  matchapi.DecideRequest
	AcceptRequest  matchapi.AcceptRequest
	PinView        pinapi.PinView
	JournalView    jobsapi.JournalView
	GatherView     gatherapi.GatherView
	SheetView      gatherapi.SheetView
	SheetEdit      gatherapi.SheetEditRequest
	SheetPreview   gatherapi.SheetPreview
	Identity       gatherapi.IdentityRequest
	Items          gatherapi.ItemsRequest
	Before         gatherapi.BeforeRequest
	Looked         gatherapi.LookedRequest
	Reading        gatherapi.ReadingRequest
	Trace          gatherapi.TraceRequest
	Drop           gatherapi.DropRequest
	Earlier        gatherapi.EarlierRequest
	PhotoMeta      gatherapi.PhotoMeta
	ThinView       thinapi.ThinView
	ThinChange     thinapi.ThinChange
	ThinRequest    thinapi.ThinRequest
	CutView        thinapi.CutView
	CircuitView    thinapi.CircuitView
	WorkView       workapi.WorkView
	TickRequest    workapi.TickRequest
	BenchRequest   thinapi.BenchRequest
	Problem        desk.Problem

	OtherwiseRequest pinapi.OtherwiseRequest
	ReportRequest    pinapi.ReportRequest
	SettleRequest    pinapi.SettleRequest
	WishRequest      pinapi.WishRequest
	ExchangeRequest  pinapi.ExchangeRequest
	HaveRequest      pinapi.HaveRequest
	FaceRequest      pinapi.FaceRequest
	FacePreview      pinapi.FacePreview
	FacesView        pinapi.FacesView
	LibraryView      pinapi.LibraryView
	CheckView        pinapi.CheckView
	CheckRequest     pinapi.CheckRequest
	BenchView        pinapi.BenchView
	LinkView         desk.LinkView
	PassRequest      desk.PassRequest

	FeedView             feedapi.FeedView
	FeedTree             feedapi.FeedTree
	FeedLines            feedapi.FeedLines
	PricesView           handoverapi.PricesView
	UsualView            feedapi.UsualView
	UsualRequest         feedapi.UsualRequest
	JoinView             joinapi.JoinView
	HoldsView            joinapi.HoldsView
	FunctionRequest      joinapi.FunctionRequest
	TrialView            joinapi.TrialView
	OutRuleRequest       joinapi.OutRuleRequest
	WayRequest           joinapi.WayRequest
	ProveView            proveapi.ProveView
	DiagnosisView        proveapi.DiagnosisView
	ReadingProvedRequest proveapi.ReadingProvedRequest
	GateRequest          proveapi.GateRequest
	MendRequest          proveapi.MendRequest
	MeterRequest         proveapi.MeterRequest
	FrontView            jobsapi.FrontView
	HandoverView         handoverapi.HandoverView
	MoneyView            handoverapi.MoneyView
	Making               handoverapi.Making
	BookWhere            handoverapi.BookWhere
	CostsView            handoverapi.CostsView
	SpentRequest         handoverapi.SpentRequest
	BoughtRequest        handoverapi.BoughtRequest
	TermsRequest         handoverapi.TermsRequest
	ArchiveRequest       jobsapi.ArchiveRequest
	CopyRequest          jobsapi.CopyRequest
	StandView            jobsapi.StandView
	StickersView         handoverapi.StickersView
	SheetsView           handoverapi.SheetsView
	CompareStatesView    handoverapi.CompareStatesView
	BookPageView         handoverapi.BookPageView
	LeftRequest          handoverapi.LeftRequest
	LoanRequest          handoverapi.LoanRequest
	DeliverRequest       handoverapi.DeliverRequest
	StandinRequest       proveapi.StandinRequest
	UnitRequest          proveapi.UnitRequest
	UnitSays             proveapi.UnitSays
	RigRequest           proveapi.RigRequest
	RigSays              proveapi.RigSays
	LiveRequest          proveapi.LiveRequest
	NoteRequest          proveapi.NoteRequest
	ProgramRequest       proveapi.ProgramRequest
	TrainView            proveapi.TrainView
	TrainRequest         proveapi.TrainRequest
	TrainEndRequest      proveapi.TrainEndRequest
	TrainEnd             proveapi.TrainEnd
	Shown                prove.Shown
	PartRequest          joinapi.PartRequest
	FeedWires            feedapi.FeedWires
	FeedLive             feedapi.FeedLive
	FeedCompareView      feedapi.FeedCompareView
	ProposeBlockRequest  feedapi.ProposeBlockRequest
	BlockRequest         feedapi.BlockRequest
	CircuitRequest       feedapi.CircuitRequest
	RatedRequest         feedapi.RatedRequest
	FeedOptionRequest    feedapi.FeedOptionRequest
	Outcome              feed.Outcome
	ReachView            reachapi.ReachView
	CompareView          reachapi.CompareView
	PackView             reachapi.PackView
	TemplateList         reachapi.TemplateList
	MapRequest           reachapi.MapRequest
	RulesRequest         reachapi.RulesRequest
	PlacesRequest        reachapi.PlacesRequest
	SpanRequest          reachapi.SpanRequest
	LengthRequest        reachapi.LengthRequest
	OptionRequest        reachapi.OptionRequest
	ChooseRequest        reachapi.ChooseRequest
	LettersRequest       desk.LettersRequest
	LettersReply         desk.LettersReply
	ThinRest             thinapi.ThinRest
	PartingRequest       reachapi.PartingRequest
	LeftoverRequest      reachapi.LeftoverRequest
}
