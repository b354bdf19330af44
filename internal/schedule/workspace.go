package schedule

import (
	"encoding/json"
	"fmt"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/intake"
	"corrim/core/looks"
	"corrim/core/opentimes"
	"corrim/core/routing"
	"corrim/core/told"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
)

// Workspace is the settings of a workspace.
type Workspace struct {
	Name         string                 `json:"name" maxLength:"400"`
	Zone         string                 `json:"zone" maxLength:"100" doc:"Its IANA time zone."`
	Zones        string                 `json:"zones" enum:"client,workspace,hidden" doc:"Clients see times in their own zone; always in the workspace's; or everybody is local and no zone is ever shown."`
	FirstWeekday int                    `json:"firstWeekday" minimum:"0" maximum:"6" doc:"On which weeks begin; 0 is Sunday."`
	ShareBuffers bool                   `json:"shareBuffers" doc:"Buffers of neighbouring bookings may share time."`
	Rules        opentimes.BookingRules `json:"rules" doc:"What meeting types follow until they set their own."`
	Front        Front                  `json:"front"`
}

// Front is what clients read about the workspace, and its policy texts.
type Front struct {
	Short        string   `json:"short" maxLength:"60" doc:"A short name, where the whole one has no room."`
	Description  string   `json:"description" maxLength:"8000"`
	Mail         string   `json:"mail" maxLength:"300"`
	Phone        string   `json:"phone" maxLength:"60"`
	Web          string   `json:"web" maxLength:"2000"`
	Address      string   `json:"address" maxLength:"2000"`
	Country      string   `json:"country" maxLength:"2" doc:"Where phone numbers without a country code belong (ISO 3166)."`
	Language     string   `json:"language" enum:",en,de,fr,nl,pt,pt-BR" doc:"Of pages whose client's browser asks for none of these; English if empty."`
	Clock12      bool     `json:"clock12" doc:"Times stand on a 12-hour clock, for clients and in the host's application."`
	Cancellation string   `json:"cancellation" maxLength:"8000" doc:"The cancellation policy."`
	Privacy      string   `json:"privacy" maxLength:"8000"`
	Consent      string   `json:"consent" maxLength:"2000" doc:"A sentence that clients have to agree to; none if empty."`
	Looks        Looks    `json:"looks"`
	Hidden       bool     `json:"hidden" doc:"Search engines are asked to stay away."`
	Embed        string   `json:"embed,omitempty" enum:",nobody,sites" doc:"Who may show its pages inside their own: anybody if empty."`
	Sites        []string `json:"sites,omitempty" maxItems:"50" doc:"Origins of those who may, like https://museum.example."`
	Unpublished  bool     `json:"unpublished" doc:"The workspace's page and its people's pages can't be seen; links of types work."`
}

func (f Front) normal() Front {
	f.Description, f.Cancellation, f.Privacy = strings.TrimSpace(f.Description), strings.TrimSpace(f.Cancellation), strings.TrimSpace(f.Privacy)
	f.Short = intake.OneLine(f.Short)
	f.Sites = normalSites(f.Sites)
	f.Address, f.Consent = strings.TrimSpace(f.Address), intake.OneLine(f.Consent)
	f.Looks = f.Looks.Normal()
	f.Mail, f.Phone, f.Web, f.Country = intake.OneLine(f.Mail), intake.OneLine(f.Phone), intake.OneLine(f.Web), strings.ToUpper(intake.OneLine(f.Country))
	return f
}

func (f Front) check(wrong refusal.Complaints) {
	f.Looks.Check(wrong)
	if len([]rune(f.Short)) > 20 {
		wrong.Add("front.short", told.Say("short-name-most", "A short name has at most 20 letters."))
	}
	if _, fault := intake.MailAddress(f.Mail); f.Mail != "" && fault.Any() {
		wrong.Add("front.mail", fault)
	}
	if u, err := url.Parse(f.Web); f.Web != "" && (err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "") {
		wrong.Add("front.web", told.Say("give-whole-web-address", "Give a whole web address, like https://museum.example, or leave it empty."))
	}
	f.checkSites(wrong)
	if f.Country != "" && !countryPattern.MatchString(f.Country) {
		wrong.Add("front.country", told.Say("give-two-letters", "Give the two letters of the country, like PT."))
	}
}

// Clock is how clients read a time of day, as a layout of package time.
func (f Front) Clock() string {
	if f.Clock12 {
		return "3:04 pm"
	}
	return "15:04"
}

// Page is what every page of a client needs to know of the workspace.
func (f Front) Page() PageLooks {
	out := f.Looks.page()
	out.Short, out.Clock12 = f.Short, f.Clock12
	return out
}

var countryPattern = regexp.MustCompile(`^[A-Z]{2}$`)

