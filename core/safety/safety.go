// Package safety compares a component's steps and waits with the published limits of the
// kitchen's food-safety code. What it finds is advice, not a verdict: it names the code,
// its section and the numbers, and never says that food is safe. Local law, the kitchen's
// own food-safety plan and licensed practice come first.
//
// Sources: FDA Food Code 2022; guidance of the Food Standards Agency, Regulations (EC)
// 852/2004 and 853/2004. All values from memory.
package safety

import (
	"fmt"
	"slices"
	"time"

	"jointime/core/kitchen"
)

// Limit is one limit that bears on a step (or on how a product is kept, when Step is
// empty).
type Limit struct {
	Step    string `json:"step"`
	Code    string `json:"code"`
	Section string `json:"section"`
	Text    string `json:"text"`
	State   string `json:"state" enum:"mind,fault" doc:"fault: what is written goes past the limit"`
}

// hot is equipment that makes food hot.
var hot = []kitchen.EquipmentKind{kitchen.Oven, kitchen.Burner, kitchen.Steamer, kitchen.Fryer, kitchen.WaterBath, kitchen.Grill, kitchen.Plancha, kitchen.Salamander}

// cold is where food is made or kept cold.
var cold = []kitchen.EquipmentKind{kitchen.BlastChiller, kitchen.Fridge, kitchen.Freezer}

// code has the limits of one code.
type code struct {
	name                                 string
	cooling, holding, reheating, poultry string // sections
	coolText, holdText, reheatText       string
	coolMost                             time.Duration
	holdMost                             time.Duration // below the holding temperature, once
	keepMost                             time.Duration // chilled ready-to-eat food, 0 when the code has no number
	keepSection, keepText                string
	rawFish, rawFishSection              string
}

func codeOf(c kitchen.SafetyCode) code {
	if c == kitchen.CodeFDA {
		return code{name: "FDA Food Code 2022", cooling: "3-501.14", holding: "3-501.16 and 3-501.19", reheating: "3-403.11", poultry: "3-401.11",
			coolText: "from 57 °C to 21 °C within 2 h, and to 5 °C within 6 h in all", coolMost: 6 * time.Hour,
			holdText: "hot at 57 °C or above; without that, 4 h at most", holdMost: 4 * time.Hour,
			reheatText: "to 74 °C for 15 s, reached within 2 h, before it is held hot",
			keepMost:   7 * 24 * time.Hour, keepSection: "3-501.17", keepText: "ready-to-eat food kept at 5 °C: 7 days, the day it is made counted",
			rawFish: "frozen at −20 °C for 168 h, or at −35 °C for 15 h; exemptions exist", rawFishSection: "3-402.11"}
	}
	return code{name: "UK and EU practice", cooling: "FSA guidance on chilling", holding: "FSA guidance on hot holding", reheating: "FSA guidance on reheating", poultry: "FSA guidance on cooking",
		coolText: "as quickly as possible, in practice below 8 °C within 90 min", coolMost: 90 * time.Minute,
		holdText: "hot at 63 °C or above; below it once, for 2 h at most", holdMost: 2 * time.Hour,
		reheatText: "to 70 °C for 2 min, or what equals it",
		rawFish:    "frozen in all its parts at −20 °C for 24 h, or at −35 °C for 15 h", rawFishSection: "Regulation (EC) 853/2004"}
}

// Limits returns what bears on a component under a code, in the order of its steps.
func Limits(c *kitchen.Component, under kitchen.SafetyCode) []Limit {
	k := codeOf(under)
	out := []Limit{}
	add := func(step, section, state, format string, args ...any) {
		out = append(out, Limit{step, k.name, section, fmt.Sprintf(format, args...), state})
	}
	steps := append(c.InPhase(kitchen.Ahead), c.InPhase(kitchen.PickUp)...)
	for i := range steps {
		s := &steps[i]
		likely := time.Duration(s.Time.For(1).Likely) * time.Second
		if slices.Contains(s.Dangers, "cooling") || on(s, cold) && afterHeat(c, s) {
			switch {
			case on(s, []kitchen.EquipmentKind{kitchen.BlastChiller}) && likely > k.coolMost:
				add(s.ID, k.cooling, "fault", "Cooling: %s; this takes %s.", k.coolText, said(likely))
			default:
				add(s.ID, k.cooling, "mind", "Cooling: %s.", k.coolText)
			}
		}
		if slices.Contains(s.Dangers, "reheating") || s.Phase == kitchen.PickUp && on(s, hot) && fromCold(c, s) {
			add(s.ID, k.reheating, "mind", "Reheating: %s.", k.reheatText)
		}
		if slices.Contains(s.Dangers, "raw-poultry") && on(s, hot) {
			add(s.ID, k.poultry, "mind", "Poultry: %s.", poultry(under, s))
		}
		if slices.Contains(s.Dangers, "raw-fish") && !on(s, hot) {
			add(s.ID, k.rawFishSection, "mind", "Fish eaten raw or nearly raw: %s.", k.rawFish)
		}
		for _, a := range s.After {
			if a.Place == kitchen.Hot {
				holding(add, k, s.ID, a.Wait)
			}
		}
	}
	if c.Hold.Place == kitchen.Hot {
		holding(add, k, "", c.Hold)
	}
	if keeps := time.Duration(c.ShelfLifeH * float64(time.Hour)); k.keepMost > 0 && c.Store == kitchen.Chilled && keeps > k.keepMost {
		add("", k.keepSection, "fault", "Kept: %s; written is %s.", k.keepText, said(keeps))
	}
	return out
}

func holding(add func(step, section, state, format string, args ...any), k code, step string, w kitchen.Wait) {
	switch {
	case w.Longest != nil && time.Duration(*w.Longest)*time.Second > k.holdMost:
		add(step, k.holding, "fault", "Holding: %s; it may wait %s here.", k.holdText, said(time.Duration(*w.Longest)*time.Second))
	default:
		add(step, k.holding, "mind", "Holding: %s.", k.holdText)
	}
}

// equals are temperatures and times that UK practice takes as equal to 70 °C for 2 min.
var equals = []struct {
	c    float64
	long time.Duration
}{{60, 45 * time.Minute}, {65, 10 * time.Minute}, {70, 2 * time.Minute}, {75, 30 * time.Second}, {80, 6 * time.Second}}

// poultry says the cooking limit, and what the step's own setpoint would need.
func poultry(under kitchen.SafetyCode, s *kitchen.Step) string {
	if under == kitchen.CodeFDA {
		return "74 °C in the core, at once"
	}
	text := "70 °C in the core for 2 min, or what equals it"
	if s.Equipment == nil || s.Equipment.SetpointC == nil || *s.Equipment.SetpointC >= 70 {
		return text
	}
	at, best := *s.Equipment.SetpointC, time.Duration(0)
	for _, e := range equals {
		if e.c <= at {
			best = e.long
		}
	}
	if best == 0 {
		return text + "; below 60 °C no equal is given"
	}
	return fmt.Sprintf("%s: %g °C asks for %s in the core after it is reached", text, at, said(best))
}

func said(d time.Duration) string {
	switch {
	case d >= 48*time.Hour:
		return fmt.Sprintf("%g days", d.Hours()/24)
	case d >= time.Hour && d%time.Hour == 0:
		return fmt.Sprintf("%d h", int(d.Hours()))
	case d >= time.Hour:
		return fmt.Sprintf("%d h %02d", int(d.Hours()), int(d.Minutes())%60)
	case d >= time.Minute:
		return fmt.Sprintf("%g min", d.Minutes())
	}
	return fmt.Sprintf("%g s", d.Seconds())
}

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
