package api

import (
	"bytes"
	"context"
	"crypto/rand"
	"html/template"
	"io/fs"
	"net/http"
	"strconv"
	"sync"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"corrim/core/share"
	"corrim/core/told"
	"corrim/internal/public"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/ui"
)

// SharedPage says which page is shared. It is exported because huma looks into embedded structs only if they are.
type SharedPage struct {
	Kind     string `query:"kind" enum:"type,person,team,workspace" required:"true"`
	ID       int64  `query:"id" minimum:"0" doc:"Of the type, person or team."`
	Language string `query:"language" maxLength:"20" doc:"Of what is pasted or printed; the workspace's if left out."`
}

// TypeLink names a named link of a type.
type TypeLink struct {
	ByID
	Link int64 `path:"link" minimum:"1"`
}

func (s *server) shareOperations(api huma.API) {
	operation(s, api, http.MethodPost, "/share", "sharing", "What is needed to share a page, with what its link is to say", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		SharedPage
		Body share.Link
	}) (public.Sharing, error) {
		return s.app.Sharing(ctx, p, public.Shared{Kind: in.Kind, ID: in.ID, Language: in.Language, Says: in.Body})
	}))
	operation(s, api, http.MethodGet, "/types/{id}/links", "shared-links", "The named links of a type", forHost(s, func(ctx context.Context, p schedule.Person, in *ByID) ([]public.SharedLink, error) {
		return s.app.SharedLinks(ctx, p, in.ID)
	}))
	operation(s, api, http.MethodPost, "/types/{id}/links", "add-link", "Keep a prepared link under a name", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body public.LinkDraft
	}) ([]public.SharedLink, error) {
		return s.app.SaveLink(ctx, p, in.ID, 0, in.Body)
	}))
	operation(s, api, http.MethodPut, "/types/{id}/links/{link}", "save-link", "Change a named link", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		TypeLink
		Body public.LinkDraft
	}) ([]public.SharedLink, error) {
		return s.app.SaveLink(ctx, p, in.ID, in.Link, in.Body)
	}))
	operation(s, api, http.MethodDelete, "/types/{id}/links/{link}", "remove-link", "Take a named link away; bookings keep its name", forHost(s, func(ctx context.Context, p schedule.Person, in *TypeLink) ([]public.SharedLink, error) {
		return s.app.RemoveLink(ctx, p, in.ID, in.Link)
	}))
	operation(s, api, http.MethodPost, "/types/{id}/times", "times-to-paste", "Open times as links, to be pasted into a mail", forHost(s, func(ctx context.Context, p schedule.Person, in *struct {
		ByID
		Body public.TimesWish
	}) (public.TimesToPaste, error) {
		return s.app.TimesToPaste(ctx, p, in.ID, in.Body)
	}))
}

// shared is which page an address that isn't an operation's is about, and who asks.
func (s *server) shared(r *http.Request) (schedule.Person, public.Shared, error) {
	person, err := s.signedIn(r.Context())
	asked := r.URL.Query()
	id, _ := strconv.ParseInt(asked.Get("id"), 10, 64) // 0 is the workspace, or nothing
	return person, public.Shared{Kind: asked.Get("kind"), ID: id, Says: share.ParseQuery(asked.Get("says")), Language: asked.Get("language")}, err
}

// Pixels per module that a code may have: 12 print 40 mm at 300 dpi for a usual address.
const mostPixels = 40

// codeFile sends the address of a page as a QR code, as SVG or PNG.
func (s *server) codeFile(w http.ResponseWriter, r *http.Request) {
	form := chi.URLParam(r, "form")
	kind := map[string]string{"svg": "image/svg+xml", "png": "image/png"}[form]
	picture, err := func() ([]byte, error) {
		person, asked, err := s.shared(r)
		if err != nil {
			return nil, err
		}
		sharing, err := s.app.Sharing(r.Context(), person, asked)
		if err != nil {
			return nil, err
		}
		code, err := share.NewCode(sharing.Address)
		if err != nil {
			return nil, refusal.New(refusal.TooLarge, told.Say("link-fills-too", "The link fills in too much for a code. Give it a name: then its address is short."))
		}
		if form != "png" {
			return code.SVG(), nil
		}
		pixels, err := strconv.Atoi(r.URL.Query().Get("pixels"))
		if err != nil || pixels < 1 || pixels > mostPixels {
			pixels = 12
		}
		return code.PNG(pixels)
	}()
	s.file(w, r, kind, "code."+form, picture, err)
}

// paper is a size that a sheet is printed in, in millimetres.
type paper struct{ Width, Height, Code int }

var papers = map[string]paper{"a4": {210, 297, 130}, "a6": {105, 148, 64}, "card": {85, 55, 32}}

