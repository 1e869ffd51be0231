package service_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// told is an order in short: the table, and each course's plates with their numbers; what is wrong stands behind a mark.
func toldOrder(o *service.OrderRead) string {
	out := []string{o.Name}
	if o.New {
		out[0] += " (new)"
	}
	for _, c := range o.Courses {
		for _, p := range c.Plates {
			said := fmt.Sprintf("%d %s", p.Count, p.Said)
			if p.Variant != "" {
				said += " [" + p.Variant + "]"
			}
			if p.State != "suits" {
				said += " (" + p.State + ")"
			}
			out = append(out, said)
		}
	}
	for _, w := range o.Wrong {
		out = append(out, "! "+w.Text)
	}
	return strings.Join(out, " | ")
}

// Lines as they are shouted at a pass. Common practice, no source.
func TestOrdersInOneLine(t *testing.T) {
	b, s := booking(t)
	none := service.Fold(nil)
	for line, want := range map[string]string{
		"7: 2 hake 1 fowl":              "Table 7 | 2 Hake | 1 Guinea fowl",
		"table 7: 2x hake, 1× celeriac": "Table 7 | 2 Hake | 1 Salt-baked celeriac",
		// four guests: a fourth plate
		"2: 2 hake 1 fowl 1 no milk":         "Table 2 | 2 Hake | 1 Guinea fowl | 1 Guinea fowl, no milk (nothing-suits)",
		"7: 2 hake 1 no milk":                "Table 7 | 2 Hake | 1 Hake, no milk [no milk]",                     // three guests
		"1: 2 fowl 1 no milk":                "Table 1 | 1 Guinea fowl | 1 Guinea fowl, no milk (nothing-suits)", // two: one of the two
		"4: 4 fowl 1 no milk 1 well done":    "Table 4 | 2 Guinea fowl | 1 Guinea fowl, no milk (nothing-suits) | 1 Guinea fowl, well done",
		"4: 2 hake no milk well done 2 fowl": "Table 4 | 2 Hake, no milk, well done [no milk] | 2 Guinea fowl",
		"4: 1 vegan celeriac, 3 hake":        "Table 4 | 1 Salt-baked celeriac, vegan [vegan] | 3 Hake",
		"4: 1 dairy-free hake":               "Table 4 | 1 Hake, no milk [no milk]",
		"4: 1 hake gluten free":              "Table 4 | 1 Hake, no gluten",
		"4: hake":                            "Table 4 | 1 Hake",
		// not the rhubarb's
		"4: 2 leek 2 custard 4 dumplings": "Table 4 | 2 Charred leek | 2 Mussel and saffron custard | 4 Beetroot dumplings",
		"4: 2 oil":                        "Table 4 | ! “oil” may be Beetroot dumplings, Salt-baked celeriac.",
		"4: 2 leeks and 2 mussel":         "Table 4 | 2 Charred leek | 2 Mussel and saffron custard",
		"bar 3: 1 sponge":                 "bar 3 (new) | 1 Treacle sponge pudding",
		"21: 2 hake":                      "Table 21 (new) | 2 Hake",
		"7: 2 swan 1 hake":                "Table 7 | 1 Hake | ! Nothing on the menu is called “swan”.",
		"7: 1 hake 3 no milk":             "Table 7 | 1 Hake | ! 3 guests “no milk”, but only 1 have that dish.",
		"7: 2 no milk":                    "Table 7 | ! “2 no milk” says nothing that can be ordered.",
		"7: 0 hake":                       "Table 7 | ! “0 hake” says nothing that can be ordered.",
		"7: 2":                            "Table 7 | ! “2” says nothing that can be ordered.",
		"!!: 1 hake":                      " | 1 Hake | ! “!!” is no name of a table.",
		"7: 1 hake vegetarian":            "Table 7 | 1 Hake, vegetarian (nothing-suits)",
		"":                                "",
	} {
		if strings.Contains(line, "gluten") {
			continue // below: what it says depends on the recipes
		}
		require.Equal(t, want, toldOrder(service.ReadOrder(b, s, none, "", line)), line)
	}
	o := service.ReadOrder(b, s, none, "", "4: 1 hake gluten free")
	require.Equal(t, []kitchen.Allergen{"gluten"}, o.Courses[0].Plates[0].Without)
	o = service.ReadOrder(b, s, none, "table-4", "2 hake")
	require.Equal(t, "Table 4", o.Name, "pressed, with its table chosen")
	require.Equal(t, 4, o.Covers)
	o = service.ReadOrder(b, s, none, "", "2 hake")
	require.Empty(t, o.Table)
}

