// Package joinapi answers requests about joints, functions and parts.
package joinapi

import (
	"draxel/server/desk"
)

// API answers for join.
type API struct {
	*desk.Desk
}
