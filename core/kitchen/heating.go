package kitchen

import (
	"errors"
	"math"
	"slices"
	"strings"
	"sync"

	"jointime/core/heat"
	"jointime/core/message"
)

// Piece is what a step heats, or cools, until its core is at a temperature: from its size the step's time follows.
type Piece struct {
	Shape   heat.Shape `json:"shape" enum:"slab,cylinder,sphere,ellipsoid"`
	Mm      float64    `json:"mm,omitempty" doc:"Thickness or diameter, its smallest size; from the weight when missing"`
	Grams   float64    `json:"grams,omitempty"`
	Food    heat.Food  `json:"food" enum:"meat,fish,root,egg,dough,liquid"`
	StartC  float64    `json:"start_c"`
	TargetC float64    `json:"target_c" doc:"Of its core"`
	MediumC *float64   `json:"medium_c,omitempty" doc:"What it is heated in, where the step's setpoint does not say it"`
	// Typed says that somebody typed the step's time: the size does not set it.
	Typed bool `json:"typed,omitempty" doc:"The step's time was typed, and stays"`
	// Factor is how much longer than computed it takes in this kitchen, from Observed probes.
	Factor   float64 `json:"factor,omitempty" doc:"How much longer than computed it takes here; 1 where nothing was observed"`
	Observed int     `json:"observed,omitempty" doc:"Probes that the factor comes from"`
}

// media are what kinds of equipment heat or cool in, and how hot that usually is where no setpoint says it; common practice, no source.
var media = map[EquipmentKind]struct {
	medium heat.Medium
	c      float64
}{WaterBath: {heat.Bath, 0}, Oven: {heat.FanOven, 0}, Steamer: {heat.Steam, 100}, Burner: {heat.Pan, 180}, Fryer: {heat.Fat, 175},
	Grill: {heat.Grill, 250}, Salamander: {heat.Grill, 250}, Plancha: {heat.Pan, 200}, Fridge: {heat.Fridge, 4}, Freezer: {heat.Fridge, -18},
	BlastChiller: {heat.Chiller, 1}, Holding: {heat.Cupboard, 65}}

// usualOven is how hot an oven is of which nobody said it: common practice, no source.
const usualOven = 180.0

// errNoHeat says that a step heats nothing.
var errNoHeat = errors.New("nothing says what it is heated in")

// medium is what a step heats in, and how hot. An oven is one with a fan where any that it may use has one.
func (b *Book) medium(s *Step) (heat.Medium, float64, error) {
	if s.Equipment == nil {
		return "", 0, errNoHeat
	}
	m, ok := media[s.Equipment.Kind]
	if !ok {
		return "", 0, errNoHeat
	}
	switch {
	case s.Equipment.Kind == Oven && b.stillOvens():
		m.medium = heat.Oven
	case s.Equipment.Kind == Burner &&
		slices.ContainsFunc(waterVerbs, func(w string) bool { return strings.Contains(spacedWords(s.Name), w) }):
		m.medium, m.c = heat.Boiling, 100
	}
	switch {
	case s.Piece != nil && s.Piece.MediumC != nil:
		m.c = *s.Piece.MediumC
	case s.Equipment.SetpointC != nil:
		m.c = *s.Equipment.SetpointC
	case s.Equipment.Kind == Oven:
		m.c = usualOven
	case m.c == 0:
		return "", 0, errNoHeat
	}
	return m.medium, m.c, nil
}

// stillOvens reports whether every oven of the house is one without a fan.
func (b *Book) stillOvens() bool {
	still, any := true, false
	for i := range b.data.Equipment {
		if e := &b.data.Equipment[i]; e.Kind == Oven {
			any = true
			still = still && e.Still
		}
	}
	return any && still
}

// recovers is the longest that equipment of a kind takes until it is hot again after the door, seconds.
func (b *Book) recovers(k EquipmentKind) (s int) {
	for i := range b.data.Equipment {
		if e := &b.data.Equipment[i]; e.Kind == k {
			s = max(s, e.RecoverS)
		}
	}
	return s
}

