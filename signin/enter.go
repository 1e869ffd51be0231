package signin

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"
	"time"

	"jointime/core/access"
	"jointime/core/kitchen"
	"jointime/store"
)

// ErrWrong means that a name and a PIN, or a code, do not fit; it does not say which.
var ErrWrong = errors.New("wrong")

// WaitError means that too much was guessed: nothing is taken until then.
type WaitError struct{ Until time.Time }

func (w *WaitError) Error() string { return "nothing is taken before " + w.Until.Format(time.TimeOnly) }

// pause is how long nobody may guess after so many wrong ones over those that are free: it doubles.
func pause(over int) time.Duration { return min(longestPause, firstPause<<min(over, 10)) }

// guess lets somebody guess once. right is called when they did.
func (e *Entry) guess(ctx context.Context, what string) (right func() error, err error) {
	address, _ := ctx.Value(addressKey{}).(string)
	keys := []store.Guess{{Key: "from " + address, Free: freeAddress}}
	if what != "" {
		keys = append(keys, store.Guess{Key: what + " from " + address, Free: freeHere}, store.Guess{Key: what, Free: freePerson})
	}
	wait, err := e.store.TryGuess(ctx, keys, pause)
	if err != nil {
		return nil, err
	}
	if !wait.IsZero() {
		return nil, &WaitError{wait}
	}
	return func() error { return e.store.GuessedRight(ctx, keys) }, nil
}

// SignIn signs a person in, by id or by name. It returns ErrWrong, or a *WaitError.
func (e *Entry) SignIn(ctx context.Context, b *kitchen.Book, who, secret string) error {
	p := personOf(b, who)
	if p == nil && b != nil {
		for _, q := range b.People() {
			if strings.EqualFold(strings.TrimSpace(q.Name), strings.TrimSpace(who)) {
				p = &q
			}
		}
	}
	id := "nobody" // whom nobody knows is guessed as one
	if p != nil {
		id = "person " + p.ID
	}
	right, err := e.guess(ctx, id)
	if err != nil {
		return err
	}
	kept := ""
	var known *store.Entrance
	if p != nil {
		if known, err = e.store.EntranceOf(ctx, p.ID, ""); err != nil {
			return err
		}
		if known.Access != nil {
			kept = known.Access.Secret
		}
	}
	fits, err := e.matches(ctx, kept, secret)
	if err != nil {
		return err
	}
	if !fits {
		return e.wrong(ctx)
	}
	if err := right(); err != nil {
		return err
	}
	return e.enter(ctx, known.Access)
}

// matches compares a secret, not many at once: each takes much memory.
func (e *Entry) matches(ctx context.Context, kept, secret string) (bool, error) {
	select {
	case e.hashing <- struct{}{}:
	case <-ctx.Done():
		return false, ctx.Err()
	}
	defer func() { <-e.hashing }()
	return Matches(kept, secret), nil
}

// wrong takes a moment.
func (e *Entry) wrong(ctx context.Context) error {
	select {
	case <-time.After(wrongTakes):
	case <-ctx.Done():
	}
	return ErrWrong
}

// SignOut ends that somebody is signed in; a paired screen stays paired.
func (e *Entry) SignOut(ctx context.Context) error {
	for _, k := range []string{keyPerson, keyNumber, keyUntil, keyChosen} {
		e.sessions.Remove(ctx, k)
	}
	return e.sessions.RenewToken(ctx)
}

// Choose says who is at a screen, by id, "" for nobody. It returns ErrWrong where that person cannot be.
func (e *Entry) Choose(ctx context.Context, f *Found, b *kitchen.Book, id string) error {
	if id == "" {
		e.sessions.Remove(ctx, keyChosen)
		return nil
	}
	for _, p := range f.Choices(b) {
		if p.ID == id {
			e.sessions.Put(ctx, keyChosen, id)
			return nil
		}
	}
	return ErrWrong
}

// letters of codes: none that is taken for another.
const letters = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"

// NewPairing makes a code by which a screen is paired as a place, once, until an instant.
func (e *Entry) NewPairing(ctx context.Context, p store.Place) (code string, until time.Time, err error) {
	raw := make([]byte, pairingLength)
	for i := range raw {
		raw[i] = letters[draw(len(letters))]
	}
	until = e.options.Clock().Add(pairingFor)
	return string(raw), until, e.store.NewPairing(ctx, codeHash(string(raw)), p, until)
}

