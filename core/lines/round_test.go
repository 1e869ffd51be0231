package lines

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// What Say writes Seconds reads, from a second to sixty days, on both sides of where the way of writing changes.
func TestLengthsSaidAndRead(t *testing.T) {
	for _, s := range []int{0, 1, 59, 60, 61, 119, 120, 121, 180, 3599, 3600, 3601, 3660, 7200, 10799, 10800, 10860, 86400, 90000, 999*60 - 1, 999 * 60, 999*60 + 1,
		60 * 86400} {
		got, ok := Seconds(Say(s))
		require.True(t, ok, "%d is said %q", s, Say(s))
		require.Equal(t, s, got, Say(s))
	}
	for s, want := range map[int]string{0: "0 s", 119: "119 s", 120: "2 min", 121: "2:01", 3600: "1 h", 5400: "90 min", 10800: "3 h", 10860: "3 h 1 min",
		7201: "120:01", 999*60 + 1: "59941 s"} {
		require.Equal(t, want, Say(s), s)
	}
	for _, bad := range []string{"", "1:60", "-1:30", "a:10", "5 parsecs", ":"} {
		_, ok := Seconds(bad)
		require.False(t, ok, bad)
	}
	got, ok := Seconds("0:30")
	require.True(t, ok)
	require.Equal(t, 30, got)
}

// British gas marks from 1 to 9, in °C; above and below there is none. From memory: 275 °F and 25 °F a mark.
func TestGasMarks(t *testing.T) {
	for mark, want := range map[string]float64{"gas 1": 135, "gas 4": 176.7, "gas mark 9": 246.1} {
		c, ok := Degrees(mark)
		require.True(t, ok, mark)
		require.InDelta(t, want, c, 0.05, mark)
	}
	for _, bad := range []string{"gas 0", "gas 10", "gas ½", "hot", "", "180 K"} {
		_, ok := Degrees(bad)
		require.False(t, ok, bad)
	}
	c, ok := Degrees("212 F")
	require.True(t, ok)
	require.InDelta(t, 100, c, 0)
}

// Steps of one name have ids of their own, whatever the others are called.
func TestIDsOfStepsAreTheirOwn(t *testing.T) {
	ids := func(text string) string {
		c, _ := Parse(kitchen.Component{}, text)
		var out []string
		for _, s := range c.Steps {
			out = append(out, s.ID)
		}
		return strings.Join(out, " ")
	}
	require.Equal(t, "fry fry-2 fry-3", ids("fry 1 min\nfry 2 min\nfry 3 min"))
	require.Equal(t, "fry-2 fry fry-3", ids("fry 2, 1 min\nfry 2 min\nfry 3 min"))
	require.Equal(t, "step step-2", ids("烤 4 min\n烤 5 min"), "what has no letters of ours is a step")
	long := strings.Repeat("very ", 20) + "slow"
	require.LessOrEqual(t, len(ids(long+" 4 min")), 40)
}

