package schedule

// Gain is what one neighbourhood of the search has won.
type Gain struct {
	Neighbourhood string
	Rounds        int64 // how often it was tried
	Taken         int64 // how often what came out was gone on from
	Won           int64 // by how much the best cost came down in its rounds
}

// Neighbourhoods beside those that are drawn (choose.go).
const (
	partOfGroup = "a part of a large group"
	bestTimes   = "the best times for the order"
)

// note counts a round of the neighbourhood: whether it was gone on from, and the best cost before and after it.
func (g *Gain) note(taken bool, before, after int64) {
	g.Rounds++
	if taken {
		g.Taken++
	}
	g.Won += before - after
}

// won lists what each neighbourhood has won.
func (m *improver) won() []Gain {
	m.gains = m.gains[:0]
	for i := range m.ops {
		m.gains = append(m.gains, m.ops[i].Gain)
	}
	m.gains = append(m.gains, m.parts, m.times)
	return m.gains
}

// AddGains adds what one search has won to what others have, who may be none; all have the same neighbourhoods.
func AddGains(to, more []Gain) []Gain {
	if len(to) == 0 {
		return append(to, more...)
	}
	for i := range more {
		to[i].Rounds += more[i].Rounds
		to[i].Taken += more[i].Taken
		to[i].Won += more[i].Won
	}
	return to
}