// Home is a workspace as use cases need it.
type Home struct {
	ID   int64
	Slug string
	Workspace
	Holidays  Holidays
	setupStep int       // see Person.SetupStep
	tried     *WeekPlan // in a trial: a week plan as it would be
}

// Clock12 tells whether times stand on a 12-hour clock where the person works.
func (p Person) Clock12() bool { return p.Home.Front.Clock12 }

// BeingSetUp tells whether it has not been published for the first time yet.
func (w Home) BeingSetUp() bool { return w.setupStep != 0 && w.Front.Unpublished }

const ZonesOfClients = "client"

// WorkspaceOf reads a workspace.
func WorkspaceOf(row sqlc.Workspace) (Home, error) {
	w := Home{ID: row.ID, Slug: row.Slug, setupStep: int(row.SetupStep), Workspace: Workspace{
		Name: row.Name, Zone: row.Zone, Zones: row.Zones, FirstWeekday: int(row.FirstWeekday), ShareBuffers: row.ShareBuffers != 0,
	}}
	if row.Front != "" {
		if err := json.Unmarshal([]byte(row.Front), &w.Front); err != nil {
			return w, err
		}
	}
	if err := json.Unmarshal([]byte(row.Holidays), &w.Holidays); err != nil {
		return w, err
	}
	return w, json.Unmarshal([]byte(row.Rules), &w.Rules)
}

// Check says what is wrong with other settings for the workspace.
func (home Home) Check(w Workspace) refusal.Complaints {
	wrong := w.Check()
	if _, gone := home.Holidays.days(w.Rules.Holidays); gone {
		wrong.Add("rules.holidays", holidaysGone)
	}
	return wrong
}

// Check complains of what can't be.
func (w Workspace) Check() refusal.Complaints {
	wrong := refusal.Complaints{}
	switch {
	case w.Name == "":
		wrong.Add("name", told.Say("give-workspace-name", "Give the workspace a name that clients will read."))
	case len([]rune(w.Name)) > 120:
		wrong.Add("name", told.Say("name-most-120", "A name has at most 120 letters."))
	}
	if _, err := civil.LoadZone(w.Zone); err != nil {
		wrong.Add("zone", told.Say("choose-workspaces-time", "Choose the workspace's time zone from the list."))
	}
	w.Rules.Check(ofRules(wrong))
	w.Front.check(wrong)
	return wrong
}

// Normal is the settings without stray spaces and empty words.
func (w Workspace) Normal() Workspace {
	w.Name, w.Front = intake.OneLine(w.Name), w.Front.normal()
	return w
}

// Fields is the settings for the history.
func (w Workspace) Fields() []Setting {
	return slices.Concat(NotesOf(w.Rules), w.Front.fields(), []Setting{
		SettingOf(told.Say("field-name", "name"), w.Name), SettingOf(told.Say("field-zone", "zone"), w.Zone), SettingOf(told.Say("field-zones", "zones"), w.Zones),
		{told.Say("field-shared-buffers", "shared buffers"), yesOrNo(w.ShareBuffers)},
		{told.Say("field-first-weekday", "first weekday"), told.Say("on-weekday", "{}", told.Weekday(w.FirstWeekday))},
	})
}

func yesOrNo(yes bool) told.Words {
	if yes {
		return told.Say("yes", "yes")
	}
	return told.Say("no", "no")
}

func (f Front) fields() []Setting {
	const enough = 40 // letters of a longer text
	return []Setting{
		SettingOf(told.Say("field-short-name", "short name"), f.Short), SettingOf(told.Say("field-language", "language"), f.Language),
		{told.Say("field-clock12", "12-hour clock"), yesOrNo(f.Clock12)},
		SettingOf(told.Say("field-about", "what clients read"), intake.FirstLetters(f.Description, enough)),
		SettingOf(told.Say("field-mail", "mail"), f.Mail), SettingOf(told.Say("field-phone", "phone"), f.Phone), SettingOf(told.Say("field-web", "web address"), f.Web),
		SettingOf(told.Say("field-address", "address"), intake.OneLine(f.Address)), SettingOf(told.Say("field-country", "country"), f.Country),
		SettingOf(told.Say("field-cancellation", "cancellation policy"), intake.FirstLetters(f.Cancellation, enough)),
		SettingOf(told.Say("field-privacy", "privacy notice"), intake.FirstLetters(f.Privacy, enough)),
		SettingOf(told.Say("field-consent", "consent"), intake.FirstLetters(f.Consent, enough)),
		SettingOf(told.Say("field-looks", "looks"), fmt.Sprintf("%s %.6s %.6s %s %s", f.Looks.Colour, f.Looks.Logo, f.Looks.Banner, f.Looks.Book, f.Looks.Ask)),
		SettingOf(told.Say("field-embedding", "embedding"), strings.TrimSpace(f.Embed+" "+strings.Join(f.Sites, ", "))),
		{told.Say("field-hidden", "hidden from search engines"), yesOrNo(f.Hidden)}, {told.Say("field-unpublished", "unpublished"), yesOrNo(f.Unpublished)},
	}
}

