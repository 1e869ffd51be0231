package lines

import (
	"strings"

	"jointime/core/kitchen"
)

// The words of English kitchens: where things are done, what is done, what waits. Another language would be another table of each; common
// practice, no source. The little words are in english_words.go.

// set is a set of words with spaces between.
func set(words string) map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(words) {
		out[w] = true
	}
	return out
}

// equipmentWords are what cooks call what they cook on. An empty kind is a tool that nobody has to wait for: it is heard, and not booked.
var equipmentWords = func() map[string]kitchen.EquipmentKind {
	out := map[string]kitchen.EquipmentKind{}
	put := func(k kitchen.EquipmentKind, list string) {
		for _, w := range strings.Split(list, ", ") {
			out[w] = k
		}
	}
	put(kitchen.Oven, "oven, combi oven, combi, fan oven, deck oven, convection oven, roasting pan")
	put(kitchen.Burner, "pan, frying pan, fry pan, sauté pan, saute pan, sauce pan, saucepan, pot, stock pot, stockpot, skillet, "+
		"wok, casserole, hob, stove, "+
		"stove top, stovetop, burner, burner pan, ring, induction, flame, grill pan, griddle pan, pressure cooker, bain marie, "+
		"double boiler, kettle, cold pan")
	put(kitchen.Grill, "grill, char grill, chargrill, charcoal grill, barbecue, coals, charcoal, embers, bars")
	put(kitchen.Plancha, "plancha, griddle, flat top, flattop, hot plate")
	put(kitchen.Fryer, "fryer, deep fryer, deep fat, deep fat fryer")
	put(kitchen.WaterBath, "water bath, waterbath, sous vide, sous vide bath, bath, circulator")
	put(kitchen.Steamer, "steamer, steam oven, steaming basket, steamer basket")
	put(kitchen.Salamander, "salamander, top heat")
	put(kitchen.Holding, "holding, holding cabinet, hot cupboard, warm cupboard, hot hold, hot box, warmer, warming drawer")
	put(kitchen.Fridge, "fridge, refrigerator, walk in, cold room, cooler, chiller")
	put(kitchen.Freezer, "freezer")
	put(kitchen.BlastChiller, "blast chiller, blast freezer, blast")
	put(kitchen.Blender, "blender, food processor, processor, robot, jug blender")
	put(kitchen.Mixer, "mixer, stand mixer")
	put(kitchen.Dehydrator, "dehydrator, drying cabinet")
	put(kitchen.Churn, "churn, ice cream machine")
	put(kitchen.Bench, "bench")
	put(kitchen.SmallWare, "small ware")
	put(kitchen.Pass, "pass")
	put("", "stick blender, hand blender, immersion blender, hand mixer, torch, blow torch, blowtorch, ice bath, ice water")
	return out
}()

// onlyWithIn are words of equipment that mean something else as well: they count only behind in, on, into, under.
var onlyWithIn = set(
	"ring pass bench blast flame holding coals charcoal embers bars " +
		"kettle bath grill mixer churn casserole pan pot cooler induction chiller warmer " +
		"processor robot " +
		"blender stove hob griddle skillet wok")

// besides are words between in and what it is in: in a hot dry pan.
var besides = set(
	"the a an my its hot cold clean dry heavy large small wide deep big smoking oiled buttered same second another lidded covered non " +
		"stick cast iron preheated screaming scorching roaring rolling low medium moderate very warm cool shallow fan still slow copper steel")

// outOf are the words in front of what it comes out of, or goes through: it is not done there.
var outOf = set(
	"of from through off out before no")

// inside are the words in front of what it is in.
var inside = set(
	"in on into onto under over using inside via with")

// ovenWords are ovens by name, as ranges in °C, in a still oven: heat.Named in the words that cooks have for it.
var ovenWords = map[string]string{"very low": "very low", "very cool": "very low", "very slow": "very low", "low": "low", "cool": "low",
	"slow":     "low",
	"moderate": "moderate", "medium": "moderate", "hot": "hot", "very hot": "very hot"}

