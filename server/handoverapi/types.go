package handoverapi

import (
	"draxel/core/diagram"
	"draxel/core/feed"
	"draxel/core/handover"
	"draxel/core/harness"
	"draxel/core/work"
)

// HandoverView is what is open before a job is handed over, what can be given away, and the states that were.
type HandoverView struct {
	Revision  int64                `json:"revision"`
	Lists     []handover.DueList   `json:"lists"`
	Open      int                  `json:"open"` // items that nobody owns
	Pages     []BookPage           `json:"pages"`
	Delivered []handover.Delivered `json:"delivered"`
	Loans     []handover.Loan      `json:"loans"`
	State     string               `json:"state,omitempty"` // why the book is not as built throughout
	Missing   []string             `json:"missing"`         // texts with signs that the print font has not: □ stands for them
}

// Making is how far a book has come.
type Making struct {
	Done int `json:"done"` // pages
	Of   int `json:"of"`
}

// BookPage is a page of the book with a drawing.
type BookPage struct {
	Title   string `json:"title"`
	Group   string `json:"group"`
	Number  int    `json:"number"` // of its page
	Wires   int    `json:"wires"`
	Planned int    `json:"planned"` // of them, not so yet
}

// BookPageView is a page of the book as it is drawn, with the wires that are on it.
type BookPageView struct {
	Title   string          `json:"title"`
	Drawing diagram.Drawing `json:"drawing"`
	Goes    string          `json:"goes,omitempty"` // on which pages what is drawn here goes on
	Wires   []BookWire      `json:"wires"`
}

// BookWire is a length of wire on a page of the book.
type BookWire struct {
	Name     harness.WireID `json:"name"`
	Whole    harness.WireID `json:"whole"` // the wire that it is part of
	Text     string         `json:"text"`  // colour and mm²
	Circuit  string         `json:"circuit,omitempty"`
	Function string         `json:"function,omitempty"`
	From     string         `json:"from"`
	To       string         `json:"to"`
	Mm       float64        `json:"mm,omitempty"`
	Extended string         `json:"extended,omitempty"`
	Planned  bool           `json:"planned,omitempty"`
	In       []feed.LiveIn  `json:"in"` // by position of the key; empty where nobody has said what stands in the vehicle
}

// BookWhere is the page of the book on which a wire is drawn.
type BookWhere struct {
	Page  int              `json:"page"`
	Wires []harness.WireID `json:"wires"` // its lengths on that page
}

// LeftRequest says who owns something that stays open; without an owner it takes that back.
type LeftRequest struct {
	ID     string `json:"id"`
	Seen   int64  `json:"seen"`
	Key    string `json:"key"`
	Owner  string `json:"owner,omitempty"`
	Reason string `json:"reason,omitempty"`
}

// LoanRequest notes something temporary, borrowed or put off; with gone it is gone.
type LoanRequest struct {
	ID   string        `json:"id"`
	Seen int64         `json:"seen"`
	Loan handover.Loan `json:"loan"`
}

// DeliverRequest keeps a state with a name.
type DeliverRequest struct {
	ID     string `json:"id"`
	Seen   int64  `json:"seen"`
	Name   string `json:"name"`
	Reason string `json:"reason,omitempty"`
}

// CompareStatesView is what differs between two states of a job, or two jobs.
type CompareStatesView struct {
	Was         string                `json:"was"`
	Is          string                `json:"is"`
	All         int                   `json:"all"`
	Differences []handover.Difference `json:"differences"` // the first of them
}

// SheetsView is the sheets for others.
type SheetsView struct {
	Sheets []handover.Sheet `json:"sheets"`
}

// StickersView is how many labels a filter gives.
type StickersView struct {
	All   int                `json:"all"`
	First []handover.Sticker `json:"first"`
	Plugs []string           `json:"plugs"` // that they can be asked for
}

// MoneyView is how time, parts and cost of a job stand today.
type MoneyView struct {
	Revision int64                `json:"revision"`
	Today    string               `json:"today"` // ISO date
	Hours    handover.Hours       `json:"hours"`
	Stages   []string             `json:"stages"` // that time can be noted for
	Spent    []handover.Spent     `json:"spent"`
	Terms    handover.Terms       `json:"terms"`
	Lines    []handover.OrderLine `json:"lines"`
	Cost     handover.Cost        `json:"cost"`
	Known    bool                 `json:"known"`           // dates can be told
	Chain    []ChainLink          `json:"chain"`           // the longest way through what is left
	Least    float64              `json:"least"`           // minutes that it takes
	Ends     float64              `json:"ends"`            // minutes of work until all is done, with the hands that there are
	Idle     float64              `json:"idle"`            // minutes in which hands wait for parts
	Ready    string               `json:"ready,omitempty"` // ISO date on which it is done
	Late     []LatePart           `json:"late"`
}

// ChainLink is a step of the longest way.
type ChainLink struct {
	Text    string  `json:"text"`
	Stage   string  `json:"stage"`
	Minutes float64 `json:"minutes"`
	Part    string  `json:"part,omitempty"` // that it waits for
}

// LatePart is a part that is not there when it is wanted.
type LatePart struct {
	Key   string `json:"key"`
	What  string `json:"what"`
	Step  string `json:"step"`  // the first that wants it
	Wants string `json:"wants"` // ISO dates
	There string `json:"there"`
	// Spare is the minutes of work that it may come later still and nothing ends later; 0: all waits for it.
	Spare float64 `json:"spare"`
}

// SpentRequest notes time; gone takes it back.
type SpentRequest struct {
	ID    string         `json:"id"`
	Seen  int64          `json:"seen"`
	Spent handover.Spent `json:"spent"`
	Gone  bool           `json:"gone,omitempty"`
}

// PricesView is what a supplier's list would change in the order list.
type PricesView struct {
	Revision int64 `json:"revision"`
	handover.Priced
}

// BoughtRequest says something of a line of the order list.
type BoughtRequest struct {
	ID     string          `json:"id"`
	Seen   int64           `json:"seen"`
	Bought handover.Bought `json:"bought"`
}

// TermsRequest says what hours and prices are reckoned with.
type TermsRequest struct {
	ID    string         `json:"id"`
	Seen  int64          `json:"seen"`
	Terms handover.Terms `json:"terms"`
}

// CostsView is what this way costs beside others.
type CostsView struct {
	Currency string    `json:"currency"`
	Ways     []WayCost `json:"ways"`
}

// WayCost is what a way to do the job comes to.
type WayCost struct {
	Name    string        `json:"name"`
	Stage   work.Stage    `json:"stage"` // in which it is compared; empty: as it stands
	Cost    handover.Cost `json:"cost"`
	Lines   int           `json:"lines"`   // of the order list
	Minutes float64       `json:"minutes"` // in all
	Reached bool          `json:"reached"` // its plan is proven
}
