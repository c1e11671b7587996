package handoverapi

import (
	"draxel/core/handover"
	"draxel/core/papers"
	"draxel/server/desk"
)

// DueOf gives the lists that must end at zero, with whose what is left is, and how much nobody owns.
func DueOf(j *desk.Computed) ([]handover.DueList, int) {
	lists := papers.OpenLists(j.Plan(), &j.Facts, &j.Job)
	return lists, handover.Owned(lists, j.Job.Left)
}
