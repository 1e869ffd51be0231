package kitchen

import (
	"slices"
	"strings"
	"unicode"
)

// The trade's usual limits of what waits to order. Assumed where nobody said otherwise, and shown as assumed. All of them
// common practice, no source; a safety code may be shorter.

// Call says whether a step may begin before its table is called.
type Call string

// The answers: it may, it may not, or nobody said and it goes by what kind of thing it is.
const (
	CallUnsaid Call = ""
	CallAny    Call = "any-time"
	CallOnly   Call = "on-the-call"
)

// Usual is what is usual for one kind of thing.
type Usual struct {
	Kind string `json:"kind"`
	Name string `json:"name" doc:"In words"`
	// The wait from its last step to the plate, seconds.
	Shortest int   `json:"shortest"`
	Best     int   `json:"best"`
	Longest  int   `json:"longest"`
	Place    Place `json:"place,omitempty"`
	// Call is whether it may begin before the table is called; Part that it may up to a stopping point only.
	Call Call `json:"call,omitempty"`
	Part bool `json:"part,omitempty"`
	// words by which it is known, in the name of a component; the longest that fits decides.
	words []string
}

const minute = 60

// usuals are the kinds of thing, with minutes as the trade says them.
var usuals = []Usual{
	{"fish", "seared fish portion", 1 * minute, 90, 4 * minute, OnBench, CallOnly, false,
		[]string{"hake", "fish", "cod", "bream", "bass", "turbot"}},
	{"scallop", "scallop, prawn", 0, 30, 2 * minute, OnBench, CallOnly, false, []string{"scallop", "prawn"}},
	{"steak", "steak, breast, loin", 4 * minute, 6 * minute, 12 * minute, OnBench, CallAny, true,
		[]string{"steak", "breast", "loin", "fillet", "rump"}},
	{"joint", "roast joint", 20 * minute, 30 * minute, 60 * minute, Hot, CallAny, false, []string{"joint", "shoulder", "saddle"}},
	{"bird", "small whole bird", 6 * minute, 10 * minute, 20 * minute, OnBench, CallAny, false, []string{"quail", "pigeon", "whole bird"}},
	{"braise", "braise in its liquor", 0, 30 * minute, 120 * minute, Hot, CallAny, false, []string{"braise", "leg", "cheek", "shank"}},
	{"confit", "confit", 0, 15 * minute, 60 * minute, Hot, CallAny, false, []string{"confit"}},
	{"escalope", "crumbed escalope", 0, 1 * minute, 3 * minute, OnBench, CallOnly, false, []string{"escalope", "crumbed"}},
	{"crisp", "fried crisp thing", 0, 30, 2 * minute, OnBench, CallOnly, false, []string{"fritter", "tempura", "chips"}},
	{"purée", "purée, hot", 0, 20 * minute, 90 * minute, Hot, CallAny, false, []string{"purée", "puree"}},
	{"mash", "buttery mash", 0, 10 * minute, 45 * minute, Hot, CallAny, false, []string{"mash"}},
	{"butter-sauce", "emulsified butter sauce", 0, 10 * minute, 40 * minute, Hot, CallAny, false,
		[]string{"butter sauce", "beurre", "hollandaise"}},
	{"jus", "reduced jus", 0, 15 * minute, 120 * minute, Hot, CallAny, false, []string{"jus", "glaze", "gravy"}},
	{"sauce", "starch sauce", 0, 15 * minute, 60 * minute, Hot, CallAny, false, []string{"sauce"}},
	{"broth", "broth, soup", 0, 20 * minute, 120 * minute, Hot, CallAny, false, []string{"broth", "soup", "consommé"}},
	{"green", "green vegetable reheated", 0, 30, 2 * minute, OnBench, CallOnly, false, []string{"spinach", "beans", "sea beet", "greens",
		"peas"}},
	{"glazed", "glazed roots", 0, 5 * minute, 20 * minute, Hot, CallAny, true, []string{"glazed", "carrot", "turnip"}},
	{"roast-vegetable", "roast vegetables, tray", 0, 15 * minute, 60 * minute, Hot, CallAny, false,
		[]string{"roast onion", "roast", "baked celeriac", "baked"}},
	{"gratin", "gratin", 10 * minute, 20 * minute, 60 * minute, Hot, CallAny, false, []string{"gratin"}},
	{"pressed-potato", "pressed potato, coloured", 0, 1 * minute, 6 * minute, OnBench, CallAny, true, []string{"pressed potato", "potato"}},
	{"grain", "rice, pilaf, barley", 0, 8 * minute, 30 * minute, Hot, CallAny, false, []string{"rice", "pilaf", "barley", "lentils",
		"pulses"}},
	{"risotto", "risotto", 0, 30, 2 * minute, OnBench, CallAny, true, []string{"risotto"}},
	{"pasta", "pasta, sauced", 0, 30, 2 * minute, OnBench, CallOnly, false, []string{"pasta", "noodles"}},
	{"dumpling", "filled dumpling", 0, 30, 3 * minute, Hot, CallOnly, false, []string{"dumpling", "ravioli"}},
	{"egg", "poached egg", 0, 30, 2 * minute, OnBench, CallAny, true, []string{"poached egg", "egg"}},
	{"soufflé", "soufflé", 0, 0, 1 * minute, OnBench, CallAny, true, []string{"soufflé", "souffle"}},
	{"leaves", "dressed leaves", 0, 0, 2 * minute, OnBench, CallOnly, false, []string{"leaves", "salad", "watercress", "shaved", "sorrel"}},
	{"tartare", "tartare, dressed", 0, 2 * minute, 10 * minute, Chilled, CallAny, true, []string{"tartare"}},
	{"raw-fish", "raw fish in acid", 5 * minute, 10 * minute, 25 * minute, Chilled, CallOnly, false, []string{"ceviche", "raw fish"}},
	{"custard", "set custard, hot", 0, 10 * minute, 45 * minute, Hot, CallAny, false, []string{"custard"}},
	{"mousse", "mousse, turned out", 0, 5 * minute, 30 * minute, Chilled, CallAny, false, []string{"mousse"}},
	{"foam", "foam", 0, 10, 60, OnBench, CallOnly, false, []string{"foam"}},
	{"meringue", "meringue, torched", 0, 2 * minute, 15 * minute, OnBench, CallAny, false, []string{"meringue"}},
	{"frozen", "quenelle of ice cream", 0, 15, 75, OnBench, CallOnly, false, []string{"ice cream", "frozen", "sorbet", "ice"}},
	{"biscuit", "thin biscuit with a wet filling", 0, 1 * minute, 10 * minute, OnBench, CallOnly, false,
		[]string{"biscuit", "tuile", "crisp"}},
	{"toast", "toast, fried bread", 0, 30, 4 * minute, OnBench, CallOnly, false, []string{"toast", "fried bread", "crouton"}},
	{"pudding", "steamed pudding, turned out", 0, 30, 3 * minute, OnBench, CallAny, true, []string{"pudding", "sponge"}},
	{"fruit", "warm fruit", 0, 5 * minute, 20 * minute, Hot, CallAny, false, []string{"apple", "rhubarb", "pear"}},
	{"charred", "charred vegetable", 0, 1 * minute, 4 * minute, OnBench, CallOnly, false, []string{"charred", "leek"}},
}

