package scale

import (
	"cmp"
	"fmt"
	"math/big"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Draw is what one service (or one batch of another component) takes of a component.
type Draw struct {
	Component string
	Service   string    // the service that it is for in the end
	By        string    // the dish, or the component whose batch takes it
	ByBatch   int       // number of that batch, 0 for a dish
	At        time.Time // when it has to be there
	Until     time.Time // how long it is drawn from
	Last      time.Time // when it is last wanted at the stove, or on a plate
	Portions  int
	Amount    *big.Rat // in the component's unit, reserve included
}

// Part is what a draw takes out of a batch or of what is on hand.
type Part struct {
	Draw   int // index into Amounts.Draws
	Amount *big.Rat
}

// Batch is one make-ahead batch.
type Batch struct {
	ID        string // component/service/number: the same as long as the need is the same
	Component string
	Service   string // that first needs it
	OfService int    // from 1 among the component's batches for that service
	Number    int    // from 1 among the component's batches
	Of        int
	Yield     *big.Rat // what it gives (or gave), in the component's unit
	Left      *big.Rat // of it that nothing draws
	Portions  int      // plates that it serves
	For       []Part
	NeedBy    time.Time // when its first draw needs it
	LastUse   time.Time // when its last draw ends
	LastFire  time.Time // when it is last wanted at the stove, or on a plate
}

// FromStock is what is taken from a product on hand.
type FromStock struct {
	Stock  kitchen.Stock
	For    []Part
	Left   *big.Rat
	Wasted bool // its use-by passes before the services planned
}

// Ingredient is what has to be bought or taken from the store, before trim.
type Ingredient struct {
	Name     string
	Unit     string
	Amount   *big.Rat
	Trim     *big.Rat // of it that is trimmed away
	Section  string
	For      []string // components
	Allergen []kitchen.Allergen
}

// Credit is a by-product of one component's batches that goes into another.
type Credit struct {
	From, To string
	Grams    *big.Rat
}

// Amounts is the whole reckoning.
type Amounts struct {
	Draws       []Draw
	Batches     []Batch // grouped by component, in order of need
	Stock       []FromStock
	Ingredients []Ingredient
	Credits     []Credit
	Problems    []message.Message

	made  map[string]float64
	fired func(service, component string) (time.Time, bool)
}

// maxBatches bounds the batches of one component: more is a slip of the pen, and each
// one draws others in its turn.
const maxBatches = 200

// serviceLasts is how long after the last seating a service still draws on what was
// made. Common practice, no source.
const serviceLasts = 2 * time.Hour

// Reckon works out what a list of services needs of everything. Products on hand are
// used first, the one with the nearest use-by before the others; then batches are made,
// each as large as the component says, and used until their shelf life ends: a batch may
// serve several services. What a batch takes of other components is reckoned the same
// way, and has to be there span before the batch is needed. made says what a batch that
// is finished really gave, by its id; fired when a component is first wanted in a service,
// by a plan that was told, where there is one. Services that a caller does not want to plan it
// leaves out.
func Reckon(b *kitchen.Book, services []kitchen.Service, span func(*kitchen.Component) time.Duration, made map[string]float64,
	fired func(service, component string) (time.Time, bool)) *Amounts {
	a := &Amounts{made: made, fired: fired}
	zone := b.Zone()
	byComponent := map[string][]Draw{}
	for i := range services {
		for _, d := range a.ofService(b, &services[i], zone) {
			byComponent[d.Component] = append(byComponent[d.Component], d)
		}
	}
	for _, id := range usersFirst(b) {
		draws := byComponent[id]
		if len(draws) == 0 {
			continue
		}
		c, _ := b.Component(id)
		for _, d := range a.make(b, c, draws, span) {
			byComponent[d.Component] = append(byComponent[d.Component], d)
		}
	}
	a.shop(b)
	return a
}

// usersFirst orders the components so that each comes before what goes into it.
func usersFirst(b *kitchen.Book) []string {
	cs := b.Components()
	depth := map[string]int{}
	var down func(id string, d int)
	down = func(id string, d int) {
		if old, ok := depth[id]; ok && old >= d {
			return
		}
		depth[id] = d
		c, _ := b.Component(id)
		for _, u := range c.Uses {
			down(u.Component, d+1)
		}
	}
	ids := make([]string, len(cs))
	for i := range cs {
		ids[i] = cs[i].ID
		down(ids[i], 0)
	}
	slices.SortStableFunc(ids, func(x, y string) int { return cmp.Compare(depth[x], depth[y]) })
	return ids
}

// make serves a component's draws from what is on hand and from batches, and returns
// what those batches draw in their turn.
func (a *Amounts) make(b *kitchen.Book, c *kitchen.Component, draws []Draw, span func(*kitchen.Component) time.Duration) []Draw {
	slices.SortStableFunc(draws, byTime)
	var stock []FromStock
	for _, s := range b.Stock() {
		if s.Component == c.ID {
			stock = append(stock, FromStock{Stock: s, Left: Exact(s.Amount), Wasted: s.UseBy.Before(draws[0].Until)})
		}
	}
	slices.SortStableFunc(stock, func(x, y FromStock) int { return x.Stock.UseBy.Compare(y.Stock.UseBy) })
	ahead := len(c.InPhase(kitchen.Ahead)) > 0 || len(c.Ingredients) > 0
	yield, shelf := Exact(c.BatchYield), time.Duration(c.ShelfLifeH*float64(time.Hour))
	most := spare(c)
	first := len(a.Batches)
	for _, d := range draws {
		index := len(a.Draws)
		a.Draws = append(a.Draws, d)
		left := new(big.Rat).Set(d.Amount)
		for i := range stock {
			if left.Sign() > 0 && !stock[i].Stock.UseBy.Before(d.Until) {
				take(left, stock[i].Left, &stock[i].For, index)
			}
		}
		for i := first; i < len(a.Batches) && left.Sign() > 0; i++ {
			x := &a.Batches[i]
			// It is ready at its first need at the latest, and must last to the end of this draw.
			if shelf > 0 && d.Until.Sub(x.NeedBy) > shelf || most > 0 && d.Last.Sub(x.NeedBy) > most {
				continue
			}
			if take(left, x.Left, &x.For, index) {
				x.LastUse, x.LastFire = later(x.LastUse, d.Until), later(x.LastFire, d.Last)
			}
		}
		if left.Sign() > 0 && ahead && yield.Sign() <= 0 {
			a.Problems = append(a.Problems, message.Of("amount.no-yield", "what", c.Name))
			break
		}
		for left.Sign() > 0 && ahead {
			if len(a.Batches)-first == maxBatches {
				a.Problems = append(a.Problems, message.Of("amount.many-batches", "what", c.Name, "most", maxBatches, "yield", c.BatchYield, "unit",
					c.Unit))
				break
			}
			n := 1
			for _, x := range a.Batches[first:] {
				if a.Draws[x.For[0].Draw].Service == d.Service {
					n++
				}
			}
			x := Batch{ID: fmt.Sprintf("%s/%s/%d", c.ID, d.Service, n), Service: d.Service, OfService: n, Component: c.ID, Yield: yield,
				NeedBy: d.At, LastUse: d.Until, LastFire: d.Last}
			if gave, ok := a.made[x.ID]; ok && gave > 0 {
				x.Yield = Exact(gave)
			}
			x.Left = new(big.Rat).Set(x.Yield)
			take(left, x.Left, &x.For, index)
			a.Batches = append(a.Batches, x)
		}
	}
	a.Stock = append(a.Stock, stock...)
	made := a.Batches[first:]
	for i := range made {
		made[i].Number, made[i].Of = i+1, len(made)
		made[i].Portions = a.portions(&made[i])
	}
	if c.UsedToOrder() {
		return toOrder(c, draws)
	}
	return a.inside(c, made, span)
}

// toOrder is what something that is made to order from nothing takes of other components: for each portion, or of a batch
// where it says what one gives; there when the first is fired.
func toOrder(c *kitchen.Component, draws []Draw) []Draw {
	var out []Draw
	for _, d := range draws {
		batches := big.NewRat(int64(d.Portions), 1)
		if yield := Exact(c.BatchYield); yield.Sign() > 0 {
			batches = new(big.Rat).Quo(d.Amount, yield)
		}
		for _, u := range c.Uses {
			out = append(out, Draw{Component: u.Component, Service: d.Service, By: c.ID, At: d.At, Until: d.Until, Last: d.Last,
				Portions: d.Portions,
				Amount:   new(big.Rat).Mul(Exact(u.Amount), batches)})
		}
	}
	return out
}

// inside is what a component's batches draw of other components: there when the batch
// begins.
func (a *Amounts) inside(c *kitchen.Component, made []Batch, span func(*kitchen.Component) time.Duration) []Draw {
	var out []Draw
	for i := range made {
		at := made[i].NeedBy.Add(-span(c))
		service := a.Draws[made[i].For[0].Draw].Service
		for _, u := range c.Uses {
			out = append(out, Draw{Component: u.Component, Service: service, By: c.ID, ByBatch: made[i].Number, At: at, Until: at, Last: at,
				Portions: made[i].Portions, Amount: Exact(u.Amount)})
		}
	}
	return out
}

// take moves as much as there is from a supply to what is still wanted.
func take(wanted, supply *big.Rat, into *[]Part, draw int) bool {
	if supply.Sign() <= 0 {
		return false
	}
	n := new(big.Rat).Set(wanted)
	if supply.Cmp(n) < 0 {
		n.Set(supply)
	}
	wanted.Sub(wanted, n)
	supply.Sub(supply, n)
	*into = append(*into, Part{draw, n})
	return true
}

func later(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}

// portions is how many plates a batch serves: each draw's plates in proportion to what
// it takes, rounded up.
func (a *Amounts) portions(x *Batch) int {
	sum := new(big.Rat)
	for _, p := range x.For {
		d := &a.Draws[p.Draw]
		n := new(big.Rat).Mul(big.NewRat(int64(d.Portions), 1), p.Amount)
		sum.Add(sum, n.Quo(n, d.Amount))
	}
	return max(1, int(Whole(sum)))
}

// shop adds up the ingredients of all batches before trim, and the by-products that they
// leave over for others.
func (a *Amounts) shop(b *kitchen.Book) {
	type key struct{ name, unit, section string }
	index := map[key]int{}
	credit := map[[2]string]int{}
	for _, x := range a.Batches {
		c, _ := b.Component(x.Component)
		for _, g := range c.Ingredients {
			k := key{g.Name, g.Unit, c.Section}
			i, ok := index[k]
			if !ok {
				i = len(a.Ingredients)
				index[k] = i
				a.Ingredients = append(a.Ingredients, Ingredient{Name: g.Name, Unit: g.Unit, Section: c.Section, Amount: new(big.Rat),
					Trim: new(big.Rat), Allergen: g.Allergens})
			}
			in := &a.Ingredients[i]
			in.Amount.Add(in.Amount, Exact(g.Amount))
			in.Trim.Add(in.Trim, PerHundred(Exact(g.Amount), Exact(g.TrimPercent)))
			if !slices.Contains(in.For, c.ID) {
				in.For = append(in.For, c.ID)
			}
		}
		for _, p := range c.ByProducts {
			k := [2]string{c.ID, p.Component}
			i, ok := credit[k]
			if !ok {
				i = len(a.Credits)
				credit[k] = i
				a.Credits = append(a.Credits, Credit{From: c.ID, To: p.Component, Grams: new(big.Rat)})
			}
			a.Credits[i].Grams.Add(a.Credits[i].Grams, Exact(p.Grams))
		}
	}
}

// Balance is where the mass of one batch goes, grams: In = Trim + Out + Leavings + Loss.
// Loss is what evaporates and sticks.
type Balance struct {
	In, Trim, Out, Leavings, Loss *big.Rat
	// Whole is false when an ingredient is counted in pieces or an unknown unit: then In
	// is not all that goes in, and Loss says nothing.
	Whole bool
}

// BalanceOf weighs one batch of a component: what goes in, and what comes of it.
func BalanceOf(b *kitchen.Book, c *kitchen.Component) Balance {
	m := Balance{new(big.Rat), new(big.Rat), new(big.Rat), new(big.Rat), new(big.Rat), true}
	for _, g := range c.Ingredients {
		// Bought by volume it is weighed as water: nobody says the density of what is bought.
		grams, err := Convert(Exact(g.Amount), g.Unit, "g", big.NewRat(1, 1))
		if err != nil {
			m.Whole = false
			continue
		}
		m.In.Add(m.In, grams)
		m.Trim.Add(m.Trim, PerHundred(grams, Exact(g.TrimPercent)))
	}
	for _, u := range c.Uses {
		other, _ := b.Component(u.Component)
		m.In.Add(m.In, new(big.Rat).Mul(Exact(u.Amount), Exact(other.GramsPerUnit)))
	}
	m.Out.Mul(Exact(c.BatchYield), Exact(c.GramsPerUnit))
	for _, p := range c.ByProducts {
		m.Leavings.Add(m.Leavings, Exact(p.Grams))
	}
	m.Loss.Sub(m.In, m.Trim)
	m.Loss.Sub(m.Loss, m.Out)
	m.Loss.Sub(m.Loss, m.Leavings)
	return m
}
