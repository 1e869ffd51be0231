package advise

import (
	"cmp"
	"math"
	"slices"
	"time"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/message"
)

// PrepMend is something that can still be done about work that is not ready in time.
type PrepMend struct {
	Job   string          `json:"job" doc:"The batch that it is for"`
	What  message.Message `json:"what"`
	Costs message.Message `json:"costs" doc:"What it costs"`
	LateS int64           `json:"late_s" doc:"Lateness of all batches together with it, seconds"`
	WasS  int64           `json:"was_s" doc:"… and without it"`
}

// PrepCandidate is a changed book to be planned again.
type PrepCandidate struct {
	Mend PrepMend
	Book *kitchen.Book
}

// troubled is for how many components something is tried.
const troubled = 4

// PrepCandidates proposes what can still be done about each thing that is not ready: less
// resting than best, another pair of hands, buying it in, taking a dish off.
func PrepCandidates(b *kitchen.Book, p *expand.PrepPlan) []PrepCandidate {
	var out []PrepCandidate
	said := map[string]bool{} // what helps several components is proposed for the first of them
	add := func(job string, what, costs message.Message, change func(*kitchen.Data)) {
		if said[what.Text] {
			return
		}
		said[what.Text] = true
		d := b.Data()
		change(&d)
		if changed, err := kitchen.NewBook(d); err == nil {
			out = append(out, PrepCandidate{PrepMend{Job: job, What: what, Costs: costs}, changed})
		}
	}
	jobs := map[string]*expand.Job{}
	for i := range p.Jobs {
		jobs[p.Jobs[i].ID] = &p.Jobs[i]
	}
	var seen []string
	for _, t := range p.Trouble {
		j := jobs[t.Job]
		if j == nil || slices.Contains(seen, j.Component) || len(seen) == troubled {
			continue
		}
		seen = append(seen, j.Component)
		c, _ := b.Component(j.Component)
		if rests(c) {
			add(j.ID, message.Of("mend.rest", "what", c.Name), message.Of("mend.rest-costs"), func(d *kitchen.Data) {
				for i := range d.Components {
					if d.Components[i].ID == c.ID {
						d.Components[i] = hurried(c)
					}
				}
			})
		}
		if t.Kind == "tight" {
			for _, x := range freest(b, p, j, 2) {
				section, _ := b.Section(j.Section)
				add(j.ID, message.Of("mend.helper", "who", x.name, "section", section.Name), message.Of("mend.day-costs", "who", x.name, "work",
					message.Minutes(x.busy)), func(d *kitchen.Data) {
					for i := range d.People {
						if d.People[i].ID == x.id {
							d.People[i].Sections = append(slices.Clone(d.People[i].Sections), j.Section)
						}
					}
				})
			}
		}
		need := wantedOf(p, j.Component)
		add(j.ID, message.Of("mend.buy", "amount", amountWords(need, c.Unit), "what", c.Name), message.Of("mend.buy-costs"),
			func(d *kitchen.Data) {
				d.Stock = append(slices.Clone(d.Stock), kitchen.Stock{ID: "bought-in", Component: c.ID, Amount: need,
					UseBy: p.Now.Add(60 * 24 * time.Hour)})
			})
		for _, dish := range b.Dishes() {
			if !needs(b, &dish, c.ID) {
				continue
			}
			for k, s := range b.Services() {
				line := slices.IndexFunc(s.Menu, func(m kitchen.MenuLine) bool { return m.Dish == dish.ID })
				if line < 0 || !slices.Contains(j.For, s.Name) || ordered(&s, dish.ID) {
					continue
				}
				add(j.ID, message.Of("mend.take-off", "dish", dish.Name, "service", s.Name), message.Of("mend.take-off-costs", "percent",
					math.Round(s.Menu[line].Share)), func(d *kitchen.Data) {
					d.Services[k].Menu = withoutDish(b, s.Menu, line)
				})
			}
		}
	}
	return out
}

// rests reports whether something of a component waits longer than it must where that is
// best for it.
func rests(c *kitchen.Component) bool {
	for _, s := range c.InPhase(kitchen.Ahead) {
		for _, a := range s.After {
			if a.Best != nil && *a.Best > a.Shortest {
				return true
			}
		}
	}
	return false
}

