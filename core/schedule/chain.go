package schedule

import (
	"slices"

	"jointime/core/workload"
)

// Needs that are taken as each other are a chain: all of them have the resource at one position of their lists, the
// same cook for the hands and for the eyes, the same pan for what follows. The first of them that is placed chooses.

// member is a need of a node.
type member struct{ node, need int32 }

// findChains gathers the chains of a workload. Where a list names a resource twice, its position cannot be told from it:
// those chains are chosen before the search (plain.choose), and come here without As.
func (p *problem) findChains(w *workload.Workload, index map[string]int32) {
	of := map[member]int{}
	for i := range w.Tasks {
		for k, n := range w.Tasks[i].Needs {
			if n.As == nil {
				continue
			}
			a, b := member{int32(i), int32(k)}, member{index[n.As.Task], int32(n.As.Need)}
			x, inA := of[a]
			y, inB := of[b]
			switch {
			case inA && inB && x != y:
				for _, m := range p.chains[y] {
					of[m] = x
				}
				p.chains[x], p.chains[y] = append(p.chains[x], p.chains[y]...), nil
			case inA && inB:
			case inA:
				of[b], p.chains[x] = x, append(p.chains[x], b)
			case inB:
				of[a], p.chains[y] = y, append(p.chains[y], a)
			default:
				of[a], of[b] = len(p.chains), len(p.chains)
				p.chains = append(p.chains, []member{a, b})
			}
		}
	}
	for v := range p.needs {
		for k := range p.needs[v] {
			p.needs[v][k].chain = -1
		}
	}
	for m, c := range of {
		p.needs[m.node][m.need].chain = int32(c)
	}
}

// position is that of a resource in the list of a chain's need; −1 when it is not there.
func (p *problem) position(m member, r int32) int {
	return slices.Index(p.needs[m.node][m.need].anyOf, r)
}

// candidates are the resources that a need may have beside what the others of its chain have; taken tells what one of
// them has, −1 while that is open.
func (p *problem) candidates(v, k int, taken func(member) int32) []int32 {
	nd := &p.needs[v][k]
	if nd.chain < 0 {
		return nd.anyOf
	}
	for _, m := range p.chains[nd.chain] {
		if int(m.node) == v && int(m.need) == k {
			continue
		}
		if r := taken(m); r >= 0 {
			if at := p.position(m, r); at >= 0 {
				return nd.anyOf[at : at+1]
			}
		}
	}
	return nd.anyOf
}

// open are the resources that need k of v may have at present: what is placed, and what the segments of its body before
// one of them were given, have chosen.
func (s *state) open(v, k, before int) []int32 {
	if s.p.needs[v][k].chain < 0 {
		return s.p.needs[v][k].anyOf
	}
	return s.p.candidates(v, k, func(m member) int32 {
		if s.placed[m.node] || s.p.lead[m.node] == s.p.lead[v] && int(s.p.needs[m.node][m.need].seg) < before {
			return s.on[m.node][m.need]
		}
		return -1
	})
}

// open are the resources that need k of v may have beside what the branch has assigned.
func (b *brancher) open(v int32, k int) []int32 {
	return b.p.candidates(int(v), k, func(m member) int32 { return b.on[m.node][m.need] })
}

// follow gives the others of a chain what one of them has chosen; false when one has something else.
func (b *brancher) follow(v int32, k int, r int32) bool {
	c := b.p.needs[v][k].chain
	if c < 0 {
		return true
	}
	at := b.p.position(member{v, int32(k)}, r)
	if at < 0 {
		return true // fixed elsewhere
	}
	for _, m := range b.p.chains[c] {
		if m.node == v && int(m.need) == k {
			continue
		}
		want := b.p.needs[m.node][m.need].anyOf[at]
		switch is := b.on[m.node][m.need]; {
		case is == want || b.p.fixed[m.node]:
		case is >= 0:
			return false
		case !b.assign(m.node, int(m.need), want):
			return false
		}
	}
	return true
}
