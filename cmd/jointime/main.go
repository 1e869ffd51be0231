// Command jointime is the whole application: the server, its database's
// migrations and demo, and the scheduler and its checker on files.
package main

import (
	"errors"
	"fmt"
	"os"
	_ "time/tzdata" // time zones, where the machine has none

	"github.com/spf13/cobra"
)

// exitCode is an error that ends the program with a code of its own.
type exitCode struct {
	code int
	err  error
}

func (e *exitCode) Error() string { return e.err.Error() }

func main() {
	root := &cobra.Command{
		Use: "jointime", Short: "Brings every plate together: prep, firing and plating for a kitchen",
		SilenceUsage: true, SilenceErrors: true,
	}
	root.AddCommand(scheduleCommand(), verifyCommand(), benchCommand(), serveCommand(), migrateCommand(), demoCommand(), openapiCommand(),
		replayCommand(), passphraseCommand(), rehearseCommand(), deviceCommand())
	err := root.Execute()
	if err == nil {
		return
	}
	var e *exitCode
	if errors.As(err, &e) {
		if e.err != nil {
			fmt.Fprintln(os.Stderr, e.err)
		}
		os.Exit(e.code)
	}
	fmt.Fprintln(os.Stderr, "jointime:", err)
	os.Exit(1)
}
