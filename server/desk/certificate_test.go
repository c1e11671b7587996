package desk

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"encoding/pem"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"os"
	"path/filepath"
	"testing"
	"time"
)

// A device that trusts the machine's authority is served without a complaint at the machine's addresses, also after the
// machine has been started anew with another address; and the authority speaks for no name in the internet.
func TestTheMachinesOwnCertificate(t *testing.T) {
	dir := t.TempDir()
	now := time.Now()
	first, err := Secure(dir, []netip.Addr{netip.MustParseAddr("192.168.7.2")}, now.Add(-24*time.Hour))
	if err != nil {
		t.Fatal(err)
	}
	later, err := Secure(dir, []netip.Addr{netip.MustParseAddr("10.1.2.3")}, now)
	if err != nil {
		t.Fatal(err)
	}
	if later.Fingerprint != first.Fingerprint || len(first.Fingerprint) != 32*3-1 {
		t.Errorf("trusted was %s, is %s", first.Fingerprint, later.Fingerprint)
	}
	info, err := os.Stat(filepath.Join(dir, authorityFile))
	if err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("its key is kept as %v, %v", info.Mode(), err)
	}
	roots := x509.NewCertPool()
	if !roots.AppendCertsFromPEM(first.Authority) {
		t.Fatal("the authority cannot be read by a device")
	}
	web := httptest.NewUnstartedServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		_, _ = io.WriteString(w, "bench")
	}))
	web.TLS = &tls.Config{Certificates: []tls.Certificate{later.Certificate}, MinVersion: tls.VersionTLS12}
	web.StartTLS()
	defer web.Close()
	ask := func(pool *x509.CertPool, name string) error {
		dial := func(ctx context.Context, network, _ string) (net.Conn, error) {
			return (&net.Dialer{}).DialContext(ctx, network, web.Listener.Addr().String())
		}
		client := http.Client{Transport: &http.Transport{DialContext: dial,
			TLSClientConfig: &tls.Config{RootCAs: pool, MinVersion: tls.VersionTLS12}}}
		reply, err := client.Get("https://" + name + "/")
		if err == nil {
			err = reply.Body.Close()
		}
		return err
	}
	for _, name := range []string{"10.1.2.3", "127.0.0.1", "localhost"} {
		if err := ask(roots, name); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	if ask(roots, "192.168.7.2") == nil {
		t.Error("an address that the machine has no more is served")
	}
	if ask(x509.NewCertPool(), "10.1.2.3") == nil {
		t.Error("a device that trusts nothing is served")
	}
	// Whoever stole the authority's key could not be a bank with it.
	c, key, err := readAuthority(must(os.ReadFile(filepath.Join(dir, authorityFile))))
	if err != nil {
		t.Fatal(err)
	}
	forged := &x509.Certificate{SerialNumber: serial(), NotBefore: now, NotAfter: now.Add(time.Hour),
		DNSNames: []string{"bank.example"}, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}}
	der, err := x509.CreateCertificate(nil, forged, c, key.Public(), key)
	if err != nil {
		t.Fatal(err)
	}
	leaf, err := x509.ParseCertificate(der)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := leaf.Verify(x509.VerifyOptions{Roots: roots, DNSName: "bank.example"}); err == nil {
		t.Error("the authority speaks for the internet")
	}
	if block, _ := pem.Decode(first.Authority); block == nil || block.Type != "CERTIFICATE" {
		t.Error("what a device is given is not the certificate alone")
	}
}

func must(text []byte, err error) []byte {
	if err != nil {
		panic(err)
	}
	return text
}
