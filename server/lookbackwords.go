package server

import (
	"math"

	"jointime/core/kitchen"
	"jointime/core/lookback"
	"jointime/core/message"
	"jointime/store"
)

// What the record says, in words.

// What a plate that is missing costs against one that is thrown away: a guest who has to take something else against what is on it. Common
// practice, no source.
const shortCost, wasteCost = 9.0, 1.0

// courseOf is the course of a dish, and the shares of its menu lines of that course together with its own.
func courseOf(b *kitchen.Book, svc *kitchen.Service, dish string) (course kitchen.Course, sum, own float64) {
	d, ok := b.Dish(dish)
	if !ok {
		return "", 0, 0
	}
	for _, m := range svc.Menu {
		if o, there := b.Dish(m.Dish); there && o.Course == d.Course {
			sum += m.Share
		}
		if m.Dish == dish {
			own = m.Share
		}
	}
	return d.Course, sum, own
}

// next is what comes of a dish in a service to come.
type next struct {
	svc    *kitchen.Service
	guests int     // of whom it is not known what they take
	share  float64 // of its course, 0 to 1, by the menu
	sum    float64 // what the shares of its course sum up to, percent: not everybody takes the course
}

// takes is with which chance a guest takes a dish that has a share of its course.
func (n *next) takes(share float64) float64 { return share * math.Min(1, n.sum/100) }

// nextWith is the first service to come that has a dish on its menu and does not know what is ordered; false for none.
func nextWith(b *kitchen.Book, coming []kitchen.Service, dish string) (next, bool) {
	for i := range coming {
		_, sum, own := courseOf(b, &coming[i], dish)
		guests := 0
		for _, t := range coming[i].Tables {
			if len(t.Orders) == 0 {
				guests += t.Covers
			}
		}
		if own > 0 && guests > 0 {
			return next{&coming[i], guests, own / sum, sum}, true
		}
	}
	return next{}, false
}

// adviseShare is what to have ready of a dish for the next service that has it on its menu and does not know what is ordered; nil for none.
func adviseShare(b *kitchen.Book, coming []kitchen.Service, f lookback.Evidence) *message.Message {
	n, ok := nextWith(b, coming, f.Component)
	if !ok {
		return nil
	}
	m := message.Of("lookback.have", "service", n.svc.Name, "guests", n.guests, "expect", int(math.Round(n.takes(f.Share)*float64(n.guests))),
		"was", int(math.Round(n.takes(n.share)*float64(n.guests))), "have", lookback.Reserve(n.guests, n.takes(f.Share), shortCost, wasteCost))
	return &m
}

// The words of days, Monday first, and of seasons.
var (
	weekdays = []message.Message{message.Of("weekday.monday"), message.Of("weekday.tuesday"), message.Of("weekday.wednesday"),
		message.Of("weekday.thursday"), message.Of("weekday.friday"), message.Of("weekday.saturday"), message.Of("weekday.sunday")}
	seasons = map[lookback.Season]message.Message{lookback.Winter: message.Of("season.winter"), lookback.Spring: message.Of("season.spring"),
		lookback.Summer: message.Of("season.summer"), lookback.Autumn: message.Of("season.autumn")}
)

