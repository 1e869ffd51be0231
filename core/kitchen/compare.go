package kitchen

import (
	"jointime/core/message"
	"slices"
	"strconv"
	"strings"
)

// Compare says in words what changed from one specification to another, in the order of
// the plate: what came, what went, and what is different about what stayed. name turns
// a component's or a vessel's id into its name. Elements are matched by component, in
// their order; nothing changed gives no words.
func Compare(was, is *Specification, name func(id string) string) []message.Message {
	c := comparison{name: name, said: []message.Message{}}
	c.text(message.Of("compare.vessel"), name(was.Vessel), name(is.Vessel))
	c.text(message.Of("compare.vessel-temperature"), string(was.VesselTemp), string(is.VesselTemp))
	c.text(message.Of("compare.facing"), was.Facing, is.Facing)
	pairs, gone, came := match(was.Elements, is.Elements)
	for _, i := range gone {
		c.say("compare.gone", "what", name(was.Elements[i].Component), "number", i+1)
	}
	for _, k := range came {
		e := &is.Elements[k]
		c.say("compare.new", "what", name(e.Component), "form", FormWords(e), "number", k+1)
	}
	for _, p := range pairs {
		c.element(&was.Elements[p[0]], &is.Elements[p[1]], p[0], p[1], len(gone)+len(came) == 0)
	}
	c.text(message.Of("compare.table-side"), was.TableSide, is.TableSide)
	c.text(message.Of("compare.may-stand"), lengthWords(was.StandLimitS), lengthWords(is.StandLimitS))
	c.text(message.Of("compare.last-check"), strings.Join(was.FinalChecks, ", "), strings.Join(is.FinalChecks, ", "))
	variants := func(s *Specification) (out []string) {
		for _, v := range s.Variants {
			out = append(out, v.Name)
		}
		return out
	}
	c.text(message.Of("compare.variants"), strings.Join(variants(was), ", "), strings.Join(variants(is), ", "))
	return c.said
}

type comparison struct {
	name func(string) string
	said []message.Message
}

func (c *comparison) say(key string, facts ...any) {
	c.said = append(c.said, message.Of(key, facts...))
}

func (c *comparison) text(what message.Message, was, is string) {
	switch {
	case was == is:
	case was == "":
		c.say("compare.said", "what", what, "is", is)
	case is == "":
		c.say("compare.unsaid", "what", what, "was", was)
	default:
		c.say("compare.differs", "what", what, "is", is, "was", was)
	}
}

// lengthWords says a limit of time; nothing for none.
func lengthWords(s int) string {
	if s == 0 {
		return ""
	}
	return message.Of("compare.seconds", "seconds", s).Text
}

// element compares two uses of one component. Its number counts only when nothing else
// came or went: otherwise the numbers shift by themselves.
func (c *comparison) element(a, b *Element, i, k int, numbered bool) {
	var parts []message.Message
	add := func(what message.Message, was, is string) {
		if was != is {
			parts = append(parts, message.Of("compare.part", "what", what, "is", is, "was", was))
		}
	}
	f := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	if numbered && i != k {
		add(message.Of("element.number"), strconv.Itoa(i+1), strconv.Itoa(k+1))
	}
	add(message.Of("element.amount"), f(a.Amount), f(b.Amount))
	add(message.Of("element.form"), FormWords(a), FormWords(b))
	add(message.Of("element.place"), placeWords(a.At), placeWords(b.At))
	add(message.Of("element.turned"), f(a.TurnDeg)+"°", f(b.TurnDeg)+"°")
	if (a.On > 0) != (b.On > 0) {
		add(message.Of("element.put"), onWords(a.On), onWords(b.On))
	}
	add(message.Of("element.temperature"), string(a.Temp), string(b.Temp))
	add(message.Of("element.tool"), orNone(a.Tool), orNone(b.Tool))
	add(message.Of("element.time"), lengthWords(a.Seconds), lengthWords(b.Seconds))
	add(message.Of("element.hands"), strconv.Itoa(a.Hands), strconv.Itoa(b.Hands))
	if a.LastMoment != b.LastMoment {
		last := message.Of("element.last-no-more")
		if b.LastMoment {
			last = message.Of("element.last-now")
		}
		parts = append(parts, last)
	}
	if len(parts) > 0 {
		c.say("compare.element", "what", c.name(b.Component), "changes", strings.Join(message.Texts(parts), "; "))
	}
}

func onWords(on int) string {
	if on > 0 {
		return message.Of("element.on-another").Text
	}
	return message.Of("element.on-vessel").Text
}

func orNone(s string) string {
	if s == "" {
		return message.Of("element.none").Text
	}
	return s
}

// FormName says an element's form and how many of it.
func FormName(e *Element) string {
	w := strings.ReplaceAll(e.Form.Kind, "-", " ")
	if e.Form.Count > 1 {
		w = message.Of("form.count", "number", e.Form.Count, "form", w).Text
	}
	return w
}

// FormWords says an element's form with the sizes that were set.
func FormWords(e *Element) string {
	w := FormName(e)
	for _, v := range []struct {
		mm   float64
		said message.Message
	}{{e.Form.LengthMm, message.Of("form.long", "mm", e.Form.LengthMm)}, {e.Form.WidthMm, message.Of("form.wide", "mm", e.Form.WidthMm)},
		{e.Form.HeightMm, message.Of("form.high", "mm", e.Form.HeightMm)}, {e.Form.RadiusMm, message.Of("form.out", "mm", e.Form.RadiusMm)}} {
		if v.mm > 0 {
			w += " " + v.said.Text
		}
	}
	return w
}

// PlaceWords says where an element is put.
func PlaceWords(e *Element) string {
	w := placeWords(e.At)
	if e.Form.RadiusMm > 0 && e.Form.Count > 1 && e.At == (At{}) {
		w = message.Of("place.around", "mm", e.Form.RadiusMm).Text
	}
	if e.On > 0 {
		w = message.Of("place.on", "place", w, "number", e.On).Text
	}
	return w
}

func placeWords(a At) string {
	if a.Hour > 0 {
		return message.Of("place.clock", "hour", a.Hour, "mm", a.FromCentreMm).Text
	}
	if a.XMm == 0 && a.YMm == 0 {
		return message.Of("place.centre").Text
	}
	var parts []string
	side := func(v float64, less, more message.Message) {
		switch {
		case v > 0:
			parts = append(parts, more.Text)
		case v < 0:
			parts = append(parts, less.Text)
		}
	}
	side(a.XMm, message.Of("place.left", "mm", -a.XMm), message.Of("place.right", "mm", a.XMm))
	side(a.YMm, message.Of("place.up", "mm", -a.YMm), message.Of("place.down", "mm", a.YMm))
	return strings.Join(parts, ", ")
}

// match pairs the uses of each component in their order; what is over on one side went
// or came.
func match(was, is []Element) (pairs [][2]int, gone, came []int) {
	taken := make([]bool, len(is))
	for i, a := range was {
		k := slices.IndexFunc(is, func(b Element) bool { return b.Component == a.Component })
		for k >= 0 && taken[k] {
			next := slices.IndexFunc(is[k+1:], func(b Element) bool { return b.Component == a.Component })
			if next < 0 {
				k = -1
				break
			}
			k += next + 1
		}
		if k < 0 {
			gone = append(gone, i)
			continue
		}
		taken[k] = true
		pairs = append(pairs, [2]int{i, k})
	}
	for k := range is {
		if !taken[k] {
			came = append(came, k)
		}
	}
	slices.SortFunc(pairs, func(a, b [2]int) int { return a[1] - b[1] })
	return pairs, gone, came
}
