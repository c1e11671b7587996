// Package feedapi answers requests about what is live, the fuse block and the ways to feed a job.
package feedapi

import (
	"draxel/server/desk"
)

// API answers for feed.
type API struct {
	*desk.Desk
}
