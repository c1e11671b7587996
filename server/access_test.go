package server_test

import (
	"image/png"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"strings"
	"testing"
	"time"

	"draxel/server"
	"draxel/server/desk"
	"draxel/store"
)

// lan makes requests look as if they came from another device, with the name that it called.
func lan(t *testing.T, now func() time.Time) func(device, method, path, body string,
	cookies ...*http.Cookie) *httptest.ResponseRecorder {
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	h := handler(t, desk.Options{Store: s, Now: now, Lan: &desk.Lan{Passcode: "brass screw",
		Addresses: func() []netip.Addr { return []netip.Addr{netip.MustParseAddr("192.0.2.9")} }}})
	return func(device, method, path, body string, cookies ...*http.Cookie) *httptest.ResponseRecorder {
		r := httptest.NewRequest(method, "http://192.0.2.9:8321"+path, strings.NewReader(body))
		r.RemoteAddr = device + ":5000"
		r.Header.Set("Content-Type", "application/json")
		for _, k := range cookies {
			r.AddCookie(k)
		}
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		return w
	}
}

// Another device sees nothing of a job before it has brought the passcode, and not for ever after it has.
func TestAnotherDeviceBringsThePasscode(t *testing.T) {
	now := time.UnixMilli(1_764_000_000_000)
	ask := lan(t, func() time.Time { return now })
	const tablet = "192.0.2.20"
	for _, path := range []string{"/api/jobs", "/api/kinds", "/api/faces", "/api/jobs/x/bench",
		"/api/jobs/x/pin/sheet.pdf", "/api/jobs/x/events", "/api/events"} {
		if w := ask(tablet, "GET", path, ""); w.Code != http.StatusUnauthorized ||
			!strings.Contains(w.Body.String(), "passcode-wanted") {
			t.Errorf("%s without the passcode: %d %s", path, w.Code, w.Body)
		}
	}
	if w := ask(tablet, "GET", "/jobs/x/bench", ""); w.Code != http.StatusOK {
		t.Errorf("the page that asks for it: %d", w.Code)
	}
	if w := ask("127.0.0.1", "GET", "/api/jobs", ""); w.Code != http.StatusOK {
		t.Errorf("this machine is asked too: %d", w.Code)
	}
	if w := ask(tablet, "POST", "/api/pass", `{"passcode":"brass nail"}`); w.Code != http.StatusUnauthorized || !strings.Contains(w.Body.String(), "wrong-passcode") || len(w.Result().Cookies()) != 0 {
		t.Errorf("a wrong passcode: %d %s", w.Code, w.Body)
	}
	w := ask(tablet, "POST", "/api/pass", `{"passcode":"brass screw"}`)
	cookies := w.Result().Cookies()
	if w.Code != http.StatusOK || len(cookies) != 1 || !cookies[0].HttpOnly ||
		cookies[0].SameSite != http.SameSiteStrictMode || strings.Contains(cookies[0].Value, "brass") {
		t.Fatalf("the passcode: %d %v", w.Code, cookies)
	}
	if w := ask(tablet, "GET", "/api/jobs", "", cookies[0]); w.Code != http.StatusOK {
		t.Errorf("with the pass: %d", w.Code)
	}
	if w := ask(tablet, "GET", "/api/jobs", "", &http.Cookie{Name: cookies[0].Name,
		Value: strings.Repeat("0", 64)}); w.Code != http.StatusUnauthorized {
		t.Errorf("with a pass that was made up: %d", w.Code)
	}
	now = now.Add(13 * time.Hour)
	if w := ask(tablet, "GET", "/api/jobs", "", cookies[0]); w.Code != http.StatusUnauthorized {
		t.Errorf("with a pass of yesterday: %d", w.Code)
	}
}

// After a few wrong passcodes an address is not heard for a while; what others try shuts nobody out, and whoever has a
// pass goes on.
func TestWrongPasscodesAreCounted(t *testing.T) {
	now := time.UnixMilli(1_764_000_000_000)
	ask := lan(t, func() time.Time { return now })
	wrong := func(device string) int { return ask(device, "POST", "/api/pass", `{"passcode":"guess"}`).Code }
	for i := range 5 {
		if code := wrong("192.0.2.21"); code != http.StatusUnauthorized {
			t.Fatalf("try %d: %d", i+1, code)
		}
	}
	w := ask("192.0.2.21", "POST", "/api/pass", `{"passcode":"brass screw"}`)
	if w.Code != http.StatusTooManyRequests || w.Header().Get("Retry-After") == "" {
		t.Errorf("the right one after five wrong ones: %d", w.Code)
	}
	if code := wrong("192.0.2.22"); code != http.StatusUnauthorized {
		t.Errorf("another device: %d", code)
	}
	now = now.Add(11 * time.Minute)
	if w := ask("192.0.2.21", "POST", "/api/pass", `{"passcode":"brass screw"}`); w.Code != http.StatusOK {
		t.Errorf("after a while: %d", w.Code)
	}
	for i := range 60 {
		wrong("198.51.100." + string(rune('0'+i/6)))
	}
	w = ask("203.0.113.5", "POST", "/api/pass", `{"passcode":"brass screw"}`)
	if w.Code != http.StatusOK {
		t.Fatalf("another device is shut out by what many guess: %d", w.Code)
	}
	pass := w.Result().Cookies()[0]
	for range 6 {
		wrong("203.0.113.5") // somebody else behind the same address
	}
	if code := ask("203.0.113.5", "GET", "/api/jobs", "", pass).Code; code != http.StatusOK {
		t.Errorf("a device with a pass is shut out: %d", code)
	}
}

// A name that points here is not this machine (DNS rebinding), and a passcode that is too short is none.
func TestNamesAndPasscodesThatAreRefused(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.Close() })
	if _, err := server.New(desk.Options{Store: s, Lan: &desk.Lan{Passcode: "short"}}); err == nil {
		t.Error("a passcode of five characters is taken")
	}
	h := handler(t, desk.Options{Store: s, Lan: &desk.Lan{Passcode: "brass screw",
		Addresses: func() []netip.Addr { return []netip.Addr{netip.MustParseAddr("192.0.2.9")} }}})
	for host, want := range map[string]int{"192.0.2.9:8321": http.StatusUnauthorized,
		"localhost:8321": http.StatusUnauthorized, "192.0.2.10:8321": http.StatusForbidden,
		"evil.example": http.StatusForbidden, "192.0.2.9.example": http.StatusForbidden} {
		r := httptest.NewRequest("GET", "http://"+host+"/api/jobs", nil)
		r.RemoteAddr = "192.0.2.20:5000"
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		if w.Code != want {
			t.Errorf("%s: %d, want %d", host, w.Code, want)
		}
	}
}

// The QR code holds the address of the bench view.
func TestTheLinkForATablet(t *testing.T) {
	ask := lan(t, nil)
	w := ask("127.0.0.1", "GET", "/api/jobs/j/bench/link?stage=thin", "")
	if !strings.Contains(w.Body.String(), `"http://192.0.2.9:8321/jobs/j/bench?stage=thin"`) {
		t.Errorf("the link: %s", w.Body)
	}
	w = ask("127.0.0.1", "GET", "/api/jobs/j/bench/qr.png?stage=thin", "")
	m, err := png.Decode(w.Body)
	if err != nil || m.Bounds().Dx() != m.Bounds().Dy() || m.Bounds().Dx() < 150 {
		t.Fatalf("the QR code: %v", err)
	}
	if got, ok := readQR(t, m); ok && got != "http://192.0.2.9:8321/jobs/j/bench?stage=thin" {
		t.Errorf("the QR code reads as %q", got)
	}
}
