package main

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/server"
	"jointime/store/storetest"
)

func TestHowOthersReachTheServer(t *testing.T) {
	for said, o := range map[string]outside{
		"":                            {},
		"go with --listen":            {proxy: true},
		"one of --certificate":        {address: "127.0.0.1"},
		"one of --certificate with":   {address: "127.0.0.1", proxy: true, folder: "x"},
		"--certificate and --key go":  {address: "127.0.0.1", certificate: "x"},
		"expected an address such as": {address: "kitchen.example", proxy: true},
	} {
		err := o.check()
		if said == "" {
			require.NoError(t, err)
		} else {
			require.ErrorContains(t, err, said)
		}
	}
	for address, want := range map[string]string{"192.0.2.7": "192.0.2.7 8743", "192.0.2.7:99": "192.0.2.7 99", "[::1]:99": "::1 99",
		"::": ":: 8743"} {
		o := outside{address: address, proxy: true}
		require.NoError(t, o.check(), address)
		require.Equal(t, want, o.host+" "+o.port)
	}
	o := outside{host: "192.0.2.7", names: []string{" Kitchen.Example "}}
	names, err := o.called()
	require.NoError(t, err)
	require.Equal(t, []string{"192.0.2.7", "kitchen.example"}, names)
}

// Nobody is let in from outside before somebody signs in as the chef; then over TLS that a tablet with the house's certificate trusts.
func TestTheDoorOpensWithAPassphrase(t *testing.T) {
	s := storetest.Open(t)
	ctx := t.Context()
	require.ErrorContains(t, setPassphrase(ctx, s, "ada", "kale before cabbage"), "no kitchen yet")
	require.NoError(t, server.LoadDemo(ctx, s, storetest.Clock()))
	o := outside{address: "127.0.0.1:0", folder: t.TempDir()}
	require.NoError(t, o.check())
	_, err := o.listen(ctx, s, &server.Options{})
	require.ErrorContains(t, err, "give the chef a passphrase first")
	require.ErrorContains(t, setPassphrase(ctx, s, "stranger", "kale before cabbage"), "there are Ada Brandt")
	require.Error(t, setPassphrase(ctx, s, "ada", "short"))
	require.NoError(t, setPassphrase(ctx, s, "ada brandt", "kale before cabbage"))
	var options server.Options
	l, err := o.listen(ctx, s, &options)
	require.NoError(t, err)
	_, port, err := net.SplitHostPort(l.Addr().String())
	require.NoError(t, err)
	require.Equal(t, "https://127.0.0.1:"+port, options.Origin)
	srv := &http.Server{Handler: http.NotFoundHandler(), ReadHeaderTimeout: time.Second}
	go func() { _ = srv.Serve(l) }()
	defer func() { _ = srv.Shutdown(context.WithoutCancel(ctx)) }()
	pool := x509.NewCertPool()
	require.True(t, pool.AppendCertsFromPEM(options.Authority))
	client := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: pool}}}
	res, err := client.Get(options.Origin)
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	require.True(t, strings.HasPrefix(res.Proto, "HTTP/"))
}
