package expand

import (
	"fmt"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/workload"
)

// Small wares are counted, and busy from when they are filled until they are emptied; a blender is rinsed by whoever used it.

// wareNeed takes so many of a small ware; the error says that there are not so many.
func wareNeed(b *kitchen.Book, c *kitchen.Component, w *kitchen.Ware, portions int) (workload.Need, error) {
	e, _ := b.Piece(w.Equipment)
	n := w.Count(portions)
	if n > e.Capacity {
		return workload.Need{}, kitchen.Faults{kitchen.FaultAt("equipment", "fault.few-wares", "portions", portions, "component", c.Name,
			"wanted", n, "what", e.Name, "there", e.Capacity)}
	}
	return workload.Need{AnyOf: []string{piece(e.ID).name()}, Units: int64(n)}, nil
}

// wares adds what the batches of a step fill, until the batches with their portions of the step that empties it are done, or
// they are put on their plates.
func (f *Firing) wares(x *wanted, s *kitchen.Step) error {
	for k := range s.Wares {
		w := &s.Wares[k]
		for _, p := range x.made[s.ID] {
			need, err := wareNeed(f.book, x.component, w, p.to-p.from)
			if err != nil {
				return err
			}
			main := f.task(p.main())
			most := main.Seconds + 4*placeMost
			t := workload.Task{ID: fmt.Sprintf("%s-ware-%d", p.id, k+1), Name: x.component.Name + ", " + message.Of("act.ware").Text,
				Seconds: main.Seconds, Longest: &most, Needs: []workload.Need{need}}
			ref := p.ref
			ref.Act, ref.Main = ActPlace, p.main()
			f.add(t, ref, x, p)
			zero := int64(0)
			links := []workload.Link{{From: p.main(), To: t.ID, Kind: workload.StartStart, Max: &zero, Weight: 1}}
			for _, q := range x.made[w.Until] {
				if p.from < q.to && q.from < p.to {
					links = append(links, workload.Link{From: q.id, To: t.ID, Kind: workload.FinishFinish, Weight: 1})
				}
			}
			if w.Until == "" {
				for _, share := range x.shares {
					if p.from < share.to && share.from < p.to {
						for _, m := range share.firing.momentsOf(x.component.ID) {
							links = append(links, workload.Link{From: m.task, To: t.ID, Kind: workload.StartFinish, Min: int64(m.offset), Weight: 1})
						}
					}
				}
			}
			if n := len(links) - 1; n > 0 {
				links[n].Max = &links[n].Min // it is free with the last
			}
			f.Workload.Links = append(f.Workload.Links, links...)
		}
	}
	return nil
}

// rinse is the hands that rinse what a step was done with, on it, right after; nil where nothing is rinsed.
func rinse(b *kitchen.Book, t *workload.Task, s *kitchen.Step, people []string) (*workload.Task, workload.Link) {
	seconds := 0
	if s.Equipment != nil {
		for _, e := range b.Equipment() {
			if e.Kind == s.Equipment.Kind {
				seconds = max(seconds, e.RinseS)
			}
		}
	}
	if seconds == 0 || len(people) == 0 {
		return nil, workload.Link{}
	}
	on := len(t.Needs) - 1
	need := t.Needs[on]
	need.SetpointC, need.SetpointToC, need.As = nil, nil, &workload.As{Task: t.ID, Need: on}
	r := &workload.Task{ID: t.ID + "-rinse", Name: t.Name + ", " + message.Of("act.rinse").Text, Seconds: int64(seconds),
		Needs: append(work(people), need)}
	zero := int64(0) // at once: nothing else goes in between
	return r, workload.Link{From: t.ID, To: r.ID, Kind: workload.FinishStart, Max: &zero, Weight: 1}
}

// wares adds what the runs of a batch fill ahead, until the step that empties it is done, or, where that is done to order, the
// batch is used up.
func (p *Prep) wares(batch int, c *kitchen.Component, runs map[string][]string, need string) error {
	x := &p.Amounts.Batches[batch]
	for _, s := range c.InPhase(kitchen.Ahead) {
		for k := range s.Wares {
			w := &s.Wares[k]
			for _, id := range runs[s.ID] {
				ref := p.Tasks[id]
				taken, err := wareNeed(p.book, c, w, p.portionsOf(id))
				if err != nil {
					return err
				}
				seconds := int64(s.Time.For(p.portionsOf(id)).Likely)
				most := p.Workload.Horizon
				t := workload.Task{ID: fmt.Sprintf("%s-ware-%d", id, k+1), Name: c.Name + ", " + message.Of("act.ware").Text, Seconds: seconds,
					Longest: &most, Needs: []workload.Need{taken}}
				ref.Act, ref.Main = ActPlace, id
				p.Tasks[t.ID] = ref
				p.Workload.Tasks = append(p.Workload.Tasks, t)
				zero := int64(0)
				p.Workload.Links = append(p.Workload.Links, workload.Link{From: id, To: t.ID, Kind: workload.StartStart, Max: &zero, Weight: 1})
				until := runs[w.Until]
				for n, q := range until {
					l := workload.Link{From: q, To: t.ID, Kind: workload.FinishFinish, Weight: 1}
					if n == len(until)-1 {
						l.Max = &zero
					}
					p.Workload.Links = append(p.Workload.Links, l)
				}
				if len(until) == 0 { // emptied to order
					used := p.second(x.LastFire) - p.needAt(batch)
					p.Workload.Links = append(p.Workload.Links, workload.Link{From: need, To: t.ID, Kind: workload.StartFinish, Min: max(0, used),
						Weight: 1})
				}
			}
		}
	}
	return nil
}
