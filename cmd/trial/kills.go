package main

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"sync/atomic"
	"time"
)

const hardKills = 200

// kills ends the program hard, over and over, while clients book, and holds what they were told against what there is.
func kills(ctx context.Context, report *report) error {
	r, err := newRig(ctx, 40)
	if err != nil {
		return err
	}
	defer r.end()
	began := time.Now()
	var next atomic.Int64
	stop := make(chan struct{})
	var ended atomic.Int64
	const clients = 6
	for range clients {
		go func() {
			defer ended.Add(1)
			for {
				select {
				case <-stop:
					return
				default:
				}
				n := int(next.Add(1))
				mail, key := fmt.Sprintf("kill-%d@x.example", n), fmt.Sprintf("the key of client %d", n)
				for range 200 { // as a page does that gets no answer: the same request again
					if status, err := r.book(r.types[n%len(r.types)], n, mail, key); err == nil && status != 503 && status != 502 {
						break
					}
					time.Sleep(10 * time.Millisecond)
				}
			}
		}()
	}
	for range hardKills {
		if ctx.Err() != nil {
			break
		}
		time.Sleep(time.Duration(100+rand.IntN(300)) * time.Millisecond)
		if err := r.kill(); err != nil {
			return err
		}
		if err := r.begin(ctx); err != nil {
			return err
		}
	}
	close(stop)
	for ended.Load() < clients {
		time.Sleep(10 * time.Millisecond)
	}
	missing := r.settled(ctx, 2*time.Minute)
	v, err := r.verify(ctx)
	report.add(fmt.Sprintf("kills: %d under load, in %s", hardKills, time.Since(began).Round(time.Second)), "%d bookings told: %s", len(r.told), v)
	if missing > 0 {
		err = errors.Join(err, fmt.Errorf("%d mails never came", missing))
	}
	return errors.Join(err, v.sound())
}
