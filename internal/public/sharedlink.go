package public

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"maps"
	"slices"
	"strings"
	"sync"
	"time"

	"corrim/core/intake"
	"corrim/core/share"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Prepared is what a link chooses and fills in on a type's page, as far as it fits.
type Prepared struct {
	Minutes  int                 `json:"minutes,omitempty"`
	Host     int64               `json:"host,omitempty"`
	Way      string              `json:"way,omitempty"`
	Language string              `json:"language,omitempty"`
	Day      string              `json:"day,omitempty" format:"date"`
	Asked    map[string]string   `json:"asked" doc:"Answers to what the page asks first, by attribute."`
	Said     intake.Given        `json:"said" doc:"Answers to the questions, by their IDs."`
	Name     string              `json:"name,omitempty"`
	Mail     string              `json:"mail,omitempty"`
	Remark   string              `json:"remark,omitempty"`
	Place    string              `json:"given,omitempty"`
	Guests   string              `json:"guests,omitempty"`
	Via      string              `json:"via,omitempty" doc:"The key of the named link that it is."`
	Looks    *schedule.PageLooks `json:"looks,omitempty" doc:"In the link's own colour."`
}

// LinkLanguage is the language that a link to one of the pages of a workspace asks for; empty if it asks for none that there is.
func (s *Pages) LinkLanguage(ctx context.Context, at PageAddress, query string) string {
	link := share.ParseQuery(query)
	if link.Language == "" && link.Via != "" && at.Type != "" {
		if kind, err := s.store.MeetingTypeBySlug(ctx, sqlc.MeetingTypeBySlugParams{Workspace: at.Workspace, Slug: at.Type}); err == nil {
			if link, err = s.named(ctx, kind.ID, link); err != nil {
				return ""
			}
		}
	}
	if slices.Contains(schedule.PageLanguages, link.Language) {
		return link.Language
	}
	return ""
}

// named is a link with what the name says that it has. One that was taken away says nothing any more, and an unknown one is none.
func (s *Pages) named(ctx context.Context, kind int64, link share.Link) (share.Link, error) {
	if link.Via == "" {
		return link, nil
	}
	kept, err := s.store.SharedLinkByKey(ctx, sqlc.SharedLinkByKeyParams{Key: link.Via, TypeID: kind})
	if errors.Is(err, store.ErrNotFound) {
		link.Via = ""
		return link, nil
	}
	if err == nil && kept.RemovedAt == 0 {
		link = share.ParseQuery(kept.Query).Over(link)
	}
	return link, err
}

// Prepared reads what stands behind the question mark of a type's address, for whoever may see the page.
func (s *Pages) Prepared(ctx context.Context, workspace, slug, query string, inside bool) (Prepared, error) {
	o, err := s.BookableAt(ctx, s.store.Queries, workspace, slug)
	if err != nil {
		return Prepared{}, err
	}
	if o.Host.Home.BeingSetUp() && !inside {
		return Prepared{}, errNoPage
	}
	return s.prepared(ctx, o, query)
}

func (s *Pages) prepared(ctx context.Context, o schedule.Bookable, query string) (Prepared, error) {
	link, err := s.named(ctx, o.ID, share.ParseQuery(query))
	if err != nil {
		return Prepared{}, err
	}
	link, _ = link.Fit(o.SharePage())
	p := Prepared{
		Minutes: link.Minutes, Way: link.Way, Language: link.Language, Day: link.Day, Asked: link.Asked, Said: link.Said,
		Name: link.Name, Mail: link.Mail, Remark: link.Remark, Place: link.Given, Guests: link.Guests, Via: link.Via,
	}
	for _, person := range o.Pool.People {
		if link.With != "" && person.Slug == link.With {
			p.Host = person.ID
		}
	}
	if light, dark := schedule.TonesOf(link.Colour); light != nil {
		looks := o.Looks()
		looks.Light, looks.Dark, looks.Own = light, dark, true
		p.Looks = &looks
	}
	return p, nil
}

