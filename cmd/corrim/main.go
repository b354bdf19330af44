// Command corrim is the whole of Corrim: the server with its user interface, the demo with its stand-ins, and the tools
// for support. corrim --help lists the commands.
package main

import (
	"context"
	"fmt"
	"os"
	"os/signal"
	"syscall"
	_ "time/tzdata" // for machines without zone data of their own

	"github.com/alecthomas/kong"
)

type commands struct {
	Serve   serveCommand   `cmd:"" help:"Run the server."`
	Demo    demoCommand    `cmd:"" help:"Run the server with demo data and all stand-ins."`
	Setup   setupCommand   `cmd:"" help:"Make a workspace and its first person in an empty installation."`
	TurnKey turnKeyCommand `cmd:"" help:"Replace the installation's key by a new one."`
	Slots   slotsCommand   `cmd:"" help:"Compute the open times of a scenario file."`
	Busy    busyCommand    `cmd:"" help:"Print the busy times of an iCalendar file."`
	Openapi openapiCommand `cmd:"" help:"Print the description of the HTTP API."`
	Version versionCommand `cmd:"" help:"Print which program this is."`
}

func main() {
	var c commands
	parsed := kong.Parse(&c, kong.Name("corrim"), kong.Description("Offers meeting types whose open times come from connected calendars."), kong.UsageOnError())
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	parsed.BindTo(ctx, (*context.Context)(nil))
	if err := parsed.Run(); err != nil {
		fmt.Fprintln(os.Stderr, "corrim:", err)
		os.Exit(1)
	}
}
