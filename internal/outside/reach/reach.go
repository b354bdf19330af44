// Package reach makes HTTP clients for addresses that users give. Unless the operator allows it, they never connect to
// loopback or private networks; the check is made on the address that is dialled, after names were looked up, so that
// no name and no redirect gets around it.
package reach

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"errors"
	"net"
	"net/http"
	"net/netip"
	"slices"
	"syscall"
	"time"

	"corrim/core/told"
)

// ErrPrivate means that an address lies in a network that this installation doesn't reach.
var ErrPrivate = told.Error("address-lies-private", "the address lies in a private network, which this installation does not reach; ask whoever runs it to allow private addresses")

// exchangeTime is how long one request may take with its whole answer: a server that sends a byte now and then would hold whoever waits for it
// longer than they wait.
var exchangeTime = 40 * time.Second

// Client returns a client that does not follow redirects: whoever uses it decides about each.
func Client(allowPrivate bool) *http.Client {
	dialer := &net.Dialer{Timeout: 5 * time.Second}
	if !allowPrivate {
		dialer.Control = refusePrivate
	}
	return &http.Client{
		Timeout: exchangeTime,
		Transport: &http.Transport{
			DialContext: dialer.DialContext, TLSHandshakeTimeout: 5 * time.Second, ResponseHeaderTimeout: 20 * time.Second,
			MaxIdleConnsPerHost: 4, IdleConnTimeout: time.Minute, ForceAttemptHTTP2: true,
		},
		CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse },
	}
}

func refusePrivate(_, address string, _ syscall.RawConn) error {
	host, err := netip.ParseAddrPort(address)
	if err != nil {
		return err
	}
	ip := host.Addr().Unmap()
	if !ip.IsGlobalUnicast() || ip.IsPrivate() || special(ip.WithZone("")) {
		return ErrPrivate
	}
	return nil
}

func special(ip netip.Addr) bool {
	return slices.ContainsFunc(notReached, func(p netip.Prefix) bool { return p.Contains(ip) })
}

// notReached are the blocks of the IANA registries of special-purpose addresses (RFC 6890, with what was registered since; from memory)
// that are not for one host of the internet to answer from, and those through which an IPv4 address of any kind is reached: a translator
// or tunnel leads to whatever network stands behind it. Beside them stand what net/netip knows itself: loopback, link-local, multicast,
// private.
var notReached = prefixes(
	"0.0.0.0/8",         // this network (RFC 791)
	"100.64.0.0/10",     // shared by carriers (RFC 6598)
	"192.0.0.0/24",      // protocol assignments (RFC 6890)
	"192.0.2.0/24",      // documentation (RFC 5737)
	"192.31.196.0/24",   // AS112 (RFC 7535)
	"192.52.193.0/24",   // AMT (RFC 7450)
	"192.88.99.0/24",    // 6to4 relays (RFC 7526)
	"192.175.48.0/24",   // AS112 (RFC 7534)
	"198.18.0.0/15",     // benchmarks (RFC 2544)
	"198.51.100.0/24",   // documentation (RFC 5737)
	"203.0.113.0/24",    // documentation (RFC 5737)
	"240.0.0.0/4",       // reserved, and broadcast (RFC 1112, RFC 8190)
	"::/96",             // IPv4-compatible (RFC 4291, 2.5.5.1)
	"64:ff9b::/96",      // translated to IPv4 (RFC 6052)
	"64:ff9b:1::/48",    // the same, locally (RFC 8215)
	"100::/64",          // discarded (RFC 6666)
	"100:0:0:1::/64",    // dummy (RFC 9780)
	"2001::/23",         // protocol assignments: Teredo, benchmarks, ORCHID and others (RFC 2928)
	"2001:db8::/32",     // documentation (RFC 3849)
	"2002::/16",         // 6to4 (RFC 3056)
	"2620:4f:8000::/48", // AS112 (RFC 7534)
	"3fff::/20",         // documentation (RFC 9637)
	"5f00::/16",         // segment routing (RFC 9602)
	"fec0::/10",         // site-local, once (RFC 3879)
)

func prefixes(texts ...string) []netip.Prefix {
	out := make([]netip.Prefix, len(texts))
	for i, text := range texts {
		out[i] = netip.MustParsePrefix(text)
	}
	return out
}

// Away marks an error as one of a whole service: nothing that needs it can be done at the moment.
func Away(err error) error { return away{err} }

type away struct{ error }

func (away) Away() bool      { return true }
func (a away) Unwrap() error { return a.error }

// InWords puts an error of the network into a sentence for whoever gave the address, without its path or query.
func InWords(host string, err error) error {
	var dns *net.DNSError
	var untrusted *tls.CertificateVerificationError
	var timeout interface{ Timeout() bool }
	switch {
	case errors.Is(err, ErrPrivate):
		return told.Error("used", "{} can't be used: {}", host, ErrPrivate)
	case errors.As(err, &untrusted):
		return Away(told.Error("certificate-trusted-whoever", "the certificate of {} can't be trusted ({}). Whoever runs it has to renew it", host, certificateProblem(untrusted.Err)))
	case errors.As(err, &dns):
		return Away(told.Error("no-server-called", "there is no server called {}. Check the address for typing errors", host))
	case errors.Is(err, context.Canceled):
		return context.Canceled
	case errors.As(err, &timeout) && timeout.Timeout():
		return Away(told.Error("server-did-answer", "the server at {} did not answer in time. It will be asked again", host))
	}
	return Away(told.Error("server-reached-check", "the server at {} can't be reached. Check the address, or whether it is running", host))
}

func certificateProblem(err error) told.Words {
	var invalid x509.CertificateInvalidError
	var name x509.HostnameError
	switch {
	case errors.As(err, &invalid) && invalid.Reason == x509.Expired:
		return told.Say("certificate-expired", "it has expired, or isn't valid yet")
	case errors.As(err, &name):
		return told.Say("certificate-other-name", "it is for another name")
	}
	return told.Say("certificate-unsigned", "nobody known has signed it")
}

// Skew is how far a server's clock is ahead of ours, as its answer tells (RFC 9110, 6.6.1); 0 if it doesn't tell.
func Skew(header http.Header) time.Duration {
	there, err := http.ParseTime(header.Get("Date"))
	if err != nil {
		return 0
	}
	return time.Until(there).Round(time.Second)
}
