package certificate_test

import (
	"crypto/tls"
	"crypto/x509"
	"net"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/certificate"
)

var names = []string{"127.0.0.1", "kitchen.example"}

// served is what a browser that trusts an authority makes of a server: the certificate that it was shown.
func served(t *testing.T, h *certificate.House, name string, trusted []byte, now time.Time) (*x509.Certificate, error) {
	t.Helper()
	srv := httptest.NewUnstartedServer(http.NotFoundHandler())
	srv.Listener = tls.NewListener(srv.Listener, h.Config())
	srv.Start()
	defer srv.Close()
	pool := x509.NewCertPool()
	require.True(t, pool.AppendCertsFromPEM(trusted))
	c, err := tls.Dial("tcp", srv.Listener.Addr().String(), &tls.Config{RootCAs: pool, ServerName: name,
		Time: func() time.Time { return now }})
	if err != nil {
		return nil, err
	}
	defer c.Close()
	return c.ConnectionState().PeerCertificates[0], nil
}

func TestABrowserThatHasTheAuthorityTrustsTheServer(t *testing.T) {
	folder, now := filepath.Join(t.TempDir(), "certificates"), time.Date(2026, 5, 14, 12, 0, 0, 0, time.UTC)
	clock := func() time.Time { return now }
	h, err := certificate.Open(folder, names, clock)
	require.NoError(t, err)
	first, err := served(t, h, "kitchen.example", h.Authority(), now)
	require.NoError(t, err)
	require.True(t, first.IPAddresses[0].Equal(net.ParseIP("127.0.0.1")))
	require.LessOrEqual(t, first.NotAfter.Sub(first.NotBefore), 398*24*time.Hour, "no browser takes a longer one")
	_, err = served(t, h, "elsewhere.example", h.Authority(), now)
	require.Error(t, err)
	stranger, err := certificate.Open(t.TempDir(), names, clock)
	require.NoError(t, err)
	_, err = served(t, h, "kitchen.example", stranger.Authority(), now)
	require.Error(t, err, "who has another authority does not trust it")

	for _, f := range []string{"authority.pem", "server.pem"} {
		info, err := os.Stat(filepath.Join(folder, f))
		require.NoError(t, err)
		require.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	}

	// Started again it is the same; a month before its end, or under another name, there is a new one, which the tablets trust as they are.
	h, err = certificate.Open(folder, names, clock)
	require.NoError(t, err)
	again, err := served(t, h, "127.0.0.1", h.Authority(), now)
	require.NoError(t, err)
	require.Equal(t, first.SerialNumber, again.SerialNumber)
	trusted := h.Authority()
	now = first.NotAfter.AddDate(0, 0, -30).Add(-time.Minute)
	same, err := served(t, h, "127.0.0.1", trusted, now)
	require.NoError(t, err)
	require.Equal(t, first.SerialNumber, same.SerialNumber)
	now = now.Add(2 * time.Minute)
	renewed, err := served(t, h, "127.0.0.1", trusted, now)
	require.NoError(t, err)
	require.NotEqual(t, first.SerialNumber, renewed.SerialNumber)
	h, err = certificate.Open(folder, append(names, "192.0.2.7"), clock)
	require.NoError(t, err)
	moved, err := served(t, h, "192.0.2.7", trusted, now)
	require.NoError(t, err)
	require.NotEqual(t, renewed.SerialNumber, moved.SerialNumber)

	require.NoError(t, os.WriteFile(filepath.Join(folder, "authority.pem"), []byte("broken"), 0o600))
	_, err = certificate.Open(folder, names, clock)
	require.ErrorContains(t, err, "authority.pem holds no key", "what is broken is said, not made anew behind the tablets' backs")
}
