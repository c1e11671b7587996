// Package thinapi answers requests about what stays and what goes.
package thinapi

import (
	"draxel/server/desk"
)

// API answers for thin.
type API struct {
	*desk.Desk
}