// Every phrase that is written is read back the same.
func TestEveryPhraseIsReadBack(t *testing.T) {
	at := func(v float64) *float64 { return &v }
	n := func(v int) *int { return &v }
	base := func() kitchen.Step {
		return kitchen.Step{ID: "sear", Name: "sear", Phase: kitchen.PickUp, Hands: kitchen.Both, Time: kitchen.StepTime{Fixed: kitchen.Exactly(90)},
			After: []kitchen.Predecessor{}, Checks: []kitchen.DoneCheck{}, Dangers: []kitchen.Danger{}, Doneness: []kitchen.Doneness{},
			PutsIn: []string{}, TakesOut: []string{}}
	}
	for phrase, change := range map[string]func(*kitchen.Step){
		"from 80 s to 100 s":     func(s *kitchen.Step) { s.Time.Fixed = kitchen.Estimate{Low: 80, Likely: 90, High: 100} },
		"and 20 s a portion":     func(s *kitchen.Step) { s.Time.PerPortion = kitchen.Exactly(20) },
		"each from 10 s to 30 s": func(s *kitchen.Step) { s.Time.PerPortion = kitchen.Estimate{Low: 10, Likely: 20, High: 30} },
		"a look now and then":    func(s *kitchen.Step) { s.Hands = kitchen.Tend },
		"nobody":                 func(s *kitchen.Step) { s.Hands = kitchen.None },
		"in the oven taking 2":   func(s *kitchen.Step) { s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 2} },
		"in the oven at 62.5": func(s *kitchen.Step) {
			s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: at(62.5)}
		},
		"heated 4 min before": func(s *kitchen.Step) {
			s.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Burner, Units: 1, PreheatS: 240}
		},
		"batches of 4":         func(s *kitchen.Step) { s.Batch = &kitchen.BatchLimit{Portions: 4, Run: kitchen.SideBySide} },
		"batches of 4 in turn": func(s *kitchen.Step) { s.Batch = &kitchen.BatchLimit{Portions: 4, Run: kitchen.InTurn} },
		"rare 60 s less":       func(s *kitchen.Step) { s.Doneness = []kitchen.Doneness{{Name: "rare", Seconds: -60}} },
		"well done 2 min more": func(s *kitchen.Step) { s.Doneness = []kitchen.Doneness{{Name: "well done", Seconds: 120}} },
		"until core 58":        func(s *kitchen.Step) { s.Checks = []kitchen.DoneCheck{{Kind: "core", TargetC: at(58)}} },
		"until look golden":    func(s *kitchen.Step) { s.Checks = []kitchen.DoneCheck{{Kind: "look", Say: "golden"}} },
		"puts in twine":        func(s *kitchen.Step) { s.PutsIn = []string{"twine"} },
		"takes out twine":      func(s *kitchen.Step) { s.TakesOut = []string{"twine"} },
		"mind steam":           func(s *kitchen.Step) { s.Dangers = []kitchen.Danger{"steam"} },
		"by stove":             func(s *kitchen.Step) { s.Section = "stove" },
	} {
		s := base()
		change(&s)
		c := kitchen.Component{Steps: []kitchen.Step{s}}
		said := Format(&c)
		back, readings := Parse(kitchen.Component{}, said)
		require.Len(t, back.Steps, 1, said)
		require.Equal(t, s, back.Steps[0], "%s: %s", phrase, said)
		require.Nil(t, readings[len(readings)-1].Unsure, said)
	}
	for _, w := range []kitchen.Wait{{Shortest: 90}, {Best: n(60)}, {Longest: n(600)}, {Place: kitchen.Hot}, {Place: kitchen.OnBench, Longest: n(60)},
		{Shortest: 30, Best: n(60), Longest: n(90), Place: kitchen.Chilled}} {
		c := kitchen.Component{Steps: []kitchen.Step{base()}, Hold: w}
		back, _ := Parse(kitchen.Component{}, Format(&c))
		require.Equal(t, w, back.Hold, Format(&c))
		second := base()
		second.ID, second.Name, second.After = "rest", "plate", []kitchen.Predecessor{{Step: "sear", Wait: w}}
		c = kitchen.Component{Steps: []kitchen.Step{base(), second}}
		back, _ = Parse(kitchen.Component{}, Format(&c))
		require.Equal(t, w, back.Steps[1].After[0].Wait, Format(&c))
	}
}

// So many lines of so many characters are the most.
func TestBoundsOfLines(t *testing.T) {
	require.NoError(t, Check(strings.Repeat("x\n", MaxLines-1)))
	require.Error(t, Check(strings.Repeat("x\n", MaxLines)+"x"))
	require.NoError(t, Check(strings.Repeat("é", MaxLine)))
	err := Check("x\n" + strings.Repeat("é", MaxLine+1))
	require.EqualError(t, err, fmt.Sprintf("text, line 2: expected at most %d characters, got %d", MaxLine, MaxLine+1))
}
