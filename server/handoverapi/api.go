// Package handoverapi answers requests about the book, the sheets, money, and states with a name.
package handoverapi

import (
	"sync"

	"draxel/server/desk"
)

// API answers for handover.
type API struct {
	*desk.Desk
	making sync.Map // by job: how far its book has come, Making
}
