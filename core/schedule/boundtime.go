package schedule

import (
	"math"
	"time"
)

// boundTime is how much time a bound has, and what was looked at in the time that is over: where little is left fewer prices are tried, so
// that what they prove is known before it is over. It does nothing where left is nil.
type boundTime struct {
	left   func() time.Duration
	began  time.Duration // left then
	looked int           // instants since
}

func (b *boundTime) begin(left func() time.Duration) {
	if *b = (boundTime{left: left}); left != nil {
		b.began = left()
	}
}

// more is how many instants can be looked at in what is left, by those that were.
func (b *boundTime) more() int {
	if b.left == nil || b.looked == 0 {
		return math.MaxInt
	}
	left := b.left()
	took := max(b.began-left, 1)
	return int(min(float64(b.looked)*float64(max(left, 0))/float64(took), math.MaxInt32))
}

// atTheEnd is how many times as many instants as there are seconds are kept for the end, when what the prices prove is found to the
// second: each of these takes longer than one of a coarse grid.
const atTheEnd = 2

// probesInTime is for how many more probes there has to be time after the first: with less, what is proved is hardly worth its time. Of an
// evening of which 21,251 is proved with 14 million instants, a half proves 20,904, a third 17,961, a quarter next to nothing.
const probesInTime = 4

// inTime reports whether there is time to look at more than least instants beside those that are kept for the end, and narrows to that how
// many may be.
func (j *joint) inTime(many *int, least int) bool {
	more := j.time.more()
	if more == math.MaxInt {
		return true
	}
	more -= atTheEnd * int(j.instants(1))
	*many = min(*many, more)
	return more > least
}

// longerInTime is which part of the time that is left the coarse grids may take with more moves: the rest is the search's.
const longerInTime = 10

// timeForLonger reports whether the coarse grids can have more moves, with so many instants left to look at.
func (j *joint) timeForLonger(left int) bool {
	all := left
	for _, c := range grids {
		many := j.looks(int(j.instants(j.coarser(c.grid, mostCoarse))))
		left -= movesFor(longer*c.moves, many, left) * many
	}
	return all-left <= j.time.more()/longerInTime
}
