package desk

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"net/netip"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// Names of the files in the data folder that hold the machine's own authority: nobody but its user reads them.
const authorityFile = "draxel-authority.pem"

// How long an authority lasts, and a certificate of it: no more than browsers take (398 days, CA/Browser Forum Baseline
// Requirements 6.3.2, from memory).
const (
	authorityLasts   = 10 * 365 * 24 * time.Hour
	certificateLasts = 397 * 24 * time.Hour
)

// private lists what an authority of ours may speak for: machines of a workshop's network, and no name in the internet.
// RFC 1918, RFC 3927, RFC 4193, and the loopback.
var private = []string{"10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "::1/128",
	"fc00::/7"}

// Secured is what other devices are served with: encrypted, by a certificate that they can be told to trust.
type Secured struct {
	Certificate tls.Certificate
	Authority   []byte // PEM of what a device is told to trust; nil where the certificate was given
	Fingerprint string // SHA-256 of what is to be trusted, in pairs
}

// Secure makes a certificate for this machine's addresses, signed by an authority of the machine's own, which is kept
// in the folder: a device that trusts it goes on to do so when the machine's address changes.
func Secure(dir string, addresses []netip.Addr, now time.Time) (Secured, error) {
	authority, key, err := authorityIn(filepath.Join(dir, authorityFile), now)
	if err != nil {
		return Secured{}, err
	}
	own, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return Secured{}, fmt.Errorf("make a key: %w", err)
	}
	leaf := &x509.Certificate{SerialNumber: serial(), Subject: pkix.Name{CommonName: "Draxel"},
		NotBefore: now.Add(-time.Hour), NotAfter: now.Add(certificateLasts), DNSNames: []string{"localhost"},
		IPAddresses: []net.IP{net.IPv4(127, 0, 0, 1), net.IPv6loopback}, KeyUsage: x509.KeyUsageDigitalSignature,
		ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}}
	for _, a := range addresses {
		leaf.IPAddresses = append(leaf.IPAddresses, a.AsSlice())
	}
	der, err := x509.CreateCertificate(rand.Reader, leaf, authority, own.Public(), key)
	if err != nil {
		return Secured{}, fmt.Errorf("make a certificate: %w", err)
	}
	return Secured{
		Certificate: tls.Certificate{Certificate: [][]byte{der, authority.Raw}, PrivateKey: own},
		Authority:   pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: authority.Raw}),
		Fingerprint: fingerprint(authority.Raw),
	}, nil
}

// SecureBy reads a certificate that was given, with its key.
func SecureBy(certificate, key string) (Secured, error) {
	c, err := tls.LoadX509KeyPair(certificate, key)
	if err != nil {
		return Secured{}, fmt.Errorf("read the certificate: %w", err)
	}
	return Secured{Certificate: c, Fingerprint: fingerprint(c.Certificate[0])}, nil
}

// Config says how the certificate is used.
func (s *Secured) Config() *tls.Config {
	return &tls.Config{Certificates: []tls.Certificate{s.Certificate}, MinVersion: tls.VersionTLS12}
}

func serial() *big.Int {
	var b [16]byte
	_, _ = rand.Read(b[:]) // never fails, by its documentation
	b[0] &= 0x7F           // it is positive
	return new(big.Int).SetBytes(b[:])
}

func fingerprint(der []byte) string {
	var pairs []string
	for _, b := range sha256.Sum256(der) {
		pairs = append(pairs, fmt.Sprintf("%02X", b))
	}
	return strings.Join(pairs, ":")
}

// authorityIn reads the machine's authority, or makes it where there is none or it is over.
func authorityIn(path string, now time.Time) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	text, err := os.ReadFile(path)
	if err == nil {
		if c, key, err := readAuthority(text); err == nil && now.Add(certificateLasts).Before(c.NotAfter) {
			return c, key, nil
		}
	} else if !errors.Is(err, fs.ErrNotExist) {
		return nil, nil, fmt.Errorf("read the machine's authority: %w", err)
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, nil, fmt.Errorf("make a key: %w", err)
	}
	c := &x509.Certificate{SerialNumber: serial(), Subject: pkix.Name{CommonName: "Draxel on this machine"},
		NotBefore: now.Add(-time.Hour), NotAfter: now.Add(authorityLasts), IsCA: true, BasicConstraintsValid: true,
		MaxPathLenZero: true, KeyUsage: x509.KeyUsageCertSign, PermittedDNSDomainsCritical: true,
		PermittedDNSDomains: []string{"localhost"}}
	for _, p := range private {
		_, network, err := net.ParseCIDR(p)
		if err != nil {
			return nil, nil, fmt.Errorf("make an authority: %w", err)
		}
		c.PermittedIPRanges = append(c.PermittedIPRanges, network)
	}
	der, err := x509.CreateCertificate(rand.Reader, c, c, key.Public(), key)
	if err != nil {
		return nil, nil, fmt.Errorf("make an authority: %w", err)
	}
	secret, err := x509.MarshalECPrivateKey(key)
	if err != nil {
		return nil, nil, fmt.Errorf("keep a key: %w", err)
	}
	both := append(pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}),
		pem.EncodeToMemory(&pem.Block{Type: "EC PRIVATE KEY", Bytes: secret})...)
	if err := os.WriteFile(path, both, 0o600); err != nil {
		return nil, nil, fmt.Errorf("keep the machine's authority: %w", err)
	}
	return readAuthority(both)
}

func readAuthority(text []byte) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	one, rest := pem.Decode(text)
	two, _ := pem.Decode(rest)
	if one == nil || two == nil {
		return nil, nil, errors.New("the machine's authority cannot be read")
	}
	c, err := x509.ParseCertificate(one.Bytes)
	if err != nil {
		return nil, nil, fmt.Errorf("read the machine's authority: %w", err)
	}
	key, err := x509.ParseECPrivateKey(two.Bytes)
	if err != nil {
		return nil, nil, fmt.Errorf("read the machine's authority: %w", err)
	}
	return c, key, nil
}
