package browser

import (
	"bytes"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"

	"draxel/server/gatherapi"
	"draxel/server/proveapi"
)

// late lets replies to changes whose path ends in one of these come so much later than the change was made, or refuses
// them.
func late(wait *atomic.Int64, refuse func(*http.Request) bool, ends ...string) func(http.Handler) http.Handler {
	return func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			for _, end := range ends {
				if !strings.HasSuffix(r.URL.Path, end) || r.UserAgent() == "Go-http-client/1.1" {
					continue
				}
				if refuse != nil && r.Method != http.MethodGet && refuse(r) {
					w.Header().Set("Content-Type", "application/problem+json")
					w.WriteHeader(http.StatusUnprocessableEntity)
					_, _ = w.Write([]byte(`{"title":"Refused","status":422,"code":"refused-by-the-test","detail":"The test does not want that."}`))
					return
				}
				defer func(d time.Duration) { time.Sleep(d) }(time.Duration(wait.Load()))
			}
			h.ServeHTTP(w, r)
		})
	}
}

// list gives what the server has of a list, line by line: the fields joined by a bar.
func (v *visit) list(kind string, fields ...string) []string {
	var out []string
	for _, row := range fetch[gatherapi.SheetView](v, "/api/jobs/packhorse/gather/lists/"+kind).Reading.Rows {
		var cells []string
		for _, f := range fields {
			cells = append(cells, row.Cells[f])
		}
		out = append(out, strings.Join(cells, "|"))
	}
	return out
}

// Eight fuses typed one below the other as hands type, with replies that come late: every one is kept, on its own line,
// and the cursor never goes back to one that is written.
func TestRowsTypedIntoAList(t *testing.T) {
	for name, pace := range map[string]struct{ key, reply time.Duration }{
		"quick replies":           {0, 0},
		"replies after a row":     {25 * time.Millisecond, 400 * time.Millisecond},
		"replies after many rows": {0, 1500 * time.Millisecond},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			var wait atomic.Int64
			wait.Store(int64(pace.reply))
			v := enter(t, "/jobs/packhorse/feed?part=sources&list=fuses", nil,
				late(&wait, nil, "/lists/fuses/cells", "/lists/fuses"))
			v.see("[data-testid=factgrid]", "ignition feed behind the switch")
			before := len(v.list("fuses", "fuse"))
			v.page.MustElement("[data-testid=factgrid]").MustFocus()
			for range before {
				v.press(input.ArrowDown)
			}
			typing := func(text string) {
				for _, r := range text {
					v.press(input.Key(r))
					time.Sleep(pace.key)
				}
			}
			for i := range 8 {
				typing(fmt.Sprintf("x%d", i+1))
				v.press(input.Tab)
				typing(fmt.Sprintf("%d", 10+i))
				v.press(input.Enter)
				v.press(input.ArrowLeft)
			}
			want := ""
			for i := range 8 {
				want += fmt.Sprintf("x%d|%d ", i+1, 10+i)
			}
			heads := v.page.MustElements("[data-testid=factgrid] [role=columnheader]")
			if !strings.HasPrefix(heads[0].MustText(), "Fuse") || !strings.HasPrefix(heads[1].MustText(), "Rating") {
				t.Fatalf("the columns are %s, %s", heads[0].MustText(), heads[1].MustText())
			}
			if shown := v.text("[data-testid=factgrid]"); !strings.Contains(shown, "x8") {
				t.Error("what was typed is not in sight before the server has answered")
			}
			got := ""
			for end := time.Now().Add(30 * time.Second); got != want &&
				time.Now().Before(end); time.Sleep(100 * time.Millisecond) {
				if rows := v.list("fuses", "fuse", "rating"); len(rows) > before {
					got = strings.Join(rows[before:], " ") + " "
				}
			}
			if got != want {
				t.Errorf("kept are %q, typed were %q", got, want)
			}
		})
	}
}

// A row that lacks its name is not taken, and stays in sight with what was typed, where it can be put right.
func TestARowWithoutItsNameStaysInSight(t *testing.T) {
	v := open(t, "/jobs/packhorse/feed?part=sources&list=fuses")
	v.see("[data-testid=factgrid]", "ignition feed behind the switch")
	before := len(v.list("fuses", "fuse"))
	v.page.MustElement("[data-testid=factgrid]").MustFocus()
	for range before {
		v.press(input.ArrowDown)
	}
	v.press(input.ArrowRight)
	v.press([]input.Key("77")...)
	v.press(input.Enter)
	v.see("[data-testid=rejected]", "no fuse is named")
	v.see("[role=gridcell]", "^77$")
	v.press(input.ArrowUp, input.ArrowLeft)
	v.press([]input.Key("spare")...)
	v.press(input.Enter)
	v.until("it is taken", func() bool { return len(v.list("fuses", "fuse")) == before+1 })
}

