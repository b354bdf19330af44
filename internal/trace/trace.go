// Package trace lets every log line say which request or job it belongs to.
package trace

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
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

// Go does something beside what is being done, which doesn't end with it. That it failed, or panicked, is logged with what it was.
func Go(ctx context.Context, log *slog.Logger, what string, do func(context.Context) error) {
	ctx = context.WithoutCancel(ctx)
	go func() {
		if err := Guard(ctx, log, what, func() error { return do(ctx) }); err != nil {
			log.ErrorContext(ctx, what, "error", err)
		}
	}()
}

// Guard does something, and turns a panic in it into an error: a fault in one thing, a library's too, costs nothing else. The log has
// where it was; neither the log nor the error has what was being read.
func Guard(ctx context.Context, log *slog.Logger, what string, do func() error) (err error) {
	defer func() {
		if cause := recover(); cause != nil {
			log.ErrorContext(ctx, "a panic", "while", what, "cause", fmt.Sprintf("%T", cause), "stack", string(debug.Stack()))
			err = fmt.Errorf("%s: %w", what, ErrPanic)
		}
	}()
	return do()
}

// ErrPanic is that something panicked.
var ErrPanic = errors.New("a fault in the program")