// Heated is a step's piece as it is computed. The error says that nothing heats it.
func (b *Book) Heated(s *Step) (heat.Piece, error) {
	medium, c, err := b.medium(s)
	if err != nil {
		return heat.Piece{}, err
	}
	p := s.Piece
	if p == nil {
		return heat.Piece{}, errNoHeat
	}
	return heat.Piece{Shape: p.Shape, Mm: p.Mm, Grams: p.Grams, Food: p.Food, StartC: p.StartC, TargetC: p.TargetC, Medium: medium,
		MediumC: c}, nil
}

// OvenSaid is an oven's heat in the habits of other ovens: with a fan or without, in °F, by gas mark. Nil for a step that is not in an
// oven, or whose heat nobody said.
func (b *Book) OvenSaid(s *Step) *message.Message {
	if s.Equipment == nil || s.Equipment.Kind != Oven || s.Equipment.SetpointC == nil {
		return nil
	}
	c := *s.Equipment.SetpointC
	still, fan := c, c-heat.FanLess
	if !b.stillOvens() {
		still, fan = c+heat.FanLess, c
	}
	m := message.Of("heat.oven", "fan", fan, "still", still, "fahrenheit", math.Round(heat.ToF(still)/5)*5)
	if mark, ok := heat.ToGas(still); ok {
		m = message.Of("heat.oven-gas", "fan", fan, "still", still, "fahrenheit", math.Round(heat.ToF(still)/5)*5, "mark", mark)
	}
	return &m
}

// Heating is what a step's size amounts to.
type Heating struct {
	Time    Estimate        `json:"time" doc:"Seconds: from ± 10 % of the thickness and the ranges of what is not known better"`
	OutC    float64         `json:"out_c,omitempty" doc:"Take it out when the core is at this: it goes on rising"`
	RiseC   float64         `json:"rise_c,omitempty"`
	Sets    bool            `json:"sets" doc:"The step's time follows from it"`
	Said    message.Message `json:"said" doc:"How it was computed, or why it was not"`
	Problem bool            `json:"problem" doc:"It was not computed"`
}

// thickRise is from which rise on the core a step is taken out sooner for it, °C.
const thickRise = 0.5

// Heating computes what a step's piece amounts to; nil for a step without one.
func (b *Book) Heating(s *Step) *Heating {
	if s.Piece == nil {
		return nil
	}
	p, err := b.Heated(s)
	var t heat.Times
	if err == nil {
		t, err = p.Time()
	}
	if err != nil {
		return &Heating{Said: NotComputed(err), Problem: true}
	}
	out := &Heating{Sets: !s.Piece.Typed}
	f, rest := 1.0, float64(b.recovers(s.Equipment.Kind))/2 // half of what it recovers is lost
	if s.Piece.Factor > 0 {
		f = s.Piece.Factor
	}
	whole := func(s float64) int { return int(math.Round((s*f+rest)/5)) * 5 }
	out.Time = Estimate{whole(t.Low), whole(t.Likely), whole(t.High)}
	if p.MediumC > p.TargetC && p.Medium != heat.Bath && p.Medium != heat.Pan && p.Medium != heat.Boiling {
		if d, err := p.TakeOut(heat.Foil, kitchenC); err == nil && d.RiseC >= thickRise {
			out.OutC, out.RiseC = math.Round(d.OutC), math.Round(d.RiseC)
		}
	}
	mm, c := math.Round(p.Thickness()), p.MediumC
	out.Said = message.Of("heat.said", "what", shapesSaid[p.Shape], "food", string(p.Food), "mm", mm, "start", p.StartC, "medium",
		mediaSaid[p.Medium],
		"celsius", c, "target", p.TargetC)
	if s.Piece.Observed > 0 {
		out.Said = message.Of("heat.said-observed", "said", out.Said, "factor", math.Round(f*100)/100, "observed", s.Piece.Observed)
	}
	return out
}

// kitchenC is how warm a kitchen is, °C: common practice, no source.
const kitchenC = 25.0

