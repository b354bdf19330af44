package texts_test

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/internal/app"
	"corrim/internal/outside/texts"
)

var message = app.TextMessage{ID: "outbox-7/a b", To: "+447700900123", From: "Quillmere", Text: "Grüße"}

func TestAMessageIsHandedOver(t *testing.T) {
	var path, token, body string
	gateway := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		text, _ := io.ReadAll(r.Body)
		path, token, body = r.Method+" "+r.URL.EscapedPath(), r.Header.Get("Authorization"), string(text)
		_, _ = io.WriteString(w, "nonsense that nobody asked for") // what it says beside its status doesn't matter
	}))
	defer gateway.Close()
	require.NoError(t, texts.New(gateway.URL+"/", "secret").Send(context.Background(), message))
	assert.Equal(t, "PUT /texts/outbox-7%2Fa%20b", path)
	assert.Equal(t, "Bearer secret", token)
	assert.JSONEq(t, `{"to":"+447700900123","from":"Quillmere","text":"Grüße"}`, body)
}

// A gateway's own trouble is told from that of one message: only the latter is counted against it.
func TestWhoseTroubleItIs(t *testing.T) {
	away := func(err error) bool {
		var service interface{ Away() bool }
		return errors.As(err, &service) && service.Away()
	}
	for status, ofGateway := range map[int]bool{401: true, 403: true, 429: true, 500: true, 503: true, 304: true, 400: false, 404: false, 422: false} {
		gateway := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(status) }))
		err := texts.New(gateway.URL, "secret").Send(context.Background(), message)
		gateway.Close()
		if assert.Error(t, err, status) {
			assert.Equal(t, ofGateway, away(err), status)
			assert.Contains(t, err.Error(), fmt.Sprint(status))
			assert.NotContains(t, err.Error(), message.To)
		}
		assert.True(t, away(texts.New(gateway.URL, "secret").Send(context.Background(), message)), "nobody answers any more")
	}
	assert.Nil(t, texts.New("", ""), "without an address there is no gateway")
}
