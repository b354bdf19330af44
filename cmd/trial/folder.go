package main

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"time"
)

// readOnly starts a program whose folder can't be written to.
func readOnly(r *rig, start func() string, report *report) error {
	const again = syscall.MS_BIND | syscall.MS_REMOUNT | syscall.MS_RDONLY
	err := syscall.Mount(r.data(), r.data(), "", syscall.MS_BIND, "")
	if err == nil {
		defer func() { _ = syscall.Unmount(r.data(), syscall.MNT_DETACH) }()
		err = syscall.Mount("", r.data(), "", again, "")
	}
	if err != nil {
		report.add("folder: read-only", "not tried: it can't be made here (%v)", err)
		return nil
	}
	said := start()
	report.add("folder: read-only", "%.90s …", said)
	if !strings.Contains(said, "read-only") {
		return fmt.Errorf("a folder that can't be written to is not named: %s", said)
	}
	return nil
}

// folder starts a second program on one folder, and one without its key.
func folder(ctx context.Context, report *report) error {
	r, err := newRig(ctx, 1)
	if err != nil {
		return err
	}
	defer r.end()
	port, err := freePort()
	if err != nil {
		return err
	}
	second := func() string {
		ctx, cancel := context.WithTimeout(ctx, 10*time.Second)
		defer cancel()
		said, _ := exec.CommandContext(ctx, binary, "serve", "--data", r.data(), "--addr", fmt.Sprintf("127.0.0.1:%d", port), "--smtp", r.services.mailAt, "--mail-from", "b@x.example",
			"--rooms", "http://"+r.services.roomsAt).CombinedOutput() // it fails, and is to say why
		return strings.TrimSpace(string(said))
	}
	said := second()
	report.add("folder: a second program on it", "%s", said)
	if !strings.Contains(said, "another Corrim works on this folder") {
		return fmt.Errorf("a second program started: %s", said)
	}
	if err := r.kill(); err != nil {
		return err
	}
	if err := readOnly(r, second, report); err != nil {
		return err
	}
	if err := os.Remove(filepath.Join(r.data(), "key")); err != nil {
		return err
	}
	said = second()
	report.add("folder: without its key", "%.90s …", said)
	if !strings.Contains(said, "the key is missing") {
		return fmt.Errorf("a lost key is replaced: %s", said)
	}
	return nil
}
