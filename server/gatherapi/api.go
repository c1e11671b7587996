// Package gatherapi answers requests about tables, lists, readings and photographs as they are brought, shown and
// put right.
package gatherapi

import (
	"draxel/server/desk"
)

// API answers for gather.
type API struct {
	*desk.Desk
}
