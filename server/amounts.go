package server

import (
	"context"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"jointime/core/kitchen"
	"jointime/core/lookback"
	"jointime/core/message"
	"jointime/store"
)

// Amounts: what was ready of each dish, ordered and thrown away, what to have ready for the next service and what that costs.

// AmountLine is a dish over the services that are over.
type AmountLine struct {
	lookback.Amount
	Next *NextAmount `json:"next,omitempty" doc:"For the next service that has it on its menu and does not know what is ordered"`
}

// NextAmount is what to have ready of a dish, with what it costs.
type NextAmount struct {
	Service string          `json:"service"`
	Name    string          `json:"name"`
	Guests  int             `json:"guests" doc:"Of whom it is not known what they take"`
	Ready   int             `json:"ready" doc:"What its menu and its reserve let have ready"`
	Short   float64         `json:"short" doc:"How many plates are missing with that, in the mean"`
	Over    float64         `json:"over" doc:"How many are thrown away with that, in the mean"`
	Have    int             `json:"have" doc:"What costs least, where a missing plate costs nine times one that is thrown away"`
	HaveSh  float64         `json:"have_short" doc:"How many plates are missing then"`
	HaveOv  float64         `json:"have_over" doc:"How many are thrown away then"`
	Said    message.Message `json:"said"`
}

// AmountsView is every dish that was ordered in the services that are over.
type AmountsView struct {
	Dishes []AmountLine `json:"dishes" nullable:"false" doc:"By course, what was thrown away or missing most first"`
	Of     int          `json:"of" doc:"Services"`
}

// ThrownIn is what was thrown away, as it is said.
type ThrownIn struct {
	ID       string `json:"id" minLength:"8" maxLength:"80" doc:"Made by the screen: the same sent twice counts once"`
	Kind     string `json:"kind" enum:"dish,component"`
	About    string `json:"about" maxLength:"80" doc:"The id of that"`
	Portions int    `json:"portions" minimum:"1" maximum:"2000"`
	Why      string `json:"why" enum:"too-much,spoilt,dropped,overdone,came-back,other"`
	Words    string `json:"words,omitempty" maxLength:"200"`
}

// ThrownView is that with what it is of, by name.
type ThrownView struct {
	store.Thrown
	Name string `json:"name"`
}

type (
	amountsOut  struct{ Body AmountsView }
	addThrownIn struct {
		ID   string `path:"id" maxLength:"80"`
		Body ThrownIn
	}
	thrownOut struct {
		Body []ThrownView `nullable:"false"`
	}
	useShareIn struct {
		ID   string `path:"id" maxLength:"80"`
		Dish string `path:"dish" maxLength:"80"`
		Body struct {
			Version int64 `json:"version" minimum:"1" doc:"The service's"`
		}
	}
)

func (s *Server) amountRoutes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-amounts", Method: http.MethodGet, Path: "/api/amounts",
		Summary: "What was ready of each dish, ordered and thrown away, and what to have ready next"}, s.getAmounts)
	huma.Register(api, huma.Operation{OperationID: "list-thrown", Method: http.MethodGet, Path: "/api/services/{id}/thrown",
		Summary: "What was thrown away after a service", Errors: []int{404}}, s.listThrown)
	huma.Register(api, huma.Operation{OperationID: "add-thrown", Method: http.MethodPost, Path: "/api/services/{id}/thrown",
		Summary: "Say what was thrown away, and why", MaxBodyBytes: maxBody, Errors: []int{404, 422}}, s.addThrown)
	huma.Register(api, huma.Operation{OperationID: "undo-thrown", Method: http.MethodDelete, Path: "/api/thrown/{number}",
		Summary: "Take back that something was thrown away; it stays in the record", Errors: []int{404}}, s.undoThrown)
}

// readyOf is what was to be ready of each dish of a service by its menu's shares, its reserve with it; what was ordered changes nothing of
// it.
func readyOf(b *kitchen.Book, svc *kitchen.Service) map[string]int {
	open := *svc
	open.Tables = slices.Clone(svc.Tables)
	for i := range open.Tables {
		open.Tables[i].Orders = nil
	}
	orders, _ := b.TableOrders(&open)
	out := map[string]int{}
	for _, list := range orders {
		for _, o := range list {
			out[o.Dish] += o.Count
		}
	}
	for dish, n := range out {
		out[dish] = int(math.Ceil(float64(n) * (1 + svc.ReservePercent/100)))
	}
	return out
}

