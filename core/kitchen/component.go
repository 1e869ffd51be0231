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
	// Signed is somebody's word that the recipe is complete.
	Signed *Signature `json:"signed,omitempty" doc:"Who said that the recipe is complete, and of which recipe"`
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
	Section string `json:"section,omitempty"`
	// May is who may do it, where not everybody of its section and who helps there; People are those named.
	May    May      `json:"may,omitempty" enum:"section,anybody,named" doc:"Who may do it; its section and who helps there when missing"`
	People []string `json:"people,omitempty" nullable:"false" doc:"Those who alone may do it, where they are named"`
	// Also are people who may do it too, in one service.
	Also      []string       `json:"-"`
	Equipment *EquipmentNeed `json:"equipment,omitempty"`
	Time      StepTime       `json:"time"`
	// Piece is what it heats or cools, where the time follows from its size.
	Piece *Piece        `json:"piece,omitempty" doc:"What it heats or cools: its size sets the time, unless that was typed"`
	Batch *BatchLimit   `json:"batch,omitempty"`
	After []Predecessor `json:"after" nullable:"false"`
	// Beside are steps of other components of the same plate that it comes after.
	Beside []OtherStep `json:"beside,omitempty" nullable:"false" doc:"Steps of other components of the same plate that it comes after"`
	Checks []DoneCheck `json:"checks" nullable:"false"`
	// Ready are what must be before it begins; Never what is never done in it.
	Ready    []string   `json:"ready,omitempty" nullable:"false" doc:"What must be before it begins: dry, tempered, the pan hot"`
	Never    []Never    `json:"never,omitempty" nullable:"false" doc:"What is never done, and why"`
	Dangers  []Danger   `json:"dangers" nullable:"false"`
	Doneness []Doneness `json:"doneness" nullable:"false"`
	// Ends and Touches are hands within a step that does not take them throughout.
	Ends    Ends    `json:"ends"`
	Touches []Touch `json:"touches,omitempty" nullable:"false"`
	// Same says whether it goes on in the pan, and under the hands, of the step before; guessed when nobody said.
	Same *bool `json:"same,omitempty" doc:"It goes on in the same pan and hands as the step before; guessed when missing"`
	// Away is done away from the stove: whoever does it watches nothing meanwhile.
	Away bool `json:"away,omitempty" doc:"Done away from the stove (walk-in, butchery): whoever does it watches nothing"`
	Call Call `json:"call,omitempty" enum:"any-time,on-the-call" doc:"Whether it may begin before the call; guessed when missing"`
	// Wares are moulds, rings, trays that it fills, until they are emptied.
	Wares    []Ware   `json:"wares,omitempty" nullable:"false" doc:"Moulds, rings, trays that it fills"`
	PutsIn   []string `json:"puts_in" nullable:"false" doc:"What goes in and must come out before the plate"`
	TakesOut []string `json:"takes_out" nullable:"false"`
}

// Ware is small ware that a step fills: so many for each portion, or one for several, busy until another step empties it.
type Ware struct {
	Equipment string `json:"equipment" doc:"A piece of equipment of the kind small-ware"`
	Each      int    `json:"each" doc:"For each portion; 1 or more"`
	For       int    `json:"for,omitempty" doc:"Or one for so many portions"`
	Until     string `json:"until,omitempty" doc:"The step that empties it; the plate when missing"`
}

// Count is how many of it n portions take.
func (w *Ware) Count(n int) int {
	if w.For > 1 {
		return (n + w.For - 1) / w.For
	}
	return n * max(1, w.Each)
}

// May says who may do a step.
type May string

// The answers: its section and who helps there, its section alone, anybody (any commis), named people.
const (
	MayUnsaid  May = ""
	MaySection May = "section"
	MayAnybody May = "anybody"
	MayNamed   May = "named"
)

