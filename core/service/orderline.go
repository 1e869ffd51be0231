package service

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// An order as it is typed or pressed in one line: "7: 2 hake, 1 fowl, 1 no milk". A number begins some plates; a need or a wish without a
// dish is that of so many guests of the dish before it. What cannot be read is said, and nothing is guessed in its place.

// OrderRead is an order as it was understood.
type OrderRead struct {
	Table   string            `json:"table" doc:"Its id; empty where the line names none"`
	Name    string            `json:"name"`
	New     bool              `json:"new" doc:"No table of that name was booked or seated: it is a walk-in"`
	Covers  int               `json:"covers" doc:"How many they are, as far as is known; 0 where it is not"`
	Courses []OrderedCourse   `json:"courses" nullable:"false" doc:"In the order of a meal"`
	Wrong   []message.Message `json:"wrong" nullable:"false" doc:"What could not be read"`
}

// OrderedCourse is what was ordered of one course.
type OrderedCourse struct {
	Course kitchen.Course `json:"course" enum:"first,second,main,dessert"`
	Count  int            `json:"count" doc:"Plates"`
	// Cooking says that something of the course was fired: only the pass orders it otherwise now.
	Cooking bool        `json:"cooking,omitempty" doc:"Something of it was fired: only the pass orders it otherwise now"`
	Plates  []PlateRead `json:"plates" nullable:"false"`
}

// PlateRead is so many plates of a dish as they were understood.
type PlateRead struct {
	PlateOrder
	Said  string            `json:"said" doc:"In words, without the number"`
	State string            `json:"state" enum:"suits,not-known,contains,not-defined,nothing-suits" doc:"For its guest"`
	Told  []message.Message `json:"told" nullable:"false" doc:"What speaks against it, or is not known"`
}

// reading is an order that is being read.
type reading struct {
	b      *kitchen.Book
	s      *kitchen.Service
	state  *State
	dishes []*kitchen.Dish
	wishes []string
	out    *OrderRead
	plates []PlateOrder
	added  map[kitchen.Course]bool // courses to whose plates these are added
}

// ReadOrder reads an order. svc is the service as it is served (AsSaid). table is whose it is where the line does not begin with that, ""
// for none.
func ReadOrder(b *kitchen.Book, svc *kitchen.Service, s *State, table, line string) *OrderRead {
	r := &reading{b: b, s: svc, state: s, added: map[kitchen.Course]bool{},
		out: &OrderRead{Table: table, Courses: []OrderedCourse{}, Wrong: []message.Message{}}}
	for _, m := range svc.Menu {
		if d, ok := b.Dish(m.Dish); ok {
			r.dishes = append(r.dishes, d)
		}
	}
	r.wishes = wishesOf(b, r.dishes)
	said, rest, named := strings.Cut(line, ":")
	if !named {
		said, rest = table, line
	}
	r.whose(strings.TrimSpace(said))
	for _, g := range groupsOf(rest) {
		r.group(&g)
	}
	r.finish()
	return r.out
}

// wishesOf are the wishes that something on a menu knows, the longest first.
func wishesOf(b *kitchen.Book, dishes []*kitchen.Dish) (out []string) {
	for _, d := range dishes {
		for _, e := range d.Specification.Elements {
			c, ok := b.Component(e.Component)
			if !ok {
				continue
			}
			for _, s := range c.Steps {
				for _, x := range s.Doneness {
					if w := strings.ToLower(x.Name); !slices.Contains(out, w) {
						out = append(out, w)
					}
				}
			}
		}
	}
	slices.SortStableFunc(out, func(a, b string) int { return len(strings.Fields(b)) - len(strings.Fields(a)) })
	return out
}

// whose finds the table that an order names: "7", "table 7", "bar".
func (r *reading) whose(said string) {
	bare := func(s string) string { return strings.TrimPrefix(strings.ToLower(strings.TrimSpace(s)), "table ") }
	if said == "" {
		return
	}
	for i := range r.s.Tables {
		if t := &r.s.Tables[i]; t.ID == said || bare(t.Name) == bare(said) {
			r.out.Table, r.out.Name, r.out.Covers = t.ID, t.Name, t.Covers
			return
		}
	}
	for i := range r.state.Tables {
		if t := &r.state.Tables[i]; t.ID == said || bare(t.Name) == bare(said) {
			r.out.Table, r.out.Name, r.out.Covers = t.ID, t.Name, t.Covers
			return
		}
	}
	slug := strings.Trim(notOfID.ReplaceAllString(bare(said), "-"), "-")
	if slug == "" {
		r.out.Wrong = append(r.out.Wrong, message.Of("order.no-table", "table", said))
		return
	}
	r.out.Table, r.out.Name, r.out.New = "walk-in-"+slug[:min(len(slug), 60)], said, true
	if _, err := strconv.Atoi(said); err == nil {
		r.out.Name = message.Of("order.table", "number", said).Text
	}
}

