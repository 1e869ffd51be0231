// Package signin finds out who asks: by a PIN or a passphrase, by a screen that was paired, or because they are at this machine and nobody
// has to sign in. What each may do is package core/access's.
//
//	signin.go  sessions, and who asks
//	enter.go   signing in, pairing, choosing who is at a screen
//	secret.go  how PINs and passphrases are kept
package signin

import (
	"context"
	"log/slog"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/postgresstore"
	"github.com/alexedwards/scs/v2"

	"jointime/core/access"
	"jointime/core/kitchen"
	"jointime/store"
)

// How long something lasts.
const (
	sessionLife   = 400 * 24 * time.Hour // as long as browsers keep a cookie; a screen in use is renewed
	sessionRenew  = 200 * 24 * time.Hour
	personFor     = 16 * time.Hour // a working day
	pairingFor    = 10 * time.Minute
	cleanupEvery  = 30 * time.Minute
	hashedAtOnce  = 2 // each takes 64 MB
	wrongTakes    = 300 * time.Millisecond
	firstPause    = 30 * time.Second
	longestPause  = 15 * time.Minute
	freeHere      = 5  // wrong guesses of a person from an address
	freePerson    = 50 // of a person from anywhere
	freeAddress   = 20 // from an address
	pairingLength = 8  // letters of a code
)

// Options are how a server is reached.
type Options struct {
	Clock func() time.Time // required
	Log   *slog.Logger     // required
	// Closed means that others can reach the server: everybody has to sign in, whoever they are.
	Closed bool
	// Proxied means that requests come through a proxy which says from where, last in X-Forwarded-For, and which speaks TLS.
	Proxied bool
}

// Entry finds out who asks. It is safe for use by many goroutines. Its zero value is not usable; see New.
type Entry struct {
	store    *store.Store
	sessions *scs.SessionManager
	kept     *postgresstore.PostgresStore
	options  Options
	hashing  chan struct{}
	closing  sync.Once
}

// New returns an entry that keeps its sessions in the store's database until Close.
func New(s *store.Store, o Options) *Entry {
	e := &Entry{store: s, sessions: scs.New(), options: o, hashing: make(chan struct{}, hashedAtOnce),
		kept: postgresstore.NewWithCleanupInterval(s.DB(), cleanupEvery)}
	m := e.sessions
	m.Store, m.Lifetime, m.HashTokenInStore = e.kept, sessionLife, true
	m.Cookie.Name, m.Cookie.HttpOnly, m.Cookie.SameSite, m.Cookie.Secure = "jointime", true, http.SameSiteLaxMode, o.Closed
	m.ErrorFunc = func(w http.ResponseWriter, _ *http.Request, err error) {
		o.Log.Error("session", "error", err)
		http.Error(w, "the database does not answer", http.StatusServiceUnavailable)
	}
	return e
}

// Close ends what runs in the background.
func (e *Entry) Close() { e.closing.Do(e.kept.StopCleanup) }

type addressKey struct{}

// Wrap gives every request its session.
func (e *Entry) Wrap(next http.Handler) http.Handler {
	return e.sessions.LoadAndSave(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ctx := context.WithValue(r.Context(), addressKey{}, e.addressOf(r))
		if e.sessions.GetString(ctx, keyDevice) != "" && time.Until(e.sessions.Deadline(ctx)) < sessionRenew {
			e.sessions.SetDeadline(ctx, time.Now().Add(sessionLife))
		}
		next.ServeHTTP(w, r.WithContext(ctx))
	}))
}

// addressOf is from where a request comes.
func (e *Entry) addressOf(r *http.Request) string {
	if e.options.Proxied {
		list := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
		if ip := net.ParseIP(strings.TrimSpace(list[len(list)-1])); ip != nil {
			return ip.String()
		}
	}
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}

// atThisMachine reports whether a request comes from the machine that the server is on.
func (e *Entry) atThisMachine(ctx context.Context) bool {
	address, _ := ctx.Value(addressKey{}).(string)
	ip := net.ParseIP(address)
	return !e.options.Closed && ip != nil && ip.IsLoopback()
}

// What a session keeps.
const (
	keyPerson = "person" // who signed in
	keyNumber = "number" // of their access then
	keyUntil  = "until"  // when that is over
	keyDevice = "device" // the paired screen
	keyChosen = "chosen" // who is at it, or at this machine, by their own word
)

// Found is who asks, and how that is known.
type Found struct {
	access.Identity
	Device   *store.Device // the paired screen; nil for none
	SignedIn bool          // by PIN or passphrase
	Open     bool          // nobody has to sign in here
}

// Who finds out who asks. b is the kitchen, nil while there is none.
func (e *Entry) Who(ctx context.Context, b *kitchen.Book) (*Found, error) {
	person, device := e.sessions.GetString(ctx, keyPerson), e.sessions.GetString(ctx, keyDevice)
	known, err := e.store.EntranceOf(ctx, person, device)
	if err != nil {
		return nil, err
	}
	f := &Found{Device: known.Device, Open: !known.Locked && e.atThisMachine(ctx)}
	if known.Device != nil {
		f.Identity.Device = known.Device.ID
	}
	signed := personOf(b, person)
	switch {
	case signed != nil && known.Access != nil && known.Access.Number == e.sessions.GetInt64(ctx, keyNumber) &&
		e.options.Clock().Unix() < e.sessions.GetInt64(ctx, keyUntil):
		f.SignedIn, f.Role, f.Sections = true, access.Role(known.Access.Role), signed.Sections
		f.Person, f.Name = signed.ID, signed.Name
	case known.Device != nil:
		f.Role = access.Role(known.Device.Role)
		if f.Role == access.Section {
			f.Sections = []string{known.Device.Section}
		}
		f.choose(e.sessions.GetString(ctx, keyChosen), b)
	case f.Open:
		f.Role = access.Chef
		f.choose(e.sessions.GetString(ctx, keyChosen), b)
	}
	return f, nil
}

// Again finds out anew who a request's session is, for one that lasts.
func (e *Entry) Again(r *http.Request, b *kitchen.Book) (*Found, error) {
	token := ""
	if c, err := r.Cookie(e.sessions.Cookie.Name); err == nil {
		token = c.Value
	}
	// Without what the request's own context holds of the session: it is read anew.
	ctx := context.WithValue(context.Background(), addressKey{}, r.Context().Value(addressKey{}))
	ctx, cancel := context.WithTimeout(ctx, 5*time.Second)
	defer cancel()
	ctx, err := e.sessions.Load(ctx, token)
	if err != nil {
		return nil, err
	}
	return e.Who(ctx, b)
}

// choose takes who is at a screen by their own word, if they may be there.
func (f *Found) choose(id string, b *kitchen.Book) {
	for _, p := range f.Choices(b) {
		if p.ID == id {
			f.Person, f.Name = p.ID, p.Name
		}
	}
}

// Choices are the people who may be at a screen without signing in: at a section's those of the section, at this machine everybody.
func (f *Found) Choices(b *kitchen.Book) []kitchen.Person {
	if b == nil || f.SignedIn || f.Role == access.Nobody {
		return nil
	}
	var out []kitchen.Person
	for _, p := range b.People() {
		mine := func(id string) bool { return slices.Contains(f.Sections, id) }
		if f.Role != access.Section || slices.ContainsFunc(p.Sections, mine) {
			out = append(out, p)
		}
	}
	return out
}

func personOf(b *kitchen.Book, id string) *kitchen.Person {
	if b == nil || id == "" {
		return nil
	}
	for _, p := range b.People() {
		if p.ID == id {
			return &p
		}
	}
	return nil
}
