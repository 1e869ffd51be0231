package kitchen

import (
	"math"

	"jointime/core/message"
)

// How long a step takes, and in how many batches it is done.

// Estimate is a three-point time in seconds.
type Estimate struct {
	Low    int `json:"low"`
	Likely int `json:"likely"`
	High   int `json:"high"`
}

// Exactly is an estimate without spread.
func Exactly(seconds int) Estimate { return Estimate{seconds, seconds, seconds} }

// StepTime is a fixed part per batch and a part per portion in it.
type StepTime struct {
	Fixed      Estimate `json:"fixed"`
	PerPortion Estimate `json:"per_portion"`
}

// For is the time of one batch of n portions.
func (t StepTime) For(n int) Estimate {
	return Estimate{t.Fixed.Low + n*t.PerPortion.Low, t.Fixed.Likely + n*t.PerPortion.Likely, t.Fixed.High + n*t.PerPortion.High}
}

// Times returns t with all of its times so many times as long, to the second.
func (t StepTime) Times(factor float64) StepTime {
	all := func(e Estimate) Estimate {
		times := func(s int) int { return int(math.Round(float64(s) * factor)) }
		return Estimate{times(e.Low), times(e.Likely), times(e.High)}
	}
	return StepTime{all(t.Fixed), all(t.PerPortion)}
}

// Parts returns t with its fixed part and its part per portion each so many times as long, to the second; where no part per portion is
// written it takes that many seconds.
func (t StepTime) Parts(fixed, each, eachS float64) StepTime {
	out := StepTime{t.Times(fixed).Fixed, t.Times(each).PerPortion}
	if t.PerPortion.Likely == 0 {
		out.PerPortion = Exactly(int(math.Round(eachS)))
	}
	return out
}

// WithLikely returns t with its fixed part changed so that a batch of n portions
// takes seconds; low and high keep their proportion to the likely time. It is an
// error when the portions alone take longer.
func (t StepTime) WithLikely(seconds, n int) (StepTime, error) {
	fixed := seconds - n*t.PerPortion.Likely
	if fixed < 0 {
		return t, message.Fail("fault.portions-take", "portions", n, "seconds", n*t.PerPortion.Likely, "got", seconds)
	}
	old := t.Fixed
	t.Fixed = Estimate{scale(old.Low, fixed, old.Likely), fixed, scale(old.High, fixed, old.Likely)}
	return t, nil
}

// scale is v·to/from, rounded; without a from there is no proportion to keep.
func scale(v, to, from int) int {
	if from == 0 {
		return to
	}
	return (2*v*to + from) / (2 * from)
}

// BatchLimit is what one pan, tray or basket takes, and how several run.
type BatchLimit struct {
	Portions int      `json:"portions"`
	Run      BatchRun `json:"run" enum:"side-by-side,in-turn"`
}

// BatchRun says whether batches use more equipment at once or follow each other.
type BatchRun string

// The two ways in which batches run.
const (
	SideBySide BatchRun = "side-by-side"
	InTurn     BatchRun = "in-turn"
)

// Split divides n portions into as few batches as the limit allows, as even as
// they can be, the larger ones first.
func (b *BatchLimit) Split(n int) []int {
	if b == nil || b.Portions <= 0 || n <= b.Portions {
		return []int{n}
	}
	k := (n + b.Portions - 1) / b.Portions
	out := make([]int, k)
	for i := range out {
		out[i] = n / k
		if i < n%k {
			out[i]++
		}
	}
	return out
}
