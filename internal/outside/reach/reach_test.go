package reach_test

import (
	"net/http"
	"net/http/httptest"
	"testing"

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
