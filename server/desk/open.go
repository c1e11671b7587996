package desk

import (
	"crypto/rand"
	"encoding/hex"
	"net/http"
	"time"

	"github.com/gin-contrib/gzip"
	"github.com/gin-gonic/gin"
)

// New gives a desk over the store. It fails on a passcode that is too short to be one.
func New(o Options) (*Desk, error) {
	s := &Desk{Store: o.Store, log: o.Log, Now: o.Now, NewID: o.NewID, Instruments: o.Instruments, Demo: o.Demo,
		stopping:  make(chan struct{}),
		uploading: make(chan struct{}, uploads)}
	if s.Now == nil {
		s.Now = time.Now
	}
	s.costs.now = s.Now
	if s.NewID == nil {
		s.NewID = func() string {
			var b [9]byte
			_, _ = rand.Read(b[:]) // never fails, by its documentation
			return hex.EncodeToString(b[:])
		}
	}
	if o.Lan == nil {
		return s, nil
	}
	var err error
	s.access, err = newAccess(*o.Lan, s.Now)
	return s, err
}

// Packed packs replies that are long.
var Packed = gzip.Gzip(gzip.BestSpeed)

// Open gives the engine with what every request goes through, and the groups of routes of all jobs and of one. What is
// no stage's own is answered here.
func (s *Desk) Open() (r *gin.Engine, api, job *gin.RouterGroup) {
	gin.SetMode(gin.ReleaseMode)
	r = gin.New()
	r.UseRawPath, r.UnescapePathValues = true, true
	r.Use(s.logged, s.recovered, s.guarded, secured, paced, finishing)
	r.GET("/debug/plan", noStore, Answer(s.showCostsOfParts))
	api = r.Group("/api", noStore)
	api.GET("/health", func(c *gin.Context) { c.JSON(http.StatusOK, gin.H{"ok": true}) })
	api.POST("/pass", Limited(1<<12), Answer(s.bringPasscode))
	api.Use(s.admitted)
	api.GET("/events", Answer(s.streamAll))
	job = api.Group("/jobs/:job", s.once)
	job.POST("/letters", Limited(1<<17), Answer(s.letters(r)))
	job.GET("/events", Answer(s.streamEvents))
	job.GET("/bench/link", Answer(s.showLink))
	job.GET("/bench/qr.png", Answer(s.showQR))
	return r, api, job
}
