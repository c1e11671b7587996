package browser
import ("testing";"flag";"time";"strings")
var sp = flag.String("sp","","path"); var so = flag.String("so","","out"); var sk = flag.String("sk","","click text"); var sw=flag.Int("sw",1280,""); var sh=flag.Int("sh",800,"")
func TestOne(t *testing.T){
 if *sp=="" { t.Skip() }
 v := open(t, *sp)
 v.page.MustSetViewport(*sw, *sh, 1, false)
 time.Sleep(700*time.Millisecond)
 for _,k := range strings.Split(*sk,"|") { if k!="" { v.click("button,a,label,[role=tab]", k); time.Sleep(400*time.Millisecond) } }
 v.shot(*so)
}
