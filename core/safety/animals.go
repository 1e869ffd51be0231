package safety

import (
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// What is raw, and what is cooked through or not: fish, eggs, poultry, minced and rolled meat, game, shellfish, low heat; and what grows:
// pulses, sprouts, what was gathered. Words find them where nobody marked a danger; they never decide that there is none.
var (
	poultryWords = []string{"chicken", "duck", "turkey", "guinea fowl", "hen", "goose", "quail", "poussin", "capon", "poultry", "fowl"}
	mincedWords  = []string{"mince", "minced", "burger", "patty", "patties", "meatball", "meatballs", "sausage", "sausages", "forcemeat",
		"farce", "ground beef"}
	rolledWords    = []string{"rolled", "ballotine", "stuffed", "boned and rolled", "roulade", "tied joint"}
	gameWords      = []string{"venison", "hare", "partridge", "pheasant", "grouse", "boar", "wild duck", "wood pigeon", "pigeon", "game"}
	shellfishWords = []string{"mussel", "mussels", "clam", "clams", "oyster", "oysters", "cockle", "cockles", "whelk", "whelks", "razor clams"}
	pulseWords     = []string{"kidney beans", "red beans", "borlotti beans", "cannellini beans", "haricot beans", "dried beans",
		"beans, dried", "black beans"}
	sproutWords = []string{"sprouts", "sprouted", "beansprouts", "bean sprouts", "alfalfa", "cress sprouts"}
	notSprouts  = []string{"brussels sprouts", "brussel sprouts"}
	wildWords   = []string{"wild", "foraged", "gathered", "sea beet", "samphire", "elderberry", "elderberries", "elderflower",
		"wild garlic", "nettle", "nettles",
		"chanterelle", "chanterelles", "cep", "ceps", "morel", "morels", "sorrel", "seaweed", "rowan"}
	eggBinds = []string{"mayonnaise", "mousse", "aioli", "hollandaise", "tartare", "meringue"}
)

// meats are the subjects of cooked animals, each with the words that find it and the danger that marks it.
var meats = []struct {
	on     Subject
	words  []string
	danger kitchen.Danger
}{{Poultry, poultryWords, "raw-poultry"}, {Minced, mincedWords, ""}, {Rolled, rolledWords, ""}, {Game, gameWords, ""}}

// animals finds what a step does with something raw.
func (f *finder) animals(s *kitchen.Step) {
	meat := false
	for _, m := range meats {
		marked := m.danger != "" && slices.Contains(s.Dangers, m.danger)
		if !heats(s) || !marked && (!f.firstHeat(s) || !f.hasWord(m.words) && kitchen.WordIn(s.Name, m.words) == "") {
			continue
		}
		meat = true
		f.cooked(s, m.on)
	}
	f.fish(s)
	switch raw := slices.Contains(s.Dangers, "raw-egg"); {
	case raw && !f.anyHeat(), f.hasWord(eggBinds) && f.brings("eggs") && !f.anyHeat() && f.c.Steps[len(f.c.Steps)-1].ID == s.ID:
		f.say(s.ID, "mind", RawEgg, message.Of("safety.egg-raw", "limit", f.limit(RawEgg)))
	case raw && heats(s):
		if t := lowest(s); t > 0 && t < f.code.core[RawEgg] {
			f.say(s.ID, "mind", RawEgg, message.Of("safety.egg-light", "limit", f.limit(RawEgg), "celsius", t))
		}
	}
	if slices.Contains(s.Dangers, "shellfish") || heats(s) && f.firstHeat(s) && f.hasWord(shellfishWords) {
		f.say(s.ID, "mind", Shellfish, message.Of("safety.shellfish", "limit", f.limit(Shellfish)))
	}
	if t := s.Equipment; t != nil && t.Kind == kitchen.WaterBath && t.SetpointC != nil && *t.SetpointC < 60 && (meat || f.isAnimal()) {
		f.say(s.ID, "mind", LowHeat, message.Of("safety.low-heat", "limit", f.limit(LowHeat), "celsius", *t.SetpointC))
	}
}

// fish finds fish that is eaten raw, or so lightly cooked that the code asks for freezing as for raw fish.
func (f *finder) fish(s *kitchen.Step) {
	marked := slices.Contains(s.Dangers, "raw-fish")
	switch {
	case marked && !f.anyHeat():
		f.say(s.ID, "mind", RawFish, message.Of("safety.raw-fish", "limit", f.limit(RawFish)))
	case heats(s) && (marked || slices.ContainsFunc(f.c.Steps, func(x kitchen.Step) bool { return slices.Contains(x.Dangers, "raw-fish") })):
		if t := lowest(s); t > 0 && t < f.code.core[RawFish] {
			f.say(s.ID, "mind", RawFish, message.Of("safety.fish-light", "limit", f.limit(RawFish), "celsius", t))
		}
	}
}

// cooked compares what a step cooks to with what the code asks for.
func (f *finder) cooked(s *kitchen.Step, on Subject) {
	limit := f.limit(on)
	if f.under == kitchen.CodeUKEU {
		limit = equalOf(limit, s)
	}
	state := "mind"
	said := message.Of("safety.cooked", "what", nameOf(on), "limit", limit)
	if t := lowest(s); t > 0 && t < f.code.core[on] {
		// A lower core for longer may equal it; what is written does not say how long, so the number stands beside the limit.
		said = message.Of("safety.cooked-to", "what", nameOf(on), "limit", limit, "celsius", t)
		if t < 60 || f.under == kitchen.CodeFDA && on == Poultry {
			state = "fault"
		}
	}
	f.say(s.ID, state, on, said)
}

// nameOf is the name of a meat.
func nameOf(on Subject) message.Message {
	switch on {
	case Minced:
		return message.Of("safety.of-minced")
	case Rolled:
		return message.Of("safety.of-rolled")
	case Game:
		return message.Of("safety.of-game")
	default:
		return message.Of("safety.of-poultry")
	}
}

// equals are temperatures and times that UK practice takes as equal to 70 °C for 2 min.
var equals = []struct {
	c    float64
	long time.Duration
}{{60, 45 * time.Minute}, {65, 10 * time.Minute}, {70, 2 * time.Minute}, {75, 30 * time.Second}, {80, 6 * time.Second}}

// equalOf says the UK's limit with what the step's own setpoint would need.
func equalOf(usual message.Message, s *kitchen.Step) message.Message {
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

// lowest is the lowest core temperature that a step is done at: of its checks; 0 when none is said.
func lowest(s *kitchen.Step) float64 {
	out := 0.0
	for _, k := range s.Checks {
		if k.TargetC != nil && (out == 0 || *k.TargetC < out) {
			out = *k.TargetC
		}
	}
	return out
}

// firstHeat reports whether nothing heated the component before a step.
func (f *finder) firstHeat(s *kitchen.Step) bool {
	for _, x := range append(f.c.InPhase(kitchen.Ahead), f.c.InPhase(kitchen.PickUp)...) {
		if x.ID == s.ID {
			return true
		}
		if heats(&x) {
			return false
		}
	}
	return true
}

func (f *finder) anyHeat() bool {
	return slices.ContainsFunc(f.c.Steps, func(s kitchen.Step) bool { return heats(&s) })
}

func (f *finder) brings(a kitchen.Allergen) bool { return f.book.Has(f.c, a) }

// isAnimal reports whether a component has meat, fish or shellfish in it, or its words suggest so.
func (f *finder) isAnimal() bool {
	for _, a := range []kitchen.Allergen{"fish", "crustaceans", "molluscs", "eggs"} {
		if f.brings(a) {
			return true
		}
	}
	if f.book.HasMatter(f.c, kitchen.Meat) {
		return true
	}
	return slices.ContainsFunc(f.book.Suggestions(f.c), func(s kitchen.Suggestion) bool {
		return s.Matter == kitchen.Meat || s.Matter == kitchen.Pork || s.Allergen == "fish"
	})
}

// bought finds what is said of the goods themselves.
func (f *finder) bought() {
	if w := f.word(pulseWords); w != "" {
		f.say("", "mind", Pulses, message.Of("safety.bought", "what", w, "limit", f.limit(Pulses)))
	}
	if w := f.word(sproutWords); w != "" && !f.hasWord(notSprouts) {
		f.say("", "mind", Sprouts, message.Of("safety.bought", "what", w, "limit", f.limit(Sprouts)))
	}
	if w := f.word(wildWords); w != "" {
		f.say("", "mind", Wild, message.Of("safety.bought", "what", w, "limit", f.limit(Wild)))
	}
}
