// Package safety compares a component's steps and waits with the published limits of the
// kitchen's food-safety code. What it finds is advice, not a verdict: it names the code,
// its section and the numbers, and never says that food is safe. Local law, the kitchen's
// own food-safety plan and licensed practice come first.
//
// Sources: FDA Food Code 2022; guidance of the Food Standards Agency, Regulations (EC)
// 852/2004 and 853/2004. All values from memory.
package safety

import (
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Limit is one limit that bears on a step (or on how a product is kept, when Step is
// empty).
type Limit struct {
	Step    string          `json:"step"`
	Code    string          `json:"code"`
	Section string          `json:"section"`
	Said    message.Message `json:"said"`
	State   string          `json:"state" enum:"mind,fault" doc:"fault: what is written goes past the limit"`
}

// hot is equipment that makes food hot.
var hot = []kitchen.EquipmentKind{kitchen.Oven, kitchen.Burner, kitchen.Steamer, kitchen.Fryer, kitchen.WaterBath, kitchen.Grill,
	kitchen.Plancha, kitchen.Salamander}

// cold is where food is made or kept cold.
var cold = []kitchen.EquipmentKind{kitchen.BlastChiller, kitchen.Fridge, kitchen.Freezer}

// code has the limits of one code.
type code struct {
	name                                 string
	cooling, holding, reheating, poultry string // sections
	cool, hold, reheat                   message.Message
	coolMost                             time.Duration
	holdMost                             time.Duration // below the holding temperature, once
	holdAt                               float64       // the holding temperature, °C
	keepMost                             time.Duration // chilled ready-to-eat food, 0 when the code has no number
	keepSection, rawFishSection          string
	keep, rawFish                        message.Message
}

func codeOf(c kitchen.SafetyCode) code {
	if c == kitchen.CodeFDA {
		return code{name: "FDA Food Code 2022", cooling: "3-501.14", holding: "3-501.16 and 3-501.19", reheating: "3-403.11", poultry: "3-401.11",
			cool: message.Of("safety.fda-cooling"), coolMost: 6 * time.Hour,
			hold: message.Of("safety.fda-holding"), holdMost: 4 * time.Hour, holdAt: 57,
			reheat:   message.Of("safety.fda-reheating"),
			keepMost: 7 * 24 * time.Hour, keepSection: "3-501.17", keep: message.Of("safety.fda-keeping"),
			rawFish: message.Of("safety.fda-raw-fish"), rawFishSection: "3-402.11"}
	}
	return code{name: "UK and EU practice", cooling: "FSA guidance on chilling", holding: "FSA guidance on hot holding",
		reheating: "FSA guidance on reheating", poultry: "FSA guidance on cooking",
		cool: message.Of("safety.uk-cooling"), coolMost: 90 * time.Minute,
		hold: message.Of("safety.uk-holding"), holdMost: 2 * time.Hour, holdAt: 63,
		reheat:  message.Of("safety.uk-reheating"),
		rawFish: message.Of("safety.uk-raw-fish"), rawFishSection: "Regulation (EC) 853/2004"}
}

// Limits returns what bears on a component under a code, in the order of its steps.
func Limits(c *kitchen.Component, under kitchen.SafetyCode) []Limit {
	k := codeOf(under)
	out := []Limit{}
	add := func(step, section, state string, said message.Message) {
		out = append(out, Limit{step, k.name, section, said, state})
	}
	steps := append(c.InPhase(kitchen.Ahead), c.InPhase(kitchen.PickUp)...)
	for i := range steps {
		s := &steps[i]
		likely := time.Duration(s.Time.For(1).Likely) * time.Second
		if slices.Contains(s.Dangers, "cooling") || on(s, cold) && afterHeat(c, s) {
			switch {
			case on(s, []kitchen.EquipmentKind{kitchen.BlastChiller}) && likely > k.coolMost:
				add(s.ID, k.cooling, "fault", message.Of("safety.cooling-takes", "limit", k.cool, "takes", lengthOf(likely)))
			default:
				add(s.ID, k.cooling, "mind", message.Of("safety.cooling", "limit", k.cool))
			}
		}
		if slices.Contains(s.Dangers, "reheating") || s.Phase == kitchen.PickUp && on(s, hot) && fromCold(c, s) {
			add(s.ID, k.reheating, "mind", message.Of("safety.reheating", "limit", k.reheat))
		}
		if slices.Contains(s.Dangers, "raw-poultry") && on(s, hot) {
			add(s.ID, k.poultry, "mind", message.Of("safety.poultry", "limit", poultry(under, s)))
		}
		if slices.Contains(s.Dangers, "raw-fish") && !on(s, hot) {
			add(s.ID, k.rawFishSection, "mind", message.Of("safety.raw-fish", "limit", k.rawFish))
		}
		for _, a := range s.After {
			if w := c.PlannedWait(s, a).Wait; heldHot(&w) {
				holding(add, k, s.ID, w)
			}
		}
	}
	if w := c.PlannedHold().Wait; heldHot(&w) {
		holding(add, k, "", w)
	}
	if keeps := time.Duration(c.ShelfLifeH * float64(time.Hour)); k.keepMost > 0 && c.Store == kitchen.Chilled && keeps > k.keepMost {
		add("", k.keepSection, "fault", message.Of("safety.kept", "limit", k.keep, "written", lengthOf(keeps)))
	}
	return out
}

// heldHot reports whether something is held hot while it waits: it was said to be, or it stands in something that makes or
// keeps food hot.
func heldHot(w *kitchen.Wait) bool {
	return w.Place == kitchen.Hot || w.In != nil && (w.In.Kind == kitchen.Holding || slices.Contains(hot, w.In.Kind))
}

func holding(add func(step, section, state string, said message.Message), k code, step string, w kitchen.Wait) {
	switch enough := w.In != nil && w.In.SetpointC != nil && *w.In.SetpointC >= k.holdAt; {
	case enough: // it stands in something that keeps it hot: that has no limit
		add(step, k.holding, "mind", message.Of("safety.holding", "limit", k.hold))
	case w.NoLimit:
		add(step, k.holding, "fault", message.Of("safety.holding-no-limit", "limit", k.hold))
	case w.Longest != nil && time.Duration(*w.Longest)*time.Second > k.holdMost:
		add(step, k.holding, "fault", message.Of("safety.holding-waits", "limit", k.hold, "may", message.Rough(*w.Longest)))
	default:
		add(step, k.holding, "mind", message.Of("safety.holding", "limit", k.hold))
	}
}

// equals are temperatures and times that UK practice takes as equal to 70 °C for 2 min.
var equals = []struct {
	c    float64
	long time.Duration
}{{60, 45 * time.Minute}, {65, 10 * time.Minute}, {70, 2 * time.Minute}, {75, 30 * time.Second}, {80, 6 * time.Second}}

// poultry says the cooking limit, and what the step's own setpoint would need.
func poultry(under kitchen.SafetyCode, s *kitchen.Step) message.Message {
	if under == kitchen.CodeFDA {
		return message.Of("safety.fda-poultry")
	}
	usual := message.Of("safety.uk-poultry")
	if s.Equipment == nil || s.Equipment.SetpointC == nil || *s.Equipment.SetpointC >= 70 {
		return usual
	}
	at, best := *s.Equipment.SetpointC, time.Duration(0)
	for _, e := range equals {
		if e.c <= at {
			best = e.long
		}
	}
	if best == 0 {
		return message.Of("safety.uk-poultry-below", "limit", usual)
	}
	return message.Of("safety.uk-poultry-at", "limit", usual, "celsius", at, "long", lengthOf(best))
}

func lengthOf(d time.Duration) message.Rough { return message.Rough(d / time.Second) }

func on(s *kitchen.Step, kinds []kitchen.EquipmentKind) bool {
	return s.Equipment != nil && slices.Contains(kinds, s.Equipment.Kind)
}

// afterHeat reports whether what comes right before a step made the food hot.
func afterHeat(c *kitchen.Component, s *kitchen.Step) bool {
	for _, a := range s.After {
		if i := c.StepIndex(a.Step); i >= 0 && on(&c.Steps[i], hot) {
			return true
		}
	}
	return false
}

// fromCold reports whether a step to order begins with something that was kept cold.
func fromCold(c *kitchen.Component, s *kitchen.Step) bool {
	if c.Store != kitchen.Chilled && c.Store != kitchen.Frozen {
		return false
	}
	for _, a := range s.After {
		if i := c.StepIndex(a.Step); i >= 0 && c.Steps[i].Phase == kitchen.PickUp {
			return false
		}
	}
	return wasCooked(c)
}

func wasCooked(c *kitchen.Component) bool {
	for _, s := range c.InPhase(kitchen.Ahead) {
		if on(&s, hot) {
			return true
		}
	}
	return false
}
