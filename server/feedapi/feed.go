package feedapi

import (
	"bytes"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"draxel/core/feed"
	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/match"
	"draxel/core/network"
	"draxel/core/route"
	"draxel/core/work"
	"draxel/exchange"
	"draxel/server/desk"
)

// showFeed gives what is live in every position of the key, and what protects it.
func (s *API) showFeed(c *gin.Context, j *desk.Computed) error {
	v := FeedView{Revision: j.Revision, Lists: feedLines(j), Positions: feed.Positions(),
		Trees: map[string][]feed.Feeder{},
		Fuses: []feed.Protected{}, Unprotected: []feed.Bare{}, Switches: []string{}, Closed: []string{},
		Grounds: []feed.Ground{}, Sensors: []feed.Sensed{}, Nodes: []string{}, Wires: []harness.WireID{},
		Relays: []string{}, Assumed: []string{}, Unknown: []string{}, Unfed: []string{}, Measured: []string{},
		Findings: desk.StageFindings(j.Plan().Findings, "feed")}
	p := j.Plan()
	v.Block, v.Circuits, v.Parts, v.Steps = j.Job.Block, desk.OrEmpty(p.Feed.Circuits), desk.OrEmpty(p.Feed.Parts),
		j.WorkSteps(work.Feed)
	v.Ways, v.Holders = []FeedWay{}, []string{}
	for _, o := range j.Job.Feeds {
		v.Ways = append(v.Ways, FeedWay{o.ID, o.Name})
	}
	if v.Block != nil {
		v.Station = p.Reach.Result.Placed[route.Thing{Kind: route.ADevice, ID: v.Block.ID}]
	}
	if f := j.Found.Feed; f != nil {
		for _, x := range f.Inside.Slots {
			v.Holders = append(v.Holders, x.Name)
		}
	}
	if r := p.Feed.Result; r != nil {
		v.Said, v.Fuses, v.Unprotected = true, r.Fuses, r.Unprotected
		v.Sleeps, v.Days, v.Takes = r.Sleeps, r.Days, r.Takes
		v.Assumed, v.Unknown, v.Switches = desk.OrEmpty(r.Assumed), desk.OrEmpty(r.Drawn.Open), desk.OrEmpty(r.Own())
		v.Closed, v.Grounds, v.Sensors = desk.OrEmpty(r.Closed()), r.Grounds, r.Sensors
		for _, p := range feed.Positions() {
			v.Trees[p.Name] = desk.OrEmpty(r.Tree(p.Name))
		}
		v.Unfed, v.Measured = desk.OrEmpty(r.Unfed()), desk.OrEmpty(r.Facts.Measured())
		for w := range r.Drawn.Wires {
			v.Wires = append(v.Wires, w)
		}
		for _, k := range r.Drawn.Relays {
			if k.Pull != network.Awake {
				v.Relays = append(v.Relays, k.Name)
			}
		}
		v.Nodes = []string{}
		for n, name := range r.Drawn.Names {
			if side := r.Drawn.Sides[n]; side == network.Named || side == network.Made {
				v.Nodes = append(v.Nodes, name)
			}
		}
		if v.Body = "battery −"; slices.Contains(r.Drawn.Names, "body") {
			v.Body = "body"
		}
		slices.SortFunc(v.Wires, finding.Natural)
		slices.SortFunc(v.Nodes, finding.Natural)
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// switched gives the network of a job in the position that is asked about, with switches of their own on.
func (s *API) switched(c *gin.Context) (*feed.Result, *desk.Computed, string, *network.State, error) {
	r, j, at, err := s.Fed(c)
	if err != nil {
		return nil, nil, "", nil, err
	}
	state, err := r.With(at, c.QueryArray("sw"))
	if err != nil {
		err = desk.Refusal(http.StatusUnprocessableEntity, "no-such-switch", desk.Sentence(err.Error()), "/sw")
	}
	return r, j, at, state, err
}

// feedTree gives the tree of a position with switches of their own on.
func (s *API) feedTree(c *gin.Context) error {
	r, _, _, state, err := s.switched(c)
	if err != nil {
		return err
	}
	c.JSON(http.StatusOK, FeedTree{desk.OrEmpty(r.TreeOf(state))})
	return nil
}

// feedTable lists every wire, cable and device with what it is in a position, with switches of their own on.
func (s *API) feedTable(c *gin.Context) error {
	r, j, at, state, err := s.switched(c)
	if err != nil {
		return err
	}
	text := map[harness.WireID]string{}
	for i := range j.Facts.Laid.Loom.Wires {
		w := &j.Facts.Laid.Loom.Wires[i]
		text[w.ID] = w.Function
	}
	rows := r.Table(state)
	for i := range rows {
		rows[i].Text = text[rows[i].Wire.Whole()]
	}
	if c.Query("as") != "csv" {
		c.JSON(http.StatusOK, FeedLines{rows})
		return nil
	}
	var b bytes.Buffer
	if err := exchange.WriteLiveCSV(&b, at, rows); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" live in "+at+".csv", "text/csv; charset=utf-8", b.Bytes())
	return nil
}

// askFeed answers what if.
func (s *API) askFeed(c *gin.Context) error {
	r, _, at, err := s.Fed(c)
	if err != nil {
		return err
	}
	f := network.Fault{Do: network.Do(c.Query("do")), Element: c.Query("element"), A: c.Query("a"),
		B: c.Query("b"), On: c.Query("on") != ""}
	if text := c.Query("ohms"); text != "" {
		if f.Ohms, err = strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64); err != nil || !(f.Ohms >= 0 &&
			f.Ohms < math.MaxFloat32) {
			return desk.Refusal(http.StatusUnprocessableEntity, "bad-value",
				"The resistance is a number of Ω, 0 or more.", "/ohms")
		}
	}
	if text := c.Query("volts"); text != "" {
		if f.Volts, err = strconv.ParseFloat(text, 64); err != nil {
			return desk.Refusal(http.StatusUnprocessableEntity, "bad-value", "The volts are a number.", "/volts")
		}
	}
	a, err := r.Ask(at, c.QueryArray("sw"), f)
	if err != nil {
		return desk.Refusal(http.StatusUnprocessableEntity, "no-such-fault", desk.Sentence(err.Error()), "")
	}
	c.JSON(http.StatusOK, a)
	return nil
}

