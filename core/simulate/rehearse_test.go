package simulate

import (
	"context"
	"math"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// What many nights say is what they have in common: counted by hand for ten nights of two courses.
func TestWhatNightsSay(t *testing.T) {
	k := &Kitchen{names: map[string]string{"oven": "Deck oven", "oven@1": "Deck oven", "pan": "Pan"}}
	one := PlayedJoin{TableCourse: service.TableCourse{Table: "t1", Course: kitchen.Main}, Name: "Table 1", Booked: 200, Late: -30}
	two := PlayedJoin{TableCourse: service.TableCourse{Table: "t2", Course: kitchen.First}, Name: "Table 2", Booked: 100}
	var played []*Played
	for n := range 10 {
		late := two
		late.Late, late.WaitedFor = float64(60*n), Cause{Section: "fish"}
		p := &Played{Held: 60, Again: n % 2, Told: 3, Vain: 2, Off: n % 2, Helped: 4, Joins: []PlayedJoin{one, late}}
		if n == 9 {
			p.Joins[1].WaitedFor = Cause{Section: "fish", Resource: "oven@1"}
			p.Joins[0].Skipped = true
		}
		played = append(played, p)
	}
	r := k.sum(AsPrinted, played)
	require.Equal(t, 10, r.Nights)
	require.InDelta(t, 6.0/19, r.Late, 1e-9, "four to nine minutes are late, three are not; one course was left out")
	require.InDelta(t, 60*45.0/19, r.LateS, 1e-9, "what is early counts as in time")
	require.InDelta(t, 300, r.WorstS, 1e-9)
	require.InDelta(t, 0.4, r.Calm, 1e-9)
	require.InDelta(t, 1, r.HeldMin, 1e-9)
	require.InDelta(t, 0.5, r.Again, 1e-9)
	require.InDelta(t, 3, r.Told, 1e-9)
	require.InDelta(t, 2, r.Vain, 1e-9)
	require.InDelta(t, 0.5, r.Off, 1e-9)
	require.InDelta(t, 4, r.Helped, 1e-9)
	require.InDelta(t, 9.0/19, r.Later[0], 1e-9, "more than no minute late")
	require.InDelta(t, 1.0/19, r.Later[8], 1e-9)
	require.Zero(t, r.Later[9])
	require.Equal(t, []RehearsedFor{{Section: "fish", Share: 5.0 / 6}, {Section: "fish", Resource: "oven", Name: "Deck oven", Share: 1.0 / 6}},
		r.Causes)
	require.Equal(t, []string{"Table 2", "Table 1"}, []string{r.Joins[0].Name, r.Joins[1].Name}, "in the order of their wishes")
	second := r.Joins[0]
	require.InDelta(t, 0.6, second.Late, 1e-9)
	require.InDelta(t, 60*39.0/6, second.LateS, 1e-9)
	require.InDelta(t, 300, second.LikelyS, 1e-9)
	require.InDelta(t, 540, second.BadS, 1e-9)
	require.Zero(t, r.Joins[1].Late)
}

// A rehearsal counts each night, is the same on however many cores, and tells what it has when it is ended.
func TestARehearsalIsEnded(t *testing.T) {
	e, told := few()
	k := New(e, told, 1)
	count := 0
	play := func(ctx context.Context, k *Kitchen, seed uint64, done func(int, []*Rehearsal)) *Rehearsal {
		list, err := k.Rehearse(ctx, seed, 30, Usual(), done, AsPrinted)
		require.NoError(t, err)
		if len(list) == 0 {
			return nil
		}
		return list[0]
	}
	var sofar []*Rehearsal
	var hears sync.Mutex
	all := play(t.Context(), k, 5, func(n int, so []*Rehearsal) {
		hears.Lock()
		defer hears.Unlock()
		count = max(count, n)
		if so != nil {
			sofar = so
		}
	})
	require.Len(t, sofar, 1)
	require.Equal(t, tellNights, sofar[0].Nights, "what it says so far")
	require.Equal(t, 30, all.Nights)
	require.Equal(t, 30, count)
	require.Equal(t, all, play(t.Context(), New(e, told, 1), 5, nil))
	require.NotEqual(t, all.Joins, play(t.Context(), k, 6, nil).Joins)
	ctx, end := context.WithCancel(t.Context())
	some := play(ctx, k, 5, func(int, []*Rehearsal) { end() })
	require.Less(t, some.Nights, 30)
	require.Nil(t, play(ctx, k, 5, nil))
}

// By each policy a piece begins no sooner than that policy lets it: the plan's time as printed, the course's first work in its order, the
// call.
func TestWhenAPolicyLetsBegin(t *testing.T) {
	k := &Kitchen{meetings: []meeting{{key: service.TableCourse{Table: "t1", Course: kitchen.Main}, wish: 3600, planned: 3600, first: 2400}},
		pieces: []piece{{planned: 3000, long: 60, joins: []int{0}}, {planned: 3540, long: 60, joins: []int{0}, plating: true},
			{planned: 1800, long: 600, base: true}}}
	p := &play{k: k, planned: []float64{3000, 3540, 1800}, wish: []float64{3600}, seated: map[string]bool{}, usual: k.usual()}
	for policy, want := range map[Policy][]float64{AsPrinted: {3000, 3540, 1800}, Again: {3000, 3540, 1800}, Dispatch: {2400, 0, 1800},
		NoPlan: {2400, 0, 1800}} {
		p.policy = policy
		for i := range want {
			require.InDelta(t, want[i], p.release(i), 1e-9, "%s %d", policy, i)
		}
	}
	// Without times nobody plates a first course long before its table wants it, though all is there.
	k.meetings[0].follows = -1
	for policy, want := range map[Policy]float64{AsPrinted: 3540, Again: 3540, Dispatch: 3600 - 60 - ahead, NoPlan: 3600 - 60 - ahead} {
		p.policy = policy
		require.InDelta(t, want, p.release(1), 1e-9, policy)
	}
	// The table is ten minutes late, and there: what keeps to its course goes with it, what is printed does not; nobody plates long before it.
	p.wish[0], p.seated["t1"] = 4200, true
	for policy, want := range map[Policy]float64{AsPrinted: 3000, Dispatch: 3000, NoPlan: 3000} {
		p.policy = policy
		require.InDelta(t, want, p.release(0), 1e-9, policy)
	}
	p.policy = AsPrinted
	require.InDelta(t, 3540+600-ahead, p.release(1), 1e-9)
	p.seated["t1"], p.policy = false, Dispatch
	require.InDelta(t, 2400, p.release(0), 1e-9, "nobody knows yet that it is late")
}

// What is drawn keeps its bounds, and goes with what is set.
func TestWhatIsDrawn(t *testing.T) {
	x := &piece{task: "hake", long: 240, spread: [3]float64{200, 240, 300}, run: &service.PlanRun{Section: "fish", Asks: true}}
	none := night{1, Settings{}}
	require.InDelta(t, 240, none.long(x), 0)
	require.Zero(t, none.reaction(x)+none.notYet(x)+none.drift("t1")+none.lingers("t1", "main"))
	require.False(t, none.again(x) || none.skips("t1", "main"))
	sum, forgot, late := 0.0, 0, 0
	const nights = 4000
	for seed := range uint64(nights) {
		n := night{seed, Settings{Times: true, ReactionS: 6, Forgets: 0.1, ArrivalsMin: 4, NotYet: 0.25}}
		long := n.long(x)
		require.GreaterOrEqual(t, long, 200.0-1e-9)
		require.LessOrEqual(t, long, 300.0+1e-9)
		sum += long
		if r := n.reaction(x); r == remindedS {
			forgot++
		} else {
			require.LessOrEqual(t, r, longestReact)
		}
		require.LessOrEqual(t, math.Abs(n.drift("t1")), furthestSD*240)
		if m := n.notYet(x); m > 0 {
			require.GreaterOrEqual(t, m, notYetFromS)
			require.LessOrEqual(t, m, notYetToS)
			late++
		}
	}
	// PERT's mean is (200 + 4·240 + 300)/6 = 243⅓; four standard errors of 4,000 draws.
	require.InDelta(t, 243.33, sum/nights, 4*16.7/math.Sqrt(nights)+0.5)
	require.InDelta(t, 0.1, float64(forgot)/nights, 0.02)
	require.InDelta(t, 0.25, float64(late)/nights, 0.03)
	plates := &piece{task: "plating", long: 40, plating: true}
	require.Zero(t, (&night{1, Usual()}).reaction(plates), "nobody fires that")
}
