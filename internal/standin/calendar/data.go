// Package calendar is the stand-in for people's calendars: a small CalDAV server (RFC 4791), with a plain page on which
// a person sees, adds, moves and removes the events of "their" calendar.
package calendar

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"time"
)

// User is somebody with calendars on this server.
type User struct {
	Name     string // in addresses and to sign in
	FullName string
	Mail     string
	Zone     string // of the page's clock
	Password string
	Calendars
}

// Calendars of one user, by ID.
type Calendars map[string]*Calendar

// Calendar is a list of resources with a number that rises with every change.
type Calendar struct {
	Name     string
	Revision int
	Objects  map[string]*Object // by file name; removed ones stay, so that a reader can be told
}

// Object is one resource.
type Object struct {
	ICS      string
	Revision int
	Removed  bool
}

func (o *Object) etag() string { return fmt.Sprintf("r%d", o.Revision) }

// data is all users, kept in one file. It is meant for a demo's worth of events.
type data struct {
	mu    sync.RWMutex
	file  string
	users map[string]*User
}

var errNone = errors.New("there is no such thing here")

func load(file string) (*data, error) {
	d := &data{file: file, users: map[string]*User{}}
	text, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) {
		return d, nil
	}
	if err != nil {
		return nil, err
	}
	return d, json.Unmarshal(text, &d.users)
}

func (d *data) save() error {
	if d.file == "" {
		return nil
	}
	text, err := json.Marshal(d.users)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(d.file), 0o700); err != nil {
		return err
	}
	// Written beside and renamed, so that a stop in the middle loses nothing.
	if err := os.WriteFile(d.file+".new", text, 0o600); err != nil {
		return err
	}
	return os.Rename(d.file+".new", d.file)
}

// read runs f on a calendar.
func (d *data) read(user, calendar string, f func(*Calendar) error) error {
	d.mu.RLock()
	defer d.mu.RUnlock()
	u := d.users[user]
	if u == nil || u.Calendars[calendar] == nil {
		return errNone
	}
	return f(u.Calendars[calendar])
}

// put writes an object if check, given what is there now or nil, has nothing against it.
func (d *data) put(user, calendar, name, ics string, check func(*Object) error) (Object, error) {
	return d.change(user, calendar, name, func(o *Object) error {
		if check != nil {
			present := o
			if o.Removed || o.Revision == 0 {
				present = nil
			}
			if err := check(present); err != nil {
				return err
			}
		}
		o.ICS, o.Removed = ics, false
		return nil
	})
}

func (d *data) remove(user, calendar, name string) error {
	_, err := d.change(user, calendar, name, func(o *Object) error {
		if o.Removed || o.Revision == 0 {
			return errNone
		}
		o.ICS, o.Removed = "", true
		return nil
	})
	return err
}

func (d *data) change(user, calendar, name string, f func(*Object) error) (Object, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	u := d.users[user]
	if u == nil || u.Calendars[calendar] == nil {
		return Object{}, errNone
	}
	c := u.Calendars[calendar]
	object := Object{}
	if known := c.Objects[name]; known != nil {
		object = *known
	}
	if err := f(&object); err != nil {
		return Object{}, err
	}
	c.Revision++
	object.Revision = c.Revision
	c.Objects[name] = &object
	return object, d.save()
}

// AddUser adds a user with empty calendars named so; a known user is left as they are. It tells whether it was added.
func (s *Server) AddUser(u User, calendars ...string) (bool, error) {
	s.data.mu.Lock()
	defer s.data.mu.Unlock()
	if s.data.users[u.Name] != nil {
		return false, nil
	}
	u.Calendars = Calendars{}
	for i, name := range calendars {
		u.Calendars[fmt.Sprintf("c%d", i+1)] = &Calendar{Name: name, Objects: map[string]*Object{}}
	}
	s.data.users[u.Name] = &u
	return true, s.data.save()
}

// AddEvent writes an event into a user's calendar, counted from 0.
func (s *Server) AddEvent(user string, calendar int, title string, from, to time.Time, more ...string) error {
	name, ics := newEvent(title, from, to, more...)
	_, err := s.data.put(user, fmt.Sprintf("c%d", calendar+1), name, ics, nil)
	return err
}

func (d *data) userNames() []string {
	d.mu.RLock()
	defer d.mu.RUnlock()
	var names []string
	for name := range d.users {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// Texts returns all resources of a user's calendar, counted from 0.
func (s *Server) Texts(user string, calendar int) []string {
	var out []string
	s.eachObject(user, calendar, func(_ string, o *Object) { out = append(out, o.ICS) })
	return out
}

// Names returns the file names of the resources.
func (s *Server) Names(user string, calendar int) []string {
	var out []string
	s.eachObject(user, calendar, func(name string, _ *Object) { out = append(out, name) })
	return out
}

func (s *Server) eachObject(user string, calendar int, f func(name string, o *Object)) {
	_ = s.data.read(user, fmt.Sprintf("c%d", calendar+1), func(c *Calendar) error { // without the calendar there are none
		for name, o := range c.Objects {
			if !o.Removed {
				f(name, o)
			}
		}
		return nil
	})
}

// Put writes a resource into a user's calendar, counted from 0.
func (s *Server) Put(user string, calendar int, name, ics string) error {
	_, err := s.data.put(user, fmt.Sprintf("c%d", calendar+1), name, ics, nil)
	return err
}

// Rewrite changes the resources of a user's calendar, counted from 0, as another program would; those that stay the same
// are left alone.
func (s *Server) Rewrite(user string, calendar int, change func(ics string) string) error {
	changed := map[string]string{}
	s.eachObject(user, calendar, func(name string, o *Object) {
		if text := change(o.ICS); text != o.ICS {
			changed[name] = text
		}
	})
	for name, text := range changed {
		if _, err := s.data.put(user, fmt.Sprintf("c%d", calendar+1), name, text, nil); err != nil {
			return err
		}
	}
	return nil
}

// RemoveAll empties a user's calendar, counted from 0.
func (s *Server) RemoveAll(user string, calendar int) {
	for _, name := range s.Names(user, calendar) {
		_ = s.data.remove(user, fmt.Sprintf("c%d", calendar+1), name) // one removed meanwhile is as it should be
	}
}
