package browser

import (
	"slices"
	"testing"
	"time"

	"draxel/core/stored"
	"draxel/demo"
)

// BenchmarkPage is the time from asking for a page until it can be used, each time in a new window: the list of jobs,
// and Match's spread of 83 rows. The page itself notes when what is waited for has been drawn; asking for it from here,
// over and over, would see it a good deal later.
func BenchmarkPage(b *testing.B) {
	v := open(b, "/")
	v.see("body", "Sorrel refit")
	for name, page := range map[string]struct{ path, selector string }{
		"jobs": {"/", "[data-testid=jobs] a"}, "match": {"/jobs/sorrel-refit/match",
			"[data-testid=spread] .spreadrow.selected"},
	} {
		b.Run(name, func(b *testing.B) {
			var ms []float64
			for b.Loop() {
				window := v.page.Browser().MustPage("")
				window.MustEvalOnNewDocument(`const look = () => document.querySelector('` + page.selector + `')
					? requestAnimationFrame(() => setTimeout(() => { window.usableAt = performance.now(); }))
					: requestAnimationFrame(look);
				look();`)
				window.MustNavigate(v.url + page.path)
				window.MustWait(`() => window.usableAt > 0`)
				ms = append(ms, window.MustEval(`() => window.usableAt`).Num())
				window.MustClose()
			}
			b.ReportMetric(median(ms), "ms/usable")
		})
	}
}

// BenchmarkKey1000 is the time from the key that lets a system go to its consequences on the screen, in a harness of a
// thousand wires on the map of the demonstration: first what becomes of the wires, then the counts that follow from the
// steps of the whole plan. The figures are the medians of all iterations.
func BenchmarkKey1000(b *testing.B) {
	v := open(b, "/jobs/packhorse/thin?sel=system:lighting", func(j *stored.Job) { demo.Enlarge(j, 3) })
	v.see("aside h2", "system lighting")
	v.drawn("S24")
	var shown, counted []float64
	for i := 0; b.Loop(); i++ {
		key := []string{"g", "r"}[i%2]
		ms := v.page.MustEval(`(key) => {
			const start = performance.now();
			const change = (selector) => new Promise((resolve) => {
				const seen = new MutationObserver(() => {
					seen.disconnect();
					requestAnimationFrame(() => resolve(performance.now() - start));
				});
				seen.observe(document.querySelector(selector), { childList: true, subtree: true, characterData: true,
					attributes: true });
			});
			const all = Promise.all([change('[aria-label="systems"]'), change('[data-testid=balance]')]);
			document.dispatchEvent(new KeyboardEvent('keydown', { key, code: 'Key' + key.toUpperCase(), bubbles: true }));
			document.dispatchEvent(new KeyboardEvent('keyup', { key, code: 'Key' + key.toUpperCase(), bubbles: true }));
			return all;
		}`, key)
		shown, counted = append(shown, ms.Get("0").Num()), append(counted, ms.Get("1").Num())
		time.Sleep(time.Second) // what is read anew in the background is not part of it
	}
	b.ReportMetric(median(shown), "ms/shown")
	b.ReportMetric(median(counted), "ms/counted")
}

// BenchmarkCondition is the time from a condition that is changed in Join, the next position of the key, until what
// works in it is on the screen, in a harness of a thousand wires: the median of all iterations. A condition that was
// tried is kept by the page, so that each is tried with other outputs held.
func BenchmarkCondition(b *testing.B) {
	v := open(b, "/jobs/packhorse/join?part=try", func(j *stored.Job) { demo.Enlarge(j, 3) })
	v.see("[data-testid=try]", "Pulled")
	var shown []float64
	outputs := v.page.MustEval(`() => document.querySelectorAll('.output').length`).Int()
	for i := 0; b.Loop(); i++ {
		ms := v.page.MustEval(`(n) => {
			const start = performance.now();
			return new Promise((resolve) => {
				const area = document.querySelector('.trygrid [aria-live]');
				const before = area.innerText;
				const button = document.querySelectorAll('.output')[n];
				const seen = new MutationObserver(() => area.innerText !== before && (seen.disconnect(),
					requestAnimationFrame(() => resolve(performance.now() - start))));
				seen.observe(area, { childList: true, subtree: true, characterData: true });
				setTimeout(() => { seen.disconnect(); resolve(-1); }, 1500);
				button.click();
			});
		}`, i%outputs).Num()
		if ms >= 0 { // an output that drives nothing changes nothing
			shown = append(shown, ms)
		}
	}
	if len(shown) == 0 {
		b.Fatal("no condition changed anything")
	}
	b.ReportMetric(median(shown), "ms/shown")
}

func median(of []float64) float64 {
	slices.Sort(of)
	return of[len(of)/2]
}
