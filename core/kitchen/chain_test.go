package kitchen_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// chain makes a linear component of n steps, the first `ahead` of them made ahead; the
// wait before step i is i minutes.
func chain(n, ahead int) kitchen.Component {
	c := kitchen.Component{ID: "c", Name: "C", Section: "s", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1}
	for i := range n {
		s := kitchen.Step{ID: fmt.Sprintf("s%d", i), Name: fmt.Sprint(i), Phase: kitchen.PickUp, Hands: kitchen.Both,
			Time: kitchen.StepTime{Fixed: kitchen.Exactly(60)}}
		if i < ahead {
			s.Phase = kitchen.Ahead
		}
		if i > 0 {
			s.After = []kitchen.Predecessor{{Step: fmt.Sprintf("s%d", i-1), Wait: kitchen.Wait{Shortest: i * 60}}}
		}
		c.Steps = append(c.Steps, s)
	}
	return c
}

// shape writes the chain as steps with the minutes of wait before them and the cut.
func shape(c *kitchen.Component) string {
	out := ""
	for i, s := range c.Steps {
		if s.Phase == kitchen.PickUp && (i == 0 || c.Steps[i-1].Phase == kitchen.Ahead) {
			out += "| "
		}
		for _, a := range s.After {
			if a.Shortest > 0 {
				out += fmt.Sprintf("%d·", a.Shortest/60)
			}
		}
		out += s.ID + " "
	}
	return out
}

func TestChainEdits(t *testing.T) {
	for name, x := range map[string]struct {
		edit func(*kitchen.Component) error
		want string
	}{
		"insert between: the wait stays before the one that had it": {func(c *kitchen.Component) error {
			return c.InsertStep(1,
				kitchen.Step{ID: "new", Name: "n"})
		}, "s0 new 1·s1 | 2·s2 3·s3 "},
		"insert first": {func(c *kitchen.Component) error { return c.InsertStep(0, kitchen.Step{ID: "new", Name: "n"}) },
			"new s0 1·s1 | 2·s2 3·s3 "},
		"insert last, made to order": {func(c *kitchen.Component) error { return c.InsertStep(4, kitchen.Step{ID: "s1", Name: "n"}) },
			"s0 1·s1 | 2·s2 3·s3 s1-2 "},
		"remove":                               {func(c *kitchen.Component) error { return c.RemoveStep("s1") }, "s0 | 2·s2 3·s3 "},
		"remove the first":                     {func(c *kitchen.Component) error { return c.RemoveStep("s0") }, "s1 | 2·s2 3·s3 "},
		"move within a phase":                  {func(c *kitchen.Component) error { return c.MoveStep(3, 2) }, "s0 1·s1 | 3·s3 2·s2 "},
		"move across the cut":                  {func(c *kitchen.Component) error { return c.MoveStep(0, 3) }, "s1 | 2·s2 3·s3 1·s0 "},
		"move ahead: made ahead now":           {func(c *kitchen.Component) error { return c.MoveStep(3, 0) }, "s3 3·s0 1·s1 | 2·s2 "},
		"move to the cut: keeps its own phase": {func(c *kitchen.Component) error { return c.MoveStep(0, 1) }, "s1 1·s0 | 2·s2 3·s3 "},
		"cut at the start":                     {func(c *kitchen.Component) error { return c.CutAt(0) }, "| s0 1·s1 2·s2 3·s3 "},
		"cut at the end":                       {func(c *kitchen.Component) error { return c.CutAt(4) }, "s0 1·s1 2·s2 3·s3 "},
	} {
		c := chain(4, 2)
		require.NoError(t, x.edit(&c), name)
		require.Equal(t, x.want, shape(&c), name)
		require.True(t, c.Linear(), name)
	}
	c := chain(4, 2)
	for _, err := range []error{c.InsertStep(5, kitchen.Step{}), c.InsertStep(-1, kitchen.Step{}), c.RemoveStep("x"), c.MoveStep(0, 4),
		c.MoveStep(-1, 0), c.CutAt(5)} {
		require.Error(t, err)
	}
	require.Equal(t, chain(4, 2), c, "a refused edit changes nothing")
}

