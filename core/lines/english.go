package lines

import "jointime/core/kitchen"

// The words of English kitchens. Another language would be another table of each; common practice, no source.

// equipmentWords are what cooks call what they cook on. An empty kind is a tool that nobody has to wait for: it is heard, and not booked.
var equipmentWords = map[string]kitchen.EquipmentKind{
	"oven": kitchen.Oven, "combi oven": kitchen.Oven, "combi": kitchen.Oven, "fan oven": kitchen.Oven, "deck oven": kitchen.Oven,
	"convection oven": kitchen.Oven,
	"pan":             kitchen.Burner, "frying pan": kitchen.Burner, "fry pan": kitchen.Burner, "sauté pan": kitchen.Burner,
	"saute pan": kitchen.Burner,
	"sauce pan": kitchen.Burner, "saucepan": kitchen.Burner, "pot": kitchen.Burner, "stock pot": kitchen.Burner, "stockpot": kitchen.Burner,
	"skillet": kitchen.Burner, "wok": kitchen.Burner, "casserole": kitchen.Burner, "hob": kitchen.Burner, "stove": kitchen.Burner,
	"stove top": kitchen.Burner, "stovetop": kitchen.Burner, "burner": kitchen.Burner, "burner pan": kitchen.Burner, "ring": kitchen.Burner,
	"induction": kitchen.Burner, "flame": kitchen.Burner, "grill pan": kitchen.Burner, "griddle pan": kitchen.Burner,
	"pressure cooker": kitchen.Burner,
	"bain marie":      kitchen.Burner, "double boiler": kitchen.Burner, "roasting pan": kitchen.Oven, "kettle": kitchen.Burner,
	"grill": kitchen.Grill, "char grill": kitchen.Grill, "chargrill": kitchen.Grill, "charcoal grill": kitchen.Grill,
	"barbecue": kitchen.Grill, "coals": kitchen.Grill,
	"plancha": kitchen.Plancha, "griddle": kitchen.Plancha, "flat top": kitchen.Plancha, "flattop": kitchen.Plancha, "hot plate": kitchen.Plancha,
	"fryer": kitchen.Fryer, "deep fryer": kitchen.Fryer, "deep fat": kitchen.Fryer, "deep fat fryer": kitchen.Fryer,
	"water bath": kitchen.WaterBath, "waterbath": kitchen.WaterBath, "sous vide": kitchen.WaterBath, "sous vide bath": kitchen.WaterBath,
	"bath":       kitchen.WaterBath,
	"circulator": kitchen.WaterBath, "steamer": kitchen.Steamer, "steam oven": kitchen.Steamer, "steaming basket": kitchen.Steamer,
	"steamer basket": kitchen.Steamer,
	"salamander":     kitchen.Salamander, "top heat": kitchen.Salamander, "holding": kitchen.Holding, "holding cabinet": kitchen.Holding,
	"hot cupboard":  kitchen.Holding,
	"warm cupboard": kitchen.Holding, "hot hold": kitchen.Holding, "hot box": kitchen.Holding, "warmer": kitchen.Holding,
	"warming drawer": kitchen.Holding,
	"fridge":         kitchen.Fridge, "refrigerator": kitchen.Fridge, "walk in": kitchen.Fridge, "cold room": kitchen.Fridge,
	"cooler": kitchen.Fridge, "chiller": kitchen.Fridge,
	"freezer": kitchen.Freezer, "blast chiller": kitchen.BlastChiller, "blast freezer": kitchen.BlastChiller, "blast": kitchen.BlastChiller,
	"blender": kitchen.Blender, "food processor": kitchen.Blender, "processor": kitchen.Blender, "jug blender": kitchen.Blender,
	"mixer": kitchen.Mixer, "stand mixer": kitchen.Mixer, "dehydrator": kitchen.Dehydrator, "drying cabinet": kitchen.Dehydrator,
	"churn":             kitchen.Churn,
	"ice cream machine": kitchen.Churn, "bench": kitchen.Bench, "small ware": kitchen.SmallWare, "pass": kitchen.Pass,
	"stick blender": "", "hand blender": "", "immersion blender": "", "hand mixer": "", "torch": "", "blow torch": "", "blowtorch": "",
	"ice bath": "", "ice water": "",
	"cold pan": kitchen.Burner,
}

// onlyWithIn are words of equipment that mean something else as well: they count only behind in, on, into, under.
var onlyWithIn = map[string]bool{"ring": true, "pass": true, "bench": true, "blast": true, "flame": true, "holding": true, "coals": true,
	"kettle": true,
	"bath":   true, "grill": true, "mixer": true, "churn": true, "casserole": true, "pan": true, "pot": true, "cooler": true,
	"induction": true, "small ware": true,
	"chiller": true, "warmer": true, "processor": true, "blender": true, "stove": true, "hob": true, "griddle": true, "skillet": true, "wok": true}

