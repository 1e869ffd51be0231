package devices

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"html"
	"io"
	"net"
	"net/http"
	"strings"
	"sync"
	"time"
)

// FormFeed ends a slip on its way to a printer: it is where the paper is cut.
const FormFeed = '\f'

// mostSlips is how many the page of a printer shows, mostSlip of how many bytes one is.
const (
	mostSlips = 40
	mostSlip  = 1 << 16
)

// Printer takes slips as a network printer does: plain text over TCP, each ended by a form feed or by the end of the connection. It is safe
// for use by many goroutines.
type Printer struct {
	mu    sync.Mutex
	file  io.Writer
	slips []string // the last first
}

// NewPrinter writes each slip to a file as well.
func NewPrinter(file io.Writer) *Printer { return &Printer{file: file} }

// Serve takes slips until the listener is closed.
func (p *Printer) Serve(ctx context.Context, l net.Listener) error {
	stop := context.AfterFunc(ctx, func() { _ = l.Close() })
	defer stop()
	for {
		conn, err := l.Accept()
		if errors.Is(err, net.ErrClosed) {
			return nil
		}
		if err != nil {
			return err
		}
		go p.take(conn)
	}
}

func (p *Printer) take(conn net.Conn) {
	defer conn.Close() //nolint:errcheck // what it sent was read
	r := bufio.NewReader(io.LimitReader(conn, mostSlips*mostSlip))
	for {
		text, err := r.ReadString(FormFeed)
		if slip := strings.TrimSuffix(text, string(FormFeed)); strings.TrimSpace(slip) != "" {
			p.keep(slip)
		}
		if err != nil {
			return
		}
	}
}

func (p *Printer) keep(slip string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.slips = append([]string{slip}, p.slips...); len(p.slips) > mostSlips {
		p.slips = p.slips[:mostSlips]
	}
	fmt.Fprint(p.file, slip, "\n")
}

// ServeHTTP shows what was printed, the last first.
func (p *Printer) ServeHTTP(w http.ResponseWriter, _ *http.Request) {
	p.mu.Lock()
	defer p.mu.Unlock()
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	fmt.Fprint(w, `<!doctype html><meta http-equiv="refresh" content="2"><title>Slips</title>`+
		`<style>body{background:#ddd7c8;font:15px/1.35 monospace}pre{background:#fffdf6;width:42ch;padding:2ch;margin:1.5ch}</style>`)
	for _, s := range p.slips {
		fmt.Fprintf(w, "<pre>%s</pre>\n", html.EscapeString(s))
	}
	if len(p.slips) == 0 {
		fmt.Fprint(w, "<p>Nothing was printed yet.</p>")
	}
}

// printWithin is how long a printer may take to hear of a slip.
const printWithin = 5 * time.Second

// Print sends a slip to a printer. The error says that it is not there, or does not listen.
func Print(ctx context.Context, address, slip string) error {
	ctx, cancel := context.WithTimeout(ctx, printWithin)
	defer cancel()
	var d net.Dialer
	conn, err := d.DialContext(ctx, "tcp", address)
	if err != nil {
		return err
	}
	defer conn.Close() //nolint:errcheck // it was written
	if deadline, ok := ctx.Deadline(); ok {
		if err := conn.SetWriteDeadline(deadline); err != nil {
			return err
		}
	}
	_, err = io.WriteString(conn, slip+string(FormFeed))
	return err
}