const EmbedSites = "sites"

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
	if f.Embed == EmbedSites && len(f.Sites) == 0 {
		wrong.Add("front.sites", told.Say("name-least-one", "Name at least one site that may show your pages, or let anybody or nobody."))
	}
	for _, site := range f.Sites {
		// What CSP takes as a source, and nothing that would end the directive.
		u, err := url.Parse(site)
		if err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "" || strings.ContainsAny(u.Host, ";,'\" *") || u.User != nil || !intake.PortFits(u) {
			wrong.Add("front.sites", told.Say("beginning-web-address", "“{}” is not the beginning of a web address. Give sites like https://museum.example, with a port if they have one.", site))
		}
	}
}

// Showcase is a workspace's page, or a person's: what can be booked there.
type Showcase struct {
	Workspace   string      `json:"workspace" doc:"Its name."`
	Path        string      `json:"path" doc:"Of the workspace's page."`
	Person      string      `json:"person,omitempty" doc:"Whose page it is; the workspace's or a team's if left out."`
	Team        string      `json:"team,omitempty" doc:"Which team's page it is."`
	Photo       string      `json:"photo,omitempty" doc:"Path of the person's picture."`
	Description string      `json:"description,omitempty"`
	Mail        string      `json:"mail,omitempty"`
	Phone       string      `json:"phone,omitempty"`
	Web         string      `json:"web,omitempty"`
	Address     string      `json:"address,omitempty"`
	Groups      []ShowGroup `json:"groups" doc:"By category; types without one come first."`
	Looks       PageLooks   `json:"looks"`
	People      []ShowPart  `json:"people" doc:"On the workspace's page: who has a page of their own."`
	More        int         `json:"more" doc:"How many types more there are, on the pages of those who host them."`
}

// ShowGroup is the types of a category.
type ShowGroup struct {
	Category string     `json:"category"`
	Types    []ShowType `json:"types"`
}

// ShowType is a type that can be booked.
type ShowType struct {
	Name        string   `json:"name"`
	Description string   `json:"description"`
	Path        string   `json:"path"`
	Lengths     []int    `json:"lengths" doc:"In minutes."`
	Host        string   `json:"host" doc:"In English."`
	Ways        []string `json:"ways" enum:"video,own-room,ours,theirs,phone,later"`
	OnRequest   bool     `json:"onRequest"`
	Picture     string   `json:"picture,omitempty" doc:"Path of the type's picture."`

	Hosts
	Light *looks.Tones `json:"light,omitempty" doc:"In the type's own colour, on the light ground; the page's if left out."`
	Dark  *looks.Tones `json:"dark,omitempty"`
}

// ShowPart is a person with a page of their own.
type ShowPart struct {
	Name  string `json:"name"`
	Path  string `json:"path"`
	Photo string `json:"photo,omitempty" doc:"Path of the picture."`
}

// HostedBy tells whether a type is a team's.
func (o Bookable) HostedBy(team int64, of map[int64]bool) bool {
	others := slices.ContainsFunc(o.Pool.People, func(p Person) bool { return !of[p.ID] })
	return slices.Contains(o.Routing.Teams, team) || !others
}

// Part says who a person is, beside others on a page.
func (w Home) Part(person sqlc.Person) ShowPart {
	return ShowPart{person.Name, "/p/" + w.Slug + "/with/" + person.Slug, PathOfPicture(person.Photo)}
}

// Showcase is an empty page of the workspace.
func (w Home) Showcase() Showcase {
	return Showcase{
		Workspace: w.Name, Path: "/p/" + w.Slug, Description: w.Front.Description, Mail: w.Front.Mail, Phone: w.Front.Phone, Web: w.Front.Web,
		Address: w.Front.Address, Looks: w.Front.Page(), Groups: []ShowGroup{}, People: []ShowPart{},
	}
}

// SurelyWith is the path on which a booking of the type goes to somebody for certain; empty if there is none.
func (o Bookable) SurelyWith(person int64) string {
	somebody := o.Pool.Of(person)
	switch {
	case somebody.ID == 0:
		return ""
	case len(o.Pool.People) == 1 || o.Pool.Mode == routing.Together:
		return o.Path
	case o.Pool.Mode == routing.ByClient:
		return o.Path + "?with=" + somebody.Slug
	}
	return ""
}

