package scenario_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/opentimes"
	"corrim/core/scenario"
)

// full uses every part of the format.
const full = `{ "now": "2026-05-04T08:00:00Z", "from": "2026-05-05T00:00:00Z", "to": "2026-05-10T02:00:00+02:00",
  "first_weekday": "sun", "share_buffers": true,
  "type": { "name": "survey", "durations": [50, 20], "before": 5, "after": 10, "buffers_inside_hours": true,
            "step": 10, "offset": 5, "grid": "clock", "notice": {"days": 1}, "window": {"first": "2026-05-05", "last": "2026-05-08"},
            "limits": [{"of": "type", "per": "day", "count": 3}, {"of": "host", "per": "week", "minutes": 600}],
            "hours": {"zone": "Europe/Lisbon", "week": {"tue": "9-17"}, "changes": [{"date": "2026-05-08", "extra": "10-11"}]},
            "holidays": [{"first": "2026-05-07", "name": "Lamp Day"}, {"first": "2026-06-10", "last": "2026-06-11"}] },
  "pool": "together",
  "hosts": [ { "name": "Ines", "zone": "Europe/Lisbon", "week": {"mon": "9-12, 13-17", "tue": "9:30-17", "fri": "9-12"},
               "changes": [ {"date": "2026-05-06", "closed": true}, {"from": "2026-05-14", "to": "2026-05-16", "hours": "10-13"} ],
               "time_off": [ {"from": "2026-05-11", "to": "2026-05-12"}, {"from": "2026-05-05T15:00", "to": "2026-05-05T16:00"} ],
               "calendars": [ {"file": "work.ics", "owner": "ines@example.org", "tentative_busy": false, "all_day_busy": false} ],
               "busy": [ ["2026-05-05T09:30:00Z", "2026-05-05T11:30:00Z"] ],
               "bookings": [ {"type": "survey", "start": "2026-05-05T13:00:00Z", "minutes": 50, "before": 0, "after": 10} ] },
             { "name": "Torvald", "zone": "Europe/Oslo", "week": {"tue": "10-18", "fri": "8-14"} } ],
  "explain": ["2026-05-05T10:00:00Z"] }`

func files(name string) ([]byte, error) {
	if name != "work.ics" {
		return nil, errors.New("there is no such file")
	}
	return []byte("BEGIN:VCALENDAR\nBEGIN:VEVENT\nUID:1\nSUMMARY:Studio visit\nDTSTART:20260505T120000Z\nDURATION:PT30M\nEND:VEVENT\nEND:VCALENDAR\n"), nil
}

func TestAScenarioIsReadWholeAndAnswered(t *testing.T) {
	s, err := scenario.Read([]byte(full), files)
	require.NoError(t, err)
	assert.True(t, s.Pool.Together)
	assert.Equal(t, opentimes.Dates, s.Input.Type.Window.Kind)
	a := s.Answer()
	var starts []string
	for _, one := range a.Starts {
		starts = append(starts, fmt.Sprintf("%s %d %s", one.Start[5:16], one.Minutes, strings.Join(one.Hosts, "+")))
	}
	// Tuesday in Lisbon is 9:30-15 and 16-17, busy 10:30-12:30 and 13-13:30, booked 14-14:50; buffers are inside the hours
	// and may share time; Friday adds 10-11 to the type's hours.
	assert.Equal(t, []string{
		"05-05T08:35 20 Ines+Torvald", "05-05T08:45 20 Ines+Torvald", "05-05T08:55 20 Ines+Torvald", "05-05T15:05 20 Ines+Torvald",
	}, starts[:4], "9:35 for 50 minutes would need 9:30-10:35")
	assert.Contains(t, starts, "05-08T09:05 20 Ines+Torvald")
	assert.NotContains(t, strings.Join(starts, "\n"), "05-05T13:")
	assert.NotContains(t, strings.Join(starts, "\n"), "05-07T", "a public holiday")

	require.Len(t, a.Reasons, 2, "one for each duration")
	ines := a.Reasons[0].Hosts["Ines"]
	assert.Equal(t, []opentimes.Rule{"busy", "step"}, ines.Failing)
	assert.False(t, ines.Open)
	assert.Equal(t, scenario.Why{Rule: "busy", Text: "Busy 10:30–12:30.", From: "2026-05-05T09:30:00Z", To: "2026-05-05T11:30:00Z"}, ines.Why[4])
	assert.Empty(t, a.Reasons[0].Hosts["Torvald"].Failing, "together, the step is the first host's")
	drawn := s.Ribbon()
	assert.Contains(t, drawn, "Tue 05 May 26")
	assert.Contains(t, drawn, "########")
}

