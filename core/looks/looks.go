// Package looks keeps a workspace's own colour readable. Contrast is that of WCAG 2.2 ("contrast ratio" and "relative
// luminance"), on the ground that the pages have in light and in dark.
package looks

import (
	"encoding/hex"
	"fmt"
	"math"
	"strings"

	"corrim/core/told"
)

// Colour is a colour in sRGB.
type Colour struct{ R, G, B uint8 }

// The grounds of the pages.
var (
	LightGround = Colour{0xf5, 0xf6, 0xf2}
	DarkGround  = Colour{0x12, 0x1a, 0x1a}
	white       = Colour{0xff, 0xff, 0xff}
	black       = Colour{0x12, 0x1a, 0x1a}
)

// Enough is the least contrast of text (WCAG 2.2, 1.4.3, level AA).
const Enough = 4.5

// Parse reads a colour like "#0b5a5e".
func Parse(text string) (Colour, error) {
	figures, found := strings.CutPrefix(text, "#")
	parts, err := hex.DecodeString(figures)
	if !found || err != nil || len(parts) != 3 {
		return Colour{}, told.Error("colour-like-0b5a5e", "“{}” is not a colour like #0b5a5e", text)
	}
	return Colour{parts[0], parts[1], parts[2]}, nil
}

// String is the colour like "#0b5a5e".
func (c Colour) String() string { return fmt.Sprintf("#%02x%02x%02x", c.R, c.G, c.B) }

// luminance is the relative luminance, 0 for black and 1 for white.
func (c Colour) luminance() float64 {
	linear := func(v uint8) float64 {
		s := float64(v) / 255
		if s <= 0.04045 {
			return s / 12.92
		}
		return math.Pow((s+0.055)/1.055, 2.4)
	}
	return 0.2126*linear(c.R) + 0.7152*linear(c.G) + 0.0722*linear(c.B)
}

// Contrast is the contrast ratio of two colours, from 1 to 21.
func Contrast(a, b Colour) float64 {
	light, dark := a.luminance(), b.luminance()
	if light < dark {
		light, dark = dark, light
	}
	return (light + 0.05) / (dark + 0.05)
}

// mix is a share of one colour in another.
func mix(a, b Colour, share float64) Colour {
	part := func(x, y uint8) uint8 { return uint8(math.Round(float64(x)*(1-share) + float64(y)*share)) }
	return Colour{part(a.R, b.R), part(a.G, b.G), part(a.B, b.B)}
}

// readable is the colour, made darker or lighter step by step until it can be read on the ground.
func readable(c, ground, towards Colour) Colour {
	for share := 0.0; ; share += 0.02 {
		if tried := mix(c, towards, math.Min(share, 1)); share >= 1 || Contrast(tried, ground) >= Enough {
			return tried
		}
	}
}

// Tones is what a page paints with where something can be acted on.
type Tones struct {
	Act   string `json:"act" doc:"The colour itself, as text and as the ground of buttons."`
	Soft  string `json:"soft" doc:"A breath of it, as ground."`
	On    string `json:"on" doc:"What is written on it."`
	Bar   string `json:"bar" doc:"Bars of days."`
	Moved bool   `json:"moved" doc:"The colour had to be changed to be readable."`
}

// For makes the tones of a colour on a ground.
func For(c, ground Colour) Tones {
	towards := Colour{}
	if ground.luminance() < 0.2 {
		towards = white
	}
	act := readable(c, ground, towards)
	soft := mix(ground, act, 0.14)
	if Contrast(act, soft) < Enough { // text of the colour stands on its own breath, too
		act = readable(act, soft, towards)
	}
	on := white
	if Contrast(act, white) < Enough {
		on = black
	}
	return Tones{Act: act.String(), Soft: soft.String(), On: on.String(), Bar: mix(ground, act, 0.3).String(), Moved: act != c}
}
