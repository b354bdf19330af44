package main

import (
	"bufio"
	"cmp"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"strings"
	"time"

	"golang.org/x/sync/errgroup"

	"corrim/internal/api"
	"corrim/internal/app"
	"corrim/internal/identity"
	"corrim/internal/inbound"
	"corrim/internal/outside/caldav"
	"corrim/internal/outside/feed"
	"corrim/internal/outside/mail"
	"corrim/internal/outside/rooms"
	"corrim/internal/outside/texts"
	"corrim/internal/store"
	"corrim/internal/trace"
)

// place is where an installation listens and keeps its data.
type place struct {
	Addr    string `default:"localhost:8080" env:"CORRIM_ADDR" help:"Address to listen on."`
	Data    string `env:"CORRIM_DATA" help:"Folder for everything that is kept; data, or data/demo for the demo, if left out."`
	BaseURL string `name:"base-url" default:"" env:"CORRIM_BASE_URL" help:"Address that people open, for links in mails; http:// and --addr if left out."`
	Key     string `env:"CORRIM_KEY" help:"32 bytes in base64; if left out, the key is in a file."`
	KeyFile string `env:"CORRIM_KEY_FILE" help:"File with the key, made if it is missing; in the data folder if left out. Kept elsewhere, a copy of the folder alone opens nothing."`
}

func (p place) baseURL() string {
	if p.BaseURL != "" {
		return strings.TrimSuffix(p.BaseURL, "/")
	}
	return "http://" + p.Addr
}

const (
	defaultData     = "data"
	defaultDemoData = "data/demo"

	defaultEmptyData = "data/empty"
)

// open opens the data folder.
func (p place) open(ctx context.Context) (*store.Store, []byte, error) {
	if err := os.MkdirAll(p.Data, 0o700); err != nil {
		return nil, nil, err
	}
	key, err := p.key()
	if err != nil {
		return nil, nil, err
	}
	opened, err := store.Open(ctx, p.Data)
	return opened, key, err
}

// services are the addresses of the outside services.
type services struct {
	SMTP         string   `name:"smtp" env:"CORRIM_SMTP" help:"Mail server, host:port."`
	MailFrom     string   `env:"CORRIM_MAIL_FROM" help:"Mail address that messages come from."`
	SMTPUser     string   `name:"smtp-user" env:"CORRIM_SMTP_USER" help:"User name on the mail server, if it asks for one."`
	SMTPPassword string   `name:"smtp-password" env:"CORRIM_SMTP_PASSWORD" help:"Password on the mail server."`
	DKIMKey      string   `name:"dkim-key" type:"existingfile" env:"CORRIM_DKIM_KEY" help:"File with the private key that signs mail (DKIM), RSA or Ed25519, as PEM."`
	DKIMSelector string   `name:"dkim-selector" default:"corrim" env:"CORRIM_DKIM_SELECTOR" help:"Under which the DNS names its public key: SELECTOR._domainkey.DOMAIN."`
	Rooms        string   `env:"CORRIM_ROOMS" help:"Address of the video room service."`
	RoomsToken   string   `env:"CORRIM_ROOMS_TOKEN" help:"Its token."`
	Texts        string   `env:"CORRIM_TEXTS" help:"Address of the gateway for text messages; without it none are sent."`
	Inbound      string   `placeholder:"ADDRESS" env:"CORRIM_INBOUND" help:"Where the mail server hands in what comes back, answers to invitations and undeliverable mail: host:port for SMTP, lmtp:host:port or lmtp:/a/path for LMTP."`
	TextsTo      []string `env:"CORRIM_TEXTS_TO" placeholder:"+44,+351" help:"Countries that text messages go to, by their prefixes; all if left out."`
	TextsToken   string   `env:"CORRIM_TEXTS_TOKEN" help:"Its token, which it shows too when it reports."`
}

type serveCommand struct {
	place
	services
	AllowPrivate bool `env:"CORRIM_ALLOW_PRIVATE" help:"Let people connect calendars in private networks."`
	BehindProxy  bool `env:"CORRIM_BEHIND_PROXY" help:"A proxy in front writes X-Forwarded-For; limits count by that address."`
}