// What is ordered on top is added to what stands; without the sign it takes its place.
func TestAnOrderOnTop(t *testing.T) {
	b, s := booking(t)
	first := ordered(1, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 2})
	state := service.Fold([]service.Event{tap(0, service.Opened, nil), first})
	require.Equal(t, "Table 4 | 3 Hake | 1 Guinea fowl", toldOrder(service.ReadOrder(b, s, state, "", "4: +1 hake 1 fowl")))
	fired := tap(2, service.Fired, task("a", service.TableCourse{Table: "table-4", Course: kitchen.Main}))
	cooking := service.Fold([]service.Event{tap(0, service.Opened, nil), fired})
	require.True(t, service.ReadOrder(b, s, cooking, "", "4: 1 hake").Courses[0].Cooking)
	require.False(t, service.ReadOrder(b, s, state, "", "4: 1 hake").Courses[0].Cooking)
	require.Equal(t, "Table 4 | 1 Hake | 1 Guinea fowl", toldOrder(service.ReadOrder(b, s, state, "", "4: 1 hake 1 fowl")))
}

// What is left counts down as it is ordered; what is off is said beside an order.
func TestWhatIsLeftCountsDown(t *testing.T) {
	b, s := booking(t)
	three := 3
	log := []service.Event{tap(0, service.Opened, nil),
		ordered(1, "table-1", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 2}),
		tap(2, service.Off, func(e *service.Event) { e.Component, e.Left = "hake", &three }),
		ordered(3, "table-4", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 2}),
		tap(4, service.Off, func(e *service.Event) { e.Dish = "charred-leek" })}
	left := func(log ...service.Event) (hake *int, off map[string]string) {
		off = map[string]string{}
		for _, c := range service.Menu(b, s, service.Fold(log)).Courses {
			for _, d := range c.Dishes {
				if off[d.Dish] = d.Off; d.Dish == "hake-cider-butter" {
					hake = d.Left
				}
			}
		}
		return hake, off
	}
	hake, off := left(log...)
	require.Equal(t, 1, *hake, "what was ordered before it was counted is not taken off")
	require.Empty(t, off["hake-cider-butter"])
	require.Equal(t, "Charred leek", off["charred-leek"])
	hake, off = left(append(log, ordered(5, "table-5", kitchen.Main, service.PlateOrder{Dish: "hake-cider-butter", Count: 1}))...)
	require.Zero(t, *hake)
	require.Equal(t, "Hake", off["hake-cider-butter"])
	hake, _ = left()
	require.Nil(t, hake, "nobody counted")
	o := service.ReadOrder(b, s, service.Fold(log), "", "4: 2 leek")
	require.Equal(t, "Charred leek is off.", o.Courses[0].Plates[0].Told[0].Text)
}

// Every dish of a menu is found by the word on its press, and by no other's.
func TestTheWordsOfPresses(t *testing.T) {
	b, s := booking(t)
	m := service.Menu(b, s, service.Fold(nil))
	seen := map[string]bool{}
	for _, c := range m.Courses {
		for _, d := range c.Dishes {
			require.False(t, seen[d.Word], d.Word)
			seen[d.Word] = true
			o := service.ReadOrder(b, s, service.Fold(nil), "table-4", "2 "+d.Word)
			require.Empty(t, o.Wrong)
			require.Equal(t, d.Dish, o.Courses[0].Plates[0].Dish)
			require.LessOrEqual(t, len(strings.Fields(d.Word)), 2)
		}
	}
	require.Equal(t, []string{"no milk", "no nuts"}, m.Needs[:2], "tonight's guests first")
	require.Contains(t, m.Wishes, "well done")
	require.Len(t, m.Tables, 15)
}
