package server

import (
	"cmp"
	"context"
	"encoding/base64"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/skip2/go-qrcode"

	"jointime/core/access"
	"jointime/core/kitchen"
	"jointime/signin"
	"jointime/store"
)

// Who asks, and whether they may. Which role may do which operation stands in core/access alone.

type foundKey struct{}

// found is who asks; never nil where the request passed the middleware of who.
func found(ctx context.Context) *signin.Found {
	f, _ := ctx.Value(foundKey{}).(*signin.Found)
	if f == nil {
		return &signin.Found{}
	}
	return f
}

// who finds out who asks, and writes the person beside what they change.
func (s *Server) who(next http.Handler) http.Handler {
	return s.entry.Wrap(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !strings.HasPrefix(r.URL.Path, "/api/") {
			next.ServeHTTP(w, r)
			return
		}
		f, err := s.entry.Who(r.Context(), s.people(r.Context()))
		if err != nil {
			s.refuse(w, err, "Who asks could not be found out.")
			return
		}
		next.ServeHTTP(w, r.WithContext(store.As(context.WithValue(r.Context(), foundKey{}, f), f.Name)))
	}))
}

// people is the kitchen as this server knows it, which is enough to know its people; nil while there is none.
func (s *Server) people(ctx context.Context) *kitchen.Book {
	snap := s.store.Known()
	if snap == nil {
		snap, _ = s.store.Snapshot(ctx)
	}
	if snap == nil || snap.Empty {
		return nil
	}
	return snap.Book
}

// What is said to whom may not.
const (
	signInFirst = "Sign in first."
	mayNot      = "This is not for the role of the %s."
)

// mayOperation lets an operation of the contract through if who asks may do it.
func (s *Server) mayOperation(ctx huma.Context, next func(huma.Context)) {
	f, id := found(ctx.Context()), ctx.Operation().OperationID
	if access.May(f.Role, id) {
		next(ctx)
		return
	}
	status, detail := refusal(f)
	ctx.SetHeader("Content-Type", "application/problem+json")
	ctx.SetStatus(status)
	_, _ = ctx.BodyWriter().Write(problemBody(status, detail))
}

func refusal(f *signin.Found) (status int, detail string) {
	if f.Role == access.Nobody {
		return http.StatusUnauthorized, signInFirst
	}
	return http.StatusForbidden, fmt.Sprintf(mayNot, f.Role)
}

// may is mayOperation for what stands outside of the contract.
func (s *Server) may(id string, h http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if f := found(r.Context()); !access.May(f.Role, id) {
			status, detail := refusal(f)
			problem(w, status, detail)
			return
		}
		h(w, r)
	}
}

// SessionPerson is a person who may be at a screen.
type SessionPerson struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// SessionDevice is the paired screen that is looked at.
type SessionDevice struct {
	ID      string      `json:"id"`
	Name    string      `json:"name"`
	Role    access.Role `json:"role" enum:"pass,section,floor,board"`
	Section string      `json:"section,omitempty" doc:"The section's id"`
}

// SessionView is who asks, and what they may.
type SessionView struct {
	Role     access.Role     `json:"role" enum:",chef,pass,section,floor,board" doc:"Empty: nobody has signed in"`
	Sections []string        `json:"sections" nullable:"false" doc:"For which a section's role taps, by id"`
	Person   string          `json:"person" doc:"Who it is by id; empty where nobody said"`
	Name     string          `json:"name"`
	SignedIn bool            `json:"signed_in" doc:"By a PIN or a passphrase"`
	Open     bool            `json:"open" doc:"Nobody has to sign in at this machine"`
	Device   *SessionDevice  `json:"device,omitempty"`
	May      []string        `json:"may" nullable:"false" doc:"The operations that they may do"`
	People   []SessionPerson `json:"people" nullable:"false" doc:"Who may be at this screen by their own word; at a paired screen, who may sign in"`
	House    string          `json:"house" doc:"The kitchen's name"`
}

