package main

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"jointime/core/service"
)

// replayCommand prints the state that follows from a log of events, one a line: byte for byte what the server says.
func replayCommand() *cobra.Command {
	return &cobra.Command{
		Use: "replay FILE", Short: "Print the state that follows from a service's log (log.jsonl; - reads what comes in)",
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			in := cmd.InOrStdin()
			if args[0] != "-" {
				f, err := os.Open(args[0])
				if err != nil {
					return err
				}
				defer f.Close()
				in = f
			}
			return replay(in, cmd.OutOrStdout())
		},
	}
}

// longestLine is of how many bytes a line of a log is at the most.
const longestLine = 4 << 20

func replay(in io.Reader, out io.Writer) error {
	var log []service.Event
	lines := bufio.NewScanner(in)
	lines.Buffer(nil, longestLine)
	for n := 1; lines.Scan(); n++ {
		if len(lines.Bytes()) == 0 {
			continue
		}
		var e service.Event
		if err := json.Unmarshal(lines.Bytes(), &e); err != nil {
			return fmt.Errorf("line %d: %w", n, err)
		}
		if err := e.Check(); err != nil {
			return fmt.Errorf("line %d: %w", n, err)
		}
		log = append(log, e)
	}
	if err := lines.Err(); err != nil {
		return err
	}
	w := json.NewEncoder(out)
	w.SetEscapeHTML(false)
	return w.Encode(service.Fold(log))
}
