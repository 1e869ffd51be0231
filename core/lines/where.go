package lines

import (
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Where something is done that does not say it: by its verb, by how hot it is, by what it lies in.

// ovenFrom is from how hot on something is cooked in an oven where nobody says in what, °C: common practice, no source.
const ovenFrom = 100.0

// boiling is what stands on the stove, flame is how it is told how hot that is, side how something lies in a pan.
var (
	boiling = pattern("in [the|a|some] (boiling|simmering|seasoned boiling|hot|foaming|sizzling) [salted] " +
		"(water|stock|oil|fat|butter|milk|broth|syrup)")
	onTheBoil = pattern("((in|into) [the|a|some] (boiling|simmering) [salted] (water|stock|oil|fat|milk|broth|syrup)|from boiling)")
	flame     = pattern("(low|medium|high|full|gentle|fierce|moderate|lowest|highest|medium high|medium low|big|strong|lively|small|tiny|bare) (heat|flame)")
	dial      = pattern("on (low|medium|high|full)")
	side      = pattern("(skin|fat|flesh|presentation) [side] down")
)

// onStove reports whether a line that does not say where speaks of the stove all the same.
func (r *reader) onStove(verb string) bool {
	unclear := verb == "" || plainVerbs[verb]
	if (unclear || verb == "stir" || verb == "whisk") && r.hasWord(overHeat...) || verb == "seal" && !r.hasWord("vacuum", "bag", "bags", "lid",
		"jar", "jars", "parcel", "parcels", "ravioli", "edges") {
		return true
	}
	if _, ok := r.findAnywhere(onTheBoil); ok { // whatever is done: it is done in what boils
		return true
	}
	for _, p := range [][]node{boiling, flame, dial, side} {
		if _, ok := r.findAnywhere(p); ok && (unclear || &p[0] == &flame[0]) {
			return true
		}
	}
	return false
}

// fryerFrom is from what heat on it is fried in deep fat where nobody says in what, °C: nobody knows how hot a pan is; common practice, no
// source.
const fryerFrom, hottestFat = 120.0, 200.0

// quickFry is up to what length something hot that is not named may be fried as well as baked, seconds: common practice, no source.
const quickFry = 300

// longestFry is up to what length anything is in deep fat, seconds: longer, it is confit; common practice, no source.
const longestFry = 1800

// deepFat is what is done in deep fat where its heat is said, neverInOven what no oven does; common practice, no source.
var (
	deepFat     = set("fry velvet blanch drop crisp colour puff")
	neverInOven = set("simmer poach sweat reduce sauté saute scald wilt parboil soft-boil hard-boil scramble deglaze mount stir-fry wok")
)

// deepFried are things that are fried in deep fat where their heat is said; gentle is what is done in a pan below boiling; common practice,
// no source.
var (
	deepFried = strings.Fields(
		"chips fries beignet beignets doughnut doughnuts tempura croquettes croquette fritters fritter churros arancini " +
			"whitebait bhajis samosas nuggets crackling puffs falafel")
	gentle = set("poach confit simmer cook melt warm heat reheat render clarify scald stir whisk temper infuse braise stew baste")
)

// inLid reports whether something is steamed in a pan on the stove: with a flame under it, or shells that open.
func (r *reader) inLid() bool {
	_, ok := r.findAnywhere(flame)
	return ok || r.hasWord("mussels", "clams", "cockles")
}

// placed finds where a step is done: as it was said, else by its verb.
func (r *reader) placed(s *kitchen.Step, d doing, verb string) {
	if r.place(s, true) {
		r.late(s.Equipment)
		return
	}
	on := d.on
	if verb == "toast" && r.hasWord("bread", "brioche", "sourdough", "bun", "buns", "slices", "toasts", "crumpet", "muffin", "bagel",
		"baguette") {
		on = kitchen.Salamander
	}
	switch { // what is done on the bench with some things, and in a pan with all else
	case verb == "bloom" && !r.hasWord("gelatine", "gelatin", "leaves", "yeast", "dough"),
		verb == "temper" && !r.hasWord("chocolate", "couverture", "butter"):
		on = kitchen.Burner
	}
	if on == "" && r.onStove(verb) {
		on = kitchen.Burner
	}
	r.looseHeat()
	bath := kitchen.WaterBath
	if r.heat != nil && r.heat.high < ovenFrom && (verb == "cook" || verb == "confit") && r.known.equipment(&bath) {
		on = bath
	}
	if r.heat != nil && r.heat.low >= ovenFrom && verb == "finish" {
		on = kitchen.Oven
	}
	if r.heat != nil && r.heat.low >= ovenFrom && on == kitchen.Burner && verb != "boil" {
		if r.heat.low >= fryerFrom && r.heat.high <= hottestFat && r.longest() <= longestFry &&
			(deepFat[verb] || r.hasWord("oil", "fat", "dripping", "lard")) {
			on = kitchen.Fryer
		} else if on = kitchen.Oven; neverInOven[verb] { // nobody says how hot a pan is
			r.doubt(message.Of("line.where"))
		}
	}
	if r.heat != nil && r.heat.low >= fryerFrom && on == "" {
		if r.heat.high <= hottestFat && r.longest() <= quickFry && !r.hasWord(deepFried...) {
			r.doubt(message.Of("line.where")) // a fryer or an oven
		}
		if on = kitchen.Oven; r.hasWord(deepFried...) && r.heat.high <= hottestFat { // no hands are as hot
			on = kitchen.Fryer
		}
	}
	if r.heat != nil && r.heat.low < ovenFrom && on == kitchen.Burner && !gentle[verb] {
		r.doubt(message.Of("line.where"))
	}
	if on == kitchen.Steamer && verb == "steam" && r.inLid() {
		on = kitchen.Burner
	}
	if r.noPlace || on == "" || r.tool() || !r.known.equipment(&on) {
		r.heat = nil
		return
	}
	e := &kitchen.EquipmentNeed{Kind: on, Units: 1}
	s.Equipment = e
	name := strings.ReplaceAll(string(on), "-", " ")
	r.assume(message.Of("line.assumed-by", "what", message.Of("line.on", "equipment", name), "by", strings.ReplaceAll(verb, "-", " ")),
		"without equipment")
	if r.heat != nil {
		r.takeHeat()
		r.heatOf(e)
	}
}
