// Package devices stands in for what a kitchen has beside its screens: whoever takes orders outside, a thermometer, a printer. They speak
// to the server over the network alone, as the real ones would; what they say stands in docs/devices.md.
package devices

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"strings"
	"time"
)

// Client asks a server.
type Client struct {
	server string
	http   *http.Client
}

// NewClient is a client of a server at an address, such as http://127.0.0.1:8700. Where a code is given it is paired by that: whoever is
// not at the server's own machine has to be.
func NewClient(ctx context.Context, server, code string) (*Client, error) {
	u, err := url.Parse(server)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return nil, fmt.Errorf("--server: expected an address like http://127.0.0.1:8700, got %q", server)
	}
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	c := &Client{strings.TrimRight(server, "/"), &http.Client{Jar: jar, Timeout: time.Minute}}
	if code != "" {
		if err := c.call(ctx, http.MethodPost, "/api/session/pair", map[string]string{"code": code}, nil); err != nil {
			return nil, fmt.Errorf("pairing: %w", err)
		}
	}
	return c, nil
}

// call sends and reads JSON. What the server refuses is an error in its words.
func (c *Client) call(ctx context.Context, method, path string, in, out any) error {
	var body io.Reader
	if in != nil {
		b, err := json.Marshal(in)
		if err != nil {
			return err
		}
		body = bytes.NewReader(b)
	}
	req, err := http.NewRequestWithContext(ctx, method, c.server+path, body)
	if err != nil {
		return err
	}
	if in != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	res, err := c.http.Do(req)
	if err != nil {
		return err
	}
	defer res.Body.Close() //nolint:errcheck // it was read
	raw, err := io.ReadAll(res.Body)
	if err != nil {
		return err
	}
	if res.StatusCode >= 400 {
		var p struct {
			Title, Detail string
			Errors        []struct{ Location, Message string }
		}
		if json.Unmarshal(raw, &p) == nil && p.Title+p.Detail != "" {
			said := strings.TrimSpace(p.Title + " " + p.Detail)
			for _, e := range p.Errors {
				said += "; " + strings.TrimSpace(e.Location+" "+e.Message)
			}
			return fmt.Errorf("%s %s: %s", method, path, said)
		}
		return fmt.Errorf("%s %s: %s", method, path, res.Status)
	}
	if out == nil {
		return nil
	}
	return json.Unmarshal(raw, out)
}

// of is a path below a service's.
func of(service, what string) string { return "/api/services/" + url.PathEscape(service) + "/" + what }
