package app

import (
	"context"
	"log/slog"
	"slices"
	"sync"
	"time"

	"corrim/core/told"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store/sqlc"
	"corrim/internal/trace"
)

// teamNews is what coordinators are told of everybody in a workspace: whose bookings something lies over, and what has nothing open.
// In a large workspace it takes seconds to work out, and Today is asked for every half minute. So it is kept for a while, and worked out
// anew beside those who look; where it is quick, everybody gets it as it is. The first who looks doesn't wait long for it either.
type teamNews struct {
	clashes []teamClash
	empty   []emptyType
}

type teamClash struct {
	person schedule.Person
	clash  Clash
}

// emptyType is a type that nothing can be booked of, with who may mend it.
type emptyType struct {
	kind    schedule.MeetingType
	trouble schedule.Trouble
	mended  bool // by whom it was looked for
}

// teamWatch keeps the news of each workspace.
type teamWatch struct {
	mu   sync.Mutex
	news map[int64]*keptNews
}

type keptNews struct {
	waits func(usual time.Duration) time.Duration
	mu    sync.Mutex // held by whoever works them out, where that is quick
	news  teamNews
	at    time.Time // when they were worked out; never at first
	took  time.Duration
	wrote int64         // what had been written of what types are made of when somebody last began to work them out
	made  int64         // and for which of that they are
	doing chan struct{} // closed once those who work them out beside others are done; nil if nobody does
}

const (
	quickNews = 100 * time.Millisecond // so long everybody waits
	firstNews = 300 * time.Millisecond // so long whoever looks first waits
	newsFor   = time.Minute
)

// newsOf is the news of the person's workspace, once they are known.
func (a *App) newsOf(ctx context.Context, p schedule.Person) (news teamNews, known bool, err error) {
	return a.watch.of(p.Home.ID, a.Waits).get(ctx, a.Now, a.Log, a.Store.Written(settings.TypeTables...), func(ctx context.Context) (teamNews, error) { return a.findNews(ctx, p) })
}

// get returns the news, worked out by work if it is time for that, and whether there are any yet. Once types or hours were changed
// (wrote), they are old: whoever mended one looks next whether it is so.
func (k *keptNews) get(ctx context.Context, now func() time.Time, log *slog.Logger, wrote int64, work func(context.Context) (teamNews, error)) (news teamNews, known bool, err error) {
	k.mu.Lock()
	defer k.mu.Unlock()
	switch {
	case k.at.IsZero() || k.took >= k.waits(quickNews) && k.wrote != wrote:
		if k.doing != nil {
			break // somebody waits for it already
		}
		k.wrote = wrote
		done := k.beside(ctx, now, log, work)
		k.mu.Unlock()
		select {
		case <-done:
		case <-time.After(k.waits(firstNews)):
		case <-ctx.Done():
		}
		k.mu.Lock()
	case k.took < k.waits(quickNews):
		began := time.Now()
		if news, err = work(ctx); err != nil {
			return news, false, err
		}
		k.news, k.at, k.took, k.wrote, k.made = news, now(), time.Since(began), wrote, wrote
	case now().Sub(k.at).Abs() > newsFor:
		if k.doing == nil {
			k.beside(ctx, now, log, work)
		}
	}
	return k.news, !k.at.IsZero() && k.made == wrote, nil
}

// beside has the news worked out beside those who look, and returns what is closed afterwards.
func (k *keptNews) beside(ctx context.Context, now func() time.Time, log *slog.Logger, work func(context.Context) (teamNews, error)) chan struct{} {
	done, wrote := make(chan struct{}), k.wrote
	k.doing = done
	go func() {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), 2*time.Minute)
		defer cancel()
		began := time.Now()
		var news teamNews
		err := trace.Guard(ctx, log, "looking after the team", func() (err error) {
			news, err = work(ctx)
			return err
		})
		k.mu.Lock()
		defer k.mu.Unlock()
		k.doing = nil
		close(done)
		if err != nil {
			log.ErrorContext(ctx, "looking after the team", "error", err)
			return
		}
		k.news, k.at, k.took, k.made = news, now(), time.Since(began), wrote
	}()
	return done
}

