package desk

import (
	"net"
	"net/netip"
	"sync"
)

// perAddress is how many connections one address of the network may hold at once.
const perAddress = 64

// Bounded gives a listener that holds no more than so many connections of one address: what one device opens keeps no
// other out. This machine itself is not bounded.
func Bounded(l net.Listener) net.Listener {
	return &bounded{Listener: l, most: perAddress, open: map[netip.Addr]int{}}
}

type bounded struct {
	net.Listener
	most int
	mu   sync.Mutex
	open map[netip.Addr]int
}

func (b *bounded) Accept() (net.Conn, error) {
	for {
		c, err := b.Listener.Accept()
		if err != nil {
			return nil, err
		}
		at, err := netip.ParseAddrPort(c.RemoteAddr().String())
		if err != nil || at.Addr().Unmap().IsLoopback() {
			return c, nil
		}
		if b.take(at.Addr()) {
			return &counted{Conn: c, gone: sync.OnceFunc(func() { b.give(at.Addr()) })}, nil
		}
		_ = c.Close() // it is told nothing: whoever opens so many does not read
	}
}

func (b *bounded) take(a netip.Addr) bool {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.open[a] >= b.most {
		return false
	}
	b.open[a]++
	return true
}

func (b *bounded) give(a netip.Addr) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.open[a]--; b.open[a] <= 0 {
		delete(b.open, a)
	}
}

type counted struct {
	net.Conn
	gone func()
}

func (c *counted) Close() error {
	c.gone()
	return c.Conn.Close()
}
