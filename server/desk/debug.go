package desk

import (
	"net"
	"net/http"

	"github.com/gin-gonic/gin"
)

// showCostsOfParts answers this machine alone.
func (s *Desk) showCostsOfParts(c *gin.Context) error {
	if ip := net.ParseIP(c.RemoteIP()); !loopback(c.Request.Host) || ip == nil || !ip.IsLoopback() {
		return Refusal(http.StatusForbidden, "this-machine-only", "This page is for the machine that Draxel runs on.", "")
	}
	c.String(http.StatusOK, s.costs.String())
	return nil
}