var notOfID = regexp.MustCompile(`[^a-z0-9]+`)

// group is a number and the words behind it.
type group struct {
	count int
	said  bool // the number was said
	more  bool // it comes on top of what was ordered: +1
	words []string
}

var (
	numbered = regexp.MustCompile(`^(\+?)(\d{1,3})[x×]?$`)
	between  = regexp.MustCompile(`[\s,;.]+`)
)

func groupsOf(text string) (out []group) {
	for _, w := range between.Split(strings.ToLower(text), -1) {
		if w == "" || w == "and" || w == "x" || w == "×" {
			continue
		}
		if m := numbered.FindStringSubmatch(w); m != nil {
			n, _ := strconv.Atoi(m[2]) // three digits
			out = append(out, group{count: n, said: true, more: m[1] != ""})
			continue
		}
		if len(out) == 0 {
			out = append(out, group{count: 1})
		}
		g := &out[len(out)-1]
		g.words = append(g.words, strings.TrimLeft(w, "+"))
	}
	return out
}

// group reads a group: the dish, and what its guests must not have or wish.
func (r *reading) group(g *group) {
	var p PlateOrder
	var dish []string
	for i := 0; i < len(g.words); {
		if n := r.need(g.words[i:], &p); n > 0 {
			i += n
			continue
		}
		dish = append(dish, g.words[i])
		i++
	}
	p.Count = g.count
	if g.count == 0 || len(g.words) == 0 {
		r.wrong(g.words, g.count)
		return
	}
	if len(dish) == 0 {
		r.needOfBefore(g, p)
		return
	}
	d, variant := r.dish(dish)
	if d == nil {
		return
	}
	p.Dish, p.Variant = d.ID, variant
	r.added[d.Course] = r.added[d.Course] || g.more
	r.plates = append(r.plates, p)
}

func (r *reading) wrong(words []string, count int) {
	said := strings.TrimSpace(strconv.Itoa(count) + " " + strings.Join(words, " "))
	r.out.Wrong = append(r.out.Wrong, message.Of("order.not-read", "said", said))
}

// need reads a need or a wish at the beginning of some words, and returns how many of them it is; 0 for none.
func (r *reading) need(words []string, p *PlateOrder) int {
	for _, w := range r.wishes {
		if n := len(strings.Fields(w)); n <= len(words) && strings.Join(words[:n], " ") == w {
			if p.Doneness != "" {
				w = p.Doneness + ", " + w
			}
			p.Doneness = w
			return n
		}
	}
	for _, d := range kitchen.Diets() {
		if n := len(strings.Fields(string(d))); n <= len(words) && strings.Join(words[:n], " ") == string(d) {
			p.Diets = append(p.Diets, d)
			return n
		}
	}
	bare, free := strings.CutSuffix(words[0], "-free")
	if a, ok := allergenOf(bare); ok && (free || len(words) > 1 && words[1] == "free") {
		p.Without = append(p.Without, a)
		if free {
			return 1
		}
		return 2
	}
	if (words[0] == "no" || words[0] == "without") && len(words) > 1 {
		if a, ok := allergenOf(words[1]); ok {
			p.Without = append(p.Without, a)
			return 2
		}
		if d := kitchen.Diet("no " + words[1]); slices.Contains(kitchen.Diets(), d) {
			p.Diets = append(p.Diets, d)
			return 2
		}
	}
	return 0
}

// needOfBefore takes a need without a dish: of so many guests that have the dish before it. They are further guests where the table has as
// many; else they are among those.
func (r *reading) needOfBefore(g *group, need PlateOrder) {
	if len(r.plates) == 0 {
		r.wrong(g.words, g.count)
		return
	}
	last := r.plates[len(r.plates)-1].Dish
	course, total, at := r.courseOf(last), 0, -1
	for i := range r.plates {
		p := &r.plates[i]
		if r.courseOf(p.Dish) == course {
			total += p.Count
		}
		if p.Dish == last && (at < 0 || !plain(&r.plates[at]) || plain(p)) {
			at = i
		}
	}
	need.Dish = last
	if r.out.Covers > 0 && total+need.Count == r.out.Covers && g.said {
		r.plates = append(r.plates, need)
		return
	}
	of := &r.plates[at]
	if need.Count > of.Count {
		r.out.Wrong = append(r.out.Wrong, message.Of("order.too-many", "said", strings.Join(g.words, " "), "number", need.Count, "of", of.Count))
		return
	}
	count := need.Count
	need.Without, need.Diets = append(slices.Clone(of.Without), need.Without...), append(slices.Clone(of.Diets), need.Diets...)
	if need.Doneness == "" {
		need.Doneness = of.Doneness
	}
	need.Variant = of.Variant
	if of.Count -= count; of.Count == 0 {
		*of = need
		of.Count = count
		return
	}
	r.plates = append(r.plates, need)
}