// Run serves until it is stopped.
func (c *serveCommand) Run(ctx context.Context) error {
	if c.SMTP == "" || c.MailFrom == "" || c.Rooms == "" {
		return errors.New("serve needs --smtp, --mail-from and --rooms; corrim demo brings stand-ins for them")
	}
	c.Data = cmp.Or(c.Data, defaultData)
	log := slog.New(trace.Handler{Handler: slog.NewJSONHandler(os.Stderr, nil)})
	a, closeStore, err := c.wire(ctx, c.services, c.AllowPrivate, log, time.Now, false)
	if err != nil {
		return err
	}
	defer closeStore()
	if empty, err := a.Empty(ctx); err != nil {
		return err
	} else if empty {
		fmt.Fprint(os.Stderr, firstRun(a))
	}
	group, ctx := errgroup.WithContext(ctx)
	group.Go(func() error { a.Run(ctx); return nil })
	if c.Inbound != "" {
		group.Go(func() error { return inbound.Serve(ctx, c.Inbound, a, log) })
	}
	group.Go(func() error {
		log.Info("listening", "address", c.Addr, "open", a.BaseURL)
		return listen(ctx, c.Addr, api.New(a, api.Options{SignInsPerMinute: 10, BookingsPerMinute: 30, BehindProxy: c.BehindProxy}))
	})
	return group.Wait()
}

// firstRun says where setting up begins.
func firstRun(a *app.App) string {
	return fmt.Sprintf("\nNothing is set up yet. Open this to begin:\n\n  %s/begin?code=%s\n\n", a.BaseURL, a.SetupCode())
}

// sender is the mail server, with the key that signs what is handed to it.
func (s services) sender() (*mail.Sender, error) {
	sender, err := mail.New(s.SMTP, s.MailFrom, s.SMTPUser, s.SMTPPassword)
	if err != nil || s.DKIMKey == "" {
		return sender, err
	}
	key, err := os.ReadFile(s.DKIMKey)
	if err != nil {
		return nil, err
	}
	return sender, sender.Sign(s.DKIMSelector, key)
}

// wire puts the parts together.
func (p place) wire(ctx context.Context, s services, allowPrivate bool, log *slog.Logger, now func() time.Time, isDemo bool) (*app.App, func(), error) {
	opened, key, err := p.open(ctx)
	if err != nil {
		return nil, nil, err
	}
	closeStore := func() { _ = opened.Close() }
	sender, err := s.sender()
	if err != nil {
		closeStore()
		return nil, nil, err
	}
	a, err := app.New(ctx, app.Config{
		Store: opened, Servers: caldav.New(allowPrivate), Feeds: feed.New(allowPrivate), Mailer: sender, Rooms: rooms.New(s.Rooms, s.RoomsToken),
		MailFrom: s.MailFrom, TakesMail: s.Inbound != "",
		Texter: texts.New(s.Texts, s.TextsToken), TextsToken: s.TextsToken, TextsTo: s.TextsTo,
		Key: key, BaseURL: p.baseURL(), Log: log, Now: now, Demo: isDemo,
	})
	if err != nil {
		closeStore()
		return nil, nil, err
	}
	return a, closeStore, nil
}

// listen serves HTTP until ctx ends, then lets running requests finish.
func listen(ctx context.Context, address string, handler http.Handler) error {
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return fmt.Errorf("%w; is another program, or an earlier start, still using that address?", err)
	}
	return serveOn(ctx, listener, handler)
}

func serveOn(ctx context.Context, listener net.Listener, handler http.Handler) error {
	server := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: 30 * time.Second, WriteTimeout: time.Minute, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 32 << 10}
	stopped := make(chan error, 1)
	go func() {
		<-ctx.Done()
		patience, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		stopped <- server.Shutdown(patience)
	}()
	if err := server.Serve(listener); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return <-stopped
}

type setupCommand struct {
	place
	Workspace string `required:"" help:"Short name of the workspace, as in addresses: a-z, figures, hyphens."`
	Title     string `required:"" help:"Its full name."`
	Name      string `required:"" help:"The first person's name."`
	Mail      string `required:"" help:"The first person's mail address."`
	Zone      string `required:"" help:"The first person's time zone, like Europe/Lisbon."`
	Password  string `env:"CORRIM_PASSWORD" help:"The first person's password; asked for if left out."`
}

// Run makes the workspace.
func (c *setupCommand) Run(ctx context.Context) error {
	if c.Password == "" {
		fmt.Fprint(os.Stderr, "Password for "+c.Mail+": ")
		line, err := bufio.NewReader(os.Stdin).ReadString('\n')
		if err != nil {
			return errors.New("no password was given")
		}
		c.Password = strings.TrimRight(line, "\r\n")
	}
	if fault := identity.CheckPassword(c.Password, c.Name, c.Mail, c.Title); fault.Any() {
		return errors.New(fault.Sentence)
	}
	c.Data = cmp.Or(c.Data, defaultData)
	opened, key, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = opened.Close() }()
	a, err := app.New(ctx, app.Config{Store: opened, Key: key, Now: time.Now})
	if err != nil {
		return err
	}
	_, err = a.AddWorkspace(ctx, c.Workspace, c.Title, app.NewPerson{
		Name: c.Name, Mail: c.Mail, Password: c.Password, Zone: c.Zone,
		Week: [7]string{"9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "9-12, 13-17", "", ""},
	})
	return err
}