// ViaOf is the named link that a key stands for, if it is one of the type's. One that isn't is no reason to refuse a booking.
func ViaOf(ctx context.Context, q *sqlc.Queries, kind int64, key string) (sql.NullInt64, error) {
	if key == "" {
		return sql.NullInt64{}, nil
	}
	link, err := q.SharedLinkByKey(ctx, sqlc.SharedLinkByKeyParams{Key: key, TypeID: kind})
	if errors.Is(err, store.ErrNotFound) {
		return sql.NullInt64{}, nil
	}
	return store.NullID(link.ID), err
}

// SharedLink is a prepared link with a name.
type SharedLink struct {
	ID      int64        `json:"id"`
	Name    string       `json:"name"`
	Says    share.Link   `json:"says" doc:"What it chooses and fills in."`
	Path    string       `json:"path" doc:"What is shared."`
	Opened  int64        `json:"opened" doc:"How often its page was opened; by whom is kept nowhere."`
	Booked  int64        `json:"booked"`
	Created time.Time    `json:"created"`
	By      string       `json:"by"`
	Misfits []told.Words `json:"misfits" doc:"What it says and the page has no place for any more."`
}

// LinkDraft is a link to be kept.
type LinkDraft struct {
	Name string     `json:"name" maxLength:"400"`
	Says share.Link `json:"says"`
}

const (
	mostLinks       = 200
	longestLinkName = 80
)

// SharedLinks lists the named links of a type, the latest first.
func (s *Pages) SharedLinks(ctx context.Context, p schedule.Person, id int64) ([]SharedLink, error) {
	kind, err := s.MeetingType(ctx, p, id)
	if err != nil {
		return nil, err
	}
	if err := s.opened.flush(ctx, s.store); err != nil {
		return nil, err
	}
	o, err := s.OfferedAs(ctx, s.store.Queries, p, kind, kind.Routing)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.SharedLinks(ctx, id)
	if err != nil {
		return nil, err
	}
	names, err := s.Names(ctx, p.Home.ID)
	page, out := o.SharePage(), make([]SharedLink, len(rows))
	for i, r := range rows {
		link := r.SharedLink
		says := share.ParseQuery(link.Query)
		_, misfits := says.Fit(page)
		out[i] = SharedLink{
			ID: link.ID, Name: link.Name, Says: says, Path: kind.Path + "?via=" + link.Key, Opened: link.Opened, Booked: r.Booked,
			Created: time.Unix(link.CreatedAt, 0).UTC(), By: names[link.MadeBy], Misfits: inSentences(misfits),
		}
	}
	return out, err
}

// inSentences names what a page has no place for.
func inSentences(misfits []share.Misfit) []told.Words {
	out := make([]told.Words, len(misfits))
	for i, m := range misfits {
		out[i] = told.Say("misfit", "“{}” for {}", intake.FirstLetters(m.Value, 60), m.What)
	}
	return out
}

// SaveLink keeps a link under a name, or another one in its place if the ID is not 0.
func (s *Pages) SaveLink(ctx context.Context, p schedule.Person, kind, id int64, d LinkDraft) ([]SharedLink, error) {
	d.Name = intake.OneLine(d.Name)
	if d.Name == "" || len([]rune(d.Name)) > longestLinkName {
		return nil, refusal.Faulty("name", told.Say("say-1-80", "Say in 1 to 80 letters what the link is for, like “autumn newsletter”."))
	}
	t, err := s.MeetingType(ctx, p, kind)
	if err != nil {
		return nil, err
	}
	d.Says.Via = ""
	says := share.Parse(d.Says.Values())
	if says.Query() != d.Says.Query() {
		return nil, refusal.Faulty("says", told.Say("link-fills-more", "The link fills in more than 8,000 letters. Leave some of it to the client."))
	}
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		if id != 0 {
			if err := s.ownLink(ctx, q, p, t, id); err != nil {
				return err
			}
			return q.SetSharedLink(ctx, sqlc.SetSharedLinkParams{ID: id, Name: d.Name, Query: says.Query()})
		}
		if there, err := q.CountSharedLinks(ctx, kind); err != nil || there >= mostLinks {
			return errors.Join(err, refusal.New(refusal.TooMany, told.Say("meeting-type-most", "A meeting type has at most 200 named links. Remove some of them first.")))
		}
		_, err := q.AddSharedLink(ctx, sqlc.AddSharedLinkParams{TypeID: kind, Key: newLinkKey(), Name: d.Name, Query: says.Query(), MadeBy: p.ID, CreatedAt: s.now().Unix()})
		return err
	})
	if err != nil {
		return nil, err
	}
	return s.SharedLinks(ctx, p, kind)
}

