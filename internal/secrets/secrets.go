// Package secrets keeps what nobody may read unreadable in the database, and works out what only the installation can know: the keys of
// links, feeds, codes and puzzles. All stand under the installation's key.
package secrets

import (
	"context"
	"crypto/aes"
	"crypto/cipher"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base32"
	"encoding/base64"
	"encoding/binary"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"

	"corrim/internal/store"
	"corrim/internal/store/sqlc"
)

// purpose is what a key is for. Each has one of its own, which stands in the database under the installation's key.
type purpose string

const (
	forLinks     purpose = "links"     // of bookings, in mails
	forFeeds     purpose = "feeds"     // private addresses of calendars
	forCodes     purpose = "codes"     // that prove a mail address, and the one of the first run
	forPuzzles   purpose = "puzzles"   // that nobody else can make one
	forCalendars purpose = "calendars" // passwords of calendar servers and secret addresses, encrypted
	forLetters   purpose = "letters"   // mail that waits, encrypted
	forDevices   purpose = "devices"   // that somebody has signed in with
)

var purposes = []purpose{forLinks, forFeeds, forCodes, forPuzzles, forCalendars, forLetters, forDevices}

// derives are the purposes whose key may never change: what was made with it is in other people's hands.
var derives = []purpose{forLinks, forFeeds, forCodes}

// Keys are those of all purposes.
type Keys struct{ keys map[purpose][]byte }

// KeySize is the length of the installation's key, in bytes.
const KeySize = 32

// ErrWrongKey means that the installation's key is not the one that the database was kept with.
var ErrWrongKey = errors.New("this is not the key that the database was kept with, so its links and calendar passwords can't be used. Put the right key back (it was in the data folder or in CORRIM_KEY when the database was made or last turned), or restore both from one backup")

// Open reads the keys of all purposes, or makes them for a database that has none yet. One of an earlier version used
// the installation's key for everything: what was given out with it goes on working, and passwords are encrypted anew.
func Open(ctx context.Context, s *store.Store, master []byte) (Keys, error) {
	if len(master) != KeySize {
		return Keys{}, fmt.Errorf("the key must have %d bytes, not %d", KeySize, len(master))
	}
	rows, err := s.PurposeKeys(ctx)
	if err != nil {
		return Keys{}, err
	}
	out := Keys{map[purpose][]byte{}}
	for _, row := range rows {
		key, err := unseal(master, row.Sealed)
		if err != nil {
			return out, ErrWrongKey
		}
		out.keys[purpose(row.Purpose)] = key
	}
	if len(rows) == 0 {
		return out, out.begin(ctx, s, master)
	}
	for _, p := range purposes {
		if out.keys[p] == nil { // one that came with a later version
			out.keys[p] = randomBytes(KeySize)
			err = s.Write(ctx, func(q *sqlc.Queries) error { return out.keep(ctx, q, master) })
		}
	}
	return out, err
}

func (s Keys) begin(ctx context.Context, db *store.Store, master []byte) error {
	workspaces, err := db.CountWorkspaces(ctx)
	if err != nil {
		return err
	}
	for _, p := range purposes {
		s.keys[p] = randomBytes(KeySize)
	}
	if workspaces > 0 {
		for _, p := range derives {
			s.keys[p] = master
		}
	}
	return db.Write(ctx, func(q *sqlc.Queries) error {
		if err := resealAccounts(ctx, q, master, s.keys[forCalendars]); err != nil {
			return ErrWrongKey
		}
		return s.keep(ctx, q, master)
	})
}

// keep writes all keys down under the installation's.
func (s Keys) keep(ctx context.Context, q *sqlc.Queries, master []byte) error {
	for p, key := range s.keys {
		if err := q.SetPurposeKey(ctx, sqlc.SetPurposeKeyParams{Purpose: string(p), Sealed: seal(master, key)}); err != nil {
			return err
		}
	}
	return nil
}

func resealAccounts(ctx context.Context, q *sqlc.Queries, before, after []byte) error {
	accounts, err := q.SealedAccounts(ctx)
	if err != nil {
		return err
	}
	for _, account := range accounts {
		if len(account.Secret) == 0 {
			continue // a file has none
		}
		text, err := unseal(before, account.Secret)
		if err != nil {
			return err
		}
		if err := q.SetAccountSecret(ctx, sqlc.SetAccountSecretParams{ID: account.ID, Secret: seal(after, text)}); err != nil {
			return err
		}
	}
	return nil
}

