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

// adviseShare is what to have ready of a dish for the next service that has it on its menu and does not know what is ordered; nil for none.
func adviseShare(b *kitchen.Book, coming []kitchen.Service, f lookback.Evidence) *message.Message {
	for i := range coming {
		svc := &coming[i]
		sum, own := 0.0, 0.0
		course := func(dish string) kitchen.Course {
			if d, ok := b.Dish(dish); ok {
				return d.Course
			}
			return ""
		}
		for _, m := range svc.Menu {
			if course(m.Dish) == course(f.Component) {
				sum += m.Share
			}
			if m.Dish == f.Component {
				own = m.Share
			}
		}
		guests := 0
		for _, t := range svc.Tables {
			if len(t.Orders) == 0 {
				guests += t.Covers
			}
		}
		if own == 0 || guests == 0 {
			continue
		}
		guests = int(math.Round(float64(guests) * math.Min(1, sum/100)))
		share := own / sum
		is := math.Min(1, share*f.Factor)
		m := message.Of("lookback.have", "service", svc.Name, "guests", guests, "expect", int(math.Round(is*float64(guests))), "was",
			int(math.Round(share*float64(guests))), "have", lookback.Reserve(guests, is, shortCost, wasteCost))
		return &m
	}
	return nil
}

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
	case f.Factor > 1:
		l.Text = message.Of("lookback.longer", "what", f.What, "act", f.Act, "percent", percent, "seen", f.Seen, "count", f.Nights)
	default:
		l.Text = message.Of("lookback.shorter", "what", f.What, "act", f.Act, "percent", percent, "seen", f.Seen, "count", f.Nights)
	}
	if f.Kind == "share" {
		l.Advice = adviseShare(snap.Book, coming, f)
	}
	if c, ok := snap.Book.Component(f.Component); ok && f.Kind == "step" {
		if k := c.StepIndex(f.Step); k >= 0 {
			was := c.Steps[k].Time
			is := was.Times(f.Factor)
			l.Version, l.Time, l.Use = snap.Versions[componentKey(c.ID)], &was, &is
		}
	}
	return l
}

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
	if n.Unsaid > 0 {
		out = append(out, message.Of("lookback.unsaid", "count", n.Unsaid))
	}
	return out
}
