package demo

import (
	"context"
	"fmt"

	"corrim/core/intake"
	"corrim/core/waiting"
	"corrim/internal/schedule"
	"corrim/internal/settings"
)

// categories are where meeting types stand on the workspace's page.
var categories = []struct {
	name  string
	slugs []string
}{
	{"Light in your rooms", []string{"survey", "daylight", "plan-review", "site-visit"}},
	{"Objects and loans", []string{"loan-call", "loan-call-americas", "case-review", "two-adviser-review"}},
	{"Questions and lessons", []string{"first-conversation", "lux-advice", "conservators-hour", "readings", "lux-lesson", "lux-clinic", "dimming-workshop", "evening-course", "urgent"}},
}

var video = schedule.Way{ID: "video", Kind: "video"}

// offers are what is particular about how types meet their clients.
var offers = map[string]func(*settings.BookingPageChange){
	"urgent": func(c *settings.BookingPageChange) { c.Listing, c.Proof = "link", "puzzle" },
	"dimming-workshop": func(c *settings.BookingPageChange) {
		c.Waiting, c.WaitHours, c.Least, c.LeastHours = waiting.InTurn, 12, 2, 48
	},
	"evening-course": func(c *settings.BookingPageChange) {
		c.Least, c.LeastHours, c.Along, c.Waiting = 3, 72, 2, waiting.InTurn
		c.Questions = []intake.Question{
			{ID: "rooms", Kind: intake.Short, Label: "Which rooms do you light?"},
			{ID: "meter", Kind: intake.YesNo, Label: "Do you bring a light meter?", Required: true, Everybody: true},
		}
	},
	"first-conversation": func(c *settings.BookingPageChange) {
		c.Ways = []schedule.Way{video, {ID: "phone", Kind: "phone", Calls: "host"}}
	},
	"survey": func(c *settings.BookingPageChange) {
		c.Questions = []intake.Question{
			{ID: "rooms", Kind: intake.Number, Label: "How many rooms?", Required: true},
			{ID: "hangs", Kind: intake.Several, Label: "What hangs or stands in them?", Options: []string{"Works on paper", "Textiles", "Oil paintings", "Stone and metal"}},
			{ID: "plan", Kind: intake.Web, Label: "Where can we see a floor plan?", Help: "Any address will do; a photograph of a sketch is fine."},
		}
		c.Guests = 2
		c.Notes = "Ask for the hours of sun before anything else."
		c.Checklist = []string{"Floor plan on the second screen", "Count the lamps room by room", "Ask who sits in the rooms all day"}
		c.AfterWords = "Please have a floor plan and your opening hours at hand."
		c.MoveUntil, c.CancelUntil = 4*60, 60
	},
	"site-visit": func(c *settings.BookingPageChange) {
		c.OnRequest, c.KeepHours, c.Guests = true, 72, 3
		c.Ways = []schedule.Way{
			{ID: "theirs", Kind: "theirs"},
			{ID: "ours", Kind: "ours", Text: "Rua do Farol 12, Lisbon\nThe door beside the lamp shop; ring at Quillmere."},
			{ID: "later", Kind: "later"},
		}
		c.Questions = []intake.Question{
			{ID: "loan", Kind: intake.YesNo, Label: "Is it about a loan?", Required: true},
			{ID: "lender", Kind: intake.Short, Label: "Who lends it?", Required: true, When: &intake.When{Question: "loan", Is: []string{"yes"}}},
			{ID: "opens", Kind: intake.Date, Label: "When does the exhibition open?"},
			{ID: "height", Kind: intake.One, Label: "How high are the ceilings?", Options: []string{"Below three metres", "Three to six", "Higher"}},
			{ID: "terms", Kind: intake.Terms, Label: "Our travel is paid for."},
		}
	},
}

// said is what the demo's clients answered.
var said = map[string]intake.Given{
	"Fort Erie Textile House": {"rooms": {"6"}, "hangs": {"Textiles"}},
	"Museu da Ria":            {"rooms": {"2"}, "hangs": {"Works on paper"}, "plan": {"museudaria.example/planta"}},
	"Tromsø Light Museum":     {"rooms": {"4"}},
	"Lakehead Survey Museum":  {"rooms": {"11"}, "hangs": {"Works on paper", "Stone and metal"}},
	"Nordfjord Boat Hall":     {"rooms": {"The boat hall"}, "meter": {"yes"}},
	"Kaunas Clock House":      {"rooms": {"Four small ones"}, "meter": {"yes"}},
	"Ribe Tide House":         {"meter": {"no"}, "loan": {"yes"}, "lender": {"Fort Erie Textile House"}, "height": {"Three to six"}, "terms": {"yes"}},
	"Oaxaca Loom Museum":      {"loan": {"no"}, "height": {"Higher"}, "terms": {"yes"}},
}

// brings is who comes along to the evening course.
var brings = map[string][]schedule.Along{
	"evening-course Kaunas Clock House": {{Name: "Rasa Petrauskaitė", Mail: "rasa@clockhouse.example", Said: intake.Given{"meter": {"no"}}}},
}

// addresses are where they want to be visited.
var addresses = map[string]string{
	"Ribe Tide House":    "Skibbroen 3, 6760 Ribe, Denmark",
	"Oaxaca Loom Museum": "Calle del Telar 40, Oaxaca, Mexico",
}

var front = schedule.Front{
	Short:       "Quillmere",
	Description: "We help museums light their rooms without harming what hangs in them.\nTalk to us before you buy a lamp, and before an object travels.",
	Mail:        "hello@quillmere.example", Phone: "+351 210 000 000", Web: "https://quillmere.example", Address: "Rua do Farol 12\n1200-001 Lisbon", Country: "PT",
	Cancellation: "Move or cancel free of charge until four hours before. Later, please call.",
	Privacy:      "We keep your name, your address and what you tell us about your rooms for two years, for nothing but advising you.",
}

// offers plants how the types meet their clients.
func (p Planter) offers(ctx context.Context, owner schedule.Person) error {
	types, err := p.App.MeetingTypes(ctx, owner, settings.TypeFilter{All: true})
	if err != nil {
		return err
	}
	var order []int64
	for _, category := range categories {
		for _, slug := range category.slugs {
			for _, t := range types {
				if t.Slug != slug {
					continue
				}
				order = append(order, t.ID)
				if err := p.offer(ctx, owner, t, category.name); err != nil {
					return fmt.Errorf("the offer of %s: %w", slug, err)
				}
			}
		}
	}
	_, err = p.App.OrderTypes(ctx, owner, order)
	return err
}

func (p Planter) offer(ctx context.Context, owner schedule.Person, t schedule.MeetingType, category string) error {
	view, err := p.App.BookingPage(ctx, owner, t.ID)
	if err != nil {
		return err
	}
	change := view.BookingPageChange
	change.Category = category
	if particular := offers[t.Slug]; particular != nil {
		particular(&change)
	}
	_, err = p.App.SaveBookingPage(ctx, owner, t.ID, change)
	return err
}
