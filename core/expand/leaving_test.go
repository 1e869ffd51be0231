package expand_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// wished is four portions in one pan: as written for 240 s, well done 120 s more, rare 60 s less. Hands lay in for 20 s and
// take out for 5 s and 5 a portion.
func wished(t *testing.T, longest int, orders ...expand.Order) (*expand.Plan, kitchen.Data) {
	s := pick("pan", kitchen.Tend, 240)
	s.Ends = kitchen.Ends{InS: 20, OutS: 5, OutEachS: 5}
	s.Batch = &kitchen.BatchLimit{Portions: 4, Run: kitchen.SideBySide}
	s.Doneness = []kitchen.Doneness{{Name: "well done", Seconds: 120}, {Name: "rare", Seconds: -60}}
	d := house([]kitchen.Component{{ID: "fish", Hold: kitchen.Wait{Best: seconds(longest), Longest: seconds(longest)},
		Steps: []kitchen.Step{s}}},
		[]kitchen.Element{{Component: "fish", Seconds: 10}})
	for i := range orders {
		orders[i].Dish = "dish"
	}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, expand.Table{Orders: orders, At: join, Hands: 1})
	require.NoError(t, err)
	return solved(t, f), d
}

// By hand. Four plates of 10 s: needed from −40. One is wanted well done: it leaves at −40 at the latest and is in for 360 s, so
// the pan begins at −400. The other three leave it after 240 s, at −160, taken out in 20 s, and wait 120 s; the one is taken out
// in 10 s, at −50. They do not stay in for the one.
func TestPortionsLeaveAPanAtTheirOwnTimes(t *testing.T) {
	p, _ := wished(t, 600, expand.Order{Count: 3}, expand.Order{Count: 1, Doneness: "well done"})
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, map[string]int64{"fish": -400}, fires(p))
	require.Len(t, p.Strands[0].Bars, 1, "one pan")
	require.EqualValues(t, 360, p.Strands[0].Bars[0].FinishS-p.Strands[0].Bars[0].StartS)
	ends := [][2]int64{}
	for _, x := range p.Strands[0].Bars[0].Touches {
		ends = append(ends, [2]int64{x.FromS, x.ToS})
		require.Equal(t, "A", x.Who)
	}
	require.Equal(t, [][2]int64{{-400, -380}, {-180, -160}, {-50, -40}}, ends)
	require.Len(t, p.Strands[0].Waits, 1, "the three wait; the one does not")
	require.EqualValues(t, 120, p.Strands[0].Waits[0].ToS-p.Strands[0].Waits[0].FromS)
	// They may wait 119 s and no longer: not in one pan.
	p, _ = wished(t, 119, expand.Order{Count: 3}, expand.Order{Count: 1, Doneness: "well done"})
	require.NotEmpty(t, p.Broken)
	// Three wishes in one pan: rare is out at 180 s, as written at 240, well done at 360.
	p, _ = wished(t, 600, expand.Order{Count: 1, Doneness: "Rare"}, expand.Order{Count: 2}, expand.Order{Count: 1, Doneness: "well done"})
	require.Len(t, p.Strands[0].Bars[0].Touches, 4)
	var out []int64
	for _, x := range p.Strands[0].Bars[0].Touches[1:] {
		out = append(out, x.ToS-p.Strands[0].Bars[0].StartS)
	}
	require.Equal(t, []int64{180, 240, 360}, out)
	// All alike: one taking out, as ever.
	p, _ = wished(t, 600, expand.Order{Count: 4, Doneness: "well done"})
	require.Len(t, p.Strands[0].Bars[0].Touches, 2)
	require.EqualValues(t, 360, p.Strands[0].Bars[0].FinishS-p.Strands[0].Bars[0].StartS)
}

// Whoever stands at it with both hands stands there until the last is done.
func TestBothHandsStayUntilTheLastIsDone(t *testing.T) {
	s := pick("pan", kitchen.Both, 240)
	s.Doneness = []kitchen.Doneness{{Name: "well done", Seconds: 120}}
	d := house([]kitchen.Component{{ID: "fish", Hold: kitchen.Wait{Longest: seconds(60)}, Steps: []kitchen.Step{s}}},
		[]kitchen.Element{{Component: "fish", Seconds: 10}})
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	f, err := expand.NewFiring(b, expand.Table{Orders: []expand.Order{{Dish: "dish", Count: 1},
		{Dish: "dish", Count: 1, Doneness: "well done"}}, At: join, Hands: 1})
	require.NoError(t, err)
	require.Equal(t, map[string]int64{"fish": -380}, fires(solved(t, f)))
}

