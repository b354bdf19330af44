package app

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
	"regexp"

	"corrim/core/intake"
	"corrim/core/looks"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Looks is how a workspace's pages look and speak beyond what all have.
type Looks struct {
	Colour string `json:"colour" maxLength:"7" doc:"Of everything that can be acted on, like #0b5a5e; Corrim's own if empty."`
	Logo   string `json:"logo" maxLength:"64" doc:"A picture's hash."`
	Banner string `json:"banner" maxLength:"64" doc:"A picture's hash."`
	Book   string `json:"book" maxLength:"100" doc:"Instead of 'Book' on the button, before the time."`
	Ask    string `json:"ask" maxLength:"100" doc:"Instead of 'Ask for'."`
}

// PageLooks is the same as a page needs it; what could not be read is corrected.
type PageLooks struct {
	Light  *looks.Tones `json:"light,omitempty" doc:"On the light ground; Corrim's own if left out."`
	Dark   *looks.Tones `json:"dark,omitempty"`
	Logo   string       `json:"logo,omitempty" doc:"Path of the picture."`
	Banner string       `json:"banner,omitempty"`
	Book   string       `json:"book,omitempty"`
	Ask    string       `json:"ask,omitempty"`

	Own     bool   `json:"own,omitempty" doc:"The colour is the type's own, not the workspace's."`
	Short   string `json:"short,omitempty" doc:"The workspace's name where the whole one has no room."`
	Clock12 bool   `json:"clock12,omitempty" doc:"Times stand on a 12-hour clock."`
}

var hashPattern = regexp.MustCompile(`^[0-9a-f]{64}$`)

func (l Looks) normal() Looks {
	l.Book, l.Ask = intake.OneLine(l.Book), intake.OneLine(l.Ask)
	return l
}

func (l Looks) check(wrong refusal.Complaints) {
	if fault := colourFault(l.Colour); fault.Any() {
		wrong.Add("front.looks.colour", fault)
	}
	for field, hash := range map[string]string{"logo": l.Logo, "banner": l.Banner} {
		if hash != "" && !hashPattern.MatchString(hash) {
			wrong.Add("front.looks."+field, told.Say("choose-picture-again", "Choose the picture again."))
		}
	}
	for field, words := range map[string]string{"book": l.Book, "ask": l.Ask} {
		if len([]rune(words)) > 24 {
			wrong.Add("front.looks."+field, told.Say("button-holds-most", "A button holds at most 24 letters before the time."))
		}
	}
}

func colourFault(colour string) told.Words {
	if _, err := looks.Parse(colour); colour != "" && err != nil {
		return told.Say("give-colour-like-0b5a5e", "Give a colour like #0b5a5e, or none.")
	}
	return told.Words{}
}

// page is the looks as a page needs them.
func (l Looks) page() PageLooks {
	out := PageLooks{Book: l.Book, Ask: l.Ask}
	out.Light, out.Dark = tonesOf(l.Colour)
	out.Logo, out.Banner = pathOfPicture(l.Logo), pathOfPicture(l.Banner)
	return out
}

// tonesOf is what a page in a colour paints with, on light and on dark ground; of none it is nil.
func tonesOf(colour string) (light, dark *looks.Tones) {
	c, err := looks.Parse(colour)
	if err != nil {
		return nil, nil
	}
	onLight, onDark := looks.For(c, looks.LightGround), looks.For(c, looks.DarkGround)
	return &onLight, &onDark
}

// looks is the workspace's, in the type's own colour if it has one.
func (o offered) looks() PageLooks {
	out := o.host.home.Front.page()
	if light, dark := tonesOf(o.Offer.Colour); light != nil {
		out.Light, out.Dark, out.Own = light, dark, true
	}
	return out
}

// pathOfPicture is where a picture is served; of none it is empty.
func pathOfPicture(hash string) string {
	if hash == "" {
		return ""
	}
	return "/i/" + hash
}

// PreviewLooks is unsaved looks as a page of the person's workspace would have them.
func (a *App) PreviewLooks(p Person, l Looks) (PageLooks, error) {
	wrong := refusal.Complaints{}
	l.check(wrong)
	front := p.home.Front
	front.Looks = l.normal()
	return front.page(), wrong.Err()
}

// LooksDraft is looks as somebody has tried them last, and whether they are only tried.
type LooksDraft struct {
	Looks Looks `json:"looks"`
	Tried bool  `json:"tried" doc:"They differ from those that clients see."`
}

// LooksTried returns the looks that wait to be published; those that clients see, if none do.
func (a *App) LooksTried(ctx context.Context, p Person) (LooksDraft, error) {
	row, err := a.Store.WorkspaceByID(ctx, p.home.id)
	draft := LooksDraft{Looks: p.home.Front.Looks}
	if err != nil || row.LooksDraft == "" {
		return draft, err
	}
	err = json.Unmarshal([]byte(row.LooksDraft), &draft.Looks)
	draft.Tried = draft.Looks != p.home.Front.Looks
	return draft, err
}

// TryLooks keeps looks that wait to be published; whoever looks after the workspace goes on with them, wherever they sign in.
// They need not be right yet.
func (a *App) TryLooks(ctx context.Context, p Person, l Looks) (LooksDraft, error) {
	text, err := json.Marshal(l.normal())
	if err != nil {
		return LooksDraft{}, err
	}
	err = a.writeFor(ctx, p, identity.EditWorkspace, func(q *sqlc.Queries) error {
		return q.SetLooksDraft(ctx, sqlc.SetLooksDraftParams{ID: p.home.id, LooksDraft: string(text)})
	})
	if err != nil {
		return LooksDraft{}, err
	}
	return a.LooksTried(ctx, p)
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
func (a *App) KeepPicture(ctx context.Context, p Person, data []byte) (Picture, error) {
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
	err = a.writeFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		return q.AddImage(ctx, sqlc.AddImageParams{Hash: hash, WorkspaceID: p.home.id, Media: "image/" + kind, Bytes: data})
	})
	return Picture{hash, pathOfPicture(hash)}, err
}

// Picture returns a kept picture and its media type.
func (a *App) Picture(ctx context.Context, hash string) (data []byte, media string, err error) {
	row, err := a.Store.Image(ctx, hash)
	if errors.Is(err, store.ErrNotFound) {
		return nil, "", refusal.New(refusal.NotFound, told.Say("no-such-picture", "There is no such picture."))
	}
	return row.Bytes, row.Media, err
}
