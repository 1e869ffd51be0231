package safety

import (
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Subject is what a finding is about.
type Subject string

// The subjects.
const (
	RawFish     Subject = "raw-fish"
	RawEgg      Subject = "raw-egg"
	Poultry     Subject = "poultry"
	Minced      Subject = "minced"
	Rolled      Subject = "rolled"
	Game        Subject = "game"
	LowHeat     Subject = "low-heat"
	Cooling     Subject = "cooling"
	Reheating   Subject = "reheating"
	HotHolding  Subject = "hot-holding"
	ColdHolding Subject = "cold-holding"
	Unchilled   Subject = "unchilled"
	UseBy       Subject = "use-by"
	Bagged      Subject = "bagged"
	Pulses      Subject = "pulses"
	Sprouts     Subject = "sprouts"
	Wild        Subject = "wild"
	Shellfish   Subject = "shellfish"
	Flame       Subject = "flame"
	HotFat      Subject = "hot-fat"
	Steam       Subject = "steam"
	Blade       Subject = "blade"
	Lifting     Subject = "lifting"
	Fumes       Subject = "fumes"
	Pressure    Subject = "pressure"
)

// rule is what a code says of a subject: where, what, and what is usually done.
type rule struct {
	section      string
	limit, usual message.Message
}

// code has the limits of one code.
type code struct {
	name     string
	rules    map[Subject]rule
	coolMost time.Duration
	holdMost time.Duration // below the holding temperature, once
	holdAt   float64       // the holding temperature, °C
	coldAt   float64       // chilled food is kept at this or below, °C
	coldMost time.Duration // chilled food above it, once
	keepMost time.Duration // chilled ready-to-eat food, 0 when the code has no number
	bagMost  time.Duration // in a sealed bag, chilled, with no other control; 0 when the code has no number
	core     map[Subject]float64
	stages   []stage // of cooling
}

// stage is how cold something has to be after how long.
type stage struct {
	c      float64
	within time.Duration
}

// names of what is no code's own.
const practice = "Common practice"

func codeOf(c kitchen.SafetyCode) *code {
	if c == kitchen.CodeFDA {
		return &fda
	}
	return &uk
}

// CodeName is the name of a code's limits.
func CodeName(c kitchen.SafetyCode) string { return codeOf(c).name }

// fda are the limits of the FDA Food Code 2022, from memory.
var fda = code{name: "FDA Food Code 2022", coolMost: 6 * time.Hour, holdMost: 4 * time.Hour, holdAt: 57, coldAt: 5, coldMost: 4 * time.Hour,
	keepMost: 7 * 24 * time.Hour, bagMost: 7 * 24 * time.Hour,
	core:   map[Subject]float64{Poultry: 74, Minced: 68, Rolled: 63, Game: 74, RawEgg: 63, RawFish: 63, Shellfish: 63, Reheating: 74},
	stages: []stage{{21, 2 * time.Hour}, {5, 6 * time.Hour}},
	rules: map[Subject]rule{
		RawFish: {"3-402.11", message.Of("safety.fda-raw-fish"), message.Of("safety.freeze-usual")},
		RawEgg:  {"3-401.11(A)(1), 3-603.11, 3-801.11", message.Of("safety.fda-raw-egg"), message.Of("safety.egg-usual")},
		Poultry: {"3-401.11(A)(3)", message.Of("safety.fda-poultry"), message.Of("safety.probe-usual")},
		Minced:  {"3-401.11(A)(2)", message.Of("safety.fda-minced"), message.Of("safety.probe-usual")},
		Rolled:  {"3-401.11(B)", message.Of("safety.fda-rolled"), message.Of("safety.rolled-usual")},
		Game:    {"3-401.11(A)(3)", message.Of("safety.fda-game"), message.Of("safety.game-usual")},
		LowHeat: {"3-401.11(B), 3-502.12", message.Of("safety.fda-low-heat"), message.Of("safety.low-heat-usual")},
		Cooling: {"3-501.14, 3-501.15", message.Of("safety.fda-cooling"), message.Of("safety.cooling-usual")},
		Reheating: {"3-403.11", message.Of("safety.fda-reheating"),
			message.Of("safety.reheating-usual")},
		HotHolding:  {"3-501.16 and 3-501.19", message.Of("safety.fda-holding"), message.Of("safety.holding-usual")},
		ColdHolding: {"3-501.16", message.Of("safety.fda-cold"), message.Of("safety.cold-usual")},
		Unchilled:   {"3-501.19", message.Of("safety.fda-unchilled"), message.Of("safety.unchilled-usual")},
		UseBy:       {"3-501.17", message.Of("safety.fda-keeping"), message.Of("safety.use-by-usual")},
		Bagged:      {"3-502.12", message.Of("safety.fda-bagged"), message.Of("safety.bagged-usual")},
		Pulses:      {"FDA, Bad Bug Book", message.Of("safety.pulses"), message.Of("safety.pulses-usual")},
		Sprouts:     {"1-201.10", message.Of("safety.sprouts"), message.Of("safety.sprouts-usual")},
		Wild:        {"3-201.16", message.Of("safety.fda-wild"), message.Of("safety.wild-usual")},
		Shellfish:   {"3-202.18, 3-203.12, 3-401.11", message.Of("safety.fda-shellfish"), message.Of("safety.shellfish-usual")},
	}}

// uk are the limits of UK and EU practice, from memory.
var uk = code{name: "UK and EU practice", coolMost: 90 * time.Minute, holdMost: 2 * time.Hour, holdAt: 63, coldAt: 8,
	coldMost: 4 * time.Hour, bagMost: 10 * 24 * time.Hour,
	core:   map[Subject]float64{Poultry: 70, Minced: 70, Rolled: 70, Game: 70, RawEgg: 70, RawFish: 60, Reheating: 70},
	stages: []stage{{8, 90 * time.Minute}},
	rules: map[Subject]rule{
		RawFish:   {"Regulation (EC) 853/2004, Annex III, Section VIII", message.Of("safety.uk-raw-fish"), message.Of("safety.freeze-usual")},
		RawEgg:    {"FSA guidance on eggs", message.Of("safety.uk-raw-egg"), message.Of("safety.egg-usual")},
		Poultry:   {"FSA guidance on cooking", message.Of("safety.uk-poultry"), message.Of("safety.probe-usual")},
		Minced:    {"FSA guidance on cooking", message.Of("safety.uk-minced"), message.Of("safety.probe-usual")},
		Rolled:    {"FSA guidance on cooking", message.Of("safety.uk-rolled"), message.Of("safety.rolled-usual")},
		Game:      {"FSA guidance on cooking, wild game guide", message.Of("safety.uk-game"), message.Of("safety.game-usual")},
		LowHeat:   {"FSA guidance on cooking", message.Of("safety.uk-low-heat"), message.Of("safety.low-heat-usual")},
		Cooling:   {"FSA guidance on chilling", message.Of("safety.uk-cooling"), message.Of("safety.cooling-usual")},
		Reheating: {"FSA guidance on reheating", message.Of("safety.uk-reheating"), message.Of("safety.reheating-usual")},
		HotHolding: {"FSA guidance on hot holding; SI 2013/2996, Schedule 4", message.Of("safety.uk-holding"),
			message.Of("safety.holding-usual")},
		ColdHolding: {"SI 2013/2996, Schedule 4; FSA guidance on chilling", message.Of("safety.uk-cold"), message.Of("safety.cold-usual")},
		Unchilled:   {"SI 2013/2996, Schedule 4", message.Of("safety.uk-unchilled"), message.Of("safety.unchilled-usual")},
		Bagged:      {"FSA guidance on vacuum packing", message.Of("safety.uk-bagged"), message.Of("safety.bagged-usual")},
		Pulses:      {"FSA advice on pulses", message.Of("safety.pulses"), message.Of("safety.pulses-usual")},
		Sprouts:     {"FSA advice on sprouted seeds", message.Of("safety.sprouts"), message.Of("safety.sprouts-usual")},
		Wild:        {"Regulation (EC) 178/2002, Article 14", message.Of("safety.uk-wild"), message.Of("safety.wild-usual")},
		Shellfish: {"Regulation (EC) 853/2004, Annex III, Section VII", message.Of("safety.uk-shellfish"),
			message.Of("safety.shellfish-usual")},
	}}

// work are the dangers of the work itself, under either code. Common practice, no source.
var work = map[Subject]rule{
	Flame:    {"", message.Of("safety.flame"), message.Of("safety.flame-usual")},
	HotFat:   {"", message.Of("safety.hot-fat"), message.Of("safety.hot-fat-usual")},
	Steam:    {"", message.Of("safety.steam"), message.Of("safety.steam-usual")},
	Blade:    {"", message.Of("safety.blade"), message.Of("safety.blade-usual")},
	Lifting:  {"", message.Of("safety.lifting"), message.Of("safety.lifting-usual")},
	Fumes:    {"", message.Of("safety.fumes"), message.Of("safety.fumes-usual")},
	Pressure: {"", message.Of("safety.pressure"), message.Of("safety.pressure-usual")},
}
