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
	"syscall"
	"time"

	"corrim/core/told"
)

// ErrPrivate means that an address lies in a network that this installation doesn't reach.
var ErrPrivate = told.Error("address-lies-private", "the address lies in a private network, which this installation does not reach; ask whoever runs it to allow private addresses")

// Client returns a client that does not follow redirects: whoever uses it decides about each.
func Client(allowPrivate bool) *http.Client {
	dialer := &net.Dialer{Timeout: 5 * time.Second}
	if !allowPrivate {
		dialer.Control = refusePrivate
	}
	return &http.Client{
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
	if ip := host.Addr().Unmap(); !ip.IsGlobalUnicast() || ip.IsPrivate() || sharedNetwork.Contains(ip) {
		return ErrPrivate
	}
	return nil
}

// sharedNetwork is the carriers' shared address space (RFC 6598).
var sharedNetwork = netip.MustParsePrefix("100.64.0.0/10")

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