// NotComputed says why a piece was not computed.
func NotComputed(err error) message.Message {
	switch {
	case errors.Is(err, heat.ErrSize):
		return message.Of("heat.size")
	case errors.Is(err, heat.ErrWeight):
		return message.Of("heat.weight")
	case errors.Is(err, heat.ErrRange):
		return message.Of("heat.range")
	case errors.Is(err, heat.ErrBeyond):
		return message.Of("heat.beyond")
	case errors.Is(err, heat.ErrKind):
		return message.Of("heat.kind")
	default:
		return message.Of("heat.no-medium")
	}
}

// shapesSaid and mediaSaid are a piece's shape and what it is heated in, in words.
var (
	shapesSaid = map[heat.Shape]message.Message{heat.Slab: message.Of("heat.slab"), heat.Cylinder: message.Of("heat.cylinder"),
		heat.Sphere: message.Of("heat.sphere"), heat.Ellipsoid: message.Of("heat.ellipsoid")}
	mediaSaid = map[heat.Medium]message.Message{heat.Fridge: message.Of("heat.in-fridge"), heat.Bath: message.Of("heat.in-bath"),
		heat.Oven: message.Of("heat.in-still-oven"), heat.FanOven: message.Of("heat.in-fan-oven"), heat.Steam: message.Of("heat.in-steam"),
		heat.Pan: message.Of("heat.in-pan"), heat.Fat: message.Of("heat.in-fat"), heat.Boiling: message.Of("heat.in-water"),
		heat.Grill: message.Of("heat.on-grill"), heat.Chiller: message.Of("heat.in-chiller"), heat.Cupboard: message.Of("heat.in-cupboard")}
)

// SetTimes sets the times that follow from sizes: of each step with a piece whose time was not typed, and of its guests' wishes with a
// core or a size of their own. A time that was changed beside the same piece was typed. What cannot be computed stays as it is.
func (b *Book) SetTimes(was, c *Component) {
	for i := range c.Steps {
		s := &c.Steps[i]
		if s.Piece == nil {
			continue
		}
		if k := was.StepIndex(s.ID); k >= 0 && was.Steps[k].Piece != nil && s.Time != (StepTime{}) && was.Steps[k].Time != s.Time &&
			samePiece(was.Steps[k].Piece, s.Piece) {
			s.Piece.Typed = true
		}
		h := b.Heating(s)
		if h.Problem {
			continue
		}
		if !s.Piece.Typed {
			s.Time = StepTime{Fixed: h.Time}
		}
		for k := range s.Doneness {
			d := &s.Doneness[k]
			if d.TargetC == nil && d.Mm == 0 {
				continue
			}
			wish := *s
			piece := *s.Piece
			wish.Piece = &piece
			if d.TargetC != nil {
				piece.TargetC = *d.TargetC
			}
			if d.Mm > 0 {
				piece.Mm = d.Mm
			}
			if other := b.Heating(&wish); !other.Problem {
				d.Seconds = other.Time.Likely - h.Time.Likely
			}
		}
	}
}

// Observe takes what one more probe said of how much longer than computed a piece takes: the mean of all, by their logarithms, since a
// factor of two is as far from one as a half.
func (p *Piece) Observe(factor float64) {
	n := float64(p.Observed)
	f := 1.0
	if p.Factor > 0 {
		f = p.Factor
	}
	p.Factor = math.Exp((n*math.Log(f) + math.Log(factor)) / (n + 1))
	p.Observed++
}

// UsualPiece is what a step of a component is taken to heat until somebody says more: a flat piece of 25 mm out of the fridge, of fish
// where its words say so, to the core that its check names. Common practice, no source.
func (c *Component) UsualPiece(s *Step) Piece {
	p := Piece{Shape: heat.Slab, Mm: 25, Food: c.foodOf(s), StartC: 5, TargetC: 54}
	switch p.Food {
	case heat.FishFood:
		p.TargetC = 50
	case heat.RootFood, heat.DoughRaw:
		p.Shape, p.Mm, p.StartC, p.TargetC = heat.Cylinder, 50, 18, 95
	case heat.EggFood:
		p.Shape, p.Mm, p.StartC, p.TargetC = heat.Sphere, 43, 18, 64
	case heat.Liquid:
		p.Mm, p.StartC, p.TargetC = 60, 85, 8
	}
	for _, k := range s.Checks {
		if k.TargetC != nil {
			p.TargetC = *k.TargetC
		}
	}
	if s.Equipment != nil && s.Equipment.Kind.Chills() && p.TargetC > 8 {
		p.StartC, p.TargetC = 85, 8
	}
	return p
}

