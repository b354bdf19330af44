package calsync

import (
	"context"
	"sync"

	"corrim/core/told"
)

const (
	atOnce   = 24 // calendars are read at most,
	atServer = 6  // and of one server
)

// places bounds how many calendars are read at once, of all servers and of each.
type places struct {
	mu      sync.Mutex
	all     chan struct{}
	servers map[string]chan struct{}
}

// place is where one reading takes place.
type place struct{ server, all chan struct{} }

func (p *places) of(server string) place {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.servers[server] == nil {
		p.servers[server] = make(chan struct{}, atServer)
	}
	return place{p.servers[server], p.all}
}

func (p place) take(ctx context.Context) error {
	for i, places := range []chan struct{}{p.server, p.all} {
		select {
		case places <- struct{}{}:
		case <-ctx.Done():
			if i == 1 {
				<-p.server
			}
			return told.Error("too-many-calendars", "too many calendars of this server are waited for at the moment. It will be asked again")
		}
	}
	return nil
}

func (p place) free() {
	<-p.all
	<-p.server
}