// besides are words between in and what it is in: in a hot dry pan.
var besides = map[string]bool{"the": true, "a": true, "an": true, "my": true, "its": true, "hot": true, "cold": true, "clean": true,
	"dry": true, "heavy": true,
	"large": true, "small": true, "wide": true, "deep": true, "big": true, "smoking": true, "oiled": true, "buttered": true, "same": true,
	"second":  true,
	"another": true, "lidded": true, "covered": true, "non": true, "stick": true, "cast": true, "iron": true, "preheated": true,
	"low": true, "medium": true,
	"moderate": true, "very": true, "warm": true, "cool": true, "shallow": true, "fan": true, "still": true, "slow": true, "copper": true,
	"steel": true}

// ovens by name, as ranges in °C, in a still oven: heat.Named in the words that cooks have for it.
var ovenWords = map[string]string{"very low": "very low", "very cool": "very low", "very slow": "very low", "low": "low", "cool": "low",
	"slow":     "low",
	"moderate": "moderate", "medium": "moderate", "hot": "hot", "very hot": "very hot"}

// doing is what a verb means for the hands, and where it is done when nothing else says so.
type doing struct {
	hands kitchen.Hands
	on    kitchen.EquipmentKind
	by    bool // the place alone does not tell: where it is done is taken from the verb
}

// verbs are what cooks do, in the form in which a line says it. Hands as in the trade's usual limits: common practice, no source.
var verbs = func() map[string]doing {
	out := map[string]doing{}
	put := func(h kitchen.Hands, on kitchen.EquipmentKind, list ...string) {
		for _, v := range list {
			out[v] = doing{h, on, on != ""}
		}
	}
	put(kitchen.Tend, kitchen.Burner, "simmer", "sweat", "reduce", "fry", "sear", "sauté", "saute", "poach", "boil", "brown", "caramelise",
		"caramelize", "render",
		"braise", "stew", "parboil", "confit", "scald", "wilt", "clarify", "drop", "soft-boil", "hard-boil", "dry-fry", "stir-fry", "pan-fry",
		"pan-roast", "cook", "colour", "crisp",
		"shallow-fry", "toast", "baste", "char", "blister")
	put(kitchen.Tend, kitchen.Fryer, "deep-fry")
	put(kitchen.Tend, kitchen.Grill, "grill", "chargrill", "barbecue")
	put(kitchen.Tend, "", "heat", "warm", "melt", "reheat", "bring", "finish", "glaze", "smoke", "infuse-hot")
	put(kitchen.None, kitchen.Oven, "roast", "bake", "blind-bake", "slow-roast")
	put(kitchen.Tend, kitchen.Plancha, "griddle", "plancha")
	put(kitchen.Tend, kitchen.Salamander, "gratinate")
	put(kitchen.None, kitchen.Steamer, "steam")
	put(kitchen.None, kitchen.Dehydrator, "dehydrate")
	put(kitchen.None, "", "soak", "set", "freeze", "cool", "chill", "marinate", "marinade", "cure", "prove", "proof", "dry", "infuse",
		"rest", "stand", "brine", "steep", "sit", "ferment",
		"pickle", "macerate", "thaw", "defrost", "hang", "age", "temper-out", "refrigerate", "leave", "let", "press", "hold", "keep", "wait")
	put(kitchen.Both, kitchen.Burner, "blanch")
	put(kitchen.Both, "", "mount", "dress", "torch", "stir", "whisk", "pipe", "blowtorch", "carve", "chop", "dice", "slice", "peel", "cut", "pick",
		"portion", "fillet", "bone",
		"debone", "trim", "tie", "truss", "roll", "shape", "knead", "mix", "fold", "blend", "pass", "strain", "sieve", "season", "salt",
		"plate", "shuck",
		"scale", "clean", "wash", "butter", "fill", "stuff", "wrap", "skewer", "score", "grate", "zest", "juice", "shell", "pod", "shred",
		"mince", "grind",
		"crush", "purée", "puree", "blitz", "beat", "whip", "cream", "emulsify", "spread", "layer", "line", "brush", "dust", "coat",
		"crumb", "toss", "combine",
		"add", "pour", "weigh", "measure", "prick", "stud", "lard", "bard", "segment", "core-out", "halve", "quarter", "deglaze", "temper",
		"laminate", "crimp",
		"mould", "unmould", "turn-out", "divide", "ball", "quenelle", "scoop", "garnish", "draw", "pluck", "gut", "skin", "descale",
		"butterfly", "rub", "sharpen",
		"vacuum", "bag", "seal", "label", "assemble", "build", "flake", "pull", "sift", "crack", "separate", "muddle", "shake", "spoon",
		"ladle", "drizzle",
		"flambé", "flambe", "refresh", "squeeze", "drain", "rinse", "mash", "rice", "stir-in", "work", "arrange", "shave", "julienne",
		"hull", "stone", "top", "tail")
	return out
}()

