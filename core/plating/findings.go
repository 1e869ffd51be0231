package plating

import (
	"fmt"
	"math"
	"slices"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// Finding is something that the computation noticed about a plate. State is `good`
// (as it should be), `mind` (worth a thought) or `fault`.
type Finding struct {
	Kind    string          `json:"kind" doc:"What was looked at: coverage, rim, overlap …"`
	State   string          `json:"state" enum:"good,mind,fault"`
	Element int             `json:"element" doc:"Number of the element it speaks of, 0 for the plate"`
	Value   float64         `json:"value" doc:"The number found"`
	Said    message.Message `json:"said"`
}

// Limits of what is said without a word. Common practice, no source.
const (
	grid         = 3.0  // mm between the points at which areas are measured
	overlapShare = 0.25 // of the smaller one
	balanceMm    = 14.0
	nearMm       = 8.0 // frozen beside hot
	crispOnWetS  = 360 // a crisp thing on a wet one is soft after some six minutes
)

func (p *Plate) say(kind, state string, element int, value float64, key string, facts ...any) {
	p.Findings = append(p.Findings, Finding{kind, state, element, value, message.Of(key, facts...)})
}

// examine measures the plate and looks for faults. The worst come first.
func (p *Plate) examine(b *kitchen.Book, v *kitchen.Vessel, spec *kitchen.Specification, ls []laid, promised kitchen.Needs) {
	if len(ls) == 0 {
		p.say("empty", "mind", 0, 0, "plate.empty")
		return
	}
	p.edges(v, ls)
	p.overlaps(ls)
	p.coverage(v, ls)
	p.balance(ls)
	p.order(ls)
	p.contrasts(ls)
	p.temperatures(ls)
	p.served(b, v, spec, ls)
	p.wetUnderCrisp(spec, ls)
	p.takeOuts(b, ls)
	p.promises(b, ls, promised)
	rank := map[string]int{"fault": 0, "mind": 1, "good": 2}
	slices.SortStableFunc(p.Findings, func(a, b Finding) int { return rank[a.State] - rank[b.State] })
}

// edges finds what lies on the rim or over the edge, and by how much.
func (p *Plate) edges(v *kitchen.Vessel, ls []laid) {
	clean := true
	for i := range ls {
		over, rim := 0.0, 0.0
		for _, piece := range ls[i].pieces {
			for _, q := range piece.Outline {
				over = math.Max(over, outside(q, v, 0))
				rim = math.Max(rim, outside(q, v, v.RimMm))
			}
		}
		switch name := ls[i].comp.Name; {
		case over > 0.5:
			clean = false
			p.say("edge", "fault", i+1, over, "plate.over-edge", "what", name, "mm", math.Ceil(over))
		case rim > 1:
			clean = false
			p.say("rim", "mind", i+1, rim, "plate.on-rim", "what", name, "mm", math.Ceil(rim))
		}
	}
	if clean {
		p.say("rim", "good", 0, 0, "plate.rim-clean")
	}
}

// outside is how far a point lies outside the vessel, or outside its well when a rim
// is given; mm, 0 inside.
func outside(q Point, v *kitchen.Vessel, rim float64) float64 {
	a, b := v.WidthMm/2-rim, depthOf(v)/2-rim
	if v.Kind == "slate" {
		return math.Max(0, math.Max(math.Abs(q.X)-a, math.Abs(q.Y)-b))
	}
	d := math.Hypot(q.X, q.Y)
	if d == 0 {
		return 0
	}
	// The edge in the direction of q.
	edge := d / math.Hypot(q.X/a, q.Y/b)
	return math.Max(0, d-edge)
}

// covers reports whether any piece of l lies over q.
func (l *laid) covers(q Point) bool {
	if !l.box.holds(q) {
		return false
	}
	for i := range l.pieces {
		if l.pieces[i].holds(q) {
			return true
		}
	}
	return false
}

// rests reports whether element i stands on k, directly or over others.
func rests(ls []laid, i, k int) bool {
	for n := 0; i >= 0 && n <= len(ls); n++ {
		if i = ls[i].element.On - 1; i == k {
			return true
		}
	}
	return false
}

// thin is low enough for something to be put on it without a word, or poured: then it
// flows round what stands there.
func (l *laid) thin() bool { return l.high() <= 6 || l.element.Form.Kind == "pool" }

// overlaps finds elements that cover each other without being declared as stacked.
func (p *Plate) overlaps(ls []laid) {
	for i := range ls {
		for k := range i {
			if rests(ls, i, k) || ls[k].thin() {
				continue
			}
			a, c := ls[i].box, ls[k].box
			x0, x1 := math.Max(a.x0, c.x0), math.Min(a.x1, c.x1)
			y0, y1 := math.Max(a.y0, c.y0), math.Min(a.y1, c.y1)
			if x0 >= x1 || y0 >= y1 {
				continue
			}
			both := 0.0
			for x := x0 + grid/2; x < x1; x += grid {
				for y := y0 + grid/2; y < y1; y += grid {
					if q := (Point{x, y}); ls[i].covers(q) && ls[k].covers(q) {
						both += grid * grid
					}
				}
			}
			small := math.Min(ls[i].footprint(), ls[k].footprint())
			if both <= overlapShare*small {
				continue
			}
			share := math.Min(1, both/small)
			if ls[i].thin() {
				continue // poured or strewn over and around it
			}
			p.say("overlap", "mind", i+1, share, "plate.overlap", "what", ls[i].comp.Name, "other", ls[k].comp.Name, "percent",
				math.Round(100*share))
		}
	}
}

func (l *laid) footprint() float64 {
	sum := 0.0
	for i := range l.pieces {
		sum += area(l.pieces[i].Outline)
	}
	return sum
}

// coverage measures the covered share of the well and the sectors left empty.
func (p *Plate) coverage(v *kitchen.Vessel, ls []laid) {
	all, covered := 0, 0
	var sector [12]int
	for x := -p.WidthMm / 2; x <= p.WidthMm/2; x += grid {
		for y := -p.DepthMm / 2; y <= p.DepthMm/2; y += grid {
			q := Point{x, y}
			if outside(q, v, v.RimMm) > 0 {
				continue
			}
			all++
			for i := range ls {
				if ls[i].covers(q) {
					covered++
					hour := int(math.Mod(math.Atan2(x, -y)/(2*math.Pi)*12+12.5, 12))
					sector[hour]++
					break
				}
			}
		}
	}
	if all == 0 {
		return
	}
	p.Covered = float64(covered) / float64(all)
	var empty []string
	for h, n := range sector {
		if n == 0 {
			empty = append(empty, fmt.Sprint((h+11)%12+1))
		}
	}
	state := "good"
	if p.Covered > 0.85 || p.Covered < 0.12 {
		state = "mind"
	}
	percent := math.Round(100 * p.Covered)
	if len(empty) > 0 && len(empty) < 12 {
		p.say("coverage", state, 0, p.Covered, "plate.covered-but", "percent", percent, "hours", empty)
	} else {
		p.say("coverage", state, 0, p.Covered, "plate.covered", "percent", percent)
	}
}

// balance finds the centre of weight.
func (p *Plate) balance(ls []laid) {
	sum, x, y := 0.0, 0.0, 0.0
	for i := range ls {
		for k := range ls[i].pieces {
			v := ls[i].pieces[k].Volume() * ls[i].comp.DensityGPerMl
			c := middle(ls[i].pieces[k].Outline)
			sum, x, y = sum+v, x+v*c.X, y+v*c.Y
		}
	}
	p.Centre = Point{x / sum, y / sum}
	d := math.Hypot(p.Centre.X, p.Centre.Y)
	hour := int(math.Round(math.Mod(math.Atan2(p.Centre.X, -p.Centre.Y)/(2*math.Pi)*12+12, 12)))
	if hour == 0 {
		hour = 12
	}
	state := "good"
	if d > balanceMm {
		state = "mind"
	}
	p.say("balance", state, 0, d, "plate.weight", "mm", math.Round(d), "hour", hour, "high", math.Round(p.HighMm))
}

// middle is the centroid of a polygon.
func middle(ps []Point) Point {
	var a, x, y float64
	for i, p := range ps {
		q := ps[(i+1)%len(ps)]
		c := p.X*q.Y - q.X*p.Y
		a, x, y = a+c, x+(p.X+q.X)*c, y+(p.Y+q.Y)*c
	}
	if a == 0 {
		return ps[0]
	}
	return Point{x / (3 * a), y / (3 * a)}
}

// order finds last-moment elements that are not last.
func (p *Plate) order(ls []laid) {
	for i := range ls {
		if !ls[i].element.LastMoment {
			continue
		}
		for k := i + 1; k < len(ls); k++ {
			if !ls[k].element.LastMoment {
				p.say("order", "fault", i+1, 0, "plate.last-moment", "what", ls[i].comp.Name, "other", ls[k].comp.Name)
				break
			}
		}
	}
}

// contrasts names what a plate wants and does not have.
func (p *Plate) contrasts(ls []laid) {
	has := map[string]bool{}
	for i := range ls {
		for _, t := range ls[i].element.Textures {
			has[string(t)] = true
		}
		for _, t := range ls[i].element.Tastes {
			has[string(t)] = true
		}
	}
	want := []struct {
		any  []string
		said message.Message
	}{
		{[]string{"crisp", "crumbly"}, message.Of("plate.nothing-crisp")},
		{[]string{"soft", "creamy", "tender"}, message.Of("plate.nothing-soft")},
		{[]string{"sour"}, message.Of("plate.nothing-sharp")},
		{[]string{"rich", "savoury", "sweet"}, message.Of("plate.nothing-rich")},
	}
	missing := false
	for _, w := range want {
		if !slices.ContainsFunc(w.any, func(s string) bool { return has[s] }) {
			missing = true
			p.Findings = append(p.Findings, Finding{"contrast", "mind", 0, 0, w.said})
		}
	}
	if !missing {
		p.say("contrast", "good", 0, 0, "plate.contrasts")
	}
}

// temperatures finds frozen things beside or on hot ones.
func (p *Plate) temperatures(ls []laid) {
	for i := range ls {
		if ls[i].element.Temp != "frozen" {
			continue
		}
		for k := range ls {
			if ls[k].element.Temp != "hot" {
				continue
			}
			if d := gapBetween(&ls[i], &ls[k]); d < nearMm || rests(ls, i, k) {
				p.say("temperature", "fault", i+1, d, "plate.frozen-by-hot", "what", ls[i].comp.Name, "mm", math.Round(d), "other", ls[k].comp.Name)
			}
		}
	}
}

// gapBetween is the distance of two elements' outlines, 0 when they touch.
func gapBetween(a, b *laid) float64 {
	d := math.Inf(1)
	for i := range a.pieces {
		for k := range b.pieces {
			p, q := &a.pieces[i], &b.pieces[k]
			if p.box.gap(q.box) >= d {
				continue
			}
			for _, x := range p.Outline {
				if q.holds(x) {
					return 0
				}
				for _, y := range q.Outline {
					d = math.Min(d, x.distance(y))
				}
			}
		}
	}
	return d
}

func wet(e *kitchen.Element) bool { return slices.Contains(e.Textures, "liquid") }

// wetUnderCrisp finds crisp things that lie on wet ones: the plate may not stand long.
func (p *Plate) wetUnderCrisp(spec *kitchen.Specification, ls []laid) {
	for i := range ls {
		if !slices.Contains(ls[i].element.Textures, "crisp") || ls[i].element.On == 0 {
			continue
		}
		under := &ls[ls[i].element.On-1]
		if !wet(under.element) {
			continue
		}
		what, wet, stand := ls[i].comp.Name, under.comp.Name, spec.StandLimitS
		if stand == 0 || stand > crispOnWetS {
			p.say("crisp", "mind", i+1, float64(stand), "plate.crisp-stands", "what", what, "other", wet, "most", message.Length(crispOnWetS))
		} else {
			p.say("crisp", "good", i+1, float64(stand), "plate.crisp", "what", what, "other", wet, "limit", message.Length(stand))
		}
	}
}
