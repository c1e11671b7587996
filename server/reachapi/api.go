// Package reachapi answers requests about the map, the lengths and the cut list.
package reachapi

import (
	"draxel/server/desk"
)

// API answers for reach.
type API struct {
	*desk.Desk
	packed packings
}
