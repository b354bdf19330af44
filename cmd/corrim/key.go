package main

import (
	"cmp"
	"context"
	"crypto/rand"
	"encoding/base64"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"corrim/internal/secrets"
	"corrim/internal/store"
)

// keyFile is where the installation's key is, if it is not in the environment.
func (p place) keyFile() string { return cmp.Or(p.KeyFile, filepath.Join(p.Data, "key")) }

// nextFile holds the next key while the key is being turned.
func (p place) nextFile() string { return p.keyFile() + ".next" }

// key is the installation's key: from the environment, else from a file that only its owner can read. One is made only for
// a folder without a database: to replace a lost key silently would make every link and password worthless.
func (p place) key() ([]byte, error) {
	if p.Key != "" {
		return readKey("CORRIM_KEY", p.Key)
	}
	key, err := os.ReadFile(p.keyFile())
	if !errors.Is(err, os.ErrNotExist) {
		return key, err
	}
	if _, err := os.Stat(filepath.Join(p.Data, "corrim.db")); err == nil {
		return nil, fmt.Errorf("the key is missing: %s. Without it the links and calendar passwords in %s can't be used. Bring it back from where you keep it (see docs/operate.md), or name its file with --key-file", p.keyFile(), p.Data)
	}
	return newKey(p.keyFile())
}

func readKey(name, text string) ([]byte, error) {
	key, err := base64.StdEncoding.DecodeString(text)
	if err != nil {
		return nil, errors.New(name + " is not base64")
	}
	return key, nil
}

func newKey(file string) ([]byte, error) {
	key := make([]byte, secrets.KeySize)
	_, _ = rand.Read(key) // never fails (crypto/rand)
	return key, os.WriteFile(file, key, 0o600)
}

type turnKeyCommand struct {
	place
	NewKey string `env:"CORRIM_NEW_KEY" help:"The new key, 32 bytes in base64, if the key is in CORRIM_KEY; set it as CORRIM_KEY afterwards."`
}

// Run replaces the key. The server must not run meanwhile. Whatever interrupts it, the key on the disk is one that opens the
// database, or the next one beside it is: then running it again goes on.
func (c *turnKeyCommand) Run(ctx context.Context) error {
	c.Data = cmp.Or(c.Data, defaultData)
	if _, err := os.Stat(filepath.Join(c.Data, "corrim.db")); err != nil {
		return fmt.Errorf("there is no installation in %s; name its folder with --data", c.Data)
	}
	before, err := c.key()
	if err != nil {
		return err
	}
	opened, err := store.Open(ctx, c.Data)
	if err != nil {
		return err
	}
	defer func() { _ = opened.Close() }()
	if c.Key != "" {
		after, err := readKey("CORRIM_NEW_KEY", c.NewKey)
		if err != nil {
			return err
		}
		return secrets.Turn(ctx, opened, before, after)
	}
	after, err := os.ReadFile(c.nextFile())
	if errors.Is(err, os.ErrNotExist) {
		after, err = newKey(c.nextFile())
	}
	if err != nil {
		return err
	}
	if err := secrets.Turn(ctx, opened, before, after); err != nil && !turned(ctx, opened, after, err) {
		return err
	}
	if err := os.Rename(c.nextFile(), c.keyFile()); err != nil {
		return err
	}
	fmt.Println("The key is replaced:", c.keyFile())
	return nil
}

// turned tells whether an earlier, interrupted run has already turned the key to this one.
func turned(ctx context.Context, opened *store.Store, after []byte, err error) bool {
	return errors.Is(err, secrets.ErrWrongKey) && secrets.Turn(ctx, opened, after, after) == nil
}
