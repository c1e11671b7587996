// Package matchapi answers requests about the crosswalk, and the decisions about its rows.
package matchapi

import (
	"draxel/server/desk"
)

// API answers for match.
type API struct {
	*desk.Desk
}
