// Package server carries the kitchen's data to the computation and shows what it
// says, over HTTP: chi routes, huma operations from which the OpenAPI document
// falls out, problem+json errors, and the web build. No rule of the trade lives
// here.
package server

import (
	"cmp"
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"jointime/demo"
	"jointime/formats/safetylog"
	"jointime/live"
	"jointime/planner"
	"jointime/signin"
	"jointime/store"
)

// Server answers requests. Its zero value is not usable; see New.
type Server struct {
	store *store.Store
	clock func() time.Time
	wall  func() time.Time // of the room, whatever hour the demo has
	log   *slog.Logger

	planner *planner.Planner
	live    *live.Hub
	entry   *signin.Entry
	origin  string         // how others open it
	closed  bool           // others can reach it: everybody has to sign in
	work    sync.WaitGroup // plans that follow

	demoPlay   sync.Mutex
	demoStop   context.CancelFunc // ends the service that the demo plays; nil while it plays none
	demo       *demo.Clock        // nil where the clock cannot be put
	followers  *followers
	searches   searches
	dues       dues
	printer    string
	rehearsals rehearsals
	practices  practices
	nights     nights
	past       bool
	hosts      []string // names by which the server may be asked
	// patience multiplies how long a search may take.
	patience time.Duration
	beat     time.Duration // of streams
	handler  http.Handler
}

// maxBody bounds a request; the largest thing a person sends is a component.
const maxBody = 1 << 20

// Options are the application's settings.
type Options struct {
	Clock    func() time.Time // gives the time; required
	Log      *slog.Logger     // required
	Web      http.Handler     // the built pages; nil shows how to build them
	Patience int              // multiplies how long a search may take; 0 means 1
	Rounds   int              // how long a better plan is looked for behind one; 0 means as long as usual
	Demo     *demo.Clock      // the clock, where the demo may put it; Clock has to be its Now
	Beat     time.Duration    // how often a stream says that it is there, and looks who reads it; 0 means 15 s
	// Hosts are the names by which others reach the server, beside those of this machine itself. With any, everybody has to sign in.
	Hosts []string
	// Proxied means that requests come through a proxy that speaks TLS and says from where they come.
	Proxied bool
	// Origin is how others open it, as in https://192.168.1.20:8743; "" for nobody but this machine.
	Origin string
	// Printer is where slips are printed, host:port; "" for nowhere.
	Printer string
	// Past says whether the demo's services that are over are played, in the background.
	Past bool
	// Authority is the certificate that a device has to trust, to be given to it (PEM); nil for none.
	Authority []byte
}

// New returns the whole application as a handler, which runs until Close.
func New(s *store.Store, o Options) *Server {
	srv := &Server{store: s, clock: o.Clock, log: o.Log, hosts: slices.Concat(loopbackHosts, o.Hosts), closed: len(o.Hosts) > 0,
		origin: o.Origin, beat: cmp.Or(o.Beat, usualBeat),
		patience: time.Duration(max(1, o.Patience)),
		live:     live.New(s, o.Clock, o.Log)}
	srv.planner = planner.New(s, planner.Options{Clock: o.Clock, Log: o.Log, Patience: o.Patience, Rounds: o.Rounds, Said: srv.live.Stands})
	srv.entry = signin.New(s, signin.Options{Clock: o.Clock, Log: o.Log, Closed: srv.closed, Proxied: o.Proxied})
	srv.nights.by = map[string]readNight{}
	srv.practices.by = map[string]*practice{}
	srv.rehearsals.by = map[string]*rehearsal{}
	srv.printer = o.Printer
	srv.followers, srv.searches.by, srv.dues.by = newFollowers(), map[string]*behind{}, map[string]*bothDue{}
	srv.work.Go(srv.followClock)
	srv.wall = o.Clock
	if srv.demo = o.Demo; srv.demo != nil {
		srv.wall = o.Demo.Wall // the demo's clock is put to another hour
		srv.takeUpDemoClock(srv.live.Life())
		srv.work.Go(srv.keepDemoClock)
		if srv.past = o.Past; srv.past {
			srv.goPast()
		}
	}
	web := o.Web
	r := chi.NewRouter()
	r.Use(middleware.Recoverer, middleware.Compress(5), srv.headers, srv.guard, srv.who)
	r.Get("/healthz", srv.health)
	api := srv.routes(r)
	document, err := json.Marshal(api.OpenAPI())
	if err != nil {
		panic(err) // the document is built from the types above
	}
	r.Get("/house.crt", func(w http.ResponseWriter, _ *http.Request) {
		if o.Authority == nil {
			problem(w, http.StatusNotFound, "This server has no certificates of its own.")
			return
		}
		w.Header().Set("Content-Type", "application/x-x509-ca-cert")
		w.Header().Set("Content-Disposition", `attachment; filename="house.crt"`)
		write(w, o.Authority)
	})
	r.Get("/openapi.json", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "application/openapi+json")
		write(w, document)
	})
	r.Get("/api/dishes/{id}/plate.svg", srv.may("plate-drawing", srv.plateSVG))
	r.Get("/api/prep/ingredients.csv", srv.may("ingredients-csv", srv.ingredientsCSV))
	r.Get("/api/prep/ingredients.xlsx", srv.may("ingredients-xlsx", srv.ingredientsXLSX))
	r.Get("/api/prep/calendar.ics", srv.may("calendar", srv.calendar))
	r.Get("/api/safety/log.csv", srv.may("safety-csv", srv.safetyFile("csv", "text/csv; charset=utf-8", (*safetylog.Log).CSV)))
	r.Get("/api/safety/log.pdf", srv.may("safety-pdf", srv.safetyFile("pdf", "application/pdf", (*safetylog.Log).PDF)))
	r.Get("/api/fire/{id}/files/{file}", srv.may("fire-file", srv.fireFile))
	r.Get("/api/services/{id}/log.jsonl", srv.may("service-log", srv.eventLog))
	r.Get("/api/lookback/{id}/{file:night.pdf|night.xlsx|steps.csv|courses.csv}", srv.may("night-file", srv.nightFile))
	r.Get("/api/services/{id}/slip.txt", srv.may("slip-text", srv.slipText))
	r.Get("/api/services/{id}/live", srv.may("service-stream", srv.stream))
	r.Get("/api/dishes/{id}/card.pdf", srv.may("dish-card", srv.cardPDF))
	r.Get("/api/dishes/{id}/photograph", srv.may("photograph", srv.photograph))
	r.Put("/api/dishes/{id}/photograph", srv.may("set-photograph", srv.setPhotograph))
	r.Delete("/api/dishes/{id}/photograph", srv.may("drop-photograph", srv.dropPhotograph))
	r.MethodNotAllowed(func(w http.ResponseWriter, req *http.Request) {
		problem(w, http.StatusMethodNotAllowed, req.Method+" is not possible here")
	})
	r.NotFound(func(w http.ResponseWriter, req *http.Request) {
		if web == nil || len(req.URL.Path) >= 5 && req.URL.Path[:5] == "/api/" {
			problem(w, http.StatusNotFound, "there is nothing at "+req.URL.Path)
			return
		}
		web.ServeHTTP(w, req)
	})
	srv.handler = r
	return srv
}