// EquipmentNeed is what one batch takes.
type EquipmentNeed struct {
	Kind      EquipmentKind `json:"kind"`
	Units     int           `json:"units" doc:"Units of room that one batch takes"`
	SetpointC *float64      `json:"setpoint_c,omitempty" doc:"°C"`
	// SetpointToC makes a range of it: anything from the one to the other will do.
	SetpointToC *float64 `json:"setpoint_to_c,omitempty" doc:"°C; anything from the setpoint to this will do"`
	// Said is how the heat was typed, where that was not in °C: gas 4, 350 F, hot.
	Said string `json:"said,omitempty" maxLength:"40" doc:"The heat as it was typed, where that was not in °C: gas 4, 350 F"`
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
	// Each is that its longest holds for each piece, which are done one by one: the hands limit the batch.
	Each bool `json:"each,omitempty" doc:"Its longest holds for each piece, the last too: the hands limit the batch"`
	// Stretch is how it may wait longer, in a service that has to.
	Stretch *Stretched `json:"stretch,omitempty" doc:"How it may wait longer, in a service that has to"`
}

// Stretched is a wait that is longer than one would choose, and allowed: in the hot cupboard, covered.
type Stretched struct {
	LongestS int            `json:"longest_s" doc:"Seconds that it may wait then"`
	In       *EquipmentNeed `json:"in,omitempty" doc:"The equipment that it takes meanwhile"`
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

// OtherStep is a step of another component that must be done before, for the same plates, and the wait between. On a plate
// without that component it asks nothing.
type OtherStep struct {
	Component string `json:"component"`
	Step      string `json:"step" doc:"One of its steps to order"`
	Wait
	// Any is that it waits for the other at its table, whoever's plate that is for: it is taken from what is cooked for the others.
	Any bool `json:"any,omitempty" doc:"It is taken from what is cooked for the others of its table, before that goes on"`
	// Pan is that it goes on in the pan that the other was in.
	Pan bool `json:"pan,omitempty" doc:"It goes on in the pan, the tray or the pot that the other step was in"`
}

// DoneCheck is how a cook knows that a step is done.
type DoneCheck struct {
	Kind    CheckKind `json:"kind" enum:"core,look,touch,taste,weight,sound,smell"`
	TargetC *float64  `json:"target_c,omitempty" doc:"For a core temperature, °C"`
	Say     string    `json:"say,omitempty" maxLength:"200"`
	// NotYetS is how much longer it usually takes when it is not yet so; TooFar what saves it when it is too far.
	NotYetS int    `json:"not_yet_s,omitempty" doc:"Seconds after which to look again, when it is not yet"`
	TooFar  string `json:"too_far,omitempty" maxLength:"200" doc:"What saves it when it is too far, or that it is made anew"`
}

// Never is something that is never done in a step, and why.
type Never struct {
	What    string `json:"what" maxLength:"120"`
	Because string `json:"because,omitempty" maxLength:"200"`
}

// CheckKind is a way of checking.
type CheckKind string

var checkKinds = []CheckKind{"core", "look", "touch", "taste", "weight", "sound", "smell"}

// Danger is something that can hurt a cook or a guest in a step.
type Danger string

// Dangers lists every danger, in the order in which they are offered.
func Dangers() []Danger { return slices.Clone(dangers) }

var dangers = []Danger{"hot-fat", "steam", "caramel", "flame", "blade", "heavy-tray", "fumes", "raw-egg", "raw-fish",
	"raw-meat", "raw-poultry", "shellfish", "cooling", "reheating", "hot-holding"}

// InPhase returns the steps of one phase in an order in which each comes after
// what it waits for; ties go by their place in the list. Their batches are as large as the hands get through, where a limit
// holds for each piece.
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
			out[len(out)-1].Batch = c.batchOf(&c.Steps[i])
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
		out.Steps[i].Beside = slices.Clone(c.Steps[i].Beside)
		out.Steps[i].Touches = slices.Clone(c.Steps[i].Touches)
		out.Steps[i].Doneness = slices.Clone(c.Steps[i].Doneness)
		if p := c.Steps[i].Piece; p != nil {
			own := *p
			out.Steps[i].Piece = &own
		}
	}
	return out
}

// StepIndex is the place of a step in the list, −1 when there is none.
func (c *Component) StepIndex(id string) int {
	return slices.IndexFunc(c.Steps, func(s Step) bool { return s.ID == id })
}