func (w *teamWatch) of(workspace int64, waits func(time.Duration) time.Duration) *keptNews {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.news == nil {
		w.news = map[int64]*keptNews{}
	}
	if w.news[workspace] == nil {
		w.news[workspace] = &keptNews{waits: waits}
	}
	return w.news[workspace]
}

func (a *App) findNews(ctx context.Context, p schedule.Person) (news teamNews, err error) {
	if news.clashes, err = a.teamClashes(ctx, p); err == nil {
		news.empty, err = a.emptyTypes(ctx, p)
	}
	return news, err
}

// mostClashes bounds what is told of a team.
const mostClashes = 100

// teamClashes is the clashes of everybody in the person's workspace.
func (a *App) teamClashes(ctx context.Context, p schedule.Person) ([]teamClash, error) {
	now := a.Now()
	ids, err := a.Store.PeopleWithClashes(ctx, sqlc.PeopleWithClashesParams{WorkspaceID: p.Home.ID, Now: now.Unix(), Until: now.Add(clashAhead).Unix()})
	if err != nil {
		return nil, err
	}
	var out []teamClash
	for _, id := range ids {
		person, err := a.PersonByID(ctx, a.Store.Queries, id)
		if err != nil {
			return nil, err
		}
		clashes, err := a.clashes(ctx, person)
		if err != nil {
			return nil, err
		}
		for _, clash := range clashes {
			if len(out) < mostClashes {
				out = append(out, teamClash{person, clash})
			}
		}
	}
	return out, nil
}

// emptyTypes is all types of the person's workspace of which nothing can be booked in the coming fortnight.
func (a *App) emptyTypes(ctx context.Context, p schedule.Person) ([]emptyType, error) {
	types, err := a.TypesOf(ctx, p.Home)
	if err != nil {
		return nil, err
	}
	// It is kept for all coordinators: what is said must not depend on who of them looked first.
	return a.emptyOf(ctx, p, types, func(t schedule.MeetingType) schedule.MeetingType {
		t.Mine, t.Edits = false, true
		return t
	})
}

// ownEmptyTypes is those among the person's own that they can do something about.
func (a *App) ownEmptyTypes(ctx context.Context, p schedule.Person) ([]emptyType, error) {
	types, err := a.MeetingTypes(ctx, p, settings.TypeFilter{})
	if err != nil {
		return nil, err
	}
	empty, err := a.emptyOf(ctx, p, types, func(t schedule.MeetingType) schedule.MeetingType { return t.SeenBy(p) })
	return slices.DeleteFunc(empty, func(e emptyType) bool { return !e.mended }), err
}

// emptyOf is those types that clients should find open, and don't; seen is how a type is to those who are told. On which dates sessions
// are, their hosts know.
func (a *App) emptyOf(ctx context.Context, p schedule.Person, types []schedule.MeetingType, seen func(schedule.MeetingType) schedule.MeetingType) ([]emptyType, error) {
	known := a.Shelf(p, a.Fortnight(p))
	var out []emptyType
	for _, t := range types {
		if t.Listing == schedule.ListedOff || t.Who == "nobody" || t.Rules.Sessions {
			continue
		}
		l, _, err := a.CrewFrom(ctx, a.Store.Queries, known, t, 0)
		if err != nil {
			return nil, err
		}
		if len(l.Open(known.Within)) == 0 {
			kind := seen(t)
			out = append(out, emptyType{t, l.EmptyTrouble(p, kind, known.Within, a.TodayOf(p).String()), l.MendedBy(kind, known.Within)})
		}
	}
	return out, nil
}

// mends tells whether the person may do something about a type.
func (e emptyType) mends(p schedule.Person) bool { return e.kind.SeenBy(p).Edits }

// others are the clashes of the team beside the person's own.
func (n teamNews) others(p schedule.Person, own []Clash) []Clash {
	var out []Clash
	for _, one := range n.clashes {
		known := slices.ContainsFunc(own, func(mine Clash) bool { return mine.Booking.ID == one.clash.Booking.ID }) // of a meeting together
		if one.person.ID == p.ID || known {
			continue
		}
		clash := one.clash
		clash.Booking.Host = one.person.Name
		clash.Sentence = told.Say("clash-of-colleague", "Something in {}'s calendar lies over it, or its event was changed there.", one.person.Name)
		out = append(out, clash)
	}
	return out
}
