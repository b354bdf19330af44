package store

import (
	"bufio"
	"os"
	"path/filepath"
	"sync"
)

// sentLog names the mails that went out while their end was not written down yet. A line is with the operating system in microseconds,
// where a commit takes milliseconds: a program that is killed between the two doesn't send them again. After a power cut it may.
type sentLog struct {
	mu     sync.Mutex
	file   *os.File
	before map[string]bool // by an earlier run of the program
	lines  int
}

// forgetAfter is how many lines are kept before those are forgotten whose ends are written down.
const forgetAfter = 1000

func openSentLog(folder string) (*sentLog, error) {
	file, err := os.OpenFile(filepath.Join(folder, "sent.log"), os.O_RDWR|os.O_CREATE|os.O_APPEND, 0o600)
	if err != nil {
		return nil, err
	}
	l := &sentLog{file: file, before: map[string]bool{}}
	lines := bufio.NewScanner(file)
	for lines.Scan() {
		l.before[lines.Text()] = true
		l.lines++
	}
	return l, lines.Err()
}

// WasSent tells whether a mail went out in an earlier run of the program that ended before it could write it down.
func (s *Store) WasSent(id string) bool {
	s.sent.mu.Lock()
	defer s.sent.mu.Unlock()
	return s.sent.before[id]
}

// MarkSent keeps that a mail went out.
func (s *Store) MarkSent(id string) error {
	s.sent.mu.Lock()
	defer s.sent.mu.Unlock()
	s.sent.lines++
	_, err := s.sent.file.WriteString(id + "\n")
	return err
}

// AllWritten says that the ends of all mails that went out are written down.
func (s *Store) AllWritten() error {
	s.sent.mu.Lock()
	defer s.sent.mu.Unlock()
	if s.sent.lines < forgetAfter {
		return nil
	}
	s.sent.lines, s.sent.before = 0, map[string]bool{}
	return s.sent.file.Truncate(0)
}
