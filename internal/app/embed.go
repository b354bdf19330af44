package app

import (
	"context"
	"net/url"
	"slices"
	"strings"

	"corrim/core/told"
	"corrim/internal/refusal"
)

// Who may show a workspace's pages inside their own; see Front.Embed.
const (
	embedNobody = "nobody"
	embedSites  = "sites"
)

// normalSites is origins as browsers compare them: small letters, without a path, each once.
func normalSites(sites []string) []string {
	var out []string
	for _, site := range sites {
		site = strings.TrimSpace(site)
		if u, err := url.Parse(site); err == nil && u.Scheme != "" && u.Host != "" {
			site = strings.ToLower(u.Scheme + "://" + u.Host)
		}
		if site != "" && !slices.Contains(out, site) {
			out = append(out, site)
		}
	}
	return out
}

func (f Front) checkSites(wrong refusal.Complaints) {
	if f.Embed == embedSites && len(f.Sites) == 0 {
		wrong.Add("front.sites", told.Say("name-least-one", "Name at least one site that may show your pages, or let anybody or nobody."))
	}
	for _, site := range f.Sites {
		// What CSP takes as a source, and nothing that would end the directive.
		u, err := url.Parse(site)
		if err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "" || strings.ContainsAny(u.Host, ";,'\" *") || u.User != nil {
			wrong.Add("front.sites", told.Say("beginning-web-address", "“{}” is not the beginning of a web address. Give sites like https://museum.example, with a port if they have one.", site))
		}
	}
}

// FrameAncestors is who may show a workspace's pages in a frame, as sources of a policy (CSP Level 3, 6.4.2). Corrim's own pages always
// may: they show them while they are changed.
func (a *App) FrameAncestors(ctx context.Context, slug string) string {
	row, err := a.Store.WorkspaceBySlug(ctx, slug)
	if err != nil {
		return "'self'"
	}
	home, err := workspaceOf(row)
	if err != nil || home.Front.Embed == embedNobody || home.beingSetUp() {
		return "'self'"
	}
	if home.Front.Embed == embedSites {
		return "'self' " + strings.Join(home.Front.Sites, " ")
	}
	return "*"
}
