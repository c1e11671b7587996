// Package server gives Draxel to a browser: a JSON API over the stages, live updates, and the built front end.
//
// Each stage has one file of handlers. Replies are computed from the job at its revision and kept until the job
// changes; nothing that is computed is stored. Errors are problem details (RFC 9457) with a stable code. The server
// is made for the loopback interface: it answers no other host's name and takes writes from its own pages alone.
// Where the local network is let in, every other device must bring the passcode before it sees anything of a job.
package server

import (
	"crypto/rand"
	"encoding/hex"
	"log/slog"
	"net/http"
	"sync"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
	"golang.org/x/sync/singleflight"

	"draxel/exchange"
	"draxel/store"
)

// Server answers requests. Clock and ids are passed in, so that tests can hold them still.
type Server struct {
	store   *store.Store
	log     *slog.Logger
	now     func() time.Time
	newID   func() string
	cache   cache
	costs   costs // of the parts of plans
	loading singleflight.Group
	events  hub
	packed  packings
	access  *access // nil: this machine alone

	stopping chan struct{} // closed when the server is being stopped
	stop     sync.Once

	bench benches // simulated vehicles that were started from the page

	uploading chan struct{} // holds the large files that are being taken in

	turns  sync.Map // by job: who checks a change against it, *sync.Mutex
	stands sync.Map // by job: its line in the list of jobs, stood
	making sync.Map // by job: how far its book has come, Making
}

// Options are what a server is made with; Now, NewID and Lan may be nil.
type Options struct {
	Store *store.Store
	Log   *slog.Logger
	Now   func() time.Time
	NewID func() string
	Lan   *Lan // nil: other devices are not let in
}

// New gives a server over the store. It fails on a passcode that is too short to be one.
func New(o Options) (*Server, error) {
	s := &Server{store: o.Store, log: o.Log, now: o.Now, newID: o.NewID, stopping: make(chan struct{}),
		uploading: make(chan struct{}, uploads)}
	if s.now == nil {
		s.now = time.Now
	}
	s.costs.now = s.now
	if s.newID == nil {
		s.newID = func() string {
			var b [9]byte
			_, _ = rand.Read(b[:]) // never fails, by its documentation
			return hex.EncodeToString(b[:])
		}
	}
	if o.Lan == nil {
		return s, nil
	}
	var err error
	s.access, err = newAccess(*o.Lan, s.now)
	return s, err
}

// Stop ends what would otherwise go on for ever: the streams that tell pages of changes.
func (s *Server) Stop() {
	s.stop.Do(func() {
		close(s.stopping)
		s.bench.stop()
	})
}

