package schedule

import "time"

// Ending on time: a cycle that is broken off while it is hot has found nothing. So where it is known how much time is left, the last cycle
// of a search cools by the time instead of by the rounds, and ends with it; and any cycle that would not be over in time cools faster.

// fits is how much longer than the next cycle what is left may be for that to be the last: two cycles of which the second is cut short win
// less than one that takes their time. Tried: 2, 4 and all of it, on 24 evenings for one, two and five seconds: within the noise.
const fits = 4

// timekeeper makes cycles end on time. It does nothing where left is nil.
type timekeeper struct {
	left func() time.Duration
	from time.Duration // left when the cycle began
	took time.Duration // by the cycle before
	did  int           // its rounds
	last bool          // the cycle goes on until the time is over
}

// begin says that a cycle begins that would have so many rounds, out of so many that may be used up. It returns how many it gets: of the
// last, about as many as there is time for.
func (k *timekeeper) begin(rounds, all int) int {
	if k.left == nil {
		return rounds
	}
	k.from = k.left()
	if k.did > 0 {
		each := max(float64(k.took)/float64(k.did), 1)
		time := float64(max(k.from, 0)) / each // in rounds
		if k.last = time < float64(all) && time < fits*float64(rounds); k.last {
			rounds = max(stint, int(time))
		}
	}
	k.did = rounds
	return rounds
}

// end says that the cycle is over.
func (k *timekeeper) end() {
	if k.left != nil {
		k.took = max(k.from-k.left(), 0)
	}
}

// goesOn reports whether a cycle of so many rounds goes on after so many.
func (k *timekeeper) goesOn(searched, rounds int) bool {
	if k.last {
		return k.left() > 0
	}
	return searched < rounds
}

// cooled is how many rounds of a cycle are over, of which so many have been searched.
func (k *timekeeper) cooled(searched, rounds int) int {
	byTime := rounds
	if left := k.left(); left > 0 && k.from > 0 {
		byTime = int(float64(rounds) * float64(k.from-left) / float64(k.from))
	}
	if k.last {
		return byTime
	}
	return max(searched, byTime)
}