func (s *Server) getAmounts(ctx context.Context, _ *struct{}) (*amountsOut, error) {
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	list, err := s.record(ctx, snap.Book)
	if err != nil {
		return nil, s.fail(err)
	}
	thrown, err := s.store.ThrownAway(ctx, "")
	if err != nil {
		return nil, s.fail(err)
	}
	var of []lookback.Night
	for _, n := range list {
		of = append(of, *n)
	}
	ordered, _ := orderedIn(snap.Book, of)
	said := map[string]lookback.Evidence{}
	for _, f := range lookback.Shares(ordered) {
		said[f.Component] = f
	}
	coming := s.coming(snap.Book)
	v := AmountsView{Dishes: []AmountLine{}, Of: len(list)}
	for _, a := range amountsOf(snap.Book, of, thrown) {
		l := AmountLine{Amount: a}
		if n, ok := nextWith(snap.Book, coming, a.Dish); ok {
			share := n.share
			if f, known := said[a.Dish]; known {
				share = f.Share
			}
			l.Next = nextAmount(&n, a.Dish, readyOf(snap.Book, n.svc)[a.Dish], share)
		}
		v.Dishes = append(v.Dishes, l)
	}
	return &amountsOut{v}, nil
}

// nextAmount is what to have ready of a dish: what the menu lets have, and what costs least.
func nextAmount(n *next, dish string, ready int, share float64) *NextAmount {
	known := 0 // ordered already
	for _, t := range n.svc.Tables {
		for _, o := range t.Orders {
			if o.Dish == dish {
				known += o.Count
			}
		}
	}
	tenth := func(x float64) float64 { return math.Round(10*x) / 10 }
	out := &NextAmount{Service: n.svc.ID, Name: n.svc.Name, Guests: n.guests, Ready: ready}
	takes := n.takes(share)
	short, over := lookback.ReserveCost(n.guests, takes, max(0, ready-known))
	out.Short, out.Over = tenth(short), tenth(over)
	have := lookback.Reserve(n.guests, takes, shortCost, wasteCost)
	short, over = lookback.ReserveCost(n.guests, takes, have)
	out.Have, out.HaveSh, out.HaveOv = have+known, tenth(short), tenth(over)
	if out.Have == ready {
		out.Said = message.Of("lookback.amount-same", "have", out.Have, "short", out.HaveSh, "over", out.HaveOv)
		return out
	}
	out.Said = message.Of("lookback.amount", "have", out.Have, "short", out.HaveSh, "over", out.HaveOv, "ready", ready, "lacks", out.Short,
		"spares", out.Over)
	return out
}

// amountsOf are the dishes of some services.
func amountsOf(b *kitchen.Book, nights []lookback.Night, thrown []store.Thrown) []lookback.Amount {
	by := map[string]*lookback.Amount{}
	var order []string
	courses := map[string]int{} // plates of its course, by dish
	for i := range nights {
		svc, ok := b.Service(nights[i].Service)
		if !ok {
			continue
		}
		ready, ordered, ofCourse := readyOf(b, svc), map[string]int{}, map[kitchen.Course]int{}
		for _, t := range svc.Tables {
			for _, o := range t.Orders {
				if d, there := b.Dish(o.Dish); there {
					ordered[o.Dish] += o.Count
					ofCourse[d.Course] += o.Count
				}
			}
		}
		if len(ordered) == 0 {
			continue // nobody said what was ordered
		}
		for _, m := range svc.Menu {
			d, there := b.Dish(m.Dish)
			if !there {
				continue
			}
			a := by[m.Dish]
			if a == nil {
				_, sum, own := courseOf(b, svc, m.Dish)
				a = &lookback.Amount{Dish: m.Dish, What: d.Name, Course: string(d.Course), Why: map[string]int{}, Expected: own / math.Max(1, sum)}
				by[m.Dish], order = a, append(order, m.Dish)
			}
			n := lookback.DishNight{Service: svc.ID, Date: svc.Date, Ready: ready[m.Dish], Ordered: ordered[m.Dish]}
			for _, t := range thrown {
				if t.Service == svc.ID && t.Kind == "dish" && t.About == m.Dish && !t.Undone {
					n.Thrown += t.Portions
					a.Why[t.Why] += t.Portions
				}
			}
			a.Nights = append(a.Nights, n)
			courses[m.Dish] += ofCourse[d.Course]
		}
	}
	out := []lookback.Amount{}
	for _, dish := range order {
		a := by[dish]
		a.Sum()
		a.Share = float64(a.Ordered) / math.Max(1, float64(courses[dish]))
		out = append(out, *a)
	}
	place := []kitchen.Course{kitchen.First, kitchen.Second, kitchen.Main, kitchen.Dessert}
	slices.SortStableFunc(out, func(a, b lookback.Amount) int {
		if x, y := slices.Index(place, kitchen.Course(a.Course)), slices.Index(place, kitchen.Course(b.Course)); x != y {
			return x - y
		}
		return (b.Thrown + b.Short) - (a.Thrown + a.Short)
	})
	return out
}

