package signal

import (
	"fmt"
	"reflect"
	"testing"
)

// What is kept is what would be read: also after many others have been read, and whatever somebody did with his.
func TestWhatIsKeptIsWhatWouldBeRead(t *testing.T) {
	var c recent
	texts := []string{"Injector 1, control", "coolant temperature oil temperature", "Lambda B2S1 heater", "", "qqq",
		"Fan relay"}
	others := 0
	for round := range 4 {
		for _, text := range texts {
			want, got := load().read(text), c.get(text)
			if !reflect.DeepEqual(got, want) {
				t.Fatalf("round %d: %q is %+v, want %+v", round, text, got, want)
			}
			for i := range got.Others {
				got.Others[i], others = "changed", others+1
			}
		}
		for i := range mostRecent {
			c.get(fmt.Sprint("word ", round, i))
		}
		if len(c.young) > mostRecent || len(c.old) > mostRecent {
			t.Fatalf("%d and %d are kept", len(c.young), len(c.old))
		}
	}
	if others == 0 {
		t.Error("no text fits several devices: nothing was changed")
	}
}
