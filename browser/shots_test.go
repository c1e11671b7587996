package browser

import (
	"flag"
	"strings"
	"testing"
	"time"

	"draxel/core/stored"
)

var shots = flag.String("shots", "", "folder to put a picture of each main view in")

// asShown are the views whose pictures show the Packhorse half done, as the demonstration has it.
var asShown = map[string]bool{"jobs": true, "front": true, "book": true, "money": true}

// TestShots takes the pictures that the README shows; it runs only when asked to.
func TestShots(t *testing.T) {
	if *shots == "" {
		t.Skip("pictures are taken with -shots DIR")
	}
	for name, path := range map[string]string{
		"jobs":                 "/",
		"gather":               "/jobs/packhorse/gather?side=from",
		"match":                "/jobs/sorrel-refit/match",
		"crosswalk-two-makers": "/jobs/packhorse/match?row=from%20K10",
		"pin":                  "/jobs/sorrel-refit/pin?step=45",
		"front":                "/jobs/packhorse",
		"money":                "/jobs/packhorse/handover?part=money",
		"bench":                "/jobs/sorrel-refit/bench?stage=pin",
		"bench-telephone":      "/jobs/sorrel-refit/bench?stage=pin",
		"book":                 "/jobs/packhorse/handover?part=book&page=9",
		"thin":                 "/jobs/packhorse/thin?sel=wire:7109c",
		"prove-unit":           "/jobs/packhorse/prove?part=unit",
		"work":                 "/jobs/packhorse/work?stage=join",
		"prove":                "/jobs/packhorse/prove?only=loads",
		"prove-fault":          "/jobs/packhorse/prove?part=fault",
		"reach-cuts":           "/jobs/packhorse/reach?part=cuts&wire=7110",
		"feed":                 "/jobs/packhorse/feed?part=live&key=running",
		"join":                 "/jobs/packhorse/join?sel=tach",
		"feed-block":           "/jobs/packhorse/feed?part=block",
	} {
		v := open(t, path, map[bool]func(*stored.Job){true: handed(t), false: func(*stored.Job) {}}[asShown[name]])
		if strings.HasSuffix(name, "telephone") {
			v.phone()
		}
		if name == "book" {
			v.click("[aria-label='position of the key'] button", "^running$")
		}
		if name == "work" {
			v.see(".workrow.selected", ".")
		}
		if name == "prove-fault" {
			v.see("[data-testid=next]", "from")
		}
		if name == "prove-unit" {
			v.click("button", "Start it in order")
			v.see("[data-testid=simulated]", "SIMULATED")
			v.click("button", "Read values")
			v.see("[data-testid=values]", "volts at A")
			v.click("button", "Turn the wheel")
			v.see("[data-testid=rig]", "must show")
			v.see("[data-testid=outputs]", "12.*V")
		}
		if name == "feed-block" {
			v.click("button", "split as the trade does")
			v.see(".slot", "unit battery")
		}
		if strings.HasPrefix(name, "reach") {
			v.page.MustElement(".standing")
		}
		v.until("the page is quiet", func() bool {
			return v.page.MustEval(`() => {
				const text = document.body.innerText;
				return !document.querySelector('[aria-busy=true]') && text.length > 120 && !/[….]+\s+danger/.test(text);
			}`).Bool()
		})
		time.Sleep(time.Second) // the drawing is fitted
		v.shot(*shots + "/" + name + ".png")
	}
}
