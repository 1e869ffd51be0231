package safety_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/safety"
)

// on is a component with one step on something, and what is bought for it.
func on(kind kitchen.EquipmentKind, phase kitchen.Phase, name string, bought ...string) *kitchen.Component {
	s := step("a", phase, kind, 10)
	s.Name = name
	c := &kitchen.Component{Steps: []kitchen.Step{s}}
	for _, b := range bought {
		c.Ingredients = append(c.Ingredients, kitchen.Ingredient{Name: b})
	}
	return c
}

// states are the subjects found of a component with their states.
func states(c *kitchen.Component, under kitchen.SafetyCode) string {
	var out []string
	for _, l := range limits(c, under) {
		out = append(out, string(l.Subject)+" "+l.State)
	}
	return strings.Join(out, ", ")
}

// Words find what nobody marked; what is harmless is let be. FSA guidance on cooking; FDA Food Code 2022, 3-401.11; common practice, no
// source, for the words.
func TestWhatWordsFind(t *testing.T) {
	for _, x := range []struct {
		c    *kitchen.Component
		want string
	}{
		{on(kitchen.Oven, kitchen.PickUp, "Roast", "Chicken"), "poultry mind"},
		{on("", kitchen.PickUp, "Dress", "Chicken"), ""},
		{on(kitchen.Grill, kitchen.PickUp, "Grill", "beef burger"), "minced mind"},
		{on(kitchen.Oven, kitchen.PickUp, "Roast the rolled shoulder", "pork shoulder"), "rolled mind"},
		{on(kitchen.Oven, kitchen.PickUp, "Roast", "Venison loin"), "game mind"},
		{on(kitchen.Oven, kitchen.PickUp, "Roast", "Carrots"), ""},
		{on(kitchen.Burner, kitchen.PickUp, "Steam open", "Mussels"), "shellfish mind"},
		{on(kitchen.Burner, kitchen.PickUp, "Boil", "red beans"), "pulses mind"},
		{on("", kitchen.PickUp, "Dress", "mung bean sprouts"), "sprouts mind"},
		{on("", kitchen.PickUp, "Dress", "Brussels sprouts"), ""},
		{on("", kitchen.PickUp, "Dress", "wild mushrooms"), "wild mind"},
		{on("", kitchen.PickUp, "Dress", "button mushrooms"), ""},
		{on(kitchen.Burner, kitchen.PickUp, "Flambé", "brandy"), "flame mind"},
		{on(kitchen.Fryer, kitchen.PickUp, "Fry", "chips"), "hot-fat mind"},
		{on(kitchen.Burner, kitchen.Ahead, "Pressure cook", "stock"), "pressure mind"},
		{on(kitchen.Burner, kitchen.Ahead, "Toast", "dried chillies"), "fumes mind"},
		{on("", kitchen.Ahead, "Chop", "dried chillies"), ""},
	} {
		for _, under := range []kitchen.SafetyCode{kitchen.CodeUKEU, kitchen.CodeFDA} {
			require.Equal(t, x.want, states(x.c, under), "%s %v %s", x.c.Steps[0].Name, x.c.Ingredients, under)
		}
	}
}

// Each danger of the work has its finding, its word and what usually is done; none speaks of safety as given.
func TestEveryDangerIsSaid(t *testing.T) {
	for danger, want := range map[kitchen.Danger]safety.Subject{"hot-fat": safety.HotFat, "steam": safety.Steam, "caramel": safety.HotFat,
		"flame": safety.Flame,
		"blade": safety.Blade, "heavy-tray": safety.Lifting, "fumes": safety.Fumes, "raw-egg": safety.RawEgg, "raw-fish": safety.RawFish,
		"shellfish": safety.Shellfish, "cooling": safety.Cooling, "reheating": safety.Reheating} {
		c := on("", kitchen.PickUp, "Work")
		c.Steps[0].Dangers = []kitchen.Danger{danger}
		for _, under := range []kitchen.SafetyCode{kitchen.CodeUKEU, kitchen.CodeFDA} {
			ls := limits(c, under)
			require.Len(t, ls, 1, string(danger))
			require.Equal(t, want, ls[0].Subject)
			require.NotEmpty(t, ls[0].Usual.Text)
			require.NotContains(t, strings.ToLower(ls[0].Said.Text+ls[0].Usual.Text), "is safe")
			require.NotEmpty(t, ls[0].Code)
		}
	}
}