// learnt is a finding in words, with what would be used.
func learnt(snap *store.Snapshot, coming []kitchen.Service, f lookback.Evidence) Learnt {
	l := Learnt{Evidence: f}
	percent := int(math.Round(100 * math.Abs(f.Factor-1)))
	switch {
	case f.Kind == "person" && f.Factor < 1:
		l.Text = message.Of("lookback.quicker", "who", f.What, "percent", percent, "count", f.Nights)
	case f.Kind == "person":
		l.Text = message.Of("lookback.slower", "who", f.What, "percent", percent, "count", f.Nights)
	case f.Kind == "share" && f.Factor > 1:
		l.Text = message.Of("lookback.more", "dish", f.What, "percent", percent, "seen", f.Seen, "count", f.Nights)
	case f.Kind == "share":
		l.Text = message.Of("lookback.less", "dish", f.What, "percent", percent, "seen", f.Seen, "count", f.Nights)
	case f.Kind == "share-day" && f.Factor > 1:
		l.Text = message.Of("lookback.more-on", "dish", f.What, "percent", percent, "day", weekdays[f.Day-1], "count", f.Nights)
	case f.Kind == "share-day":
		l.Text = message.Of("lookback.less-on", "dish", f.What, "percent", percent, "day", weekdays[f.Day-1], "count", f.Nights)
	case f.Kind == "equipment":
		l.Text = message.Of("lookback.slow-place", "what", f.What, "percent", percent, "count", f.Nights)
	case f.Kind == "season" && f.Factor > 1:
		l.Text = message.Of("lookback.longer-in", "what", f.What, "act", f.Act, "percent", percent, "season", seasons[f.Season], "count",
			f.Nights)
	case f.Kind == "season":
		l.Text = message.Of("lookback.shorter-in", "what", f.What, "act", f.Act, "percent", percent, "season", seasons[f.Season], "count",
			f.Nights)
	case f.Kind == "portions":
		l.Text = message.Of("lookback.parts", "what", f.What, "act", f.Act, "fixed", message.Length(f.FixedS), "each", message.Length(f.PortionS),
			"seen", f.Seen, "count", f.Nights)
	case f.Factor > 1:
		l.Text = message.Of("lookback.longer", "what", f.What, "act", f.Act, "percent", percent, "seen", f.Seen, "count", f.Nights)
	default:
		l.Text = message.Of("lookback.shorter", "what", f.What, "act", f.Act, "percent", percent, "seen", f.Seen, "count", f.Nights)
	}
	if f.Kind == "share" {
		l.Advice = adviseShare(snap.Book, coming, f)
		if n, ok := nextWith(snap.Book, coming, f.Component); ok && math.Abs(n.share-f.Share) >= worthShare {
			l.Service, l.ServiceName, l.Version = n.svc.ID, n.svc.Name, snap.Versions[serviceKey(n.svc.ID)]
			l.MenuShare, l.UseShare = math.Round(n.share*n.sum), math.Round(f.Share*n.sum)
		}
	}
	if c, ok := snap.Book.Component(f.Component); ok && (f.Kind == "step" || f.Kind == "portions") {
		if k := c.StepIndex(f.Step); k >= 0 {
			was := c.Steps[k].Time
			is := was.Times(f.Factor)
			if f.Kind == "portions" {
				is = was.Parts(f.Factor, f.PerPortion, f.PortionS)
			}
			l.Version, l.Time, l.Use = snap.Versions[componentKey(c.ID)], &was, &is
		}
	}
	return l
}

// worthShare is from which difference of a share a press is offered, as a part of the course. Common practice, no source.
const worthShare = 0.02

// mostSaid is how many causes of a night are said.
const mostSaid = 5

// nightSaid is what there is to say of a night.
func nightSaid(n *lookback.Night) []message.Message {
	courses := 0
	for i := range n.Joins {
		if n.Joins[i].SentAt != nil {
			courses++
		}
	}
	out := []message.Message{message.Of("lookback.late", "late", n.Late, "courses", courses)}
	if n.Late == 0 {
		out[0] = message.Of("lookback.none-late", "courses", courses)
	}
	for _, c := range n.Causes[:min(len(n.Causes), mostSaid)] {
		share, by := int(math.Round(100*c.Share)), message.Rough(c.S)
		switch c.Kind {
		case lookback.Longer:
			out = append(out, message.Of("lookback.cause-longer", "what", c.What, "act", c.Act, "by", by, "share", share))
		case lookback.BegunOff:
			out = append(out, message.Of("lookback.cause-begun", "what", c.What, "act", c.Act, "by", by, "share", share))
		case lookback.Again:
			out = append(out, message.Of("lookback.cause-again", "what", c.What, "by", by, "share", share))
		case lookback.Hands:
			out = append(out, message.Of("lookback.cause-hands", "what", c.What, "act", c.Act, "by", by, "share", share))
		case lookback.Plating:
			out = append(out, message.Of("lookback.cause-plating", "by", by, "share", share))
		case lookback.Planned:
			out = append(out, message.Of("lookback.cause-planned", "by", by, "share", share))
		case lookback.Before:
			out = append(out, message.Of("lookback.cause-before", "by", by, "share", share))
		default:
			out = append(out, message.Of("lookback.cause-unknown", "by", by, "share", share))
		}
	}
	if n.Again > 0 {
		out = append(out, message.Of("lookback.again", "count", n.Again))
	}
	if n.Back > 0 {
		out = append(out, message.Of("lookback.back", "count", n.Back))
	}
	if len(n.Holds) > 0 {
		h := &n.Holds[0]
		out = append(out, message.Of("lookback.held", "count", len(n.Holds), "by", message.Rough(n.HeldS), "what", h.What, "worst",
			message.Rough(h.WaitedS-h.MayS), "may", message.Rough(h.MayS)))
	}
	if n.NotYet > 0 {
		out = append(out, message.Of("lookback.not-yet", "count", n.NotYet))
	}
	for i := range n.Off {
		o := &n.Off[i]
		if o.Until != nil {
			out = append(out, message.Of("lookback.off-until", "what", o.Name, "from", message.Clock(o.At), "until", message.Clock(*o.Until)))
		} else {
			out = append(out, message.Of("lookback.off", "what", o.Name, "from", message.Clock(o.At)))
		}
	}
	if n.Unsaid > 0 {
		out = append(out, message.Of("lookback.unsaid", "count", n.Unsaid))
	}
	return out
}
