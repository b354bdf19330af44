package app

import (
	"encoding/json"

	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// What a client gives with a booking beside name and mail: the way of meeting, answers, guests, and their consent.

// formOf is what was given with a booking.
func formOf(b sqlc.Booking) schedule.FilledForm {
	f := schedule.FilledForm{Consent: b.Consent}
	_ = json.Unmarshal([]byte(b.Way), &f.Way) // all three were written by keep
	_ = json.Unmarshal([]byte(b.Said), &f.Said)
	_ = json.Unmarshal([]byte(b.Guests), &f.Guests)
	return f
}

// hasFreshRoom tells whether a booking meets in a video room of its own.
func hasFreshRoom(b sqlc.Booking) bool { return formOf(b).Way.Kind == schedule.WayVideo }

// joinURL is where to join by video; empty if one doesn't, or the room is not made yet.
func joinURL(b sqlc.Booking) string {
	if way := formOf(b).Way; way.Kind == schedule.WayOwnRoom {
		return way.Text
	}
	return roomOf(b).URL
}
