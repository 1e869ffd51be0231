package kitchen

import (
	"jointime/core/message"
	"slices"
)

// RemoveElement takes the element at a place (from 0) off the plate. What stood on it
// stands on the vessel, and the variants forget what they said of it. The error says
// that there is no such element.
func (s *Specification) RemoveElement(at int) error {
	n := len(s.Elements)
	if at < 0 || at >= n {
		return message.Fail("fault.no-element", "number", at+1)
	}
	order := make([]int, 0, n)
	for i := range n {
		if i != at {
			order = append(order, i)
		}
	}
	s.arrange(order)
	return nil
}

// MoveElement moves the element at from (from 0) to another place in the order of
// plating. What would stand on something that is put down later stands on the vessel.
func (s *Specification) MoveElement(from, to int) error {
	n := len(s.Elements)
	if from < 0 || from >= n || to < 0 || to >= n {
		return message.Fail("fault.places", "low", 1, "high", n, "from", from+1, "to", to+1)
	}
	order := make([]int, n)
	for i := range order {
		order[i] = i
	}
	order = slices.Insert(slices.Delete(order, from, from+1), to, from)
	s.arrange(order)
	return nil
}

// arrange puts the elements with the given old places in a new order, and renumbers
// everything that speaks of them.
func (s *Specification) arrange(order []int) {
	number := make([]int, len(s.Elements)+1) // old number → new, 0 when gone
	for now, was := range order {
		number[was+1] = now + 1
	}
	stands := func(on, at int) int {
		if on < 0 || on >= len(number) || number[on] > at {
			return 0
		}
		return number[on]
	}
	elements := make([]Element, len(order))
	for now, was := range order {
		e := s.Elements[was]
		e.On = stands(e.On, now)
		elements[now] = e
	}
	variants := slices.Clone(s.Variants)
	for i, v := range variants {
		changes := []Change{}
		for _, c := range v.Changes {
			if c.Element < 1 || c.Element >= len(number) || number[c.Element] == 0 {
				continue
			}
			c.Element = number[c.Element]
			if c.With != nil {
				with := *c.With
				with.On = stands(with.On, c.Element-1)
				c.With = &with
			}
			changes = append(changes, c)
		}
		variants[i].Changes = changes
	}
	s.Elements, s.Variants = elements, variants
}
