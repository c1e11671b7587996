package jobsapi

import (
	"errors"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"draxel/server/desk"
	"draxel/store"
)

// tryDemo puts the demonstration on the list, for whoever wants to look round: what was taken off it comes back as it
// was.
func (s *API) tryDemo(c *gin.Context) error {
	if s.Demo.Jobs == nil {
		return desk.Refusal(http.StatusNotFound, "no-demo", "This Draxel has no demonstration.", "")
	}
	ctx := c.Request.Context()
	away, err := s.Store.Deleted(ctx)
	if err != nil {
		return err
	}
	for _, id := range s.Demo.IDs {
		if slices.ContainsFunc(away, func(j store.Listed) bool { return j.ID == id }) {
			if err := s.Store.Restore(ctx, id); err != nil {
				return err
			}
		}
	}
	there, err := s.Store.Jobs(ctx)
	if err != nil {
		return err
	}
	all, err := s.Demo.Jobs()
	if err != nil {
		return err
	}
	all = slices.DeleteFunc(all, func(n store.NewJob) bool {
		return slices.ContainsFunc(there, func(j store.Listed) bool { return j.ID == n.ID })
	})
	if _, err := s.Store.CreateAll(ctx, desk.Who(c), all...); err != nil {
		return err
	}
	c.JSON(http.StatusOK, desk.Done{Count: len(s.Demo.IDs)})
	return nil
}

// leaveDemo takes the demonstration off the list.
func (s *API) leaveDemo(c *gin.Context) error {
	for _, id := range s.Demo.IDs {
		if err := s.Store.Delete(c.Request.Context(), id); err != nil && !errors.Is(err, store.ErrNoJob) {
			return err
		}
	}
	c.JSON(http.StatusOK, desk.Done{Count: len(s.Demo.IDs)})
	return nil
}
