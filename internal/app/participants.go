package app

import (
	"bytes"
	"context"
	"encoding/csv"
	"strings"
	"time"

	"corrim/core/intake"
	"corrim/internal/schedule"
	"corrim/internal/store/sqlc"
)

// ParticipantsFile is who has a seat in a meeting that clients share, as CSV (RFC 4180) in UTF-8: one line for each client, a column for each
// question that one of them answered. Times are on the person's clock. The first line has the names of the columns.
func (a *App) ParticipantsFile(ctx context.Context, p schedule.Person, id int64) ([]byte, error) {
	b, err := a.anyBooking(ctx, a.Store.Queries, p, id)
	if err != nil {
		return nil, err
	}
	seats, err := seatsStanding(ctx, a.Store.Queries, b.Booking)
	if err != nil {
		return nil, err
	}
	head, columns := []string{"Name", "Mail", "State", "Confirmed", "Booked", "Remark"}, map[string]int{}
	for _, seat := range seats {
		for _, answer := range formOf(seat).Said {
			if _, known := columns[answer.ID]; !known {
				columns[answer.ID] = len(head)
				head = append(head, answer.Label)
			}
		}
	}
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	w.UseCRLF = true
	lines := [][]string{head}
	for _, seat := range seats {
		lines = append(lines, participantLine(seat, len(head), columns, p))
	}
	for _, line := range lines {
		for i := range line {
			line[i] = asText(line[i])
		}
	}
	err = w.WriteAll(lines)
	return out.Bytes(), err
}

func participantLine(b sqlc.Booking, width int, columns map[string]int, p schedule.Person) []string {
	line := make([]string, width)
	said := map[bool]string{true: "yes"}[confirmed(b)]
	copy(line, []string{b.ClientName, b.ClientMail, b.Life, said, time.Unix(b.CreatedAt, 0).In(p.Local).Format("2006-01-02 15:04"), b.Remark})
	for _, answer := range formOf(b).Said {
		line[columns[answer.ID]] = answer.Text()
	}
	return line
}

// asText keeps table programs from taking what a client wrote for a formula (common practice: an apostrophe before it).
func asText(cell string) string {
	if cell != "" && strings.ContainsRune("=+-@\t\r", rune(cell[0])) {
		return "'" + cell
	}
	return intake.AsWritten(cell)
}
