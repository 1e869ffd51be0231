package kitchen

import (
	"cmp"
	"jointime/core/message"
	"slices"
)

// Component is one separately made part of a dish: a purée, a roast, a crisp.
type Component struct {
	ID      string `json:"id"`
	Name    string `json:"name" maxLength:"120"`
	Section string `json:"section" doc:"The section that makes it"`
	// Unit is what its amounts are counted in; GramsPerUnit makes grams of them.
	Unit          Unit         `json:"unit" enum:"g,ml,piece,spoon"`
	GramsPerUnit  float64      `json:"grams_per_unit" doc:"Grams in one unit; 1 for g"`
	DensityGPerMl float64      `json:"density_g_per_ml" doc:"Grams in a millilitre, as it lies on the plate"`
	BatchYield    float64      `json:"batch_yield" doc:"Units that one make-ahead batch gives; 0 when made to order"`
	ShelfLifeH    float64      `json:"shelf_life_h" doc:"Hours that the made-ahead product keeps; 0 when made to order"`
	Store         Place        `json:"store,omitempty" doc:"Where the made-ahead product waits"`
	Colour        string       `json:"colour" doc:"Its colour on the plate, #rrggbb"`
	Allergens     []Allergen   `json:"allergens" nullable:"false"`
	Ingredients   []Ingredient `json:"ingredients" nullable:"false"`
	// Uses are components that go into this one.
	Uses []Use `json:"uses" nullable:"false"`
	// ByProducts of its making that others use.
	ByProducts []ByProduct `json:"by_products" nullable:"false"`
	Steps      []Step      `json:"steps" nullable:"false"`
	// Hold is the wait from the end of the last step (or from the store) to its
	// moment in the plating sequence: a rest, a hold, or nothing.
	Hold Wait `json:"hold"`
	// Archived components are kept for what was made with them, and not offered any more.
	Archived bool `json:"archived,omitempty"`
}

// Unit of an amount.
type Unit string

// The units in which chefs measure a component.
const (
	Grams       Unit = "g"
	Millilitres Unit = "ml"
	Pieces      Unit = "piece"
	Spoons      Unit = "spoon"
)

var units = []Unit{Grams, Millilitres, Pieces, Spoons}

// Place is where something waits.
type Place string

// The places.
const (
	OnBench Place = "bench"
	Hot     Place = "hot"
	Chilled Place = "chilled"
	Frozen  Place = "frozen"
	Dry     Place = "dry"
)

var places = []Place{OnBench, Hot, Chilled, Frozen, Dry}

// Ingredient is what is bought, as it goes into one batch.
type Ingredient struct {
	Name        string     `json:"name" maxLength:"120"`
	Amount      float64    `json:"amount" doc:"Per batch, before trim"`
	Unit        string     `json:"unit" maxLength:"20"`
	TrimPercent float64    `json:"trim_percent" doc:"Share that is trimmed away, 0 to 95"`
	Allergens   []Allergen `json:"allergens" nullable:"false"`
}

// Use says how much of another component goes into one batch.
type Use struct {
	Component string  `json:"component"`
	Amount    float64 `json:"amount" doc:"In the other component's unit, per batch"`
}

// ByProduct is left over by one batch and goes into another component.
type ByProduct struct {
	Component string  `json:"component"`
	Grams     float64 `json:"grams"`
}

// Phase says on which side of the cut a step lies.
type Phase string

// Ahead is before the point where the component waits for an order, PickUp after.
const (
	Ahead  Phase = "ahead"
	PickUp Phase = "pick-up"
)

// Hands says how much of a cook a step takes.
type Hands string

// Both takes a cook whole, Tend a quarter (a look and a stir now and then), None
// nothing.
const (
	Both Hands = "both"
	Tend Hands = "tend"
	None Hands = "none"
)

// Attention is the share of one cook in quarters, the unit of the workload file.
func (h Hands) Attention() int {
	switch h {
	case Both:
		return 4
	case Tend:
		return 1
	default:
		return 0
	}
}

// Step is one thing done to a component.
type Step struct {
	ID    string `json:"id"`
	Name  string `json:"name" maxLength:"120"`
	Phase Phase  `json:"phase" enum:"ahead,pick-up"`
	Hands Hands  `json:"hands" enum:"both,tend,none"`
	// Section, when it is not the component's own.
	Section   string         `json:"section,omitempty"`
	Equipment *EquipmentNeed `json:"equipment,omitempty"`
	Time      StepTime       `json:"time"`
	Batch     *BatchLimit    `json:"batch,omitempty"`
	After     []Predecessor  `json:"after" nullable:"false"`
	Checks    []DoneCheck    `json:"checks" nullable:"false"`
	Dangers   []Danger       `json:"dangers" nullable:"false"`
	Doneness  []Doneness     `json:"doneness" nullable:"false"`
	PutsIn    []string       `json:"puts_in" nullable:"false" doc:"What goes in and must come out before the plate"`
	TakesOut  []string       `json:"takes_out" nullable:"false"`
}

