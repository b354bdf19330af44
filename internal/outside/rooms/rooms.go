// Package rooms talks to the video room service: a small HTTP interface of our own.
//
//	PUT    /rooms/{booking}  {"title": …, "from": …, "to": …, "waitingRoom": true, "passcode": true, "nameRequired": true,
//	                         "recordingNotice": true}  makes the room or moves it; answers {"url": …, "passcode": …}
//	DELETE /rooms/{booking}                                    closes it
package rooms

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

// Client is an app.Rooms.
type Client struct {
	base, token string
	http        *http.Client
}

// New returns a client of the service at base, which asks for the token.
func New(base, token string) *Client {
	return &Client{strings.TrimSuffix(base, "/"), token, &http.Client{Timeout: 10 * time.Second}}
}

// noWay is what a service answers that lets nobody in: it is no fault of one room.
var noWay = []int{http.StatusUnauthorized, http.StatusForbidden, http.StatusTooManyRequests}

// Keep makes or moves a booking's room.
func (c *Client) Keep(ctx context.Context, booking string, wish app.RoomWish) (app.Room, error) {
	var room app.Room
	body, err := json.Marshal(wish)
	if err != nil {
		return room, err
	}
	answer, err := c.ask(ctx, http.MethodPut, booking, body)
	if err != nil {
		return room, err
	}
	if err := json.Unmarshal(answer, &room); err != nil || room.URL == "" {
		return room, reach.Away(told.Error("video-room-service", "the video room service answered with something else than a room"))
	}
	return room, nil
}

// Close closes a booking's room.
func (c *Client) Close(ctx context.Context, booking string) error {
	_, err := c.ask(ctx, http.MethodDelete, booking, nil)
	return err
}

func (c *Client) ask(ctx context.Context, method, booking string, body []byte) ([]byte, error) {
	request, err := http.NewRequestWithContext(ctx, method, c.base+"/rooms/"+url.PathEscape(booking), bytes.NewReader(body))
	if err != nil {
		return nil, err
	}
	request.Header.Set("Authorization", "Bearer "+c.token)
	request.Header.Set("Content-Type", "application/json")
	response, err := c.http.Do(request)
	if err != nil {
		return nil, reach.Away(told.Error("video-room-service-reached", "the video room service can't be reached"))
	}
	defer func() { _ = response.Body.Close() }()
	answer, err := io.ReadAll(io.LimitReader(response.Body, 1<<16))
	switch status := response.StatusCode; {
	case err != nil:
		return nil, reach.Away(told.Error("video-room-service-stopped", "the video room service stopped in the middle of its answer"))
	case status > 499 || slices.Contains(noWay, status):
		return nil, reach.Away(told.Error("video-room-service-answered", "the video room service answered with an error ({})", status))
	case status > 299 && (status != http.StatusNotFound || method != http.MethodDelete):
		return nil, told.Error("video-room-service-refused", "the video room service refused this room ({})", status)
	}
	return answer, nil
}
