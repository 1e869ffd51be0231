package lines

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/message"
)

func readOne(t *testing.T, k *Known, said string) (kitchen.Component, Reading) {
	t.Helper()
	c, readings := k.Parse(kitchen.Component{}, "to order\n"+said)
	require.Len(t, readings, 2)
	return c, readings[1]
}

func doubted(r *Reading) string {
	if r.Unsure == nil {
		return ""
	}
	return r.Unsure.Key
}

// doubts reads each line by itself, and expects the mark beside it; none for an empty one.
func doubts(t *testing.T, table map[string]string) {
	t.Helper()
	for said, want := range table {
		_, r := readOne(t, &Known{}, said)
		require.Equal(t, want, doubted(&r), said)
	}
}

// A line that says neither what is done nor where is a guess, and is marked as one; each of the things that tell it is enough.
func TestNothingSaysWhere(t *testing.T) {
	doubts(t, map[string]string{
		"persuade the octopus 5 min":                       "line.where",
		"persuade the octopus 5 min, both hands":           "",
		"persuade the octopus 5 min, nobody":               "",
		"persuade the octopus 5 min in the oven":           "",
		"persuade the octopus 5 min with the torch":        "",
		"persuade the octopus 5 min over a low heat":       "",
		"persuade the octopus 5 min, without equipment":    "",
		"slice the octopus 5 min":                          "",
		"finish 4 min":                                     "line.where",
		"finish 4 min in the pan":                          "",
		"bring to the boil 4 min":                          "line.where",
		"bring to room temperature 1 h":                    "",
		"smoke 10 min":                                     "line.where",
		"vinaigrette 4 min":                                "",
		"persuade the octopus":                             "line.no-time",
		"persuade the octopus 5 min, turned at half 9 min": "line.where",
	})
}

// Two things done for a time each in two places, or by other hands, want two lines; one place, or a general verb, does not.
func TestTwoStepsInALine(t *testing.T) {
	doubts(t, map[string]string{
		"pipe 20 min, bake 25 min at 190":                    "line.own-line",
		"sear 2 min, then 5 min in the oven":                 "line.own-line",
		"sear 2 min a side, straight into the fridge":        "line.own-line",
		"char 8 min, then sweat in a bowl 10 min":            "line.own-line",
		"sear 2 min, baste 1 min":                            "",
		"sear 2 min, turn and cook 1 min":                    "",
		"poach 20 min, water bath at 63":                     "",
		"pipe and bake 25 min at 190":                        "",
		"confit in fat at 85 for 6 h in the oven":            "",
		"roast the bones 20 min at 180, glaze every 4 min":   "",
		"roast in the oven 20 min at 180, then 5 min at 220": "line.own-line",
	})
}

// Nobody knows how hot a pan is: from 100 °C on it is an oven, from 120 on deep fat where it is fried.
func TestWhereByItsHeat(t *testing.T) {
	for said, want := range map[string]kitchen.EquipmentKind{
		"caramelise 10 min at 99":  kitchen.Burner,
		"caramelise 10 min at 100": kitchen.Oven,
		"fry 3 min at 119":         kitchen.Oven,
		"fry 3 min at 120":         kitchen.Fryer,
		"fry 3 min":                kitchen.Burner,
		"cook 30 min at 99":        kitchen.WaterBath,
		"cook 30 min at 100":       kitchen.Oven,
		"finish 4 min at 180":      kitchen.Oven,
		"temper the yolks 2 min":   kitchen.Burner,
		"bloom the spices 1 min":   kitchen.Burner,
		"seal the loin 4 min":      kitchen.Burner,
	} {
		c, _ := readOne(t, &Known{}, said)
		require.NotNil(t, c.Steps[0].Equipment, said)
		require.Equal(t, want, c.Steps[0].Equipment.Kind, said)
	}
	for _, said := range []string{"temper the chocolate 20 min", "bloom the gelatine 5 min", "seal the bags 4 min", "slice on medium 3 min"} {
		c, _ := readOne(t, &Known{}, said)
		require.Nil(t, c.Steps[0].Equipment, said)
	}
}

// A house takes what it has: the usual stand-in, or none.
func TestWhereInAHouseThatHasLess(t *testing.T) {
	has := func(kinds ...kitchen.EquipmentKind) *Known {
		k := &Known{kinds: map[kitchen.EquipmentKind]bool{}}
		for _, kind := range kinds {
			k.kinds[kind] = true
		}
		return k
	}
	c, _ := readOne(t, has(kitchen.Oven, kitchen.Burner), "steam 10 min")
	require.Equal(t, kitchen.Oven, c.Steps[0].Equipment.Kind)
	c, _ = readOne(t, has(kitchen.Burner), "steam 10 min")
	require.Equal(t, kitchen.Burner, c.Steps[0].Equipment.Kind)
	c, _ = readOne(t, has(kitchen.Burner), "deep-fry 3 min")
	require.Equal(t, kitchen.Burner, c.Steps[0].Equipment.Kind)
	c, r := readOne(t, has(kitchen.Burner), "roast 30 min at 190")
	require.Nil(t, c.Steps[0].Equipment)
	require.NotEmpty(t, doubted(&r), "its heat is left over, and marked")
}

// The thing itself waits: without a length, or with hands, the line is a step.
func TestTheThingItselfWaits(t *testing.T) {
	c, r := readOne(t, &Known{}, "sear 2 min")
	require.Len(t, c.Steps, 1)
	require.Empty(t, doubted(&r))
	c, readings := Parse(kitchen.Component{}, "to order\nsear 2 min\nthe steak rests 5 min, at most 8 min")
	require.Len(t, c.Steps, 1)
	require.Equal(t, 300, c.Hold.Shortest)
	require.Equal(t, 480, *c.Hold.Longest)
	require.Nil(t, readings[2].Unsure)
	c, _ = Parse(kitchen.Component{}, "to order\nsear 2 min\nthe steak rests")
	require.Len(t, c.Steps, 2)
	c, _ = Parse(kitchen.Component{}, "to order\nsear 2 min\nthe steak rests 5 min, nobody")
	require.Len(t, c.Steps, 2)
	c, _ = Parse(kitchen.Component{}, "to order\nsear 2 min\nslice and rests 5 min")
	require.Len(t, c.Steps, 2, "something is done first")
	c, _ = Parse(kitchen.Component{}, "to order\nsear 2 min\nroast rests 5 min")
	require.Len(t, c.Steps, 1)
}

// What is not to be done is not what is done; off the heat is a wait behind.
func TestWhatIsNotDone(t *testing.T) {
	c, _ := readOne(t, &Known{}, "onions in butter on low, 25 min, don't let them catch")
	require.Equal(t, kitchen.Tend, c.Steps[0].Hands)
	require.Equal(t, kitchen.Burner, c.Steps[0].Equipment.Kind)
	c, r := readOne(t, &Known{}, "cook rice 14 min then 10 min off the heat")
	require.Equal(t, 840, c.Steps[0].Time.Fixed.Likely)
	require.Equal(t, 600, c.Hold.Shortest)
	require.Contains(t, message.Texts(r.Understood), "kept off the heat")
	_, r = readOne(t, &Known{}, "plate the starters, 20 min ahead")
	require.Equal(t, "line.left-wait", doubted(&r))
}