// EquipmentNeed is what one batch takes.
type EquipmentNeed struct {
	Kind      EquipmentKind `json:"kind"`
	Units     int           `json:"units" doc:"Units of room that one batch takes"`
	SetpointC *float64      `json:"setpoint_c,omitempty" doc:"°C"`
	// PreheatS is how long the empty pan or grate is heated before a batch goes in. What
	// has a thermostat is heated by that, and needs no entry here.
	PreheatS int `json:"preheat_s,omitempty" doc:"Seconds that the empty pan is heated before"`
}

// Estimate is a three-point time in seconds.
type Estimate struct {
	Low    int `json:"low"`
	Likely int `json:"likely"`
	High   int `json:"high"`
}

// Exactly is an estimate without spread.
func Exactly(seconds int) Estimate { return Estimate{seconds, seconds, seconds} }

// StepTime is a fixed part per batch and a part per portion in it.
type StepTime struct {
	Fixed      Estimate `json:"fixed"`
	PerPortion Estimate `json:"per_portion"`
}

// For is the time of one batch of n portions.
func (t StepTime) For(n int) Estimate {
	return Estimate{t.Fixed.Low + n*t.PerPortion.Low, t.Fixed.Likely + n*t.PerPortion.Likely, t.Fixed.High + n*t.PerPortion.High}
}

// WithLikely returns t with its fixed part changed so that a batch of n portions
// takes seconds; low and high keep their proportion to the likely time. It is an
// error when the portions alone take longer.
func (t StepTime) WithLikely(seconds, n int) (StepTime, error) {
	fixed := seconds - n*t.PerPortion.Likely
	if fixed < 0 {
		return t, message.Fail("fault.portions-take", "portions", n, "seconds", n*t.PerPortion.Likely, "got", seconds)
	}
	old := t.Fixed
	t.Fixed = Estimate{scale(old.Low, fixed, old.Likely), fixed, scale(old.High, fixed, old.Likely)}
	return t, nil
}

// scale is v·to/from, rounded; without a from there is no proportion to keep.
func scale(v, to, from int) int {
	if from == 0 {
		return to
	}
	return (2*v*to + from) / (2 * from)
}

// BatchLimit is what one pan, tray or basket takes, and how several run.
type BatchLimit struct {
	Portions int      `json:"portions"`
	Run      BatchRun `json:"run" enum:"side-by-side,in-turn"`
}

// BatchRun says whether batches use more equipment at once or follow each other.
type BatchRun string

// The two ways in which batches run.
const (
	SideBySide BatchRun = "side-by-side"
	InTurn     BatchRun = "in-turn"
)

// Split divides n portions into as few batches as the limit allows, as even as
// they can be, the larger ones first.
func (b *BatchLimit) Split(n int) []int {
	if b == nil || b.Portions <= 0 || n <= b.Portions {
		return []int{n}
	}
	k := (n + b.Portions - 1) / b.Portions
	out := make([]int, k)
	for i := range out {
		out[i] = n / k
		if i < n%k {
			out[i]++
		}
	}
	return out
}

// Wait has a shortest, a best and a longest; seconds. Best and Longest nil mean
// that waiting costs nothing and has no end.
type Wait struct {
	Shortest int   `json:"shortest"`
	Best     *int  `json:"best,omitempty"`
	Longest  *int  `json:"longest,omitempty"`
	Place    Place `json:"place,omitempty"`
}

// Predecessor is a step that must be done before, and the wait between.
type Predecessor struct {
	Step string `json:"step"`
	Wait
}

// DoneCheck is how a cook knows that a step is done.
type DoneCheck struct {
	Kind    CheckKind `json:"kind" enum:"core,look,touch,taste,weight"`
	TargetC *float64  `json:"target_c,omitempty" doc:"For a core temperature, °C"`
	Say     string    `json:"say,omitempty" maxLength:"200"`
}

// CheckKind is a way of checking.
type CheckKind string

var checkKinds = []CheckKind{"core", "look", "touch", "taste", "weight"}

// Danger is something that can hurt a cook or a guest in a step.
type Danger string

// Dangers lists every danger, in the order in which they are offered.
func Dangers() []Danger { return slices.Clone(dangers) }

