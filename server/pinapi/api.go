// Package pinapi answers requests about the re-pin sheet, faces, checks and reports.
package pinapi

import (
	"draxel/server/desk"
)

// API answers for pin.
type API struct {
	*desk.Desk
}
