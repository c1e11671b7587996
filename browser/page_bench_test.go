package browser

import (
	"testing"
	"time"
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
