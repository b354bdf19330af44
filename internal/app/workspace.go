package app

import (
	"context"
	"encoding/json"
	"fmt"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"time"

	"corrim/core/civil"
	"corrim/core/intake"
	"corrim/core/opentimes"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/refusal"
	"corrim/internal/store/sqlc"
	"corrim/internal/undo"
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
	f.Looks = f.Looks.normal()
	f.Mail, f.Phone, f.Web, f.Country = intake.OneLine(f.Mail), intake.OneLine(f.Phone), intake.OneLine(f.Web), strings.ToUpper(intake.OneLine(f.Country))
	return f
}

func (f Front) check(wrong refusal.Complaints) {
	f.Looks.check(wrong)
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

// clock is how clients read a time of day, as a layout of package time.
func (f Front) clock() string {
	if f.Clock12 {
		return "3:04 pm"
	}
	return "15:04"
}

// page is what every page of a client needs to know of the workspace.
func (f Front) page() PageLooks {
	out := f.Looks.page()
	out.Short, out.Clock12 = f.Short, f.Clock12
	return out
}

var countryPattern = regexp.MustCompile(`^[A-Z]{2}$`)

// WorkspaceView is the settings as they are saved, with what they say in a few words.
type WorkspaceView struct {
	Workspace
	Holidays []HolidayCalendar `json:"holidayCalendars" doc:"Of public holidays."`
	Groups   []opentimes.Group `json:"groups" doc:"The rules that are set, and followed, together."`
	Changes  []WorkspaceChange `json:"changes" doc:"The last changes of settings in the workspace, newest first."`
}

// WorkspaceChange is a change of settings by somebody of the workspace.
type WorkspaceChange struct {
	undo.SettingChange
	Person string `json:"person"`
}

// WorkspaceTrial is what unsaved settings do.
type WorkspaceTrial struct {
	Effects []Effect              `json:"effects" doc:"By meeting type, those left alone left out."`
	Outside []Unmade              `json:"outside" doc:"Coming bookings that the change leaves outside the rules. They stay."`
	Wrong   map[string]told.Words `json:"wrong"`
}

// workspace is a workspace as use cases need it.
type workspace struct {
	id   int64
	slug string
	Workspace
	holidays  holidays
	setupStep int       // see Person.SetupStep
	tried     *WeekPlan // in a trial: a week plan as it would be
}

// Clock12 tells whether times stand on a 12-hour clock where the person works.
func (p Person) Clock12() bool { return p.home.Front.Clock12 }

// beingSetUp tells whether it has not been published for the first time yet.
func (w workspace) beingSetUp() bool { return w.setupStep != 0 && w.Front.Unpublished }

// Which zones clients see; see Workspace.
const (
	zonesOfClients = "client"
	zonesHidden    = "hidden"
)

func (w workspace) firstWeekday() time.Weekday { return time.Weekday(w.FirstWeekday) }

func workspaceOf(row sqlc.Workspace) (workspace, error) {
	w := workspace{id: row.ID, slug: row.Slug, setupStep: int(row.SetupStep), Workspace: Workspace{
		Name: row.Name, Zone: row.Zone, Zones: row.Zones, FirstWeekday: int(row.FirstWeekday), ShareBuffers: row.ShareBuffers != 0,
	}}
	if row.Front != "" {
		if err := json.Unmarshal([]byte(row.Front), &w.Front); err != nil {
			return w, err
		}
	}
	if err := json.Unmarshal([]byte(row.Holidays), &w.holidays); err != nil {
		return w, err
	}
	return w, json.Unmarshal([]byte(row.Rules), &w.Rules)
}

// check says what is wrong with other settings for the workspace.
func (home workspace) check(w Workspace) refusal.Complaints {
	wrong := w.check()
	if _, gone := home.holidays.days(w.Rules.Holidays); gone {
		wrong.Add("rules.holidays", holidaysGone)
	}
	return wrong
}

func (w Workspace) check() refusal.Complaints {
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

func (w Workspace) normal() Workspace {
	w.Name, w.Front = intake.OneLine(w.Name), w.Front.normal()
	return w
}

// Workspace returns the settings of the person's workspace.
func (a *App) Workspace(ctx context.Context, p Person) (WorkspaceView, error) {
	view := WorkspaceView{Workspace: p.home.Workspace, Groups: p.home.Rules.Groups(), Holidays: p.home.holidays.toldFrom(a.todayOf(p).String())}
	rows, err := a.Store.WorkspaceChanges(ctx, p.home.id)
	view.Changes = make([]WorkspaceChange, len(rows))
	for i, row := range rows {
		view.Changes[i] = WorkspaceChange{a.history.Told(undo.Row{ID: row.ID, At: row.At, UndoneAt: row.UndoneAt, Label: row.Label, Subject: row.Subject}), row.Person}
	}
	return view, err
}

// SaveWorkspace saves the settings.
func (a *App) SaveWorkspace(ctx context.Context, p Person, w Workspace) (WorkspaceView, error) {
	w = w.normal()
	if err := p.home.check(w).Err(); err != nil {
		return WorkspaceView{}, err
	}
	err := a.writeFor(ctx, p, identity.EditWorkspace, func(q *sqlc.Queries) error {
		row, err := q.WorkspaceByID(ctx, p.home.id)
		if err != nil {
			return err
		}
		before, err := workspaceOf(row)
		if err != nil {
			return err
		}
		if err := writeWorkspace(ctx, q, p.home.id, w); err != nil {
			return err
		}
		if w.Front.Looks != before.Front.Looks { // what was tried is published, or overtaken
			if err := q.SetLooksDraft(ctx, sqlc.SetLooksDraftParams{ID: p.home.id}); err != nil {
				return err
			}
		}
		label := told.Say("undo-workspace", "Workspace: {}", changedFields(before.fields(), w.fields()))
		return a.remember(ctx, q, p, subjectWorkspace, p.home.id, label, before.Workspace)
	})
	if err != nil {
		return WorkspaceView{}, err
	}
	if p, err = a.Person(ctx, p.ID); err != nil {
		return WorkspaceView{}, err
	}
	return a.Workspace(ctx, p)
}

func writeWorkspace(ctx context.Context, q *sqlc.Queries, id int64, w Workspace) error {
	rules, err := json.Marshal(w.Rules)
	if err != nil {
		return err
	}
	share := int64(0)
	if w.ShareBuffers {
		share = 1
	}
	front, err := json.Marshal(w.Front)
	if err != nil {
		return err
	}
	if err := q.SetFront(ctx, sqlc.SetFrontParams{ID: id, Front: string(front)}); err != nil {
		return err
	}
	return q.SetWorkspace(ctx, sqlc.SetWorkspaceParams{
		ID: id, Name: w.Name, Zone: w.Zone, Zones: w.Zones, FirstWeekday: int64(w.FirstWeekday), ShareBuffers: share, Rules: string(rules),
	})
}

// fields is the settings for the history.
func (w Workspace) fields() []setting {
	return slices.Concat(notesOf(w.Rules), w.Front.fields(), []setting{
		settingOf(told.Say("field-name", "name"), w.Name), settingOf(told.Say("field-zone", "zone"), w.Zone), settingOf(told.Say("field-zones", "zones"), w.Zones),
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

func (f Front) fields() []setting {
	const enough = 40 // letters of a longer text
	return []setting{
		settingOf(told.Say("field-short-name", "short name"), f.Short), settingOf(told.Say("field-language", "language"), f.Language),
		{told.Say("field-clock12", "12-hour clock"), yesOrNo(f.Clock12)},
		settingOf(told.Say("field-about", "what clients read"), intake.FirstLetters(f.Description, enough)),
		settingOf(told.Say("field-mail", "mail"), f.Mail), settingOf(told.Say("field-phone", "phone"), f.Phone), settingOf(told.Say("field-web", "web address"), f.Web),
		settingOf(told.Say("field-address", "address"), intake.OneLine(f.Address)), settingOf(told.Say("field-country", "country"), f.Country),
		settingOf(told.Say("field-cancellation", "cancellation policy"), intake.FirstLetters(f.Cancellation, enough)),
		settingOf(told.Say("field-privacy", "privacy notice"), intake.FirstLetters(f.Privacy, enough)),
		settingOf(told.Say("field-consent", "consent"), intake.FirstLetters(f.Consent, enough)),
		settingOf(told.Say("field-looks", "looks"), fmt.Sprintf("%s %.6s %.6s %s %s", f.Looks.Colour, f.Looks.Logo, f.Looks.Banner, f.Looks.Book, f.Looks.Ask)),
		settingOf(told.Say("field-embedding", "embedding"), strings.TrimSpace(f.Embed+" "+strings.Join(f.Sites, ", "))),
		{told.Say("field-hidden", "hidden from search engines"), yesOrNo(f.Hidden)}, {told.Say("field-unpublished", "unpublished"), yesOrNo(f.Unpublished)},
	}
}

// TryWorkspace computes what unsaved settings do to the meeting types of everybody in the workspace.
func (a *App) TryWorkspace(ctx context.Context, p Person, w Workspace) (WorkspaceTrial, error) {
	w = w.normal()
	view := WorkspaceTrial{Effects: []Effect{}, Outside: []Unmade{}, Wrong: p.home.check(w)}
	if err := p.Must(identity.EditWorkspace); err != nil {
		return view, err
	}
	if len(view.Wrong) > 0 {
		return view, nil
	}
	var err error
	view.Effects, view.Outside, err = a.tryChange(ctx, p, func(someone Person) Person {
		someone.home.Workspace = w
		return someone
	})
	return view, err
}
