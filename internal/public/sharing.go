package public

import (
	"cmp"
	"context"
	"errors"
	"html"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/looks"
	words "corrim/core/message"
	"corrim/core/share"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/settings"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// What is shared: the page of a type, a person, a team or of the workspace.

// Shared says which page is shared, and what its link says beside that.
type Shared struct {
	Kind     string
	ID       int64
	Says     share.Link
	Language string // of what is to be pasted or printed; the workspace's if empty
}

// The kinds of pages that are shared.
const (
	sharesType      = "type"
	sharesPerson    = "person"
	sharesTeam      = "team"
	sharesWorkspace = "workspace"
)

// Sharing is a page with what is needed to share it.
type Sharing struct {
	Name      string       `json:"name"`
	Workspace string       `json:"workspace"`
	Slug      string       `json:"slug" doc:"The last part of its address."`
	Path      string       `json:"path"`
	Address   string       `json:"address" doc:"What is shared, with what the link says."`
	Query     string       `json:"query" doc:"What the link says, as it stands in the address."`
	Closed    told.Words   `json:"closed,omitzero" doc:"Why clients who follow it find nothing; empty if they do."`
	Edits     bool         `json:"edits" doc:"The person may change its short name."`
	Signature Paste        `json:"signature" doc:"A line for a mail signature."`
	Misfits   []told.Words `json:"misfits" doc:"What the link says and the page has no place for."`
	Origin    string       `json:"origin" doc:"Of Corrim, as web pages know it."`
	Embed     string       `json:"embed,omitempty" enum:",nobody,sites" doc:"Who may show the page inside theirs: anybody if empty."`
	Sites     []string     `json:"sites"`

	logo, colour string
	words        *words.Words
}

// Paste is a text to be pasted into a mail, plain and as HTML.
type Paste struct {
	Plain string `json:"plain"`
	HTML  string `json:"html"`
}

// linkTo is words that lead to an address.
func linkTo(said, address string) Paste {
	return Paste{said + ": " + address, `<a href="` + html.EscapeString(address) + `">` + html.EscapeString(said) + `</a>`}
}

// Sharing tells what is needed to share a page.
func (a *Pages) Sharing(ctx context.Context, p schedule.Person, s Shared) (Sharing, error) {
	front := p.Home.Front
	out := Sharing{Workspace: p.Home.Name, Origin: a.baseURL, Embed: front.Embed, Sites: append([]string{}, front.Sites...), Misfits: []told.Words{}, logo: front.Looks.Logo, colour: front.Looks.Colour}
	out.words = words.In(cmp.Or(s.Language, front.Language))
	link := share.Parse(s.Says.Values())
	signature := "share.signature"
	var err error
	switch s.Kind {
	case sharesType:
		err = a.shareType(ctx, p, s, &link, &out)
	case sharesPerson:
		signature = "share.signature-of"
		err = a.sharePerson(ctx, p, s.ID, &out)
	case sharesTeam:
		signature = "share.signature-of"
		err = a.shareTeam(ctx, p, s.ID, &out)
	case sharesWorkspace:
		signature = "share.signature-of"
		out.Name, out.Slug, out.Path = p.Home.Name, p.Home.Slug, "/p/"+p.Home.Slug
	default:
		err = errNothingShared
	}
	if err != nil {
		return out, err
	}
	if front.Unpublished && (s.Kind != sharesType || p.Home.BeingSetUp()) {
		out.Closed = told.Say("closed-unpublished", "The workspace is not published yet, so clients don't find this page.")
	}
	if s.Kind != sharesType { // theirs choose nothing but the language
		link = share.Link{Language: link.Language, Colour: link.Colour}
	}
	out.Address = a.baseURL + out.Path
	if out.Query = link.Query(); out.Query != "" {
		out.Address += "?" + out.Query
	}
	out.Signature = linkTo(out.words.Say(signature, words.With{"name": out.Name}), out.Address)
	return out, nil
}

var errNothingShared = refusal.New(refusal.NotFound, told.Say("what-shared-any", "What was to be shared is not there any more. Load the page again."))

func (a *Pages) shareType(ctx context.Context, p schedule.Person, s Shared, link *share.Link, out *Sharing) error {
	kind, err := a.MeetingType(ctx, p, s.ID)
	if err != nil {
		return err
	}
	o, err := a.OfferedAs(ctx, a.store.Queries, p, kind, kind.Routing)
	if err != nil {
		return err
	}
	out.Name, out.Slug, out.Path, out.Edits = kind.Name, kind.Slug, kind.Path, kind.Edits
	out.colour = cmp.Or(kind.BookingPage.Colour, out.colour)
	switch {
	case kind.Listing == schedule.ListedOff:
		out.Closed = told.Say("closed-off", "It is switched off, so nobody can book it. Turn it on under “Booking page”.")
	case kind.Who == "nobody":
		out.Closed = told.Say("closed-by-hand", "It can't be booked by clients: colleagues enter bookings by hand. That is set under “Hosts”.")
	case len(o.Pool.People) == 0:
		out.Closed = told.Say("closed-no-hosts", "Nobody hosts it, so nothing is open. Choose who does under “Hosts”.")
	}
	fit, misfits := link.Fit(o.SharePage())
	*link, out.Misfits = fit, inSentences(misfits)
	return nil
}

func (s *Pages) sharePerson(ctx context.Context, p schedule.Person, id int64, out *Sharing) error {
	who, err := s.Colleague(ctx, s.store.Queries, p, id)
	if err != nil {
		return err
	}
	out.Name, out.Slug, out.Path = who.Name, who.Slug, "/p/"+p.Home.Slug+"/with/"+who.Slug
	if who.NoPage {
		out.Closed = told.Say("closed-no-own-page", "This person has no page of their own. That is set under “People”.")
	}
	return nil
}

func (s *Pages) shareTeam(ctx context.Context, p schedule.Person, id int64, out *Sharing) error {
	teams, err := s.Teams(ctx, p)
	i := slices.IndexFunc(teams, func(t schedule.Team) bool { return t.ID == id })
	if err == nil && i < 0 {
		err = errNothingShared
	}
	if err != nil {
		return err
	}
	out.Name, out.Slug, out.Path = teams[i].Name, teams[i].Slug, "/p/"+p.Home.Slug+"/team/"+teams[i].Slug
	out.Edits = p.May(identity.ManageTeams)
	if _, err = s.TeamPage(ctx, p.Home.Slug, out.Slug); errors.Is(err, errNoPage) {
		out.Closed = told.Say("closed-team", "Nothing that is listed is hosted by this team alone or as a team, so it has no page yet.")
		return nil
	}
	return err
}

// Sheet is a page as it is printed: to be scanned, or typed.
type Sheet struct {
	Name, Workspace, Address, Shown string
	Scan, Language, Logo, Colour    string
}

// Sheet tells what stands on a printed sheet.
func (a *Pages) Sheet(ctx context.Context, p schedule.Person, s Shared) (Sheet, error) {
	sharing, err := a.Sharing(ctx, p, s)
	if err != nil {
		return Sheet{}, err
	}
	out := Sheet{
		Name: sharing.Name, Workspace: sharing.Workspace, Address: sharing.Address, Shown: strings.TrimPrefix(strings.TrimPrefix(sharing.Address, "https://"), "http://"),
		Scan: sharing.words.Say("share.scan", nil), Language: sharing.words.Language, Logo: schedule.PathOfPicture(sharing.logo), Colour: "#0b5a5e",
	}
	if light, _ := schedule.TonesOf(sharing.colour); light != nil {
		out.Colour = light.Act
	}
	return out, nil
}

// Times to paste

// TimesWish is which open times are to be pasted.
type TimesWish struct {
	Starts   []HandPicked `json:"starts" maxItems:"60" doc:"Those that were picked, on the person's clock."`
	Next     int          `json:"next,omitempty" minimum:"0" maximum:"20" doc:"Instead of them: so many of the next."`
	Zone     string       `json:"zone" maxLength:"100" doc:"On whose clock they are written (IANA)."`
	Language string       `json:"language" maxLength:"20"`
	Says     share.Link   `json:"says,omitzero" doc:"What the link says beside the time."`
}

// TimesToPaste is open times, each a link to the page with that time chosen.
type TimesToPaste struct {
	Paste
	Starts []time.Time `json:"starts"`
	Gone   []time.Time `json:"gone" doc:"Of those picked, what is not open any more; left out of the text."`
}

const mostPasted = 20

// TimesToPaste writes open times of a type for a mail.
func (s *Pages) TimesToPaste(ctx context.Context, p schedule.Person, id int64, wish TimesWish) (TimesToPaste, error) {
	out := TimesToPaste{Starts: []time.Time{}, Gone: []time.Time{}}
	zone, err := civil.LoadZone(wish.Zone)
	if err != nil {
		return out, refusal.Faulty("zone", told.Say("no-such-time", "There is no such time zone. Choose one from the list."))
	}
	kind, err := s.MeetingType(ctx, p, id)
	if err != nil {
		return out, err
	}
	sharing, err := s.Sharing(ctx, p, Shared{Kind: sharesType, ID: id, Says: wish.Says, Language: wish.Language})
	if err != nil {
		return out, err
	}
	open, err := s.openFor(ctx, p, kind, wish)
	if err != nil {
		return out, err
	}
	if out.Starts, out.Gone, err = s.wished(p, wish, open); err != nil {
		return out, err
	}
	w := sharing.words
	place := civil.TownOf(zone.String(), w.Language)
	intro := w.Say("share.times", words.With{"place": place})
	plain, rich := []string{intro}, "<p>"+html.EscapeString(intro)+"</p><ul>"
	for _, start := range out.Starts {
		line := linkTo(w.Moment(start.In(zone), p.Home.Front.Clock()), addParameter(sharing.Address, "at="+start.UTC().Format("2006-01-02T15:04:05Z")))
		plain, rich = append(plain, "- "+line.Plain), rich+"<li>"+line.HTML+"</li>"
	}
	another := linkTo(w.Say("share.another", nil), sharing.Address)
	out.Plain, out.HTML = strings.Join(append(plain, another.Plain), "\n"), rich+"</ul><p>"+another.HTML+"</p>"
	return out, nil
}

func addParameter(address, parameter string) string {
	if strings.Contains(address, "?") {
		return address + "&" + parameter
	}
	return address + "?" + parameter
}

// openFor is what is open for clients who follow the link.
func (s *Pages) openFor(ctx context.Context, p schedule.Person, kind schedule.MeetingType, wish TimesWish) ([]time.Time, error) {
	prepared, err := s.Prepared(ctx, p.Home.Slug, kind.Slug, wish.Says.Query(), true)
	if err != nil {
		return nil, err
	}
	from := s.now()
	open, err := s.OpenTimes(ctx, p.Home.Slug, kind.Slug, schedule.TimesWanted{
		From: from, To: from.Add(schedule.LongestRange - time.Hour), Minutes: prepared.Minutes, Host: prepared.Host, Answers: prepared.Asked, Inside: true,
	})
	return open.Starts, err
}

// wished is the starts to be pasted, and those that were picked and are gone.
func (a *Pages) wished(p schedule.Person, wish TimesWish, open []time.Time) (starts, gone []time.Time, err error) {
	if wish.Next > 0 {
		starts = open[:min(wish.Next, len(open))]
	} else {
		seconds, err := a.Picked(p, wish.Starts)
		if err != nil {
			return nil, nil, err
		}
		for _, s := range seconds {
			at := time.Unix(s, 0).UTC()
			if slices.ContainsFunc(open, at.Equal) {
				starts = append(starts, at)
			} else {
				gone = append(gone, at)
			}
		}
	}
	if len(starts) == 0 || len(starts) > mostPasted {
		return nil, nil, refusal.Faulty("starts", told.Say("pick-one-20-times", "Pick one to 20 times that are open."))
	}
	return starts, append([]time.Time{}, gone...), nil
}

// Cards

// Card is how a page shows where its link is pasted (Open Graph).
type Card struct {
	Title, Text, Workspace, Address string
	Act                             looks.Colour
}

// Card is a page's; none where robots are to be told nothing.
func (s *Pages) Card(ctx context.Context, at PageAddress) (Card, bool) {
	if at.Type != "" {
		return s.typeCard(ctx, at)
	}
	show, err := s.showcaseAt(ctx, at)
	if err != nil || s.KeptFromSearch(ctx, at.Workspace) {
		return Card{}, false
	}
	card := Card{Title: cmp.Or(show.Person, show.Team, show.Workspace), Text: firstLine(show.Description), Workspace: show.Workspace, Address: s.baseURL + at.Path()}
	card.paint(show.Looks)
	return card, true
}

func (s *Pages) typeCard(ctx context.Context, at PageAddress) (Card, bool) {
	o, err := s.BookableAt(ctx, s.store.Queries, at.Workspace, at.Type)
	home := o.Host.Home
	if err != nil || o.Listing != settings.Listed || o.Who != "anyone" || home.Front.Unpublished || home.Front.Hidden {
		return Card{}, false
	}
	card := Card{Title: o.Name, Text: firstLine(o.Description), Workspace: home.Name, Address: s.baseURL + o.Path}
	card.paint(o.Looks())
	return card, true
}

func (c *Card) paint(l schedule.PageLooks) {
	c.Act = looks.Colour{R: 0x0b, G: 0x5a, B: 0x5e}
	if l.Light == nil {
		return
	}
	if act, err := looks.Parse(l.Light.Act); err == nil {
		c.Act = act
	}
}

func firstLine(text string) string {
	line, _, _ := strings.Cut(strings.TrimSpace(text), "\n")
	return line
}

// showcaseAt is the page of a workspace, a person or a team.
func (s *Pages) showcaseAt(ctx context.Context, at PageAddress) (schedule.Showcase, error) {
	switch {
	case at.Person != "":
		return s.PersonPage(ctx, at.Workspace, at.Person)
	case at.Team != "":
		return s.TeamPage(ctx, at.Workspace, at.Team)
	}
	return s.WorkspacePage(ctx, at.Workspace)
}

// Path is a page's address by the names that it has now.
func (at PageAddress) Path() string {
	path := "/" + at.Kind + "/" + at.Workspace
	switch {
	case at.Type != "":
		return path + "/" + at.Type
	case at.Person != "":
		return path + "/with/" + at.Person
	case at.Team != "":
		return path + "/team/" + at.Team
	}
	return path
}

// Moved is where a page is whose address has a short name of before; it is the same address if it has none.
func (s *Pages) Moved(ctx context.Context, at PageAddress) (PageAddress, error) {
	now := at
	switch {
	case at.Kind != "p":
	case at.Type != "":
		row, err := s.store.MeetingTypeBySlug(ctx, sqlc.MeetingTypeBySlugParams{Workspace: at.Workspace, Slug: at.Type})
		if err != nil {
			return at, ignoreMissing(err)
		}
		now.Type = row.Slug
	case at.Person != "":
		row, err := s.store.PersonBySlug(ctx, sqlc.PersonBySlugParams{Workspace: at.Workspace, Slug: at.Person})
		if err != nil {
			return at, ignoreMissing(err)
		}
		now.Person = row.Slug
	case at.Team != "":
		row, err := s.store.TeamBySlug(ctx, sqlc.TeamBySlugParams{Workspace: at.Workspace, Slug: at.Team})
		if err != nil {
			return at, ignoreMissing(err)
		}
		now.Team = row.Slug
	}
	return now, nil
}

func ignoreMissing(err error) error {
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return err
}

// HandPicked is a time that a host picked, on their own wall clock.
type HandPicked struct {
	Date   string `json:"date" format:"date"`
	Minute int    `json:"minute" minimum:"0" maximum:"1439"`
}

// Picked is times in UTC seconds, in order and each once.
func (s *Pages) Picked(p schedule.Person, places []HandPicked) ([]int64, error) {
	var seconds []int64
	for _, place := range places {
		date, err := civil.ParseDate(place.Date)
		if err != nil {
			return nil, refusal.Faulty("starts", told.OfError(err))
		}
		at := int64(civil.Clock{Date: date, Seconds: place.Minute * 60}.Instant(p.Local))
		if at <= s.now().Unix() {
			return nil, refusal.Faulty("starts", told.Say("time-gone-offered", "A time that has gone by can't be offered."))
		}
		seconds = append(seconds, at)
	}
	slices.Sort(seconds)
	return slices.Compact(seconds), nil
}
