package browser

import (
	"testing"
	"time"

	"draxel/core/plan"
	"draxel/demo"
)

// BenchmarkPage is the time from asking for the page until the spread of 83 rows can be used, each time in a new window.
func BenchmarkPage(b *testing.B) {
	v := open(b, "/")
	v.see("body", "Sorrel refit")
	for b.Loop() {
		start := time.Now()
		page := v.page.Browser().MustPage(v.url + "/jobs/sorrel-refit/match")
		page.MustElementR("[data-testid=spread] .spreadrow.selected", ".")
		b.ReportMetric(time.Since(start).Seconds(), "s/page")
		page.MustClose()
	}
}

// BenchmarkDecision is the time from the key that lets a system go to its consequences on the screen, in a harness of a
// thousand wires: the counts and the verdicts that changed.
func BenchmarkDecision(b *testing.B) {
	v := open(b, "/jobs/packhorse/thin?sel=system:lighting", func(j *plan.Job) { demo.Enlarge(j, 3) })
	v.see("aside h2", "system lighting")
	v.drawn("S24")
	for i := 0; b.Loop(); i++ {
		key := []string{"g", "k"}[i%2]
		ms := v.page.MustEval(`(key) => new Promise((resolve) => {
			const counts = document.querySelector('[data-testid=balance]');
			const start = performance.now();
			const seen = new MutationObserver(() => { seen.disconnect(); requestAnimationFrame(() => resolve(performance.now() - start)); });
			seen.observe(counts, { childList: true, subtree: true, characterData: true });
			document.dispatchEvent(new KeyboardEvent('keydown', { key, code: 'Key' + key.toUpperCase(), bubbles: true }));
			document.dispatchEvent(new KeyboardEvent('keyup', { key, code: 'Key' + key.toUpperCase(), bubbles: true }));
		})`, key).Num()
		b.ReportMetric(ms, "ms/decision")
		time.Sleep(time.Second) // what is read anew in the background is not part of it
	}
}
