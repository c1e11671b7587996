package browser

import (
	"testing"
	"time"

	"draxel/core/plan"
	"draxel/demo"
)

// BenchmarkPage is the time from asking for the page until the spread of 83 rows can be used, each time in a new
// window.
func BenchmarkPage(b *testing.B) {
	v := open(b, "/")
	v.see("body", "Sorrel refit")
	seconds, n := 0.0, 0
	for b.Loop() {
		start := time.Now()
		page := v.page.Browser().MustPage(v.url + "/jobs/sorrel-refit/match")
		page.MustElementR("[data-testid=spread] .spreadrow.selected", ".")
		seconds, n = seconds+time.Since(start).Seconds(), n+1
		page.MustClose()
	}
	b.ReportMetric(seconds/float64(n), "s/page")
}

// BenchmarkKey1000 is the time from the key that lets a system go to its consequences on the screen, in a harness of a
// thousand wires on the map of the demonstration: first what becomes of the wires, then the counts that follow from the
// steps of the whole plan. The figures are those of all iterations.
func BenchmarkKey1000(b *testing.B) {
	v := open(b, "/jobs/packhorse/thin?sel=system:lighting", func(j *plan.Job) { demo.Enlarge(j, 3) })
	v.see("aside h2", "system lighting")
	v.drawn("S24")
	shown, counted, n := 0.0, 0.0, 0
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
		shown, counted, n = shown+ms.Get("0").Num(), counted+ms.Get("1").Num(), n+1
		time.Sleep(time.Second) // what is read anew in the background is not part of it
	}
	b.ReportMetric(shown/float64(n), "ms/shown")
	b.ReportMetric(counted/float64(n), "ms/counted")
}
