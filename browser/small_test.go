package browser

import (
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/proto"
)

// A window of 640×400, as a large one is at 200 %: no view is wider than it, no list is shut, and what is to be pressed
// can be scrolled to.
func TestSmallWindows(t *testing.T) {
	v := open(t, "/")
	v.page.MustSetViewport(640, 400, 1, false)
	for _, path := range []string{"/", "/jobs/packhorse", "/jobs/packhorse/gather?side=from",
		"/jobs/packhorse/gather?part=vehicles", "/jobs/packhorse/match", "/jobs/sorrel-refit/pin", "/jobs/packhorse/thin",
		"/jobs/packhorse/reach?part=cuts", "/jobs/packhorse/feed?part=live", "/jobs/packhorse/join",
		"/jobs/packhorse/prove", "/jobs/packhorse/prove?part=fault", "/jobs/packhorse/handover?part=money",
		"/jobs/packhorse/work"} {
		v.goTo(path)
		v.page.MustElement("main:not([aria-busy=true])")
		v.until("it is drawn: "+path, func() bool { return len(v.text("main")) > 200 })
		wrong := v.page.MustEval(`() => {
			const out = [];
			const page = document.scrollingElement;
			if (page.scrollWidth > innerWidth + 1) {
				out.push('it is wider by ' + (page.scrollWidth - innerWidth) + ' px');
			}
			if (page.scrollHeight > innerHeight + 1 && getComputedStyle(document.body).overflowY === 'hidden') {
				out.push('it does not scroll');
			}
			for (const list of document.querySelectorAll('main [role=grid], main [role=tree]')) {
				if (list.clientHeight < 150 && list.scrollHeight > list.clientHeight + 2) {
					const name = list.getAttribute('aria-label') ?? list.className;
					out.push(name + ' shows ' + list.clientHeight + ' of ' + list.scrollHeight);
				}
			}
			const scrolls = (e) => e && (/auto|scroll/.test(getComputedStyle(e).overflowX) || scrolls(e.parentElement));
			for (const b of document.querySelectorAll('main button, main a, main input')) {
				const r = b.getBoundingClientRect();
				if (r.width > 0 && r.left >= innerWidth && !scrolls(b.parentElement)) {
					out.push('off the side: ' + (b.innerText || b.getAttribute('aria-label')));
				}
			}
			return out.join('; ');
		}`).Str()
		if wrong != "" {
			t.Errorf("%s: %s", path, wrong)
		}
	}
	if !strings.Contains(v.text("nav[aria-label=stages]"), "Hand over") {
		t.Error("the stages are not there")
	}
}

// In a window of 1024×768 no panel scrolls sideways and nothing is past its edge; where colours are the reader's own,
// what is chosen is framed.
func TestAMiddlingWindow(t *testing.T) {
	v := open(t, "/")
	v.page.MustSetViewport(1024, 768, 1, false)
	forced := proto.EmulationSetEmulatedMedia{Features: []*proto.EmulationMediaFeature{{Name: "forced-colors",
		Value: "active"}}}
	for _, path := range []string{"/jobs/packhorse/gather?side=from", "/jobs/packhorse/match", "/jobs/sorrel-refit/pin",
		"/jobs/packhorse/join?part=try", "/jobs/packhorse/work", "/jobs/packhorse/prove"} {
		v.goTo(path)
		v.page.MustElement("main:not([aria-busy=true])")
		v.until("it is drawn: "+path, func() bool { return len(v.text("main")) > 200 })
		wrong := v.page.MustEval(`() => [...document.querySelectorAll('.frame, .frame nav, main, main *')].filter((e) =>
			/auto|scroll|hidden/.test(getComputedStyle(e).overflowX) && e.clientWidth > 80 && e.children.length > 0
			&& e.scrollWidth > e.clientWidth + 2).map((e) => (e.getAttribute('aria-label') ?? e.className)
			+ ' by ' + (e.scrollWidth - e.clientWidth)).join('; ')`).Str()
		if wrong != "" {
			t.Errorf("%s: %s", path, wrong)
		}
	}
	if err := forced.Call(v.page); err != nil {
		t.Fatal(err)
	}
	v.goTo("/jobs/packhorse/match?row=from%20SP6")
	for _, chosen := range []string{".spreadrow.selected", ".rail a.active"} {
		if v.page.MustElement(chosen).MustEval(`() => getComputedStyle(this).outlineStyle`).Str() != "solid" {
			t.Errorf("%s is not told from the others", chosen)
		}
	}
}
