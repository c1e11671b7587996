package browser

import (
	"archive/zip"
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"draxel/core/stored"
	"draxel/demo"
	"draxel/exchange"
)

// handed carries the Packhorse on as the demonstration shows it: half of the work done, and handed over once.
func handed(t testing.TB) func(*stored.Job) {
	return func(j *stored.Job) {
		if err := demo.HandOver(j); err != nil {
			t.Fatal(err)
		}
	}
}

// A part that comes late is said on the front page; it is there, and nothing is late of it any more. Time that is noted
// counts, and goes again.
func TestPartsAndTime(t *testing.T) {
	v := open(t, "/jobs/packhorse", handed(t))
	v.click("[data-testid] a, .frontstand a", "parts are late: grommet")
	v.see("[data-testid=late]", "grommet")
	v.see("[data-testid=when]", "hands wait")
	there := v.page.MustElement("[aria-label^='there of grommet']")
	there.MustScrollIntoView().MustSelectAllText().MustInput("1").MustType(input.Enter)
	v.until("it is not late", func() bool { return !strings.Contains(v.text("[data-testid=late]"), "grommet") })
	v.click(".orderfilters button", "^late")
	v.until(
		"only what is late is listed",
		func() bool { return !strings.Contains(v.text("[data-testid=orders]"), "grommet") },
	)
	v.see("[data-testid=orders]", "sender of the gauge")
	before := v.text("[data-testid=cost]")
	v.page.MustElement("[aria-label=hours]").MustScrollIntoView().MustInput("2")
	v.page.MustElement("[aria-label='whose time']").MustInput("Aron")
	v.page.MustElement("[aria-label='what was done']").MustInput("routed it twice")
	v.click("form button", "Note it")
	v.see(".notedtime", "2.0 h Thin, Aron[^]*routed it twice")
	v.until("it costs more", func() bool { return v.text("[data-testid=cost]") != before })
	v.page.MustEval(`() => [...document.querySelectorAll('.notedtime li')]
		.find((x) => x.innerText.includes('routed it twice')).querySelector('button').click()`)
	v.until("it is taken back", func() bool { return !strings.Contains(v.text(".notedtime"), "routed it twice") })
	v.page.MustEval(`() => [...document.querySelectorAll('button')]
		.find((x) => x.innerText === 'Beside the other ways').click()`) // it moves up when the line above it goes
	v.page.Timeout(40 * time.Second).
		MustElement("[data-testid=ways]")
		// four whole plans, on a machine that tests all at once
	v.see("[data-testid=ways]", "as it stands[^]*a way to feed it")
}

// Labels of one plug are fewer than all, and each is of it.
func TestLabelsOfOnePlug(t *testing.T) {
	v := open(t, "/jobs/packhorse/handover?part=give", handed(t))
	v.see("[data-testid=labels]", "[0-9]+ labels")
	all := v.text("[data-testid=labels]")
	v.page.MustElement("[aria-label='of one plug']").MustScrollIntoView().MustClick()
	v.click(".ant-select-item-option", "^IC1$")
	v.until("they are fewer", func() bool { return v.text("[data-testid=labels]") != all })
	v.see("[data-testid=labels]", "^3 labels")
	href := *v.page.MustElement("[data-testid=labels] a[href*=csv]").MustAttribute("href")
	text := v.page.MustEval(`(href) => fetch(href).then((r) => r.text())`, href).Str()
	lines := strings.Split(strings.TrimSpace(text), "\n")
	if len(lines) != 4 {
		t.Errorf("%d lines: %s", len(lines), text)
	}
	for _, l := range lines[1:] {
		if !strings.Contains(l, ",IC1,") {
			t.Errorf("%q is of another plug", l)
		}
	}
}

// What has changed since a state was kept, and what differs from another job.
func TestStatesAndJobsAreCompared(t *testing.T) {
	v := open(t, "/jobs/packhorse/handover?part=give", handed(t))
	v.click("[data-testid=states] button", "What has changed since")
	v.see(".ant-modal", "to Fen Programming 2025-11-25, and as it is now")
	v.see("[data-testid=differences]", "state[^]*planned[^]*as built")
	v.press(input.Escape)
	v.page.MustElement("[aria-label='compare with another job']").MustScrollIntoView().MustClick()
	v.click(".ant-select-item-option", "Packhorse fuse block")
	v.see(".ant-modal", "Packhorse fuse block, and as it is now")
	v.see("[data-testid=differences]", "not there")
	v.press(input.Escape)
	v.click("section button", "^look$")
	v.see("[data-testid=preview]", "Whoever puts it into the vehicle[^]*Plugs, and where they go")
}

