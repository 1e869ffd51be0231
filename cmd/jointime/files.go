package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"path/filepath"
	"time"

	"github.com/spf13/cobra"

	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
)

// The exit codes of workload.md.
const (
	exitInput  = 2
	exitBroken = 3
)

func scheduleCommand() *cobra.Command {
	var in, out string
	var seconds float64
	var seed int64
	var rounds []int
	var anyway bool
	c := &cobra.Command{
		Use: "schedule", Short: "Solve a workload file", Args: cobra.NoArgs,
		Long: "Solve a workload file. Exit 0: a schedule that keeps every rule was written; 2: the input is wrong; 3: none was found, the best effort was written.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			for _, n := range rounds {
				if n < 1 {
					return &exitCode{exitInput, fmt.Errorf("--rounds: expected numbers over 0, got %d", n)}
				}
			}
			if !(seconds > 0) {
				return &exitCode{exitInput, fmt.Errorf("--seconds: expected a number over 0, got %v", seconds)}
			}
			w, err := load(in, cmd.InOrStdin(), workload.Read)
			if err != nil {
				return err
			}
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt)
			defer stop()
			ctx, cancel := bounded(ctx, seconds, cmd.Flags().Changed("seconds"), rounds)
			defer cancel()
			began := time.Now()
			s := search(ctx, w, seed, rounds, anyway)
			s.Search.Seconds = float64(time.Since(began).Milliseconds()) / 1000
			var b bytes.Buffer
			if err := workload.WriteSchedule(&b, s); err != nil {
				return err
			}
			if err := save(out, cmd.OutOrStdout(), b.Bytes()); err != nil {
				return err
			}
			if s.Status == workload.BestEffort || s.Status == workload.Impossible {
				return &exitCode{exitBroken, fmt.Errorf("%s: %d rules", s.Status, len(s.Broken))}
			}
			return nil
		},
	}
	c.Flags().StringVar(&in, "in", "-", "workload file, - for standard input")
	c.Flags().StringVar(&out, "out", "-", "schedule file, - for standard output")
	c.Flags().Float64Var(&seconds, "seconds", 2, "longest time of the search; with rounds none, unless it is given")
	c.Flags().IntSliceVar(&rounds, "rounds", nil,
		"end after so many rounds of search; with several, each search starts from the schedule before it")
	c.Flags().BoolVar(&anyway, "anyway", false, "where no schedule keeps every rule, write the least broken one")
	c.Flags().Int64Var(&seed, "seed", 1, "seed of every random choice")
	return c
}

// bounded ends a search after so many seconds. One whose rounds are counted ends by itself, however slow the machine is, unless a time was
// asked for too.
func bounded(ctx context.Context, seconds float64, asked bool, rounds []int) (context.Context, context.CancelFunc) {
	if len(rounds) > 0 && !asked {
		return context.WithCancel(ctx)
	}
	return context.WithTimeout(ctx, time.Duration(seconds*float64(time.Second)))
}

// search solves once, or as often as rounds are given, each time from what was found.
func search(ctx context.Context, w *workload.Workload, seed int64, rounds []int, anyway bool) *workload.Schedule {
	if len(rounds) == 0 {
		return schedule.Solve(ctx, w, schedule.Options{Seed: seed, Anyway: anyway, Left: timeLeft(ctx)})
	}
	var s *workload.Schedule
	for _, n := range rounds {
		s = schedule.Solve(ctx, w, schedule.Options{Seed: seed, Rounds: n, Anyway: anyway, Previous: s})
	}
	return s
}

// timeLeft says how long it is until a context ends; nil for one that has no end.
func timeLeft(ctx context.Context) func() time.Duration {
	if end, ok := ctx.Deadline(); ok {
		return func() time.Duration { return time.Until(end) }
	}
	return nil
}

func verifyCommand() *cobra.Command {
	var workloadFile, scheduleFile string
	c := &cobra.Command{
		Use: "verify", Short: "Check a schedule file against its workload", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			w, err := load(workloadFile, cmd.InOrStdin(), workload.Read)
			if err != nil {
				return err
			}
			s, err := load(scheduleFile, cmd.InOrStdin(), workload.ReadSchedule)
			if err != nil {
				return err
			}
			findings, err := verify.Check(w, s)
			if err != nil {
				return &exitCode{exitInput, fmt.Errorf("%s: %w", scheduleFile, err)}
			}
			for _, f := range findings {
				fmt.Fprintf(cmd.OutOrStdout(), "%s: %s\n", f.Rule, f.Text)
			}
			if len(findings) > 0 {
				return &exitCode{exitBroken, nil}
			}
			return nil
		},
	}
	c.Flags().StringVar(&workloadFile, "workload", "", "workload file, - for standard input")
	c.Flags().StringVar(&scheduleFile, "schedule", "", "schedule file, - for standard input")
	for _, f := range []string{"workload", "schedule"} {
		if err := c.MarkFlagRequired(f); err != nil {
			panic(err) // the flag is defined above
		}
	}
	return c
}

// load reads a file with a reader that names the path of a fault.
func load[T any](name string, stdin io.Reader, read func(io.Reader) (*T, error)) (*T, error) {
	src := stdin
	if name != "-" {
		f, err := os.Open(name)
		if err != nil {
			return nil, &exitCode{exitInput, err}
		}
		defer f.Close()
		src = f
	}
	v, err := read(src)
	if err != nil {
		var pe *workload.PathError
		if errors.As(err, &pe) {
			return nil, &exitCode{exitInput, fmt.Errorf("%s: %w", name, err)}
		}
		return nil, err
	}
	return v, nil
}

// save writes a whole file or none: beside it first, then in its place.
func save(name string, stdout io.Writer, b []byte) error {
	if name == "-" {
		_, err := stdout.Write(b)
		return err
	}
	tmp, err := os.CreateTemp(filepath.Dir(name), ".jointime-*")
	if err != nil {
		return &exitCode{exitInput, err}
	}
	defer os.Remove(tmp.Name())
	if _, err := tmp.Write(b); err != nil {
		return errors.Join(err, tmp.Close())
	}
	if err := tmp.Sync(); err != nil {
		return errors.Join(err, tmp.Close())
	}
	if err := tmp.Close(); err != nil {
		return err
	}
	if err := os.Chmod(tmp.Name(), 0o644); err != nil {
		return err
	}
	return os.Rename(tmp.Name(), name)
}