// A core below the code's is said with its number; below 60 °C no equal is given, and that is a fault. FSA guidance on cooking: 70 °C for
// 2 min; FDA 3-401.11(A)(3): 74 °C, with no equal for poultry. From memory.
func TestACoreBelowTheCodes(t *testing.T) {
	state := func(under kitchen.SafetyCode, c float64, bought string) string {
		x := on(kitchen.Oven, kitchen.PickUp, "Roast", bought)
		x.Steps[0].Checks = []kitchen.DoneCheck{{Kind: "core", TargetC: &c}}
		return states(x, under)
	}
	for _, x := range []struct {
		uk, fda string
		at      float64
		bought  string
	}{
		{"poultry fault", "poultry fault", 58, "Chicken"},
		{"poultry mind", "poultry fault", 62, "Chicken"},
		{"poultry mind", "poultry fault", 70, "Chicken"},
		{"poultry mind", "poultry mind", 74, "Chicken"},
		{"minced fault", "minced fault", 59.9, "beef burger"},
		{"minced mind", "minced mind", 60, "beef burger"},
		{"", "", 52, "Beef sirloin"},
	} {
		require.Equal(t, x.uk, state(kitchen.CodeUKEU, x.at, x.bought), "%v %v", x.bought, x.at)
		require.Equal(t, x.fda, state(kitchen.CodeFDA, x.at, x.bought), "%v %v", x.bought, x.at)
	}
	x := on(kitchen.Oven, kitchen.PickUp, "Roast", "Chicken")
	x.Steps[0].Checks = []kitchen.DoneCheck{{Kind: "core", TargetC: ptr(62.0)}}
	require.Contains(t, said(limits(x, kitchen.CodeUKEU)), "it is done at 62 °C here")
}

// Low heat: a bath below 60 °C with something of an animal in it. FSA guidance on cooking; FDA 3-502.12. From memory.
func TestLowHeat(t *testing.T) {
	bath := func(c float64, bought string) string {
		x := on(kitchen.WaterBath, kitchen.PickUp, "Cook in the bath", bought)
		x.Steps[0].Equipment.SetpointC = &c
		return states(x, kitchen.CodeUKEU)
	}
	require.Equal(t, "low-heat mind", bath(59.9, "Beef sirloin"))
	require.Equal(t, "", bath(60, "Beef sirloin"))
	require.Equal(t, "", bath(56, "Carrots"))
	require.Equal(t, "poultry mind, low-heat mind", bath(58, "Guinea fowl"))
}

// Raw and lightly cooked egg. FDA 3-401.11(A)(1): 63 °C for 15 s; FSA guidance on eggs. From memory.
func TestEggs(t *testing.T) {
	egg := kitchen.Ingredient{Name: "Yolks", Allergens: []kitchen.Allergen{"eggs"}}
	mayonnaise := on("", kitchen.Ahead, "Whisk")
	mayonnaise.Name, mayonnaise.Ingredients = "Mayonnaise", []kitchen.Ingredient{egg}
	require.Equal(t, "raw-egg mind", states(mayonnaise, kitchen.CodeUKEU))
	mayonnaise.Ingredients[0].Allergens = nil
	require.Equal(t, "", states(mayonnaise, kitchen.CodeUKEU), "one without egg")
	at := func(c float64) string {
		x := on(kitchen.WaterBath, kitchen.PickUp, "Cook the yolk")
		x.Steps[0].Dangers = []kitchen.Danger{"raw-egg"}
		x.Steps[0].Checks = []kitchen.DoneCheck{{Kind: "core", TargetC: &c}}
		return states(x, kitchen.CodeFDA)
	}
	require.Equal(t, "raw-egg mind", at(62.9))
	require.Equal(t, "", at(63))
}