// byPlace are the usual best and longest of a wait where only its place is known: on the bench, hot, chilled, frozen, dry.
var byPlace = map[Place][2]int{OnBench: {1 * minute, 4 * minute}, Hot: {10 * minute, 45 * minute}, Chilled: {0, 4 * 3600},
	Frozen: {0, 24 * 3600}, Dry: {0, 24 * 3600}}

// AtOnceS is how long a wait "at once" may be, seconds.
const AtOnceS = 30

// Usuals lists the kinds of thing of which something is usual.
func Usuals() []Usual { return slices.Clone(usuals) }

// UsualOf is what is usual for a component: by its kind where somebody said it, and else by its name; nil when neither
// tells.
func (c *Component) UsualOf() *Usual {
	if c.Thing != "" {
		if i := slices.IndexFunc(usuals, func(u Usual) bool { return u.Kind == c.Thing }); i >= 0 {
			return &usuals[i]
		}
		return nil
	}
	var best *Usual
	long := 0
	name := " " + words(c.Name) + " "
	for i := range usuals {
		for _, w := range usuals[i].words {
			if len(w) > long && strings.Contains(name, " "+w+" ") {
				best, long = &usuals[i], len(w)
			}
		}
	}
	return best
}

// words is a text in small letters with a space between its words.
func words(s string) string {
	return strings.Join(strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) }), " ")
}

// Planned is a wait as it is planned: what was said, and what is assumed where nothing was.
type Planned struct {
	Wait
	// Assumed says that its longest is assumed; By is of what kind of thing that is usual, or at which place; the key of
	// a message.
	Assumed bool   `json:"assumed"`
	By      string `json:"by,omitempty" enum:"kind,place,pan,cooked,cooling"`
	Kind    string `json:"kind,omitempty" doc:"The kind of thing that it is usual for, in words"`
}

// limited gives a wait the best and the longest that are usual, counted from its shortest.
func limited(w Wait, best, longest int) Wait {
	l := max(longest, w.Shortest+longest/2)
	if w.Best != nil {
		l = max(l, *w.Best)
	} else {
		b := max(best, w.Shortest)
		b = min(b, l)
		w.Best = &b
	}
	w.Longest = &l
	return w
}

// unlimited reports whether nobody said how long a wait may be, and nobody said that it may be without end.
func (w *Wait) unlimited() bool { return w.Longest == nil && !w.NoLimit }

// placed is a wait by the usual limits of its place, the bench where none is said.
func placed(w Wait) Planned {
	place := w.Place
	if w.In != nil {
		place = Hot
	}
	if place == "" {
		place = OnBench
	}
	lim := byPlace[place]
	return Planned{Wait: limited(w, lim[0], lim[1]), Assumed: true, By: "place"}
}

