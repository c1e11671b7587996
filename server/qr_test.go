package server_test

import (
	"image"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// readQR reads a QR code back with a program that has nothing to do with ours (zbarimg, Debian package zbar-tools);
// where it is not there the check is left out, visibly.
func readQR(t *testing.T, m image.Image) (string, bool) {
	t.Helper()
	if _, err := exec.LookPath("zbarimg"); err != nil {
		t.Log("zbarimg (Debian package zbar-tools) is not there: the QR code is not read back")
		return "", false
	}
	file := filepath.Join(t.TempDir(), "code.png")
	f, err := os.Create(file)
	if err != nil {
		t.Fatal(err)
	}
	if err := png.Encode(f, m); err != nil {
		t.Fatal(err)
	}
	if err := f.Close(); err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("zbarimg", "--quiet", "--raw", file).Output()
	if err != nil {
		t.Fatalf("zbarimg: %v", err)
	}
	return strings.TrimSpace(string(out)), true
}