// draw is a number below n by chance that nobody can guess, each as likely.
func draw(n int) int {
	var b [1]byte
	for {
		_, _ = rand.Read(b[:]) // never fails
		if int(b[0]) < 256-256%n {
			return int(b[0]) % n
		}
	}
}

func codeHash(code string) []byte {
	plain := strings.Map(func(r rune) rune {
		if r == ' ' || r == '-' {
			return -1
		}
		return r
	}, strings.ToUpper(code))
	h := sha256.Sum256([]byte(plain))
	return h[:]
}

// Pair makes this browser a paired screen, by a code. It returns ErrWrong, or a *WaitError.
func (e *Entry) Pair(ctx context.Context, code string) error {
	right, err := e.guess(ctx, "")
	if err != nil {
		return err
	}
	raw := make([]byte, 8)
	_, _ = rand.Read(raw) // never fails
	d, err := e.store.Pair(ctx, codeHash(code), "device-"+hex.EncodeToString(raw))
	if errors.Is(err, store.ErrNotFound) {
		return e.wrong(ctx)
	}
	if err != nil {
		return err
	}
	if err := right(); err != nil {
		return err
	}
	if err := e.sessions.RenewToken(ctx); err != nil {
		return fmt.Errorf("pairing: %w", err)
	}
	for _, k := range []string{keyPerson, keyNumber, keyUntil, keyChosen} {
		e.sessions.Remove(ctx, k)
	}
	e.sessions.Put(ctx, keyDevice, d.ID)
	e.sessions.SetDeadline(ctx, time.Now().Add(sessionLife))
	return nil
}

// Unpair ends that this browser is a paired screen.
func (e *Entry) Unpair(ctx context.Context) error {
	id := e.sessions.GetString(ctx, keyDevice)
	e.sessions.Remove(ctx, keyDevice)
	if err := e.store.EndDevice(ctx, id); err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	return e.SignOut(ctx)
}

// SetAccess lets a person sign in with a role and a secret; "" keeps the one that they have, where it suits the role. Errors:
// kitchen.Faults, store.ErrLastChef.
func (e *Entry) SetAccess(ctx context.Context, p *kitchen.Person, r access.Role, secret string) error {
	hash := ""
	if secret == "" {
		known, err := e.store.EntranceOf(ctx, p.ID, "")
		if err != nil {
			return err
		}
		if known.Access == nil || (known.Access.Role == string(access.Chef)) != (r == access.Chef) {
			return access.CheckSecret(r, "") // a PIN is no passphrase
		}
	} else {
		if err := access.CheckSecret(r, secret); err != nil {
			return err
		}
		e.hashing <- struct{}{}
		hash = Hash(secret)
		<-e.hashing
	}
	return e.store.SetAccess(ctx, p.ID, p.Name, string(r), hash, e.options.Closed)
}

// EndAccess keeps a person from signing in. Errors: store.ErrNotFound, store.ErrLastChef.
func (e *Entry) EndAccess(ctx context.Context, id, name string) error {
	return e.store.EndAccess(ctx, id, name, e.options.Closed)
}

// Stay keeps whoever asks signed in though access has just changed: their own, or that of the first chef, who set it at this machine.
func (e *Entry) Stay(ctx context.Context, f *Found, changed string, r access.Role) error {
	first := f.Open && f.Device == nil && r == access.Chef
	if !first && (!f.SignedIn || f.Person != changed) {
		return nil
	}
	known, err := e.store.EntranceOf(ctx, changed, "")
	if err != nil || known.Access == nil {
		return err
	}
	return e.enter(ctx, known.Access)
}

// enter makes this session that of a person.
func (e *Entry) enter(ctx context.Context, a *store.Access) error {
	if err := e.sessions.RenewToken(ctx); err != nil {
		return fmt.Errorf("signing in: %w", err)
	}
	e.sessions.Put(ctx, keyPerson, a.Person)
	e.sessions.Put(ctx, keyNumber, a.Number)
	e.sessions.Put(ctx, keyUntil, e.options.Clock().Add(personFor).Unix())
	return nil
}