// A graph: two steps run side by side and a third waits for both.
func TestChainEditsOfAGraph(t *testing.T) {
	c := chain(3, 0)
	c.Steps[1].After = []kitchen.Predecessor{}
	c.Steps[2].After = []kitchen.Predecessor{{Step: "s0", Wait: kitchen.Wait{Shortest: 60}}, {Step: "s1"}}
	require.False(t, c.Linear())
	moved := c.Clone()
	require.NoError(t, moved.MoveStep(2, 0))
	require.Equal(t, c.Steps[2].After, moved.Steps[0].After, "the order of the list says nothing about a graph")
	gone := c.Clone()
	require.NoError(t, gone.RemoveStep("s1"))
	require.Equal(t, []kitchen.Predecessor{{Step: "s0", Wait: kitchen.Wait{Shortest: 60}}}, gone.Steps[1].After)
	require.Len(t, c.Steps[2].After, 2, "a clone's steps are its own")
}

// Any series of edits leaves a chain that is linear and sound, and keeps every step.
func TestChainStaysSound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 6).Draw(t, "n")
		c := chain(n, rapid.IntRange(0, n).Draw(t, "ahead"))
		for range rapid.IntRange(1, 12).Draw(t, "edits") {
			at := rapid.IntRange(0, len(c.Steps)-1).Draw(t, "at")
			was := len(c.Steps)
			switch rapid.IntRange(0, 3).Draw(t, "edit") {
			case 0:
				require.NoError(t, c.InsertStep(at, kitchen.Step{ID: "new", Name: "New", Hands: kitchen.None}))
				was++
			case 1:
				if was > 1 {
					require.NoError(t, c.RemoveStep(c.Steps[at].ID))
					was--
				}
			case 2:
				require.NoError(t, c.MoveStep(at, rapid.IntRange(0, len(c.Steps)-1).Draw(t, "to")))
			case 3:
				require.NoError(t, c.CutAt(at))
			}
			require.Len(t, c.Steps, was)
			require.True(t, c.Linear(), shape(&c))
			for i := 1; i < len(c.Steps); i++ {
				require.False(t, c.Steps[i].Phase == kitchen.Ahead && c.Steps[i-1].Phase == kitchen.PickUp, shape(&c))
			}
			for _, f := range kitchen.CheckComponent(c) {
				require.NotContains(t, f.Path, "steps", f.Message)
			}
		}
	})
}

func TestCompareInWords(t *testing.T) {
	b, err := kitchen.NewBook(data(t))
	require.NoError(t, err)
	d, _ := b.Dish("hake-cider-butter")
	was := d.Specification
	require.Empty(t, kitchen.Compare(&was, &was, b.NameOf))
	is := was
	is.Elements = append([]kitchen.Element{}, was.Elements...)
	is.Elements[1].Amount += 10
	is.Elements[1].LastMoment = true
	is.StandLimitS = 240
	is.TableSide = "sauce poured"
	require.Equal(t, []string{
		fmt.Sprintf("%s: amount %g, was %g; now at the last moment.", b.NameOf(is.Elements[1].Component), is.Elements[1].Amount,
			was.Elements[1].Amount),
		"At the table: sauce poured.", "May stand: 240 s, was 300 s."}, message.Texts(kitchen.Compare(&was, &is, b.NameOf)))
	// Two elements change places: both say so.
	is = was
	is.Elements = append([]kitchen.Element{}, was.Elements...)
	is.Elements[0], is.Elements[1] = is.Elements[1], is.Elements[0]
	words := kitchen.Compare(&was, &is, b.NameOf)
	require.Len(t, words, 2)
	require.Contains(t, words[0].Text, "number 1, was 2")
	// One goes and another comes: the numbers shift by themselves and are not said.
	is.Elements = append([]kitchen.Element{}, was.Elements[1:]...)
	leaf := was.Elements[0]
	leaf.Component = "watercress"
	is.Elements = append(is.Elements, leaf)
	words = kitchen.Compare(&was, &is, b.NameOf)
	require.Equal(t, b.NameOf(was.Elements[0].Component)+" is gone (was number 1).", words[0].Text)
	require.Contains(t, words[1].Text, "Watercress is new: ")
	require.Len(t, words, 2)
}

