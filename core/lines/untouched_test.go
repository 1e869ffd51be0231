package lines

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
	"jointime/demo"
)

// Lines that nobody touched change nothing: every component of the demo comes back as it was, ids, waits, branches and what lines do not
// say.
func TestUntouchedLinesChangeNothing(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	for _, c := range b.Components() {
		again, _ := KnownOf(b).Parse(c.Clone(), Format(&c))
		b.SetTimes(&c, &again)
		require.Equal(t, c, again, c.Name)
	}
}

// A component with branches and joins, with waits of every kind on each of them, comes back too; and what is changed in one line leaves the
// others alone.
func TestBranchesComeBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 7).Draw(t, "steps")
		c := kitchen.Component{ID: "c", Name: "Thing"}
		for i := range n {
			s := kitchen.Step{ID: fmt.Sprintf("s%d", i), Name: rapid.SampledFrom([]string{"Stir", "Roast the bones",
				"Take 2 off, then rest", "Bake at 190°"}).Draw(t, "name"),
				Phase: kitchen.PickUp, Hands: rapid.SampledFrom([]kitchen.Hands{kitchen.Both, kitchen.Tend, kitchen.None}).Draw(t, "hands"),
				Time:  kitchen.StepTime{Fixed: kitchen.Exactly(rapid.IntRange(1, 5000).Draw(t, "time"))},
				After: []kitchen.Predecessor{}, Checks: []kitchen.DoneCheck{}, Dangers: []kitchen.Danger{}, Doneness: []kitchen.Doneness{},
				PutsIn:   []string{},
				TakesOut: []string{}, Ready: rapid.SampledFrom([][]string{nil, {"the pan is hot"}}).Draw(t, "ready")}
			for k := range i {
				if rapid.Bool().Draw(t, "after") {
					w := kitchen.Wait{Shortest: rapid.IntRange(0, 600).Draw(t, "shortest")}
					if rapid.Bool().Draw(t, "longest") {
						l := w.Shortest + rapid.IntRange(0, 600).Draw(t, "more")
						w.Longest = &l
					}
					s.After = append(s.After, kitchen.Predecessor{Step: fmt.Sprintf("s%d", k), Wait: w})
				}
			}
			c.Steps = append(c.Steps, s)
		}
		text := Format(&c)
		again, _ := Parse(c.Clone(), text)
		require.Equal(t, c.Steps, again.Steps, text)
		require.Equal(t, c.Hold, again.Hold, text)
		// Read from nothing, the same steps come after the same ones with the same waits.
		fresh, _ := Parse(kitchen.Component{}, text)
		require.Len(t, fresh.Steps, n)
		all := strings.Split(strings.TrimRight(text, "\n"), "\n")
		for i := range all {
			if strings.Contains(all[i], ": ") {
				all[i] += ", mind blade"
				break
			}
		}
		changed, _ := Parse(c.Clone(), strings.Join(all, "\n"))
		require.Equal(t, c.Steps[1:], changed.Steps[1:], text)
		require.Equal(t, []kitchen.Danger{"blade"}, changed.Steps[0].Dangers)
	})
}

// A step that is renamed keeps what comes after it; one that is new stands between.
func TestALineBetweenOthers(t *testing.T) {
	c, _ := Parse(kitchen.Component{}, "to order\nsear 3 min\nrest 5 min\nroast 10 min, after sear\n")
	require.Equal(t, "sear", c.Steps[1].After[0].Step)
	require.Equal(t, 300, c.Steps[1].After[0].Shortest)
	again, _ := Parse(c, strings.Replace(Format(&c), "rest 5 min\n", "baste: 1 min\nrest 5 min\n", 1))
	require.Equal(t, "baste", again.Steps[1].ID)
	require.Equal(t, "sear", again.Steps[1].After[0].Step)
	require.Equal(t, "baste", again.Steps[2].After[0].Step)
	require.Equal(t, 300, again.Steps[2].After[0].Shortest)
}

// Never, because; ready when; not yet and too far come back as they were written.
func TestOutcomesComeBack(t *testing.T) {
	c, readings := Parse(kitchen.Component{},
		"to order\nfry 4 min until golden, ready when the oil is at 180, if not yet 1 min more, if too far make it anew\n"+
			"never stir, because it sticks\n")
	for _, r := range readings {
		require.Nil(t, r.Unsure, r.Line)
	}
	s := c.Steps[0]
	require.Equal(t, []kitchen.DoneCheck{{Kind: "look", Say: "golden", NotYetS: 60, TooFar: "make it anew"}}, s.Checks)
	require.Equal(t, []string{"the oil is at 180"}, s.Ready)
	require.Equal(t, []kitchen.Never{{What: "stir", Because: "it sticks"}}, s.Never)
	again, _ := Parse(kitchen.Component{}, Format(&c))
	require.Equal(t, c.Steps, again.Steps, Format(&c))
	same, _ := Parse(c.Clone(), Format(&c))
	require.Equal(t, c.Steps, same.Steps, "said once, however often it is saved")
	_, readings = Parse(c, "fry 4 min\nnever stir")
	require.Contains(t, readings[1].Unsure.Text, "say why")
}

// What a house does not have is no reference: by half is no section, after searing no step, mind your fingers no danger.
func TestWhatNobodyHasIsNoReference(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	for _, line := range []string{"reduce by half, 10 min", "slice after searing, 2 min", "carve 2 min, mind your fingers",
		"taste 1 min by the window",
		"glaze 2 min, only by candlelight", "make the sauce 3 min after roast of nothing"} {
		c, _ := KnownOf(b).Parse(kitchen.Component{}, line)
		s := c.Steps[0]
		require.Empty(t, s.Section+strings.Join(s.People, ""), line)
		require.Empty(t, s.After, line)
		require.Empty(t, s.Beside, line)
		require.Empty(t, s.Dangers, line)
	}
	section := d.Sections[1]
	c, _ := KnownOf(b).Parse(kitchen.Component{}, "slice 2 min by "+section.ID)
	require.Equal(t, section.ID, c.Steps[0].Section)
}

// What goes on beside another begins with it; what comes with a thing comes after it.
func TestParallelBeginningsAndJoins(t *testing.T) {
	c, readings := Parse(kitchen.Component{},
		"to order\npeel 5 min\nsear 3 min\nmeanwhile chop 2 min\nbeside the sear, whisk 4 min\nwith the sear, plate 1 min, after chop\n"+
			"dress 20 s from the start")
	for _, r := range readings {
		require.Nil(t, r.Unsure, r.Line)
	}
	after := func(i int) (out []string) {
		for _, a := range c.Steps[i].After {
			out = append(out, a.Step)
		}
		return out
	}
	require.Equal(t, []string{"peel"}, after(1))
	require.Equal(t, []string{"peel"}, after(2))
	require.Equal(t, []string{"peel"}, after(3))
	require.Equal(t, []string{"sear", "chop"}, after(4))
	require.Empty(t, after(5))
	again, _ := Parse(kitchen.Component{}, Format(&c))
	require.Equal(t, c.Steps, again.Steps, Format(&c))
}
