package simulate

import "math"

// Policy is how cooks decide when to begin something.
type Policy string

// The policies.
const (
	// AsPrinted goes by the clock times of the plan as it was printed.
	AsPrinted Policy = "as-printed"
	// Dispatch keeps the order of the plan: once a table's course is away, its work begins in that order as soon as hands and places are free.
	Dispatch Policy = "dispatch"
	// Again goes by the plan as it follows what happens.
	Again Policy = "planned-again"
	// NoPlan begins everything of a course when it is called.
	NoPlan Policy = "no-plan"
)

// Policies are all of them.
func Policies() []Policy { return []Policy{AsPrinted, Dispatch, Again, NoPlan} }

// release is when a piece may begin by a policy, as far as that is known; what has to be done before it, and hands and places, come on top.
func (p *play) release(i int) float64 {
	if x := &p.k.pieces[i]; x.surprise {
		return max(p.byPolicy(i), p.ordersAt(x))
	}
	return p.byPolicy(i)
}

// byPolicy is when a piece may begin by a policy alone.
func (p *play) byPolicy(i int) float64 {
	x := &p.k.pieces[i]
	if x.base || x.racked {
		return p.planned[i]
	}
	if x.plating { // when all is there; a table that is not yet there is waited for
		if p.policy == Dispatch || p.policy == NoPlan {
			return math.Max(p.table(x), p.wanted(x))
		}
		return math.Max(math.Min(p.planned[i], x.planned), p.table(x)) // what is told later leaves when it is there
	}
	switch p.policy {
	case Dispatch:
		away := math.Inf(1)
		for _, m := range x.joins {
			away = math.Min(away, p.k.meetings[m].first+p.known(m))
		}
		return away
	case NoPlan:
		call := math.Inf(1)
		for _, m := range x.joins {
			call = math.Min(call, p.k.meetings[m].wish+p.known(m)-p.usual[p.k.meetings[m].key.Course])
		}
		return call
	}
	return p.planned[i]
}

// aim is when a piece was to begin by the plan as it was printed; as much later as its tables are by what is known.
func (p *play) aim(x *piece) float64 {
	late := 0.0
	for n, m := range x.joins {
		if by := math.Max(0, p.known(m)); n == 0 || by < late {
			late = by
		}
	}
	return x.planned + late
}

// table is when the first plate of a table's course is put down at the earliest: as planned, and later where the table is.
func (p *play) table(x *piece) float64 {
	at := 0.0
	for _, m := range x.joins {
		if late := p.wish[m] - p.k.meetings[m].wish; late > 0 {
			at = math.Max(at, p.k.meetings[m].planned-x.long+late-ahead)
		}
	}
	return at
}

// wanted is when the first plate of a table's first course is put down at the earliest where no plan says when: nobody serves an empty
// table.
func (p *play) wanted(x *piece) float64 {
	at := 0.0
	for _, m := range x.joins {
		if p.k.meetings[m].follows < 0 {
			at = math.Max(at, p.wish[m]-x.long-ahead)
		}
	}
	return at
}

// ahead is how long before a table is ready its plates may be put down, seconds. Common practice, no source.
const ahead = 120.0

// order is whose turn it is where several wait for the same hands.
func (p *play) order(i int) float64 {
	if p.policy == NoPlan {
		return p.sim.now // who came first
	}
	return p.planned[i]
}

// known is by how much a table's course is later than planned, as far as anybody knows: once the table is there.
func (p *play) known(m int) float64 {
	if p.seated[p.k.meetings[m].key.Table] {
		return p.wish[m] - p.k.meetings[m].wish
	}
	return 0
}
