package desk

import (
	"crypto/sha256"
	"fmt"
	"net"
	"net/netip"
	"slices"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"golang.org/x/crypto/bcrypt"
)

// LeastPasscode is the least length of a passcode.
const LeastPasscode = 6

// Lan lets other devices of the local network in, for a passcode.
type Lan struct {
	Passcode  string
	Addresses func() []netip.Addr // of this machine; nil asks its network interfaces
	Secured   *Secured            // nil: what is sent to other devices is not encrypted
	Port      string              // at which other devices are served, where it is another than this machine's own
}

const (
	passCookie = "draxel_pass"
	passLasts  = 12 * time.Hour
	failLasts  = 10 * time.Minute
	failsOfOne = 5 // wrong passcodes of one address within failLasts
)

// access knows who may come in from the network. What it keeps of a passcode and of a device's pass is a hash.
type access struct {
	hash      []byte
	addresses func() []netip.Addr
	secured   *Secured
	port      string
	now       func() time.Time

	comparing sync.Mutex

	mu     sync.Mutex
	passes map[[32]byte]time.Time // until when
	fails  map[string][]time.Time // by device
}

func newAccess(lan Lan, now func() time.Time) (*access, error) {
	if len(lan.Passcode) < LeastPasscode || len(lan.Passcode) > 72 {
		return nil, fmt.Errorf("a passcode has %d to 72 characters", LeastPasscode)
	}
	hash, err := bcrypt.GenerateFromPassword([]byte(lan.Passcode), bcrypt.DefaultCost)
	if err != nil {
		return nil, fmt.Errorf("hash the passcode: %w", err)
	}
	a := &access{
		hash:      hash,
		addresses: lan.Addresses,
		secured:   lan.Secured,
		port:      lan.Port,
		now:       now,
		passes:    map[[32]byte]time.Time{},
		fails:     map[string][]time.Time{},
	}
	if a.addresses == nil {
		a.addresses = OwnAddresses
	}
	return a, nil
}

// OwnAddresses lists this machine's addresses on its networks.
func OwnAddresses() []netip.Addr {
	all, err := net.InterfaceAddrs()
	if err != nil {
		return nil
	}
	var out []netip.Addr
	for _, a := range all {
		if p, err := netip.ParsePrefix(a.String()); err == nil && p.Addr().Is4() && !p.Addr().IsLoopback() &&
			!p.Addr().IsLinkLocalUnicast() {
			out = append(out, p.Addr())
		}
	}
	return out
}

// own says whether a Host is one of this machine's addresses, written as a number: a name may have been made to point
// here.
func (a *access) own(hostport string) bool {
	if a == nil {
		return false
	}
	host := hostport
	if h, _, err := net.SplitHostPort(hostport); err == nil {
		host = h
	}
	addr, err := netip.ParseAddr(host)
	return err == nil && slices.Contains(a.addresses(), addr)
}

// remote gives the device that a request comes from, and whether it is another than this machine.
func remote(c *gin.Context) (string, bool) {
	host, _, err := net.SplitHostPort(c.Request.RemoteAddr)
	if err != nil {
		return c.Request.RemoteAddr, true
	}
	addr, err := netip.ParseAddr(host)
	return host, err != nil || !addr.Unmap().IsLoopback()
}

// holds says whether the request carries a pass that is good.
func (a *access) holds(c *gin.Context) bool {
	value, err := c.Cookie(passCookie)
	if err != nil {
		return false
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	until, ok := a.passes[sha256.Sum256([]byte(value))]
	return ok && a.now().Before(until)
}

// is says whether that is the passcode. One is looked at after the other: many addresses together try no faster than
// one.
func (a *access) is(passcode string) bool {
	a.comparing.Lock()
	defer a.comparing.Unlock()
	return bcrypt.CompareHashAndPassword(a.hash, []byte(passcode)) == nil
}

// tooMany counts a try of an address, and says how long it must wait, nothing where it may be heard. A try is counted
// before the passcode is looked at, so that many at once are not heard all. What one address tries shuts out no other.
func (a *access) tooMany(device string) time.Duration {
	a.mu.Lock()
	defer a.mu.Unlock()
	now := a.now()
	for d, times := range a.fails {
		if times = slices.DeleteFunc(times, func(t time.Time) bool { return now.Sub(t) > failLasts }); len(times) == 0 {
			delete(a.fails, d)
		} else {
			a.fails[d] = times
		}
	}
	if own := a.fails[device]; len(own) >= failsOfOne {
		return own[0].Add(failLasts).Sub(now)
	}
	a.fails[device] = append(a.fails[device], now)
	return 0
}

// welcome forgets a device's wrong tries and keeps the hash of its pass.
func (a *access) welcome(device, pass string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	delete(a.fails, device)
	for p, until := range a.passes {
		if a.now().After(until) {
			delete(a.passes, p)
		}
	}
	a.passes[sha256.Sum256([]byte(pass))] = a.now().Add(passLasts)
}

// LinkView is the address at which another device reaches the bench view, and why there is none.
type LinkView struct {
	Address string `json:"address,omitempty"`
	Why     string `json:"why,omitempty"`
	// What the other device is told to trust once, and its SHA-256; empty where it is not encrypted, or trusted already.
	Authority   string `json:"authority,omitempty"`
	Fingerprint string `json:"fingerprint,omitempty"`
}

// PassRequest brings the passcode.
type PassRequest struct {
	Passcode string `json:"passcode"`
}
