package main

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"
)

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
