package main

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"path/filepath"
	"strings"
	"time"

	"golang.org/x/sync/errgroup"

	"corrim/internal/api"
	"corrim/internal/demo"
	"corrim/internal/inbound"
	"corrim/internal/standin/calendar"
	"corrim/internal/standin/mail"
	"corrim/internal/standin/museum"
	"corrim/internal/standin/rooms"
	"corrim/internal/standin/texts"
	"corrim/internal/store"
	"corrim/internal/trace"
)

type demoCommand struct {
	place
	CalendarAddr string    `default:"localhost:8081" env:"CORRIM_CALENDAR_ADDR" help:"Of the stand-in calendar server."`
	InboxAddr    string    `default:"localhost:8082" env:"CORRIM_INBOX_ADDR" help:"Of the stand-in mail server's inbox page."`
	RoomsAddr    string    `default:"localhost:8083" env:"CORRIM_ROOMS_ADDR" help:"Of the stand-in video rooms."`
	PhonesAddr   string    `default:"localhost:8085" env:"CORRIM_PHONES_ADDR" help:"Of the stand-in gateway for text messages, with its phones."`
	MuseumAddr   string    `default:"localhost:8084" env:"CORRIM_MUSEUM_ADDR" help:"Of a made-up museum's web site that has Corrim inside."`
	SMTPAddr     string    `name:"smtp-addr" default:"localhost:8025" env:"CORRIM_SMTP_ADDR" help:"Of the stand-in mail server."`
	InboundAddr  string    `default:"localhost:8026" env:"CORRIM_INBOUND_ADDR" help:"Where the stand-in mail server hands in what people answer."`
	Empty        bool      `help:"Start with nothing set up, to see the first run."`
	Verbose      bool      `help:"Log every request."`
	Now          time.Time `placeholder:"TIME" help:"Start with the clock at this time, like 2027-03-14T09:00:00Z, to see what a later day brings. A demo that is there already stays as it is."`
	Grow         int       `placeholder:"ADVISERS" help:"Add years of use when planting: so many more advisers, and some 1,600 bookings for everybody."`

	ahead time.Duration // of the true time
}

const (
	demoRoomsToken = "demo"
	demoTextsToken = "demo"
)

// now is the time by a clock that was set when the demo was started, and goes on since.
func (c *demoCommand) now() time.Time { return time.Now().Add(c.ahead) }

// Run serves the demo until it is stopped.
func (c *demoCommand) Run(ctx context.Context) error {
	if !c.Now.IsZero() {
		c.ahead = time.Until(c.Now)
	}
	if c.Empty {
		c.Data = cmp.Or(c.Data, defaultEmptyData)
		if err := os.MkdirAll(c.Data, 0o700); err != nil {
			return err
		}
	} else {
		c.Data = cmp.Or(c.Data, defaultDemoData)
		if err := c.freshDay(); err != nil {
			return err
		}
	}
	calendars, err := calendar.New(filepath.Join(c.Data, "calendars.json"), c.now)
	if err != nil {
		return err
	}
	inbox, err := mail.New(filepath.Join(c.Data, "mail"))
	if err != nil {
		return err
	}
	inbox.Back = c.InboundAddr
	clock := &demo.Clock{True: c.now}
	videoRooms, err := rooms.New("http://"+c.RoomsAddr, demoRoomsToken, filepath.Join(c.Data, "rooms.json"), c.now)
	if err != nil {
		return err
	}
	phones, err := texts.New(c.baseURL()+"/api/texts/report", demoTextsToken, filepath.Join(c.Data, "texts.json"), c.now)
	if err != nil {
		return err
	}
	outside := services{SMTP: c.SMTPAddr, MailFrom: "bookings@quillmere.example", Rooms: "http://" + c.RoomsAddr, RoomsToken: demoRoomsToken, Texts: "http://" + c.PhonesAddr, TextsToken: demoTextsToken, Inbound: c.InboundAddr}
	a, closeStore, err := c.wire(ctx, outside, true, c.log(), clock.Now, true)
	if err != nil {
		return err
	}
	defer closeStore()

	group, ctx := errgroup.WithContext(ctx)
	group.Go(func() error { return listen(ctx, c.CalendarAddr, calendars) })
	group.Go(func() error { return listen(ctx, c.InboxAddr, inbox.Pages) })
	group.Go(func() error { return listen(ctx, c.RoomsAddr, videoRooms) })
	group.Go(func() error { return listen(ctx, c.PhonesAddr, phones) })
	group.Go(func() error { return listen(ctx, c.MuseumAddr, museum.New(a.BaseURL)) })
	group.Go(func() error { return serveSMTP(ctx, c.SMTPAddr, inbox) })
	group.Go(func() error { return inbound.Serve(ctx, c.InboundAddr, a, c.log()) })
	group.Go(func() error { a.Run(ctx); return nil })
	group.Go(func() error {
		planted, err := a.Store.CountWorkspaces(ctx)
		if err != nil {
			return err
		}
		if c.Empty {
			if err := c.lendCalendar(calendars); err != nil {
				return err
			}
		}
		if planted == 0 && c.Empty {
			fmt.Print(firstRun(a))
			fmt.Printf("A stand-in calendar to connect afterwards: %s, user name %s, password %s\n\n", c.CalendarAddr, newcomer, demo.Password)
		} else if planted == 0 {
			fmt.Println("Planting the demo …")
			if err := c.waitForStandins(ctx); err != nil {
				return err
			}
			if err := (demo.Planter{App: a, Clock: clock, Calendars: calendars, CalendarURL: "http://" + c.CalendarAddr}).Plant(ctx); err != nil {
				return err
			}
			if c.Grow > 0 {
				fmt.Printf("Growing it by %d advisers …\n", c.Grow)
				if err := demo.Grow(ctx, a.Store, c.Grow, c.now()); err != nil {
					return err
				}
			}
			if err := os.WriteFile(c.dayFile(), []byte(c.today()), 0o600); err != nil {
				return err
			}
		}
		if !c.Empty {
			c.announce(a.BaseURL)
		}
		return listen(ctx, c.Addr, api.New(a, api.Options{SignInsPerMinute: 60, BookingsPerMinute: 600}))
	})
	return group.Wait()
}