func plain(p *PlateOrder) bool { return len(p.Without) == 0 && len(p.Diets) == 0 && p.Doneness == "" }

func (r *reading) courseOf(dish string) kitchen.Course {
	if d, ok := r.b.Dish(dish); ok {
		return d.Course
	}
	return ""
}

// finish puts the plates by course, finds what suits each guest, and says what speaks against it.
func (r *reading) finish() {
	for _, c := range r.b.CoursesOf(r.s) {
		x := OrderedCourse{Course: c, Plates: []PlateRead{}}
		plates := []PlateOrder{}
		if r.added[c] {
			if now := r.state.Course(TableCourse{Table: r.out.Table, Course: c}); now != nil {
				plates = slices.Clone(now.Plates)
			}
		}
		for _, p := range r.plates {
			if r.courseOf(p.Dish) == c {
				plates = append(plates, p)
			}
		}
		for _, p := range plates {
			k := slices.IndexFunc(x.Plates, func(o PlateRead) bool {
				return o.Dish == p.Dish && o.Doneness == p.Doneness && slices.Equal(o.Without, p.Without) && slices.Equal(o.Diets, p.Diets) &&
					(o.Variant == p.Variant || p.Variant == "")
			})
			if x.Count += p.Count; k >= 0 {
				x.Plates[k].Count += p.Count
				continue
			}
			x.Plates = append(x.Plates, r.plate(p))
		}
		x.Cooking = r.out.Table != "" && r.state.firedFor(TableCourse{Table: r.out.Table, Course: c}) != nil
		if len(x.Plates) > 0 {
			r.out.Courses = append(r.out.Courses, x)
		}
	}
}

// plate is an order of plates with the variant that suits its guests, in words, and with what speaks against it.
func (r *reading) plate(p PlateOrder) PlateRead {
	d, _ := r.b.Dish(p.Dish)
	needs := kitchen.Needs{Without: p.Without, Diets: p.Diets}
	out := PlateRead{PlateOrder: p, State: "suits", Told: []message.Message{}}
	if needs.Any() && p.Variant == "" {
		v, ok := r.b.VariantFor(d, needs)
		if out.Variant = v; !ok {
			out.State = "nothing-suits"
			out.Told = append(out.Told, message.Of("order.nothing-suits", "dish", Briefly(d.Name), "without", needs.Words()))
		}
	}
	es, err := d.Plate(out.Variant)
	if needs.Any() && err == nil && out.State == "suits" {
		g := r.b.PlateFor(d, es, &kitchen.TableOrder{Dish: p.Dish, Count: p.Count, Variant: out.Variant, Without: p.Without, Diets: p.Diets}, es)
		out.State = g.State
		out.Told = append(out.Told, g.Said...)
	}
	if err == nil && !r.b.KnowsWish(es, p.Doneness) {
		out.Told = append(out.Told, message.Of("order.no-wish", "dish", Briefly(d.Name), "wish", p.Doneness))
	}
	if off := r.state.OffOn(r.b, d, out.Variant); off != "" {
		out.Told = append(out.Told, message.Of("order.off", "what", off))
	}
	words := append([]string{Briefly(d.Name)}, needs.Words()...)
	if p.Doneness != "" {
		words = append(words, p.Doneness)
	}
	out.Said = strings.Join(words, ", ")
	return out
}

// OffOn is what is off of a dish, by name: itself, its variant, or something that lies on the plate; "" for nothing.
func (s *State) OffOn(b *kitchen.Book, d *kitchen.Dish, variant string) string {
	es, err := d.Plate(variant)
	if err != nil {
		es = d.Specification.Elements
	}
	for _, l := range s.Off {
		switch {
		case l.Left > 0 && s.left(b, &l) > 0:
		case l.Dish == d.ID && (l.Variant == "" || l.Variant == variant):
			return Briefly(d.Name)
		case l.Component != "" && lies(es, l.Component):
			if c, ok := b.Component(l.Component); ok {
				return Briefly(c.Name)
			}
			return l.Component
		}
	}
	return ""
}
