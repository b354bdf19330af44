package main

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"syscall"
	"time"

	_ "modernc.org/sqlite" // to find a page that is rarely read
)

// disk fills the disk under the program, and empties it again; then a page of the database goes bad.
func disk(ctx context.Context, report *report) error {
	folder, err := os.MkdirTemp("", "corrim-disk")
	if err != nil {
		return err
	}
	if err := syscall.Mount("tmpfs", folder, "tmpfs", 0, "size=96m"); err != nil {
		report.add("disk: full", "not tried: a small disk can't be made here (%v)", err)
		return nil
	}
	defer func() { _ = syscall.Unmount(folder, syscall.MNT_DETACH) }()
	r, err := newRigIn(ctx, folder, 10)
	if err != nil {
		return err
	}
	defer r.services.close()
	defer func() { _ = r.kill() }()
	if _, err := r.bookSome(0, 3); err != nil {
		return err
	}
	if err := fill(filepath.Join(folder, "filler")); err != nil {
		return err
	}
	refused := 0
	for i := range 20 {
		status, _ := r.book(r.types[i%len(r.types)], 100+i, fmt.Sprintf("disk-%d@x.example", i), fmt.Sprintf("key of a full disk %d", i))
		refused += number(status > 499)
	}
	ready, said, err := r.get("/readyz")
	if err != nil {
		return err
	}
	time.Sleep(20 * time.Second)
	mails := len(r.services.inbox.Letters())
	if err := os.Remove(filepath.Join(folder, "filler")); err != nil {
		return err
	}
	r.settled(ctx, time.Minute)
	r.allDone(ctx, time.Minute)
	v, err := r.verify(ctx)
	report.add("disk: full for 20 s, 20 bookings tried", "%d refused; ready says %d; %d mails meanwhile for %d bookings told", refused, ready, mails, len(r.told))
	report.add("disk: with room again", "%s", v)
	if v.surplus > 0 || ready != http.StatusServiceUnavailable {
		err = errors.Join(err, fmt.Errorf("%d mails too many; ready said %d %s", v.surplus, ready, said))
	}
	return errors.Join(err, v.sound(), damaged(ctx, r, report))
}

func fill(name string) error {
	file, err := os.Create(name)
	if err != nil {
		return err
	}
	block := make([]byte, 4096)
	for err == nil {
		_, err = file.Write(block)
	}
	if !errors.Is(err, syscall.ENOSPC) {
		return err
	}
	return file.Close()
}

const page = 4096

// damaged spoils a page that nobody looks at, and asks whether the program is ready.
func damaged(ctx context.Context, r *rig, report *report) error {
	if err := r.kill(); err != nil {
		return err
	}
	file := filepath.Join(r.data(), "corrim.db")
	database, err := sql.Open("sqlite", "file:"+file)
	if err != nil {
		return err
	}
	var root int
	if err := database.QueryRowContext(ctx, "SELECT rootpage FROM sqlite_master WHERE name = 'upload'").Scan(&root); err != nil {
		return err
	}
	if err := database.Close(); err != nil { // which also writes the log back into the file
		return err
	}
	text, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	copy(text[(root-1)*page:root*page], bytes.Repeat([]byte{0xA5}, page))
	if err := os.WriteFile(file, text, 0o600); err != nil {
		return err
	}
	if err := r.begin(ctx); err != nil {
		return err
	}
	for began := time.Now(); time.Since(began) < 10*time.Second; time.Sleep(500 * time.Millisecond) {
		status, said, err := r.get("/readyz")
		if err == nil && status == http.StatusServiceUnavailable {
			report.add("disk: a damaged page", "found %.1f s after the start: %s", time.Since(began).Seconds(), bytes.TrimSpace(said)[:60])
			return nil
		}
	}
	return errors.New("a damaged page is not noticed")
}
