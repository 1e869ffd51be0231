package service

import (
	"cmp"
	"slices"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/safety"
)

// Lacking is why something is not ready for a service.
type Lacking string

// What may be lacking.
const (
	NotMade     Lacking = "not-made"
	NotTasted   Lacking = "not-tasted"
	NotMeasured Lacking = "not-measured" // a temperature that should stand in the log
	NotKnown    Lacking = "not-known"    // the allergens of
)

// Unready is something that is not ready for a service.
type Unready struct {
	Section string          `json:"section" doc:"By id; none for the whole kitchen"`
	Kind    Lacking         `json:"kind" enum:"not-made,not-tasted,not-measured,not-known"`
	What    string          `json:"what"`
	Said    message.Message `json:"said"`
}

// Gate lists what is not ready for a service, by section: batches that it needs and that are not made, or not tasted where their last step
// is judged by taste; temperatures that should be in the day's log and are overdue; and recipes of its dishes that nobody has read for
// their allergens. tasted says of which steps of the make-ahead plan that was ticked.
func Gate(b *kitchen.Book, s *kitchen.Service, jobs []expand.Job, tasted map[string]bool, missing []safety.Due) []Unready {
	out := []Unready{}
	for i := range jobs {
		j := &jobs[i]
		if !slices.Contains(j.For, s.Name) {
			continue
		}
		if j.State != "done" {
			out = append(out, Unready{j.Section, NotMade, j.Name, message.Of("live.not-made", "what", j.Name, "at", message.Moment(j.ReadyAt))})
			continue
		}
		for k := range j.Steps {
			x := &j.Steps[k]
			if x.Last && !tasted[x.Task] && slices.ContainsFunc(x.Checks, func(c kitchen.DoneCheck) bool { return c.Kind == "taste" }) {
				out = append(out, Unready{j.Section, NotTasted, j.Name, message.Of("live.not-tasted", "what", j.Name)})
			}
		}
	}
	for _, d := range missing {
		if d.Late {
			out = append(out, Unready{"", NotMeasured, d.What, d.Said})
		}
	}
	unknown := map[string]bool{}
	for _, m := range s.Menu {
		d, ok := b.Dish(m.Dish)
		if !ok {
			continue
		}
		for _, name := range b.UnknownRecipes(d.Specification.Elements) {
			if !unknown[name] {
				unknown[name] = true
				out = append(out, Unready{sectionOf(b, name), NotKnown, name, message.Of("live.not-known", "what", name)})
			}
		}
	}
	order := map[string]int{"": -1}
	for i, x := range b.Sections() {
		order[x.ID] = i
	}
	kinds := []Lacking{NotMade, NotTasted, NotMeasured, NotKnown}
	slices.SortStableFunc(out, func(a, b Unready) int {
		return cmp.Or(cmp.Compare(order[a.Section], order[b.Section]), cmp.Compare(slices.Index(kinds, a.Kind), slices.Index(kinds, b.Kind)),
			cmp.Compare(a.What, b.What))
	})
	return out
}

// sectionOf is the section of a component by its name.
func sectionOf(b *kitchen.Book, name string) string {
	for _, c := range b.Components() {
		if c.Name == name {
			return c.Section
		}
	}
	return ""
}
