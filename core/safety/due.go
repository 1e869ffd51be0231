package safety

import (
	"cmp"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Made is a step that was done today, as the plan or somebody's tick says.
type Made struct {
	Component, Step string
	At              time.Time // when it was done
}

// Due is something that should stand in today's log and does not yet.
type Due struct {
	Kind    LogKind         `json:"kind" enum:"core,cooling,holding,cold,delivery,probe"`
	What    string          `json:"what"`
	Ref     string          `json:"ref,omitempty"`
	Subject Subject         `json:"subject,omitempty"`
	Run     int64           `json:"run,omitempty" doc:"The cooling that it goes on with"`
	Since   time.Time       `json:"since" doc:"Since when it could be there"`
	By      *time.Time      `json:"by,omitempty" doc:"Until when the code's time runs"`
	Late    bool            `json:"late"`
	Said    message.Message `json:"said"`
}

// coreSubjects are findings that ask for a core temperature.
var coreSubjects = []Subject{Poultry, Minced, Rolled, Game, Reheating}

// holdEvery is how often what is held hot is probed in service; grace how long before something is done its line may stand. Common
// practice, no source.
const (
	holdEvery = 2 * time.Hour
	grace     = 30 * time.Minute
)

// Missing lists what should stand in the log of a day by now and does not: what has a time to keep first, then by the clock.
func Missing(b *kitchen.Book, made []Made, entries []Entry, now time.Time) []Due {
	house := b.Kitchen()
	from, _, err := house.Stretch(house.Date(now))
	if err != nil {
		panic("safety: today is no date: " + err.Error())
	}
	d := &dues{b: b, now: now, from: from, day: house.DayOf(now), k: codeOf(b.Kitchen().SafetyCode), out: []Due{}}
	lines := Judge(b, entries)
	for _, l := range lines {
		if l.Corrected == 0 && !l.At.Before(d.from) {
			d.lines = append(d.lines, l)
		}
	}
	d.probe()
	d.cold()
	d.holding()
	d.goods()
	d.coolings()
	for _, m := range made {
		d.of(m)
	}
	slices.SortStableFunc(d.out, func(a, b Due) int {
		switch {
		case a.By != nil && b.By != nil:
			return a.By.Compare(*b.By)
		case (a.By != nil) != (b.By != nil):
			if a.By != nil {
				return -1
			}
			return 1
		default:
			return cmp.Or(a.Since.Compare(b.Since), cmp.Compare(a.What, b.What))
		}
	})
	return d.out
}

type dues struct {
	b     *kitchen.Book
	now   time.Time
	from  time.Time // when the day began
	day   kitchen.Day
	k     *code
	lines []Line
	out   []Due
}

func (d *dues) add(x Due) {
	x.Late = x.By != nil && d.now.After(*x.By)
	d.out = append(d.out, x)
}

// has counts the lines of a kind about something since an instant.
func (d *dues) has(kind LogKind, ref string, since time.Time) (n int) {
	for i := range d.lines {
		if l := &d.lines[i]; l.Kind == kind && l.Ref == ref && !l.At.Before(since) {
			n++
		}
	}
	return n
}

func (d *dues) at(minute int) time.Time {
	from := d.day.From
	return time.Date(from.Year(), from.Month(), from.Day(), 0, minute, 0, 0, from.Location())
}

func (d *dues) probe() {
	if d.has(ProbeLog, "", d.from) == 0 {
		d.add(Due{Kind: ProbeLog, What: message.Of("due.probe-what").Text, Since: d.at(d.b.Kitchen().DayFrom), Said: message.Of("due.probe")})
	}
}

// cold asks for each fridge and freezer twice: when the day begins, and before service.
func (d *dues) cold() {
	for i := range d.b.Equipment() {
		e := &d.b.Equipment()[i]
		if e.Kind != kitchen.Fridge && e.Kind != kitchen.Freezer {
			continue
		}
		read := d.has(ColdLog, e.ID, d.from)
		for n, minute := range []int{d.b.Kitchen().DayFrom, d.b.Kitchen().ServiceFrom - 60} {
			if at := d.at(minute); read <= n && !d.now.Before(at) {
				d.add(Due{Kind: ColdLog, What: e.Name, Ref: e.ID, Since: at, Said: message.Of("due.cold", "what", e.Name)})
				break
			}
		}
	}
}

// holding asks for everything that holds hot, every two hours of service.
func (d *dues) holding() {
	from, to := d.at(d.b.Kitchen().ServiceFrom), d.at(d.b.Kitchen().ServiceTo)
	if d.now.Before(from) || d.now.After(to) {
		return
	}
	since := from.Add(d.now.Sub(from) / holdEvery * holdEvery)
	for i := range d.b.Equipment() {
		if e := &d.b.Equipment()[i]; e.Kind == kitchen.Holding && d.has(HoldingLog, e.ID, since) == 0 {
			d.add(Due{Kind: HoldingLog, What: e.Name, Ref: e.ID, Since: since, Said: message.Of("due.holding", "what", e.Name)})
		}
	}
}

// goods asks for what comes in today, once for each ingredient.
func (d *dues) goods() {
	seen := map[string]bool{}
	for _, c := range d.b.Components() {
		for _, g := range c.Ingredients {
			at := d.at(g.InAt)
			if c.Archived || g.InAt == 0 || seen[g.Name] || d.now.Before(at) {
				continue
			}
			seen[g.Name] = true
			if d.has(DeliveryLog, g.Name, d.from) == 0 {
				d.add(Due{Kind: DeliveryLog, What: g.Name, Ref: g.Name, Since: at, Said: message.Of("due.delivery", "what", g.Name)})
			}
		}
	}
}

// coolings asks for the next reading of what is still cooling.
func (d *dues) coolings() {
	last := map[int64]*Line{}
	var order []int64
	first := map[int64]time.Time{}
	for i := range d.lines {
		l := &d.lines[i]
		if l.Kind != CoolingLog {
			continue
		}
		run := cmp.Or(l.Run, l.Number)
		if last[run] == nil {
			order, first[run] = append(order, run), l.At
		}
		last[run] = l
	}
	for _, run := range order {
		l := last[run]
		if l.State != "open" || l.C == nil {
			continue
		}
		stage := d.k.stages[len(d.k.stages)-1]
		for _, s := range d.k.stages {
			if *l.C > s.c {
				stage = s
				break
			}
		}
		by := first[run].Add(stage.within)
		d.add(Due{Kind: CoolingLog, What: l.What, Ref: l.Ref, Run: run, Since: l.At, By: &by,
			Said: message.Of("due.cooling-on", "what", l.What, "celsius", stage.c, "by", message.Clock(by))})
	}
}

// of asks for what a step that was done needs: a cooling begun, a core temperature.
func (d *dues) of(m Made) {
	c, ok := d.b.Component(m.Component)
	if !ok || m.At.After(d.now) || m.At.Before(d.from) {
		return
	}
	for _, l := range Limits(d.b, c) {
		if l.Step != m.Step {
			continue
		}
		switch {
		case l.Subject == Cooling && d.has(CoolingLog, c.ID, m.At.Add(-d.k.coolMost)) == 0:
			d.add(Due{Kind: CoolingLog, What: c.Name, Ref: c.ID, Since: m.At, Said: message.Of("due.cooling", "what", c.Name)})
		case slices.Contains(coreSubjects, l.Subject) && d.has(CoreLog, c.ID, m.At.Add(-grace)) == 0:
			d.add(Due{Kind: CoreLog, What: c.Name, Ref: c.ID, Subject: l.Subject, Since: m.At, Said: message.Of("due.core", "what", c.Name)})
		}
	}
}
