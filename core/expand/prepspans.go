package expand

import (
	"slices"
	"time"

	"jointime/core/kitchen"
)

// From when to when each batch can be made at all, by the hours of its section.

// spans works out for every batch when it has to be begun at the latest, and when it
// could be ready from now on, by the steps, the waits and the people's calendar alone.
func (p *Prep) spans() {
	fixed := p.Workload.FixedTasks()
	for i := range p.Amounts.Batches {
		x := &p.Amounts.Batches[i]
		c, _ := p.book.Component(x.Component)
		steps := c.InPhase(kitchen.Ahead)
		latest := map[string]int64{}
		begin := p.second(x.NeedBy)
		for k := len(steps) - 1; k >= 0; k-- {
			s := &steps[k]
			end := p.second(x.NeedBy)
			for _, after := range steps {
				for _, a := range after.After {
					if a.Step == s.ID {
						end = min(end, latest[after.ID]-int64(a.Shortest))
					}
				}
			}
			latest[s.ID] = p.fit(c, s, end-length(s, x.Portions, likely), x.Portions, likely, false)
			begin = min(begin, latest[s.ID])
		}
		p.StartBy = append(p.StartBy, p.instant(begin))
		ready := func(pick func(kitchen.Estimate) int) time.Time {
			finish := map[string]int64{}
			last := *p.Workload.Now
			for k := range steps {
				s := &steps[k]
				if f := fixed[TaskID(x.ID, s.ID, 1)]; f != nil {
					finish[s.ID] = f.Start + length(s, x.Portions, pick)
					if f.Finish != nil {
						finish[s.ID] = *f.Finish
					}
					last = max(last, finish[s.ID])
					continue
				}
				start := *p.Workload.Now
				if in, ok := c.GoodsIn(p.Now); ok && len(s.After) == 0 {
					start = max(start, p.second(in))
				}
				for _, a := range s.After {
					start = max(start, finish[a.Step]+int64(a.Shortest))
				}
				finish[s.ID] = p.fit(c, s, start, x.Portions, pick, true) + length(s, x.Portions, pick)
				last = max(last, finish[s.ID])
			}
			return p.instant(last)
		}
		p.EarliestReady = append(p.EarliestReady, ready(likely))
		p.QuickReady = append(p.QuickReady, ready(func(e kitchen.Estimate) int { return e.Low }))
	}
}

func likely(e kitchen.Estimate) int { return e.Likely }

// length is how long a step takes for all portions of a batch when its runs follow each
// other or stand side by side.
func length(s *kitchen.Step, portions int, pick func(kitchen.Estimate) int) int64 {
	total, most := 0, 0
	for _, n := range s.Batch.Split(portions) {
		t := pick(s.Time.For(n))
		total += t
		most = max(most, t)
	}
	if s.Batch != nil && s.Batch.Run == kitchen.InTurn {
		return int64(total)
	}
	return int64(most)
}

// fit moves the start of a step that takes hands into the hours of its section: to the
// first time from start on, or (backwards) to the last time up to it. Where no hours fit
// it stays where it is.
func (p *Prep) fit(c *kitchen.Component, s *kitchen.Step, start int64, portions int, pick func(kitchen.Estimate) int, forward bool) int64 {
	long := length(s, portions, pick)
	if s.Hands == kitchen.None {
		if long = int64(s.Ends.In(portions)); long == 0 {
			return start
		}
	}
	ws := p.calendars[c.SectionOf(s)]
	if forward {
		for _, w := range ws {
			if at := max(start, w.From); at+long <= w.To {
				return at
			}
		}
		return start
	}
	for _, w := range slices.Backward(ws) {
		if at := min(start, w.To-long); at >= w.From {
			return at
		}
	}
	return start
}

// handsOn is how many seconds a step takes both hands, of all its batches.
func handsOn(s *kitchen.Step, portions int) (sum int64) {
	if s.Hands == kitchen.Both {
		return length(s, portions, likely)
	}
	for _, n := range s.Batch.Split(portions) {
		sum += int64(s.Ends.In(n) + s.Ends.Out(n))
		for _, t := range s.TouchesIn(s.Time.For(n).Likely) {
			sum += int64(t.Seconds)
		}
	}
	return sum
}
