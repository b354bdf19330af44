package main

import (
	"context"
	"errors"
	"fmt"
	"sync/atomic"
	"time"
)

// outages takes one service away at a time, in three ways, while clients book.
func outages(ctx context.Context, report *report) error {
	r, err := newRig(ctx, 20)
	if err != nil {
		return err
	}
	defer r.end()
	usual, err := r.bookSome(0, 10)
	if err != nil {
		return err
	}
	report.add("outages: a booking while all is well", "%.0f ms", ms(usual))
	r.settled(ctx, time.Minute)
	moods := map[string]*atomic.Int32{"mail": &r.services.mailMood, "rooms": &r.services.roomsMood, "calendar": &r.services.calendarMood}
	slot := 100
	var failed error
	for _, service := range []string{"mail", "rooms", "calendar"} {
		for _, mood := range []int32{refuses, hangs, lies} {
			name := fmt.Sprintf("outages: %s %s", service, moodWords[mood])
			if err := r.outage(ctx, report, name, moods[service], mood, slot); err != nil {
				failed = errors.Join(failed, fmt.Errorf("%s: %w", name, err))
			}
			slot += 100
		}
	}
	v, err := r.verify(ctx)
	report.add("outages: afterwards", "%s", v)
	return errors.Join(failed, err, v.sound())
}

const outageBookings = 20

func (r *rig) outage(ctx context.Context, report *report, name string, mood *atomic.Int32, what int32, slot int) error {
	roomsBefore, lettersBefore := r.services.roomsMade.Load(), len(r.services.inbox.Letters())
	entriesBefore := len(r.services.calendars.Texts("ann", 0))
	mood.Store(what)
	during, err := r.bookSome(slot, outageBookings)
	if err != nil {
		mood.Store(well)
		return err
	}
	time.Sleep(6 * time.Second)
	rooms, letters := r.services.roomsMade.Load()-roomsBefore, len(r.services.inbox.Letters())-lettersBefore
	entries := len(r.services.calendars.Texts("ann", 0)) - entriesBefore
	mood.Store(well)
	back := time.Now()
	missing := r.allDone(ctx, 3*time.Minute)
	report.add(name, "a booking %5.0f ms; done meanwhile: %d rooms, %d entries, %d mails of %d; all %3.0f s after it was back", ms(during), rooms, entries, letters, 2*outageBookings, time.Since(back).Seconds())
	if missing != "" {
		return errors.New(missing)
	}
	return nil
}

// bookSome books some times in a row and returns how long the median one took.
func (r *rig) bookSome(slot, n int) (time.Duration, error) {
	var all []time.Duration
	for i := range n {
		began := time.Now()
		status, err := r.book(r.types[i%len(r.types)], slot+i, fmt.Sprintf("outage-%d@x.example", slot+i), fmt.Sprintf("key of an outage %d", slot+i))
		if err != nil || status != 200 {
			return 0, fmt.Errorf("a booking was answered %d: %w", status, err)
		}
		all = append(all, time.Since(began))
	}
	return median(all), nil
}

// allDone waits until what clients were told is so everywhere; it says what is not, after the limit.
func (r *rig) allDone(ctx context.Context, limit time.Duration) (what string) {
	for began := time.Now(); time.Since(began) < limit && ctx.Err() == nil; time.Sleep(500 * time.Millisecond) {
		v, err := r.verify(ctx)
		if err == nil && v.sound() == nil {
			return ""
		}
		what = fmt.Sprint(v, " ", err)
	}
	return what
}
