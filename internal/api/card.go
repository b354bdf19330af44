package api

import (
	"bytes"
	"html/template"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"net/http"
	"sync"
	"unicode"

	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"

	"github.com/go-chi/chi/v5"

	"corrim/core/looks"
	"corrim/internal/public"
)

// What stands where a page's link is pasted: the Open Graph protocol (https://ogp.me).
var cardTags = template.Must(template.New("card").Parse(`<meta property="og:type" content="website"><meta property="og:site_name" content="{{.Card.Workspace}}">` +
	`<meta property="og:title" content="{{.Card.Title}}">{{with .Card.Text}}<meta property="og:description" content="{{.}}"><meta name="description" content="{{.}}">{{end}}` +
	`<meta property="og:url" content="{{.Card.Address}}"><meta property="og:locale" content="{{.Language}}">` +
	`<meta property="og:image" content="{{.Picture}}"><meta property="og:image:width" content="1200"><meta property="og:image:height" content="630"><link rel="canonical" href="{{.Card.Address}}">`))

// cardOf is a page's card as elements of its head, and whether robots may see the page at all.
func (s *server) cardOf(r *http.Request, language string) (tags []byte, seen bool) {
	at := pageAddress(r)
	card, seen := s.app.Card(r.Context(), at)
	if !seen {
		return nil, false
	}
	var text bytes.Buffer
	picture := s.app.BaseURL + "/card" + at.Path() + ".png"
	if err := cardTags.Execute(&text, map[string]any{"Card": card, "Language": language, "Picture": picture}); err != nil {
		return nil, true // it writes into memory from plain values
	}
	return text.Bytes(), true
}

func pageAddress(r *http.Request) public.PageAddress {
	part := func(name string) string { return chi.URLParam(r, name) }
	return public.PageAddress{Kind: "p", Workspace: part("workspace"), Type: part("type"), Person: part("person"), Team: part("team")}
}

// cardPicture draws a page's card.
func (s *server) cardPicture(w http.ResponseWriter, r *http.Request) {
	card, seen := s.app.Card(r.Context(), pageAddress(r))
	if !seen {
		http.NotFound(w, r)
		return
	}
	picture, err := drawCard(card)
	if err != nil {
		s.log.ErrorContext(r.Context(), "drawing a link's card", "error", err)
		http.Error(w, "The picture can't be drawn.", http.StatusInternalServerError)
		return
	}
	w.Header().Set("Content-Type", "image/png")
	w.Header().Set("Cache-Control", "public, max-age=3600")
	_, _ = w.Write(picture)
}

// The size that most programs show whole (common practice).
const (
	cardWidth, cardHeight = 1200, 630
	cardMargin            = 90
)

// faces are read from the Go fonts once. They have Latin, Greek and Cyrillic letters.
var faces = sync.OnceValues(func() (out struct{ regular, bold *sfnt.Font }, err error) {
	if out.regular, err = opentype.Parse(goregular.TTF); err != nil {
		return out, err
	}
	out.bold, err = opentype.Parse(gobold.TTF)
	return out, err
})

// drawCard draws a name over its workspace's, with a day's ruled ribbon in the page's colour below. A line in letters that the font
// lacks is left out: the card's words stand beside the picture anyway.
func drawCard(c public.Card) ([]byte, error) {
	fonts, err := faces()
	if err != nil {
		return nil, err
	}
	picture := image.NewRGBA(image.Rect(0, 0, cardWidth, cardHeight))
	draw.Draw(picture, picture.Bounds(), image.NewUniform(paint(looks.LightGround)), image.Point{}, draw.Src)
	ink := color.RGBA{0x17, 0x21, 0x1f, 0xff}
	y := 150
	if err := writeLines(picture, fonts.regular, 34, c.Workspace, color.RGBA{0x4a, 0x57, 0x53, 0xff}, 1, &y); err != nil {
		return nil, err
	}
	y += 30
	if err := writeLines(picture, fonts.bold, 68, c.Title, ink, 3, &y); err != nil {
		return nil, err
	}
	drawRibbon(picture, paint(c.Act))
	var out bytes.Buffer
	err = png.Encode(&out, picture)
	return out.Bytes(), err
}

func paint(c looks.Colour) color.RGBA { return color.RGBA{c.R, c.G, c.B, 0xff} }

// writeLines writes a text into the card's width, in at most so many lines, and moves y below them.
func writeLines(picture draw.Image, from *sfnt.Font, size float64, text string, ink color.Color, most int, y *int) error {
	if !writable(from, text) {
		return nil
	}
	face, err := opentype.NewFace(from, &opentype.FaceOptions{Size: size, DPI: 72, Hinting: font.HintingNone})
	if err != nil {
		return err
	}
	defer func() { _ = face.Close() }()
	for _, line := range brokenInto(face, text, cardWidth-2*cardMargin, most) {
		d := font.Drawer{Dst: picture, Src: image.NewUniform(ink), Face: face, Dot: fixed.P(cardMargin, *y)}
		d.DrawString(line)
		*y += int(size * 1.25)
	}
	return nil
}

func writable(from *sfnt.Font, text string) bool {
	var buffer sfnt.Buffer
	for _, r := range text {
		if glyph, err := from.GlyphIndex(&buffer, r); err != nil || glyph == 0 && !unicode.IsSpace(r) {
			return false
		}
	}
	return true
}

// brokenInto breaks a text at its spaces; what has no room ends in dots.
func brokenInto(face font.Face, text string, width, most int) []string {
	fits := func(line string) bool { return font.MeasureString(face, line).Ceil() <= width }
	var lines []string
	line := ""
	for _, word := range bytes.Fields([]byte(text)) {
		longer := line + " " + string(word)
		if line == "" {
			longer = string(word)
		}
		if fits(longer) {
			line = longer
			continue
		}
		if line != "" {
			lines = append(lines, line)
		}
		line = shortened(string(word), fits)
	}
	if lines = append(lines, line); len(lines) > most {
		lines = lines[:most]
		lines[most-1] = shortened(lines[most-1]+" …", fits)
	}
	return lines
}

// shortened is as much of a text as fits.
func shortened(text string, fits func(string) bool) string {
	letters := []rune(text)
	if fits(text) {
		return text
	}
	for len(letters) > 1 && !fits(string(letters)+"…") {
		letters = letters[:len(letters)-1]
	}
	return string(letters) + "…"
}

// drawRibbon draws a day's ribbon with open starts standing on it.
func drawRibbon(picture draw.Image, act color.Color) {
	top, bottom := cardHeight-150, cardHeight-90
	area := func(x0, y0, x1, y1 int, c color.Color) {
		draw.Draw(picture, image.Rect(x0, y0, x1, y1), image.NewUniform(c), image.Point{}, draw.Src)
	}
	area(cardMargin, top, cardWidth-cardMargin, bottom, color.RGBA{0xe3, 0xed, 0xe4, 0xff})
	area(cardMargin, bottom, cardWidth-cardMargin, bottom+2, color.RGBA{0xc3, 0xc9, 0xc0, 0xff})
	for i, x := 0, cardMargin+30; x < cardWidth-cardMargin-20; i, x = i+1, x+34 {
		if i%9 < 6 {
			area(x, top-18, x+5, bottom, act)
		}
	}
}
