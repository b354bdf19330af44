package app

import (
	"crypto/aes"
	"crypto/cipher"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/binary"
	"encoding/hex"
	"errors"
	"fmt"
)

// secrets keeps calendar passwords unreadable in the database and makes the clients' links.
type secrets struct {
	key    []byte
	sealer cipher.AEAD
}

func newSecrets(key []byte) (secrets, error) {
	if len(key) != 32 {
		return secrets{}, fmt.Errorf("the key must have 32 bytes, not %d", len(key))
	}
	block, err := aes.NewCipher(key)
	if err != nil {
		return secrets{}, err
	}
	sealer, err := cipher.NewGCM(block)
	return secrets{key, sealer}, err
}

// seal encrypts text with AES-256-GCM under a fresh nonce.
func (s secrets) seal(text string) []byte {
	nonce := make([]byte, s.sealer.NonceSize())
	_, _ = rand.Read(nonce) // never fails (crypto/rand)
	return s.sealer.Seal(nonce, nonce, []byte(text), nil)
}

func (s secrets) open(sealed []byte) (string, error) {
	size := s.sealer.NonceSize()
	if len(sealed) < size {
		return "", errors.New("a stored password is damaged")
	}
	text, err := s.sealer.Open(nil, sealed[:size], sealed[size:], nil)
	if err != nil {
		return "", errors.New("a stored password cannot be read: is this the key it was kept with?")
	}
	return string(text), nil
}

// link is the secret part of a booking's link: 128 bits, worked out from the key, so that the mails can carry it while
// the database holds only its hash.
func (s secrets) link(uid string) string { return s.derived("link:" + uid) }

// feed is the secret part of the address of a person's feeds, the so-many-th they have.
func (s secrets) feed(person, number int64) string {
	return s.derived(fmt.Sprintf("feed:%d:%d", person, number))
}

// code is six figures for a booking, to be mailed.
func (s secrets) code(uid string) string {
	mac := hmac.New(sha256.New, s.key)
	mac.Write([]byte("code:" + uid))
	return fmt.Sprintf("%06d", binary.BigEndian.Uint64(mac.Sum(nil))%1_000_000)
}

func (s secrets) derived(from string) string {
	mac := hmac.New(sha256.New, s.key)
	mac.Write([]byte(from))
	return base64.RawURLEncoding.EncodeToString(mac.Sum(nil)[:16])
}

func hashed(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}