// RemoveLink takes a link out of the list. Its address leads to the page without filling anything in, and bookings keep its name.
func (s *Pages) RemoveLink(ctx context.Context, p schedule.Person, kind, id int64) ([]SharedLink, error) {
	t, err := s.MeetingType(ctx, p, kind)
	if err != nil {
		return nil, err
	}
	err = s.WriteFor(ctx, p, identity.EditOwn, func(q *sqlc.Queries) error {
		if err := s.ownLink(ctx, q, p, t, id); err != nil {
			return err
		}
		return q.RemoveSharedLink(ctx, sqlc.RemoveSharedLinkParams{ID: id, RemovedAt: s.now().Unix()})
	})
	if err != nil {
		return nil, err
	}
	return s.SharedLinks(ctx, p, kind)
}

// newLinkKey is short enough to be read out, and no secret.
func newLinkKey() string { return strings.ToLower(rand.Text()[:8]) }

// ownLink refuses links of others' types, and links that a colleague made, to whoever may not edit the type.
func (s *Pages) ownLink(ctx context.Context, q *sqlc.Queries, p schedule.Person, t schedule.MeetingType, id int64) error {
	link, err := q.SharedLink(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && link.TypeID != t.ID {
		return refusal.New(refusal.NotFound, told.Say("no-such-link", "There is no such link any more. Load the page again to see those there are."))
	}
	if err == nil && link.MadeBy != p.ID && !t.Edits {
		return refusal.New(refusal.Forbidden, told.Say("colleague-made-link", "A colleague made this link. Ask them, or a coordinator, to change it."))
	}
	return err
}

// LinkOpened counts that a page was opened by a named link.
func (s *Pages) LinkOpened(ctx context.Context, workspace, slug, query string) {
	key := share.ParseQuery(query).Via
	if key == "" {
		return
	}
	o, err := s.store.MeetingTypeBySlug(ctx, sqlc.MeetingTypeBySlugParams{Workspace: workspace, Slug: slug})
	if err != nil {
		return // nothing was opened
	}
	if link, err := s.store.SharedLinkByKey(ctx, sqlc.SharedLinkByKeyParams{Key: key, TypeID: o.ID}); err == nil {
		s.opened.count(link.ID)
	}
}

// openings are links that were opened, counted in memory for a while, so that a page that many look at costs no writing each time.
type openings struct {
	mu    sync.Mutex
	times map[int64]int64
}

func (o *openings) count(link int64) {
	o.mu.Lock()
	defer o.mu.Unlock()
	if o.times == nil {
		o.times = map[int64]int64{}
	}
	o.times[link]++
}

// flush writes what was counted; what can't be written waits for the next time.
func (o *openings) flush(ctx context.Context, s *store.Store) error {
	o.mu.Lock()
	counted := o.times
	o.times = nil
	o.mu.Unlock()
	if len(counted) == 0 {
		return nil
	}
	err := s.Write(ctx, func(q *sqlc.Queries) error {
		for _, link := range slices.Sorted(maps.Keys(counted)) {
			if err := q.LinkOpened(ctx, sqlc.LinkOpenedParams{ID: link, Times: counted[link]}); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		o.mu.Lock()
		defer o.mu.Unlock()
		if o.times == nil {
			o.times = map[int64]int64{}
		}
		for link, times := range counted {
			o.times[link] += times
		}
	}
	return err
}

// KeepOpenings writes what was counted every minute, and when the program ends.
func (s *Pages) KeepOpenings(ctx context.Context) {
	flush := func(ctx context.Context) {
		if err := s.opened.flush(ctx, s.store); err != nil {
			s.log.ErrorContext(ctx, "how often links were opened can't be written yet", "error", err)
		}
	}
	for {
		select {
		case <-ctx.Done():
			flush(context.WithoutCancel(ctx))
			return
		case <-time.After(time.Minute):
			flush(ctx)
		}
	}
}
