package app

import (
	"context"
	"database/sql"
	"errors"
	"net/http"
	"path"
	"strings"
	"time"

	"corrim/core/intake"
	"corrim/core/told"
	"corrim/internal/identity"
	"corrim/internal/job"
	"corrim/internal/refusal"
	"corrim/internal/schedule"
	"corrim/internal/secrets"
	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// Files that clients send with a form. They are kept in the database, far from what is served, and go out to hosts only.

const (
	mostFile    = 4 << 20
	unclaimed   = 24 * time.Hour
	mostWaiting = 200 << 20 // bytes of files that belong to no booking yet, so that nobody fills the disk
	mostOfOne   = 24 << 20  // of them from one network address, so that nobody uses up the space of others
	fileKinds   = "PDF, PNG, JPEG or plain text"
	errorField  = "file"
)

// fileKindsByEnding are the files that are taken: what the name says and what is in them must agree.
var fileKindsByEnding = map[string]string{
	".pdf": "application/pdf", ".png": "image/png", ".jpg": "image/jpeg", ".jpeg": "image/jpeg", ".txt": "text/plain",
}

// Upload is a file that a client has sent, to be named in the form by its token.
type Upload struct {
	Token string `json:"token"`
	Name  string `json:"name"`
}

// AttachedFile is a file that came with a booking.
type AttachedFile struct {
	ID   int64  `json:"id"`
	Name string `json:"name"`
	Size int64  `json:"size" doc:"In bytes."`
}

// TakeFile keeps a file for a type that asks for one, sent from a network address.
func (a *App) TakeFile(ctx context.Context, workspace, slug, name string, data []byte, from identity.Whence) (Upload, error) {
	o, err := a.BookableAt(ctx, a.Store.Queries, workspace, slug)
	if err != nil {
		return Upload{}, err
	}
	if !o.BookingPage.AsksForFiles() {
		return Upload{}, refusal.New(refusal.Invalid, told.NoFileAsked.Words())
	}
	name, media, fault := checkFile(name, data)
	if fault.Any() {
		return Upload{}, refusal.Faulty(errorField, fault)
	}
	token := secrets.New()
	err = a.Store.Write(ctx, func(q *sqlc.Queries) error {
		if err := roomForFile(ctx, q, from, len(data)); err != nil {
			return err
		}
		return q.AddUpload(ctx, sqlc.AddUploadParams{TokenHash: secrets.Hashed(token), TypeID: o.ID, Name: name, Media: media, Bytes: data, Sender: from.Hash(), CreatedAt: a.Now().Unix()})
	})
	return Upload{token, name}, err
}

// roomForFile refuses a file for which there is no room: its sender's own is used up, or that of all.
func roomForFile(ctx context.Context, q *sqlc.Queries, from identity.Whence, size int) error {
	own, err := q.UnclaimedBytesOf(ctx, from.Hash())
	if err != nil {
		return err
	}
	if own+int64(size) > mostOfOne {
		return refusal.New(refusal.TooMany, told.FilesSpent.Words())
	}
	waiting, err := q.UnclaimedBytes(ctx)
	if err == nil && waiting > mostWaiting {
		return refusal.New(refusal.TooMany, told.FilesBusy.Words())
	}
	return err
}

// checkFile is a file's plain name and its kind, or what is wrong with it. Folders in the name are left out.
func checkFile(name string, data []byte) (plain, media string, fault told.Words) {
	plain = intake.FirstLetters(intake.OneLine(path.Base(strings.ReplaceAll(name, `\`, "/"))), 120)
	claimed, known := fileKindsByEnding[strings.ToLower(path.Ext(plain))]
	found, _, _ := strings.Cut(http.DetectContentType(data), ";")
	switch {
	case len(data) == 0:
		return "", "", told.FileEmpty.Words()
	case len(data) > mostFile:
		return "", "", told.FileLarge.Words()
	case !known || claimed != found:
		return "", "", told.FileKind.With(fileKinds)
	}
	return plain, claimed, told.Words{}
}

// nameFiles puts the names of files in the place of their tokens. One that is not there any more has to be chosen again.
func (a *App) nameFiles(ctx context.Context, q *sqlc.Queries, kind int64, said []intake.Answer) (named []intake.Answer, tokens []string, err error) {
	wrong := refusal.Complaints{}
	for _, answer := range said {
		if answer.Kind == intake.File {
			token := answer.Values[0]
			name, err := q.UploadName(ctx, sqlc.UploadNameParams{TokenHash: secrets.Hashed(token), TypeID: kind})
			switch {
			case errors.Is(err, store.ErrNotFound):
				wrong.Add("said."+answer.ID, told.FileGone.Words())
			case err != nil:
				return nil, nil, err
			}
			tokens = append(tokens, token)
			answer.Values = []string{name}
		}
		named = append(named, answer)
	}
	return named, tokens, wrong.Err()
}

const oldFilesEvery = 10 * time.Minute

// dropOldFiles is the job that lets files go that no booking has taken up within a day.
func (a *App) dropOldFiles(ctx context.Context, _ sqlc.Job) (job.Ending, error) {
	before := a.Now().Add(-unclaimed).Unix()
	old, err := a.Store.OldUploads(ctx, before)
	if err == nil && old > 0 {
		err = a.Store.Write(ctx, func(q *sqlc.Queries) error { return q.DropUploads(ctx, before) })
	}
	if err == nil {
		err = a.Store.Write(ctx, func(q *sqlc.Queries) error { return q.ForgetMailSaid(ctx, a.Now().Add(-saidFor).Unix()) })
	}
	if err != nil {
		return nil, err
	}
	return nil, job.Later{At: a.Now().Add(oldFilesEvery)}
}

func bookingIDs(rows []sqlc.Booking) []int64 {
	ids := make([]int64, len(rows))
	for i, b := range rows {
		ids[i] = b.ID
	}
	return ids
}

// filesOf lists the files that came with bookings.
func (a *App) filesOf(ctx context.Context, bookings ...int64) (map[int64][]AttachedFile, error) {
	ids := make([]sql.NullInt64, len(bookings))
	for i, id := range bookings {
		ids[i] = store.NullID(id)
	}
	rows, err := a.Store.UploadsOfBookings(ctx, ids)
	out := map[int64][]AttachedFile{}
	for _, r := range rows {
		out[r.BookingID.Int64] = append(out[r.BookingID.Int64], AttachedFile{r.ID, r.Name, r.Size})
	}
	return out, err
}

// File returns a file to whoever may see its booking.
func (a *App) File(ctx context.Context, p schedule.Person, id int64) (name, media string, data []byte, err error) {
	none := refusal.New(refusal.NotFound, told.Say("no-such-file", "There is no such file. Load the page again to see those there are."))
	row, err := a.Store.Upload(ctx, id)
	if errors.Is(err, store.ErrNotFound) || err == nil && !row.BookingID.Valid {
		return "", "", nil, none
	}
	if err != nil {
		return "", "", nil, err
	}
	if _, err := a.anyBooking(ctx, a.Store.Queries, p, row.BookingID.Int64); err != nil {
		return "", "", nil, none
	}
	return row.Name, row.Media, row.Bytes, nil
}