// things2 are words that are verbs only where a clause begins with them: everywhere else they are things.
var things2 = map[string]bool{"bread": true, "butter": true, "cream": true, "rice": true, "stone": true, "ball": true, "line": true,
	"top": true, "tail": true,
	"skin": true, "bone": true, "salt": true, "juice": true, "shell": true, "crumb": true, "layer": true, "plate": true, "glaze": true,
	"toast": true, "dress": true,
	"roast": true, "stew": true, "purée": true, "puree": true, "season": true, "dust": true, "coat": true, "bag": true, "label": true,
	"score": true, "fillet": true,
	"steam": true, "smoke": true, "pickle": true, "cure": true, "brine": true, "confit": true, "draw": true, "work": true, "spoon": true,
	"ladle": true, "mince": true,
	"zest": true, "mould": true, "cut": true, "colour": true, "stuff": true, "rest": true, "press": true, "set": true, "braise": true,
	"grill": true, "bake": true,
	"boil": true, "pass": true, "rub": true, "mix": true, "roll": true, "crisp": true, "hold": true, "scale": true, "tie": true,
	"prick": true, "gut": true,
	"quarter": true, "segment": true, "seal": true, "fry": false, "pull": true, "wash": true, "age": true, "dice": true, "slice": true,
	"portion": true,
	"finish":  true, "heat": true, "cool": true, "warm": true, "dry": true, "clean": true, "set-up": true, "turn": true}

// watched are things that are never left, wherever they are: common practice, no source.
var watched = []string{"caramel", "custard", "hollandaise", "sabayon", "béarnaise", "bearnaise", "crème anglaise", "risotto"}

// machines do it by themselves while somebody stands by: an eye on it.
var machines = []kitchen.EquipmentKind{kitchen.Mixer, kitchen.Churn}

// handsOver are what the hands do over the heat all the while.
var handsOver = map[string]bool{"whisk": true, "stir": true, "mount": true, "blanch": true, "beat": true, "flambé": true, "flambe": true,
	"deglaze": true, "toss": true,
	"emulsify": true, "mash": true, "stir-in": true, "refresh": true, "torch": true, "drain": true}

// byItself is where something goes by itself.
var byItself = []kitchen.EquipmentKind{kitchen.Oven, kitchen.WaterBath, kitchen.Steamer, kitchen.Holding, kitchen.Fridge, kitchen.Freezer,
	kitchen.BlastChiller, kitchen.Dehydrator}

// watchedOver is where something wants an eye, whatever is done.
var watchedOver = []kitchen.EquipmentKind{kitchen.Burner, kitchen.Plancha, kitchen.Grill, kitchen.Fryer, kitchen.Salamander}

// waitVerbs begin a line that is a wait.
var waitVerbs = map[string]bool{"rest": true, "wait": true, "hold": true, "keep": true, "keeps": true, "holds": true, "stand": true,
	"leave": true, "let": true,
	"cool": true, "chill": true, "set": true, "soak": true, "infuse": true, "marinate": true, "marinade": true, "cure": true, "prove": true,
	"proof": true, "dry": true, "steep": true,
	"macerate": true, "refrigerate": true, "serve": true, "straight": true, "immediately": true, "may": true, "can": true, "will": true,
	"best": true, "use": true,
	"within": true, "no": true, "not": true, "up": true, "good": true, "at": true, "allow": true, "sit": true, "temper": true, "as": true,
	"hang":  true,
	"relax": true, "freeze": true, "brine": true}

// nobodys are what is never a section, a person or a step, though it stands behind by or after.
var nobodys = map[string]bool{"half": true, "hand": true, "a": true, "an": true, "the": true, "itself": true, "third": true,
	"quarter": true, "two": true, "eye": true,
	"weight": true, "volume": true, "ear": true, "sight": true, "touch": true, "taste": true, "now": true, "then": true, "heart": true,
	"feel": true, "far": true,
	"piece": true, "about": true, "least": true, "one": true, "colour": true, "smell": true, "time": true, "machine": true, "all": true,
	"mouth": true, "order": true,
	"which": true, "that": true, "this": true, "service": true}