// doing is what a verb means for the hands, and where it is done when nothing else says so.
type doing struct {
	hands kitchen.Hands
	on    kitchen.EquipmentKind
}

// verbs are what cooks do, in the form in which a line says it; two words with a hyphen are one verb, however they are written. Hands as in
// the trade's usual limits: common practice, no source.
var verbs = func() map[string]doing {
	out := map[string]doing{}
	put := func(h kitchen.Hands, on kitchen.EquipmentKind, list string) {
		for _, v := range strings.Fields(list) {
			out[v] = doing{h, on}
		}
	}
	put(kitchen.Tend, kitchen.Burner,
		"simmer sweat reduce fry sear sauté saute poach boil brown caramelise caramelize render braise stew parboil confit scald wilt "+
			"clarify drop soft-boil hard-boil dry-fry pan-fry pan-roast cook colour crisp shallow-fry toast baste char blister "+
			"heat warm melt reheat glaze sizzle")
	put(kitchen.Tend, kitchen.Fryer, "deep-fry tempura")
	put(kitchen.Tend, kitchen.Churn, "churn")
	put(kitchen.Tend, kitchen.Grill, "grill chargrill barbecue")
	put(kitchen.Tend, "", "bring finish smoke")
	put(kitchen.None, kitchen.Oven, "roast bake blind-bake slow-roast")
	put(kitchen.Tend, kitchen.Plancha, "griddle plancha")
	put(kitchen.Tend, kitchen.Salamander, "gratinate")
	put(kitchen.None, kitchen.Steamer, "steam")
	put(kitchen.None, kitchen.Dehydrator, "dehydrate")
	put(kitchen.None, "", "bloom soak set freeze cool chill marinate marinade cure prove proof dry infuse rest stand brine steep sit "+
		"ferment pickle macerate thaw "+
		"defrost hang age refrigerate leave let press hold keep wait")
	put(kitchen.Both, kitchen.Burner, "blanch stir-fry wok scramble mount deglaze flambé flambe velvet")
	put(kitchen.Both, "", "dress torch stir whisk pipe blowtorch carve chop dice slice peel cut pick portion fillet bone "+
		"debone trim tie truss roll "+
		"shape knead mix fold blend pass strain sieve season salt plate shuck scale clean wash butter fill stuff wrap skewer score grate "+
		"zest juice shell pod shred mince grind crush purée puree blitz beat whip cream emulsify spread layer line brush dust coat crumb "+
		"toss combine add pour weigh measure prick stud lard bard segment halve quarter temper laminate crimp mould unmould divide "+
		"ball quenelle scoop garnish draw pluck gut skin descale butterfly rub sharpen vacuum bag seal label assemble build flake pull sift "+
		"crack separate muddle shake spoon ladle drizzle refresh squeeze drain rinse mash rice work arrange shave julienne "+
		"hull stone top tail")
	return out
}()

// participles are the verbs of heat in the form of what has been done.
var participles = map[string]string{"baked": "bake", "roasted": "roast", "fried": "fry", "grilled": "grill", "steamed": "steam",
	"poached": "poach", "braised": "braise", "blanched": "blanch", "charred": "char", "seared": "sear", "sweated": "sweat",
	"simmered": "simmer", "boiled": "boil", "toasted": "toast", "stewed": "stew", "sautéed": "sauté", "caramelised": "caramelise",
	"confited": "confit", "blitzed": "blend", "blended": "blend", "picked": "pick", "rolled": "roll", "tied": "tie", "chopped": "chop",
	"diced": "dice", "sliced": "slice", "whipped": "whip", "whisked": "whisk", "mixed": "mix", "shaped": "shape", "kneaded": "knead",
	"folded": "fold", "piped": "pipe", "portioned": "portion", "filleted": "fillet", "peeled": "peel", "trimmed": "trim", "carved": "carve",
	"shredded": "shred", "grated": "grate", "crushed": "crush", "strained": "strain", "dressed": "dress", "marinated": "marinate",
	"cured": "cure", "brined": "brine", "soaked": "soak", "pickled": "pickle", "infused": "infuse"}

