package looks_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"corrim/core/looks"
)

// The extremes are WCAG 2.2's own ("contrast ratio": 1 to 21). That #767676 is the lightest grey that can be read on white,
// 4.54, and #777777 just can't, 4.48, is common practice.
func TestContrastIsWCAGs(t *testing.T) {
	for _, one := range []struct {
		a, b string
		want float64
	}{
		{"#000000", "#ffffff", 21}, {"#ffffff", "#ffffff", 1}, {"#767676", "#ffffff", 4.54}, {"#777777", "#ffffff", 4.48}, {"#ff0000", "#ffffff", 4.00},
	} {
		a, err := looks.Parse(one.a)
		require.NoError(t, err)
		b, err := looks.Parse(one.b)
		require.NoError(t, err)
		assert.InDelta(t, one.want, looks.Contrast(a, b), 0.005, "%s on %s", one.a, one.b)
		assert.InDelta(t, one.want, looks.Contrast(b, a), 0.005)
	}
}

func TestWhatIsNoColourIsRefused(t *testing.T) {
	for _, text := range []string{"", "0b5a5e", "#0b5a5", "#0b5a5e0", "#0b5a5g", "red", "#-12345", "url(x)"} {
		_, err := looks.Parse(text)
		assert.Error(t, err, text)
	}
}

// Whatever colour somebody likes: everything painted with it can be read.
func TestEveryColourBecomesReadable(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		part := rapid.Byte()
		c := looks.Colour{R: part.Draw(t, "r"), G: part.Draw(t, "g"), B: part.Draw(t, "b")}
		for _, ground := range []looks.Colour{looks.LightGround, looks.DarkGround} {
			tones := looks.For(c, ground)
			at := func(text string) looks.Colour {
				colour, err := looks.Parse(text)
				if err != nil {
					t.Fatal(err)
				}
				return colour
			}
			act := at(tones.Act)
			for name, other := range map[string]looks.Colour{"the ground": ground, "its breath": at(tones.Soft), "what stands on it": at(tones.On)} {
				if ratio := looks.Contrast(act, other); ratio < looks.Enough {
					t.Fatalf("%s became %s: %.2f against %s", c, act, ratio, name)
				}
			}
			if tones.Moved == (act == c) {
				t.Fatalf("%s became %s, and says moved: %v", c, act, tones.Moved)
			}
		}
	})
}

func TestAReadableColourStaysAsItIs(t *testing.T) {
	ours, err := looks.Parse("#0b5a5e")
	require.NoError(t, err)
	assert.Equal(t, "#0b5a5e", looks.For(ours, looks.LightGround).Act)
	assert.False(t, looks.For(ours, looks.LightGround).Moved)
}