// ServeHTTP answers a request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// Close ends what is computed in the background, and waits for it.
func (s *Server) Close() {
	s.live.Close()
	s.planner.Close()
	s.work.Wait()
	s.entry.Close()
}

// headers keeps the page to what the application ships.
func (s *Server) headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "+
			"frame-ancestors 'none'; base-uri 'none'; form-action 'self'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		next.ServeHTTP(w, r)
	})
}

func write(w http.ResponseWriter, b []byte) {
	_, _ = w.Write(b) // the client has gone; nobody is left to tell
}

func problem(w http.ResponseWriter, status int, detail string) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(status)
	write(w, problemBody(status, detail))
}

func problemBody(status int, detail string) []byte {
	b, _ := json.Marshal(huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: detail})
	return b
}

// health answers 200 while the database answers.
func (s *Server) health(w http.ResponseWriter, r *http.Request) {
	if err := s.store.Ping(r.Context()); err != nil {
		s.log.Error("health", "error", err)
		problem(w, http.StatusServiceUnavailable, "the database does not answer")
		return
	}
	w.Header().Set("Content-Type", "application/json")
	write(w, []byte(`{"status":"ok"}`))
}

// routes describes every operation; it needs no database, so that the document
// can be printed without one.
func (s *Server) routes(r chi.Router) huma.API {
	c := huma.DefaultConfig("Jointime", "1")
	c.Info.Description = "What the pages of Jointime ask of its server."
	c.OpenAPIPath, c.DocsPath, c.SchemasPath = "", "", ""
	c.CreateHooks = nil // no $schema in bodies
	api := humachi.New(r, c)
	api.UseMiddleware(s.mayOperation)
	s.accessRoutes(api)
	s.demoClockRoutes(api)
	s.dishRoutes(api)
	s.componentRoutes(api)
	s.lineRoutes(api)
	s.planRoutes(api)
	s.kitchenRoutes(api)
	s.setupRoutes(api)
	s.bookRoutes(api)
	s.versionRoutes(api)
	s.prepRoutes(api)
	s.serviceRoutes(api)
	s.fireRoutes(api)
	s.mealRoutes(api)
	s.recipeRoutes(api)
	s.dayRoutes(api)
	s.safetyRoutes(api)
	s.liveRoutes(api)
	s.orderRoutes(api)
	s.readingRoutes(api)
	s.rehearsalRoutes(api)
	s.practiceRoutes(api)
	s.lookBackRoutes(api)
	s.noteRoutes(api)
	s.amountRoutes(api)
	s.slipRoutes(api)
	return api
}

// OpenAPI returns the contract as JSON, indented.
func OpenAPI() ([]byte, error) {
	s := &Server{}
	return json.MarshalIndent(s.routes(chi.NewRouter()).OpenAPI(), "", " ")
}
