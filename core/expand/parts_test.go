package expand_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// pot is a component of one step that somebody has an eye on, and that may then wait for a while.
func pot(id string, s, hold int) kitchen.Component {
	return kitchen.Component{ID: id, Hold: kitchen.Wait{Longest: seconds(hold)}, Steps: []kitchen.Step{pick("simmer", kitchen.Tend, s)}}
}

// By hand. One cook; plating takes 10 s for the broth and 5 s for the herbs, so they are needed at −15 and −5 and may
// not wait. The broth simmers 20 min with an eye on it: −1215. The herbs take both hands for 10 min: −605. The hands
// chop while the eye is on the pot.
func TestAPotThatSimmersDoesNotStopACookFromChopping(t *testing.T) {
	herbs := kitchen.Component{ID: "herbs", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("chop", kitchen.Both, 600)}}
	p := plan(t, house([]kitchen.Component{pot("broth", 1200, 0), herbs}, []kitchen.Element{{Component: "broth", Seconds: 10},
		{Component: "herbs", Seconds: 5}}), 1, 1)
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, map[string]int64{"broth": -1215, "herbs": -605}, fires(p))
}

// threePots are pots of 4 min, plated in 10 s each: needed at −30, −20 and −10.
func threePots() kitchen.Data {
	return house([]kitchen.Component{pot("x", 240, 300), pot("y", 240, 300), pot("z", 240, 300)},
		[]kitchen.Element{{Component: "x", Seconds: 10}, {Component: "y", Seconds: 10}, {Component: "z", Seconds: 10}})
}

// By hand. With three eyes nothing waits: on at −270, −260, −250. With two, one pot is off before the later of the others
// goes on: x off at −250 waits 220 s, y off at −250 waits 230, z off at −260 waits 250. So x goes on at −490.
func TestACookWatchesSoManyThingsAtOnce(t *testing.T) {
	together := map[string]int64{"x": -270, "y": -260, "z": -250}
	for eyes, want := range map[int]map[string]int64{0: together, 3: together, 2: {"x": -490, "y": -260, "z": -250}} {
		d := threePots()
		d.People[0].Eyes = eyes // 0: from before it could be said, four
		p := plan(t, d, 1, 1)
		require.Equal(t, int64(0), p.LateS)
		require.Equal(t, want, fires(p), "%d eyes", eyes)
	}
}

// Two cooks with one eye and with two watch three pots between them; with one eye each they do not.
func TestCooksOfDifferentEyesShareASection(t *testing.T) {
	d := threePots()
	d.People[1].Sections = []string{"one"}
	d.People[0].Eyes, d.People[1].Eyes = 1, 2
	require.Equal(t, map[string]int64{"x": -270, "y": -260, "z": -250}, fires(plan(t, d, 1, 1)))
	d.People[1].Eyes = 1
	require.Equal(t, map[string]int64{"x": -490, "y": -260, "z": -250}, fires(plan(t, d, 1, 1)))
}

// By hand. Fish takes 50 s on the plate and a pot 10 s, so plating lasts from −60 to 0 and the pot is needed at −10. With
// somebody else at the pass it comes off at −10: on at −250. Who plates has left the stove at −60: on at −300.
func TestACookAtThePassWatchesNoPan(t *testing.T) {
	data := func() kitchen.Data {
		return house([]kitchen.Component{pot("fish", 60, 300), pot("pot", 240, 300)},
			[]kitchen.Element{{Component: "fish", Seconds: 50}, {Component: "pot", Seconds: 10}})
	}
	require.Equal(t, map[string]int64{"fish": -120, "pot": -250}, fires(plan(t, data(), 1, 1)))
	d := data()
	d.People = d.People[:2]
	d.People[0].Sections, d.People[0].Eyes = []string{"one", "pass"}, kitchen.MostEyes
	p := plan(t, d, 1, 1)
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, map[string]int64{"fish": -120, "pot": -300}, fires(p))
}

// By hand. The fish takes 50 s on the plate, pot and kale 5 s each: needed at −60, −10 and −5. A plates from −60 on; B has
// one eye. Both pots cannot be on after −60: the pot comes off then, which is 50 s too soon, rather than the kale, 55 s.
// Until then A has the eyes for it. That A has eyes left and B is at the stove does not make one cook of the two.
func TestTheEyesAreOfWhoIsThere(t *testing.T) {
	d := house([]kitchen.Component{pot("fish", 60, 300), pot("pot", 240, 300), pot("kale", 240, 300)},
		[]kitchen.Element{{Component: "fish", Seconds: 50}, {Component: "pot", Seconds: 5}, {Component: "kale", Seconds: 5}})
	d.People = d.People[:2]
	d.People[0].Sections, d.People[0].Eyes = []string{"one", "pass"}, kitchen.MostEyes
	d.People[1].Sections, d.People[1].Eyes = []string{"one"}, 1
	p := plan(t, d, 1, 1)
	require.Equal(t, int64(0), p.LateS)
	require.Equal(t, map[string]int64{"fish": -120, "pot": -300, "kale": -245}, fires(p))
}

