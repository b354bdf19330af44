package app

import (
	"context"
	"errors"
	"log/slog"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestNewsOfATeamKeepNobodyWaiting(t *testing.T) {
	t.Parallel()
	ctx, log := t.Context(), slog.New(slog.DiscardHandler)
	clock := time.Date(2026, 5, 4, 8, 0, 0, 0, time.UTC)
	now := func() time.Time { return clock }
	usual := func(d time.Duration) time.Duration { return d }
	kept := &keptNews{waits: usual}
	slow, count := make(chan struct{}), 0
	wrote := int64(7)
	work := func(context.Context) (teamNews, error) {
		<-slow
		count++
		return teamNews{clashes: make([]teamClash, count)}, nil
	}
	for range 2 {
		news, known, err := kept.get(ctx, now, log, wrote, work)
		require.NoError(t, err)
		assert.False(t, known, "not known yet is not that there are none")
		assert.Empty(t, news.clashes)
	}
	close(slow)
	require.Eventually(t, func() bool {
		_, known, err := kept.get(ctx, now, log, wrote, work)
		return known && err == nil
	}, time.Minute, time.Millisecond)
	kept.mu.Lock()
	assert.GreaterOrEqual(t, kept.took, quickNews)
	assert.Len(t, kept.news.clashes, 1)
	kept.mu.Unlock()
	_, _, err := kept.get(ctx, now, log, wrote, func(context.Context) (teamNews, error) { panic("they are not a minute old") })
	require.NoError(t, err)
	wrote++ // a type or somebody's hours were changed
	news, known, err := kept.get(ctx, now, log, wrote, work)
	require.NoError(t, err)
	assert.True(t, known)
	assert.Len(t, news.clashes, 2, "then they are worked out anew")
	kept.mu.Lock()
	kept.took = quickNews // as slow as before
	kept.mu.Unlock()
	clock = clock.Add(2 * newsFor)
	fail := errors.New("the database is gone")
	news, known, err = kept.get(ctx, now, log, wrote, func(context.Context) (teamNews, error) { return teamNews{}, fail })
	require.NoError(t, err, "those of before are told as long as new ones are worked out")
	assert.True(t, known)
	assert.Len(t, news.clashes, 2)

	quick := &keptNews{waits: func(d time.Duration) time.Duration { return 100 * d }}
	for n := range 3 {
		news, known, err := quick.get(ctx, now, log, wrote, func(context.Context) (teamNews, error) { return teamNews{clashes: make([]teamClash, n)}, nil })
		require.NoError(t, err)
		assert.True(t, known)
		assert.Len(t, news.clashes, n, "where it is quick, everybody gets them as they are")
	}
	_, _, err = quick.get(ctx, now, log, wrote, func(context.Context) (teamNews, error) { return teamNews{}, fail })
	require.ErrorIs(t, err, fail)
}