// Turn replaces the installation's key, and with it all keys that may change: passwords are encrypted anew. Links that
// people hold go on working. It is one transaction: afterwards only the new key opens the database.
func Turn(ctx context.Context, s *store.Store, before, after []byte) error {
	if len(after) != KeySize {
		return fmt.Errorf("the new key must have %d bytes, not %d", KeySize, len(after))
	}
	keys, err := Open(ctx, s, before)
	if err != nil {
		return err
	}
	old := keys.keys[forCalendars]
	keys.keys[forCalendars], keys.keys[forPuzzles] = randomBytes(KeySize), randomBytes(KeySize)
	return s.Write(ctx, func(q *sqlc.Queries) error {
		if err := resealAccounts(ctx, q, old, keys.keys[forCalendars]); err != nil {
			return err
		}
		return keys.keep(ctx, q, after)
	})
}

func randomBytes(n int) []byte {
	b := make([]byte, n)
	_, _ = rand.Read(b) // never fails (crypto/rand)
	return b
}

func sealer(key []byte) cipher.AEAD {
	block, err := aes.NewCipher(key)
	if err != nil {
		panic(err) // keys have 32 bytes
	}
	gcm, err := cipher.NewGCM(block)
	if err != nil {
		panic(err) // AES blocks have 16 bytes
	}
	return gcm
}

// seal encrypts with AES-256-GCM under a fresh nonce.
func seal(key, text []byte) []byte {
	gcm := sealer(key)
	nonce := randomBytes(gcm.NonceSize())
	return gcm.Seal(nonce, nonce, text, nil)
}

func unseal(key, sealed []byte) ([]byte, error) {
	gcm := sealer(key)
	if len(sealed) < gcm.NonceSize() {
		return nil, errors.New("what was encrypted is damaged")
	}
	return gcm.Open(nil, sealed[:gcm.NonceSize()], sealed[gcm.NonceSize():], nil)
}

// SealLogin encrypts a calendar's password or secret address.
func (s Keys) SealLogin(text string) []byte { return seal(s.keys[forCalendars], []byte(text)) }

// OpenLogin is what SealLogin encrypted.
func (s Keys) OpenLogin(sealed []byte) (string, error) {
	text, err := unseal(s.keys[forCalendars], sealed)
	if err != nil {
		return "", errors.New("the stored password can't be read. Connect the calendar again")
	}
	return string(text), nil
}

// Link is the secret part of a booking's link: 128 bits, worked out from the key, so that the mails can carry it while
// the database holds only its hash.
func (s Keys) Link(uid string) string { return s.derived(forLinks, "link:"+uid) }

// Mail is the part of an address of ours that shows that we gave it out: 80 bits in small letters and figures, since some servers on
// the way take no care of case.
func (s Keys) Mail(about string) string {
	return strings.ToLower(base32.StdEncoding.EncodeToString(s.mac(forLinks, "mail:"+about)[:10]))
}

// Feed is the secret part of the address of a person's feeds, the so-many-th they have.
func (s Keys) Feed(person, number int64) string {
	return s.derived(forFeeds, fmt.Sprintf("feed:%d:%d", person, number))
}

// Code is six figures for a booking, to be mailed.
func (s Keys) Code(uid string) string {
	return fmt.Sprintf("%06d", binary.BigEndian.Uint64(s.mac(forCodes, "code:"+uid))%1_000_000)
}

// Setup is what whoever started the program is told, and has to enter.
func (s Keys) Setup() string { return s.derived(forCodes, "setup")[:10] }

// Puzzle signs a puzzle, that nobody else can make one.
func (s Keys) Puzzle(text string) string { return s.derived(forPuzzles, "puzzle:"+text) }

// Device is what a browser keeps that a person has signed in with: a name of its own, and the proof that we gave it out to them.
func (s Keys) Device(person int64) string {
	name := New()
	return name + "." + s.derived(forDevices, fmt.Sprintf("device:%d:%s", person, name))
}

// DeviceOf is the name of a device that a person has signed in with; empty for one that they haven't.
func (s Keys) DeviceOf(person int64, kept string) string {
	name, proof, _ := strings.Cut(kept, ".")
	if !hmac.Equal([]byte(proof), []byte(s.derived(forDevices, fmt.Sprintf("device:%d:%s", person, name)))) {
		return ""
	}
	return name
}

// SealLetter encrypts mail that waits.
func (s Keys) SealLetter(text []byte) []byte { return seal(s.keys[forLetters], text) }

// OpenLetter is what SealLetter encrypted.
func (s Keys) OpenLetter(sealed []byte) ([]byte, error) { return unseal(s.keys[forLetters], sealed) }

func (s Keys) derived(p purpose, from string) string {
	return base64.RawURLEncoding.EncodeToString(s.mac(p, from)[:16])
}

func (s Keys) mac(p purpose, from string) []byte {
	mac := hmac.New(sha256.New, s.keys[p])
	mac.Write([]byte(from))
	return mac.Sum(nil)
}

// Hashed is what is kept of a secret that somebody else holds, to know it by.
func Hashed(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}

// New is a secret that nobody can guess: 144 bits.
func New() string { return base64.RawURLEncoding.EncodeToString(randomBytes(18)) }
