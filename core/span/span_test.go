package span_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"corrim/core/span"
)

func TestSpansThatOnlyTouchDoNotOverlap(t *testing.T) {
	a, b := span.Span{Start: 0, End: 60}, span.Span{Start: 60, End: 120}
	assert.False(t, a.Overlaps(b))
	assert.True(t, a.Grow(0, 1).Overlaps(b))
	assert.Equal(t, span.Set{{Start: 0, End: 120}}, span.UnionInPlace([]span.Span{b, a}))
	assert.False(t, span.Span{Start: 5, End: 5}.Overlaps(a), "an empty span overlaps nothing")
}

// Every operation is held against the plain definition, instant by instant.
func TestSetAlgebraAgreesWithMembership(t *testing.T) {
	spans := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) span.Span {
		start := rapid.Int64Range(0, 60).Draw(t, "start")
		return span.Span{Start: span.Instant(start), End: span.Instant(start + rapid.Int64Range(-2, 12).Draw(t, "length"))}
	}), 0, 12)
	anyHolds := func(spans []span.Span, i span.Instant) bool {
		for _, s := range spans {
			if s.Holds(i) {
				return true
			}
		}
		return false
	}
	rapid.Check(t, func(t *rapid.T) {
		as, bs := spans.Draw(t, "a"), spans.Draw(t, "b")
		a, b := span.UnionInPlace(slices.Clone(as)), span.UnionInPlace(slices.Clone(bs))
		bounds := span.Span{Start: 10, End: 50}
		for i := span.Instant(-3); i < 80; i++ {
			inA, inB := anyHolds(as, i), anyHolds(bs, i)
			assert.Equal(t, inA, a.Holds(i), "union at %d", i)
			assert.Equal(t, inA || inB, a.Or(b).Holds(i), "or at %d", i)
			assert.Equal(t, inA && !inB, a.Minus(b).Holds(i), "minus at %d", i)
			assert.Equal(t, inA && inB, a.Intersect(b).Holds(i), "intersect at %d", i)
			assert.Equal(t, inA && bounds.Holds(i), a.Clip(bounds).Holds(i), "clip at %d", i)
			assert.Equal(t, !inA && bounds.Holds(i), a.Complement(bounds).Holds(i), "complement at %d", i)
		}
		for i := 1; i < len(a); i++ {
			assert.Greater(t, a[i].Start, a[i-1].End, "spans of a set neither overlap nor touch")
		}
		one := span.Span{Start: span.Instant(rapid.Int64Range(0, 60).Draw(t, "from")), End: span.Instant(rapid.Int64Range(0, 70).Draw(t, "to"))}
		covered, touched := true, false
		for i := one.Start; i < one.End; i++ {
			covered, touched = covered && a.Holds(i), touched || a.Holds(i)
		}
		assert.Equal(t, covered, a.Covers(one))
		assert.Equal(t, touched, a.Overlaps(one))
	})
}
