// Package safety compares a component's steps and waits with the published limits of the
// kitchen's food-safety code, and names the dangers of the work. What it finds is advice, not a verdict: it names the code,
// its section, the numbers and what usually is done, and never says that food is safe. Local law, the kitchen's
// own food-safety plan and licensed practice come first.
//
// Sources: FDA Food Code 2022; guidance of the Food Standards Agency, the Food Safety and Hygiene (England) Regulations
// (SI 2013/2996), Regulations (EC) 852/2004 and 853/2004. All values from memory.
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
	Subject Subject         `json:"subject"`
	Code    string          `json:"code"`
	Section string          `json:"section" doc:"Of the code; empty for common practice"`
	Said    message.Message `json:"said"`
	Usual   message.Message `json:"usual" doc:"What usually is done"`
	State   string          `json:"state" enum:"mind,fault" doc:"fault: what is written goes past the limit"`
}

// finder gathers what bears on one component.
type finder struct {
	code  *code
	under kitchen.SafetyCode
	c     *kitchen.Component
	book  *kitchen.Book
	out   []Limit
}

// Limits returns what bears on a component under its kitchen's code, in the order of its steps: what can make a guest ill first, then
// the dangers of the work.
func Limits(b *kitchen.Book, c *kitchen.Component) []Limit {
	under := b.Kitchen().SafetyCode
	f := &finder{code: codeOf(under), under: under, c: c, book: b, out: []Limit{}}
	steps := append(c.InPhase(kitchen.Ahead), c.InPhase(kitchen.PickUp)...)
	for i := range steps {
		s := &steps[i]
		f.temperatures(s)
		f.animals(s)
		f.waits(s)
		f.work(s)
	}
	f.kept()
	f.bought()
	return f.out
}

// say adds a finding of the kitchen's code, or of common practice for the dangers of the work.
func (f *finder) say(step, state string, on Subject, said message.Message) {
	r, own := f.code.rules[on]
	l := Limit{Step: step, Subject: on, Code: f.code.name, State: state, Said: said}
	if !own {
		r, l.Code = work[on], practice
	}
	l.Section, l.Usual = r.section, r.usual
	if !slices.ContainsFunc(f.out, func(x Limit) bool { return x.Step == step && x.Subject == on && x.Said.Text == said.Text }) {
		f.out = append(f.out, l)
	}
}

func (f *finder) limit(on Subject) message.Message { return f.code.rules[on].limit }

// temperatures finds cooling after cooking and reheating.
func (f *finder) temperatures(s *kitchen.Step) {
	likely := time.Duration(s.Time.For(1).Likely) * time.Second
	if slices.Contains(s.Dangers, "cooling") || chills(s) && f.afterHeat(s) {
		switch {
		case s.Equipment != nil && s.Equipment.Kind == kitchen.BlastChiller && likely > f.code.coolMost:
			f.say(s.ID, "fault", Cooling, message.Of("safety.cooling-takes", "limit", f.limit(Cooling), "takes", lengthOf(likely)))
		default:
			f.say(s.ID, "mind", Cooling, message.Of("safety.cooling", "limit", f.limit(Cooling)))
		}
		f.cools(s)
	}
	if slices.Contains(s.Dangers, "reheating") || s.Phase == kitchen.PickUp && heats(s) && f.fromCold(s) {
		f.say(s.ID, "mind", Reheating, message.Of("safety.reheating", "limit", f.limit(Reheating)))
	}
}

// work finds the dangers of the work itself.
func (f *finder) work(s *kitchen.Step) {
	for _, d := range s.Dangers {
		switch d {
		case "hot-fat", "caramel":
			f.say(s.ID, "mind", HotFat, work[HotFat].limit)
		case "steam":
			f.say(s.ID, "mind", Steam, work[Steam].limit)
		case "blade":
			f.say(s.ID, "mind", Blade, work[Blade].limit)
		case "heavy-tray":
			f.say(s.ID, "mind", Lifting, work[Lifting].limit)
		case "fumes":
			f.say(s.ID, "mind", Fumes, work[Fumes].limit)
		case "flame":
			f.say(s.ID, "mind", Flame, work[Flame].limit)
		}
	}
	if s.Equipment != nil && s.Equipment.Kind == kitchen.Fryer {
		f.say(s.ID, "mind", HotFat, work[HotFat].limit)
	}
	if heats(s) && kitchen.WordIn(s.Name, flaming) != "" {
		f.say(s.ID, "mind", Flame, work[Flame].limit)
	}
	if kitchen.WordIn(s.Name, pressured) != "" {
		f.say(s.ID, "mind", Pressure, work[Pressure].limit)
	}
	if heats(s) && (f.stings(s, peppers, fried) || f.stings(s, vinegars, boiled)) {
		f.say(s.ID, "mind", Fumes, work[Fumes].limit)
	}
}

var (
	flaming   = []string{"flame", "flambé", "flambe", "burn off", "set alight", "deglaze with brandy", "deglaze with cognac", "ignite"}
	pressured = []string{"pressure cook", "pressure cooker", "pressure", "under pressure"}
	peppers   = []string{"chilli", "chillies", "chili", "cayenne", "hot pepper", "dried peppers", "mustard oil", "horseradish"}
	fried     = []string{"toast", "fry", "char", "burn", "infuse", "bloom"}
	vinegars  = []string{"vinegar", "vinegars", "wine vinegar", "cider vinegar"}
	boiled    = []string{"reduce", "boil", "deglaze"}
)

// stings reports whether a step heats one of some things in one of some ways, as its name says it or what is bought for it.
func (f *finder) stings(s *kitchen.Step, things, ways []string) bool {
	return kitchen.WordIn(s.Name, ways) != "" && (kitchen.WordIn(s.Name, things) != "" || f.hasWord(things))
}

// hasWord reports whether the component's name, or what is bought for it, has one of some words.
func (f *finder) hasWord(list []string) bool { return f.word(list) != "" }

// word is the first of some words in the component's name or in what is bought for it.
func (f *finder) word(list []string) string {
	if w := kitchen.WordIn(f.c.Name, list); w != "" {
		return w
	}
	for i := range f.c.Ingredients {
		if w := kitchen.WordIn(f.c.Ingredients[i].Name, list); w != "" {
			return w
		}
	}
	return ""
}

func lengthOf(d time.Duration) message.Rough { return message.Rough(d / time.Second) }

func heats(s *kitchen.Step) bool { return s.Equipment != nil && s.Equipment.Kind.Heats() }

func chills(s *kitchen.Step) bool { return s.Equipment != nil && s.Equipment.Kind.Chills() }

// afterHeat reports whether what comes right before a step made the food hot.
func (f *finder) afterHeat(s *kitchen.Step) bool {
	for _, a := range s.After {
		if i := f.c.StepIndex(a.Step); i >= 0 && heats(&f.c.Steps[i]) {
			return true
		}
	}
	return false
}

// fromCold reports whether a step to order begins with something that was kept cold.
func (f *finder) fromCold(s *kitchen.Step) bool {
	if f.c.Store != kitchen.Chilled && f.c.Store != kitchen.Frozen {
		return false
	}
	for _, a := range s.After {
		if i := f.c.StepIndex(a.Step); i >= 0 && f.c.Steps[i].Phase == kitchen.PickUp {
			return false
		}
	}
	return f.wasCooked()
}

func (f *finder) wasCooked() bool {
	for _, s := range f.c.InPhase(kitchen.Ahead) {
		if heats(&s) {
			return true
		}
	}
	return false
}
