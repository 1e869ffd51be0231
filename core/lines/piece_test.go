package lines

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/heat"
	"jointime/core/kitchen"
)

// As a cook says it: a thickness, a core, a bath. The temperature of the bath stays the bath's; what was not said is the usual.
func TestASizeInALine(t *testing.T) {
	for line, want := range map[string]kitchen.Piece{
		"breast 25 mm thick, to 54 in the water bath at 56":  {Shape: heat.Slab, Mm: 25, Food: heat.MeatFood, StartC: 5, TargetC: 54},
		"breast 2.5 cm thick, core to 54°, water bath at 56": {Shape: heat.Slab, Mm: 25, Food: heat.MeatFood, StartC: 5, TargetC: 54},
		"salmon, 30 mm thick to 48 in the water bath at 56":  {Shape: heat.Slab, Mm: 30, Food: heat.FishFood, StartC: 5, TargetC: 48},
		"a 1.2 kg cylinder of meat, core from 8 to 58, oven 180": {Shape: heat.Cylinder, Grams: 1200, Food: heat.MeatFood, StartC: 8,
			TargetC: 58},
		"carrots, 40 mm thick, in the steamer": {Shape: heat.Cylinder, Mm: 40, Food: heat.RootFood, StartC: 18, TargetC: 95},
	} {
		c, readings := Parse(kitchen.Component{}, line)
		require.Nil(t, readings[0].Unsure, line)
		require.NotNil(t, c.Steps[0].Piece, line)
		require.Equal(t, want, *c.Steps[0].Piece, line)
		require.NotNil(t, c.Steps[0].Equipment, line)
		require.Zero(t, c.Steps[0].Time, line)
		again, _ := Parse(kitchen.Component{}, Format(&c))
		require.Equal(t, c.Steps[0].Piece, again.Steps[0].Piece, Format(&c))
	}
	c, _ := Parse(kitchen.Component{}, "breast 25 mm thick, to 54 in the water bath at 56")
	require.Equal(t, 56.0, *c.Steps[0].Equipment.SetpointC)
	require.Equal(t, "breast", c.Steps[0].Name)
	// A time in the line was typed, and stays; a time with a range is no core.
	c, _ = Parse(kitchen.Component{}, "breast 25 mm thick, to 54 in the water bath at 56, 1 h, from 50 min to 70 min")
	require.True(t, c.Steps[0].Piece.Typed)
	require.Equal(t, kitchen.Estimate{Low: 3000, Likely: 3600, High: 4200}, c.Steps[0].Time.Fixed)
	again, _ := Parse(kitchen.Component{}, Format(&c))
	require.Equal(t, c.Steps, again.Steps, Format(&c))
	// Without a size nothing is a piece.
	c, _ = Parse(kitchen.Component{}, "sear 3 to 5 min in the burner")
	require.Nil(t, c.Steps[0].Piece)
}

// Wishes with a core or a size of their own, a medium, what probes said, and a frozen start come back as they were written.
func TestASizeComesBack(t *testing.T) {
	at := func(v float64) *float64 { return &v }
	p := kitchen.Piece{Shape: heat.Ellipsoid, Mm: 62.5, Food: heat.FishFood, StartC: -18, TargetC: 60, MediumC: at(140), Factor: 1.12,
		Observed: 3}
	s := kitchen.Step{ID: "roast", Name: "roast", Phase: kitchen.PickUp, Hands: kitchen.Both, After: []kitchen.Predecessor{},
		Checks:  []kitchen.DoneCheck{},
		Dangers: []kitchen.Danger{}, PutsIn: []string{}, TakesOut: []string{}, Piece: &p,
		Doneness: []kitchen.Doneness{{Name: "well done", TargetC: at(66), Ends: 2}, {Name: "large", Mm: 80}, {Name: "rare", Seconds: -60}}}
	text := Format(&kitchen.Component{Steps: []kitchen.Step{s}})
	back, readings := Parse(kitchen.Component{}, text)
	require.Nil(t, readings[len(readings)-1].Unsure)
	require.Equal(t, s.Piece, back.Steps[0].Piece, text)
	require.ElementsMatch(t, s.Doneness, back.Steps[0].Doneness, text)
	require.Equal(t, "roast", back.Steps[0].Name, text)
}

func TestReadingsOfAProbe(t *testing.T) {
	got, wrong := Readings("2:00 18, 3 21.5°\n 4 min 25; 5 77F\n\n")
	require.Empty(t, wrong)
	require.Equal(t, []heat.Reading{{S: 120, C: 18}, {S: 180, C: 21.5}, {S: 240, C: 25}, {S: 300, C: 25}}, got)
	got, wrong = Readings("")
	require.Empty(t, wrong)
	require.Empty(t, got)
	for typed, want := range map[string]string{"2:00 18, soon 21": "soon 21", "18": "18", "2:00 hot": "2:00 hot", "2:75 18": "2:75 18"} {
		_, wrong = Readings(typed)
		require.Equal(t, want, wrong, typed)
	}
}
