// Package texts hands text messages to a gateway: a small HTTP interface of our own, described in docs/operate.md.
//
//	PUT /texts/{id}  {"to": "+4915112345678", "from": "Quillmere", "text": …}  sends it; the same id once more sends nothing
package texts

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"corrim/core/told"
	"corrim/internal/app"
	"corrim/internal/outside/reach"
)

// Client is an app.Texter.
type Client struct {
	base, token string
	http        *http.Client
}

// New returns a client of the gateway at base, which asks for the token; nil if there is no gateway.
func New(base, token string) app.Texter {
	if base == "" {
		return nil
	}
	return &Client{strings.TrimSuffix(base, "/"), token, &http.Client{Timeout: 10 * time.Second}}
}

// noWay is what a gateway answers that takes nothing at all: it is no fault of one message.
var noWay = []int{http.StatusUnauthorized, http.StatusForbidden, http.StatusTooManyRequests}

// Send hands a message over.
func (c *Client) Send(ctx context.Context, m app.TextMessage) error {
	body, err := json.Marshal(m)
	if err != nil {
		return err
	}
	request, err := http.NewRequestWithContext(ctx, http.MethodPut, c.base+"/texts/"+url.PathEscape(m.ID), bytes.NewReader(body))
	if err != nil {
		return err
	}
	request.Header.Set("Authorization", "Bearer "+c.token)
	request.Header.Set("Content-Type", "application/json")
	response, err := c.http.Do(request)
	if err != nil {
		return reach.Away(told.Error("text-gateway-reached", "the gateway for text messages can't be reached"))
	}
	defer func() { _ = response.Body.Close() }()
	_, _ = io.Copy(io.Discard, io.LimitReader(response.Body, 1<<16))
	switch status := response.StatusCode; {
	case status == http.StatusOK, status == http.StatusCreated, status == http.StatusAccepted, status == http.StatusNoContent:
		return nil
	case status > 499 || status < 400 || slices.Contains(noWay, status):
		return reach.Away(told.Error("text-gateway-answered", "the gateway for text messages answered with an error ({})", status))
	default:
		return told.Error("text-gateway-refused", "the gateway for text messages refused this number or text ({})", status)
	}
}
