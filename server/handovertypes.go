package server

import (
	"draxel/core/diagram"
	"draxel/core/handover"
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
	Wires   []BookWire      `json:"wires"`
}

// BookWire is a length of wire on a page of the book.
type BookWire struct {
	Name     string  `json:"name"`
	Whole    string  `json:"whole"` // the wire that it is part of
	Text     string  `json:"text"`  // colour and mm²
	Circuit  string  `json:"circuit,omitempty"`
	Function string  `json:"function,omitempty"`
	From     string  `json:"from"`
	To       string  `json:"to"`
	Mm       float64 `json:"mm,omitempty"`
	Extended string  `json:"extended,omitempty"`
	Planned  bool    `json:"planned,omitempty"`
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

// StickersView is how many labels a filter gives.
type StickersView struct {
	All   int                `json:"all"`
	First []handover.Sticker `json:"first"`
	Plugs []string           `json:"plugs"` // that they can be asked for
}