// Herbs that are chopped for a minute while the broth is watched: the hands of the section are full for that minute only.
func TestOnlyHandsCountAsHands(t *testing.T) {
	herbs := kitchen.Component{ID: "herbs", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{pick("chop", kitchen.Both, 60)}}
	d := served([]kitchen.Component{pot("broth", 1200, 0), herbs}, []kitchen.Element{{Component: "broth", Seconds: 10},
		{Component: "herbs", Seconds: 5}}, table("a", 1, 19*60))
	_, _, p := evening(t, d, true)
	require.Equal(t, "one", p.Hands[0].Section)
	require.Len(t, p.Hands[0].Steps, 2)
	require.Equal(t, int64(1), p.Hands[0].Peak)
	require.InDelta(t, 60, p.Hands[0].Steps[1].At.Sub(p.Hands[0].Steps[0].At).Seconds(), 0)
	// Made ahead, too: half an hour of chopping and two hours of watching are half an hour of hands.
	_, prep := prepOf(t, at(14, 10, 0), nil, 48, st("chop", 30, kitchen.Both, 0), st("simmer", 120, kitchen.Tend, 0))
	require.Equal(t, []string{"Chef"}, prep.Jobs[0].Steps[1].People)
	require.Equal(t, int64(1800), prep.Jobs[0].HandsS)
	total := int64(prep.Jobs[0].ReadyAt.Sub(prep.Jobs[0].StartAt).Seconds())
	require.Equal(t, total-9000, prep.Jobs[0].WaitS, "what is watched takes somebody")
	require.Len(t, prep.Load, 1)
	require.Equal(t, int64(1800), prep.Load[0].HandsS)
}

// One cook for everything. Table a is wanted at 19:00, b at 19:05; each has a pot, 20 min on, that may not wait. The hands
// are free all the while, but who watches the pot of one cannot go to the pass for the other: they go 20:30 apart, and what
// keeps the late one is the cook.
func TestWhoWatchesIsNamedAsTheCauseAtThePass(t *testing.T) {
	d := served([]kitchen.Component{pot("broth", 1200, 0)}, []kitchen.Element{{Component: "broth", Seconds: 30}},
		table("a", 1, 19*60), table("b", 1, 19*60+5))
	d.People = d.People[:2]
	d.People[0].Sections = []string{"one", "pass"}
	_, _, p := evening(t, d, true)
	require.NotEmpty(t, p.Trouble)
	require.NotNil(t, p.Trouble[0].Cause)
	require.Equal(t, "a", p.Trouble[0].Cause.Resource.ID)
	for _, f := range p.Fires {
		require.Equal(t, []string{"A"}, f.People, "eyes and presence are one person")
	}
	for _, l := range p.Loads {
		require.NotEqual(t, expand.There, l.Of.Part, "a number for the search alone")
	}
}

// What goes in says how: the act, where and how hot, how much of whom, until when, and how one sees that it is done. By
// hand: plating takes 10 s, so what takes 240 s in the oven and may not wait is in it from 18:55:50 to 18:59:50.
func TestWhatIsFiredSaysTheAct(t *testing.T) {
	bake := inOven(pick("bake", kitchen.Tend, 240), 180)
	bake.Checks = []kitchen.DoneCheck{{Kind: "look", Say: "golden"}}
	c := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(0)}, Steps: []kitchen.Step{bake}}
	_, _, p := evening(t, served([]kitchen.Component{c}, []kitchen.Element{{Component: "fish", Seconds: 10}}, table("a", 1, 19*60)), true)
	require.Len(t, p.Fires, 1)
	f := p.Fires[0]
	require.Equal(t, "bake", f.Act)
	require.Equal(t, kitchen.Tend, f.Hands)
	require.Equal(t, []string{"A"}, f.People)
	require.Equal(t, []string{"Oven"}, f.On)
	require.InDelta(t, 180, *f.C, 0)
	require.Equal(t, "18:55:50", f.At.Format("15:04:05"))
	require.Equal(t, "18:59:50", f.OffAt.Format("15:04:05"))
	require.Equal(t, bake.Checks, f.Checks)
}