func (s *Server) listThrown(ctx context.Context, in *liveIn) (*thrownOut, error) {
	if err := s.here(ctx, in.ID); err != nil {
		return nil, s.fail(err)
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	list, err := s.store.ThrownAway(ctx, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	out := &thrownOut{[]ThrownView{}}
	for i := range list {
		t := &list[i]
		t.At = t.At.In(snap.Book.Zone())
		out.Body = append(out.Body, ThrownView{*t, aboutName(snap.Book, t.Kind, t.About)})
	}
	return out, nil
}

func (s *Server) addThrown(ctx context.Context, in *addThrownIn) (*thrownOut, error) {
	if err := s.here(ctx, in.ID); err != nil || isPractice(in.ID) {
		return nil, s.fail(orNotFound(err))
	}
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	_, dish := snap.Book.Dish(in.Body.About)
	_, component := snap.Book.Component(in.Body.About)
	if in.Body.Kind == "dish" && !dish || in.Body.Kind == "component" && !component {
		return nil, s.fail(kitchen.Faults{kitchen.FaultAt("about", "lookback.no-about")})
	}
	t := store.Thrown{ID: in.Body.ID, Service: in.ID, Kind: in.Body.Kind, About: in.Body.About, Portions: in.Body.Portions, Why: in.Body.Why,
		Words: strings.TrimSpace(in.Body.Words), Person: found(ctx).Name}
	if err := s.store.AddThrown(ctx, t); err != nil {
		return nil, s.fail(err)
	}
	return s.listThrown(ctx, &liveIn{ID: in.ID})
}

func (s *Server) undoThrown(ctx context.Context, in *numberIn) (*thrownOut, error) {
	if err := s.store.TakeThrownBack(ctx, in.Number); err != nil {
		return nil, s.fail(err)
	}
	t, err := s.store.ThrownOne(ctx, in.Number)
	if err != nil {
		return nil, s.fail(err)
	}
	return s.listThrown(ctx, &liveIn{ID: t.Service})
}

// useShare writes the share that the record says now; the other dishes of its course make room in proportion.
func (s *Server) useShare(ctx context.Context, in *useShareIn) (*serviceOut, error) {
	view, err := s.lookBack(ctx, nil)
	if err != nil {
		return nil, err
	}
	k := slices.IndexFunc(view.Body.Learnt, func(l Learnt) bool { return l.Kind == "share" && l.Component == in.Dish && l.Service == in.ID })
	if k < 0 {
		return nil, s.fail(store.ErrNotFound)
	}
	l := &view.Body.Learnt[k]
	snap, err := s.book(ctx)
	if err != nil {
		return nil, s.fail(err)
	}
	old, ok := snap.Book.Service(in.ID)
	if !ok {
		return nil, s.fail(store.ErrNotFound)
	}
	made := *old
	course, sum, own := courseOf(snap.Book, old, in.Dish)
	made.Menu = slices.Clone(old.Menu)
	left := sum - l.UseShare
	for i := range made.Menu {
		m := &made.Menu[i]
		d, there := snap.Book.Dish(m.Dish)
		switch {
		case m.Dish == in.Dish:
			m.Share = l.UseShare
		case there && d.Course == course && sum > own:
			m.Share = math.Floor(10*m.Share*(sum-l.UseShare)/(sum-own)) / 10
			left -= m.Share
		}
	}
	for i := range made.Menu { // what rounding leaves
		if d, there := snap.Book.Dish(made.Menu[i].Dish); there && d.Course == course && made.Menu[i].Dish != in.Dish {
			made.Menu[i].Share = math.Round(10*(made.Menu[i].Share+left)) / 10
			break
		}
	}
	return s.saveService(ctx, made, in.Body.Version, message.Of("lookback.share-used", "service", old.Name, "dish", l.What, "seen", l.Seen,
		"nights", l.Nights).Text)
}