// hurried is a component whose waits want to be as short as they may.
func hurried(c *kitchen.Component) kitchen.Component {
	out := c.Clone()
	for i := range out.Steps {
		for k := range out.Steps[i].After {
			if out.Steps[i].Phase == kitchen.Ahead {
				out.Steps[i].After[k].Best = nil
			}
		}
	}
	return out
}

type free struct {
	id, name string
	busy     int64
}

// freest are the people of other sections with the least hands-on work on the day on which
// a batch is made.
func freest(b *kitchen.Book, p *expand.PrepPlan, j *expand.Job, n int) []free {
	day := j.StartAt.Format(time.DateOnly)
	var out []free
	for _, x := range b.People() {
		if slices.Contains(x.Sections, j.Section) || x.Away(j.StartAt) || onlyPass(b, &x) {
			continue
		}
		f := free{x.ID, x.Name, 0}
		for _, l := range p.Load {
			if l.Person == x.Name && l.Date == day {
				f.busy += l.HandsS
			}
		}
		out = append(out, f)
	}
	slices.SortStableFunc(out, func(a, b free) int { return cmp.Compare(a.busy, b.busy) })
	return out[:min(n, len(out))]
}

// wantedOf is how much of a component the open batches are made for.
func wantedOf(p *expand.PrepPlan, component string) float64 {
	sum := 0.0
	for _, j := range p.Jobs {
		if j.Component == component && j.State != "done" {
			sum += j.Amount - j.Left
		}
	}
	return math.Ceil(sum)
}

func amountWords(v float64, u kitchen.Unit) string {
	if u == kitchen.Grams && v >= 1000 {
		return message.Of("amount.kg", "kg", math.Round(v/100)/10).Text
	}
	if u == kitchen.Pieces {
		return message.Of("amount.pieces", "count", math.Round(v)).Text
	}
	return message.Of("amount.of", "number", math.Round(v), "unit", u).Text
}

// needs reports whether a dish has a component on its plate, or in something on it.
func needs(b *kitchen.Book, d *kitchen.Dish, component string) bool {
	var in func(id string) bool
	in = func(id string) bool {
		if id == component {
			return true
		}
		c, _ := b.Component(id)
		return slices.ContainsFunc(c.Uses, func(u kitchen.Use) bool { return in(u.Component) })
	}
	return slices.ContainsFunc(d.Specification.Elements, func(e kitchen.Element) bool { return in(e.Component) })
}

// ordered reports whether a table has ordered a dish already.
func ordered(s *kitchen.Service, dish string) bool {
	return slices.ContainsFunc(s.Tables, func(t kitchen.ServiceTable) bool {
		return slices.ContainsFunc(t.Orders, func(o kitchen.TableOrder) bool { return o.Dish == dish })
	})
}

// withoutDish is a menu without one of its dishes, whose share the others of its course
// take over in proportion to theirs.
func withoutDish(b *kitchen.Book, menu []kitchen.MenuLine, line int) []kitchen.MenuLine {
	out := slices.Delete(slices.Clone(menu), line, line+1)
	gone, _ := b.Dish(menu[line].Dish)
	sum := 0.0
	for _, m := range out {
		if d, _ := b.Dish(m.Dish); d.Course == gone.Course {
			sum += m.Share
		}
	}
	for i := range out {
		if d, _ := b.Dish(out[i].Dish); d.Course == gone.Course && sum > 0 {
			out[i].Share = math.Floor(1000*out[i].Share*(1+menu[line].Share/sum)) / 1000
		}
	}
	return out
}

// PrepLateness is by how much batches are not ready, all together, seconds.
func PrepLateness(p *expand.PrepPlan) (s int64) {
	for _, j := range p.Jobs {
		if late := int64(j.ReadyAt.Sub(j.NeedBy) / time.Second); late > 0 && j.State != "done" {
			s += late
		}
	}
	return s
}

// RankPrep fills in what was worked out for the candidates, leaves out what does not help,
// and puts first what leaves least late.
func RankPrep(candidates []PrepCandidate, late []int64, was int64) []PrepMend {
	out := []PrepMend{}
	for i, c := range candidates {
		if late[i] < was {
			c.Mend.LateS, c.Mend.WasS = late[i], was
			out = append(out, c.Mend)
		}
	}
	slices.SortStableFunc(out, func(a, b PrepMend) int { return cmp.Compare(a.LateS, b.LateS) })
	return out
}
