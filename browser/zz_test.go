package browser

import (
	"fmt"
	"testing"
	"time"

	"draxel/core/stored"
	"draxel/demo"
)

func TestZZ(t *testing.T) {
	v := open(t, "/", func(j *stored.Job) { demo.Enlarge(j, 3) })
	views := robotViews(v)
	fmt.Println(len(views), views)
	for _, size := range [][2]int{{1280, 800}, {1024, 768}, {853, 533}, {640, 400}} {
		*v = *v.by(t)
		v.page.MustSetViewport(size[0], size[1], 1, false)
		for _, path := range views {
			*v = *v.by(t)
			v.goTo(path)
			v.page.MustElement("main:not([aria-busy=true])")
			time.Sleep(250 * time.Millisecond)
			wrong := v.page.MustEval(`() => {
			const out = [];
			const page = document.scrollingElement;
			if (page.scrollWidth > innerWidth + 1) out.push('PAGE wider by ' + (page.scrollWidth - innerWidth));
			if (page.scrollHeight > innerHeight + 1 && getComputedStyle(document.body).overflowY === 'hidden') out.push('NO SCROLL');
			for (const e of document.querySelectorAll('main *')) {
				const s = getComputedStyle(e);
				if (/auto|scroll/.test(s.overflowX) && e.scrollWidth > e.clientWidth + 2 && e.clientWidth > 0 && !/INPUT|TEXTAREA|TABLE/.test(e.tagName)) out.push('SIDE ' + (e.getAttribute('aria-label') ?? e.className) + ' ' + (e.scrollWidth - e.clientWidth));
			}
			for (const list of document.querySelectorAll('main [role=grid], main [role=tree]')) {
				if (list.clientHeight < 150 && list.scrollHeight > list.clientHeight + 2) out.push('LOW ' + (list.getAttribute('aria-label') ?? list.className) + ' ' + list.clientHeight);
			}
			const scrolls = (e) => e && (/auto|scroll/.test(getComputedStyle(e).overflowX) || scrolls(e.parentElement));
			const clip = (e) => e && (/hidden|clip/.test(getComputedStyle(e).overflowX) ? e : clip(e.parentElement));
			for (const b of document.querySelectorAll('main button, main a, main input, header button')) {
				const r = b.getBoundingClientRect();
				if (r.width > 0 && r.left >= innerWidth && !scrolls(b.parentElement)) out.push('OFF ' + (b.innerText || b.getAttribute('aria-label')));
				const c = clip(b.parentElement);
				if (c && r.width > 0) { const q = c.getBoundingClientRect(); if (r.left > q.right - 4) out.push('CLIPPED ' + (b.innerText || b.getAttribute('aria-label')).slice(0,30)); }
			}
			let cut = new Map();
			for (const e of document.querySelectorAll('main *, header *')) {
				if (e.children.length === 0 && e.clientWidth > 0 && e.scrollWidth > e.clientWidth + 2 && /hidden|clip/.test(getComputedStyle(e).overflowX) && !e.closest('[title]') && !e.classList.contains('unseen') && !/INPUT|SELECT|TEXTAREA/.test(e.tagName)) cut.set(e.className || e.tagName, (cut.get(e.className || e.tagName) ?? 0) + 1);
			}
			for (const [k, n] of cut) out.push('CUT ' + k + ' x' + n);
			return [...new Set(out)].slice(0, 8).join('; ');
			}`).Str()
			if wrong != "" {
				fmt.Printf("%dx%d %s: %s\n", size[0], size[1], path[15:], wrong)
			}
		}
	}
}
