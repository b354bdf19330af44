package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"syscall"
	"time"
)

// ErrHeld means that another program works on the folder.
var ErrHeld = errors.New("another Corrim works on this folder already. Stop it first, or name another folder with --data")

// lock keeps two programs from working on one folder: both would send every mail. It is given up with the file, also by a crash.
func lock(folder string) (*os.File, error) {
	file, err := os.OpenFile(filepath.Join(folder, "corrim.lock"), os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return nil, fmt.Errorf("nothing can be written to the folder %s (%w). Let the user that runs Corrim write there, or name another folder with --data", folder, err)
	}
	switch err := syscall.Flock(int(file.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); {
	case errors.Is(err, syscall.EWOULDBLOCK):
		return nil, errors.Join(ErrHeld, file.Close())
	case err != nil:
		return nil, errors.Join(fmt.Errorf("the file system of %s can't keep two programs apart (%w). Put the folder on a local disk", folder, err), file.Close())
	}
	return file, nil
}

// Free tells whether no program works on a folder; the error says which does not.
func Free(folder string) error {
	file, err := lock(folder)
	if err != nil {
		return err
	}
	return file.Close()
}

const (
	leastRoom = 32 << 20 // bytes on the disk
	writeTime = 3 * time.Second
)

// Ready tells whether everything that is kept can be read and written, or says what is wrong for whoever runs the installation.
func (s *Store) Ready(ctx context.Context) error {
	s.asked.Lock()
	defer s.asked.Unlock()
	if now := time.Now(); now.Sub(s.asked.at) > readyFor {
		s.asked.at, s.asked.said = now, s.ready(context.WithoutCancel(ctx)) // whoever asks next gets the answer too
	}
	return s.asked.said
}

// readyFor is how long an answer holds: strangers may ask, and each look writes.
const readyFor = 2 * time.Second

type answer struct {
	sync.Mutex
	at   time.Time
	said error
}

func (s *Store) ready(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, writeTime)
	defer cancel()
	if damage := s.damage.Load(); damage != nil {
		return fmt.Errorf("the database is damaged: %s. Stop Corrim and put back a copy from before", *damage)
	}
	if _, err := s.write.ExecContext(ctx, "UPDATE installation SET id = id"); err != nil {
		return fmt.Errorf("nothing can be written: %w", err)
	}
	if _, err := s.read.ExecContext(ctx, "SELECT 1 FROM job, booking, person LIMIT 1"); err != nil {
		return fmt.Errorf("the database is not in the form that this version needs: %w", err)
	}
	var disk syscall.Statfs_t
	if err := syscall.Statfs(s.held.Name(), &disk); err == nil && disk.Bavail*uint64(disk.Bsize) < leastRoom {
		return fmt.Errorf("the disk is nearly full: %d MB are left. Make room before bookings can't be kept any more", disk.Bavail*uint64(disk.Bsize)>>20)
	}
	return nil
}

// Check reads all of the database and keeps what is wrong with it, so that damage is known before somebody needs what is damaged.
func (s *Store) Check(ctx context.Context) error {
	var found string
	err := s.read.QueryRowContext(ctx, "PRAGMA quick_check(1)").Scan(&found)
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case err != nil:
		found = err.Error()
	case found == "ok":
		s.damage.Store(nil)
		return nil
	}
	s.damage.Store(&found)
	return errors.New(found)
}
