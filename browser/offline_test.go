package browser

import (
	"net/http"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
)

// A bench that was open once is read without a server after it is loaded anew, with its steps and faces, says how old
// that is, and sends what was ticked meanwhile when somebody answers again. Pages that are no bench keep nothing.
func TestTheBenchWithoutANetwork(t *testing.T) {
	var away atomic.Bool
	v := enter(t, "/jobs/sorrel-refit/bench?stage=pin", nil, func(h http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if away.Load() && r.UserAgent() != "Go-http-client/1.1" {
				panic(http.ErrAbortHandler)
			}
			h.ServeHTTP(w, r)
		})
	})
	v.expects = "Failed to load resource|ERR_EMPTY_RESPONSE|ERR_FAILED|ServiceWorker"
	v.see("[data-testid=count]", "step 1 of ")
	first := v.text("[data-testid=bench-text]")
	v.until("the device keeps the bench", func() bool {
		return v.page.MustEval(`async () => {
			const names = await Promise.all(['draxel-pages', 'draxel-answers', 'draxel-files'].map(async (n) =>
				(await (await caches.open(n)).keys()).map((r) => new URL(r.url).pathname + new URL(r.url).search)));
			return names[0].includes('/bench') && names[2].length > 40
				&& ['/bench?stage=pin', '/prove', '/pin/check'].every((x) => names[1].some((u) => u.endsWith(x)));
		}`).Bool()
	})
	if v.page.MustHas("[data-testid=kept]") {
		t.Error("it says that there is no network")
	}
	away.Store(true)
	v.page.MustReload()
	v.see("[data-testid=kept]", "no network: as it was")
	v.see("[data-testid=count]", "step 1 of ")
	if again := v.text("[data-testid=bench-text]"); again != first {
		t.Errorf("the step reads %q, and was %q", again, first)
	}
	v.page.MustElement("main svg")
	v.press(input.ArrowRight)
	v.see("[data-testid=count]", "step 2 of ")
	v.see("[data-testid=unsent]", "1 not sent")
	v.page.MustReload()
	v.see("[data-testid=unsent]", "1 not sent")
	v.page.MustNavigate(v.url + "/jobs/sorrel-refit/bench?stage=prove")
	v.see("[data-testid=kept]", "no network")
	away.Store(false) // it is seen without a reload
	v.until("somebody answers again", func() bool { return !v.page.MustHas("[data-testid=kept]") })
	v.page.MustNavigate(v.url + "/jobs/sorrel-refit/bench?stage=pin")
	v.until("what was ticked is sent", func() bool {
		w := fetch[struct{ Done []struct{ Step string } }](v, "/api/jobs/sorrel-refit/work")
		return len(w.Done) == 1
	})
	v.until("it is as it is now", func() bool { return !v.page.MustHas("[data-testid=kept]") })
	v.page.MustNavigate(v.url + "/bench")
	v.see("[data-testid=count]", " of ")
	v.goTo("/jobs/packhorse/match")
	v.page.MustElement(".spreadrow")
	time.Sleep(300 * time.Millisecond)
	kept := v.page.MustEval(`async () => (await (await caches.open('draxel-answers')).keys()).map((r) => r.url).join(' ')`).Str()
	if strings.Contains(kept, "packhorse") {
		t.Errorf("a page of the desk is kept: %s", kept)
	}
}
