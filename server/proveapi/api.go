// Package proveapi answers requests about the test sheet, the bench, diagnosis, the trainer.
package proveapi

import "draxel/server/desk"

// API answers for prove.
type API struct {
	*desk.Desk
	bench benches // simulated vehicles that were started from the page
}

// Stop ends the simulated vehicles.
func (s *API) Stop() { s.bench.stop() }
