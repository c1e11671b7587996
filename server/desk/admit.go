package desk

import (
	"crypto/rand"
	"encoding/hex"
	"fmt"
	"net"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"
)

// admitted lets this machine through, and other devices that have brought the passcode.
func (s *Desk) admitted(c *gin.Context) {
	if _, other := remote(c); other && (s.access == nil || !s.access.holds(c)) {
		Fail(
			c,
			Refusal(http.StatusUnauthorized, "passcode-wanted", "This device has to give the passcode first.", ""),
		)
		return
	}
	c.Next()
}

// bringPasscode takes a passcode and gives the device a pass. Wrong ones are counted, and after a few nobody is
// heard.
func (s *Desk) bringPasscode(c *gin.Context) error {
	r, err := Read[PassRequest](c)
	if err != nil {
		return err
	}
	device, other := remote(c)
	if !other {
		c.JSON(http.StatusOK, Done{})
		return nil
	}
	if s.access == nil {
		return Refusal(http.StatusForbidden, "not-shared", "Draxel listens to its own machine alone.", "")
	}
	if wait := s.access.tooMany(device); wait > 0 {
		c.Header("Retry-After", fmt.Sprint(int(wait.Seconds())+1))
		return Refusal(
			http.StatusTooManyRequests,
			"too-many-passcodes",
			fmt.Sprintf("Too many wrong passcodes. Wait %d minutes.", int(wait.Minutes())+1),
			"",
		)
	}
	if !s.access.is(r.Passcode) {
		return Refusal(http.StatusUnauthorized, "wrong-passcode", "That is not the passcode.", "/passcode")
	}
	var secret [32]byte
	_, _ = rand.Read(secret[:]) // never fails, by its documentation
	pass := hex.EncodeToString(secret[:])
	s.access.welcome(device, pass)
	http.SetCookie(
		c.Writer,
		&http.Cookie{
			Name:     passCookie,
			Value:    pass,
			Path:     "/",
			HttpOnly: true,
			Secure:   c.Request.TLS != nil,
			SameSite: http.SameSiteStrictMode,
			MaxAge:   int(passLasts.Seconds()),
		},
	)
	c.JSON(http.StatusOK, Done{})
	return nil
}

// BenchAddress is where another device reaches the bench view of a job, and why nowhere.
func (s *Desk) BenchAddress(c *gin.Context) LinkView {
	if s.access == nil {
		return LinkView{
			Why: "Draxel listens to this machine alone. To use a tablet, start it with --lan and a passcode.",
		}
	}
	own := s.access.addresses()
	if len(own) == 0 {
		return LinkView{Why: "This machine has no address on a local network."}
	}
	host := own[0].String()
	if _, port, err := net.SplitHostPort(c.Request.Host); err == nil {
		host = net.JoinHostPort(host, port)
	}
	scheme := "http"
	if s.access.port != "" {
		host = net.JoinHostPort(own[0].String(), s.access.port)
	}
	if s.access.secured != nil {
		scheme = "https"
	}
	u := url.URL{Scheme: scheme, Host: host, Path: "/jobs/" + c.Param("job") + "/bench"}
	if stage := c.Query("stage"); stage == "thin" || stage == "pin" || stage == "reach" || stage == "check" ||
		stage == "prove" {
		u.RawQuery = "stage=" + stage
	}
	v := LinkView{Address: u.String()}
	if x := s.access.secured; x != nil {
		v.Fingerprint = x.Fingerprint
		if x.Authority != nil {
			v.Authority = scheme + "://" + host + AuthorityPath
		}
	}
	return v
}

// AuthorityPath is where another device gets what it is told to trust: before it brings the passcode, since that is not
// to be sent before.
const AuthorityPath = "/draxel-authority.crt"

// Authority gives what a device is told to trust.
func (s *Desk) Authority(c *gin.Context) {
	if s.access == nil || s.access.secured == nil || s.access.secured.Authority == nil {
		Fail(c, Refusal(http.StatusNotFound, "no-such-file", "There is no such file.", ""))
		return
	}
	c.Header("Content-Disposition", `attachment; filename="draxel-authority.crt"`)
	c.Data(http.StatusOK, "application/x-x509-ca-cert", s.access.secured.Authority)
}

func (s *Desk) showLink(c *gin.Context) error {
	c.JSON(http.StatusOK, s.BenchAddress(c))
	return nil
}

// showQR draws the bench view's address as a QR code.
func (s *Desk) showQR(c *gin.Context) error {
	link := s.BenchAddress(c)
	if link.Address == "" {
		return Refusal(http.StatusNotFound, "not-shared", link.Why, "")
	}
	png, err := QRCode(link.Address, 6)
	if err != nil {
		return err
	}
	c.Data(http.StatusOK, "image/png", png)
	return nil
}
