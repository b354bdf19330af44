// Package app is Corrim's use cases: what a host, a coordinator or a client can do, one file per subject.
//
// A use case loads what the rules need, asks core, writes in one transaction and returns values for the API to send. It
// decides everything that is decided: neither the API nor a screen computes availability. What it needs of the outside
// world are the small interfaces below; package outside implements them and cmd wires them up.
package app

import (
	"context"
	"log/slog"
	"sync"
	"time"

	"corrim/internal/calsync"
	"corrim/internal/identity"
	"corrim/internal/job"
	"corrim/internal/public"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/settings"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
	"corrim/internal/trace"
	"corrim/internal/undo"
)

// Mail is a message to one person.
type Mail struct {
	ID        string // within this installation; stable over retries, so that a receiver can tell a repetition
	FromName  string
	ReplyTo   schedule.Address
	To        schedule.Address
	Subject   string
	Text      string
	HTML      string
	Invite    []byte   // iCalendar, or nil
	InviteFor string   // its method
	Others    [][]byte // invitations to what else was booked with it, of the same method
	Back      string   // the address to which it comes back if it can't be delivered; the sender's if it is empty
	Files     []File   // beside it
	copied    bool     // of another one, for an address that is told of every booking
	Leave     string   // where its receiver ends mail of its kind with one press (RFC 8058); may be empty
}

// File is something that goes with a mail.
type File struct {
	Name, Type string
	Data       []byte
}

// Mailer sends mail. A nil error means that the next server has taken the message over.
type Mailer interface {
	Send(ctx context.Context, m Mail) error
}

// Room is a video room.
type Room struct {
	URL      string `json:"url"`
	Passcode string `json:"passcode,omitempty"` // to be entered, if it was wished for
}

// RoomWish is the room of a booking as it should be.
type RoomWish struct {
	Title string    `json:"title"`
	From  time.Time `json:"from"`
	To    time.Time `json:"to"`
	schedule.RoomOptions
}

// Rooms makes video rooms. Keep makes the booking's room or moves it to its new time: asking twice changes nothing.
type Rooms interface {
	Keep(ctx context.Context, booking string, wish RoomWish) (Room, error)
	Close(ctx context.Context, booking string) error
}

// App holds what all use cases share.
type App struct {
	Config
	*schedule.Service
	*settings.Settings
	*public.Pages
	Identity  *identity.Service
	secrets   secrets.Keys
	name      string     // of the installation, in the names of its mails
	runs      []sqlc.Run // of the program, in the same
	calendars *calsync.Sync
	puzzles   puzzles
	watch     teamWatch
	jobs      *job.Worker
	history   undo.Subjects[schedule.Person]
}

// Config is what App is made from.
type Config struct {
	Store   *store.Store
	Servers calsync.CalendarServer
	Feeds   calsync.Feeds
	Mailer  Mailer
	Rooms   Rooms
	Texter  Texter // nil if there is no gateway
	Key     []byte // the installation's, secrets.KeySize bytes: it opens the keys of all purposes
	BaseURL string // without a slash at the end
	Log     *slog.Logger
	Now     func() time.Time
	Demo    bool // one-click sign-in

	MailFrom       string   // that mail comes from
	TakesMail      bool     // mail to addresses that are made of MailFrom comes in by Arrive
	TextsTo        []string // the countries that text messages go to, as prefixes like "+44"; all if there are none
	TextsToken     string   // that the gateway shows when it reports
	PasswordMemory uint32   // KiB that hashing a password takes; as much as is safe if it is 0
	Patience       int      // waits for others are so many times as long, once if it is 0: tests of other things don't hang on how fast a machine is
}

// New makes an App. Run must be called for its background work.
func New(ctx context.Context, c Config) (*App, error) {
	keys, err := secrets.Open(ctx, c.Store, c.Key)
	if err != nil {
		return nil, err
	}
	name, err := c.Store.InstallationID(ctx)
	if err != nil {
		return nil, err
	}
	runs, err := newRun(ctx, c.Store)
	if err != nil {
		return nil, err
	}
	c.Patience = max(c.Patience, 1)
	a := &App{Config: c, secrets: keys, name: name, runs: runs, puzzles: puzzles{secrets: keys}}
	a.Identity = identity.New(identity.Config{
		Store: c.Store, Keys: keys, Log: c.Log, Now: c.Now, Demo: c.Demo, PasswordMemory: c.PasswordMemory, Notify: a.notify, Wake: a.Wake,
	})
	a.history = a.undoable()
	a.calendars = a.calendarSync()
	texts := func() bool { return a.Texter != nil }
	a.Service = schedule.New(schedule.Config{
		Store: c.Store, Now: c.Now, Calendars: a.calendars, Texts: texts, TextsTo: c.TextsTo, SendsTexts: a.sendsTexts,
	})
	a.Settings = settings.New(settings.Config{
		Schedule: a.Service, Store: c.Store, Now: c.Now, History: a.history, Texts: texts, RaiseSeats: a.raiseSeats, PlanDecisions: a.planDecisions,
	})
	a.Pages = public.New(public.Config{Settings: a.Settings, Store: c.Store, Now: c.Now, Log: c.Log, BaseURL: c.BaseURL})
	a.jobs = job.NewWorker(c.Store, c.Log, c.Now, a.kinds())
	return a, nil
}

// Run does the background work until ctx ends: jobs, the reading of calendars, giving times back, and looking after the database.
func (a *App) Run(ctx context.Context) {
	others := sync.WaitGroup{}
	if err := a.planStanding(ctx); err != nil {
		a.Log.ErrorContext(ctx, "planning what is done again and again", "error", err)
	}
	for what, forever := range map[string]func(context.Context){"looking after the database": a.checkForever, "keeping what is open warm": a.KeepOpenings} {
		others.Go(func() {
			for ctx.Err() == nil {
				if trace.Guard(ctx, a.Log, what, func() error { forever(ctx); return nil }) != nil {
					select { // a fault that lasts is not tried again at once
					case <-ctx.Done():
					case <-time.After(time.Minute):
					}
				}
			}
		})
	}
	a.jobs.Run(ctx)
	others.Wait()
}

const checkEvery = 24 * time.Hour

// checkForever reads all of the database now and then, so that damage is found while there are copies from before it.
func (a *App) checkForever(ctx context.Context) {
	for ctx.Err() == nil {
		if err := a.Store.Tune(ctx); err != nil && ctx.Err() == nil {
			a.Log.ErrorContext(ctx, "counting what is in the database", "error", err)
		}
		if err := a.Store.Check(ctx); err != nil && ctx.Err() == nil {
			a.Log.ErrorContext(ctx, "the database is damaged; stop Corrim and put back a copy from before", "error", err)
		}
		select {
		case <-ctx.Done():
		case <-time.After(checkEvery):
		}
	}
}
