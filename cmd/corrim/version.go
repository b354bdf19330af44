package main

import (
	"fmt"
	"runtime/debug"
)

type versionCommand struct{}

// Run prints which program this is: the commit it was built from, and with what.
func (versionCommand) Run() error {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return fmt.Errorf("this program was built without saying of what. Build it with make build in a clone of the repository")
	}
	said := map[string]string{}
	for _, s := range info.Settings {
		said[s.Key] = s.Value
	}
	commit, changed := said["vcs.revision"], ""
	if commit == "" {
		commit = "unknown: it was built outside a clone of the repository"
	}
	if said["vcs.modified"] == "true" {
		changed = ", with changes that are not committed"
	}
	fmt.Printf("corrim\n  commit  %s%s\n  of      %s\n  built   with %s\n", commit, changed, said["vcs.time"], info.GoVersion)
	return nil
}