// PlannedHold is the wait from the last step made to order to the plate, as it is planned.
func (c *Component) PlannedHold() Planned {
	if p := c.Pot; p != nil {
		w := c.Hold
		w.In, w.Place, w.NoLimit = p.In, Hot, false
		best, longest := max(w.Shortest, p.HoldsS), max(w.Shortest, p.HoldsS)
		w.Best, w.Longest = &best, &longest
		return Planned{Wait: w}
	}
	if !c.Hold.unlimited() || len(c.InPhase(PickUp)) == 0 {
		return Planned{Wait: c.Hold}
	}
	if u := c.UsualOf(); u != nil && (c.Hold.Place == "" || c.Hold.Place == u.Place) {
		w := c.Hold
		if w.Place == "" {
			w.Place = u.Place
		}
		return c.cooled(Planned{Wait: limited(w, u.Best, u.Longest), Assumed: true, By: "kind", Kind: u.Name}, c.lastStep())
	}
	return c.cooled(placed(c.Hold), c.lastStep())
}

func (c *Component) lastStep() *Step {
	steps := c.InPhase(PickUp)
	return &steps[len(steps)-1]
}

// cooled shortens an assumed wait on the bench to how long the core of what was heated stays hot: a computed limit may shorten a usual
// one, never lengthen it.
func (c *Component) cooled(p Planned, after *Step) Planned {
	w := &p.Wait
	if w.In != nil || w.Place != "" && w.Place != OnBench || after.Piece == nil || after.Piece.TargetC <= servedC {
		return p
	}
	if s, ok := after.hotFor(servedC); ok && s < *w.Longest {
		l := max(s, w.Shortest)
		w.Longest = &l
		if w.Best != nil && *w.Best > l {
			w.Best = &l
		}
		p.By, p.Kind = "cooling", ""
	}
	return p
}

// servedC is how hot something hot is on the plate at the least, °C: common practice, no source.
const servedC = 55.0

// PlannedWait is the wait between two steps made to order, as it is planned: at once in the same pan, by its place
// otherwise.
func (c *Component) PlannedWait(s *Step, a Predecessor) Planned {
	i := c.StepIndex(a.Step)
	if !a.unlimited() || s.Phase != PickUp || i < 0 || c.Steps[i].Phase != PickUp {
		return Planned{Wait: a.Wait}
	}
	if c.GoesOn(s, a.Step) {
		return atOnce(a.Wait)
	}
	return c.cooled(placed(a.Wait), &c.Steps[i])
}

// atOnce is a wait that goes on in the same pan.
func atOnce(w Wait) Planned {
	l := w.Shortest + AtOnceS
	if w.Best == nil {
		w.Best = &w.Shortest
	}
	l = max(l, *w.Best)
	w.Longest = &l
	return Planned{Wait: w, Assumed: true, By: "pan"}
}

// GoesOn reports whether a step goes on in the pan, and under the hands, of one that it comes after: as somebody said, and
// else when both are done on the same kind of thing to order and no wait was said between.
func (c *Component) GoesOn(s *Step, after string) bool {
	i := c.StepIndex(after)
	k := slices.IndexFunc(s.After, func(a Predecessor) bool { return a.Step == after })
	if i < 0 || k < 0 {
		return false
	}
	before := &c.Steps[i]
	if s.Phase != before.Phase || c.SectionOf(s) != c.SectionOf(before) {
		return false
	}
	if s.Same != nil {
		return *s.Same && len(s.After) == 1
	}
	w := s.After[k].Wait
	said := w.Shortest > 0 || w.Best != nil || w.Longest != nil && *w.Longest > AtOnceS || w.Place != "" || w.NoLimit || w.In != nil
	return len(s.After) == 1 && !said && s.Equipment != nil && before.Equipment != nil && s.Equipment.Kind == before.Equipment.Kind &&
		sameHeat(s.Equipment, before.Equipment)
}

func sameHeat(a, b *EquipmentNeed) bool {
	lowA, highA, askA := a.Range()
	lowB, highB, askB := b.Range()
	return askA == askB && lowA == lowB && highA == highB
}

// MayBegin reports whether a step may begin before its table is called: as somebody said, and else by what is usual for its
// kind of thing; up to a stopping point, all but the last of its steps. A step before one that may begin may.
func (c *Component) MayBegin(s *Step) bool {
	switch s.Call {
	case CallAny:
		return true
	case CallOnly:
		return false
	}
	steps := c.InPhase(PickUp)
	for i := range steps {
		if steps[i].ID != s.ID {
			continue
		}
		for k := i + 1; k < len(steps); k++ {
			if steps[k].Call == CallAny {
				return true
			}
		}
		u := c.UsualOf()
		if u == nil {
			// What may wait longer than a forecast errs may begin on it.
			h := c.PlannedHold()
			return h.Longest != nil && *h.Longest-h.Shortest >= forecastErrs
		}
		return u.Call == CallAny && (!u.Part || i < len(steps)-1)
	}
	return true // made ahead
}

// forecastErrs is by how much the forecast of a call is wrong, seconds. Common practice, no source.
const forecastErrs = 15 * minute