func TestWhatIsWrittenReadsBackToTheSameAnswerWithoutPrivateTitles(t *testing.T) {
	for _, text := range []string{full, strings.NewReplacer(`"clock"`, `"packed"`, `{"days": 1}`, `{"minutes": 90}`, `{"first": "2026-05-05", "last": "2026-05-08"}`, `{"days": 9}`, `"together"`, `"one"`).Replace(full)} {
		s, err := scenario.Read([]byte(text), files)
		require.NoError(t, err)
		written, err := s.Write()
		require.NoError(t, err)
		assert.NotContains(t, string(written), "Studio visit")
		again, err := scenario.Read(written, nil)
		require.NoError(t, err)
		assert.Equal(t, s.Answer(), again.Answer())
	}
}

func TestSeatsAreReadWrittenAndCounted(t *testing.T) {
	text := `{"now":"2026-05-04T08:00:00Z","from":"2026-05-05T00:00:00Z","to":"2026-05-06T00:00:00Z","type":{"name":"lesson","durations":[60],"step":60,"seats":5},
		"hosts":[{"name":"A","zone":"UTC","week":{"tue":"9-12"},"bookings":[{"type":"lesson","start":"2026-05-05T09:00:00Z","minutes":60,"seats":5,"taken":3},{"type":"lesson","start":"2026-05-05T10:00:00Z","minutes":60,"seats":5,"taken":5}]}],
		"explain":["2026-05-05T10:00:00Z"]}`
	s, err := scenario.Read([]byte(text), files)
	require.NoError(t, err)
	a := s.Answer()
	assert.Equal(t, []scenario.Start{{"2026-05-05T09:00:00Z", 60, []string{"A"}, 2}, {"2026-05-05T11:00:00Z", 60, []string{"A"}, 5}}, a.Starts)
	assert.Equal(t, []opentimes.Rule{opentimes.SeatsRule}, a.Reasons[0].Hosts["A"].Failing)
	written, err := s.Write()
	require.NoError(t, err)
	again, err := scenario.Read(written, nil)
	require.NoError(t, err)
	assert.Equal(t, a, again.Answer())
}

func TestSessionsStandWhateverElseThereIs(t *testing.T) {
	text := `{"now":"2026-05-04T08:00:00Z","from":"2026-05-05T00:00:00Z","to":"2026-05-06T00:00:00Z","type":{"name":"lesson","durations":[60],"step":60,"seats":5,"sessions":true},
		"hosts":[{"name":"A","zone":"UTC","week":{"tue":"9-12"},"busy":[["2026-05-05T17:00:00Z","2026-05-05T20:00:00Z"]],"bookings":[{"type":"lesson","start":"2026-05-05T17:30:00Z","minutes":60,"seats":5,"session":true}]}],
		"explain":["2026-05-05T17:30:00Z","2026-05-05T09:00:00Z"]}`
	s, err := scenario.Read([]byte(text), files)
	require.NoError(t, err)
	a := s.Answer()
	assert.Equal(t, []scenario.Start{{"2026-05-05T17:30:00Z", 60, []string{"A"}, 5}}, a.Starts, "after hours, and the calendar is busy: it is set all the same")
	assert.Empty(t, a.Reasons[0].Hosts["A"].Failing)
	assert.Equal(t, []opentimes.Rule{opentimes.SessionsRule}, a.Reasons[1].Hosts["A"].Failing, "within the hours, but no session is set then")
	written, err := s.Write()
	require.NoError(t, err)
	again, err := scenario.Read(written, nil)
	require.NoError(t, err)
	assert.Equal(t, a, again.Answer())
}