// Add puts a type onto the page.
func (s *Showcase) Add(o Bookable, path string) {
	t := ShowType{Name: o.Name, Description: o.Description, Path: path, Lengths: o.Rules.Lengths(), Host: o.WhoHosts(), Hosts: o.Hosts(), OnRequest: o.BookingPage.OnRequest, Picture: PathOfPicture(o.BookingPage.Picture)}
	t.Light, t.Dark = TonesOf(o.BookingPage.Colour)
	for _, way := range o.BookingPage.Ways {
		t.Ways = append(t.Ways, way.Kind)
	}
	for i := range s.Groups {
		if s.Groups[i].Category == o.Category {
			s.Groups[i].Types = append(s.Groups[i].Types, t)
			return
		}
	}
	group := ShowGroup{o.Category, []ShowType{t}}
	if o.Category == "" {
		s.Groups = append([]ShowGroup{group}, s.Groups...)
		return
	}
	s.Groups = append(s.Groups, group)
}

// Setting is a setting for the history: what people call it, and its value in a few words.
type Setting struct{ Name, Value told.Words }

// SettingOf is a setting with a value as it is written.
func SettingOf(name told.Words, value string) Setting { return Setting{name, told.Plain(value)} }

// NotesOf is how the groups of rules are set.
func NotesOf(r opentimes.BookingRules) (out []Setting) {
	for _, g := range r.Groups() {
		out = append(out, Setting{groupNames[g.Name], g.Note})
	}
	return out
}

// groupNames is what the groups of rules are called.
var groupNames = map[string]told.Words{
	"window": told.Say("group-window", "window"), "notice": told.Say("group-notice", "notice"), "step": told.Say("group-step", "step"),
	"buffers": told.Say("group-buffers", "buffers"), "limit": told.Say("group-limit", "limit"), "holidays": told.Say("group-holidays", "holidays"),
	"busy": told.Say("group-busy", "busy"),
}

// Note is the hours in a few words; empty if there are none.
func (o *OwnHours) Note() told.Words {
	switch {
	case o == nil:
		return told.Words{}
	case o.Plan != 0:
		return told.Say("a-week-plan", "a week plan")
	}
	return told.Plain(strings.Join(o.Week, " | "))
}

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

var HashPattern = regexp.MustCompile(`^[0-9a-f]{64}$`)

// Normal is the looks without stray spaces.
func (l Looks) Normal() Looks {
	l.Book, l.Ask = intake.OneLine(l.Book), intake.OneLine(l.Ask)
	return l
}

// Check complains of what can't be.
func (l Looks) Check(wrong refusal.Complaints) {
	if fault := ColourFault(l.Colour); fault.Any() {
		wrong.Add("front.looks.colour", fault)
	}
	for field, hash := range map[string]string{"logo": l.Logo, "banner": l.Banner} {
		if hash != "" && !HashPattern.MatchString(hash) {
			wrong.Add("front.looks."+field, told.Say("choose-picture-again", "Choose the picture again."))
		}
	}
	for field, words := range map[string]string{"book": l.Book, "ask": l.Ask} {
		if len([]rune(words)) > 24 {
			wrong.Add("front.looks."+field, told.Say("button-holds-most", "A button holds at most 24 letters before the time."))
		}
	}
}

// ColourFault says what is wrong with a colour, or nothing.
func ColourFault(colour string) told.Words {
	if _, err := looks.Parse(colour); colour != "" && err != nil {
		return told.Say("give-colour-like-0b5a5e", "Give a colour like #0b5a5e, or none.")
	}
	return told.Words{}
}

// page is the looks as a page needs them.
func (l Looks) page() PageLooks {
	out := PageLooks{Book: l.Book, Ask: l.Ask}
	out.Light, out.Dark = TonesOf(l.Colour)
	out.Logo, out.Banner = PathOfPicture(l.Logo), PathOfPicture(l.Banner)
	return out
}

// TonesOf is what a page in a colour paints with, on light and on dark ground; of none it is nil.
func TonesOf(colour string) (light, dark *looks.Tones) {
	c, err := looks.Parse(colour)
	if err != nil {
		return nil, nil
	}
	onLight, onDark := looks.For(c, looks.LightGround), looks.For(c, looks.DarkGround)
	return &onLight, &onDark
}

// Looks is the workspace's, in the type's own colour if it has one.
func (o Bookable) Looks() PageLooks {
	out := o.Host.Home.Front.Page()
	if light, dark := TonesOf(o.BookingPage.Colour); light != nil {
		out.Light, out.Dark, out.Own = light, dark, true
	}
	return out
}

// PathOfPicture is where a picture is served; of none it is empty.
func PathOfPicture(hash string) string {
	if hash == "" {
		return ""
	}
	return "/i/" + hash
}

// WeekBegins is the weekday on which weeks begin.
func (w Home) WeekBegins() time.Weekday { return time.Weekday(w.FirstWeekday) }
