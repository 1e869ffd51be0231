package lines

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/demo"
)

func parse(text string) (kitchen.Component, []Reading) { return Parse(kitchen.Component{}, text) }

// The lines of the format's description, as a cook would say them.
func TestLinesAsACookSaysThem(t *testing.T) {
	c, readings := parse(
		"portion and salt 30 min both hands\nto order\nsear 3 min both hands on the plancha\noven 180 for 4 min\nrest 90 s, at most 4 min")
	require.Len(t, c.Steps, 3)
	require.Equal(t, "portion and salt", c.Steps[0].Name)
	require.Equal(t, kitchen.Ahead, c.Steps[0].Phase)
	sear := c.Steps[1]
	require.Equal(t, "sear", sear.Name)
	require.Equal(t, kitchen.PickUp, sear.Phase)
	require.Equal(t, 180, sear.Time.Fixed.Likely)
	require.Equal(t, kitchen.Plancha, sear.Equipment.Kind)
	oven := c.Steps[2]
	require.Equal(t, 240, oven.Time.Fixed.Likely)
	require.Equal(t, 180.0, *oven.Equipment.SetpointC)
	require.Equal(t, "sear", oven.After[0].Step)
	require.Equal(t, 90, c.Hold.Shortest)
	require.Equal(t, 240, *c.Hold.Longest)
	require.Equal(t, []string{"3 min", "both hands", "plancha"}, message.Texts(readings[2].Understood))
}

func TestRangesBatchesAndWaitsBetween(t *testing.T) {
	c, _ := parse("fry 3 to 5 min in the fryer at 160, batches of 6 in turn, nobody\n" +
		"rest 2 min, best 5 min, at most 1 h, hot\ndress and 10 s a portion, until taste sharp enough")
	require.Equal(t, kitchen.Estimate{Low: 180, Likely: 240, High: 300}, c.Steps[0].Time.Fixed)
	require.Equal(t, &kitchen.BatchLimit{Portions: 6, Run: kitchen.InTurn}, c.Steps[0].Batch)
	require.Equal(t, kitchen.None, c.Steps[0].Hands)
	w := c.Steps[1].After[0]
	require.Equal(t, 120, w.Shortest)
	require.Equal(t, 300, *w.Best)
	require.Equal(t, 3600, *w.Longest)
	require.Equal(t, kitchen.Hot, w.Place)
	require.Equal(t, 10, c.Steps[1].Time.PerPortion.Likely)
	require.Equal(t, []kitchen.DoneCheck{{Kind: "taste", Say: "sharp enough"}}, c.Steps[1].Checks)
}

func TestWhatIsNotUnderstoodStaysAsTheName(t *testing.T) {
	c, readings := parse("persuade the octopus gently\n烤 4 min")
	require.Equal(t, "persuade the octopus gently", c.Steps[0].Name)
	require.Equal(t, "no time was found in this line", readings[0].Unsure.Text)
	require.NotNil(t, readings[0].Understood, "a list is sent, be it empty")
	require.Equal(t, "烤", c.Steps[1].Name)
	require.Equal(t, 240, c.Steps[1].Time.Fixed.Likely)
}

func TestTimesAndTemperatures(t *testing.T) {
	for s, want := range map[string]int{"1:30": 90, "90s": 90, "1½ h": 5400, "36 h": 129600, "2 days": 172800, "1 h 20 min": 4800,
		"4 min": 240, "2.5 min": 150} {
		got, ok := Seconds(s)
		require.True(t, ok, s)
		require.Equal(t, want, got, s)
	}
	// °C = (°F − 32)·5/9; gas marks as cookers say them (common practice, no source).
	for s, want := range map[string]float64{"180": 180, "180°": 180, "350F": 176.7, "gas 4": 180, "gas mark 1": 140, "gas 9": 240,
		"62.5 C": 62.5} {
		got, ok := Degrees(s)
		require.True(t, ok, s)
		require.InDelta(t, want, got, 0.05, s)
	}
	for _, s := range []string{"gas 12", "hot", ""} {
		_, ok := Degrees(s)
		require.False(t, ok, s)
	}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(0, 60*24*3600).Draw(t, "seconds")
		got, ok := Seconds(Say(n))
		require.True(t, ok)
		require.Equal(t, n, got, Say(n))
	})
}

// Lines → component → lines → component gives the same component, for every component
// of the demo once it has been said in lines.
func TestTypedIntoAField(t *testing.T) {
	for typed, want := range map[string]int{"4": 240, "4:30": 270, "1:30": 90, "90s": 90, "90 s": 90, "1½ h": 5400, "½ h": 1800, "1½": 90,
		"36 h":   129600,
		"1 h 20": 4800, "1 h 20 min": 4800, "2 days": 172800, "2.5 min": 150, "0": 0} {
		got, ok := Typed(typed)
		require.True(t, ok, typed)
		require.Equal(t, want, got, typed)
	}
	for _, typed := range []string{"", "soon", "4 x", "h", "4 min please", "-4", "4:75"} {
		_, ok := Typed(typed)
		require.False(t, ok, typed)
	}
}

func TestRoundTrip(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	for _, c := range d.Components {
		said := Format(&c)
		once, readings := Parse(c, said)
		b.SetTimes(&c, &once)
		for _, r := range readings {
			require.Empty(t, r.Unsure, "%s: %s", c.Name, r.Line)
		}
		twice, _ := Parse(once, Format(&once))
		b.SetTimes(&once, &twice)
		require.Equal(t, Format(&once), Format(&twice))
		require.Equal(t, once, twice)
		require.Equal(t, len(c.Steps), len(once.Steps))
		for i := range c.Steps {
			require.Equal(t, c.Steps[i].Time, once.Steps[i].Time, "%s: %s", c.Name, said)
			require.Equal(t, c.Steps[i].Equipment, once.Steps[i].Equipment)
			require.Equal(t, c.Steps[i].Hands, once.Steps[i].Hands)
		}
		require.Equal(t, c.Hold, once.Hold, c.Name)
	}
}

func FuzzParse(f *testing.F) {
	f.Add("oven 180 for 4 min\nrest 90 s, at most 4 min")
	f.Add("\xff İ ½ : 1:99 until until by by")
	f.Fuzz(func(t *testing.T, s string) {
		c, readings := parse(s)
		if len(readings) == 0 {
			t.Fatal("every line has a reading")
		}
		parse(Format(&c)) // what was read can be said and read again
	})
}
