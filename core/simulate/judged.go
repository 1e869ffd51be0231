package simulate

import (
	"math"
	"strconv"
	"time"

	"jointime/core/service"
)

// What is written down of a night as it goes on, and how it went.

// fired says of a run that it has begun, or is ready.
func (p *play) fired(x *piece, kind service.Kind) { p.tell(x, service.Event{Kind: kind}) }

// tell says something of a run, by its section.
func (p *play) tell(x *piece, e service.Event) {
	if x.run == nil {
		return
	}
	e.Device = x.run.Section
	e.Task, e.Component, e.Step, e.Section, e.Joins = x.run.Task, x.run.Component, x.run.Step, x.run.Section, x.run.Joins
	e.Portions = max(1, x.run.Portions)
	p.say(p.sim.now, e)
}

// course says something of a join, at the pass.
func (p *play) course(m int, kind service.Kind) {
	j := p.k.meetings[m].key
	p.say(p.sim.now, service.Event{Kind: kind, Device: "pass", Facts: service.Facts{Table: j.Table, Course: j.Course, Round: j.Round}})
}

// say writes something into the log.
func (p *play) say(at float64, e service.Event) {
	if !p.record {
		return
	}
	p.counts[e.Device]++
	e.Count, e.Seq = p.counts[e.Device], int64(len(p.result.Events))+1
	e.ID = "played-" + strconv.FormatInt(e.Seq, 10)
	e.At = p.at(at)
	e.ReceivedAt = e.At
	p.result.Events = append(p.result.Events, e)
}

// at is an instant of the night, to the millisecond.
func (p *play) at(s float64) time.Time {
	return p.k.evening.Origin.Add(time.Duration(math.Round(s*1000)) * time.Millisecond)
}

// judge says how the night went.
func (p *play) judge() {
	p.result.Vain, p.result.Off = p.k.vain, len(p.k.off)
	for i := range p.k.meetings {
		m := &p.k.meetings[i]
		j := PlayedJoin{TableCourse: m.key, Name: m.name, Plates: m.plates, Booked: m.wish + p.k.shift, Wish: p.wish[i], At: p.sent[i]}
		switch {
		case math.IsInf(p.sent[i], 1):
			j.At, j.Skipped = 0, true
		case p.sent[i] < 0:
			j.Late = math.Inf(1) // it never came together: a fault of ours, which the tests would see
		default:
			j.Late = j.At - j.Wish
			j.WaitedFor = p.waitedFor(i)
		}
		p.result.Joins = append(p.result.Joins, j)
	}
	for _, w := range p.k.waits {
		if p.done[w.from] >= 0 && p.started[w.to] >= 0 {
			if over := p.started[w.to] - p.done[w.from] - w.most; over > 1 {
				p.result.Held += over
			}
		}
	}
}

// waitedFor is what kept a join: back along what came last, until hands or a place were taken, or something went slower or was begun later
// than planned.
func (p *play) waitedFor(m int) Cause {
	x := &p.k.meetings[m]
	if x.follows >= 0 && p.sent[m] <= p.sent[x.follows]+x.pace+1 && p.sent[x.follows] > p.wish[x.follows] {
		return p.waitedFor(x.follows) // the course before it was late
	}
	last := -1
	for _, a := range p.k.meetings[m].after {
		if last < 0 || p.done[a.piece] > p.done[last] {
			last = a.piece
		}
	}
	section := ""
	for range len(p.k.pieces) {
		if last < 0 {
			break
		}
		x := &p.k.pieces[last]
		if x.run != nil {
			section = x.run.Section
		}
		if p.lacked[last] != "" && p.started[last] > p.ready[last]+overdue {
			return Cause{Section: section, Resource: p.lacked[last]}
		}
		if p.cause[last] < 0 || p.done[p.cause[last]] <= p.planned[p.cause[last]]+p.k.pieces[p.cause[last]].long+1 {
			break
		}
		last = p.cause[last]
	}
	return Cause{Section: section}
}
