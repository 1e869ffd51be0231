package kitchen

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Compare says in words what changed from one specification to another, in the order of
// the plate: what came, what went, and what is different about what stayed. name turns
// a component's or a vessel's id into its name. Elements are matched by component, in
// their order; nothing changed gives no words.
func Compare(was, is *Specification, name func(id string) string) []string {
	c := comparison{name: name, words: []string{}}
	c.text("Vessel", name(was.Vessel), name(is.Vessel))
	c.text("Vessel temperature", string(was.VesselTemp), string(is.VesselTemp))
	c.text("Facing the guest", was.Facing, is.Facing)
	pairs, gone, came := match(was.Elements, is.Elements)
	for _, i := range gone {
		c.say("%s is gone (was number %d).", name(was.Elements[i].Component), i+1)
	}
	for _, k := range came {
		e := &is.Elements[k]
		c.say("%s is new: %s, number %d.", name(e.Component), FormWords(e), k+1)
	}
	for _, p := range pairs {
		c.element(&was.Elements[p[0]], &is.Elements[p[1]], p[0], p[1], len(gone)+len(came) == 0)
	}
	c.text("At the table", was.TableSide, is.TableSide)
	c.number("May stand", was.StandLimitS, is.StandLimitS, "s")
	c.text("Last check", strings.Join(was.FinalChecks, ", "), strings.Join(is.FinalChecks, ", "))
	variants := func(s *Specification) (out []string) {
		for _, v := range s.Variants {
			out = append(out, v.Name)
		}
		return out
	}
	c.text("Variants", strings.Join(variants(was), ", "), strings.Join(variants(is), ", "))
	return c.words
}

type comparison struct {
	name  func(string) string
	words []string
}

func (c *comparison) say(format string, args ...any) {
	c.words = append(c.words, fmt.Sprintf(format, args...))
}

func (c *comparison) text(what, was, is string) {
	switch {
	case was == is:
	case was == "":
		c.say("%s: %s.", what, is)
	case is == "":
		c.say("%s: no longer said (was %s).", what, was)
	default:
		c.say("%s: %s, was %s.", what, is, was)
	}
}

func (c *comparison) number(what string, was, is int, unit string) {
	if was != is {
		c.say("%s: %d %s, was %d %s.", what, is, unit, was, unit)
	}
}

// element compares two uses of one component. Its number counts only when nothing else
// came or went: otherwise the numbers shift by themselves.
func (c *comparison) element(a, b *Element, i, k int, numbered bool) {
	var parts []string
	add := func(what, was, is string) {
		if was != is {
			parts = append(parts, fmt.Sprintf("%s %s, was %s", what, is, was))
		}
	}
	f := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	if numbered && i != k {
		add("number", strconv.Itoa(i+1), strconv.Itoa(k+1))
	}
	add("amount", f(a.Amount), f(b.Amount))
	add("form", FormWords(a), FormWords(b))
	add("place", placeWords(a.At), placeWords(b.At))
	add("turned", f(a.TurnDeg)+"°", f(b.TurnDeg)+"°")
	if (a.On > 0) != (b.On > 0) {
		add("put", onWords(a.On), onWords(b.On))
	}
	add("temperature", string(a.Temp), string(b.Temp))
	add("tool", orNone(a.Tool), orNone(b.Tool))
	add("time", fmt.Sprintf("%d s", a.Seconds), fmt.Sprintf("%d s", b.Seconds))
	add("hands", strconv.Itoa(a.Hands), strconv.Itoa(b.Hands))
	if a.LastMoment != b.LastMoment {
		parts = append(parts, map[bool]string{true: "now at the last moment", false: "no longer at the last moment"}[b.LastMoment])
	}
	if len(parts) > 0 {
		c.say("%s: %s.", c.name(b.Component), strings.Join(parts, "; "))
	}
}

func onWords(on int) string {
	if on > 0 {
		return "on another element"
	}
	return "on the vessel"
}

func orNone(s string) string {
	if s == "" {
		return "none"
	}
	return s
}

// FormName says an element's form and how many of it.
func FormName(e *Element) string {
	w := strings.ReplaceAll(e.Form.Kind, "-", " ")
	if e.Form.Count > 1 {
		w = fmt.Sprintf("%d %s", e.Form.Count, w)
	}
	return w
}

// FormWords says an element's form with the sizes that were set.
func FormWords(e *Element) string {
	w := FormName(e)
	for _, v := range []struct {
		mm   float64
		word string
	}{{e.Form.LengthMm, "long"}, {e.Form.WidthMm, "wide"}, {e.Form.HeightMm, "high"}, {e.Form.RadiusMm, "out"}} {
		if v.mm > 0 {
			w += fmt.Sprintf(" %g mm %s", v.mm, v.word)
		}
	}
	return w
}

// PlaceWords says where an element is put.
func PlaceWords(e *Element) string {
	w := placeWords(e.At)
	if e.Form.RadiusMm > 0 && e.Form.Count > 1 && e.At == (At{}) {
		w = fmt.Sprintf("around, %g mm out", e.Form.RadiusMm)
	}
	if e.On > 0 {
		w += fmt.Sprintf(", on %d", e.On)
	}
	return w
}

func placeWords(a At) string {
	if a.Hour > 0 {
		return fmt.Sprintf("%g o’clock at %g mm", a.Hour, a.FromCentreMm)
	}
	if a.XMm == 0 && a.YMm == 0 {
		return "the centre"
	}
	var parts []string
	side := func(v float64, less, more string) {
		switch {
		case v > 0:
			parts = append(parts, fmt.Sprintf("%g mm %s", v, more))
		case v < 0:
			parts = append(parts, fmt.Sprintf("%g mm %s", -v, less))
		}
	}
	side(a.XMm, "left", "right")
	side(a.YMm, "up", "down")
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
