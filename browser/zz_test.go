package browser
import "testing"
func TestZZ(t *testing.T) {
	v := open(t, "/jobs/packhorse/feed?part=live&key=running")
	v.see("[data-testid=feedtree]", "battery")
	for _, s := range []string{"^light switch","^main beam switch","^rescue lamp","^winch"} { v.click(".keytab", s) }
	v.see(".feederstate", "A")
	v.click(".feeder", "light switch")
	v.shot("/tmp/z1.png")
	v.goTo("/jobs/packhorse/feed?part=fuses")
	v.see("main", "thinnest")
	v.shot("/tmp/z2.png")
}
