package reach_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/outside/reach"
)

func TestPrivateNetworksAreReachedOnlyIfAllowed(t *testing.T) {
	server := httptest.NewServer(http.RedirectHandler("/elsewhere", http.StatusFound))
	defer server.Close()
	for _, address := range []string{server.URL, "http://localhost:1", "http://[::1]:1", "http://10.0.0.1:1", "http://192.168.1.1:1", "http://169.254.169.254", "http://100.64.0.1:1", "http://[::ffff:127.0.0.1]:1", "http://0.0.0.0:1"} {
		_, err := reach.Client(false).Get(address)
		assert.ErrorIs(t, err, reach.ErrPrivate, address)
	}
	response, err := reach.Client(true).Get(server.URL)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	assert.Equal(t, http.StatusFound, response.StatusCode, "redirects are left to whoever asks")
}

func TestAServerThatSendsAByteNowAndThenIsLeft(t *testing.T) {
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		for r.Context().Err() == nil {
			_, _ = w.Write([]byte("B"))
			_ = http.NewResponseController(w).Flush()
			time.Sleep(10 * time.Millisecond)
		}
	}))
	defer server.Close()
	defer reach.Hurry(200 * time.Millisecond)()
	response, err := reach.Client(true).Get(server.URL)
	require.NoError(t, err)
	defer func() { _ = response.Body.Close() }()
	_, err = io.ReadAll(response.Body)
	assert.Contains(t, reach.InWords("slow.example", err).Error(), "did not answer in time")
}

// A row for each block of the registries, with an address in it.
func TestSpecialPurposeAddressesAreNotReached(t *testing.T) {
	for _, ip := range []string{
		"0.1.2.3", "10.1.2.3", "100.127.255.254", "127.0.0.1", "169.254.169.254", "172.31.0.1", "192.0.0.8", "192.0.2.1", "192.31.196.1", "192.52.193.1", "192.88.99.1",
		"192.168.0.1", "192.175.48.1", "198.18.0.1", "198.19.255.254", "198.51.100.1", "203.0.113.1", "224.0.0.1", "240.0.0.1", "255.255.255.255",
		"::", "::1", "::7f00:1", "::ffff:10.0.0.1", "64:ff9b::a00:1", "64:ff9b:1::a00:1", "100::1", "100:0:0:1::1", "2001::1", "2001:2::1", "2001:20::1", "2001:db8::1",
		"2002:a00:1::1", "2620:4f:8000::1", "3fff::1", "5f00::1", "fc00::1", "fd12::1", "fe80::1", "fec0::1", "ff02::1",
	} {
		assert.ErrorIs(t, reach.Refuse(netip.AddrPortFrom(netip.MustParseAddr(ip), 443).String()), reach.ErrPrivate, ip)
	}
	for _, ip := range []string{"1.1.1.1", "8.8.8.8", "99.255.255.255", "192.0.1.1", "198.17.255.255", "198.20.0.1", "2600::1", "2a00:1450::1", "2003::1"} {
		assert.NoError(t, reach.Refuse(netip.AddrPortFrom(netip.MustParseAddr(ip), 443).String()), ip)
	}
}
