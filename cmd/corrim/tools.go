package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"time"

	"corrim/core/busy"
	"corrim/core/civil"
	"corrim/core/scenario"
	"corrim/core/span"
	"corrim/internal/api"
)

type busyCommand struct {
	From  time.Time `required:"" help:"Beginning of the range, RFC 3339."`
	To    time.Time `required:"" help:"End of the range, RFC 3339."`
	Zone  string    `default:"UTC" help:"The calendar's time zone, for all-day and floating times."`
	Owner string    `help:"Mail address of the calendar's owner; what they declined is free."`
	File  string    `arg:"" help:"An iCalendar file, or - for standard input."`
}

const (
	maxFile  = scenario.MaxSize
	maxRange = 400 * 24 * time.Hour
)

// Run prints the busy times, merged, clipped to the range and sorted. Parts that can't be read are named on standard error.
func (c *busyCommand) Run() error {
	zone, err := civil.LoadZone(c.Zone)
	if err != nil {
		return err
	}
	if c.To.Before(c.From) || c.To.Sub(c.From) > maxRange {
		return fmt.Errorf("--to must come after --from, by at most 400 days")
	}
	text, err := readFile(c.File)
	if err != nil {
		return err
	}
	calendar, err := busy.Read(text, busy.Options{Zone: zone, Owners: []string{c.Owner}, TentativeBusy: true, AllDayBusy: true})
	if err != nil {
		return fmt.Errorf("%s: %w", c.File, err)
	}
	within := span.Of(c.From, c.To)
	stretches, troubles := calendar.Busy(within)
	for _, t := range troubles {
		fmt.Fprintln(os.Stderr, "corrim:", t)
	}
	answer := struct {
		Busy [][2]string `json:"busy"`
	}{[][2]string{}}
	for _, s := range busy.Merged(stretches, within) {
		answer.Busy = append(answer.Busy, [2]string{s.Start.String(), s.End.String()})
	}
	return json.NewEncoder(os.Stdout).Encode(answer)
}

type slotsCommand struct {
	File   string `arg:"" help:"A scenario file, or - for standard input."`
	Ribbon bool   `help:"Draw each day as a line of text."`
}

// Run prints the answer. Calendar files that the scenario names lie beside it.
func (c *slotsCommand) Run() error {
	text, err := readFile(c.File)
	if err != nil {
		return err
	}
	folder := "."
	if c.File != "-" {
		folder = filepath.Dir(c.File)
	}
	s, err := scenario.Read(text, func(name string) ([]byte, error) { return readFile(filepath.Join(folder, name)) })
	if err != nil {
		return fmt.Errorf("%s: %w", c.File, err)
	}
	for _, t := range s.Troubles {
		fmt.Fprintln(os.Stderr, "corrim:", t)
	}
	if c.Ribbon {
		_, err := fmt.Print(s.Ribbon())
		return err
	}
	return json.NewEncoder(os.Stdout).Encode(s.Answer())
}

func readFile(name string) ([]byte, error) {
	in := io.Reader(os.Stdin)
	if name != "-" {
		file, err := os.Open(name)
		if err != nil {
			return nil, err
		}
		defer func() { _ = file.Close() }()
		in = file
	}
	text, err := io.ReadAll(io.LimitReader(in, maxFile+1))
	if err == nil && len(text) > maxFile {
		err = fmt.Errorf("%s is larger than 20 MB", name)
	}
	return text, err
}

type openapiCommand struct{}

// Run prints the description.
func (openapiCommand) Run() error {
	text, err := api.OpenAPI()
	if err != nil {
		return err
	}
	var indented any
	if err := json.Unmarshal(text, &indented); err != nil {
		return err
	}
	out := json.NewEncoder(os.Stdout)
	out.SetIndent("", "  ")
	return out.Encode(indented)
}
