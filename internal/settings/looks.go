package settings

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"image"
	_ "image/jpeg" // the two kinds of pictures that are taken
	_ "image/png"

	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// PreviewLooks is unsaved looks as a page of the person's workspace would have them.
func (s *Settings) PreviewLooks(p schedule.Person, l schedule.Looks) (schedule.PageLooks, error) {
	wrong := refusal.Complaints{}
	l.Check(wrong)
	front := p.Home.Front
	front.Looks = l.Normal()
	return front.Page(), wrong.Err()
}

// LooksDraft is looks as somebody has tried them last, and whether they are only tried.
type LooksDraft struct {
	Looks schedule.Looks `json:"looks"`
	Tried bool           `json:"tried" doc:"They differ from those that clients see."`
}

// LooksTried returns the looks that wait to be published; those that clients see, if none do.
func (s *Settings) LooksTried(ctx context.Context, p schedule.Person) (LooksDraft, error) {
	row, err := s.store.WorkspaceByID(ctx, p.Home.ID)
	draft := LooksDraft{Looks: p.Home.Front.Looks}
	if err != nil || row.LooksDraft == "" {
		return draft, err
	}
	err = json.Unmarshal([]byte(row.LooksDraft), &draft.Looks)
	draft.Tried = draft.Looks != p.Home.Front.Looks
	return draft, err
}

// TryLooks keeps looks that wait to be published; whoever looks after the workspace goes on with them, wherever they sign in.
// They need not be right yet.
func (s *Settings) TryLooks(ctx context.Context, p schedule.Person, l schedule.Looks) (LooksDraft, error) {
	text, err := json.Marshal(l.Normal())
	if err != nil {
		return LooksDraft{}, err
	}
	err = s.WriteFor(ctx, p, identity.EditWorkspace, func(q *sqlc.Queries) error {
		return q.SetLooksDraft(ctx, sqlc.SetLooksDraftParams{ID: p.Home.ID, LooksDraft: string(text)})
	})
	if err != nil {
		return LooksDraft{}, err
	}
	return s.LooksTried(ctx, p)
}

const (
	mostBytes = 1 << 20
	mostSide  = 4000
)

// Picture is a kept picture.
type Picture struct {
	Hash string `json:"hash"`
	Path string `json:"path"`
}

// KeepPicture keeps a PNG or JPEG for the workspace's pages. What it claims to be doesn't count, only what is in it.
func (s *Settings) KeepPicture(ctx context.Context, p schedule.Person, data []byte) (Picture, error) {
	if len(data) > mostBytes {
		return Picture{}, refusal.Faulty("picture", told.Say("picture-most-1", "A picture has at most 1 MB here. Save it smaller, and choose it again."))
	}
	size, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return Picture{}, refusal.Faulty("picture", told.Say("no-picture-shown", "This is no picture that can be shown here. Choose a PNG or a JPEG."))
	}
	if size.Width > mostSide || size.Height > mostSide {
		return Picture{}, refusal.Faulty("picture", told.Say("picture-points-most", "The picture is {} by {} points. At most {} a side are taken.", size.Width, size.Height, mostSide))
	}
	sum := sha256.Sum256(data)
	hash := hex.EncodeToString(sum[:])
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		return q.AddImage(ctx, sqlc.AddImageParams{Hash: hash, WorkspaceID: p.Home.ID, Media: "image/" + kind, Bytes: data})
	})
	return Picture{hash, schedule.PathOfPicture(hash)}, err
}

// Picture returns a kept picture and its media type.
func (s *Settings) Picture(ctx context.Context, hash string) (data []byte, media string, err error) {
	row, err := s.store.Image(ctx, hash)
	if errors.Is(err, store.ErrNotFound) {
		return nil, "", refusal.New(refusal.NotFound, told.Say("no-such-picture", "There is no such picture."))
	}
	return row.Bytes, row.Media, err
}
