package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"syscall"
	"time"

	"github.com/spf13/cobra"

	"jointime/demo"
	"jointime/server"
	"jointime/store"
	"jointime/web"
)

const defaultPort = 8740

func databaseURL(flag string) (string, error) {
	if flag != "" {
		return flag, nil
	}
	if u := os.Getenv("DATABASE_URL"); u != "" {
		return u, nil
	}
	return "", errors.New("no database: set DATABASE_URL, or use ./start, which brings its own")
}

// withStore opens the database for a command. clock gives the time that is written down.
func withStore(ctx context.Context, flag string, clock func() time.Time, do func(*store.Store) error) error {
	url, err := databaseURL(flag)
	if err != nil {
		return err
	}
	s, err := store.Open(ctx, url, clock)
	if err != nil {
		return err
	}
	return errors.Join(do(s), s.Close())
}

func serveCommand() *cobra.Command {
	var port int
	var database, asOf, printer string
	var outside outside
	c := &cobra.Command{
		Use: "serve", Short: "Serve the application on this machine, and with --listen to others", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			clock, err := clockFrom(asOf)
			if err != nil {
				return err
			}
			if err := outside.check(); err != nil {
				return err
			}
			var put *demo.Clock
			if asOf == "" { // who says an instant wants that one
				put = demo.NewClock(clock)
				clock = put.Now
			}
			return withStore(ctx, database, clock, func(s *store.Store) error {
				if err := s.Migrate(ctx); err != nil {
					return fmt.Errorf("migrating: %w", err)
				}
				return listen(ctx, s, port, &outside, server.Options{Clock: clock, Demo: put, Past: true, Printer: printer})
			})
		},
	}
	c.Flags().IntVar(&port, "port", defaultPort, "port on 127.0.0.1; 0 takes a free one")
	c.Flags().StringVar(&database, "database", "", "database address (default: $DATABASE_URL)")
	c.Flags().StringVar(&asOf, "as-of", "", "for trying things out: run as if it were this instant now, such as 2026-05-14T15:30:00+02:00")
	c.Flags().StringVar(&printer, "printer", "", "where slips are printed, host:port")
	outside.flags(c)
	return c
}

// clockFrom is the clock of the wall, or one that stood at another instant when the
// program began.
func clockFrom(asOf string) (func() time.Time, error) {
	if asOf == "" {
		return time.Now, nil
	}
	at, err := time.Parse(time.RFC3339, asOf)
	if err != nil {
		return nil, fmt.Errorf("--as-of: expected an instant like 2026-05-14T15:30:00+02:00, got %q", asOf)
	}
	begun := time.Now()
	return func() time.Time { return at.Add(time.Since(begun)) }, nil
}

func listen(ctx context.Context, s *store.Store, port int, o *outside, options server.Options) error {
	log := slog.New(slog.NewTextHandler(os.Stderr, nil))
	l, err := net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", port))
	if err != nil {
		return fmt.Errorf("%w (another program may be using the port: try --port)", err)
	}
	options.Log, options.Web = log, web.Handler()
	listeners := []net.Listener{l}
	said := []string{"Jointime is at http://" + l.Addr().String()}
	if o.address != "" {
		more, err := o.listen(ctx, s, &options)
		if err != nil {
			return errors.Join(err, l.Close())
		}
		listeners = append(listeners, more)
		said = append(said, "For others it is at "+options.Origin)
	}
	app := server.New(s, options)
	defer app.Close()
	h := &http.Server{Handler: app, ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute, IdleTimeout: 2 * time.Minute}
	for _, line := range said {
		fmt.Println(line)
	}
	done := make(chan error, len(listeners))
	for _, l := range listeners {
		go func() { done <- h.Serve(l) }()
	}
	select {
	case err := <-done:
		return err
	case <-ctx.Done():
	}
	app.Close() // what is computed ends, and with it the requests that wait for it
	stop, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	return h.Shutdown(stop)
}

func migrateCommand() *cobra.Command {
	var database string
	c := &cobra.Command{
		Use: "migrate", Short: "Bring the database forward to this version", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			return withStore(cmd.Context(), database, time.Now, func(s *store.Store) error { return s.Migrate(cmd.Context()) })
		},
	}
	c.Flags().StringVar(&database, "database", "", "database address (default: $DATABASE_URL)")
	return c
}

func demoCommand() *cobra.Command {
	var database string
	var ifEmpty bool
	c := &cobra.Command{
		Use: "demo", Short: "Load the demo kitchen into an empty database", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			clock := demo.NewClock(time.Now)
			return withStore(cmd.Context(), database, clock.Now, func(s *store.Store) error {
				if err := s.Migrate(cmd.Context()); err != nil {
					return err
				}
				err := server.BeginDemo(cmd.Context(), s, clock)
				if ifEmpty && errors.Is(err, store.ErrNotEmpty) {
					return nil
				}
				return err
			})
		},
	}
	c.Flags().StringVar(&database, "database", "", "database address (default: $DATABASE_URL)")
	c.Flags().BoolVar(&ifEmpty, "if-empty", false, "do nothing when a kitchen is there")
	return c
}

func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use: "openapi", Short: "Print the contract between pages and server (OpenAPI 3.1)", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			b, err := server.OpenAPI()
			if err != nil {
				return err
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(b))
			return err
		},
	}
}
