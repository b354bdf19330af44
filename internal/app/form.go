package app

import (
	"encoding/json"

	"corrim/core/life"
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

// roomOf is the room in which a booking meets by video: one of its own, or its host's; without address if it doesn't meet by video, or there
// is no room yet. It is for those who host it. What its client and whom they bring may know of it says admitted.
func roomOf(b sqlc.Booking) (room Room) {
	if way := formOf(b).Way; way.Kind == schedule.WayOwnRoom {
		return Room{URL: way.Text}
	}
	_ = json.Unmarshal([]byte(b.Room), &room) // empty text: no room yet
	return room
}

// admitted is the room as far as whoever holds the booking's link may know it now. Every way to them – page, file, mail, invitation, text
// message – asks it.
func admitted(b sqlc.Booking) Room {
	if !life.State(b.Life).Admits() {
		return Room{}
	}
	return roomOf(b)
}
