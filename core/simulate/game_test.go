package simulate

import (
	"math"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/service"
)

// look is how often a trainee looks at the screen.
const look = 4 * time.Second

// trainee cooks a section by what its screen shows: what is due is fired so many seconds after, what asks is taken off so many seconds
// after.
type trainee struct {
	g             *Game
	section       string
	slow, tooLong time.Duration
	log           []service.Event
	count         int64
	refused       map[Fate]int
}

func (c *trainee) says(at time.Time, kind service.Kind, l *service.DueLine) {
	c.count++
	e := service.Event{ID: "trainee-" + strconv.FormatInt(c.count, 10), Kind: kind, At: at, ReceivedAt: at, Device: "trainee", Count: c.count,
		Facts: service.Facts{Task: l.Task, Component: l.Component, Step: l.Step, Section: c.section, Portions: l.Portions, Joins: l.Joins}}
	c.g.Say(e)
	c.log = append(c.log, e)
}

// cooks goes on until everything has left, or for so long.
func (c *trainee) cooks(t *testing.T, long time.Duration) {
	at := c.g.From()
	since := map[string]time.Time{}
	c.refused = map[Fate]int{}
	for end := at.Add(long); at.Before(end) && !c.g.Over(); at = at.Add(look) {
		c.g.Until(at)
		c.log = append(c.log, c.g.Events()...)
		for _, s := range service.DueAt(service.Fold(c.log), c.g.Plan(), at).Sections {
			if s.Section != c.section {
				continue
			}
			for i := range s.Now {
				if l := &s.Now[i]; !at.Before(l.FireAt.Add(c.slow)) || l.Standing == service.Overdue && at.Sub(first(since, l.Task, at)) >= c.slow {
					fate, _ := c.g.Fire(l.Task)
					if c.refused[fate]++; fate == Done {
						c.says(at, service.Fired, l)
					}
				}
			}
			for i := range s.On {
				if l := &s.On[i]; l.Standing == service.Asks && at.Sub(first(since, "on "+l.Task, at)) >= c.tooLong {
					fate, _ := c.g.Ready(l.Task)
					if c.refused[fate]++; fate == Done {
						c.says(at, service.Ready, l)
					}
				}
			}
		}
	}
	c.g.Until(at)
	c.log = append(c.log, c.g.Events()...)
}

func first(since map[string]time.Time, what string, at time.Time) time.Time {
	if _, there := since[what]; !there {
		since[what] = at
	}
	return since[what]
}

func gameOf(set Settings, section string) *Game {
	e, told := few()
	return New(e, told, 1).Begin(3, set, section)
}

// Where nobody cooks it is the night that is played.
func TestANightThatIsWatchedIsTheNightThatIsPlayed(t *testing.T) {
	e, told := few()
	k := New(e, told, 1)
	want := k.Play(3, Usual(), Again, true)
	g := k.Begin(3, Usual(), "")
	at := g.From().Add(-time.Hour)
	var log []service.Event
	for !g.Over() {
		at = at.Add(7 * time.Second)
		g.Until(at)
		log = append(log, g.Events()...)
	}
	require.Equal(t, service.Closed, log[len(log)-1].Kind)
	require.Equal(t, want.Events, log[:len(log)-1])
	require.Equal(t, want.Joins, g.Result().Joins)
	require.Empty(t, g.Cooked())
}

// Whoever does what the screen says, when it says so, has nothing held against them, and every table leaves as it does when all is played
// to the second; what they said fits the rules of a service.
func TestWhoeverDoesWhatTheScreenSaysIsInTime(t *testing.T) {
	for _, section := range []string{"garnish", "fish", "roast"} {
		c := &trainee{g: gameOf(Settings{}, section), section: section}
		c.cooks(t, 6*time.Hour)
		require.True(t, c.g.Over(), section)
		cooked := c.g.Cooked()
		require.NotEmpty(t, cooked, section)
		for _, r := range cooked {
			require.NotNil(t, r.FiredAt, r.What)
			require.LessOrEqual(t, r.LateS, 2*look.Seconds(), r.What)
			require.Empty(t, r.Instead, r.What)
			require.LessOrEqual(t, r.OverS, 2*look.Seconds(), r.What)
			require.Zero(t, r.Early)
		}
		for _, j := range c.g.Result().Joins {
			require.Less(t, math.Abs(j.Late), 60.0, "%s: %s %s", section, j.Name, j.Course)
		}
		for i := range c.log {
			require.Nil(t, service.Refuses(c.log[:i], &c.log[i], "section"), "%s: %+v", section, c.log[i])
		}
		require.Empty(t, service.Fold(c.log).Settle)
	}
}

// Whoever is slow is told by how much, both of the fire and of what stayed on too long, and tables leave later by it.
func TestWhoeverIsSlowIsTold(t *testing.T) {
	quick, slow := &trainee{g: gameOf(Usual(), "roast"), section: "roast"},
		&trainee{g: gameOf(Usual(), "roast"), section: "roast", slow: 4 * time.Minute, tooLong: 3 * time.Minute}
	quick.cooks(t, 8*time.Hour)
	slow.cooks(t, 8*time.Hour)
	require.True(t, slow.g.Over())
	late, over := 0, 0
	for _, r := range slow.g.Cooked() {
		if r.LateS > 200 {
			late++
		}
		if r.OverS > 150 {
			require.True(t, r.Asks)
			over++
		}
	}
	require.Positive(t, late)
	require.Positive(t, over)
	sum := func(c *trainee) (s float64) {
		for _, j := range c.g.Result().Joins {
			s += max(0, j.Late)
		}
		return s
	}
	require.Greater(t, sum(slow), sum(quick)+120)
}

