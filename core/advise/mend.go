package advise

import (
	"cmp"
	"fmt"
	"slices"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// Mend is a change of a service that would help.
type Mend struct {
	ID       string `json:"id"`
	Text     string `json:"text"`
	Costs    string `json:"costs" doc:"What it costs, in words"`
	SavesS   int64  `json:"saves_s" doc:"Seconds of lateness and of holding that it saves, weighted as the plan weighs them"`
	LateS    int64  `json:"late_s" doc:"Lateness of all joins together with it, seconds"`
	WasS     int64  `json:"was_s" doc:"… and without it"`
	OverS    int64  `json:"over_s" doc:"Waits beyond their longest, together, with it, seconds"`
	OverWasS int64  `json:"over_was_s" doc:"… and without it"`
}

// Candidate is a changed service to be solved again.
type Candidate struct {
	Mend    Mend
	Service kitchen.Service
}

// mostTables is for how many tables changes are tried.
const mostTables = 3

// Candidates proposes changes from what does not fit, the worst first: seating a table
// some minutes sooner or later, a slower pace, a smaller margin.
func Candidates(s *kitchen.Service, p *expand.EveningPlan) []Candidate {
	var out []Candidate
	add := func(id, text, costs string, change func(*kitchen.Service)) {
		c := *s
		c.Tables = slices.Clone(s.Tables)
		change(&c)
		out = append(out, Candidate{Mend{ID: id, Text: text, Costs: costs}, c})
	}
	join := map[string]string{}
	for _, j := range p.Joins {
		join[j.ID] = j.Table
	}
	seen := map[string]bool{}
	for _, t := range p.Trouble {
		id := join[t.Join]
		if seen[id] || len(seen) == mostTables {
			continue
		}
		seen[id] = true
		k := slices.IndexFunc(s.Tables, func(x kitchen.ServiceTable) bool { return x.ID == id })
		if k < 0 {
			continue
		}
		for _, by := range []int{-10, 10} {
			when, costs := "later", "its guests wait for their table"
			if by < 0 {
				when, costs = "sooner", "its guests have to come sooner"
			}
			add(fmt.Sprintf("seat:%s:%d", id, by), fmt.Sprintf("Seat %s %d min %s", s.Tables[k].Name, max(by, -by), when), costs,
				func(c *kitchen.Service) { c.Tables[k].SeatedAt = max(0, c.Tables[k].SeatedAt+by) })
		}
	}
	if len(p.Trouble) > 0 {
		add("pace:4", fmt.Sprintf("Courses every %d min instead of %d", s.CourseMin+4, s.CourseMin), "every table stays longer", func(c *kitchen.Service) { c.CourseMin += 4 })
		if s.Margin > 0 {
			add("margin:0", "Fire to the minute", "a slow step makes a table late", func(c *kitchen.Service) { c.Margin = 0 })
		}
	}
	return out
}

// Lateness is that of all joins together, seconds.
func Lateness(p *expand.EveningPlan) (s int64) {
	for _, j := range p.Joins {
		s += max(0, j.LateS)
	}
	return s
}

// Overdue is by how much waits go beyond their longest, seconds, all together.
func Overdue(p *expand.EveningPlan) (s int64) {
	for _, t := range p.Trouble {
		if t.Kind == "hold" {
			s += t.ByS
		}
	}
	return s
}

// Worth fills in what a candidate saves, from the plan before and the plan with it;
// helps is false when it saves nothing.
func (c *Candidate) Worth(was, is *expand.EveningPlan) (helps bool) {
	c.Mend.SavesS, c.Mend.LateS, c.Mend.WasS = was.Cost-is.Cost, Lateness(is), Lateness(was)
	c.Mend.OverS, c.Mend.OverWasS = Overdue(is), Overdue(was)
	return c.Mend.SavesS > 0
}

// Rank puts what saves most first.
func Rank(list []Mend) {
	slices.SortStableFunc(list, func(a, b Mend) int { return cmp.Compare(b.SavesS, a.SavesS) })
}
