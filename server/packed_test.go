package server_test

import (
	"io"
	"net/http"
	"testing"

	"draxel/core/stored"
	"draxel/demo"
	"draxel/server/thinapi"
)

// What a page reads anew after a key is small: the wires, which change with the facts alone, are not sent again, and
// the rest is packed. Under 50 KB at a thousand wires.
func TestWhatIsReadAnewIsSmall(t *testing.T) {
	c := start(t)
	job := c.packhorse(func(j *stored.Job) { demo.Enlarge(j, 3) })
	v := show[thinapi.ThinView](c, job+"/thin?begun=1")
	if len(v.Wires) < 1000 || v.Kept || !v.Begun {
		t.Fatalf("%d wires, kept %v, begun %v", len(v.Wires), v.Kept, v.Begun)
	}
	again := show[thinapi.ThinView](c, job+"/thin?begun=1&facts="+v.Facts)
	if len(again.Wires) != 0 || !again.Kept || len(again.Verdicts) != len(v.Wires) {
		t.Errorf("again: %d wires, kept %v, %d verdicts", len(again.Wires), again.Kept, len(again.Verdicts))
	}
	for _, path := range []string{"/thin?begun=1&facts=" + v.Facts, "/thin/rest", ""} {
		r, err := http.NewRequestWithContext(t.Context(), "GET", c.url+job+path, nil)
		if err != nil {
			t.Fatal(err)
		}
		r.Header.Set("Accept-Encoding", "gzip") // asked for by hand it is not unpacked
		reply, err := http.DefaultClient.Do(r)
		if err != nil {
			t.Fatal(err)
		}
		data, err := io.ReadAll(reply.Body)
		if err != nil || reply.Header.Get("Content-Encoding") != "gzip" || len(data) > 50_000 {
			t.Errorf("%s: %d bytes, packed as %q, %v", path, len(data), reply.Header.Get("Content-Encoding"), err)
		}
		t.Logf("%s: %d bytes", path, len(data))
		_ = reply.Body.Close()
	}
}