var dangers = []Danger{"hot-fat", "steam", "caramel", "flame", "blade", "heavy-tray", "fumes", "raw-egg", "raw-fish",
	"raw-meat", "raw-poultry", "shellfish", "cooling", "reheating", "hot-holding"}

// Doneness is a variant of a step: a guest's wish that makes it longer or shorter.
type Doneness struct {
	Name    string `json:"name" maxLength:"60"`
	Seconds int    `json:"seconds" doc:"More (or, negative, less) than as written"`
}

// maxSeconds bounds a single time: sixty days.
const maxSeconds = 60 * 24 * 3600

func checkEstimate(f finder, e Estimate) {
	within(f.at("low"), e.Low, 0, maxSeconds)
	within(f.at("likely"), e.Likely, 0, maxSeconds)
	within(f.at("high"), e.High, 0, maxSeconds)
	if e.Low > e.Likely {
		f.at("low").say("fault.over-likely", "likely", e.Likely, "got", e.Low)
	}
	if e.Likely > e.High {
		f.at("high").say("fault.under-likely", "likely", e.Likely, "got", e.High)
	}
}

func checkWait(f finder, w Wait) {
	within(f.at("shortest"), w.Shortest, 0, maxSeconds)
	if w.Best != nil {
		within(f.at("best"), *w.Best, 0, maxSeconds)
		if *w.Best < w.Shortest {
			f.at("best").say("fault.under-shortest", "shortest", w.Shortest, "got", *w.Best)
		}
	}
	if w.Longest != nil {
		within(f.at("longest"), *w.Longest, 0, maxSeconds)
		least := w.Shortest
		if w.Best != nil {
			least = max(least, *w.Best)
		}
		if *w.Longest < least {
			f.at("longest").say("fault.longest", "least", least, "got", *w.Longest)
		}
	}
	if w.Place != "" {
		oneOf(f.at("place"), w.Place, places)
	}
}

// CheckComponent returns what is wrong with one component by itself; what it
// refers to is checked by NewBook.
func CheckComponent(c Component) Faults {
	f := newFinder()
	f.at("id").id(c.ID)
	f.at("name").name(c.Name)
	oneOf(f.at("unit"), c.Unit, units)
	within(f.at("grams_per_unit"), c.GramsPerUnit, 0.001, 20000)
	within(f.at("density_g_per_ml"), c.DensityGPerMl, 0.02, 3)
	within(f.at("batch_yield"), c.BatchYield, 0, 1e6)
	within(f.at("shelf_life_h"), c.ShelfLifeH, 0, 24*365)
	if c.Store != "" {
		oneOf(f.at("store"), c.Store, places)
	}
	checkColour(f.at("colour"), c.Colour)
	checkAllergens(f.at("allergens"), c.Allergens)
	for i, g := range c.Ingredients {
		h := f.at("ingredients[%d]", i)
		h.at("name").name(g.Name)
		within(h.at("amount"), g.Amount, 0.0001, 1e6)
		within(h.at("trim_percent"), g.TrimPercent, 0, 95)
		checkAllergens(h.at("allergens"), g.Allergens)
	}
	for i, u := range c.Uses {
		within(f.at("uses[%d].amount", i), u.Amount, 0.0001, 1e6)
	}
	for i, b := range c.ByProducts {
		within(f.at("by_products[%d].grams", i), b.Grams, 0.0001, 1e6)
	}
	checkWait(f.at("hold"), c.Hold)
	if len(c.Steps) > 200 {
		f.at("steps").say("fault.steps", "most", 200, "got", len(c.Steps))
		return *f.faults
	}
	byID := map[string]int{}
	for i, s := range c.Steps {
		g := f.at("steps[%d]", i)
		g.at("id").id(s.ID)
		if first, twice := byID[s.ID]; twice {
			g.at("id").say("fault.step-twice", "other", first)
		}
		byID[s.ID] = i
		checkStep(g, s)
	}
	for i, s := range c.Steps {
		for k, a := range s.After {
			g := f.at("steps[%d].after[%d]", i, k)
			j, known := byID[a.Step]
			switch {
			case !known:
				g.at("step").say("fault.no-step", "id", short(a.Step))
			case c.Steps[j].Phase == PickUp && s.Phase == Ahead:
				g.at("step").say("fault.ahead-after-order", "step", s.Name, "other", c.Steps[j].Name)
			}
		}
	}
	if len(*f.faults) == 0 {
		if loop := stepCycle(c.Steps); loop != "" {
			f.at("steps").say("fault.step-circle", "steps", loop)
		}
	}
	return *f.faults
}

