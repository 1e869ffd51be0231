package simulate

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// A plate of every course comes back: each is said with why, what was done for it last is done again, and it leaves a second time; the
// rules of a live service accept all of it, and nothing is left to be settled. Where nothing comes back nothing is sent twice.
func TestPlatesComeBack(t *testing.T) {
	e, told := few()
	for chance, times := range map[float64]int{0: 1, 1: 2} {
		k := New(e, told, 1)
		p := k.Play(4, Settings{Back: chance}, AsPrinted, true)
		log := []service.Event{}
		sent, first, back, again := map[service.TableCourse]int{}, map[service.TableCourse]time.Time{}, 0, 0
		for _, x := range p.Events {
			require.Nil(t, service.Refuses(log, &x, "pass"), "%s %s", x.Kind, x.At)
			log = append(log, x)
			switch x.Kind {
			case service.Sent:
				key := service.TableCourse{Table: x.Table, Course: x.Course, Round: x.Round}
				if sent[key] == 0 {
					first[key] = x.At
				}
				sent[key]++
			case service.SentBack:
				require.NotEmpty(t, x.Why)
				back++
			case service.Again:
				again++
			}
		}
		require.Len(t, sent, len(k.meetings))
		for key, n := range sent {
			require.Equal(t, times, n, key)
		}
		require.Equal(t, len(k.meetings)*(times-1), back)
		require.Equal(t, back, again)
		require.Equal(t, back, p.Back)
		require.Empty(t, service.Fold(log).Settle)
		for _, j := range p.Joins {
			require.InDelta(t, j.At, first[j.TableCourse].Sub(e.Origin).Seconds(), 0.001, "late is when it left first")
		}
	}
}

// A night that is watched is not over before what came back has left again.
func TestANightIsNotOverWhileAPlateIsToComeBack(t *testing.T) {
	g := gameOf(Settings{Back: 1}, "")
	last := g.From()
	for range 4 * 3600 {
		last = last.Add(1e9)
		g.Until(last)
		if g.Over() {
			break
		}
	}
	require.True(t, g.Over())
	closed, sent := 0, 0
	for i, x := range g.Log() {
		switch x.Kind {
		case service.Closed:
			closed = i
		case service.Sent:
			sent = i
		}
	}
	require.Greater(t, closed, sent, "nothing is sent after it has ended")
}

// By hand: hands are slower by their share for each thing beyond two that their section has on; what takes none is not.
func TestMuchToWatchSlowsHands(t *testing.T) {
	p := &play{night: night{1, Settings{Watching: 0.1}}, going: map[string]int{"roast": 0}}
	at := func(on int, hands kitchen.Hands) float64 {
		p.going["roast"] = on
		x := &piece{run: &service.PlanRun{Section: "roast"}}
		x.run.How.Hands = hands
		return p.watched(x)
	}
	require.InDelta(t, 1, at(2, kitchen.Both), 1e-9)
	require.InDelta(t, 1.1, at(3, kitchen.Both), 1e-9)
	require.InDelta(t, 1.3, at(5, kitchen.Tend), 1e-9)
	require.InDelta(t, 1, at(5, kitchen.None), 1e-9)
	require.InDelta(t, 1, p.watched(&piece{}), 1e-9)
}
