package workapi

import (
	"draxel/core/finding"
	"draxel/core/proof"
	"draxel/core/stored"
	"draxel/core/thin"
	"draxel/core/wanted"
	"draxel/core/work"
	"draxel/server/desk"
)

// WorkListView is the one list of what is to be done: the steps of all stages in one order, with what was done so
// far, the joints that are made and the new wires that are laid.
type WorkListView struct {
	Revision int64           `json:"revision"`
	Steps    []desk.WorkStep `json:"steps"`
	Done     []work.Tick     `json:"done"`   // everything that was ticked, in its order
	Strays   []work.Tick     `json:"strays"` // done, and not in the plan any more
	Proof    proof.Proof     `json:"proof"`
	Line     string          `json:"line"`
	Open     string          `json:"open,omitempty"` // what the list leaves out
	Minutes  float64         `json:"minutes"`        // reckoned for what is left
	Joints   []wanted.Joined `json:"joints"`
	Wires    []wanted.Laid   `json:"wires"`
	Places   []string        `json:"places"` // connectors and paths that steps are at
	People   []string        `json:"people"` // who has ticked
	Hand     []string        `json:"hand"`
}

// WorkView is the work with its progress, the stock, and what to bring from the donor.
type WorkView struct {
	Revision int64             `json:"revision"`
	Steps    []desk.WorkStep   `json:"steps"`
	Strays   []work.Tick       `json:"strays"` // done, and not in the plan any more
	Counts   thin.Counts       `json:"counts"`
	Proof    proof.Proof       `json:"proof"`
	Line     string            `json:"line"`
	Stock    []thin.StockLine  `json:"stock"`
	Off      []thin.OffLine    `json:"off"`
	Clips    []thin.ClipLine   `json:"clips"`
	Yard     []stored.YardItem `json:"yard"`
	Bench    thin.Bench        `json:"bench"`
	Findings []finding.Finding `json:"findings"`
}

// TickRequest ticks steps off, or takes a tick back, or says what came of a step instead.
type TickRequest struct {
	ID      string   `json:"id"`
	Seen    int64    `json:"seen"`
	Steps   []string `json:"steps"`
	Done    bool     `json:"done"`
	Outcome string   `json:"outcome,omitempty"` // "stuck": the wire does not come out
	Reason  string   `json:"reason,omitempty"`  // why the gate is passed though something is missing
	Spent   float64  `json:"spent,omitempty"`   // minutes that it took
}
