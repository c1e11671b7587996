package handoverapi

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"draxel/core/handover"
	"draxel/core/stored"
	"draxel/server/desk"
)

// priced reads a supplier's list onto the order list.
func (s *API) priced(c *gin.Context, j *desk.Computed) (handover.Priced, error) {
	u, err := desk.ReadUpload(c)
	if err != nil {
		return handover.Priced{}, err
	}
	p, err := handover.Prices(u.Table.Cells, MoneyOf(j, s.Now()).lines)
	if err != nil {
		return p, desk.Refusal(http.StatusUnprocessableEntity, "no-prices", desk.Sentence(err.Error()), "")
	}
	return p, nil
}

// previewPrices says what a supplier's list would change, and keeps nothing.
func (s *API) previewPrices(c *gin.Context, j *desk.Computed) error {
	p, err := s.priced(c, j)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, PricesView{j.Revision, p})
	return nil
}

// takePrices keeps what a supplier's list says of the order list, in one change.
func (s *API) takePrices(c *gin.Context) error {
	return s.Checked(c, func(j *desk.Computed) error {
		p, err := s.priced(c, j)
		if err != nil {
			return err
		}
		bodies := map[string]any{}
		for _, l := range p.Lines {
			bodies[stored.SubjectOf(l.Said)] = l.Said
		}
		if len(bodies) == 0 {
			return desk.Refusal(http.StatusUnprocessableEntity, "nothing-taken", "Nothing of it is new to the order list.",
				"")
		}
		seen, _ := strconv.ParseInt(c.Request.PostFormValue("seen"), 10, 64)
		return s.Apply(c, desk.Change{ID: c.Request.PostFormValue("id"), What: "prices", Seen: seen, Base: j.Revision,
			Bodies: bodies})
	})
}