// All of it is taken as one ZIP, and opened again: its job file makes the same job in Draxel.
func TestTheZIPIsTakenAndOpened(t *testing.T) {
	v := open(t, "/jobs/packhorse/handover?part=give", handed(t))
	dir := t.TempDir()
	if err := (proto.BrowserSetDownloadBehavior{Behavior: proto.BrowserSetDownloadBehaviorBehaviorAllow,
		BrowserContextID: v.page.Browser().BrowserContextID, DownloadPath: dir}).Call(v.page.Browser()); err != nil {
		t.Fatal(err)
	}
	v.click("button", "All of it, ZIP")
	var data []byte
	v.until("the ZIP is there", func() bool {
		data, _ = os.ReadFile(filepath.Join(dir, "Packhorse.zip"))
		_, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
		return len(data) > 0 && err == nil
	})
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	f, err := z.Open("job.draxel.json")
	if err != nil {
		t.Fatal(err)
	}
	var file bytes.Buffer
	if _, err := file.ReadFrom(f); err != nil {
		t.Fatal(err)
	}
	if _, _, err := exchange.ReadJob(file.Bytes()); err != nil {
		t.Fatal(err)
	}
	path := filepath.Join(dir, "job.draxel.json")
	if err := os.WriteFile(path, file.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	v.goTo("/")
	v.see("[data-testid=jobs]", "Packhorse fuse block")
	v.page.MustElement("input[type=file]").MustSetFiles(path)
	v.see(".frontstand", "104 of 328 steps done")
}

// The list of jobs says of each where it stands; words narrow it, one is put away and comes back, and the next is begun
// from another.
func TestTheListOfJobs(t *testing.T) {
	v := open(t, "/", handed(t))
	v.see("[data-testid=jobs]", "104/328[^]*to Fen Programming")
	v.page.MustElement("[aria-label='find a job']").MustInput("refit")
	v.until(
		"only the refit is listed",
		func() bool { return !strings.Contains(v.text("[data-testid=jobs]"), "Packhorse") },
	)
	v.see("[data-testid=jobs]", "Move the terminal from B20 to B37")
	v.click("[data-testid=jobs] button", "^away$")
	v.see("main", "No job has these words")
	v.click("main button", "^put away 1$")
	v.see("[data-testid=jobs]", "Sorrel refit")
	v.click("[data-testid=jobs] button", "^back$")
	v.see("main", "put away 0")
	v.goTo("/jobs/sorrel-refit")
	v.click("header button", "^Sorrel refit$")
	v.click(".ant-modal button", "Start the next from it")
	v.see("header", "Sorrel refit, the next")
	v.click("nav a", "^Match")
	v.see("aside, main", "to be verified|verified")
}

// A drawing of the book is found from a wire, shows what is live under the key, and goes nearer.
func TestTheBookIsLive(t *testing.T) {
	v := open(t, "/jobs/packhorse/thin?sel=wire:P113", handed(t))
	v.click("[data-testid=wirelive] a", "its drawing")
	v.see("[data-testid=bookwires] tr.selected", "P113")
	dead := func() int {
		return v.page.MustEval(`() => document.querySelectorAll('.diagram [data-live=dead]').length`).Int()
	}
	live := func() int {
		return v.page.MustEval(`() => document.querySelectorAll('.diagram [data-live=live]').length`).Int()
	}
	v.click("[aria-label='position of the key'] button", "^off$")
	v.until("nothing of the pump is live with the key off", func() bool { return dead() > 0 })
	off := live()
	v.click("[aria-label='position of the key'] button", "^running$")
	v.until("more is live with the engine running", func() bool { return live() > off })
	v.see("[data-testid=bookwires]", "P113[^]*live 1[0-9]")
	box := func() string { return *v.page.MustElement(".diagram svg").MustAttribute("viewBox") }
	was := box()
	v.press('+')
	v.until("it is nearer", func() bool { return box() != was })
	v.goTo("/jobs/packhorse/handover?part=book&wire=nothing")
	v.expects = "404"
	v.see(".problem", "no such wire")
}

// A supplier's list is shown before it is taken: what it changes, what is no line of the order list, what cannot be
// read; and one U takes it back.
func TestASuppliersListIsBrought(t *testing.T) {
	v := open(t, "/jobs/packhorse/handover?part=money", handed(t))
	v.see("[data-testid=orders]", "sender of the gauge")
	before := v.text("[data-testid=cost]")
	path := filepath.Join(t.TempDir(), "fellside.csv")
	list := "Item;Unit price;Delivery, days\n\"sender of the gauge, in a second port\";17,50;2\n" +
		"a mug;3;\nwire WH 5 mm² class B;soon;\n"
	if err := os.WriteFile(path, []byte(list), 0o600); err != nil {
		t.Fatal(err)
	}
	v.page.MustElement("input[aria-label='price list']").MustSetFiles(path)
	v.see("[data-testid=pricelist]", "sender of the gauge, in a second port[^]*17.5")
	v.see("[data-testid=pricelist]", "a mug")
	v.see("[data-testid=pricelist]", "Not read: line 4")
	v.click(".ant-modal button", "Take 1 line")
	v.until("it costs something else", func() bool { return v.text("[data-testid=cost]") != before })
	v.until("the list is put away", func() bool {
		return v.page.MustEval(`() => document.querySelector('[data-testid=pricelist]') === null`).Bool()
	})
	v.press('u')
	v.until("it costs what it did", func() bool { return v.text("[data-testid=cost]") == before })
}
