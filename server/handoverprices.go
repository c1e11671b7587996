package server

import (
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"draxel/core/handover"
	"draxel/store"
)

// priced reads a supplier's list onto the order list.
func (s *Server) priced(c *gin.Context, j *computed) (handover.Priced, error) {
	u, err := readUpload(c)
	if err != nil {
		return handover.Priced{}, err
	}
	p, err := handover.Prices(u.table.Cells, moneyOf(j, s.now()).lines)
	if err != nil {
		return p, problem(http.StatusUnprocessableEntity, "no-prices", sentence(err.Error()), "")
	}
	return p, nil
}

// previewPrices says what a supplier's list would change, and keeps nothing.
func (s *Server) previewPrices(c *gin.Context) error {
	j, err := s.compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return err
	}
	p, err := s.priced(c, j)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, PricesView{j.Revision, p})
	return nil
}

// takePrices keeps what a supplier's list says of the order list, in one change.
func (s *Server) takePrices(c *gin.Context) error {
	return s.checked(c, func(j *computed) error {
		p, err := s.priced(c, j)
		if err != nil {
			return err
		}
		bodies := map[string]any{}
		for _, l := range p.Lines {
			bodies[store.SubjectBought(l.Said.Key)] = l.Said
		}
		if len(bodies) == 0 {
			return problem(http.StatusUnprocessableEntity, "nothing-taken", "Nothing of it is new to the order list.",
				"")
		}
		seen, _ := strconv.ParseInt(c.Request.PostFormValue("seen"), 10, 64)
		return s.apply(c, change{id: c.Request.PostFormValue("id"), what: "prices", seen: seen, base: j.Revision,
			bodies: bodies})
	})
}
