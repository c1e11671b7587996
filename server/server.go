// Package server gives Draxel to a browser: a JSON API over the stages, live updates, and the built front end.
//
// Each stage has one file of handlers. Replies are computed from the job at its revision and kept until the job
// changes; nothing that is computed is stored. Errors are problem details (RFC 9457) with a stable code. The server
// is made for the loopback interface: it answers no other host's name and takes writes from its own pages alone.
// Where the local network is let in, every other device must bring the passcode before it sees anything of a job.
package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

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

// Server answers requests: the desk takes them in, and each stage has its own.
type Server struct {
	*desk.Desk
	prove *proveapi.API
}

// New gives a server over the store. It fails on a passcode that is too short to be one.
func New(o desk.Options) (*Server, error) {
	d, err := desk.New(o)
	return &Server{Desk: d, prove: &proveapi.API{Desk: d}}, err
}

// Stop ends what would otherwise go on for ever: the streams that tell pages of changes, and simulated vehicles.
func (s *Server) Stop() {
	s.Desk.Stop()
	s.prove.Stop()
}

// stage is what answers for one.
type stage interface{ Routes(api, job gin.IRoutes) }

func (s *Server) stages() []stage {
	return []stage{&jobsapi.API{Desk: s.Desk}, &gatherapi.API{Desk: s.Desk}, &matchapi.API{Desk: s.Desk},
		&thinapi.API{Desk: s.Desk}, &pinapi.API{Desk: s.Desk}, &reachapi.API{Desk: s.Desk}, &feedapi.API{Desk: s.Desk},
		&joinapi.API{Desk: s.Desk}, s.prove, &handoverapi.API{Desk: s.Desk}, &workapi.API{Desk: s.Desk}}
}

// Handler gives the whole of it as an http.Handler.
func (s *Server) Handler() http.Handler {
	r, api, job := s.Open()
	all := s.stages()
	for _, x := range all {
		x.Routes(api, job)
	}
	r.GET(desk.AuthorityPath, s.Authority)
	r.NoRoute(pagesOf(all).serve)
	return r
}
