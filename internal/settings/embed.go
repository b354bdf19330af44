package settings

import (
	"context"
	"strings"

	"corrim/internal/schedule"
)

// Who may show a workspace's pages inside their own; see Front.Embed.
const embedNobody = "nobody"

// FrameAncestors is who may show a workspace's pages in a frame, as sources of a policy (CSP Level 3, 6.4.2). Corrim's own pages always
// may: they show them while they are changed.
func (s *Settings) FrameAncestors(ctx context.Context, slug string) string {
	row, err := s.store.WorkspaceBySlug(ctx, slug)
	if err != nil {
		return "'self'"
	}
	home, err := schedule.WorkspaceOf(row)
	if err != nil || home.Front.Embed == embedNobody || home.BeingSetUp() {
		return "'self'"
	}
	if home.Front.Embed == schedule.EmbedSites {
		return "'self' " + strings.Join(home.Front.Sites, " ")
	}
	return "*"
}