var sheet = template.Must(template.New("sheet").Parse(`<!doctype html>
<html lang="{{.Sheet.Language}}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>{{.Sheet.Name}} · {{.Sheet.Workspace}}</title>
<style nonce="{{.Nonce}}">
@page { size: {{.Paper.Width}}mm {{.Paper.Height}}mm; margin: 0 }
* { box-sizing: border-box; margin: 0 }
html { background: #d9ddd5 }
{{with .Fonts.Head}}@font-face { font-family: Newsreader; font-weight: 500; src: url({{.}}) format("woff2") }{{end}}
{{with .Fonts.Text}}@font-face { font-family: "IBM Plex Sans"; font-weight: 100 700; src: url({{.}}) format("woff2") }{{end}}
body { font: 15pt/1.35 "IBM Plex Sans", "Helvetica Neue", sans-serif; color: #17211f }
main { width: {{.Paper.Width}}mm; height: {{.Paper.Height}}mm; overflow: hidden; background: #fff; display: flex; flex-direction: column; align-items: center; justify-content: space-between; text-align: center; padding: 11% 8% }
h1 { font: 500 40pt/1.12 Newsreader, Georgia, serif; overflow-wrap: anywhere; text-wrap: balance }
.logo { max-width: 40%; max-height: 16mm; object-fit: contain }
.code { flex: none; width: {{.Paper.Code}}mm; height: {{.Paper.Code}}mm }
.code svg { display: block; width: 100%; height: 100% }
.address { color: {{.Sheet.Colour}}; font-weight: 600; overflow-wrap: anywhere }
.line { border-top: 1mm solid {{.Sheet.Colour}}; width: 24mm; margin: 4mm auto }
.a6 { font-size: 9.5pt } .a6 h1 { font-size: 21pt } .a6 .logo { max-height: 9mm } .a6 .line { width: 14mm; margin: 2.5mm auto }
.card { flex-direction: row; text-align: left; gap: 4mm; padding: 5mm; font-size: 7pt }
.card h1 { font-size: 14pt } .card .logo { max-height: 7mm } .card .line { width: 10mm; border-width: .6mm; margin: 1.5mm 0 2.5mm }
p.print { font-size: 11pt; padding: 4mm } button { font: inherit; padding: 1.5mm 4mm }
@media print { html { background: none } p.print { display: none } }
</style>
</head>
<body>
<p class="print"><button type="button" id="print">Print</button></p>
<main class="{{.Size}}">
{{define "names"}}{{with .Logo}}<img class="logo" src="{{.}}" alt="">{{end}}<p>{{.Workspace}}</p><h1>{{.Name}}</h1><div class="line"></div>{{end}}
{{define "address"}}<p>{{.Scan}}</p><p class="address">{{.Shown}}</p>{{end}}
{{if eq .Size "card"}}<div>{{template "names" .Sheet}}{{template "address" .Sheet}}</div><div class="code">{{.Code}}</div>
{{else}}<div>{{template "names" .Sheet}}</div><div class="code">{{.Code}}</div><div>{{template "address" .Sheet}}</div>{{end}}
</main>
<script nonce="{{.Nonce}}">document.getElementById('print').addEventListener('click', () => print())</script>
</body>
</html>
`))

// sheetFonts are where the fonts are that pages are set in, under the names that they were built with.
var sheetFonts = sync.OnceValue(func() (out struct{ Head, Text string }) {
	files, _ := ui.Files()
	for pattern, path := range map[string]*string{"assets/newsreader-latin-500-*.woff2": &out.Head, "assets/ibm-plex-sans-latin-wght-*.woff2": &out.Text} {
		if found, err := fs.Glob(files, pattern); err == nil && len(found) > 0 {
			*path = "/" + found[0]
		}
	}
	return out
})

// sheetPage is a page to be printed: a name, a code and the address under it, on one page of the size that was asked for.
func (s *server) sheetPage(w http.ResponseWriter, r *http.Request) {
	size := r.URL.Query().Get("size")
	if _, known := papers[size]; !known {
		size = "a4"
	}
	text, nonce, err := func() (text bytes.Buffer, nonce string, err error) {
		person, asked, err := s.shared(r)
		if err != nil {
			return text, nonce, err
		}
		said, err := s.app.Sheet(r.Context(), person, asked)
		if err != nil {
			return text, nonce, err
		}
		code, err := share.NewCode(said.Address)
		if err != nil {
			return text, nonce, refusal.New(refusal.TooLarge, told.Say("link-fills-too", "The link fills in too much for a code. Give it a name: then its address is short."))
		}
		nonce = rand.Text()
		drawn := template.HTML(code.SVG()) // figures only, drawn by us
		err = sheet.Execute(&text, map[string]any{"Sheet": said, "Paper": papers[size], "Size": size, "Code": drawn, "Nonce": nonce, "Fonts": sheetFonts()})
		return text, nonce, err
	}()
	if err != nil {
		if problem, ok := problemOf(r.Context(), s.log, err).(*Problem); ok {
			problem.write(w)
		}
		return
	}
	h := w.Header()
	h.Set("Content-Type", "text/html; charset=utf-8")
	h.Set("Content-Security-Policy", "default-src 'none'; style-src 'nonce-"+nonce+"'; script-src 'nonce-"+nonce+"'; img-src 'self'; font-src 'self'; frame-ancestors 'self'")
	_, _ = text.WriteTo(w)
}
