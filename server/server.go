// Package server gives Draxel to a browser: a JSON API over the stages, live updates, and the built front end.
//
// Each stage has one file of handlers. Replies are computed from the job at its revision and kept until the job
// changes; nothing that is computed is stored. Errors are problem details (RFC 9457) with a stable code. The server
// is made for the loopback interface: it answers no other host's name and takes writes from its own pages alone.
// Where the local network is let in, every other device must bring the passcode before it sees anything of a job.
package server

import (
	"net/http"

	"draxel/server/desk"

	"github.com/gin-gonic/gin"
)

// Server answers requests: the desk takes them in, and each stage has its own.
type Server struct {
	*desk.Desk
	prove *proveAPI
}

// New gives a server over the store. It fails on a passcode that is too short to be one.
func New(o desk.Options) (*Server, error) {
	d, err := desk.New(o)
	return &Server{Desk: d, prove: &proveAPI{Desk: d}}, err
}

// Stop ends what would otherwise go on for ever: the streams that tell pages of changes, and simulated vehicles.
func (s *Server) Stop() {
	s.Desk.Stop()
	s.prove.stop()
}

// Handler gives the whole of it as an http.Handler.
func (s *Server) Handler() http.Handler {
	r, api, job := s.Open()
	for _, stage := range []interface{ Routes(api, job gin.IRoutes) }{
		&jobsAPI{Desk: s.Desk}, &gatherAPI{Desk: s.Desk}, &matchAPI{Desk: s.Desk}, &thinAPI{Desk: s.Desk},
		&pinAPI{Desk: s.Desk}, &reachAPI{Desk: s.Desk}, &feedAPI{Desk: s.Desk}, &joinAPI{Desk: s.Desk}, s.prove,
		&handoverAPI{Desk: s.Desk}, &workAPI{Desk: s.Desk},
	} {
		stage.Routes(api, job)
	}
	r.NoRoute(servePage)
	return r
}
