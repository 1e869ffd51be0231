package devices

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"time"

	"jointime/core/service"
)

// Ticket is an order as somebody outside takes it, one JSON object a line: whose it is, and the order in words. AfterS is how many seconds
// after the first it comes.
type Ticket struct {
	ID     string  `json:"id,omitempty"` // the same ticket sent twice counts once
	Table  string  `json:"table"`
	Line   string  `json:"line"`
	AfterS float64 `json:"after_s,omitempty"`
}

// mostTicket is of how many bytes a line is at the most.
const mostTicket = 1 << 16

// ReadTickets reads tickets, one a line. The error names the line.
func ReadTickets(r io.Reader) (out []Ticket, err error) {
	lines := bufio.NewScanner(r)
	lines.Buffer(nil, mostTicket)
	for n := 1; lines.Scan(); n++ {
		if strings.TrimSpace(lines.Text()) == "" {
			continue
		}
		var t Ticket
		d := json.NewDecoder(strings.NewReader(lines.Text()))
		d.DisallowUnknownFields()
		if err := d.Decode(&t); err != nil {
			return nil, fmt.Errorf("line %d: %w", n, err)
		}
		if t.Table == "" || t.Line == "" {
			return nil, fmt.Errorf("line %d: table and line are wanted", n)
		}
		out = append(out, t)
	}
	return out, lines.Err()
}

// Draw draws what the tables of a service that have not ordered everything order, from a seed: for each guest one dish of each course, of
// those that are on, each as likely as the others. every is how far the tickets are apart.
func (c *Client) Draw(ctx context.Context, id string, seed uint64, every time.Duration) ([]Ticket, error) {
	var menu service.OrderMenu
	if err := c.call(ctx, "GET", of(id, "menu"), nil, &menu); err != nil {
		return nil, err
	}
	r := rand.New(rand.NewPCG(seed, 0)) //nolint:gosec // the same seed draws the same
	var out []Ticket
	for _, t := range menu.Tables {
		for _, course := range menu.Courses {
			counts, words := map[string]int{}, []string{}
			for _, d := range course.Dishes {
				if d.Off == "" {
					words = append(words, d.Word)
				}
			}
			if len(words) == 0 || slices.Contains(t.Ordered, course.Course) || slices.Contains(t.Sent, course.Course) {
				continue
			}
			for range max(1, t.Covers) {
				counts[words[r.IntN(len(words))]]++
			}
			var said []string
			for _, w := range words {
				if counts[w] > 0 {
					said = append(said, strconv.Itoa(counts[w])+" "+w)
				}
			}
			out = append(out, Ticket{ID: fmt.Sprintf("ticket-%d-%s-%s", seed, t.ID, course.Course), Table: t.ID, Line: strings.Join(said, ", "),
				AfterS: every.Seconds() * float64(len(out))})
		}
	}
	return out, nil
}

// Send sends tickets at their times, and writes each with what became of it. A ticket that is not understood, or refused, is said and
// passed over; an error is the connection's.
func (c *Client) Send(ctx context.Context, id string, list []Ticket, out io.Writer) error {
	began := time.Now()
	say := json.NewEncoder(out)
	say.SetEscapeHTML(false)
	for i, t := range list {
		select {
		case <-time.After(time.Until(began.Add(time.Duration(t.AfterS * float64(time.Second))))):
		case <-ctx.Done():
			return ctx.Err()
		}
		if t.ID == "" {
			t.ID = fmt.Sprintf("ticket-%d-%d", began.UnixNano(), i)
		}
		as, err := c.order(ctx, id, t)
		if err != nil {
			return fmt.Errorf("ticket %s: %w", t.ID, err)
		}
		if err := say.Encode(struct {
			Ticket
			As string `json:"as"`
		}{t, as}); err != nil {
			return err
		}
	}
	return nil
}

// order has the server read a ticket, and says what it read.
func (c *Client) order(ctx context.Context, id string, t Ticket) (as string, err error) {
	var read service.OrderRead
	if err := c.call(ctx, "POST", of(id, "order"), map[string]string{"table": t.Table, "line": t.Line}, &read); err != nil {
		return "", err
	}
	if len(read.Wrong) > 0 || len(read.Courses) == 0 {
		said := []string{"not understood"}
		for _, m := range read.Wrong {
			said = append(said, m.Text)
		}
		return strings.Join(said, ": "), nil
	}
	events := []map[string]any{}
	for _, x := range read.Courses {
		plates := []service.PlateOrder{}
		for _, p := range x.Plates {
			plates = append(plates, p.PlateOrder)
		}
		events = append(events, map[string]any{"id": t.ID + "-" + string(x.Course), "kind": service.Ordered, "device": "tickets",
			"table": read.Table, "name": read.Name, "covers": read.Covers, "course": x.Course, "plates": plates})
	}
	var taken struct {
		Taken []struct {
			As   string
			Said *struct{ Text string }
		}
	}
	if err := c.call(ctx, "POST", of(id, "events"), map[string]any{"events": events}, &taken); err != nil {
		return "", err
	}
	for _, x := range taken.Taken {
		if as = x.As; x.Said != nil {
			return x.As + ": " + x.Said.Text, nil
		}
	}
	return as, nil
}

// WriteTickets writes tickets, one a line.
func WriteTickets(w io.Writer, list []Ticket) error {
	e := json.NewEncoder(w)
	e.SetEscapeHTML(false)
	for _, t := range list {
		if err := e.Encode(t); err != nil {
			return err
		}
	}
	return nil
}