// AccessPerson is what a person may sign in as.
type AccessPerson struct {
	Person string      `json:"person"`
	Name   string      `json:"name"`
	Role   access.Role `json:"role" enum:",chef,pass,section,floor,board" doc:"Empty: they do not sign in"`
	SetAt  *time.Time  `json:"set_at,omitempty" doc:"When that was last changed"`
}

// AccessDevice is a paired screen.
type AccessDevice struct {
	SessionDevice
	PairedAt time.Time `json:"paired_at"`
	Here     bool      `json:"here" doc:"It is the one that asks"`
}

// AccessView is who may sign in, and which screens are paired.
type AccessView struct {
	People  []AccessPerson `json:"people" nullable:"false"`
	Devices []AccessDevice `json:"devices" nullable:"false"`
	Closed  bool           `json:"closed" doc:"Others can reach this server: everybody has to sign in"`
}

// Pairing is a code by which a screen is paired.
type Pairing struct {
	Code  string    `json:"code"`
	Until time.Time `json:"until"`
	Link  string    `json:"link" doc:"The page that pairs whoever opens it"`
	QR    string    `json:"qr" doc:"A picture of the page's address, as a data URL"`
}

type (
	sessionOut struct{ Body SessionView }
	signInIn   struct {
		Body struct {
			Who    string `json:"who" maxLength:"120" doc:"A person, by id or by name"`
			Secret string `json:"secret" maxLength:"400" doc:"Their PIN or passphrase"`
		}
	}
	chooseIn struct {
		Body struct {
			Person string `json:"person" maxLength:"80" doc:"By id; empty for nobody"`
		}
	}
	pairIn struct {
		Body struct {
			Code string `json:"code" maxLength:"40"`
		}
	}
	accessOut   struct{ Body AccessView }
	setAccessIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body struct {
			Role   access.Role `json:"role" enum:"chef,pass,section,floor,board"`
			Secret string      `json:"secret,omitempty" maxLength:"400" doc:"A new PIN, or passphrase for the chef; without one the old stays"`
		}
	}
	accessIDIn struct {
		ID string `path:"id" maxLength:"80"`
	}
	newPairingIn struct {
		Origin string `header:"Origin"`
		Host   string `header:"Host"`
		Body   struct {
			Name    string      `json:"name" minLength:"1" maxLength:"60" doc:"What the screen is called"`
			Role    access.Role `json:"role" enum:"pass,section,floor,board"`
			Section string      `json:"section,omitempty" maxLength:"80"`
		}
	}
	pairingOut struct{ Body Pairing }
)

func (s *Server) accessRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-session", Method: http.MethodGet, Path: "/api/session",
		Summary: "Who asks, and what they may"}, s.getSession)
	huma.Register(api, huma.Operation{OperationID: "sign-in", Method: http.MethodPost, Path: "/api/session/sign-in",
		Summary: "Sign in", Errors: []int{401, 429}}, s.signIn)
	huma.Register(api, huma.Operation{OperationID: "sign-out", Method: http.MethodPost, Path: "/api/session/sign-out",
		Summary: "Sign out; a paired screen stays paired"}, s.signOut)
	huma.Register(api, huma.Operation{OperationID: "choose-person", Method: http.MethodPost, Path: "/api/session/person",
		Summary: "Say who is at this screen, where nobody has to sign in", Errors: []int{403}}, s.choosePerson)
	huma.Register(api, huma.Operation{OperationID: "pair-device", Method: http.MethodPost, Path: "/api/session/pair",
		Summary: "Pair this screen by a code", Errors: []int{401, 429}}, s.pair)
	huma.Register(api, huma.Operation{OperationID: "unpair-this", Method: http.MethodPost, Path: "/api/session/unpair",
		Summary: "End that this screen is paired"}, s.unpairThis)
	huma.Register(api, huma.Operation{OperationID: "get-access", Method: http.MethodGet, Path: "/api/access",
		Summary: "Who may sign in, and which screens are paired"}, s.getAccess)
	huma.Register(api, huma.Operation{OperationID: "set-access", Method: http.MethodPut, Path: "/api/access/people/{id}",
		Summary: "Let a person sign in, or change as what", Errors: []int{404, 409, 422}}, s.setAccess)
	huma.Register(api, huma.Operation{OperationID: "end-access", Method: http.MethodDelete, Path: "/api/access/people/{id}",
		Summary: "Keep a person from signing in", Errors: []int{404, 409}}, s.endAccess)
	huma.Register(api, huma.Operation{OperationID: "new-pairing", Method: http.MethodPost, Path: "/api/access/pairings",
		Summary: "Make a code by which a screen is paired, once, within ten minutes", Errors: []int{422}}, s.newPairing)
	huma.Register(api, huma.Operation{OperationID: "end-device", Method: http.MethodDelete, Path: "/api/access/devices/{id}",
		Summary: "Unpair a screen", Errors: []int{404}}, s.endDevice)
}

