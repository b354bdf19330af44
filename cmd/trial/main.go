// Command trial tries the built program from outside, as nobody wishes for: years of use, many at once, services that refuse, hang or
// lie, a full disk, hard kills. It starts bin/corrim with the demo, on loopback only, and prints a table of figures at the end. It fails
// if something that clients were told is not so.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"os/signal"
	"slices"
	"strings"
	"time"
)

type part struct {
	name string
	run  func(context.Context, *report) error
}

var parts = []part{
	{"growth", growth}, {"races", races}, {"kills", kills}, {"outages", outages}, {"disk", disk}, {"folder", folder},
}

func main() {
	program := flag.String("program", "bin/corrim", "the program to try")
	flag.Parse()
	binary = *program
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	r := &report{}
	began := time.Now()
	var failed error
	for _, p := range parts {
		if flag.NArg() > 0 && !slices.Contains(flag.Args(), p.name) {
			continue
		}
		fmt.Printf("%s …\n", p.name)
		if err := p.run(ctx, r); err != nil {
			failed = errors.Join(failed, fmt.Errorf("%s: %w", p.name, err))
			fmt.Println("  ", err)
		}
	}
	r.print()
	fmt.Printf("\nTook %s.\n", time.Since(began).Round(time.Second))
	if failed != nil {
		fmt.Fprintln(os.Stderr, failed)
		os.Exit(1)
	}
}

// report is the table at the end.
type report struct{ rows [][2]string }

func (r *report) add(what, format string, values ...any) {
	r.rows = append(r.rows, [2]string{what, fmt.Sprintf(format, values...)})
}

func (r *report) print() {
	fmt.Println("\nFigures")
	for _, row := range r.rows {
		fmt.Printf("  %-58s %s\n", row[0], strings.TrimSpace(row[1]))
	}
}

func median(of []time.Duration) time.Duration {
	slices.Sort(of)
	return of[len(of)/2]
}
