package reachapi

import (
	"bytes"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"draxel/core/finding"
	"draxel/core/harness"
	"draxel/core/pack"
	"draxel/core/reach"
	"draxel/core/route"
	"draxel/core/size"
	"draxel/core/work"
	"draxel/exchange"
	"draxel/server/desk"
)

func (s *API) showReach(c *gin.Context, j *desk.Computed) error {
	p := &j.Plan().Reach
	r, d := p.Result, j.Job.Chosen().Reach
	v := ReachView{Revision: j.Revision, Map: d.Map, Things: thingsOf(j), Proposed: desk.OrEmpty(r.Propose()),
		Rules: d.Rules, Lines: desk.OrEmpty(r.Lines), Wires: []ReachWire{}, Joints: desk.OrEmpty(r.Joints),
		Bundles: desk.OrEmpty(r.Bundles),
		Walls:   desk.OrEmpty(r.Walls), Disconnects: desk.OrEmpty(r.Disconnects), Apart: desk.OrEmpty(r.Kept),
		Tape: desk.OrEmpty(r.Tape), Unit: r.Unit, Buy: desk.OrEmpty(r.Buy), Stock: r.Stock,
		Pieces: desk.OrEmpty(r.Pieces()), Colours: desk.OrEmpty(r.Colours),
		Figures: r.Figures, Learned: r.Learned, Steps: j.WorkSteps(work.Reach), Strays: desk.OrEmpty(p.Strays),
		Proof: j.Plan().Proof, Line: j.Plan().Proof.Line(), Wishes: desk.OrEmpty(d.Wishes),
		Measured: desk.OrEmpty(d.Measured),
		Leftover: desk.OrEmpty(d.Leftover), Findings: desk.StageFindings(j.Plan().Findings, "reach")}
	v.Map.Stations, v.Map.Paths = desk.OrEmpty(v.Map.Stations), desk.OrEmpty(v.Map.Paths)
	for _, w := range r.Wires() {
		v.Wires = append(v.Wires, ReachWire{Colour: w.Colour, Size: w.Size, Circuit: w.Circuit, Function: w.Function,
			Ends: w.Ends, Lands: w.Lands, Pair: w.Pair, Shield: w.Shield,
			New: w.New})
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// thingsOf lists what can be put at a station: devices, connectors without one, splices and branches, with how many
// wires end there.
func thingsOf(j *desk.Computed) []PlacedThing {
	r, loom := j.Plan().Reach.Result, &j.Facts.Laid.Loom
	put := map[route.Thing]route.Place{}
	for _, p := range j.Job.Places {
		put[p.Thing] = p
	}
	ends := map[route.Thing]int{}
	device, branch := map[string]string{}, map[string]string{}
	ofSplice := map[harness.JointID]string{}
	for i := range loom.Connectors {
		h := &loom.Connectors[i]
		device[h.ID], branch[h.ID] = h.Device, h.Branch
	}
	for i := range loom.Splices {
		ofSplice[loom.Splices[i].ID] = loom.Splices[i].Branch
	}
	for _, w := range r.Wires() {
		for end, e := range w.Ends {
			id := e.At.Connector
			if w.Lands[end].Connector != "" {
				id = w.Lands[end].Connector
			}
			switch {
			case w.Dead[end]:
			case id != "":
				ends[route.Thing{Kind: route.AConnector, ID: id}]++
				ends[route.Thing{Kind: route.ADevice, ID: device[id]}]++
				ends[route.Thing{Kind: route.ABranch, ID: branch[id]}]++
			case e.Splice != "":
				ends[route.Thing{Kind: route.ASplice, ID: string(e.Splice)}]++
				ends[route.Thing{Kind: route.ABranch, ID: ofSplice[e.Splice]}]++
			}
		}
	}
	out := []PlacedThing{}
	add := func(kind route.Kind, id, with string) {
		t := route.Thing{Kind: kind, ID: id}
		p, own := put[t]
		out = append(out, PlacedThing{Thing: t, Station: r.Placed[t], Own: own, Wires: ends[t], Reason: p.Reason, Who: p.Who,
			When: p.When, With: with})
	}
	stationOfDevice := map[string]string{}
	for i := range loom.Devices {
		add(route.ADevice, loom.Devices[i].ID, "")
	}
	for i := range loom.Connectors {
		h := &loom.Connectors[i]
		add(route.AConnector, h.ID, h.Device)
		if at := r.Placed[route.Thing{Kind: route.AConnector, ID: h.ID}]; at != "" {
			stationOfDevice[h.Device] = at
		}
	}
	for i := range out {
		if out[i].Thing.Kind == route.ADevice && out[i].Station == "" {
			out[i].Station = stationOfDevice[out[i].Thing.ID]
		}
	}
	for i := range loom.Splices {
		add(route.ASplice, string(loom.Splices[i].ID), loom.Splices[i].Branch)
	}
	for i := range loom.Branches {
		add(route.ABranch, loom.Branches[i].ID, loom.Branches[i].Parent)
	}
	slices.SortStableFunc(out, func(a, b PlacedThing) int {
		if a.Thing.Kind != b.Thing.Kind {
			return slices.Index(route.Kinds(), a.Thing.Kind) - slices.Index(route.Kinds(), b.Thing.Kind)
		}
		return finding.Natural(a.Thing.ID, b.Thing.ID)
	})
	return out
}

func (s *API) compareReach(c *gin.Context, j *desk.Computed) error {
	c.JSON(http.StatusOK, CompareView{Revision: j.Revision, Now: j.Plan().Reach.Result.Figures,
		Options: desk.OrEmpty(comparedOf(j))})
	return nil
}

// comparedOf works the options out when they are first asked for.
func comparedOf(j *desk.Computed) []reach.Compared {
	return desk.Kept(j, "compared", func() []reach.Compared { return j.Plan().Reach.Result.Compare() })
}

// packReach packs a path's bundle. The same wires are packed once, whatever their order and wherever they lie.
func (s *API) packReach(c *gin.Context, j *desk.Computed) error {
	all := j.Plan().Reach.Result.Bundles
	i := slices.IndexFunc(all, func(b reach.Bundle) bool { return b.Path == c.Query("path") })
	if i < 0 {
		return desk.Refusal(http.StatusNotFound, "no-such-path", "There is no such path.", "")
	}
	b := &all[i]
	v := PackView{Path: b.Path, Circles: []pack.Circle{}, Floor: b.Area, Area: b.Area, Laid: b.Laid, Over: b.Over}
	if len(b.Round) > 0 && len(b.Round) <= pack.Most {
		got := s.packed.of(b)
		v.Circles, v.Floor, v.Packed = got.circles, got.diameter, true
	}
	c.JSON(http.StatusOK, v)
	return nil
}

func listTemplates(c *gin.Context) error {
	v := TemplateList{Templates: route.Templates(), Classes: []ClassLine{}}
	for _, x := range size.Classes() {
		v.Classes = append(v.Classes, ClassLine{x, x.Limit()})
	}
	c.JSON(http.StatusOK, v)
	return nil
}

// cutListCSV gives the cut list as a table.
func (s *API) cutListCSV(c *gin.Context, j *desk.Computed) error {
	var b bytes.Buffer
	if err := exchange.WriteCutList(&b, j.Plan().Reach.Result); err != nil {
		return err
	}
	desk.Download(c, j.Job.Title+" cut list.csv", "text/csv; charset=utf-8", b.Bytes())
	return nil
}