func (s *Server) getSession(ctx context.Context, _ *struct{}) (*sessionOut, error) {
	b := s.people(ctx)
	f, err := s.entry.Who(ctx, b) // as it is after what the operation has changed
	if err != nil {
		return nil, s.fail(err)
	}
	v := SessionView{Role: f.Role, Sections: slices.Clone(f.Sections), Person: f.Person, Name: f.Name, SignedIn: f.SignedIn, Open: f.Open,
		May: access.Operations(f.Role), People: []SessionPerson{}}
	if v.Sections == nil {
		v.Sections = []string{}
	}
	if f.Device != nil {
		v.Device = deviceView(f.Device)
	}
	for _, p := range f.Choices(b) {
		v.People = append(v.People, SessionPerson{p.ID, p.Name})
	}
	if b != nil {
		v.House = b.Kitchen().Name
	}
	return &sessionOut{v}, nil
}

func deviceView(d *store.Device) *SessionDevice {
	return &SessionDevice{ID: d.ID, Name: d.Name, Role: access.Role(d.Role), Section: d.Section}
}

// entryFailed says why somebody was not let in.
func (s *Server) entryFailed(err error, wrong string) error {
	var wait *signin.WaitError
	switch {
	case errors.Is(err, signin.ErrWrong):
		return huma.NewError(http.StatusUnauthorized, wrong)
	case errors.As(err, &wait):
		left := max(1, int(wait.Until.Sub(s.clock()).Round(time.Second)/time.Second))
		return huma.ErrorWithHeaders(huma.NewError(http.StatusTooManyRequests,
			fmt.Sprintf("Too much was guessed: nothing is taken for another %d seconds.", left)), http.Header{"Retry-After": {fmt.Sprint(left)}})
	}
	return s.fail(err)
}

func (s *Server) signIn(ctx context.Context, in *signInIn) (*sessionOut, error) {
	if err := s.entry.SignIn(ctx, s.people(ctx), in.Body.Who, in.Body.Secret); err != nil {
		return nil, s.entryFailed(err, "The name, or the PIN or passphrase, is not right.")
	}
	return s.getSession(ctx, nil)
}

func (s *Server) signOut(ctx context.Context, _ *struct{}) (*sessionOut, error) {
	if err := s.entry.SignOut(ctx); err != nil {
		return nil, s.fail(err)
	}
	return s.getSession(ctx, nil)
}

func (s *Server) choosePerson(ctx context.Context, in *chooseIn) (*sessionOut, error) {
	if err := s.entry.Choose(ctx, found(ctx), s.people(ctx), in.Body.Person); err != nil {
		return nil, huma.NewError(http.StatusForbidden, "Whoever this is does not work at this screen without signing in.")
	}
	return s.getSession(ctx, nil)
}

func (s *Server) pair(ctx context.Context, in *pairIn) (*sessionOut, error) {
	if err := s.entry.Pair(ctx, in.Body.Code); err != nil {
		return nil, s.entryFailed(err, "This code is not right, was used, or is older than ten minutes: ask the chef for a new one.")
	}
	return s.getSession(ctx, nil)
}

