// Package workapi answers requests about the one list of what is to be done, and its ticks.
package workapi

import (
	"draxel/server/desk"
)

// API answers for the work.
type API struct {
	*desk.Desk
}
