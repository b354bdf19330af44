// Package standin holds what the simulated outside services share: the frame of their plain pages. Each service is a
// package of its own that speaks the real protocol of what it stands for, so that a real one needs only its address.
package standin

import (
	"html/template"
	"net/http"
)

const frame = `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>{{.Title}}</title>
<style>
body{margin:0 auto;max-width:760px;padding:24px 20px 60px;background:#f5f6f2;color:#17211f;font:15px/1.5 system-ui,sans-serif}
h1{font:500 26px/1.3 Georgia,serif;margin:0 0 4px} h2{font:500 19px/1.3 Georgia,serif;margin:28px 0 6px}
a{color:#0b5a5e} .faint{color:#4a5753;font-size:13.5px} ul{list-style:none;margin:0;padding:0}
li{border-top:1px solid #d9ddd5;padding:9px 0} li form{display:inline}
input,select,textarea{font:inherit;color:inherit;background:#fcfcfa;border:0;border-bottom:1px solid #67736f;padding:4px 2px}
label{display:inline-block;margin:0 14px 10px 0} label span{display:block;font-size:13.5px;color:#4a5753}
button{font:inherit;font-weight:600;background:#0b5a5e;color:#fff;border:0;border-radius:2px;padding:6px 14px;cursor:pointer}
button.quiet{background:none;color:#0b5a5e;padding:2px 6px;font-weight:400;text-decoration:underline}
:focus-visible{outline:2px solid #0b5a5e;outline-offset:2px} summary{cursor:pointer;color:#0b5a5e} iframe{width:100%;border:1px solid #d9ddd5;background:#fff}
pre{white-space:pre-wrap;overflow-wrap:anywhere;background:#fcfcfa;border:1px solid #d9ddd5;padding:12px;font-size:13.5px}
</style></head><body>{{template "body" .}}
<p class="faint" style="margin-top:48px">A stand-in that ships with Corrim. It speaks the real protocol; only made-up data belongs here.</p></body></html>`

// Page makes a template of the frame with the given body; its data needs a Title.
func Page(body string) *template.Template {
	return template.Must(template.Must(template.New("frame").Parse(frame)).New("body").Parse(body))
}

// Show writes the page.
func Show(w http.ResponseWriter, page *template.Template, data any) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-src 'self'; frame-ancestors 'self'")
	_ = page.ExecuteTemplate(w, "frame", data) // an error here means that the reader has gone
}
