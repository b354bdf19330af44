package main

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"sync/atomic"
	"time"
)

// races lets a thousand clients press Book for one time, and for times of several types that overlap.
func races(ctx context.Context, report *report) error {
	r, err := newRig(ctx, 12)
	if err != nil {
		return err
	}
	defer r.end()
	for name, slots := range map[string]int{"one time": 1, "100 times of 12 types": 100} {
		base := map[string]int{"one time": 3000, "100 times of 12 types": 4000}[name]
		var got, refused, other atomic.Int64
		began := time.Now()
		inParallel(1000, 64, func(i int) {
			status, err := r.book(r.types[i%len(r.types)], base+i%slots, fmt.Sprintf("race-%d-%d@x.example", base, i), fmt.Sprintf("key of a race %d %d", base, i))
			switch {
			case err == nil && status == 200:
				got.Add(1)
			case err == nil && status == 409:
				refused.Add(1)
			default:
				other.Add(1)
			}
		})
		report.add("races: 1,000 clients for "+name, "%d got it, %d were refused, %d neither, in %s", got.Load(), refused.Load(), other.Load(), time.Since(began).Round(time.Millisecond))
		if got.Load() != int64(slots) || other.Load() > 0 {
			err = errors.Join(err, fmt.Errorf("%s: %d bookings of %d, %d answered otherwise", name, got.Load(), slots, other.Load()))
		}
	}
	r.settled(ctx, time.Minute)
	v, failed := r.verify(ctx)
	report.add("races: afterwards", "%s", v)
	return errors.Join(err, failed, v.sound())
}

func inParallel(n, at int, do func(i int)) {
	var wait sync.WaitGroup
	places := make(chan struct{}, at)
	for i := range n {
		places <- struct{}{}
		wait.Go(func() {
			defer func() { <-places }()
			do(i)
		})
	}
	wait.Wait()
}