func checkStep(g finder, s Step) {
	g.at("name").name(s.Name)
	oneOf(g.at("phase"), s.Phase, []Phase{Ahead, PickUp})
	oneOf(g.at("hands"), s.Hands, []Hands{Both, Tend, None})
	checkEstimate(g.at("time.fixed"), s.Time.Fixed)
	checkEstimate(g.at("time.per_portion"), s.Time.PerPortion)
	if e := s.Equipment; e != nil {
		oneOf(g.at("equipment.kind"), e.Kind, equipmentKinds)
		within(g.at("equipment.units"), e.Units, 1, 10000)
		within(g.at("equipment.preheat_s"), e.PreheatS, 0, 4*3600)
		if e.SetpointC != nil {
			within(g.at("equipment.setpoint_c"), *e.SetpointC, -60, 600)
		}
	}
	if b := s.Batch; b != nil {
		within(g.at("batch.portions"), b.Portions, 1, 10000)
		oneOf(g.at("batch.run"), b.Run, []BatchRun{SideBySide, InTurn})
	}
	for k, a := range s.After {
		checkWait(g.at("after[%d]", k), a.Wait)
	}
	for k, c := range s.Checks {
		oneOf(g.at("checks[%d].kind", k), c.Kind, checkKinds)
		if c.TargetC != nil {
			within(g.at("checks[%d].target_c", k), *c.TargetC, -60, 300)
		}
	}
	for k, d := range s.Dangers {
		oneOf(g.at("dangers[%d]", k), d, dangers)
	}
	for k, d := range s.Doneness {
		g.at("doneness[%d].name", k).name(d.Name)
		within(g.at("doneness[%d].seconds", k), d.Seconds, -s.Time.Fixed.Low, maxSeconds)
	}
}

// stepCycle returns a circle of steps in words, or "" when there is none.
func stepCycle(steps []Step) string {
	after := map[string][]string{}
	for _, s := range steps {
		for _, a := range s.After {
			after[s.ID] = append(after[s.ID], a.Step)
		}
	}
	ids := make([]string, len(steps))
	for i, s := range steps {
		ids[i] = s.ID
	}
	return cycle(ids, after)
}

// cycle finds a circle in a graph given as successors, by depth-first search.
func cycle(ids []string, next map[string][]string) string {
	const open, done = 1, 2
	mark := map[string]int{}
	var trail []string
	var visit func(string) string
	visit = func(id string) string {
		mark[id] = open
		trail = append(trail, id)
		for _, n := range next[id] {
			if mark[n] == open {
				at := slices.Index(trail, n)
				out := ""
				for _, t := range trail[at:] {
					out += t + " → "
				}
				return out + n
			}
			if mark[n] == 0 {
				if c := visit(n); c != "" {
					return c
				}
			}
		}
		mark[id] = done
		trail = trail[:len(trail)-1]
		return ""
	}
	for _, id := range ids {
		if mark[id] == 0 {
			if c := visit(id); c != "" {
				return c
			}
		}
	}
	return ""
}

// InPhase returns the steps of one phase in an order in which each comes after
// what it waits for; ties go by their place in the list.
func (c *Component) InPhase(p Phase) []Step {
	depth := map[string]int{}
	byID := map[string]*Step{}
	for i := range c.Steps {
		byID[c.Steps[i].ID] = &c.Steps[i]
	}
	var level func(id string) int
	level = func(id string) int {
		if d, ok := depth[id]; ok {
			return d
		}
		d := 0
		for _, a := range byID[id].After {
			d = max(d, level(a.Step)+1)
		}
		depth[id] = d
		return d
	}
	var out []Step
	for i := range c.Steps {
		if c.Steps[i].Phase == p {
			level(c.Steps[i].ID)
			out = append(out, c.Steps[i])
		}
	}
	slices.SortStableFunc(out, func(a, b Step) int { return cmp.Compare(depth[a.ID], depth[b.ID]) })
	return out
}

// SectionOf is the section that does a step.
func (c *Component) SectionOf(s *Step) string {
	if s.Section != "" {
		return s.Section
	}
	return c.Section
}

// Clone returns a copy whose steps and their waits can be changed without touching c.
func (c *Component) Clone() Component {
	out := *c
	out.Steps = slices.Clone(c.Steps)
	for i := range out.Steps {
		out.Steps[i].After = slices.Clone(c.Steps[i].After)
	}
	return out
}

// StepIndex is the place of a step in the list, −1 when there is none.
func (c *Component) StepIndex(id string) int {
	return slices.IndexFunc(c.Steps, func(s Step) bool { return s.ID == id })
}