// Handler gives the whole of it as an http.Handler.
func (s *Server) Handler() http.Handler {
	gin.SetMode(gin.ReleaseMode)
	r := gin.New()
	r.UseRawPath, r.UnescapePathValues = true, true
	r.Use(s.logged, s.recovered, s.guarded, secured, paced, finishing)
	r.GET("/debug/plan", noStore, answer(s.showCostsOfParts))
	api := r.Group("/api", noStore)
	api.GET("/health", func(c *gin.Context) { c.JSON(http.StatusOK, gin.H{"ok": true}) })
	api.POST("/pass", limited(1<<12), answer(s.bringPasscode))
	api.Use(s.admitted)
	api.GET("/kinds", answer(listKinds))
	api.GET("/maps", answer(listTemplates))
	api.GET("/faces", answer(listFaces))
	api.POST("/faces/preview", limited(1<<20), answer(s.previewFace))
	api.GET("/jobs", answer(s.listJobs))
	api.POST("/jobs", limited(1<<20), answer(s.createJob))
	api.POST("/jobs/file", limited(maxJobFile), s.queued, answer(s.openJobFile))
	api.GET("/deleted", answer(s.listDeleted))
	api.POST("/deleted/:job", answer(s.restoreJob))
	job := api.Group("/jobs/:job", s.once)
	packed := gzip.Gzip(gzip.BestSpeed)
	job.POST("/letters", limited(1<<17), answer(s.letters(r)))
	job.GET("", packed, answer(s.showJob))
	job.PUT("", limited(1<<20), answer(s.changeJob))
	job.DELETE("", answer(s.deleteJob))
	job.GET("/front", packed, answer(s.showFront))
	job.GET("/file", answer(s.saveJobFile))
	job.GET("/journal", answer(s.showJournal))
	job.GET("/events", answer(s.streamEvents))
	job.POST("/undo", limited(1<<16), answer(s.undo))

	job.GET("/gather", packed, answer(s.showGather))
	job.PUT("/gather/identity", limited(1<<20), answer(s.putIdentity))
	job.PUT("/gather/items", limited(1<<20), answer(s.putItems))
	job.PUT("/gather/before", limited(1<<20), answer(s.putBefore))
	job.PUT("/gather/looked/:connector", limited(1<<16), answer(s.putLooked))
	job.GET("/gather/lists/:kind", packed, answer(s.showSheet))
	job.PUT("/gather/lists/:kind", limited(maxUpload), s.queued, answer(s.importSheet))
	job.POST("/gather/lists/:kind/preview", limited(maxUpload), s.queued, answer(s.previewSheet))
	job.POST("/gather/lists/:kind/cells", limited(4<<20), answer(s.editSheet))
	job.POST("/gather/readings", limited(1<<16), answer(s.addReading))
	job.POST("/gather/readings/:fact/drop", limited(1<<16), answer(s.dropFact(store.SubjectReading, "drop-reading")))
	job.POST("/gather/traces", limited(1<<16), answer(s.addTrace))
	job.POST("/gather/traces/:fact/drop", limited(1<<16), answer(s.dropFact(store.SubjectTrace, "drop-trace")))
	job.POST("/gather/photos", limited(exchange.MaxPicture+1<<16), s.queued, answer(s.addPhoto))
	job.GET("/gather/photos/:fact", answer(s.showPhoto(false)))
	job.GET("/gather/photos/:fact/thumb", answer(s.showPhoto(true)))
	job.POST("/gather/photos/:fact/drop", limited(1<<16), answer(s.dropFact(store.SubjectPhoto, "drop-photo")))
	job.POST("/gather/earlier", limited(1<<16), answer(s.applyEarlier))
	job.GET("/gather/labels.pdf", answer(s.labelsPDF))

	job.GET("/gather/:side", packed, answer(s.showTable))
	job.POST("/gather/:side/preview", limited(maxUpload), s.queued, answer(s.previewTable))
	job.PUT("/gather/:side", limited(maxUpload), s.queued, answer(s.importTable))
	job.PUT("/gather/:side/options", limited(1<<20), answer(s.correctTable))
	job.POST("/gather/:side/drop", limited(1<<16), answer(s.dropTable))
	job.GET("/gather/:side/csv", answer(s.exportTable))

	job.GET("/match", packed, answer(s.showMatch))
	job.GET("/match/evidence", answer(s.showEvidence))
	job.PUT("/match/meetings", limited(1<<20), answer(s.meet))
	job.POST("/match/decide", limited(1<<20), answer(s.decide))
	job.POST("/match/accept", limited(1<<16), answer(s.acceptAbove))

	job.GET("/thin", packed, answer(s.showThin))
	job.GET("/thin/rest", packed, answer(s.showThinRest))
	job.POST("/thin/decide", limited(1<<20), answer(s.decideThin))
	job.GET("/thin/cut", answer(s.showCut))
	job.GET("/thin/circuit", answer(s.showCircuit))
	job.GET("/thin/work", packed, answer(s.showWork))
	job.PUT("/thin/bench", limited(1<<16), answer(s.putBench))

	job.GET("/pin", packed, answer(s.showPin))
	job.POST("/pin/otherwise", limited(1<<16), answer(s.otherwise))
	job.POST("/pin/reports", limited(1<<16), answer(s.report))
	job.POST("/pin/reports/:fact/settle", limited(1<<16), answer(s.settle))
	job.POST("/pin/order", limited(1<<16), answer(s.wish))
	job.POST("/pin/exchange", limited(1<<16), answer(s.exchangeOutputs))
	job.PUT("/pin/have", limited(1<<18), answer(s.putHave))
	job.PUT("/pin/faces/:connector", limited(1<<20), answer(s.putFace))
	job.GET("/pin/faces", packed, answer(s.showFaces))
	job.GET("/pin/faces.json", answer(s.saveFaces))
	job.POST("/pin/faces", limited(maxUpload), s.queued, answer(s.openFaces))
	job.GET("/pin/check", packed, answer(s.showCheck))
	job.POST("/pin/check", limited(1<<16), answer(s.check))
	job.GET("/reach", packed, answer(s.showReach))
	job.GET("/reach/compare", answer(s.compareReach))
	job.GET("/reach/pack", answer(s.packReach))
	job.GET("/reach/cuts.csv", answer(s.cutListCSV))
	job.PUT("/reach/map", limited(1<<20), answer(s.putMap))
	job.PUT("/reach/rules", limited(1<<20), answer(s.putRules))
	job.POST("/reach/places", limited(1<<20), answer(s.putPlaces))
	job.POST("/reach/span", limited(1<<16), answer(s.putSpan))
	job.POST("/reach/length", limited(1<<16), answer(s.putLength))
	job.POST("/reach/option", limited(1<<18), answer(s.putOption))
	job.POST("/reach/choose", limited(1<<16), answer(s.chooseOption))
	job.POST("/reach/disconnect", limited(1<<16), answer(s.takeDisconnect))
	job.POST("/reach/leftover", limited(1<<16), answer(s.logLeftover))
	job.GET("/feed", packed, answer(s.showFeed))
	job.POST("/feed/propose", limited(1<<16), answer(s.proposeBlock))
	job.PUT("/feed/block", limited(1<<18), answer(s.putBlock))
	job.POST("/feed/circuit", limited(1<<16), answer(s.leadCircuit))
	job.POST("/feed/rated", limited(1<<16), answer(s.rateFuse))
	job.POST("/feed/way", limited(1<<16), answer(s.keepFeeds))
	job.POST("/feed/take", limited(1<<16), answer(s.chooseFeeds))
	job.GET("/feed/usual", answer(s.showUsual))
	job.POST("/feed/usual", limited(1<<18), answer(s.takeUsual))
	job.GET("/feed/lid.pdf", answer(s.lidPDF))
	job.GET("/feed/compare", answer(s.compareFeeds))
	job.GET("/feed/wire", answer(s.feedWire))
	job.GET("/feed/live", packed, answer(s.feedLive))
	job.GET("/feed/tree", packed, answer(s.feedTree))
	job.GET("/feed/table", packed, answer(s.feedTable))
	job.GET("/feed/ask", answer(s.askFeed))
	job.GET("/feed/spice", answer(s.spice))
	job.GET("/feed/dot", answer(s.dot))
	job.GET("/join", packed, answer(s.showJoin))
	job.POST("/join/function", limited(1<<16), answer(s.setFunction))
	job.POST("/join/rule", limited(1<<16), answer(s.setRule))
	job.POST("/join/way", limited(1<<16), answer(s.takeWay))
	job.POST("/join/part", limited(1<<16), answer(s.addWire))
	job.GET("/prove", packed, answer(s.showProve))
	job.GET("/prove/diagnosis", answer(s.diagnose))
	job.POST("/prove/reading", limited(1<<16), answer(s.setReading))
	job.POST("/prove/meter", limited(1<<16), answer(s.askMeter))
	job.POST("/prove/gate", limited(1<<16), answer(s.passGate))
	job.POST("/prove/mended", limited(1<<16), answer(s.mend))
	job.GET("/handover", packed, answer(s.showHandover))
	job.GET("/handover/page/:page", packed, answer(s.showPage))
	job.GET("/handover/book.pdf", answer(s.bookPDF))
	job.GET("/handover/where", answer(s.bookWhere))
	job.GET("/handover/making", answer(s.showMaking))
	job.GET("/handover/wires.csv", answer(s.wiresCSV))
	job.GET("/handover/wires.xlsx", answer(s.wiresXLSX))
	job.GET("/handover/list/:form", answer(s.workFile))
	job.GET("/handover/harness.dot", answer(s.harnessDOT))
	job.GET("/handover/svg/:page", answer(s.pageSVG))
	job.GET("/handover/all.zip", answer(s.packAll))
	job.GET("/handover/sheets", packed, answer(s.showSheets))
	job.GET("/handover/sheet/:sheet", answer(s.sheetFor))
	job.GET("/handover/labels.pdf", answer(s.stickersPDF))
	job.GET("/handover/labels.csv", answer(s.stickersCSV))
	job.GET("/handover/labels", answer(s.countStickers))
	job.GET("/handover/compare", packed, answer(s.compareStates))
	job.GET("/handover/state/:state", answer(s.stateFile))
	job.GET("/handover/money", packed, answer(s.showMoney))
	job.GET("/handover/costs", answer(s.showCosts))
	job.GET("/handover/orders.csv", answer(s.ordersCSV))
	job.POST("/handover/spent", limited(1<<16), answer(s.noteSpent))
	job.POST("/handover/prices/preview", limited(maxUpload), s.queued, answer(s.previewPrices))
	job.POST("/handover/prices", limited(maxUpload), s.queued, answer(s.takePrices))
	job.POST("/handover/bought", limited(1<<16), answer(s.buy))
	job.POST("/handover/terms", limited(1<<16), answer(s.setTerms))
	job.GET("/stand", answer(s.showStand))
	job.POST("/archive", limited(1<<16), answer(s.archive))
	job.POST("/copy", limited(1<<16), answer(s.copyJob))
	job.POST("/handover/left", limited(1<<16), answer(s.leave))
	job.POST("/handover/loan", limited(1<<16), answer(s.lend))
	job.POST("/handover/deliver", limited(1<<16), answer(s.deliver))
	job.GET("/prove/sheet.csv", answer(s.proveCSV))
	job.GET("/prove/sheet.pdf", answer(s.provePDF))
	job.POST("/prove/note", limited(1<<16), answer(s.note))
	job.PUT("/prove/program", limited(1<<18), answer(s.putProgram))
	job.PUT("/prove/live", limited(1<<18), answer(s.putLive))
	job.POST("/prove/unit", limited(1<<16), answer(s.askUnit))
	job.POST("/prove/rig", limited(1<<16), answer(s.askRig))
	job.POST("/prove/standin", limited(1<<16), answer(s.runStandin))
	job.GET("/prove/train", answer(s.trainRound))
	job.GET("/prove/train/causes", answer(s.trainCauses))
	job.POST("/prove/train/read", limited(1<<16), answer(s.trainRead))
	job.POST("/prove/train/end", limited(1<<16), answer(s.trainEnd))
	job.GET("/join/holds", answer(s.holdsOf))
	job.GET("/join/try", answer(s.tryJoin))
	job.GET("/work", packed, answer(s.showWorkList))
	job.POST("/work/tick", limited(1<<20), answer(s.tick))
	job.POST("/work/own", limited(1<<16), answer(s.putOwn))
	job.POST("/findings/answer", limited(1<<16), answer(s.answerFinding))
	job.GET("/bench", packed, answer(s.showBench))
	job.GET("/bench/link", answer(s.showLink))
	job.GET("/bench/qr.png", answer(s.showQR))
	job.GET("/pin/sheet.pdf", answer(s.sheetPDF))
	job.GET("/pin/sheet.csv", answer(s.sheetCSV))

	r.NoRoute(servePage)
	return r
}
