package trace_test

import (
	"context"
	"log/slog"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"corrim/internal/trace"
)

func TestALineSaysWhatItBelongsTo(t *testing.T) {
	var text strings.Builder
	log := slog.New(trace.Handler{Handler: slog.NewTextHandler(&text, nil)}).With("host", "a")
	request := trace.With(context.Background(), "request", "R1")
	log.InfoContext(trace.With(request, "job", "7"), "both")
	log.InfoContext(request, "one")
	log.Info("none")
	lines := strings.Split(strings.TrimSpace(text.String()), "\n")
	assert.Contains(t, lines[0], "request=R1 job=7")
	assert.Contains(t, lines[1], "request=R1")
	assert.NotContains(t, lines[1], "job=", "what is done within a request is not the request's")
	assert.NotContains(t, lines[2], "request=")
	assert.Contains(t, lines[2], "host=a")
	assert.NotEqual(t, trace.NewID(), trace.NewID())
}