// minuteVerbs are verbs behind which a bare number is minutes; common practice, no source.
var minuteVerbs = set(
	"simmer boil cook fry roast bake rest sit stand steam poach sweat reduce grill toast infuse blend knead mix whisk beat chill " +
		"sear braise stew soak cool prove blanch render brown melt wait leave hold")

// plainVerbs say what the hands do where no other verb does; each is a thing as well, or goes with what is truly done: lay in a pan.
var plainVerbs = set(
	"make prepare open blot joint tuck tear wipe pat dip dredge stick twist knock hollow core deseed seed pit sort strip tidy polish " +
		"load spray flour grease oil mark test taste check decant bottle jar break spin punch loosen thin " +
		"smear swirl dot tweeze count remove chiffonade baton brunoise twirl pile stack sprinkle " +
		"unwrap unpack bind lacquer paint glue sew tap")

// negations are the words that turn a verb into what is not done.
var negations = strings.Fields("don't dont not never don’t without")

// waitsItself are verbs of waiting as they are said of the thing itself: the hollandaise holds an hour.
var waitsItself = set(
	"holds keeps rests waits stands sits marinates cures soaks proves chills cools freezes infuses steeps sets hangs relaxes " +
		"brines macerates lasts")

// waited are verbs of waiting in the form of what has been done, with a time of their own: proved 40 min.
var waited = set("proved rested soaked marinated chilled cured brined infused steeped salted frozen cooled macerated pickled")

// sameStill are words of a time that belongs to what went before: the other side, so much more, on fast.
var sameStill = set("side sides more longer further another again other plus slow fast speed high low medium altogether total " +
	"if first second flesh skin fat without")

// overHeat are things that are made in a pan on the stove, whatever is done to them; common practice, no source.
var overHeat = strings.Fields(
	"hollandaise sabayon béarnaise bearnaise custard caramel roux béchamel bechamel velouté veloute risotto polenta " +
		"porridge gravy anglaise blanc bordelaise congee grits")

// whisked are sauces that are whisked over heat all the while: common practice, no source.
var whisked = strings.Fields("hollandaise sabayon béarnaise bearnaise zabaglione")

// byHand are things that are made on the bench by hand, where no verb says more; common practice, no source.
var byHand = strings.Fields(
	"vinaigrette mayonnaise mayo aioli dressing salsa pesto tartare ceviche batter salad slaw guacamole marinade rub " +
		"crumble streusel garnish")

// thingsToo are words that are verbs only where a clause begins with them: everywhere else they are things.
var thingsToo = set(
	"bread butter cream rice stone ball line top tail skin bone salt juice shell crumb layer plate glaze toast dress roast stew purée " +
		"puree season dust coat bag label score fillet steam smoke pickle cure brine confit draw work spoon ladle mince zest mould cut " +
		"colour stuff rest press set braise grill bake boil pass rub mix roll crisp hold scale tie prick gut quarter segment seal pull wash " +
		"age dice slice portion finish heat cool warm dry clean wok")

// watched are things that are never left, wherever they are: common practice, no source.
var watched = strings.Fields(
	"caramel custard hollandaise sabayon béarnaise bearnaise risotto")

// handsOver are what the hands do over the heat all the while.
var handsOver = set(
	"wok stir-fry scramble temper velvet make prepare whisk stir mount blanch beat flambé flambe deglaze toss emulsify mash refresh torch drain")

// waitVerbs begin a line that is a wait.
var waitVerbs = set(
	"rest wait hold keep keeps holds stand leave let cool chill set soak infuse marinate marinade cure prove proof dry steep macerate " +
		"refrigerate serve straight immediately may can will best use within no not up good at allow sit temper as hang relax freeze brine")

// endsWait are verbs of waiting that say when it is over too: cool, set.
var endsWait = set(
	"cool chill set dry freeze")

// nobodys are what is never a section, a person or a step, though it stands behind by or after.
var nobodys = set(
	"half hand a an the itself third quarter two eye weight volume ear sight touch taste now then heart feel far piece about least one " +
		"colour smell time machine all mouth order which that this service")
