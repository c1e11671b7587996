package main

import (
	"strings"
	"testing"
	"time"

	"draxel/demo"
	"draxel/store"
)

// Other devices are let in only when asked to, and only for a passcode.
func TestListening(t *testing.T) {
	for _, c := range []struct {
		o    serveOptions
		at   string
		lan  bool
		says string
	}{
		{serveOptions{port: 8321}, "127.0.0.1:8321", false, ""},
		{serveOptions{port: 8321, passcode: "brass screw"}, "127.0.0.1:8321", false, ""},
		{serveOptions{port: 8321, lan: true, passcode: "brass screw"}, ":8321", true, ""},
		{serveOptions{port: 8321, lan: true, passcode: "short"}, "", false, "at least 6 characters"},
		{serveOptions{port: 8321, lan: true}, "", false, "--lan wants a passcode"},
	} {
		at, lan, err := c.o.listens()
		if at != c.at || (lan != nil) != c.lan || (err == nil) != (c.says == "") || err != nil && !strings.Contains(err.Error(), c.says) {
			t.Errorf("%+v: %q, %v, %v", c.o, at, lan, err)
		}
	}
	if _, complaint, code := draxel(t, "serve", "--lan", "--data", t.TempDir()); code != 2 || !strings.Contains(complaint, "--lan wants a passcode") {
		t.Errorf("let in without a passcode: %d, %q", code, complaint)
	}
}

// Every demonstration job is put into an empty store, once.
func TestTheDemonstrationIsPut(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	all, err := demo.Jobs()
	if err != nil {
		t.Fatal(err)
	}
	for range 2 {
		if err := putDemo(t.Context(), s); err != nil {
			t.Fatal(err)
		}
		if jobs, err := s.Jobs(t.Context()); err != nil || len(jobs) != len(all) {
			t.Errorf("%d jobs of %d, %v", len(jobs), len(all), err)
		}
	}
}