// foodWords tell what a thing is made of; common practice, no source.
var foodWords = []struct {
	food  heat.Food
	words []string
}{
	{heat.Liquid, []string{"sauce", "stock", "broth", "soup", "jus", "gravy", "purée", "puree", "glaze", "syrup", "cream"}},
	{heat.DoughRaw, []string{"dough", "bread", "cake", "sponge", "batter", "pastry", "loaf", "pudding", "tart"}},
	{heat.RootFood, []string{"carrot", "carrots", "beet", "beets", "beetroot", "celeriac", "potato", "potatoes", "turnip", "turnips",
		"parsnip", "parsnips", "swede", "onion", "onions", "apple", "apples", "leek", "leeks", "root", "roots"}},
	{heat.EggFood, []string{"egg", "eggs", "yolk", "yolks"}},
	{heat.FishFood, []string{"salmon", "trout", "tuna", "mackerel", "haddock", "herring", "scallop", "scallops", "prawn", "prawns",
		"lobster", "crab", "eel", "skate", "sole"}},
}

func (c *Component) foodOf(s *Step) heat.Food {
	if u := c.UsualOf(); u != nil && (u.Kind == "fish" || u.Kind == "scallop") || slices.ContainsFunc(c.Allergens,
		func(a Allergen) bool { return a == "fish" }) {
		return heat.FishFood
	}
	for _, text := range []string{c.Name, s.Name} {
		for _, w := range foodWords {
			if WordIn(text, w.words) != "" {
				return w.food
			}
		}
	}
	return heat.MeatFood
}

func samePiece(a, b *Piece) bool {
	x, y := *a, *b
	if (x.MediumC == nil) != (y.MediumC == nil) || x.MediumC != nil && *x.MediumC != *y.MediumC {
		return false
	}
	x.MediumC, y.MediumC = nil, nil
	return x == y
}

// hotKey is what decides how long something stays hot; hotMemo what was computed for it: waits are asked for often.
type hotKey struct {
	shape     heat.Shape
	food      heat.Food
	mm, g     float64
	from, too float64
}

var hotMemo sync.Map

// hotFor is how long something with a core of its own stays above a temperature in still air, in seconds; ok is false where that is not
// known.
func (s *Step) hotFor(c float64) (int, bool) {
	if s.Piece == nil {
		return 0, false
	}
	p := heat.Piece{Shape: s.Piece.Shape, Mm: s.Piece.Mm, Grams: s.Piece.Grams, Food: s.Piece.Food, StartC: s.Piece.TargetC, TargetC: c,
		Medium:  heat.Bench,
		MediumC: kitchenC}
	key := hotKey{p.Shape, p.Food, p.Mm, p.Grams, p.StartC, c}
	if known, ok := hotMemo.Load(key); ok {
		return known.(int), known.(int) > 0 //nolint:forcetypeassert // only ints are put in
	}
	t, err := p.Time()
	if err != nil {
		t.Likely = 0
	}
	hotMemo.Store(key, int(t.Likely))
	return int(t.Likely), err == nil
}

func checkPiece(f finder, p *Piece) {
	if p == nil {
		return
	}
	oneOf(f.at("shape"), p.Shape, heat.Shapes())
	oneOf(f.at("food"), p.Food, heat.Foods())
	if p.Mm != 0 || p.Grams == 0 {
		within(f.at("mm"), p.Mm, heat.LeastMm, heat.MostMm)
	}
	if p.Grams != 0 {
		within(f.at("grams"), p.Grams, heat.LeastG, heat.MostG)
	}
	within(f.at("start_c"), p.StartC, heat.ColdestC, heat.HotestC)
	within(f.at("target_c"), p.TargetC, heat.ColdestC, heat.HotestC)
	if p.MediumC != nil {
		within(f.at("medium_c"), *p.MediumC, heat.ColdestC, heat.HotestC)
	}
	if p.Factor != 0 {
		within(f.at("factor"), p.Factor, 0.2, 5)
	}
}