// Cold: by law 8 °C in the UK (SI 2013/2996), 5 °C by the FDA's code (3-501.16); out of the cold once for 4 h (3-501.19). From memory.
func TestColdAndNeither(t *testing.T) {
	state := func(under kitchen.SafetyCode, w kitchen.Wait, bought ...string) string {
		x := on("", kitchen.PickUp, "Cut", bought...)
		x.Hold = w
		return states(x, under)
	}
	fridge := func(c float64) kitchen.Wait {
		return kitchen.Wait{In: &kitchen.EquipmentNeed{Kind: kitchen.Fridge, Units: 1, SetpointC: &c}, Longest: ptr(24 * 3600)}
	}
	require.Equal(t, "", state(kitchen.CodeUKEU, fridge(8)))
	require.Equal(t, "cold-holding fault", state(kitchen.CodeUKEU, fridge(8.1)))
	require.Equal(t, "", state(kitchen.CodeFDA, fridge(5)))
	require.Equal(t, "cold-holding fault", state(kitchen.CodeFDA, fridge(5.1)))
	bench := func(s int) kitchen.Wait { return kitchen.Wait{Place: kitchen.OnBench, Longest: &s} }
	for _, under := range []kitchen.SafetyCode{kitchen.CodeUKEU, kitchen.CodeFDA} {
		require.Equal(t, "", state(under, bench(4*3600), "Smoked salmon"))
		require.Equal(t, "unchilled fault", state(under, bench(4*3600+1), "Smoked salmon"))
		require.Equal(t, "", state(under, bench(5*3600), "Apples"), "what does not perish may stand")
		require.Equal(t, "unchilled fault", state(under, kitchen.Wait{Place: kitchen.OnBench, NoLimit: true}, "Smoked salmon"))
	}
}

// A rest at 50 °C is not without a word: below 63 °C (57 °C) it counts. FSA guidance on hot holding; FDA 3-501.16. From memory.
func TestARestAtFiftyDegrees(t *testing.T) {
	x := on("", kitchen.PickUp, "Rest", "Beef sirloin")
	x.Hold = kitchen.Wait{Longest: ptr(40 * 60), In: &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: ptr(50.0)}}
	ls := limits(x, kitchen.CodeUKEU)
	require.Len(t, ls, 1)
	require.Equal(t, "Holding: hot at 63 °C or above; below it once, for 2 h at most; it stands at 50 °C here.", ls[0].Said.Text)
	require.Equal(t, "mind", ls[0].State)
}

// What passes on its way to the plate is not held; longer is. Common practice, no source.
func TestWhatPassesIsNotHeld(t *testing.T) {
	x := on("", kitchen.PickUp, "Rest", "Beef sirloin")
	x.Hold = kitchen.Wait{Longest: ptr(600), Place: kitchen.Hot}
	require.Equal(t, "", states(x, kitchen.CodeUKEU))
	x.Hold.Longest = ptr(601)
	require.Equal(t, "hot-holding mind", states(x, kitchen.CodeUKEU))
}

// Fish that is cooked is not raw; done below 60 °C (Regulation (EC) 853/2004) or 63 °C (FDA 3-401.11) it is lightly cooked, and asks for
// what raw fish asks for. From memory.
func TestLightlyCookedFish(t *testing.T) {
	at := func(under kitchen.SafetyCode, c float64) string {
		x := on("", kitchen.Ahead, "Portion", "Hake")
		x.Steps[0].Dangers = []kitchen.Danger{"raw-fish"}
		pan := step("pan", kitchen.PickUp, kitchen.Burner, 4, "a")
		pan.Checks = []kitchen.DoneCheck{{Kind: "core", TargetC: &c}}
		x.Steps = append(x.Steps, pan)
		x.BatchYield, x.ShelfLifeH, x.Store = 100, 12, kitchen.Chilled
		return states(x, under)
	}
	require.Equal(t, "raw-fish mind", at(kitchen.CodeUKEU, 59.9))
	require.Equal(t, "", at(kitchen.CodeUKEU, 60))
	require.Equal(t, "raw-fish mind", at(kitchen.CodeFDA, 62.9))
	require.Equal(t, "", at(kitchen.CodeFDA, 63))
}

// In a sealed bag: 10 days at 3 to 8 °C (FSA guidance on vacuum packing), 7 days at 5 °C (FDA 3-502.12). From memory.
func TestBags(t *testing.T) {
	state := func(under kitchen.SafetyCode, hours float64) string {
		x := on(kitchen.WaterBath, kitchen.Ahead, "Cook in the bag", "Carrots")
		x.Store, x.ShelfLifeH = kitchen.Chilled, hours
		return states(x, under)
	}
	require.Equal(t, "", state(kitchen.CodeUKEU, 48))
	require.Equal(t, "bagged mind", state(kitchen.CodeUKEU, 240))
	require.Equal(t, "bagged fault", state(kitchen.CodeUKEU, 241))
	require.Equal(t, "bagged mind", state(kitchen.CodeFDA, 168))
	require.Equal(t, "use-by fault, bagged fault", state(kitchen.CodeFDA, 169))
}
