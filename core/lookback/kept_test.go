package lookback

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/core/simulate"
)

// A night as planned holds what the plan holds. One step that is begun ten minutes later makes what waits for it wait ten minutes longer,
// and that is told where it is more than it may; to the second on both sides of what counts.
func TestWhatWaitedTooLong(t *testing.T) {
	p := evening()
	log := p.kitchen.Play(1, simulate.Settings{}, simulate.AsPrinted, true).Events
	as := At(p.evening, p.plan, p.plan, log)
	require.Positive(t, as.Kept)
	held := func(n *Night, task string) *RealHold {
		for i := range n.Holds {
			if n.Holds[i].Task == task {
				return &n.Holds[i]
			}
		}
		return nil
	}
	tried := 0
	for i := range p.evening.Workload.Links {
		l := &p.evening.Workload.Links[i]
		most := p.evening.Hold(l)
		if l.Max != nil {
			most = *l.Max
		}
		fired := slices.IndexFunc(log, func(e service.Event) bool { return e.Kind == service.Fired && e.Task == l.To })
		from := as.step(l.From)
		if most < 0 || fired < 0 || from == nil || from.RealS == nil || held(as, l.From) != nil || tried == 5 {
			continue
		}
		end, _ := from.EndsAt()
		waits := log[fired].At.Sub(end).Seconds()
		if waits < 0 {
			continue
		}
		later := func(s float64) *Night {
			changed := slices.Clone(log)
			by := time.Duration((float64(most) + s - waits) * float64(time.Second))
			for k := range changed {
				if k >= fired { // and all that comes after it
					changed[k].At = changed[k].At.Add(by)
				}
			}
			slices.SortStableFunc(changed, func(a, b service.Event) int { return a.At.Compare(b.At) })
			return At(p.evening, p.plan, p.plan, changed)
		}
		require.Nil(t, held(later(heldS-1), l.From), l.From)
		require.NotNil(t, held(later(heldS+1), l.From), l.From)
		h := held(later(600), l.From)
		require.NotNil(t, h, l.From)
		require.InDelta(t, float64(most), h.MayS, 1e-9)
		require.InDelta(t, float64(most)+600, h.WaitedS, 1)
		require.Greater(t, later(600).HeldS, as.HeldS)
		tried++
	}
	require.Positive(t, tried)
}

func (n *Night) step(task string) *RealStep {
	for i := range n.Steps {
		if n.Steps[i].Task == task {
			return &n.Steps[i]
		}
	}
	return nil
}

// What was off is told from when to when; fewer left and then none is one spell, what was taken back never was.
func TestWhatWasOff(t *testing.T) {
	p := evening()
	log := p.kitchen.Play(1, simulate.Settings{}, simulate.AsPrinted, true).Events
	begun := log[0].At
	add := func(id string, minute int, kind service.Kind, f service.Facts) {
		log = append(log, service.Event{ID: id, Kind: kind, At: begun.Add(time.Duration(minute) * time.Minute), ReceivedAt: begun, Device: "pass",
			Facts: f})
	}
	left := func(n int) *int { return &n }
	add("a", 60, service.Off, service.Facts{Dish: "hake-cider-butter", Left: left(3)})
	add("b", 70, service.Off, service.Facts{Dish: "hake-cider-butter"})
	add("c", 80, service.Off, service.Facts{Component: "baked-celeriac"})
	add("d", 90, service.On, service.Facts{Component: "baked-celeriac"})
	add("e", 91, service.Off, service.Facts{Dish: "treacle-sponge"})
	add("f", 92, service.Undone, service.Facts{Undoes: "e"})
	n := At(p.evening, p.plan, p.plan, log)
	require.Len(t, n.Off, 2)
	hake, celeriac := n.Off[0], n.Off[1]
	require.Equal(t, "dish", hake.Kind)
	require.Contains(t, hake.Name, "ake")
	require.Nil(t, hake.Until)
	require.Zero(t, hake.Left)
	require.True(t, hake.At.Equal(begun.Add(time.Hour)))
	require.Equal(t, "component", celeriac.Kind)
	require.True(t, celeriac.Until.Equal(begun.Add(90*time.Minute)))
}

// What came back left first when it left first; how often something was not yet done, and who said so, is told.
func TestWhatCameBackAndWasNotYetDone(t *testing.T) {
	set := simulate.Settings{Back: 0.2, NotYet: 0.5}
	n := record(3, 1, set)[0]
	back, again := 0, 0
	for _, j := range n.Joins {
		back += min(1, len(j.Back))
		require.NotNil(t, j.SentAt)
	}
	require.Positive(t, back)
	require.Equal(t, n.Back, back)
	more := 0
	for _, s := range n.Steps {
		again, more = again+s.Again, more+s.NotYet
		require.NotEmpty(t, s.By)
	}
	require.Equal(t, back, again)
	require.Positive(t, more)
	require.Equal(t, n.NotYet, more)
}

// Who is called away in the middle of something that takes hands has been interrupted in it, and in nothing else: nothing is learnt from
// that.
func TestWhatWasInterrupted(t *testing.T) {
	p := evening()
	log := p.kitchen.Play(1, simulate.Settings{}, simulate.AsPrinted, true).Events
	as := At(p.evening, p.plan, p.plan, log)
	var mid *RealStep
	for i := range as.Steps {
		if s := &as.Steps[i]; s.hands == kitchen.Both && s.PlannedS > shortestS && len(s.People) == 1 {
			mid = s
		}
	}
	require.NotNil(t, mid)
	require.False(t, mid.Cut)
	_, learns := mid.ratio(nil)
	require.True(t, learns)
	who := ""
	for _, x := range p.evening.Book().People() {
		if x.Name == mid.People[0] {
			who = x.ID
		}
	}
	for from, cut := range map[time.Duration]bool{-2 * time.Minute: false, -30 * time.Second: true, time.Second: true,
		time.Duration(*mid.RealS+1) * time.Second: false} {
		list := append(slices.Clone(log), service.Event{ID: "out", Kind: service.Out, At: mid.At.Add(from), Device: "pass",
			Facts: service.Facts{Who: who}},
			service.Event{ID: "in", Kind: service.In, At: mid.At.Add(from + time.Minute), Device: "pass", Facts: service.Facts{Who: who}})
		slices.SortStableFunc(list, func(a, b service.Event) int { return a.At.Compare(b.At) })
		s := At(p.evening, p.plan, p.plan, list).step(mid.Task)
		require.Equal(t, cut, s.Cut, from)
		_, learns := s.ratio(nil)
		require.Equal(t, !cut, learns, from)
	}
}