// A course of two evenings, the second with another host and nearly full; a second course has begun yesterday, a third is full later.
func TestASeriesIsOpenAtItsFirstSessionAsLongAsEachHasASeat(t *testing.T) {
	at := func(series, start string, taken int) string {
		return fmt.Sprintf(`{"type":"course","start":"2026-05-%sZ","minutes":60,"seats":5,"taken":%d,"session":true,"series":"%s"}`, start, taken, series)
	}
	text := `{"now":"2026-05-04T08:00:00Z","from":"2026-05-04T00:00:00Z","to":"2026-05-20T00:00:00Z","type":{"name":"course","durations":[60],"seats":5,"sessions":true,"whole":true},
		"hosts":[{"name":"A","zone":"UTC","week":{},"bookings":[` + at("spring", "05T17:30:00", 1) + `,` + at("begun", "03T17:30:00", 0) + `,` + at("full", "07T17:30:00", 1) + `]},
			{"name":"B","zone":"UTC","week":{},"bookings":[` + at("spring", "12T17:30:00", 3) + `,` + at("begun", "06T17:30:00", 0) + `,` + at("full", "14T17:30:00", 5) + `]}],
		"explain":["2026-05-12T17:30:00Z","2026-05-06T17:30:00Z","2026-05-07T17:30:00Z"]}`
	s, err := scenario.Read([]byte(text), files)
	require.NoError(t, err)
	a := s.Answer()
	assert.Equal(t, []scenario.Start{{"2026-05-05T17:30:00Z", 60, []string{"A"}, 2}}, a.Starts, "with as many seats as its fullest session has")
	assert.Equal(t, []opentimes.Rule{opentimes.SeriesRule}, a.Reasons[0].Hosts["B"].Failing, "it begins earlier")
	assert.Equal(t, []opentimes.Rule{opentimes.SeriesRule}, a.Reasons[1].Hosts["B"].Failing, "it has begun already")
	assert.Equal(t, []opentimes.Rule{opentimes.SeatsRule}, a.Reasons[2].Hosts["A"].Failing, "a week later it is full")
	full := opentimes.Full(s.Input, s.Pool, s.Range, 60)
	require.Len(t, full, 1)
	assert.Equal(t, "2026-05-07T17:30:00Z", full[0].At.String())
	written, err := s.Write()
	require.NoError(t, err)
	again, err := scenario.Read(written, nil)
	require.NoError(t, err)
	assert.Equal(t, a, again.Answer())
}

func TestWhatIsLeftOutHasItsDefault(t *testing.T) {
	s, err := scenario.Read([]byte(`{"now":"2026-05-04T08:00:00Z","from":"2026-05-05T00:00:00Z","to":"2026-05-06T00:00:00Z","type":{"durations":[60],"hours":{}},"hosts":[{"name":"A","zone":"UTC","week":{"tue":"9-11"}}]}`), files)
	require.NoError(t, err)
	text, err := json.Marshal(s.Answer())
	require.NoError(t, err)
	assert.JSONEq(t, `{"starts":[{"start":"2026-05-05T09:00:00Z","minutes":60,"hosts":["A"]},{"start":"2026-05-05T09:30:00Z","minutes":60,"hosts":["A"]},{"start":"2026-05-05T10:00:00Z","minutes":60,"hosts":["A"]}],"reasons":[]}`, string(text))
}

