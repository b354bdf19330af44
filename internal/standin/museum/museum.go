// Package museum is the web site of a made-up museum that has Corrim inside its pages, in the three ways there are. Its styles are as
// unfriendly to what it embeds as those of real sites.
package museum

import (
	"html/template"
	"net/http"
)

// view is one page of the site.
type view struct {
	Title, As, Words string
	Second           bool // another element beside the first, which says everything by attributes
}

var views = map[string]view{
	"/":       {Title: "Plan a loan with us", As: "inside", Words: "Our light advisers take calls about loans. Choose a time here:"},
	"/button": {Title: "Lamps, lux and glass", As: "button", Words: "Questions about a lamp? We will call you.", Second: true},
	"/link":   {Title: "Find your adviser", As: "link", Words: "A page of its own, if you prefer that:"},
	"/strict": {Title: "Under a strict policy", As: "inside", Words: "This page lets the script in, and no frame:"},
}

var page = template.Must(template.New("museum").Parse(`<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>{{.Title}} – Museum of Orbec</title>
<link rel="stylesheet" href="/unfriendly.css">
</head>
<body>
<header><p>Museum of Orbec</p>
<nav aria-label="Museum"><ul><li><a href="/">In the page</a></li><li><a href="/button">Behind a button</a></li><li><a href="/link">As a link</a></li></ul></nav></header>
<main>
<h1>{{.Title}}</h1>
<p>{{.Words}}</p>
<corrim-page as="{{.As}}"><a href="{{.Corrim}}/p/quillmere/loan-call">Choose a time for a call</a></corrim-page>
{{if .Second}}<p>Or have us look at your rooms, in German:</p>
<corrim-page as="button" type="survey" language="de" colour="#d0a21c" answers="q.rooms=3"><a href="{{.Corrim}}/p/quillmere">Räume ansehen lassen</a></corrim-page>{{end}}
<p>Tickets are sold at the door until half an hour before we close.</p>
<p id="told" role="log" aria-label="What this page was told"></p>
</main>
<script src="{{.Corrim}}/embed.js" async></script>
<script src="/told.js"></script>
</body>
</html>
`))

const unfriendly = `* { box-sizing: content-box !important; letter-spacing: .02em }
body { margin: 0 auto; max-width: 900px; padding: 0 20px; font: 18px/1.5 Georgia, serif; background: #fffbe9; color: #2b1608 }
header { display: flex; justify-content: space-between; border-bottom: 6px double #8a1c1c; flex-wrap: wrap }
header p { font-size: 28px; font-weight: bold; margin: 16px 0 }
ul { list-style: none; display: flex; gap: 20px; padding: 0 }
iframe { width: 200px !important; height: 80px !important; border: 9px dashed #c00 !important; float: left !important }
button { text-transform: uppercase !important; background: #c00 !important; transform: rotate(-2deg); font-size: 30px !important }
dialog { display: none !important }
a { color: #8a1c1c }
`

const told = `for (const what of ['opened', 'chosen', 'booked'])
  addEventListener('corrim-' + what, () => { document.getElementById('told').append(what + ' ') })
`

// New is the site, with Corrim at an address.
func New(corrim string) http.Handler {
	mux := http.NewServeMux()
	for path, v := range views {
		mux.HandleFunc("GET "+path+only(path), func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", "text/html; charset=utf-8")
			if path == "/strict" {
				w.Header().Set("Content-Security-Policy", "default-src 'self'; script-src 'self' "+corrim)
			}
			_ = page.Execute(w, struct {
				view
				Corrim string
			}{v, corrim}) // a browser that is gone needs no answer
		})
	}
	file := func(path, kind, text string) {
		mux.HandleFunc("GET "+path, func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", kind)
			_, _ = w.Write([]byte(text))
		})
	}
	file("/unfriendly.css", "text/css; charset=utf-8", unfriendly)
	file("/told.js", "text/javascript; charset=utf-8", told)
	return mux
}

// only lets "/" mean nothing below it.
func only(path string) string {
	if path == "/" {
		return "{$}"
	}
	return ""
}