// newcomer is who has a calendar on the stand-in server in an installation with nothing set up.
const newcomer = "newcomer"

// lendCalendar gives the stand-in calendar server somebody to connect, with something in their calendar.
func (c *demoCommand) lendCalendar(calendars *calendar.Server) error {
	added, err := calendars.AddUser(calendar.User{Name: newcomer, FullName: "A newcomer", Mail: "newcomer@example.org", Password: demo.Password, Zone: "UTC"}, "Diary")
	if err != nil || !added {
		return err
	}
	for day := range 7 {
		noon := c.now().UTC().Truncate(24*time.Hour).AddDate(0, 0, day+1).Add(12 * time.Hour)
		if err := calendars.AddEvent(newcomer, 0, "Lunch with the lamp maker", noon, noon.Add(time.Hour)); err != nil {
			return err
		}
	}
	return nil
}

func (c *demoCommand) log() *slog.Logger {
	level := slog.LevelWarn
	if c.Verbose {
		level = slog.LevelInfo
	}
	return slog.New(trace.Handler{Handler: slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: level})})
}

func (c *demoCommand) dayFile() string { return filepath.Join(c.Data, "planted-on") }

func (c *demoCommand) today() string { return c.now().Format(time.DateOnly) }

// freshDay starts the demo afresh if it was planted on another day, since all its dates are relative to that day, or if
// its first start was interrupted. A folder that holds anything but a demo is never touched.
func (c *demoCommand) freshDay() error {
	planted, err := os.ReadFile(c.dayFile())
	switch {
	case err == nil && (string(planted) == c.today() || !c.Now.IsZero() && string(planted) != planting):
		return nil
	case errors.Is(err, os.ErrNotExist):
		if _, err := os.Stat(filepath.Join(c.Data, "corrim.db")); err == nil {
			return fmt.Errorf("%s holds an installation that is not a demo; choose another folder with --data", c.Data)
		}
	case err != nil:
		return err
	}
	if err := store.Free(c.Data); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("%s: %w", c.Data, err)
	}
	for _, name := range []string{"corrim.db", "corrim.db-wal", "corrim.db-shm", "calendars.json", "rooms.json", "texts.json", "mail"} {
		if err := os.RemoveAll(filepath.Join(c.Data, name)); err != nil {
			return err
		}
	}
	if err := os.MkdirAll(c.Data, 0o700); err != nil {
		return err
	}
	return os.WriteFile(c.dayFile(), []byte(planting), 0o600)
}

// planting stands in the day file until the demo is planted.
const planting = "not planted yet"

func serveSMTP(ctx context.Context, address string, inbox *mail.Server) error {
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return err
	}
	go func() {
		<-ctx.Done()
		_ = inbox.SMTP.Close()
	}()
	err = inbox.SMTP.Serve(listener)
	if ctx.Err() != nil {
		return nil
	}
	return err
}

// waitForStandins waits until all of them listen.
func (c *demoCommand) waitForStandins(ctx context.Context) error {
	for _, address := range []string{c.CalendarAddr, c.InboxAddr, c.RoomsAddr, c.SMTPAddr} {
		for {
			connection, err := net.DialTimeout("tcp", address, time.Second)
			if err == nil {
				_ = connection.Close()
				break
			}
			select {
			case <-ctx.Done():
				return ctx.Err()
			case <-time.After(50 * time.Millisecond):
			}
		}
	}
	return nil
}

func (c *demoCommand) announce(base string) {
	fmt.Println(strings.NewReplacer("BASE", base, "CALENDAR", "http://"+c.CalendarAddr, "INBOX", "http://"+c.InboxAddr, "ROOMS", "http://"+c.RoomsAddr, "PHONES", "http://"+c.PhonesAddr, "MUSEUM", "http://"+c.MuseumAddr, "PASSWORD", demo.Password).Replace(`
Corrim runs. Ctrl-C stops everything.

  The host's application   BASE/
      sign in with one click, or as ines@quillmere.example with the password "PASSWORD"
  A client's page          BASE/p/quillmere/loan-call

  Stand-in calendars       CALENDAR/   (to connect one: user name studio, password PASSWORD)
  Stand-in mail            INBOX/
  Stand-in video rooms     ROOMS/
  Stand-in phones          PHONES/
  A museum's web site      MUSEUM/   (which has Corrim inside its pages)
`))
}
