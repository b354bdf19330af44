package caldav

import (
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWhichAddressesBelongToThePlaceAPasswordWasGivenFor(t *testing.T) {
	for _, one := range []struct {
		given, at string
		same      bool
	}{
		{"https://cal.example.org", "https://cal.example.org/u/", true},
		{"https://cal.example.org", "http://cal.example.org/u/", false},
		{"https://cal.example.org", "https://p07.example.org/u/", true}, // hosts of one large service
		{"https://cal.example.org", "https://example.com/u/", false},
		{"https://a.co.uk", "https://b.co.uk", false}, // publicsuffix.org: co.uk is nobody's domain
		{"https://a.github.io", "https://b.github.io", false},
		{"https://10.0.0.1", "https://11.0.0.1", false},
		{"http://cal.example.org", "https://cal.example.org", true}, // more protection is welcome
		{"http://cal.example.org:5232", "http://cal.example.org:5233", false},
		{"http://cal.example.org", "http://p07.example.org", false},
	} {
		given, err := url.Parse(one.given)
		require.NoError(t, err)
		at, err := url.Parse(one.at)
		require.NoError(t, err)
		assert.Equal(t, one.same, sameSite(given, at), "%s to %s", one.given, one.at)
	}
}