func TestEveryRefusalNamesThePlace(t *testing.T) {
	for change, sentence := range map[[2]string]string{
		{`"9:30-17"`, `"9-"`}:                                           `hosts[0].week.tue: “9-”: an end is missing`,
		{`"pool"`, `"pol"`}:                                             `pol: this key is not known`,
		{`"count": 3`, `"count": 3, "minutes": 5`}:                      `type.limits[0]: exactly one of count, minutes`,
		{`"step": 10`, `"step": 0`}:                                     `type.step: 0 is not between 1 and 1440`,
		{`"offset": 5`, `"offset": -1`}:                                 `type.offset: -1 is not between`,
		{`"step": 10`, `"step": 1.5`}:                                   `type.step: a whole number is expected`,
		{`"step": 10`, `"step": null`}:                                  `type.step: a whole number is expected`,
		{`[50, 20]`, `[50, 50]`}:                                        `type.durations[1]: 50 minutes are there already`,
		{`[50, 20]`, `[]`}:                                              `type.durations: at least one`,
		{`"name": "Torvald"`, `"name": "Ines"`}:                         `hosts[1].name: another host has this name`,
		{`"Europe/Oslo"`, `"Local"`}:                                    `hosts[1].zone: "Local" is not a time zone`,
		{`{"days": 1}`, `{"days": 1, "minutes": 2}`}:                    `type.notice: exactly one of`,
		{`"last": "2026-05-08"`, `"last": "2026-05-04"`}:                `type.window.last: it comes before first`,
		{`"closed": true`, `"closed": true, "hours": "9-10"`}:           `hosts[0].changes[0]: exactly one of closed, hours, extra`,
		{`"closed": true`, `"closed": false`}:                           `hosts[0].changes[0].closed`,
		{`"date": "2026-05-06"`, `"date": "2026-05-06", "from": "x"`}:   `hosts[0].changes[0]: it has either date, or from and to`,
		{`"to": "2026-05-12"`, `"to": "2026-05-10"`}:                    `hosts[0].time_off[0].to: it comes before from`,
		{`"to": "2026-05-05T16:00"`, `"to": "2026-05-05"`}:              `hosts[0].time_off[1].to: "2026-05-05" is not a local date and time`,
		{`"2026-05-05T11:30:00Z"`, `"2026-05-05T09:00:00Z"`}:            `hosts[0].busy[0][1]: the end comes before the start`,
		{`"last": "2026-06-11"`, `"last": "2026-06-01"`}:                `type.holidays[1].last: it comes before first`,
		{`"work.ics"`, `"gone.ics"`}:                                    `hosts[0].calendars[0].file: there is no such file`,
		{`"file": "work.ics"`, `"ics": "no calendar"`}:                  `hosts[0].calendars[0].ics: this is not an iCalendar text`,
		{`"minutes": 50`, `"minuts": 50`}:                               `hosts[0].bookings[0].minuts: this key is not known`,
		{`"2026-05-10T02:00:00+02:00"`, `"2027-08-10T02:00:00Z"`}:       `to: it must come after from, by at most 400 days`,
		{`"now": "2026-05-04T08:00:00Z",`, ``}:                          `now: this is required`,
		{`"now": "2026-05-04T08:00:00Z"`, `"now": "2026-05-04T08:00"`}:  `now: "2026-05-04T08:00" is not an instant`,
		{`"first_weekday": "sun"`, `"first_weekday": "Sunday"`}:         `first_weekday: "Sunday" is not one of fri, mon`,
		{`"share_buffers": true,`, `"share_buffers": true,,`}:           `line 2 is not JSON`,
		{`["2026-05-05T09:30:00Z", "2026-05-05T11:30:00Z"]`, `["now"]`}: `hosts[0].busy[0]: a start and an end`,
	} {
		text := strings.Replace(full, change[0], change[1], 1)
		require.NotEqual(t, full, text, change[0])
		_, err := scenario.Read([]byte(text), files)
		assert.ErrorContains(t, err, sentence)
	}
	_, err := scenario.Read([]byte(`[]`), files)
	assert.Error(t, err)
}

func BenchmarkFiftyHostsSixtyDays(b *testing.B) {
	var hosts []string
	for i := range 50 {
		hosts = append(hosts, fmt.Sprintf(`{"name":"H%d","zone":"Europe/Lisbon","week":{"mon":"9-12, 13-17","tue":"9-12, 13-17","wed":"9-17","thu":"9-17","fri":"9-12"},"busy":[["2026-05-0%dT09:30:00Z","2026-05-0%dT11:30:00Z"]]}`, i, i%9+1, i%9+1))
	}
	text := []byte(`{"now":"2026-05-01T00:00:00Z","from":"2026-05-01T00:00:00Z","to":"2026-06-30T00:00:00Z","type":{"durations":[30],"step":15},"hosts":[` + strings.Join(hosts, ",") + `]}`)
	for b.Loop() {
		s, err := scenario.Read(text, files)
		require.NoError(b, err)
		require.NotEmpty(b, s.Answer().Starts)
	}
}
