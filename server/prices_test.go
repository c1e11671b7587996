package server_test

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strings"
	"testing"

	"draxel/server/desk"
	"draxel/server/handoverapi"
	"draxel/server/jobsapi"
)

// The order list as it is given away says nothing new; with prices filled in it comes back, is shown first, and is
// one change that can be taken back.
func TestTheOrderListComesBackWithPrices(t *testing.T) {
	c := start(t)
	job := c.packhorse(nil)
	view := show[handoverapi.MoneyView](c, job+"/handover/money")
	_, data, _ := c.do("GET", job+"/handover/orders.csv", "", nil)
	fields := func() map[string]string {
		return map[string]string{"id": c.change(), "seen": fmt.Sprint(show[handoverapi.MoneyView](c,
			job+"/handover/money").Revision)}
	}
	if _, code := bring[desk.Done](c, "POST", job+"/handover/prices", data, fields()); code != "nothing-taken" {
		t.Fatalf("nothing is filled in: %q", code)
	}
	text := strings.TrimPrefix(string(data), "\ufeff")
	r := csv.NewReader(strings.NewReader(text))
	if strings.Count(strings.SplitN(text, "\n", 2)[0], ";") > 5 {
		r.Comma = ';'
	}
	rows, err := r.ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	at := map[string]int{}
	for i, h := range rows[0] {
		at[h] = i
	}
	for i, row := range rows[1:] {
		row[at["Price"]], row[at["Supplier"]], row[at["Lead time, days"]] = fmt.Sprintf("%d,25", i+1), "Fellside", "4"
	}
	var filled bytes.Buffer
	w := csv.NewWriter(&filled)
	w.Comma = ';'
	if err := w.WriteAll(append(rows, []string{"a mug", "", "1"})); err != nil {
		t.Fatal(err)
	}
	p, code := bring[handoverapi.PricesView](c, "POST", job+"/handover/prices/preview", filled.Bytes(), fields())
	if code != "" || len(p.Lines) != len(view.Lines) || len(p.Bad) != 0 || len(p.Unknown) != 1 {
		t.Fatalf("%s: %d of %d lines, not read %q, unknown %q", code, len(p.Lines), len(view.Lines), p.Bad, p.Unknown)
	}
	priced := func() (n int) {
		for _, l := range show[handoverapi.MoneyView](c, job+"/handover/money").Lines {
			if l.Said.Price > 0 && l.Said.Supplier == "Fellside" && l.Said.Days == 4 {
				n++
			}
		}
		return n
	}
	if priced() != 0 {
		t.Error("what is only looked at is kept")
	}
	if _, code := bring[desk.Done](c, "POST", job+"/handover/prices", filled.Bytes(), fields()); code != "" {
		t.Fatal(code)
	}
	if n := priced(); n != len(view.Lines) {
		t.Errorf("%d of %d lines have what the list says", n, len(view.Lines))
	}
	if _, code := send[desk.Done](c, "POST", job+"/undo", jobsapi.UndoRequest{ID: c.change()}); code != "" ||
		priced() != 0 {
		t.Errorf("taken back: %q, %d are left", code, priced())
	}
	if _, code := bring[handoverapi.PricesView](c, "POST", job+"/handover/prices/preview", []byte("a,b\n1,2\n"),
		fields()); code != "no-prices" {
		t.Errorf("a table without prices: %q", code)
	}
}
