// Package jobsapi answers requests about the list of jobs, the front page of one, its file, its journal.
package jobsapi

import (
	"sync"

	"draxel/server/desk"
)

// API answers for jobs as such.
type API struct {
	*desk.Desk
	stands sync.Map // by job: its line in the list of jobs, stood
}
