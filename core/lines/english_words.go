package lines

import (
	"strings"

	"jointime/core/kitchen"
)

// The little words: of times, of amounts, of wishes, and those that belong to nothing.

// loose are words that stand between a name and what was understood, and belong to neither.
var loose = set(
	"for at and then in on into onto with to about around the a an of plus set heated preheated first from & or until till just over " +
		"under when next finally by is after before max maximum tops")

// tying are those that tie what was taken to what follows it, and are no part of that.
var tying = set(
	"for and then at about around plus or of first just & is next finally")

// timeWords and waitWords look like a time or a wait where nothing has taken them.
var timeWords = set(
	"minute minutes mins min hour hours hr hrs sec secs seconds overnight")
var waitWords = set("until till wait meanwhile")

// keptWords are how something is kept while it waits.
var keptWords = set(
	"covered uncovered cover under foil cloth loosely lid rack liquor its in on a the damp film with and skin fat flesh side up down tray wrapped " +
		"sealed juices brine marinade water ice over paper somewhere airtight an bath oil box bag")

// fillers are words of a wait that add nothing.
var fillers = set(
	"rest wait hold keep keeps holds lasts stand leave let it them for allow to serve then and the cool chill set best at least in on use may " +
		"can will but a all of relax this well again about before minimum maximum completely serving carving slicing plating is down")

// touchWords are what is done inside a step, in the forms in which a line says it.
var touchWords = map[string]string{"turn": "turn", "turning": "turn", "turned": "turn", "flip": "turn", "flipping": "turn",
	"baste": "baste", "basting": "baste",
	"stir": "stir", "stirring": "stir", "skim": "skim", "skimming": "skim", "toss": "toss", "tossing": "toss", "shake": "shake",
	"shaking": "shake", "rotate": "rotate", "rotating": "rotate", "brush": "brush", "brushing": "brush", "spin": "turn", "add": "",
	"glaze": "glaze", "glazing": "glaze", "pour": "", "drain": "", "top": "", "move": "", "whisk": "whisk", "whisking": "whisk", "spray": "",
	"look": "look", "check": "check", "lid": "", "cover": ""}

// thingWords are what goes in and must come out again; common practice, no source.
var thingWords = set(
	"twine string skewer skewers stick sticks clove cloves bay bouquet muslin foil paper cartouche weights beans ring rings pin pins bag " +
		"thyme rosemary garlic cinnamon anise bones bone peel vanilla lid film cling")

// wishWords may stand in a wish's name.
var wishWords = set(
	"well done rare medium blue pink large small thin thick extra very crisp soft hard runny firm big little through over easy")

// reductions are how far something is boiled down: by half, by 80 %, to a syrup. They stay in the name, and are a check too.
var reductions = strings.Fields(
	"syrup glaze nappe jam paste demi dry sec nothing")

// senseWords tell by which sense a condition is judged; common practice, no source.
var senseWords = map[kitchen.CheckKind][]string{
	"touch": strings.Fields("tender firm springy springs soft set skewer knife press pressed wobble wobbles resistance flakes " +
		"stiff stiffens yields bounces " +
		"spring tacky smooth elastic peaks gives crisp probe bite dente"),
	"taste":  strings.Fields("sharp seasoned balanced sweet sour salty taste tastes bitter"),
	"smell":  strings.Fields("smell smells fragrant aroma aromatic nutty perfumed"),
	"sound":  strings.Fields("sound sounds crackle crackles crackling sizzle sizzles sizzling hollow quiet silent popping pop hiss"),
	"weight": strings.Fields("weighs weigh half third quarter reduced grams weight"),
}

// amountUnits are words that make a number an amount, a size or a count, never a time or a heat.
var amountUnits = set(
	"g kg mg ml cl l dl litre litres mm cm portion portions pieces piece plates covers eggs yolks leaves cups cup tbsp tsp spoons times " +
		"layers trays oz lb bar")

// heatUnits are the words and signs of degrees.
var heatUnits = set(
	"° º degree degrees deg c f celsius fahrenheit centigrade ℃ ℉")

// units of time in seconds.
var units = map[string]float64{
	"week": 604800, "weeks": 604800, "d": 86400, "day": 86400, "days": 86400,
	"h": 3600, "hr": 3600, "hrs": 3600, "hour": 3600, "hours": 3600,
	"m": 60, "min": 60, "mins": 60, "minute": 60, "minutes": 60, "'": 60, "’": 60, "′": 60,
	"s": 1, "sec": 1, "secs": 1, "second": 1, "seconds": 1, "\"": 1, "″": 1,
}

// numberWords are numbers that are written out.
var numberWords = map[string]float64{
	"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11, "twelve": 12,
	"fifteen": 15, "eighteen": 18, "twenty": 20, "twenty-five": 25, "thirty": 30, "thirty-five": 35, "forty": 40, "forty-five": 45,
	"fifty": 50, "sixty": 60, "ninety": 90,
}
