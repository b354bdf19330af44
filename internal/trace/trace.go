// Package trace lets every log line say which request or job it belongs to.
package trace

import (
	"context"
	"crypto/rand"
	"log/slog"
)

type key struct{}

// With names what is done in a context: a request or a job.
func With(ctx context.Context, kind, id string) context.Context {
	named, _ := ctx.Value(key{}).([]slog.Attr)
	return context.WithValue(ctx, key{}, append(named[:len(named):len(named)], slog.String(kind, id)))
}

// NewID is a name that no other request has: it says nothing about whoever sent it.
func NewID() string { return rand.Text()[:12] }

// Handler adds those names to the lines of another handler.
type Handler struct{ slog.Handler }

// Handle adds the names.
func (h Handler) Handle(ctx context.Context, r slog.Record) error {
	named, _ := ctx.Value(key{}).([]slog.Attr)
	r.AddAttrs(named...)
	return h.Handler.Handle(ctx, r)
}

// WithAttrs keeps the wrapping.
func (h Handler) WithAttrs(attrs []slog.Attr) slog.Handler {
	return Handler{h.Handler.WithAttrs(attrs)}
}

// WithGroup keeps the wrapping.
func (h Handler) WithGroup(name string) slog.Handler { return Handler{h.Handler.WithGroup(name)} }
