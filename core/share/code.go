package share

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"strings"

	"github.com/yeqown/go-qrcode/v2"
)

// Code is an address as a QR code (ISO/IEC 18004), with level M of error correction, which lets 15 % of it be spoilt.
type Code struct {
	dark [][]bool // by row and column, without the quiet zone
}

// quiet is how many modules stay empty around a code (ISO/IEC 18004, 5.3.8, from memory).
const quiet = 4

// LongestCoded is how many letters of an address a code of level M takes (ISO/IEC 18004, table 7, version 40, from memory).
const LongestCoded = 2331

// NewCode is an address as a code.
func NewCode(address string) (Code, error) {
	if len(address) > LongestCoded {
		return Code{}, fmt.Errorf("an address of %d letters is too long for a code: it takes %d", len(address), LongestCoded)
	}
	made, err := qrcode.NewWith(address, qrcode.WithEncodingMode(qrcode.EncModeByte), qrcode.WithErrorCorrectionLevel(qrcode.ErrorCorrectionMedium))
	if err != nil {
		return Code{}, err
	}
	c := Code{}
	err = made.Save(&c)
	return c, err
}

// Write and Close take the code from the library that makes it.
func (c *Code) Write(m qrcode.Matrix) error {
	c.dark = m.Bitmap()
	return nil
}

// Close does nothing: the code is kept in memory.
func (c *Code) Close() error { return nil }

// size is in modules, with the quiet zone.
func (c Code) size() int { return len(c.dark) + 2*quiet }

// SVG draws the code one unit per module, black on white.
func (c Code) SVG() []byte {
	var path strings.Builder
	for y, row := range c.dark {
		for x := 0; x < len(row); x++ {
			length := 0
			for x+length < len(row) && row[x+length] {
				length++
			}
			if length > 0 {
				fmt.Fprintf(&path, "M%d %dh%dv1h-%dz", x+quiet, y+quiet, length, length)
				x += length
			}
		}
	}
	return fmt.Appendf(nil, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %[1]d %[1]d" shape-rendering="crispEdges"><path fill="#fff" d="M0 0h%[1]dv%[1]dH0z"/><path d="%[2]s"/></svg>`, c.size(), path.String())
}

// PNG draws the code with so many pixels per module.
func (c Code) PNG(pixels int) ([]byte, error) {
	side := c.size() * pixels
	picture := image.NewPaletted(image.Rect(0, 0, side, side), color.Palette{color.White, color.Black})
	for y, row := range c.dark {
		for x, dark := range row {
			if dark {
				fill(picture, image.Rect((x+quiet)*pixels, (y+quiet)*pixels, (x+quiet+1)*pixels, (y+quiet+1)*pixels))
			}
		}
	}
	var out bytes.Buffer
	err := png.Encode(&out, picture)
	return out.Bytes(), err
}

func fill(picture *image.Paletted, area image.Rectangle) {
	for y := area.Min.Y; y < area.Max.Y; y++ {
		for x := area.Min.X; x < area.Max.X; x++ {
			picture.SetColorIndex(x, y, 1)
		}
	}
}
