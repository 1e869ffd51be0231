package main

import (
	"bufio"
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"net"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"jointime/certificate"
	"jointime/core/access"
	"jointime/core/kitchen"
	"jointime/server"
	"jointime/signin"
	"jointime/store"
)

// outsidePort is where others reach the server, unless they are told another.
const outsidePort = "8743"

// outside is how others reach the server.
type outside struct {
	address          string // host, or host and port; "" for this machine alone
	names            []string
	certificate, key string // files
	folder           string // of the house's own certificates
	proxy            bool
	host, port       string
}

func (o *outside) flags(c *cobra.Command) {
	f := c.Flags()
	f.StringVar(&o.address, "listen", "", "let others in at this address, such as 192.168.1.20 or 0.0.0.0:8743; everybody has to sign in then")
	f.StringSliceVar(&o.names, "name", nil, "a further name by which others reach it")
	f.StringVar(&o.certificate, "certificate", "", "with --listen: file of a certificate (PEM)")
	f.StringVar(&o.key, "key", "", "with --certificate: file of its key (PEM)")
	f.StringVar(&o.folder, "certificates", "", "with --listen: folder of the house's own certificates, made there when there are none")
	f.BoolVar(&o.proxy, "behind-proxy", false, "with --listen: a proxy speaks TLS, and says in X-Forwarded-For from where somebody comes")
}

// check says what does not fit together.
func (o *outside) check() error {
	ways := 0
	for _, set := range []bool{o.certificate != "" || o.key != "", o.folder != "", o.proxy} {
		if set {
			ways++
		}
	}
	switch {
	case o.address == "" && (ways > 0 || len(o.names) > 0):
		return errors.New("--name, --certificate, --certificates and --behind-proxy go with --listen")
	case o.address == "":
		return nil
	case ways != 1:
		return errors.New("--listen wants one of --certificate with --key, --certificates FOLDER, --behind-proxy: passwords are not sent in the open")
	case (o.certificate == "") != (o.key == ""):
		return errors.New("--certificate and --key go together")
	}
	var err error
	if o.host, o.port, err = net.SplitHostPort(o.address); err != nil {
		o.host, o.port = strings.Trim(o.address, "[]"), outsidePort
	}
	if net.ParseIP(o.host) == nil {
		return fmt.Errorf("--listen: expected an address such as 192.168.1.20, with a port or without, got %q", o.address)
	}
	return nil
}

// called are the names by which others reach the server: the address, or all of this machine where it listens on all, and what was said.
func (o *outside) called() ([]string, error) {
	var out []string
	if ip := net.ParseIP(o.host); !ip.IsUnspecified() {
		out = append(out, ip.String())
	} else {
		list, err := net.InterfaceAddrs()
		if err != nil {
			return nil, err
		}
		for _, a := range list {
			if n, ok := a.(*net.IPNet); ok && !n.IP.IsLoopback() && !n.IP.IsLinkLocalUnicast() {
				out = append(out, n.IP.String())
			}
		}
		if name, err := os.Hostname(); err == nil && name != "" {
			out = append(out, strings.ToLower(name))
		}
	}
	for _, n := range o.names {
		if n = strings.ToLower(strings.TrimSpace(n)); n != "" {
			out = append(out, n)
		}
	}
	slices.Sort(out)
	return slices.Compact(out), nil
}

// listen opens the door for others, if somebody signs in as the chef.
func (o *outside) listen(ctx context.Context, s *store.Store, options *server.Options) (net.Listener, error) {
	known, err := s.EntranceOf(ctx, "", "")
	if err != nil {
		return nil, err
	}
	if !known.Locked {
		return nil, errors.New("--listen: whoever reaches the kitchen would be its chef: give the chef a passphrase first, " +
			"on the page Kitchen or by jointime passphrase (./start --passphrase)")
	}
	names, err := o.called()
	if err != nil {
		return nil, err
	}
	if len(names) == 0 {
		return nil, errors.New("--listen: this machine has no address that others reach: say one by --name")
	}
	options.Hosts, options.Proxied = names, o.proxy
	first := names[0]
	if len(o.names) > 0 {
		first = strings.ToLower(strings.TrimSpace(o.names[0]))
	}
	l, err := net.Listen("tcp", net.JoinHostPort(o.host, o.port))
	if err != nil {
		return nil, err
	}
	_, port, err := net.SplitHostPort(l.Addr().String())
	if err != nil {
		return nil, errors.Join(err, l.Close())
	}
	if o.proxy {
		options.Origin = "https://" + first
		return l, nil
	}
	options.Origin = "https://" + net.JoinHostPort(first, port)
	config := &tls.Config{MinVersion: tls.VersionTLS12}
	if o.certificate != "" {
		pair, err := tls.LoadX509KeyPair(o.certificate, o.key)
		if err != nil {
			return nil, errors.Join(fmt.Errorf("--certificate: %w", err), l.Close())
		}
		config.Certificates = []tls.Certificate{pair}
	} else {
		house, err := certificate.Open(o.folder, names, time.Now) // browsers know no other clock
		if err != nil {
			return nil, errors.Join(err, l.Close())
		}
		config, options.Authority = house.Config(), house.Authority()
	}
	return tls.NewListener(l, config), nil
}

func passphraseCommand() *cobra.Command {
	var database string
	c := &cobra.Command{
		Use: "passphrase NAME", Short: "Let somebody sign in as the chef, with the passphrase on standard input", Args: cobra.ExactArgs(1),
		Long: "Let somebody of the kitchen sign in as the chef, with the passphrase that stands in the first line of standard input. " +
			"It is also the way in for whoever has forgotten theirs: whoever can run this has the database anyway.",
		RunE: func(cmd *cobra.Command, args []string) error {
			line, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
			if err != nil && line == "" {
				return errors.New("no passphrase on standard input")
			}
			return withStore(cmd.Context(), database, time.Now, func(s *store.Store) error {
				return setPassphrase(cmd.Context(), s, args[0], strings.TrimRight(line, "\r\n"))
			})
		},
	}
	c.Flags().StringVar(&database, "database", "", "database address (default: $DATABASE_URL)")
	return c
}

// setPassphrase lets a person, by name or id, sign in as the chef.
func setPassphrase(ctx context.Context, s *store.Store, who, passphrase string) error {
	if err := s.Migrate(ctx); err != nil {
		return err
	}
	snap, err := s.Snapshot(ctx)
	if err != nil {
		return err
	}
	if snap.Empty {
		return errors.New("there is no kitchen yet: begin it on the pages first")
	}
	people := snap.Book.People()
	at := slices.IndexFunc(people, func(p kitchen.Person) bool { return p.ID == who || strings.EqualFold(p.Name, who) })
	if at < 0 {
		var names []string
		for _, p := range people {
			names = append(names, p.Name)
		}
		return fmt.Errorf("nobody here is called %q: there are %s", who, strings.Join(names, ", "))
	}
	if err := access.CheckSecret(access.Chef, passphrase); err != nil {
		return err
	}
	return s.SetAccess(ctx, people[at].ID, people[at].Name, string(access.Chef), signin.Hash(passphrase), false)
}
