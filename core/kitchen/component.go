package kitchen

import (
	"cmp"
	"slices"
	"strings"

	"jointime/core/message"
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
	// Thing is what kind of thing it is, of Usuals; guessed from its name when nobody said.
	Thing string `json:"thing,omitempty" doc:"The kind of thing that it is, for the trade's usual limits; guessed from its name when missing"`
	// Pot, of what stands on the stove and is drawn from all evening.
	Pot *Pot `json:"pot,omitempty"`
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

// Both takes a cook's hands, Tend one of their eyes (a look and a stir now and then), None nothing.
const (
	Both Hands = "both"
	Tend Hands = "tend"
	None Hands = "none"
)

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
	// Ends and Touches are hands within a step that does not take them throughout.
	Ends    Ends    `json:"ends"`
	Touches []Touch `json:"touches,omitempty" nullable:"false"`
	// Same says whether it goes on in the pan, and under the hands, of the step before; guessed when nobody said.
	Same *bool `json:"same,omitempty" doc:"It goes on in the same pan and hands as the step before; guessed when missing"`
	// Away is done away from the stove: whoever does it watches nothing meanwhile.
	Away     bool     `json:"away,omitempty" doc:"Done away from the stove (walk-in, butchery): whoever does it watches nothing"`
	Call     Call     `json:"call,omitempty" enum:"any-time,on-the-call" doc:"Whether it may begin before the call; guessed when missing"`
	PutsIn   []string `json:"puts_in" nullable:"false" doc:"What goes in and must come out before the plate"`
	TakesOut []string `json:"takes_out" nullable:"false"`
}

// EquipmentNeed is what one batch takes.
type EquipmentNeed struct {
	Kind      EquipmentKind `json:"kind"`
	Units     int           `json:"units" doc:"Units of room that one batch takes"`
	SetpointC *float64      `json:"setpoint_c,omitempty" doc:"°C"`
	// SetpointToC makes a range of it: anything from the one to the other will do.
	SetpointToC *float64 `json:"setpoint_to_c,omitempty" doc:"°C; anything from the setpoint to this will do"`
	// PreheatS is how long the empty pan or grate is heated before a batch goes in. What
	// has a thermostat is heated by that, and needs no entry here.
	PreheatS int `json:"preheat_s,omitempty" doc:"Seconds that the empty pan is heated before"`
}

// Range is the heat that it asks for, °C; ok is false when it asks for none.
func (e *EquipmentNeed) Range() (low, high float64, ok bool) {
	if e.SetpointC == nil {
		return 0, 0, false
	}
	low, high = *e.SetpointC, *e.SetpointC
	if e.SetpointToC != nil {
		high = *e.SetpointToC
	}
	return low, high, true
}

// Reached reports whether a thermostat gets to it; what has none is not asked.
func (e *EquipmentNeed) Reached(t *Thermostat) bool {
	low, high, ok := e.Range()
	return !ok || t == nil || high >= t.LowC && low <= t.HighC
}

// Wait has a shortest, a best and a longest; seconds. Best and Longest nil mean
// that waiting costs nothing and has no end.
type Wait struct {
	Shortest int   `json:"shortest"`
	Best     *int  `json:"best,omitempty"`
	Longest  *int  `json:"longest,omitempty"`
	Place    Place `json:"place,omitempty"`
	// NoLimit is somebody's word that it may be as long as it likes.
	NoLimit bool `json:"no_limit,omitempty" doc:"Somebody said that it has no longest"`
	// In is equipment that it takes all the while: an oven at 50 °C, the hot cupboard, the freezer.
	In *EquipmentNeed `json:"in,omitempty" doc:"The equipment that it takes while it waits"`
	// Until is a condition, of which the times are an estimate: cold, set.
	Until string `json:"until,omitempty" maxLength:"60" doc:"What ends it: cold, set; its times are an estimate of that"`
	Kept  string `json:"kept,omitempty" maxLength:"80" doc:"How it is kept: covered, on a rack, in its liquor"`
	Care  *Care  `json:"care,omitempty"`
}

// Care is what something needs while it waits: stirred, topped up.
type Care struct {
	Say     string `json:"say" maxLength:"60"`
	Seconds int    `json:"seconds" doc:"Of both hands"`
	EveryS  int    `json:"every_s"`
}

// How says how something waits, in words: kept how, until what, with what care; nothing where nobody said.
func (w *Wait) How() string {
	var said []message.Message
	if w.Kept != "" {
		said = append(said, message.Of("wait.kept", "how", w.Kept))
	}
	if w.Until != "" {
		said = append(said, message.Of("wait.until", "what", w.Until))
	}
	if c := w.Care; c != nil {
		said = append(said, message.Of("wait.care", "what", c.Say, "long", message.Length(c.Seconds), "every", message.Length(c.EveryS)))
	}
	return strings.Join(message.Texts(said), ", ")
}

// TimesCertain is how often something is cared for while it waits for at least its shortest: when, in seconds from the
// start of the wait. What it may want after that depends on how long it waits.
func (w *Wait) TimesCertain() (at []int) {
	if w.Care == nil || w.Care.EveryS <= 0 {
		return nil
	}
	for t := w.Care.EveryS; t+w.Care.Seconds <= w.Shortest; t += w.Care.EveryS {
		at = append(at, t)
	}
	return at
}

// KeptAhead is how the product that is made ahead waits for its order, in words.
func (c *Component) KeptAhead() string {
	for _, s := range c.InPhase(PickUp) {
		for i := range s.After {
			if k := c.StepIndex(s.After[i].Step); k >= 0 && c.Steps[k].Phase == Ahead {
				return s.After[i].How()
			}
		}
	}
	if len(c.InPhase(PickUp)) == 0 {
		return c.Hold.How()
	}
	return ""
}

// AtOnce reports whether a wait is as short as the work allows.
func (w *Wait) AtOnce() bool { return w.Shortest == 0 && w.Longest != nil && *w.Longest <= AtOnceS }

// Pot is something that is brought up once for many plates, held, topped up, and drawn by the ladle.
type Pot struct {
	HoldsS int            `json:"holds_s" doc:"Seconds that it is good once it has been brought up"`
	TopUp  *Care          `json:"top_up,omitempty"`
	In     *EquipmentNeed `json:"in,omitempty" doc:"What it stands on"`
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
		out.Steps[i].Touches = slices.Clone(c.Steps[i].Touches)
	}
	return out
}

// StepIndex is the place of a step in the list, −1 when there is none.
func (c *Component) StepIndex(id string) int {
	return slices.IndexFunc(c.Steps, func(s Step) bool { return s.ID == id })
}
