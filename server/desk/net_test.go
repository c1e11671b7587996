package desk

import (
	"bufio"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"

	"draxel/store"
)

// from is a listener whose connections come from addresses that a test says.
type from struct {
	conns chan net.Conn
}

func (f *from) Accept() (net.Conn, error) {
	c, open := <-f.conns
	if !open {
		return nil, net.ErrClosed
	}
	return c, nil
}
func (f *from) Close() error   { close(f.conns); return nil }
func (f *from) Addr() net.Addr { return &net.TCPAddr{} }

type called struct {
	net.Conn
	at net.Addr
}

func (c called) RemoteAddr() net.Addr { return c.at }

// One address holds so many connections and no more; another is let in, this machine always, and what is closed makes
// room.
func TestConnectionsOfOneAddress(t *testing.T) {
	l := &from{make(chan net.Conn, 1000)}
	b := Bounded(l)
	call := func(ip string) net.Conn {
		near, far := net.Pipe()
		l.conns <- called{near, &net.TCPAddr{IP: net.ParseIP(ip), Port: 4000}}
		return far
	}
	var in []net.Conn
	for range perAddress {
		call("192.0.2.1")
		c, err := b.Accept()
		if err != nil {
			t.Fatal(err)
		}
		in = append(in, c)
	}
	over := call("192.0.2.1")
	call("192.0.2.2")
	if c, err := b.Accept(); err != nil || !strings.Contains(c.RemoteAddr().String(), "192.0.2.2") {
		t.Errorf("another address is not let in: %v", err)
	}
	if _, err := over.Read(make([]byte, 1)); err == nil {
		t.Error("one more than there may be is let in")
	}
	for range 2 * perAddress {
		call("127.0.0.1")
		if _, err := b.Accept(); err != nil {
			t.Fatal(err)
		}
	}
	_ = in[0].Close()
	_ = in[0].Close() // twice counts once
	call("192.0.2.1")
	if c, err := b.Accept(); err != nil || !strings.Contains(c.RemoteAddr().String(), "192.0.2.1") {
		t.Errorf("there is room, and it is not let in: %v", err)
	}
	more := call("192.0.2.1")
	call("192.0.2.3")
	if c, err := b.Accept(); err != nil || !strings.Contains(c.RemoteAddr().String(), "192.0.2.3") {
		t.Errorf("%v", err)
	}
	if _, err := more.Read(make([]byte, 1)); err == nil {
		t.Error("one that was closed twice makes room for two")
	}
}

// Each of these has words and a status of its own; none is a mistake of Draxel.
func TestWhatIsNotOurFaultSaysSo(t *testing.T) {
	for _, c := range []struct {
		err    error
		status int
		code   string
	}{
		{fmt.Errorf("write: %w", store.ErrFull), http.StatusInsufficientStorage, "disk-full"},
		{fmt.Errorf("write: %w", store.ErrReadOnly), http.StatusServiceUnavailable, "read-only"},
		{fmt.Errorf("write: %w", store.ErrBusy), http.StatusServiceUnavailable, "busy"},
		{fmt.Errorf("read: %w", os.ErrDeadlineExceeded), http.StatusRequestTimeout, "too-slow"},
		{store.Told(fmt.Errorf("make room: %w", errors.Join(os.ErrPermission,
			&os.PathError{Op: "open", Path: "x", Err: os.ErrPermission}))),
			http.StatusInternalServerError, "fault"}, // no number of the system: nothing to go by
	} {
		if p := asProblem(c.err); p.Status != c.status || p.Code != c.code ||
			strings.Contains(p.Detail, "mistake") != (c.code == "fault") {
			t.Errorf("%v: %d %s %s", c.err, p.Status, p.Code, p.Detail)
		}
	}
}

// A body that does not come is not waited for without end, and the connection is good for nothing else; one that comes
// is not cut off by the time that is spent on it.
func TestABodyThatDoesNotCome(t *testing.T) {
	old := bodyTime
	bodyTime = 300 * time.Millisecond
	t.Cleanup(func() { bodyTime = old })
	st, err := store.Open(t.Context(), t.TempDir(), time.Now)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() })
	s, err := New(Options{Store: st})
	if err != nil {
		t.Fatal(err)
	}
	var lc net.ListenConfig
	l, err := lc.Listen(t.Context(), "tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	r, api, _ := s.Open()
	api.POST("/jobs", Answer(func(c *gin.Context) error {
		_, err := Read[map[string]string](c)
		return err
	}))
	web := &http.Server{Handler: r, ReadHeaderTimeout: time.Second}
	go func() { _ = web.Serve(l) }()
	t.Cleanup(func() { _ = web.Close() })
	c, err := net.Dial("tcp", l.Addr().String())
	if err != nil {
		t.Fatal(err)
	}
	defer c.Close()
	fmt.Fprintf(
		c,
		"POST /api/jobs HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: 60\r\n\r\n{\"id\":",
		l.Addr(),
	)
	_ = c.SetReadDeadline(time.Now().Add(5 * time.Second))
	begun := time.Now()
	reply, err := http.ReadResponse(bufio.NewReader(c), nil)
	if err != nil {
		t.Fatalf("no answer after %v: %v", time.Since(begun), err)
	}
	defer reply.Body.Close()
	if reply.StatusCode != http.StatusRequestTimeout {
		t.Errorf("%d after %v", reply.StatusCode, time.Since(begun))
	}
}
