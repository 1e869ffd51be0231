package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/signal"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"jointime/demo"
	"jointime/devices"
)

// deviceCommand has what stands in for what a kitchen has beside its screens.
func deviceCommand() *cobra.Command {
	c := &cobra.Command{Use: "device", Short: "Stand in for a device: tickets, probe, printer (docs/devices.md)"}
	c.AddCommand(ticketsCommand(), probeCommand(), printerCommand())
	return c
}

// asking are the flags of a device that asks a server.
type asking struct{ server, service, code string }

func (a *asking) flags(c *cobra.Command) {
	c.Flags().StringVar(&a.server, "server", fmt.Sprintf("http://127.0.0.1:%d", defaultPort), "the server")
	c.Flags().StringVar(&a.service, "service", demo.Tonight, "the service, by id")
	c.Flags().StringVar(&a.code, "code", "", "the code by which it is paired, where the server is another machine's")
}

// asks runs a device until it is done or is told to stop.
func (a *asking) asks(cmd *cobra.Command, do func(ctx context.Context, c *devices.Client) error) error {
	ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	c, err := devices.NewClient(ctx, a.server, a.code)
	if err != nil {
		return err
	}
	if err := do(ctx, c); err != nil && !errors.Is(err, context.Canceled) {
		return err
	}
	return nil
}

func ticketsCommand() *cobra.Command {
	var a asking
	var seed uint64
	var every time.Duration
	var dry bool
	c := &cobra.Command{
		Use: "tickets [FILE]", Short: "Send orders, of a file of JSON lines (- reads what comes in) or drawn from a seed",
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return a.asks(cmd, func(ctx context.Context, c *devices.Client) error {
				list, err := tickets(ctx, c, cmd.InOrStdin(), args, a.service, seed, every)
				if err != nil {
					return err
				}
				if !dry {
					return c.Send(ctx, a.service, list, cmd.OutOrStdout())
				}
				return devices.WriteTickets(cmd.OutOrStdout(), list)
			})
		},
	}
	a.flags(c)
	c.Flags().Uint64Var(&seed, "seed", 1, "what is drawn where there is no file")
	c.Flags().DurationVar(&every, "every", 20*time.Second, "how far drawn tickets are apart")
	c.Flags().BoolVar(&dry, "dry", false, "write the tickets as JSON lines and send nothing")
	return c
}

func tickets(ctx context.Context, c *devices.Client, in io.Reader, args []string, service string, seed uint64,
	every time.Duration) ([]devices.Ticket, error) {
	if len(args) == 0 {
		return c.Draw(ctx, service, seed, every)
	}
	if args[0] != "-" {
		f, err := os.Open(args[0])
		if err != nil {
			return nil, err
		}
		defer f.Close() //nolint:errcheck // it was read
		in = f
	}
	return devices.ReadTickets(in)
}

func probeCommand() *cobra.Command {
	var a asking
	var p devices.Probe
	c := &cobra.Command{
		Use: "probe COMPONENT", Short: "Measure the core of a component that is on, as computed", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			p.Component, p.Service = args[0], a.service
			if p.Factor <= 0 || p.Faster <= 0 || p.Every <= 0 {
				return errors.New("--factor, --faster and --every have to be more than nothing")
			}
			return a.asks(cmd, func(ctx context.Context, c *devices.Client) error { return c.Measure(ctx, p, cmd.OutOrStdout()) })
		},
	}
	a.flags(c)
	c.Flags().Float64Var(&p.Factor, "factor", 1, "how many times as long as computed the piece takes")
	c.Flags().DurationVar(&p.Every, "every", 2*time.Second, "between two readings")
	c.Flags().Float64Var(&p.Faster, "faster", 1, "so many seconds of the piece go by in one")
	return c
}

func printerCommand() *cobra.Command {
	var listen, page, file string
	c := &cobra.Command{
		Use: "printer", Short: "Take slips as a network printer does, and show them on a page", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			f, err := os.OpenFile(file, os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o644) //nolint:gosec // slips hang in a kitchen
			if err != nil {
				return err
			}
			defer f.Close() //nolint:errcheck // each slip was written
			p := devices.NewPrinter(f)
			l, err := net.Listen("tcp", listen)
			if err != nil {
				return err
			}
			shown, err := net.Listen("tcp", page)
			if err != nil {
				return err
			}
			web := &http.Server{Handler: p, ReadHeaderTimeout: 5 * time.Second}
			go func() { _ = web.Serve(shown) }()
			defer web.Close() //nolint:errcheck // it only shows
			fmt.Fprintf(cmd.OutOrStdout(), "The printer listens at %s; what it printed is shown at http://%s\n", l.Addr(), shown.Addr())
			return p.Serve(ctx, l)
		},
	}
	c.Flags().StringVar(&listen, "listen", "127.0.0.1:9100", "where it takes slips")
	c.Flags().StringVar(&page, "page", "127.0.0.1:9101", "where it shows them")
	c.Flags().StringVar(&file, "file", "slips.txt", "where it keeps them")
	return c
}
