package schedule

import (
	"context"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/schedule/instances"
)

// climber is the relaxation of an evening on a grid, with any prices.
func climber(t *testing.T, step int64) (*joint, *rand.Rand) {
	t.Helper()
	n := instances.Nights()[4] // with ovens that change their temperature
	n.Tables /= 3
	w := n.Evening(3)
	j := newJoint(compiled(t, w), *Solve(context.Background(), w, Options{Seed: 1, Rounds: 300}).Cost)
	require.NotNil(t, j)
	j.lay(step)
	r := rand.New(rand.NewPCG(8, 8))
	j.priceAnyhow(r)
	return j, r
}

func (j *joint) priceAnyhow(r *rand.Rand) {
	for k := range j.price {
		for i := range j.price[k] {
			if j.price[k][i] = 0; r.IntN(4) == 0 {
				j.price[k][i] = r.ExpFloat64() * 0.1
			}
		}
	}
}

func (j *joint) usedNow() (out []float64) { return slices.Concat(j.used...) }

// While the prices move a part of the trees is looked at at a time: what those take is what they take when all are looked at, and the
// others take what they took; once all parts have been looked at at the same prices nothing tells the two apart.
func TestAPartOfTheTreesAtATime(t *testing.T) {
	j, r := climber(t, 32)
	require.Len(t, j.parts, treeParts)
	j.value()
	j.priceAnyhow(r)
	at := func(part []int32) (out []int64) {
		for _, k := range part {
			for _, v := range j.trees[k] {
				out = append(out, j.spots[v].at)
			}
		}
		return out
	}
	before := at(j.parts[1])
	j.glance(j.parts[0])
	require.Equal(t, before, at(j.parts[1]), "another part is where it was")
	once := j.usedNow()
	j.glance(nil)
	require.InDeltaSlice(t, once, j.usedNow(), 1e-6, "nothing is taken twice")
	for _, part := range j.parts[1:] {
		j.glance(part)
	}
	bit := j.usedNow()
	j.value()
	require.InDeltaSlice(t, j.usedNow(), bit, 1e-6)
	require.NotEqual(t, before, at(j.parts[1]), "other prices, other places")
	require.NotEqual(t, once, bit)
}

// Each tree is in one part, and the parts are about as large; what is told of how much is looked at is so.
func TestPartsOfTheTrees(t *testing.T) {
	j, _ := climber(t, 8)
	seen := map[int32]bool{}
	var sizes []int
	largest := 0
	for _, part := range j.parts {
		size := 0
		for _, k := range part {
			require.False(t, seen[k])
			seen[k] = true
			size, largest = size+len(j.trees[k]), max(largest, len(j.trees[k]))
		}
		sizes = append(sizes, size)
	}
	require.Len(t, seen, len(j.trees))
	require.LessOrEqual(t, slices.Max(sizes)-slices.Min(sizes), largest)

	for _, moves := range []int{1, 4 * allEvery, 10 * allEvery} {
		j.time.looked = 0
		j.climb(context.Background(), climbing{8, moves, 1, 0.1})
		require.InDelta(t, moves*j.looks(j.many), j.time.looked, float64(j.many)*(1+float64(moves)/50), moves)
	}
}

// The first and the last move know what the prices prove, and one of several between; with one tree each does.
func TestWhenAllTreesAreLookedAt(t *testing.T) {
	j := &joint{parts: make([][]int32, treeParts)}
	for n, all := range map[int]bool{0: true, 1: false, allEvery - 1: false, allEvery: true, allEvery + 1: false, 38: false, 39: true} {
		require.Equal(t, all, j.looksAtAll(n, 40), n)
	}
	require.Equal(t, (800+7*800/4)/8, j.looks(800))
	alone := &joint{trees: [][]int32{{0}}}
	alone.divide()
	require.Len(t, alone.parts, 1)
	require.True(t, alone.looksAtAll(1, 40))
	require.Equal(t, 800, alone.looks(800))
}

// What the prices prove that are left is what was told, though others were tried after them.
func TestTheBestPricesAreLeft(t *testing.T) {
	j, _ := climber(t, 32)
	for _, moves := range []int{5, 30} {
		best := j.climb(context.Background(), climbing{32, moves, 4, 1})
		require.InDelta(t, best, j.value(), 1e-6*max(1, -best, best), moves)
	}
}
