// Package certificate makes the house's own certificate authority, and the certificate by which this server is trusted where the authority
// was installed. It is for a kitchen's own network, where no public authority knows the server.
package certificate

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"time"
)

// How long certificates are good. Browsers take none of a server that is good for more than 398 days (CA/Browser Forum, Baseline
// Requirements 6.3.2), and it is made anew a month before its end.
const (
	authorityYears = 10
	serverDays     = 397
	renewDays      = 30
)

// House makes and keeps certificates in a folder. It is safe for use by many goroutines. Its zero value is not usable; see Open.
type House struct {
	folder string
	names  []string // of the server: names and addresses
	clock  func() time.Time

	authority *x509.Certificate
	key       *ecdsa.PrivateKey

	mu     sync.Mutex
	server *tls.Certificate
}

// Open reads the authority of a folder, or makes it there. names are those by which the server is reached, addresses among them.
func Open(folder string, names []string, clock func() time.Time) (*House, error) {
	h := &House{folder: folder, names: names, clock: clock}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("certificates: %w", err)
	}
	cert, key, err := h.read("authority")
	if errors.Is(err, fs.ErrNotExist) {
		cert, key, err = h.makeAuthority()
	}
	if err != nil {
		return nil, fmt.Errorf("certificates in %s: %w", folder, err)
	}
	h.authority, h.key = cert, key
	return h, nil
}

// Authority is the authority's certificate, as a device installs it (PEM).
func (h *House) Authority() []byte {
	return pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: h.authority.Raw})
}

// Config is how a server speaks TLS with its certificate, which is made anew before it ends.
func (h *House) Config() *tls.Config {
	return &tls.Config{MinVersion: tls.VersionTLS12, GetCertificate: func(*tls.ClientHelloInfo) (*tls.Certificate, error) {
		return h.current()
	}}
}

func (h *House) current() (*tls.Certificate, error) {
	h.mu.Lock()
	defer h.mu.Unlock()
	now := h.clock()
	good := func(c *x509.Certificate) bool {
		return now.AddDate(0, 0, renewDays).Before(c.NotAfter) && !now.Before(c.NotBefore) && h.covers(c) &&
			c.CheckSignatureFrom(h.authority) == nil
	}
	if h.server != nil && good(h.server.Leaf) {
		return h.server, nil
	}
	cert, key, err := h.read("server")
	if err != nil || !good(cert) {
		if cert, key, err = h.makeServer(now); err != nil {
			return nil, err
		}
	}
	h.server = &tls.Certificate{Certificate: [][]byte{cert.Raw, h.authority.Raw}, PrivateKey: key, Leaf: cert}
	return h.server, nil
}

// covers reports whether a certificate names all that the server is called.
func (h *House) covers(c *x509.Certificate) bool {
	for _, n := range h.names {
		if c.VerifyHostname(n) != nil {
			return false
		}
	}
	return true
}

func (h *House) makeAuthority() (*x509.Certificate, *ecdsa.PrivateKey, error) {
	now := h.clock()
	return h.make("authority", &x509.Certificate{
		Subject: pkix.Name{CommonName: "Jointime of this house, " + now.Format(time.DateOnly)}, NotBefore: now.Add(-time.Hour),
		NotAfter: now.AddDate(authorityYears, 0, 0), IsCA: true, BasicConstraintsValid: true, MaxPathLenZero: true,
		KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageCRLSign,
	}, nil, nil)
}

func (h *House) makeServer(now time.Time) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	t := &x509.Certificate{Subject: pkix.Name{CommonName: "Jointime"}, NotBefore: now.Add(-time.Hour), NotAfter: now.AddDate(0, 0, serverDays),
		BasicConstraintsValid: true, KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}}
	for _, n := range h.names {
		if ip := net.ParseIP(n); ip != nil {
			t.IPAddresses = append(t.IPAddresses, ip)
		} else {
			t.DNSNames = append(t.DNSNames, n)
		}
	}
	return h.make("server", t, h.authority, h.key)
}

// make makes a key and a certificate of it, signed by another or by itself, and writes both down: the key first, and each whole or not at
// all.
func (h *House) make(name string, t, by *x509.Certificate, with *ecdsa.PrivateKey) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, nil, err
	}
	if t.SerialNumber, err = rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120)); err != nil {
		return nil, nil, err
	}
	if by == nil {
		by, with = t, key
	}
	raw, err := x509.CreateCertificate(rand.Reader, t, by, &key.PublicKey, with)
	if err != nil {
		return nil, nil, err
	}
	cert, err := x509.ParseCertificate(raw)
	if err != nil {
		return nil, nil, err
	}
	secret, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return nil, nil, err
	}
	both := slices.Concat(pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: secret}),
		pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: raw}))
	path := h.path(name)
	if err := os.WriteFile(path+".part", both, 0o600); err != nil {
		return nil, nil, err
	}
	return cert, key, os.Rename(path+".part", path)
}

func (h *House) path(name string) string { return filepath.Join(h.folder, name+".pem") }

func (h *House) read(name string) (*x509.Certificate, *ecdsa.PrivateKey, error) {
	both, err := os.ReadFile(h.path(name))
	if err != nil {
		return nil, nil, err
	}
	secret, rest := pem.Decode(both)
	if secret == nil {
		return nil, nil, errors.New(name + ".pem holds no key")
	}
	public, _ := pem.Decode(rest)
	if public == nil {
		return nil, nil, errors.New(name + ".pem holds no certificate")
	}
	key, err := x509.ParsePKCS8PrivateKey(secret.Bytes)
	if err != nil {
		return nil, nil, err
	}
	ec, ok := key.(*ecdsa.PrivateKey)
	if !ok {
		return nil, nil, errors.New(name + ".pem holds a key of another kind")
	}
	cert, err := x509.ParseCertificate(public.Bytes)
	return cert, ec, err
}