// One change that is refused takes none of those behind it along, and is kept with its reason, over a reload too, until
// it is sent again or thrown away.
func TestOneRefusalDropsNothingElse(t *testing.T) {
	var away, no atomic.Bool
	no.Store(true)
	var wait atomic.Int64
	refuse := func(r *http.Request) bool {
		body, err := io.ReadAll(r.Body)
		r.Body = io.NopCloser(bytes.NewReader(body))
		return err == nil && no.Load() && bytes.Contains(body, []byte("0.123"))
	}
	v := enter(t, "/jobs/packhorse/bench?stage=prove", nil, func(h http.Handler) http.Handler {
		inner := late(&wait, refuse, "/prove/reading")(h)
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if away.Load() && r.Method == http.MethodPost && r.UserAgent() != "Go-http-client/1.1" {
				panic(http.ErrAbortHandler)
			}
			inner.ServeHTTP(w, r)
		})
	})
	v.expects = "422|Failed to load"
	v.see("h1", ".")
	read := func(value float64) bool {
		return slices.ContainsFunc(fetch[proveapi.ProveView](v, "/api/jobs/packhorse/prove").Lines,
			func(l proveapi.ProvedLine) bool { return l.Reading != nil && l.Reading.Value == value })
	}
	away.Store(true)
	for _, text := range []string{"0.111", "0.123", "0.222"} {
		was := v.text("[data-testid=bench-text]")
		v.page.MustElement("[aria-label='what the meter shows']").MustInput(text)
		v.press(input.Enter)
		if v.text("[data-testid=bench-text]") == was { // out of band: it stays
			v.page.MustEval(`() => document.activeElement.blur()`)
			v.press(input.ArrowRight)
		}
	}
	v.see("[data-testid=unsent]", "not sent yet: kept here")
	away.Store(false)
	v.see("[data-testid=fallen]", "1 not taken")
	v.until("the others are kept", func() bool { return read(0.111) && read(0.222) })
	v.page.MustReload()
	v.click("[data-testid=fallen]", "1 not taken")
	v.see("[data-testid=nottaken]", "0.123[^]*The test does not want that")
	no.Store(false)
	v.click("[data-testid=nottaken] button", "Send again")
	v.until("it is kept now", func() bool { return read(0.123) })
	v.until("nothing is left", func() bool { return !v.page.MustHas("[data-testid=fallen]") })
}

// A list is copied by rows and columns as it is seen, whole where nothing is selected and by whole rows where something
// is; a field is copied as ever.
func TestCopyAList(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?side=from")
	copied := func() (text, table string) {
		got := v.page.MustEval(`() => {
			const clipboardData = new DataTransfer();
			(document.activeElement ?? document.body).dispatchEvent(new ClipboardEvent('copy', { clipboardData, bubbles: true, cancelable: true }));
			return [clipboardData.getData('text/plain'), clipboardData.getData('text/html')];
		}`)
		return got.Arr()[0].Str(), got.Arr()[1].Str()
	}
	v.page.MustElement("[role=grid][aria-label=rows] [role=gridcell]")
	shown := len(v.page.MustElements("[role=grid][aria-label=rows] [role=row]"))
	v.page.MustElement("[role=grid][aria-label=rows]").MustFocus()
	text, table := copied()
	lines := strings.Split(text, "\n")
	want := fetch[gatherapi.TableView](v, "/api/jobs/packhorse/gather/from").Reading
	if len(lines) != len(want.Rows)+1 || len(lines) <= shown {
		t.Errorf("%d lines are copied, %d are there, %d in sight", len(lines), len(want.Rows), shown)
	}
	columns := strings.Count(lines[0], "\t")
	for _, l := range lines {
		if strings.Count(l, "\t") != columns {
			t.Errorf("%q has other columns than %q", l, lines[0])
		}
	}
	if columns < 4 || strings.Count(table, "<tr>") != len(lines) || !strings.Contains(text, want.Rows[0].Function) {
		t.Errorf("%d columns, %d rows of a table: %s", columns, strings.Count(table, "<tr>"), lines[0])
	}
	if now := len(v.page.MustElements("[role=grid][aria-label=rows] [role=row]")); now > shown+4 {
		t.Errorf("%d rows are drawn after it", now)
	}
	v.page.MustEval(`() => {
		const rows = document.querySelectorAll('[role=grid][aria-label=rows] [role=row]');
		const r = document.createRange();
		r.setStart(rows[2].firstChild, 0);
		r.setEnd(rows[4].lastChild, 0);
		getSelection().removeAllRanges();
		getSelection().addRange(r);
	}`)
	if text, _ := copied(); strings.Count(text, "\n") != 2 || strings.Count(text, "\t") != 3*columns {
		t.Errorf("three rows are selected, copied is %q", text)
	}
	v.page.MustElement("main input").MustFocus()
	if text, _ := copied(); text != "" {
		t.Errorf("a field is copied as %q", text)
	}
}