// spice gives the netlist of a position.
func (s *API) spice(c *gin.Context) error {
	r, j, at, err := s.Fed(c)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(feed.Positions(), func(p feed.Position) bool { return p.Name == at })
	var b bytes.Buffer
	if err := exchange.WriteSpice(&b, r.States[i], j.Job.Title); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" "+at+".cir", "text/plain; charset=utf-8", b.Bytes())
	return nil
}

// dot gives the feed tree of a position as a graph.
func (s *API) dot(c *gin.Context) error {
	r, j, at, err := s.Fed(c)
	if err != nil {
		return err
	}
	var b bytes.Buffer
	if err := exchange.WriteFeedDOT(&b, r.Tree(at), j.Job.Title+", "+at); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" "+at+".dot", "text/vnd.graphviz; charset=utf-8", b.Bytes())
	return nil
}

// feedWire says what a wire is in each position of the key: by its name, or by a cavity that it ends in.
func (s *API) feedWire(c *gin.Context, j *desk.Computed) error {
	v := FeedWires{Wires: []feed.WireLive{}}
	r := j.Plan().Feed.Result
	if v.Said = r != nil; !v.Said {
		c.JSON(http.StatusOK, v)
		return nil
	}
	add := func(wire harness.WireID) {
		if w, known := r.Wire(wire); known {
			v.Wires = append(v.Wires, w)
		}
	}
	if wire := c.Query("wire"); wire != "" {
		add(harness.WireID(wire))
	} else {
		at := harness.Ref{Connector: c.Query("connector"), Cavity: c.Query("cavity")}
		if c.Query("side") == string(match.To) {
			at = j.Facts.At(at)
		}
		for i := range j.Facts.Laid.Loom.Wires {
			w := &j.Facts.Laid.Loom.Wires[i]
			if w.Ends[0].At == at || w.Ends[1].At == at {
				add(w.ID)
			}
		}
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// feedLive gives the limbs of the harness's drawing that the wires run through which are live in a position.
func (s *API) feedLive(c *gin.Context) error {
	r, j, at, err := s.Fed(c)
	if err != nil {
		return err
	}
	live := r.Live(at)
	wires := j.Facts.Laid.Loom.Wires
	c.JSON(http.StatusOK, FeedLive{Limbs: j.Begun().Thin.Result.Routes(j.Drawing(),
		func(w int) bool { return live[wires[w].ID] })})
	return nil
}