// On the sheet each part that leaves is a line of its own, with its count and how long it may wait.
func TestASheetSaysWhatLeavesWhen(t *testing.T) {
	_, d := wished(t, 600, expand.Order{Count: 4})
	d.Services = served(nil, nil, table("a", 4, 19*60)).Services
	d.Services[0].Tables[0].Needs = []kitchen.GuestNeed{{Guests: 1, Doneness: "well done"}}
	_, _, p := evening(t, d, true)
	var out []string
	for _, l := range p.Lines {
		if l.Kind == expand.LineOut {
			out = append(out, l.OffAt.Format("15:04:05")+" "+l.MayUntil.Format("15:04:05"))
			require.Equal(t, map[bool]int{true: 1, false: 3}[l.OffAt.Sub(p.Fires[0].At).Seconds() == 360], l.Count)
		}
	}
	require.Equal(t, []string{"18:57:20 19:07:20", "18:59:20 19:09:20"}, out)
	require.Equal(t, 4, p.Fires[0].Count)
}

// A wish that nothing of the dish knows is not taken in silence: at a table alone it is refused, in a service it is said.
func TestAnUnknownWishIsSaid(t *testing.T) {
	_, d := wished(t, 600, expand.Order{Count: 4})
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	for wish, faulty := range map[string]bool{"": false, "WELL done": false, "blue": true} {
		_, err := expand.NewFiring(b, expand.Table{Orders: []expand.Order{{Dish: "dish", Count: 1, Doneness: wish}}, At: join, Hands: 1})
		if faulty {
			require.EqualError(t, err, "orders[0].doneness: nothing of Dish can be done “blue”")
		} else {
			require.NoError(t, err)
		}
		d.Services = served(nil, nil, table("a", 2, 19*60), table("b", 1, 19*60)).Services
		d.Services[0].Tables[0].Needs = []kitchen.GuestNeed{{Guests: 1, Doneness: wish}}
		d.Services[0].Tables[1].Orders = []kitchen.TableOrder{{Dish: "dish", Count: 1, Doneness: wish}}
		_, _, p := evening(t, d, true)
		said := []string{}
		for _, m := range p.Said {
			said = append(said, m.Text)
		}
		if faulty {
			require.Equal(t, []string{"A: nothing on the menu can be done “blue”; it is cooked as written.",
				"B: nothing on the menu can be done “blue”; it is cooked as written."}, said)
		} else {
			require.Empty(t, said)
		}
	}
}

// A size is a variant of time as a wish is, and a portion may have both: large is a minute more, well done two, large and well
// done three. By hand as above: the pan lasts as long as the longest, 240 + 180 s.
func TestSizeAndWishAddUp(t *testing.T) {
	s := kitchen.Step{Doneness: []kitchen.Doneness{{Name: "large", Seconds: 60}, {Name: "well done", Seconds: 120},
		{Name: "small", Seconds: -30}}}
	require.Equal(t, []int{0, 60, 120, 180, 90, -30}, s.Longer([]string{"", "Large", "well done", "large, well done", "Well done and small",
		"small"}))
	require.Equal(t, []string{"large", "well done"}, kitchen.Wishes(" large and well done "))
	require.Empty(t, kitchen.Wishes(" , "))
	require.NotEmpty(t, kitchen.CheckComponent(
		kitchen.Component{Steps: []kitchen.Step{{Doneness: []kitchen.Doneness{{Name: "large, well done"}}}}}))
}

// One joint meets several wishes: its two ends are well done without more time, so two of three who wish that leave with the
// others, and the third is in for longer. All at once, none is.
func TestTheEndsOfAJointAreMoreDone(t *testing.T) {
	s := kitchen.Step{Doneness: []kitchen.Doneness{{Name: "well done", Seconds: 120, Ends: 2}}}
	require.Equal(t, []int{0, 0, 0, 120, 0}, s.Longer([]string{"", "well done", "Well Done", "well done", ""}))
	require.Equal(t, []int{0, 0}, s.Longer([]string{"well done", "well done"}))
	joint := kitchen.Component{ID: "joint", Hold: kitchen.Wait{Longest: seconds(600)},
		Steps: []kitchen.Step{inOven(pick("roast", kitchen.None, 600), 180)}}
	joint.Steps[0].Ends = kitchen.Ends{OutS: 20}
	joint.Steps[0].Doneness = s.Doneness
	leave := func(wellDone int) int {
		d := house([]kitchen.Component{joint}, []kitchen.Element{{Component: "joint", Seconds: 10}})
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		orders := []expand.Order{{Dish: "dish", Count: 6 - wellDone}, {Dish: "dish", Count: wellDone, Doneness: "well done"}}
		f, err := expand.NewFiring(b, expand.Table{Orders: orders, At: at(14, 19, 0)})
		require.NoError(t, err)
		n := 0
		for _, ref := range f.Tasks {
			if ref.Act == expand.ActLeave {
				n++
			}
		}
		return n
	}
	require.Zero(t, leave(2), "the ends are carved for them: one roast, out at once")
	require.Equal(t, 2, leave(3), "the third is in for longer")
}
