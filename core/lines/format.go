package lines

import (
	"fmt"
	"regexp"
	"strings"

	"jointime/core/kitchen"
)

// A component as lines.

var notSlug = regexp.MustCompile(`[^a-z0-9]+`)

func slug(name string) string {
	s := strings.Trim(notSlug.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(s) > 40 {
		s = strings.Trim(s[:40], "-")
	}
	if s == "" {
		s = "step"
	}
	return s
}

func unique(s string, seen map[string]int) string {
	seen[s]++
	for n := seen[s]; n > 1; n++ {
		if next := fmt.Sprintf("%s-%d", s, n); seen[next] == 0 {
			seen[next]++
			return next
		}
	}
	return s
}

// Format writes the steps and the hold of a component as lines that Parse reads back.
func Format(c *kitchen.Component) string {
	var b strings.Builder
	phase := kitchen.Ahead
	for i := range c.Steps {
		s := &c.Steps[i]
		for k, a := range s.After {
			switch {
			case !said(a.Wait) || i == 0:
			case k == 0:
				b.WriteString(wait(a.Wait) + "\n")
			default:
				b.WriteString(wait(a.Wait) + ", after " + a.Step + "\n")
			}
		}
		if s.Phase != phase {
			phase = s.Phase
			b.WriteString(map[kitchen.Phase]string{kitchen.PickUp: "to order\n", kitchen.Ahead: "ahead\n"}[phase])
		}
		b.WriteString(step(c, i) + "\n")
		for _, n := range s.Never {
			b.WriteString("never " + n.What)
			if n.Because != "" {
				b.WriteString(", because " + n.Because)
			}
			b.WriteString("\n")
		}
	}
	if said(c.Hold) {
		b.WriteString(wait(c.Hold) + "\n")
	}
	if c.Pot != nil {
		b.WriteString(pot(c.Pot) + "\n")
	}
	return b.String()
}

// pot says that something stands on the stove and is drawn from.
func pot(p *kitchen.Pot) string {
	out := "standing pot, good for " + Say(p.HoldsS)
	if p.In != nil {
		out += on(p.In)
	}
	if t := p.TopUp; t != nil {
		out += fmt.Sprintf(", %s for %s every %s", plain(t.Say), Say(t.Seconds), Say(t.EveryS))
	}
	return out
}

func said(w kitchen.Wait) bool {
	return w.Shortest > 0 || w.Best != nil || w.Longest != nil || w.Place != "" || w.NoLimit || w.In != nil || w.Stretch != nil ||
		w.Until != "" || w.Kept != "" || w.Care != nil
}

func wait(w kitchen.Wait) string {
	out := "wait"
	once := w.AtOnce() && *w.Longest == kitchen.AtOnceS
	switch {
	case once:
		out = "at once"
	case w.Shortest > 0:
		out = "rest " + Say(w.Shortest)
	}
	if w.Best != nil {
		out += ", best " + Say(*w.Best)
	}
	if w.Longest != nil && !once {
		out += ", at most " + Say(*w.Longest)
	}
	if w.NoLimit {
		out += ", no limit"
	}
	if w.Each {
		out += " for each piece"
	}
	if x := w.Stretch; x != nil {
		out += ", if it must up to " + Say(x.LongestS)
		if x.In != nil {
			out += " in the " + string(x.In.Kind)
		}
	}
	if w.In != nil {
		out += on(w.In)
		if (w.In.Kind == kitchen.Fridge || w.In.Kind == kitchen.Freezer) && w.In.Units == 1 && w.In.SetpointC == nil {
			out += " taking 1" // else it is only a place
		}
	}
	if w.Until != "" {
		out += ", until " + plain(w.Until)
	}
	if w.Kept != "" {
		out += ", kept " + plain(w.Kept)
	}
	if c := w.Care; c != nil {
		out += fmt.Sprintf(", %s for %s every %s", plain(c.Say), Say(c.Seconds), Say(c.EveryS))
	}
	if w.Place != "" {
		out += ", " + map[bool]string{true: "on the "}[w.Place == kitchen.OnBench] + string(w.Place)
	}
	return out
}

// plain is a text that ends with its phrase: a comma would end it sooner.
func plain(s string) string { return separators.Replace(s) }

var separators = strings.NewReplacer(", ", " and ", ",", " and ", "; ", " and ", ";", " and ", " – ", " and ", " — ", " and ", "(", "", ")",
	"", "!", "", "?", "")

func on(e *kitchen.EquipmentNeed) string {
	out := ", in the " + string(e.Kind)
	if e.Units > 1 {
		out += fmt.Sprintf(" taking %d", e.Units)
	}
	switch {
	case e.Said != "" && ovenWords[e.Said] != "":
		return strings.Replace(out, "in the ", "in the "+e.Said+" ", 1)
	case e.Said != "":
		return out + " at " + e.Said
	}
	if e.SetpointC != nil {
		out += fmt.Sprintf(" at %g", *e.SetpointC)
	}
	if e.SetpointToC != nil {
		out += fmt.Sprintf(" to %g", *e.SetpointToC)
	}
	return out
}

// ends says the hands at both ends of a step, where they are not the usual ones.
func ends(s *kitchen.Step) string {
	e := s.Ends
	if s.Hands == kitchen.Both || e == s.UsualEnds() {
		return ""
	}
	if e == (kitchen.Ends{}) {
		return ", no hands to lay in or take out"
	}
	half := func(fixed, each int) string {
		out := Say(fixed)
		if each > 0 {
			out += " plus " + Say(each) + " each"
		}
		return out
	}
	return ", hands " + half(e.InS, e.InEachS) + " to lay in and " + half(e.OutS, e.OutEachS) + " to take out"
}

// besideOf says after which step of another component one comes.
func besideOf(a kitchen.OtherStep) (out string) {
	if a.Shortest > 0 {
		out += "at least " + Say(a.Shortest) + " "
	}
	if a.Best != nil {
		out += "best " + Say(*a.Best) + " "
	}
	if a.Longest != nil {
		out += "at most " + Say(*a.Longest) + " "
	}
	if a.NoLimit {
		out += "no limit "
	}
	if a.Place != "" {
		out += "kept " + map[bool]string{true: "on the "}[a.Place == kitchen.OnBench] + string(a.Place) + " "
	}
	if a.Any {
		out += "taken "
	}
	out += "after " + a.Step + " of " + a.Component
	if a.Pan {
		out += " in its pan"
	}
	return out
}

func step(c *kitchen.Component, i int) string {
	s := &c.Steps[i]
	out := s.Name + ": "
	if !setsTime(s) {
		out += Say(s.Time.Fixed.Likely)
	}
	if f := s.Time.Fixed; !setsTime(s) && (f.Low != f.Likely || f.High != f.Likely) {
		out += fmt.Sprintf(", from %s to %s", Say(f.Low), Say(f.High))
	}
	if p := s.Time.PerPortion; p.Likely > 0 && !setsTime(s) {
		out += ", and " + Say(p.Likely) + " a portion"
		if p.Low != p.Likely || p.High != p.Likely {
			out += fmt.Sprintf(", each from %s to %s", Say(p.Low), Say(p.High))
		}
	}
	out += map[kitchen.Hands]string{kitchen.Both: ", both hands", kitchen.Tend: ", a look now and then", kitchen.None: ", nobody"}[s.Hands]
	out += ends(s)
	for _, t := range s.Touches {
		out += ", " + plain(t.Say) + map[kitchen.TouchWhen]string{kitchen.HalfWay: " half-way",
			kitchen.After:     " " + Say(t.AtS) + " after the start",
			kitchen.BeforeEnd: " " + Say(t.AtS) + " before the end", kitchen.Every: " every " + Say(t.AtS)}[t.When] + " for " + Say(t.Seconds)
	}
	if s.Away {
		out += ", away from the stove"
	}
	if s.Same != nil {
		out += map[bool]string{true: ", in the same pan", false: ", in another pan"}[*s.Same]
	}
	out += map[kitchen.Call]string{kitchen.CallAny: ", may begin before the call", kitchen.CallOnly: ", not before the call"}[s.Call]
	if e := s.Equipment; e != nil {
		out += on(e)
		if e.PreheatS > 0 {
			out += ", heated " + Say(e.PreheatS) + " before"
		}
	} else if suggestsPlace(s.Name) {
		out += ", without equipment"
	}
	if s.Batch != nil {
		out += fmt.Sprintf(", batches of %d", s.Batch.Portions)
		if s.Batch.Run == kitchen.InTurn {
			out += " in turn"
		}
	}
	out += sized(s)
	for _, d := range s.Doneness {
		if computed(d) && s.Piece != nil {
			continue
		}
		way, n := "more", d.Seconds
		if n < 0 {
			way, n = "less", -n
		}
		out += fmt.Sprintf(", %s %s %s", d.Name, Say(n), way)
		if d.Ends > 0 {
			out += fmt.Sprintf(" but for %d at the ends", d.Ends)
		}
	}
	for _, k := range s.Checks {
		if k.TargetC != nil {
			out += fmt.Sprintf(", until core %g", *k.TargetC)
		}
	}
	for _, k := range s.Checks {
		if k.TargetC == nil {
			out += fmt.Sprintf(", until %s %s", k.Kind, plain(k.Say))
		}
		if k.NotYetS > 0 {
			out += ", if not yet " + Say(k.NotYetS) + " more"
		}
		if k.TooFar != "" {
			out += ", if too far " + plain(k.TooFar)
		}
	}
	for _, x := range s.Ready {
		out += ", ready when " + plain(x)
	}
	for _, x := range s.PutsIn {
		out += ", puts in " + x
	}
	for _, x := range s.TakesOut {
		out += ", takes out " + x
	}
	for _, x := range s.Dangers {
		out += ", mind " + string(x)
	}
	for _, a := range s.Beside {
		out += ", " + besideOf(a)
	}
	switch {
	case i > 0 && len(s.After) == 0:
		out += ", from the start"
	case i > 0 && (len(s.After) != 1 || s.After[0].Step != c.Steps[i-1].ID), i == 0:
		for _, a := range s.After {
			out += ", after " + a.Step
		}
	}
	for _, w := range s.Wares {
		out += fmt.Sprintf(", fills %d", max(1, w.Each))
		if w.For > 0 {
			out += fmt.Sprintf(" for %d", w.For)
		}
		out += " of " + w.Equipment
		if w.Until != "" {
			out += " until " + w.Until
		}
	}
	switch s.May {
	case kitchen.MayAnybody:
		out += ", anybody may do it"
	case kitchen.MaySection:
		out += ", its section alone"
	}
	for _, p := range s.People {
		out += ", only by " + p
	}
	if s.Section != "" {
		out += ", by " + s.Section
	}
	return strings.Replace(out, ": , ", ": ", 1)
}

// suggestsPlace reports whether a name alone would be taken to say where a step is done.
func suggestsPlace(name string) bool {
	s := (&reader{line: newLine(name), known: &Known{}}).step(&kitchen.Component{}, kitchen.PickUp)
	return s.Equipment != nil
}

// Say writes a length of time so that Seconds reads the same.
func Say(s int) string {
	switch {
	case s < 120 && s%60 != 0 || s == 0:
		return fmt.Sprintf("%d s", s)
	case s%3600 == 0:
		return fmt.Sprintf("%d h", s/3600)
	case s%60 == 0 && s < 3*3600:
		return fmt.Sprintf("%d min", s/60)
	case s%60 == 0:
		return fmt.Sprintf("%d h %d min", s/3600, s%3600/60)
	case s < 999*60:
		return fmt.Sprintf("%d:%02d", s/60, s%60)
	default:
		return fmt.Sprintf("%d s", s)
	}
}
