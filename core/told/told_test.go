package told_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corrim/core/civil"
	"corrim/core/span"
	"corrim/core/told"
)

func TestWhatDiffersStandsInTheSentenceAndBesideIt(t *testing.T) {
	w := told.ClientFull.With("5", "Quillmere {} & Co")
	assert.Equal(t, "client-full", w.Code)
	assert.Equal(t, []any{"5", "Quillmere {} & Co"}, w.With)
	assert.Equal(t, "At most 5 of these meetings can be booked ahead with one mail address. Move or cancel one of yours instead. If you need more, write to Quillmere {} & Co.", w.Sentence)
	assert.False(t, told.Words{}.Any())
}

func TestADeadlineIsSaidInItsLargestUnit(t *testing.T) {
	for until, want := range map[int]string{
		-1: "move-never", 0: "move-until-start", 1: "move-until-minute", 90: "move-until-minutes", 60: "move-until-hour",
		24 * 60: "move-until-hours", 48 * 60: "move-until-days",
	} {
		assert.Equal(t, want, told.Moving.Passed(until).Code, "%d minutes", until)
	}
	assert.Contains(t, told.Moving.Passed(24*60).Sentence, "24 hours before", "a day may have 23 hours")
	assert.Contains(t, told.Cancelling.Passed(72*60).Sentence, "cancelled until 3 days before")
}

// What differs goes out in a form that every language can put into words, and stands in English in the sentence.
func TestDatesTimesAndCountsGoOutForEveryLanguage(t *testing.T) {
	halifax, err := time.LoadLocation("America/Halifax")
	require.NoError(t, err)
	at := span.At(time.Date(2026, 5, 5, 13, 15, 0, 0, time.UTC))
	hour := span.Span{Start: at, End: at.Add(time.Hour)}
	for _, one := range []struct {
		differs any
		sent    string
		english string
	}{
		{told.Count(2, "day"), "2", "2 days"},
		{told.List([]string{"Ana", "Bo", "Cy"}), `{"and":["Ana","Bo","Cy"]}`, "Ana, Bo and Cy"},
		{told.Date(at, halifax), `{"date":"2026-05-05"}`, "Tue 5 May 2026"},
		{told.OnDate(civil.Date{Year: 2026, Month: 5, Day: 5}), `{"date":"2026-05-05"}`, "2026-05-05"},
		{told.At(at, halifax), `{"at":"2026-05-05T10:15"}`, "Tue 5 May, 10:15"},
		{told.Clock(at, halifax), `{"clock":"10:15"}`, "10:15"},
		{told.During(hour, halifax), `{"from":"2026-05-05T10:15","to":"2026-05-05T11:15"}`, "10:15–11:15"},
		{told.Weekday(time.Sunday), `{"weekday":0}`, "Sunday"},
		{told.Month(time.May), `{"month":5}`, "May"},
		{told.Say("inner", "in it"), `{"code":"inner","sentence":"in it"}`, "in it"},
	} {
		w := told.Say("outer", "Here: {}.", one.differs)
		assert.Equal(t, "Here: "+one.english+".", w.Sentence)
		sent, err := json.Marshal(w.With)
		require.NoError(t, err)
		assert.JSONEq(t, "["+one.sent+"]", string(sent))
	}
}

func TestWordsAreKeptAndReadBack(t *testing.T) {
	inner := told.Say("rule", "start step")
	w := told.Say("changed", "{}: {}", told.Plain("Lamp talk"), inner)
	kept := told.FromStored(w.Stored())
	again, err := json.Marshal(kept)
	require.NoError(t, err)
	first, err := json.Marshal(w)
	require.NoError(t, err)
	assert.JSONEq(t, string(first), string(again))
	for _, plain := range []string{"Hours of Monday", "{not words", ""} {
		assert.Equal(t, told.Plain(plain), told.FromStored(plain), "what was kept before sentences had codes")
		assert.Equal(t, plain, told.Plain(plain).Stored())
	}
}

func TestAnErrorTellsItsWordsHoweverDeepItIs(t *testing.T) {
	cause := told.Error("no-such-month", "“{}” is no month", "Mey")
	outer := told.Error("in-line", "line {}: {}", 3, cause)
	wrapped := fmt.Errorf("reading: %w", outer)
	assert.Equal(t, "line 3: “Mey” is no month", told.OfError(wrapped).Sentence)
	assert.Equal(t, "in-line", told.OfError(wrapped).Code)
	assert.ErrorIs(t, wrapped, cause)
	assert.Equal(t, told.Plain("EOF"), told.OfError(errors.New("EOF")))
}
