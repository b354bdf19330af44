package share_test

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"corrim/core/intake"
	"corrim/core/share"
)

// Whatever a link says, reading what was written brings it back.
func TestLinksAreReadAsTheyWereWritten(t *testing.T) {
	text := rapid.Map(rapid.StringMatching(`[a-zA-Z0-9 äöé&=?#%+;/"'<>-]{0,30}`), intake.AsWritten)
	named := rapid.StringMatching(`[a-z.]{1,8}`)
	rapid.Check(t, func(t *rapid.T) {
		l := share.Link{
			Minutes: rapid.IntRange(0, 1440).Draw(t, "minutes"), With: text.Draw(t, "with"), Way: text.Draw(t, "way"), Language: text.Draw(t, "language"), Via: text.Draw(t, "via"),
			Day: rapid.SampledFrom([]string{"", "2026-12-04"}).Draw(t, "day"), Colour: rapid.SampledFrom([]string{"", "#7a1f4d"}).Draw(t, "colour"),
			Asked: rapid.MapOf(named, text.Filter(func(s string) bool { return s != "" })).Draw(t, "asked"),
			Name:  text.Draw(t, "name"), Mail: text.Draw(t, "mail"), Remark: text.Draw(t, "remark"), Given: text.Draw(t, "place"), Guests: text.Draw(t, "guests"),
			Said: rapid.MapOf(named, rapid.SliceOfN(text.Filter(func(s string) bool { return s != "" }), 1, 3)).Draw(t, "said"),
		}
		read := share.ParseQuery("?" + l.Query())
		if !assert.ObjectsAreEqual(l, read) {
			t.Fatalf("%#v was read as %#v", l, read)
		}
	})
}

func TestWhatALinkCannotMeanIsLeftOut(t *testing.T) {
	l := share.ParseQuery("?length=-5&day=2026-02-30&colour=red&admin=1&q.=x&a.=y&with=ines&at=2026-12-04T10:00:00Z&utm_source=mail")
	assert.Equal(t, "with=ines", l.Query(), "unknown parameters don't go along")
	assert.Equal(t, "way=phone", share.ParseQuery("way=phone&name=%zz").Query(), "of a broken one, what can be read")

	long := share.Parse(url.Values{"q.a": {strings.Repeat("x", share.Longest)}, "q.b": {"short"}})
	assert.Len(t, long.Said["a"], 1, "8,000 letters fit")
	assert.Empty(t, long.Said["b"], "and nothing beside them")
	assert.Equal(t, "#7a1f4d", share.Parse(url.Values{"colour": {"#7A1F4D"}}).Colour)
}

// A type's form changes, and its links are in the world: what still fits is kept, the rest is named.
func TestALinkKeepsWhatFits(t *testing.T) {
	page := share.Page{
		Lengths: []int{15, 30}, Hosts: []string{"ines"}, Ways: []string{"video"}, Languages: []string{"en", "de"}, Asks: map[string][]string{"language": {"Dutch"}},
		Questions: []intake.Question{
			{ID: "rooms", Kind: intake.Several, Label: "Which rooms?", Options: []string{"North wing", "Cellar"}},
			{ID: "count", Kind: intake.Number, Label: "How many lamps?"},
			{ID: "terms", Kind: intake.Terms, Label: "Our travel is paid for."},
		},
	}
	l := share.ParseQuery("length=45&with=ines&way=phone&language=fi&a.language=Dutch&a.floor=2&q.rooms=Cellar&q.rooms=Attic&q.count=many&q.terms=yes&q.gone=old&name=Silo")
	fit, misfits := l.Fit(page)
	assert.Equal(t, "a.language=Dutch&name=Silo&q.rooms=Cellar&with=ines", fit.Query())
	assert.Equal(t, []share.Misfit{
		{"length", "45"}, {"way", "phone"}, {"language", "fi"}, {"floor", "2"}, {"How many lamps?", "many"}, {"gone", "old"}, {"Which rooms?", "Attic"}, {"Our travel is paid for.", "yes"},
	}, misfits)
	fit, misfits = fit.Fit(page)
	assert.Empty(t, misfits)
	assert.Equal(t, "a.language=Dutch&name=Silo&q.rooms=Cellar&with=ines", fit.Query(), "what fits, fits")
}

func TestWhatALinkSaysGoesOverWhatItsNameSays(t *testing.T) {
	named, said := share.ParseQuery("length=30&name=Silo&q.a=1&q.a=2"), share.ParseQuery("name=Salt+Barn&q.a=3&via=k7")
	assert.Equal(t, "length=30&name=Salt+Barn&q.a=3&via=k7", named.Over(said).Query())
}
