package exchange

import (
	"context"
	"fmt"
	"net"
	"net/netip"
	"slices"
	"strings"
)

// Instrument is a kind of device that answers over the network.
type Instrument string

// The kinds of instruments.
const (
	AMeter Instrument = "meter"
	AUnit  Instrument = "control unit"
	ARig   Instrument = "bench rig"
)

// usualPort is where a kind is called: SCPI over TCP, ISO 13400-2, and the rig of this project.
var usualPort = map[Instrument]uint16{AMeter: 5025, AUnit: 13400, ARig: 5026}

// Instruments says which devices may be called. Its zero value lets only those of this machine be called, each at its
// usual port: the stand-ins.
type Instruments struct {
	Hosts []netip.Addr     // allowed where Draxel was started, each at the usual ports
	Own   []netip.AddrPort // stand-ins that run in this program
}

// Address is where a device may be called: only Instruments make one.
type Address struct {
	what Instrument
	at   netip.AddrPort
}

// InstrumentHosts reads the numbers of devices that may be called. An error names the first that is no number of this
// machine or of a local network.
func InstrumentHosts(texts []string) ([]netip.Addr, error) {
	var out []netip.Addr
	for _, text := range texts {
		ip, err := netip.ParseAddr(strings.TrimSpace(text))
		if err != nil || !(ip.IsLoopback() || ip.IsPrivate()) {
			return nil, fmt.Errorf("%q is no number of a device in the local network, such as 192.168.1.40", text)
		}
		out = append(out, ip.Unmap())
	}
	return out, nil
}

// At gives where a device is called at what somebody typed, host and port or the host alone; an error says in plain
// words why it is not called there, and how it is allowed.
func (i Instruments) At(what Instrument, typed string) (Address, error) {
	host, port, usual := strings.TrimSpace(typed), "", fmt.Sprint(usualPort[what])
	if h, p, err := net.SplitHostPort(host); err == nil {
		host, port = h, p
	}
	if host == "localhost" {
		host = "127.0.0.1"
	}
	if port == "" {
		port = usual
	}
	at, err := netip.ParseAddrPort(net.JoinHostPort(host, port))
	if err != nil {
		return Address{}, refuse("no-address",
			"The address of a %s is its number, as in 127.0.0.1:%s.", what, usual)
	}
	at = netip.AddrPortFrom(at.Addr().Unmap(), at.Port())
	switch {
	case slices.Contains(i.Own, at):
	case !at.Addr().IsLoopback() && !slices.Contains(i.Hosts, at.Addr()):
		return Address{}, refuse("not-allowed", "Draxel does not call %s until that is allowed at the machine on which it "+
			"runs: start it with --instrument %s.", at.Addr(), at.Addr())
	case at.Port() != usualPort[what]:
		return Address{}, refuse("not-allowed", "A %s is called at port %s and no other.", what, usual)
	}
	return Address{what, at}, nil
}

// String gives the number and the port.
func (a Address) String() string { return a.at.String() }

// dial calls a device.
func (a Address) dial(ctx context.Context) (net.Conn, error) {
	if !a.at.IsValid() {
		return nil, refuse("no-address", "No address of a device is given.")
	}
	c, err := (&net.Dialer{}).DialContext(ctx, "tcp", a.at.String())
	if err != nil {
		return nil, fmt.Errorf("no %s answers at %s", a.what, a)
	}
	return c, nil
}
