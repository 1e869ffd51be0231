package kitchen

import "slices"

// Matter is what a recipe brings in that law does not want named and diets ask after.
type Matter string

// The matters. Eggs, milk, fish, crustaceans and molluscs are allergens, and diets ask after those by their names there.
const (
	Meat     Matter = "meat"     // of a land animal, its fat, bones and stock
	Pork     Matter = "pork"     // meat of a pig: meat as well
	Blood    Matter = "blood"    // of any animal
	Gelatine Matter = "gelatine" // from hide or bone, where the supplier said nothing else of a pig or of cattle
	Honey    Matter = "honey"    // and wax
	Alcohol  Matter = "alcohol"  // put in, also where it is boiled afterwards: some of it stays
	Raw      Matter = "raw"      // an animal's, and eaten raw or nearly so
)

// Matters lists them in the order in which they are offered.
func Matters() []Matter { return []Matter{Meat, Pork, Blood, Gelatine, Honey, Alcohol, Raw} }

// matterWords are the words that suggest a matter, as those of allergens do: common practice, no source.
var matterWords = map[Matter][]string{
	Meat: {"meat", "beef", "veal", "lamb", "mutton", "hogget", "goat", "kid goat", "chicken", "hen", "fowl", "duck", "goose", "turkey",
		"guinea fowl", "rabbit",
		"hare", "venison", "boar", "partridge", "pigeon", "quail", "pheasant", "grouse", "ox", "oxtail", "bone", "bones", "bone marrow",
		"suet", "dripping",
		"tallow", "liver", "livers", "kidney", "kidneys", "sweetbread", "sweetbreads", "tripe", "tongue", "sausage", "sausages", "salami",
		"demi-glace"},
	Pork: {"pork", "pig", "bacon", "ham", "lard", "gammon", "pancetta", "prosciutto", "chorizo", "guanciale", "lardo", "lardon", "lardons",
		"trotter", "trotters", "crackling", "black pudding"},
	Blood:    {"blood", "black pudding"},
	Gelatine: {"gelatine", "gelatin", "aspic", "isinglass", "marshmallow", "marshmallows"},
	Honey:    {"honey", "mead", "honeycomb", "beeswax"},
	Alcohol: {"wine", "beer", "ale", "stout", "cider", "vermouth", "brandy", "rum", "whisky", "whiskey", "port", "sherry", "madeira",
		"marsala", "liqueur",
		"kirsch", "cognac", "calvados", "vodka", "gin", "mirin", "sake", "spirit", "aquavit"},
	Raw: {"raw egg", "raw eggs", "raw yolk", "raw fish", "raw beef", "tartare", "carpaccio", "ceviche", "sashimi"},
}

// harmless are words in which one of those stands for something else.
var harmless = longestFirst([]string{"wine vinegar", "white wine vinegar", "red wine vinegar", "cider vinegar", "sherry vinegar",
	"malt vinegar", "ginger beer",
	"ginger ale", "root beer", "beef tomato", "beef tomatoes", "lamb's lettuce", "kidney bean", "kidney beans", "duck egg", "duck eggs",
	"hen egg", "hen eggs",
	"goose egg", "quail egg", "quail eggs", "chicken egg", "chicken eggs", "hen of the woods", "chicken of the woods", "ox heart tomato",
	"goat cheese",
	"goat's cheese", "goat milk", "goat curd", "coconut meat", "vegetarian gelatine", "ham hock herb", "liver of sulphur", "fish bone",
	"fish bones", "bone dry", "raw fish slice"})

var (
	matterSought   = spacedOf(matterWords)
	harmlessSought = spaced(harmless)
)

func (m Matter) suggestion(word, in string) Suggestion {
	return Suggestion{Matter: m, Word: word, In: in}
}

// suggestsMatter lists the matters that the words of a text suggest, with the word of each.
func suggestsMatter(text string) (out []Suggestion) {
	t := spacedWords(text)
	for _, in := range harmlessSought {
		t = without(t, in)
	}
	for _, m := range Matters() {
		if w := longestIn(t, matterWords[m], matterSought[m]); w != "" {
			out = append(out, m.suggestion(w, text))
		}
	}
	return out
}

// MattersOf are the matters of an ingredient with what they are as well: pork is meat.
func (g *Ingredient) MattersOf() []Matter {
	out := slices.Clone(g.Matters)
	if slices.Contains(out, Pork) && !slices.Contains(out, Meat) {
		out = append(out, Meat)
	}
	return out
}

func checkMatters(f finder, list []Matter) {
	for i, m := range list {
		oneOf(f.at("[%d]", i), m, Matters())
	}
}