func TestWhatCannotBeDoneIsRefused(t *testing.T) {
	g := gameOf(Settings{}, "roast")
	at := g.From()
	g.Until(at)
	plan := g.Plan()
	other, asks, later := "", "", ""
	for i := range plan.Runs {
		switch r := &plan.Runs[i]; {
		case r.Section != "roast":
			other = r.Task
		case g.p.left[g.p.k.index[r.Task]] > 0 && later == "":
			later = r.Task
		case r.Asks && asks == "" && g.p.left[g.p.k.index[r.Task]] == 0:
			asks = r.Task
		}
	}
	fate, _ := g.Fire(other)
	require.Equal(t, NotMine, fate)
	fate, _ = g.Fire("nothing")
	require.Equal(t, NotMine, fate)
	fate, _ = g.Ready(asks)
	require.Equal(t, NotBegun, fate)
	fate, before := g.Fire(later)
	require.Equal(t, NotReady, fate)
	require.NotEmpty(t, before)
	fate, _ = g.Fire(asks)
	require.Equal(t, Done, fate)
	fate, _ = g.Fire(asks)
	require.Equal(t, BegunBefore, fate)
	g.Until(at.Add(10 * time.Second))
	fate, minutes := g.Ready(asks)
	require.Equal(t, NotYet, fate)
	require.Positive(t, minutes)
	end := g.at(g.p.cook.end[g.p.k.index[asks]])
	g.Until(end.Add(-time.Second))
	fate, minutes = g.Ready(asks)
	require.Equal(t, NotYet, fate)
	require.Equal(t, 1, minutes)
	g.Until(end)
	fate, _ = g.Ready(asks)
	require.Equal(t, Done, fate)
	fate, _ = g.Ready(asks)
	require.Equal(t, BegunBefore, fate)
	for _, r := range g.Cooked() {
		if r.Task == asks {
			require.Equal(t, 2, r.Early)
			return
		}
	}
	require.Fail(t, "what was cooked is not told")
}

// What nobody fires keeps its tables waiting, however long, and is told as late.
func TestWhatIsForgottenKeepsItsTables(t *testing.T) {
	g := gameOf(Settings{}, "roast")
	g.Until(g.From().Add(5 * time.Hour))
	require.False(t, g.Over())
	cooked := g.Cooked()
	require.NotEmpty(t, cooked)
	for _, r := range cooked {
		require.Nil(t, r.FiredAt)
		require.Positive(t, r.LateS)
	}
	_, fired := g.Fire(cooked[0].Task)
	require.Empty(t, fired)
	require.NotNil(t, g.Cooked()[0].FiredAt)
}

// What is tapped by mistake and taken back has never been: the night goes on to its last event as it does without it. What others have gone
// on from stays, and what nobody said cannot be taken back.
func TestATapIsTakenBack(t *testing.T) {
	before := 25 * time.Minute
	play := func(wrong, late bool) (*Game, []Fate) {
		g := gameOf(Usual(), "garnish")
		c := &trainee{g: g, section: "garnish"}
		var fates []Fate
		c.cooks(t, before)
		at := g.From().Add(before + time.Minute)
		g.Until(at)
		c.log = append(c.log, g.Events()...)
		for _, s := range service.DueAt(service.Fold(c.log), g.Plan(), at).Sections {
			if s.Section != "garnish" || !wrong {
				continue
			}
			for _, l := range append(s.Now, s.Next...) {
				if fate, _ := g.Fire(l.Task); fate != Done {
					continue
				}
				c.says(at, service.Fired, &l)
				id := c.log[len(c.log)-1].ID
				if late {
					g.Until(at.Add(3 * time.Hour))
					return g, []Fate{g.TakeBack(id)}
				}
				g.Until(at.Add(5 * time.Second))
				require.Equal(t, NotBegun, g.TakeBack("nobody-said-that"))
				fate := g.TakeBack(id)
				if fate == GoneOn {
					return g, nil // others were that quick: at another time
				}
				fates = append(fates, fate)
				require.Equal(t, NotBegun, g.TakeBack(id), "once")
				fate, _ = g.Ready(l.Task)
				require.Equal(t, NotBegun, fate, "it is not on any more")
				break
			}
		}
		g.Until(at.Add(time.Hour))
		return g, fates
	}
	with, fates := play(true, false)
	for ; len(fates) == 0 && before < time.Hour; with, fates = play(true, false) { // at another time, where nothing can be tapped at this one
		before += time.Minute
	}
	require.Equal(t, []Fate{Done}, fates)
	without, _ := play(false, false)
	require.Equal(t, without.others(), with.others())
	require.Equal(t, without.Cooked(), with.Cooked())
	_, fates = play(true, true)
	require.Equal(t, []Fate{GoneOn}, fates)
}