// The US acts (FALCPA, FASTER) name nine; Annex II of Regulation (EU) 1169/2011 fourteen.
func TestAllergenLinesUnderBothCodes(t *testing.T) {
	nine := 0
	for _, a := range kitchen.EUAllergens() {
		if kitchen.AllergenName(a, kitchen.CodeFDA) != "" {
			nine++
		}
	}
	require.Equal(t, 9, nine)
	require.Len(t, kitchen.EUAllergens(), 14)
	b, err := kitchen.NewBook(data(t))
	require.NoError(t, err)
	d, _ := b.Dish("hake-cider-butter")
	eu := b.AllergenLines(d.Specification.Elements, kitchen.CodeUKEU)
	us := b.AllergenLines(d.Specification.Elements, kitchen.CodeFDA)
	require.Len(t, us, len(eu), "nothing is hidden")
	milk := func(ls []kitchen.AllergenLine) (from []string) {
		for _, l := range ls {
			if l.Allergen == "milk" {
				from = l.From
			}
		}
		return from
	}
	require.Equal(t, milk(eu), milk(us))
	require.NotEmpty(t, milk(eu))
	for _, l := range eu {
		require.True(t, l.Named)
		require.Equal(t, string(l.Allergen), l.Name)
	}
	seen := false
	for _, l := range us {
		require.False(t, seen && l.Named, "those that the code names come first")
		seen = seen || !l.Named
	}
	require.Equal(t, "wheat or another cereal with gluten", kitchen.AllergenTitle("gluten", kitchen.CodeFDA))
}

func TestStarterIsAKitchen(t *testing.T) {
	b, err := kitchen.NewBook(kitchen.Starter("Mine", "Europe/Copenhagen", kitchen.CodeFDA))
	require.NoError(t, err)
	require.Len(t, b.MayPlate(), 1)
	_, err = kitchen.NewBook(kitchen.Starter("", "Nowhere", "x"))
	require.Equal(t, []string{"kitchen.name", "kitchen.time_zone", "kitchen.safety_code"}, paths(err))
}

func TestArchivedOnlyWhenNothingNeedsIt(t *testing.T) {
	d := data(t)
	var hake int
	for i := range d.Components {
		if d.Components[i].ID == "hake" {
			hake = i
		}
	}
	d.Components[hake].Archived = true
	_, err := kitchen.NewBook(d)
	require.ErrorContains(t, err, "still needs Hake, roasted: it cannot be archived")
	for i := range d.Dishes {
		if d.Dishes[i].ID == "hake-cider-butter" {
			d.Dishes[i].State = kitchen.RetiredDish
		}
	}
	_, err = kitchen.NewBook(d)
	require.NoError(t, err)
}

func TestDraftTakesThePlaceOfTheSpecification(t *testing.T) {
	d := data(t)
	draft := d.Dishes[0].Specification
	draft.Elements, draft.Variants = draft.Elements[:1], nil
	d.Dishes[0].Draft = &draft
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	with, ok := b.WithDraft(d.Dishes[0].ID)
	require.True(t, ok)
	x, _ := with.Dish(d.Dishes[0].ID)
	require.Len(t, x.Specification.Elements, 1)
	y, _ := b.Dish(d.Dishes[0].ID)
	require.Greater(t, len(y.Specification.Elements), 1)
	_, ok = b.WithDraft(d.Dishes[1].ID)
	require.False(t, ok)
	d.Dishes[0].Draft.Elements[0].Component = "nothing"
	_, err = kitchen.NewBook(d)
	require.Contains(t, paths(err), "dishes[0].draft.elements[0].component")
}
