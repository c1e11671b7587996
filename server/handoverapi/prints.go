package handoverapi

import (
	"bytes"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/core/handover"
	"draxel/core/papers"
	"draxel/exchange"
	"draxel/server/desk"
)

// sheetFor gives one of the sheets for others as PDF.
func (s *API) sheetFor(c *gin.Context, j *desk.Computed) error {
	all := papers.Sheets(j.Plan(), &j.Facts, &j.Job)
	id := strings.TrimSuffix(c.Param("sheet"), ".pdf")
	i := slices.IndexFunc(all, func(x handover.Sheet) bool { return x.ID == id })
	if i < 0 {
		return desk.Refusal(http.StatusNotFound, "no-such-thing", "There is no such sheet.", "")
	}
	hash, err := j.Hash()
	if err != nil {
		return err
	}
	printed := s.Now().UTC().Format(time.DateOnly)
	var b bytes.Buffer
	if err := exchange.WriteOtherPDF(&b, j.Job.Title, sheetHead(j, hash, printed), printed, &all[i]); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" "+id+".pdf", "application/pdf", b.Bytes())
	return nil
}

// showSheets gives the sheets for others as they are printed.
func (s *API) showSheets(c *gin.Context, j *desk.Computed) error {
	c.JSON(http.StatusOK, SheetsView{papers.Sheets(j.Plan(), &j.Facts, &j.Job)})
	return nil
}

// stickers gives the labels of a job that a request asks for: kinds with commas between, of one plug where that is
// given.
func (s *API) stickers(c *gin.Context) (*desk.Computed, []handover.Sticker, error) {
	j, err := s.Compute(c.Request.Context(), c.Param("job"))
	if err != nil {
		return nil, nil, err
	}
	var kinds []handover.StickerKind
	for _, k := range strings.Split(c.Query("kinds"), ",") {
		if k == "" {
			continue
		}
		if !slices.Contains(handover.StickerKinds(), handover.StickerKind(k)) {
			return nil, nil, desk.Refusal(
				http.StatusUnprocessableEntity,
				"bad-value",
				fmt.Sprintf("There are no labels of %.20q.", k),
				"/kinds",
			)
		}
		kinds = append(kinds, handover.StickerKind(k))
	}
	if len(kinds) == 0 {
		kinds = handover.StickerKinds()
	}
	return j, handover.Stickers(papers.Book(j.Plan(), &j.Facts), kinds, c.Query("plug")), nil
}

// number reads a number of a query, the usual one where there is none.
func number(c *gin.Context, name string, usual float64) float64 {
	if x, err := strconv.ParseFloat(strings.Replace(c.Query(name), ",", ".", 1), 64); err == nil {
		return x
	}
	return usual
}

// stickersPDF gives labels on a sheet or a roll; with codes each that is a wire's has the address of the wire's page
// as QR.
func (s *API) stickersPDF(c *gin.Context) error {
	j, all, err := s.stickers(c)
	if err != nil {
		return err
	}
	stock := exchange.Stock{
		Columns: int(number(c, "columns", 3)),
		Rows:    int(number(c, "rows", 8)),
		Wide:    number(c, "wide", 70),
		High: number(
			c,
			"high",
			36,
		),
		Left: number(c, "left", 0),
		Top:  number(c, "top", 4.5),
		Roll: c.Query("roll") != "",
	}
	if err := stock.Check(); err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "bad-value", desk.Sentence(err.Error()), "/stock")
	}
	var code func(*handover.Sticker) []byte
	if c.Query("codes") != "" {
		base := "http://" + c.Request.Host
		if link := s.BenchAddress(c); link.Address != "" {
			if u, err := url.Parse(link.Address); err == nil {
				base = u.Scheme + "://" + u.Host
			}
		}
		code = func(x *handover.Sticker) []byte {
			png, err := desk.QRCode(
				base+"/jobs/"+url.PathEscape(c.Param("job"))+"/thin?sel=wire:"+url.QueryEscape(string(x.Wire)),
				4,
			)
			if err != nil {
				return nil // the label is printed without
			}
			return png
		}
	}
	var b bytes.Buffer
	cut, err := exchange.WriteStickersPDF(&b, j.Job.Title, s.Now().UTC().Format(time.DateOnly), stock, all, code)
	if err != nil {
		return err
	}
	if len(cut) > 0 {
		c.Header("Draxel-Cut", strconv.Itoa(len(cut))) // labels that are too small for their text
	}
	desk.Download(c, j.Job.Title+" labels.pdf", "application/pdf", b.Bytes())
	return nil
}

func (s *API) stickersCSV(c *gin.Context) error {
	j, all, err := s.stickers(c)
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if err := exchange.WriteStickersCSV(&b, all); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" labels.csv", "text/csv; charset=utf-8", b.Bytes())
	return nil
}

// countStickers says how many labels a filter gives, and how many of them a stock is too small for.
func (s *API) countStickers(c *gin.Context) error {
	j, all, err := s.stickers(c)
	if err != nil {
		return err
	}
	v := StickersView{All: len(all), First: all[:min(len(all), 12)], Plugs: []string{}}
	for i := range j.Facts.Laid.Loom.Connectors {
		v.Plugs = append(v.Plugs, j.Facts.Laid.Loom.Connectors[i].ID)
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// labelsPDF prints a label for each connector that has none yet, or, asked for all, for every one.
func (s *API) labelsPDF(c *gin.Context, j *desk.Computed) error {
	wires, _ := desk.WireCounts(&j.Facts.Laid.Loom)
	var all []exchange.Label
	for i := range j.Facts.Laid.Loom.Connectors {
		h := &j.Facts.Laid.Loom.Connectors[i]
		if c.Query("all") != "" || !j.Job.Looked[h.ID].Labelled {
			all = append(all, exchange.Label{Connector: h.ID, Device: h.Device, Branch: h.Branch, Wires: wires[h.ID]})
		}
	}
	var b bytes.Buffer
	if err := exchange.WriteLabelsPDF(&b, j.Job.Title, s.Now().UTC().Format(time.DateOnly), all); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" labels.pdf", "application/pdf", b.Bytes())
	return nil
}
