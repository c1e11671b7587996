package browser

import (
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/proto"

	"draxel/demo"
	"draxel/server/pinapi"
)

// printed gives what is on paper when a page is printed from the browser.
func (v *visit) printed() string {
	v.t.Helper()
	out, err := v.page.PDF(&proto.PagePrintToPDF{PrintBackground: true})
	if err != nil {
		v.t.Fatal(err)
	}
	pdf, err := io.ReadAll(out)
	if err != nil {
		v.t.Fatal(err)
	}
	file := filepath.Join(v.t.TempDir(), "page.pdf")
	if err := os.WriteFile(file, pdf, 0o600); err != nil {
		v.t.Fatal(err)
	}
	text, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	if err != nil {
		v.t.Fatal(err)
	}
	return string(text)
}

// Printed from the browser, a list is on paper as a whole, each line once and below the one before.
func TestPrintedFromTheBrowser(t *testing.T) {
	v := open(t, "/jobs/sorrel-refit/pin")
	v.page.MustElement("[role=grid] [role=row]")
	steps := fetch[pinapi.PinView](v, "/api/jobs/sorrel-refit/pin").Steps
	text := v.printed()
	last := 0
	for i := range steps {
		n := regexp.MustCompile(`(?m)^\s*`+fmt.Sprint(i+1)+`\s+[A-Z]`).FindAllStringIndex(text, -1)
		if len(n) != 1 || n[0][0] < last {
			t.Errorf("step %d is there %d times", i+1, len(n))
			continue
		}
		last = n[0][0]
	}
	if len(steps) < 40 {
		t.Errorf("%d steps", len(steps))
	}
	if now := len(v.page.MustElements("[role=grid] [role=row]")); now >= len(steps) {
		t.Errorf("%d rows are drawn after it", now)
	}
}

// A file that is let go over a page is brought as if it had been chosen; a page that takes none says so, and stays.
func TestAFileIsLetGoOverAPage(t *testing.T) {
	v := open(t, "/jobs/packhorse/gather?side=x1")
	v.see("main button", "Choose a file")
	data, err := demo.File("sorrel-refit/vk-1-harness.csv")
	if err != nil {
		t.Fatal(err)
	}
	let := func(name, text string) {
		v.page.MustEval(`(name, text) => {
			const dataTransfer = new DataTransfer();
			dataTransfer.items.add(new File([text], name));
			const at = document.querySelector('nav.rail');
			for (const kind of ['dragover', 'drop']) {
				const e = new DragEvent(kind, { dataTransfer, bubbles: true, cancelable: true });
				at.dispatchEvent(e);
				if (!e.defaultPrevented) throw new Error(kind + ' is left to the browser');
			}
		}`, name, text)
	}
	let("photo.png", "x")
	v.see(".ant-message", "This page takes: pinout file")
	let("harness.csv", string(data))
	v.see("main", "VK-1|Connector")
	v.see("main button", "Keep|Take")
	v.goTo("/jobs/packhorse/thin")
	v.drawn("S24")
	let("harness.csv", string(data))
	v.see(".ant-message", "No file is brought on this page")
	if !strings.Contains(v.page.MustInfo().URL, "/thin") {
		t.Error("the page is left")
	}
}
