package schedule

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// tornApart is a solver whose told plan finds no room as it is, and its groups.
func tornApart(t *testing.T, seed uint64) (*solver, []group) {
	t.Helper()
	w, told := pressed(t, seed)
	o := Options{Seed: 1, Rounds: 60, Anyway: true, Stay: true, Previous: told, MovePrice: 4}
	p := compile(w)
	require.Nil(t, p.propagate())
	p.priceMoves(&o)
	s, gs := &solver{p: p, o: o, ctx: t.Context()}, p.groups()
	s.startFromPrevious(newBuilder(t.Context(), p, 1), gs)
	require.True(t, s.torn)
	return s, gs
}

// What is made beside what is nearly kept is what is made by itself, and so is that; and what is gone on from goes on when the other has
// come to an end.
func TestTwoWaysBesideEachOther(t *testing.T) {
	same := func(a, b *builder, seed uint64) {
		t.Helper()
		require.Equal(t, a == nil, b == nil, seed)
		if a == nil {
			return
		}
		require.Equal(t, b.x, a.x, seed)
		require.Equal(t, b.placed, a.placed, seed)
		require.Equal(t, b.on, a.on, seed)
		require.NoError(t, a.ctx.Err(), "it is gone on from")
	}
	others, priced, whole := 0, 0, 0
	for _, seed := range []uint64{465, 1923, 33, 69, 422, 22, 97, 119} {
		s, gs := tornApart(t, seed)
		n, a := s.besideTold(gs, false, false)
		alone, _ := tornApart(t, seed)
		near := alone.nearlyKept()
		require.Equal(t, near == nil, n == nil, seed)
		if n != nil {
			require.Equal(t, near.x, n.x, seed)
			if len(n.breaks) == 0 {
				continue // nothing else is asked for
			}
		}
		after := alone.anew(t.Context(), gs, true)
		require.Equal(t, after.ok, a.ok, seed)
		require.Equal(t, after.tried, a.tried, seed)
		same(a.first, after.first, seed)
		same(a.other, after.other, seed)
		require.Equal(t, after.priced == nil, a.priced == nil)
		switch {
		case a.ok:
			whole++
			require.Nil(t, a.other, "no other order is asked for")
		case a.other != nil:
			others++
			require.Empty(t, a.other.broken())
		case a.priced != nil:
			priced++
			require.Equal(t, after.priced.x, a.priced.x)
		}
	}
	require.Positive(t, whole)
	require.Positive(t, others)
	require.Positive(t, priced)

	s, gs := tornApart(t, 465)
	n, a := s.besideTold(gs, true, false)
	require.NotNil(t, n)
	require.Nil(t, a, "what was told found some room")
	s.torn = false
	n, a = s.besideTold(gs, false, false)
	require.Nil(t, n)
	require.Nil(t, a)
	s.torn = true
	_, a = s.besideTold(gs, false, true)
	require.Nil(t, a.other, "of little work every order is tried by branch and bound")
	require.Nil(t, a.priced)
}

// What was given up is made anew where there is nothing else to be told; what keeps every rule, or was tried to the end, is not.
func TestWhatWasGivenUpIsMadeAnew(t *testing.T) {
	s, gs := tornApart(t, 465)
	n := &nearly{}
	for _, c := range []struct {
		a    anew
		n    *nearly
		same bool
	}{
		{anew{first: &builder{gaveUp: true}}, nil, false},
		{anew{first: &builder{gaveUp: true}}, n, true},
		{anew{first: &builder{gaveUp: true}, ok: true}, nil, true},
		{anew{first: &builder{}}, nil, true},
	} {
		b, ok := s.fromNothing(gs, c.n, &c.a)
		require.Equal(t, c.same, b == c.a.first)
		if c.same {
			require.Equal(t, c.a.ok, ok)
		}
	}
	b, ok := s.fromNothing(gs, nil, nil)
	require.Equal(t, ok, len(b.broken()) == 0)
	require.False(t, b.quick, "nobody waits")

	b.quick, b.work, b.mostWork = true, 9, 8
	require.True(t, b.givenUp())
	b.mostWork = 9
	require.False(t, b.givenUp(), "as much as that it may be")
	require.True(t, b.gaveUp, "but it has been given up once")

	other := &builder{}
	s.tried = 3
	require.Same(t, other, s.retry(b, gs, &anew{other: other, tried: 5}))
	require.EqualValues(t, 8, s.tried)
}
