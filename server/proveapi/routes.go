package proveapi

import (
	"github.com/gin-gonic/gin"

	"draxel/server/desk"
)

// Routes says what is answered under /api, and what of one job.
func (s *API) Routes(api, job gin.IRoutes) {
	job.GET("/prove", desk.Packed, s.Of(s.showProve))
	job.GET("/prove/diagnosis", s.Of(s.diagnose))
	job.POST("/prove/reading", desk.Limited(1<<16), desk.Answer(s.setReading))
	job.POST("/prove/meter", desk.Limited(1<<16), desk.Answer(s.askMeter))
	job.POST("/prove/gate", desk.Limited(1<<16), desk.Answer(s.passGate))
	job.POST("/prove/mended", desk.Limited(1<<16), desk.Answer(s.mend))
	job.GET("/prove/sheet.csv", desk.Answer(s.proveCSV))
	job.GET("/prove/sheet.pdf", desk.Answer(s.provePDF))
	job.POST("/prove/note", desk.Limited(1<<16), desk.Answer(s.note))
	job.PUT("/prove/program", desk.Limited(1<<18), desk.Answer(s.putProgram))
	job.PUT("/prove/live", desk.Limited(1<<18), desk.Answer(s.putLive))
	job.POST("/prove/unit", desk.Limited(1<<16), desk.Answer(s.askUnit))
	job.POST("/prove/rig", desk.Limited(1<<16), desk.Answer(s.askRig))
	job.POST("/prove/standin", desk.Limited(1<<16), desk.Answer(s.runStandin))
	job.GET("/prove/train", desk.Answer(s.trainRound))
	job.GET("/prove/train/causes", s.Of(s.trainCauses))
	job.POST("/prove/train/read", desk.Limited(1<<16), desk.Answer(s.trainRead))
	job.POST("/prove/train/end", desk.Limited(1<<16), desk.Answer(s.trainEnd))
}

// ProveTypes lists its requests and replies: the types of the page are made from them.
type ProveTypes struct {
	ProveView            ProveView
	DiagnosisView        DiagnosisView
	ReadingProvedRequest ReadingProvedRequest
	GateRequest          GateRequest
	MendRequest          MendRequest
	MeterRequest         MeterRequest
	StandinRequest       StandinRequest
	UnitRequest          UnitRequest
	UnitSays             UnitSays
	RigRequest           RigRequest
	RigSays              RigSays
	LiveRequest          LiveRequest
	NoteRequest          NoteRequest
	ProgramRequest       ProgramRequest
	TrainView            TrainView
	TrainRequest         TrainRequest
	TrainEndRequest      TrainEndRequest
	TrainEnd             TrainEnd
}
