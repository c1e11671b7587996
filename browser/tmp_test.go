package browser
import ("testing";"time";"os")
func TestTmp(t *testing.T){
 os.MkdirAll("/tmp/shots",0o755)
 v:=open(t,"/jobs/packhorse/match?row=from%20SP20"); v.see("[data-testid=spread]","SP1")
 v.page.MustSetViewport(1024,768,1,false); time.Sleep(300*time.Millisecond); v.shot("/tmp/shots/m1024.png")
 v.page.MustSetViewport(1920,1080,1,false); time.Sleep(300*time.Millisecond); v.shot("/tmp/shots/m1920.png")
 v.page.MustSetViewport(1024,768,1,false); v.goTo("/jobs/sorrel-refit/pin?step=2"); v.see("[data-testid=steps]","step"); time.Sleep(300*time.Millisecond); v.shot("/tmp/shots/p1024.png")
 v.page.MustSetViewport(1280,800,1,false); v.goTo("/jobs/packhorse/pin"); v.see("main","moves no"); v.shot("/tmp/shots/nopin.png")
 v.goTo("/jobs/packhorse/match?row=from%20SP26"); v.see("aside h2","SP26"); v.press('c'); time.Sleep(500*time.Millisecond); v.shot("/tmp/shots/choose.png")
}
