package browser
import "testing"
func TestZZ(t *testing.T) {
	for name, path := range map[string]string{"w": "/jobs/packhorse/work", "b": "/jobs/packhorse/bench", "t": "/jobs/packhorse/thin?part=work"} {
		v := open(t, path)
		v.until("the page is quiet", func() bool { return v.page.MustEval(`() => !document.querySelector('[aria-busy=true]') && document.body.innerText.length > 200`).Bool() })
		v.shot("/tmp/shots/z" + name + ".png")
	}
}