func (s *Server) unpairThis(ctx context.Context, _ *struct{}) (*sessionOut, error) {
	if err := s.entry.Unpair(ctx); err != nil {
		return nil, s.fail(err)
	}
	return s.getSession(ctx, nil)
}

func (s *Server) getAccess(ctx context.Context, _ *struct{}) (*accessOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	list, devices, err := s.store.Accesses(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	house := snap.Book.Kitchen()
	zone := house.Zone()
	v := AccessView{People: []AccessPerson{}, Devices: []AccessDevice{}, Closed: s.closed}
	for _, p := range snap.Book.People() {
		a := AccessPerson{Person: p.ID, Name: p.Name}
		if i := slices.IndexFunc(list, func(l store.Access) bool { return l.Person == p.ID }); i >= 0 {
			at := list[i].SetAt.In(zone)
			a.Role, a.SetAt = access.Role(list[i].Role), &at
		}
		v.People = append(v.People, a)
	}
	here := found(ctx).Identity.Device
	for i := range devices {
		v.Devices = append(v.Devices, AccessDevice{*deviceView(&devices[i]), devices[i].PairedAt.In(zone), devices[i].ID == here})
	}
	return &accessOut{v}, nil
}

func (s *Server) personByID(ctx context.Context, id string) (*kitchen.Person, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, err
	}
	for _, p := range snap.Book.People() {
		if p.ID == id {
			return &p, nil
		}
	}
	return nil, store.ErrNotFound
}

func (s *Server) setAccess(ctx context.Context, in *setAccessIn) (*accessOut, error) {
	p, err := s.personByID(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	if err := s.entry.SetAccess(ctx, p, in.Body.Role, in.Body.Secret); err != nil {
		return nil, s.fail(err)
	}
	if err := s.entry.Stay(ctx, found(ctx), p.ID, in.Body.Role); err != nil {
		return nil, s.fail(err)
	}
	return s.getAccess(ctx, nil)
}

func (s *Server) endAccess(ctx context.Context, in *accessIDIn) (*accessOut, error) {
	p, err := s.personByID(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	if err := s.entry.EndAccess(ctx, p.ID, p.Name); err != nil {
		return nil, s.fail(err)
	}
	return s.getAccess(ctx, nil)
}

func (s *Server) newPairing(ctx context.Context, in *newPairingIn) (*pairingOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	place := store.Place{Name: strings.TrimSpace(in.Body.Name), Role: string(in.Body.Role)}
	if place.Name == "" {
		return nil, s.fail(kitchen.Faults{kitchen.FaultAt("name", "live.missing")})
	}
	if in.Body.Role == access.Section {
		if !slices.ContainsFunc(snap.Book.Sections(), func(x kitchen.Section) bool { return x.ID == in.Body.Section }) {
			return nil, s.fail(kitchen.Faults{kitchen.FaultAt("section", "access.no-section")})
		}
		place.Section = in.Body.Section
	}
	code, until, err := s.entry.NewPairing(ctx, place)
	if err != nil {
		return nil, s.fail(err)
	}
	// The code stands behind the #, which no browser sends to any server: it is in no log of addresses.
	origin := s.origin // at this machine the page is open under a name that no tablet reaches
	if origin == "" {
		origin = cmp.Or(in.Origin, "http://"+in.Host)
	}
	house := snap.Book.Kitchen()
	link := origin + "/pair#" + code
	picture, err := qrcode.Encode(link, qrcode.Medium, 320)
	if err != nil {
		return nil, s.fail(err)
	}
	return &pairingOut{Pairing{code, until.In(house.Zone()), link, "data:image/png;base64," + base64.StdEncoding.EncodeToString(picture)}}, nil
}

// signsInNoMore ends the access of somebody who is removed. Of the last chef it may not be, where others can reach the server.
func (s *Server) signsInNoMore(ctx context.Context, id string) error {
	err := s.entry.EndAccess(ctx, id, id)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return err
}

func (s *Server) endDevice(ctx context.Context, in *accessIDIn) (*accessOut, error) {
	if err := s.store.EndDevice(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	return s.getAccess(ctx, nil)
}
