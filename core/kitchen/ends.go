package kitchen

import (
	"slices"
	"strings"
)

// When within a step hands are wanted: at its start, at its end, and now and then between.

// Ends are the hands that a step takes to be begun and to be ended, where it does not take them throughout: laying in and
// taking out, putting into the oven and lifting out.
type Ends struct {
	InS      int `json:"in_s" doc:"Seconds of hands at the start"`
	OutS     int `json:"out_s" doc:"Seconds of hands at the end"`
	InEachS  int `json:"in_each_s,omitempty" doc:"… and for each portion at the start"`
	OutEachS int `json:"out_each_s,omitempty" doc:"… and for each portion at the end"`
}

// In and Out are the seconds of hands at the start and at the end of a batch of n portions.
func (e Ends) In(n int) int { return e.InS + n*e.InEachS }

// Out is In at the end.
func (e Ends) Out(n int) int { return e.OutS + n*e.OutEachS }

// TouchWhen says when within a step something is done with the hands.
type TouchWhen string

// The times of a touch: at half the time, so long after the start, so long before the end, or every so often.
const (
	HalfWay   TouchWhen = "half-way"
	After     TouchWhen = "after"
	BeforeEnd TouchWhen = "before-end"
	Every     TouchWhen = "every"
)

var touchTimes = []TouchWhen{HalfWay, After, BeforeEnd, Every}

// Touch is something done with the hands inside a step: turned, basted, something added, skimmed.
type Touch struct {
	Say     string    `json:"say" maxLength:"60" doc:"What is done: turn, baste, add the butter, skim"`
	Seconds int       `json:"seconds" doc:"How long it takes both hands"`
	When    TouchWhen `json:"when" enum:"half-way,after,before-end,every"`
	AtS     int       `json:"at_s,omitempty" doc:"Seconds after the start, before the end, or between two; nothing for half-way"`
}

// Touched is one touch of a batch: when after its start, and how much sooner or later it may be.
type Touched struct {
	Say           string
	AtS, Seconds  int
	SpareS        int
	Number, NumOf int // of how many that come every so often
}

// everySpare is by what share of its interval something done every so often may come sooner or later. Common practice,
// no source.
const everySpare = 6

// Touches are the touches of a batch that takes so many seconds, in order; one that would lie outside it is left out.
func (s *Step) TouchesIn(length int) []Touched {
	var out []Touched
	add := func(t Touch, at, spare, number, of int) {
		if at >= 0 && at+t.Seconds <= length {
			out = append(out, Touched{t.Say, at, t.Seconds, spare, number, of})
		}
	}
	for _, t := range s.Touches {
		switch t.When {
		case HalfWay:
			add(t, (length-t.Seconds)/2, 0, 1, 1)
		case After:
			add(t, t.AtS, 0, 1, 1)
		case BeforeEnd:
			add(t, length-t.AtS, 0, 1, 1)
		case Every:
			n := 0
			if t.AtS > 0 {
				n = max(0, (length-1)/t.AtS)
			}
			for k := 1; k <= n; k++ {
				add(t, k*t.AtS, t.AtS/everySpare, k, n)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Touched) int { return a.AtS - b.AtS })
	return out
}

// Usual seconds of putting in and taking out, by where a step is done. Common practice, no source.
var usualEnds = map[EquipmentKind]Ends{
	Oven: {InS: 15, OutS: 15}, Steamer: {InS: 15, OutS: 15}, Salamander: {InS: 15, OutS: 15}, Dehydrator: {InS: 15, OutS: 15},
	WaterBath: {InS: 10, OutS: 10}, Fryer: {InS: 10, OutS: 15}, Fridge: {InS: 20, OutS: 20}, Freezer: {InS: 20, OutS: 20},
	BlastChiller: {InS: 20, OutS: 20}, Holding: {InS: 15, OutS: 15}, Burner: {InS: 45, OutS: 45},
}

// soaking is what a step is called that stands in water by itself.
var soaking = []string{"soak", "steep", "brine"}

// UsualEnds are the hands at both ends of a new step, where nobody said: something that needs nobody is put in and taken
// out, a pan that is seared is laid in and taken out. Common practice, no source.
func (s *Step) UsualEnds() Ends {
	name := strings.ToLower(s.Name)
	says := func(words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(name, w) })
	}
	switch {
	case s.Hands == None && says(soaking...):
		return Ends{InS: 120, OutS: 120}
	case s.Hands == None && s.Equipment != nil:
		return usualEnds[s.Equipment.Kind]
	case s.Hands == Tend && s.Equipment != nil && s.Searing():
		return Ends{InS: 10, OutS: 15}
	}
	return Ends{}
}

// searing is what a step is called that wants two eyes: what is done in seconds too much. Common practice, no source.
var searing = []string{"sear", "fry", "frie", "skin down", "brown", "colour", "caramel", "torch"}

// Searing reports whether a step is quick to spoil: it wants two of a cook's eyes.
func (s *Step) Searing() bool {
	if s.Equipment != nil && (s.Equipment.Kind == Plancha || s.Equipment.Kind == Grill || s.Equipment.Kind == Fryer) {
		return true
	}
	name := strings.ToLower(s.Name)
	return slices.ContainsFunc(searing, func(w string) bool { return strings.Contains(name, w) })
}

// Watch is how many eyes a step takes: two where it is quick to spoil, one otherwise; none unless it wants an eye.
func (s *Step) Watch() int {
	switch {
	case s.Hands != Tend:
		return 0
	case s.Searing():
		return 2
	}
	return 1
}
