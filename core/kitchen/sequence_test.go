package kitchen_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"jointime/core/kitchen"
)

// plate makes elements a, b, c … each standing on the number given, and one variant that
// leaves each of them out.
func plate(on ...int) kitchen.Specification {
	s := kitchen.Specification{Variants: []kitchen.Variant{{Name: "v"}}}
	for i, n := range on {
		e := kitchen.Element{Component: string(rune('a' + i)), On: n}
		s.Elements = append(s.Elements, e)
		s.Variants[0].Changes = append(s.Variants[0].Changes, kitchen.Change{Element: i + 1, Kind: "replace",
			With: &kitchen.Element{Component: e.Component, On: n}})
	}
	return s
}

func stacking(s *kitchen.Specification) string {
	out := ""
	for _, e := range s.Elements {
		out += fmt.Sprintf("%s%d ", e.Component, e.On)
	}
	return out
}

func TestElementsAreRemovedAndMoved(t *testing.T) {
	s := plate(0, 1, 2, 0)
	require.NoError(t, s.RemoveElement(1))
	require.Equal(t, "a0 c0 d0 ", stacking(&s), "what stood on it stands on the vessel")
	s = plate(0, 1, 2, 0)
	require.NoError(t, s.RemoveElement(3))
	require.Equal(t, "a0 b1 c2 ", stacking(&s))
	s = plate(0, 1, 2, 0)
	require.NoError(t, s.MoveElement(0, 3))
	require.Equal(t, "b0 c1 d0 a0 ", stacking(&s), "nothing stands on what is put down later")
	s = plate(0, 1, 2, 0)
	require.NoError(t, s.MoveElement(3, 0))
	require.Equal(t, "d0 a0 b2 c3 ", stacking(&s))
	require.Error(t, s.RemoveElement(4))
	require.Error(t, s.MoveElement(0, 4))
	require.Error(t, s.MoveElement(-1, 0))
}

// Variants go on speaking of the same component, whatever is done to the order.
func TestVariantsFollowTheirElements(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var on []int
		for i := range rapid.IntRange(1, 6).Draw(t, "n") {
			on = append(on, rapid.IntRange(0, i).Draw(t, "on"))
		}
		s := plate(on...)
		before := stacking(&s)
		was := s
		for range rapid.IntRange(1, 6).Draw(t, "edits") {
			if len(s.Elements) == 0 {
				break
			}
			at := rapid.IntRange(0, len(s.Elements)-1).Draw(t, "at")
			if rapid.Bool().Draw(t, "remove") {
				require.NoError(t, s.RemoveElement(at))
			} else {
				require.NoError(t, s.MoveElement(at, rapid.IntRange(0, len(s.Elements)-1).Draw(t, "to")))
			}
			require.Len(t, s.Variants[0].Changes, len(s.Elements))
			for _, c := range s.Variants[0].Changes {
				require.Equal(t, s.Elements[c.Element-1].Component, c.With.Component)
				require.Less(t, c.With.On, c.Element)
			}
			for i, e := range s.Elements {
				require.LessOrEqual(t, e.On, i)
			}
		}
		require.Equal(t, before, stacking(&was), "the old specification is as it was")
	})
}
