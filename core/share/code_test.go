package share_test

import (
	"bytes"
	"image/png"
	"strings"
	"testing"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/qrcode"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/share"
)

// A decoder that is not ours (a port of ZXing) reads what was drawn: also small, and as small as it is printed on a card: 22 mm at 300 dpi
// are 260 pixels.
func TestCodesAreReadByAnotherProgram(t *testing.T) {
	for name, address := range map[string]string{
		"short":     "https://x.example/p/q/l",
		"usual":     "https://book.quillmere.example/p/quillmere/loan-call?via=k7f3q2ab",
		"with more": "https://book.quillmere.example/p/quillmere/loan-call?q.which=North+wing&name=Mus%C3%A9e+d%E2%80%99Orbec&length=30",
		"the most":  "https://x.example/" + strings.Repeat("a", share.LongestCoded-18),
	} {
		code, err := share.NewCode(address)
		require.NoError(t, err, name)
		for _, pixels := range []int{2, 5} {
			drawn, err := code.PNG(pixels)
			require.NoError(t, err)
			picture, err := png.Decode(bytes.NewReader(drawn))
			require.NoError(t, err)
			if name == "usual" && pixels == 5 {
				assert.LessOrEqual(t, picture.Bounds().Dx(), 260)
			}
			bitmap, err := gozxing.NewBinaryBitmapFromImage(picture)
			require.NoError(t, err)
			read, err := qrcode.NewQRCodeReader().Decode(bitmap, map[gozxing.DecodeHintType]any{gozxing.DecodeHintType_PURE_BARCODE: true})
			require.NoError(t, err, "%s, %d pixels per module", name, pixels)
			assert.Equal(t, address, read.GetText(), name)
		}
		assert.True(t, strings.HasPrefix(string(code.SVG()), "<svg "), name)
	}
	_, err := share.NewCode(strings.Repeat("a", share.LongestCoded+1))
	assert.ErrorContains(t, err, "too long")
}
