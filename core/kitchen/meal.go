package kitchen

import "slices"

// One meal from zero: a dinner for six, or a timed competition. Everything is made from raw, by who is there, with a clock that
// counts from 0, and every course has its deadline.

// Meal is one meal as one problem.
type Meal struct {
	ID   string `json:"id"`
	Name string `json:"name" maxLength:"120"`
	// StartsAt is when its clock begins, minutes after midnight; 0 when only the clock from zero counts.
	StartsAt int          `json:"starts_at,omitempty" doc:"When zero is, minutes after midnight; missing when only the clock from zero counts"`
	Courses  []MealCourse `json:"courses" nullable:"false"`
	// People are who is there, everybody when empty; Without is equipment that is not.
	People       []string     `json:"people" nullable:"false" doc:"Who is there; everybody when empty"`
	Without      []string     `json:"without" nullable:"false" doc:"Equipment that is not there"`
	PlatingHands int          `json:"plating_hands,omitempty" doc:"People who plate a course; one when missing"`
	Compulsory   []Compulsory `json:"compulsory" nullable:"false" doc:"What the meal must have"`
}

// MealCourse is a course with its deadline.
type MealCourse struct {
	Name   string       `json:"name" maxLength:"60"`
	DueMin int          `json:"due_min" doc:"Minutes from zero at which it is served"`
	Orders []TableOrder `json:"orders" nullable:"false"`
}

// Compulsory is something that the meal must have, and the component by which it has it.
type Compulsory struct {
	Say       string `json:"say" maxLength:"120"`
	Component string `json:"component,omitempty" doc:"The component that it is; nobody said which when missing"`
}

// Bounds of a meal: what one table eats, and a day's work.
const (
	mostCourses    = 12
	mostMealMin    = 24 * 60
	mostCompulsory = 30
)

// CheckMeal returns what is wrong with one meal by itself.
func CheckMeal(m Meal) Faults {
	f := newFinder()
	f.at("id").id(m.ID)
	f.at("name").name(m.Name)
	within(f.at("starts_at"), m.StartsAt, 0, 24*60)
	within(f.at("plating_hands"), m.PlatingHands, 0, 8)
	if n := len(m.Courses); n < 1 || n > mostCourses {
		f.at("courses").say("fault.range", "low", 1, "high", mostCourses, "got", n)
	}
	if n := len(m.Compulsory); n > mostCompulsory {
		f.at("compulsory").say("fault.range", "low", 0, "high", mostCompulsory, "got", n)
	}
	before := 0
	for i, c := range m.Courses {
		g := f.at("courses[%d]", i)
		g.at("name").name(c.Name)
		within(g.at("due_min"), c.DueMin, before+1, mostMealMin)
		before = max(before, c.DueMin)
		if len(c.Orders) == 0 {
			g.at("orders").say("fault.one-dish")
		}
		plates := 0
		for k, o := range c.Orders {
			within(g.at("orders[%d].count", k), o.Count, 1, MostAtATable)
			checkAllergens(g.at("orders[%d].without", k), o.Without)
			checkDiets(g.at("orders[%d].diets", k), o.Diets)
			plates += o.Count
		}
		if plates > MostAtATable {
			g.at("orders").say("fault.table-plates", "most", MostAtATable, "got", plates)
		}
	}
	for i, c := range m.Compulsory {
		f.at("compulsory[%d].say", i).name(c.Say)
	}
	return *f.faults
}

func (m *Meal) refers(to refer) {
	for i, c := range m.Courses {
		for k, o := range c.Orders {
			to(DishRecord, o.Dish, "courses[%d].orders[%d].dish", i, k)
		}
	}
	for i, p := range m.People {
		to(PersonRecord, p, "people[%d]", i)
	}
	for i, e := range m.Without {
		to(EquipmentRecord, e, "without[%d]", i)
	}
	for i, c := range m.Compulsory {
		if c.Component != "" {
			to(ComponentRecord, c.Component, "compulsory[%d].component", i)
		}
	}
}

// mealsThere reports variants that a meal's dishes do not have.
func (b *Book) mealsThere(f finder) {
	for i := range b.data.Meals {
		for k, c := range b.data.Meals[i].Courses {
			for n, o := range c.Orders {
				if d := b.dishes[o.Dish]; d != nil {
					if _, err := d.Plate(o.Variant); err != nil {
						f.at("meals[%d].courses[%d].orders[%d].variant", i, k, n).tell(err)
					}
				}
			}
		}
	}
}

// Meals returns the meals in their order.
func (b *Book) Meals() []Meal { return b.data.Meals }

// Meal looks a meal up.
func (b *Book) Meal(id string) (*Meal, bool) {
	i := slices.IndexFunc(b.data.Meals, func(m Meal) bool { return m.ID == id })
	if i < 0 {
		return nil, false
	}
	return &b.data.Meals[i], true
}

// NewMeal is a meal of four guests, of the first dish on the menu of each course, an hour and a half from zero and then every
// twenty minutes.
func (b *Book) NewMeal(name string) Meal {
	m := Meal{Name: name, Courses: []MealCourse{}, People: []string{}, Without: []string{}, Compulsory: []Compulsory{}, PlatingHands: 1}
	for _, c := range Courses() {
		for _, d := range b.Dishes() {
			if d.Course == c && d.State == CurrentDish && len(d.Specification.Elements) > 0 {
				m.Courses = append(m.Courses, MealCourse{Name: string(c), DueMin: 90 + 20*len(m.Courses), Orders: []TableOrder{{Dish: d.ID,
					Count: 4}}})
				break
			}
		}
	}
	return m
}

// FromZero is the book of a meal: only who is there, at any hour and for anything, only the equipment that is there, and
// everything done for the meal itself, from raw. The error is Faults: something that the dishes need is not there.
func (b *Book) FromZero(m *Meal) (*Book, error) {
	d := b.Data()
	d.Services, d.Stock, d.Meals = nil, nil, nil
	var sections []string
	for _, s := range d.Sections {
		sections = append(sections, s.ID)
	}
	var hours []Hours
	for day := range 7 {
		hours = append(hours, Hours{Day: day, From: 0, To: 24 * 60})
	}
	d.People = slices.DeleteFunc(d.People, func(p Person) bool { return len(m.People) > 0 && !slices.Contains(m.People, p.ID) })
	for i := range d.People {
		d.People[i].Sections, d.People[i].Hours, d.People[i].Absent = sections, hours, nil
	}
	d.Equipment = slices.DeleteFunc(d.Equipment, func(e Equipment) bool { return slices.Contains(m.Without, e.ID) })
	// Only what is eaten must fit the kitchen as it is then.
	eaten := map[string]bool{}
	var into func(id string)
	into = func(id string) {
		c := b.components[id]
		if c == nil || eaten[id] {
			return
		}
		eaten[id] = true
		for _, u := range c.Uses {
			into(u.Component)
		}
		for _, u := range c.ByProducts {
			into(u.Component)
		}
		for i := range c.Steps {
			for _, a := range c.Steps[i].Beside {
				into(a.Component)
			}
		}
	}
	dishes := map[string]bool{}
	for _, c := range m.Courses {
		for _, o := range c.Orders {
			dishes[o.Dish] = true
		}
	}
	d.Dishes = slices.DeleteFunc(d.Dishes, func(x Dish) bool { return !dishes[x.ID] })
	for i := range d.Dishes {
		x := &d.Dishes[i]
		x.Draft = nil
		for _, e := range x.Specification.Elements {
			into(e.Component)
		}
		for _, v := range x.Specification.Variants {
			for _, ch := range v.Changes {
				if ch.With != nil {
					into(ch.With.Component)
				}
			}
		}
	}
	d.Components = slices.DeleteFunc(d.Components, func(c Component) bool { return !eaten[c.ID] })
	for i := range d.Components {
		d.Components[i] = d.Components[i].fromZero(d.People)
	}
	return NewBook(d)
}

// fromZero is a component all of whose steps are done for one meal. Waits between what is otherwise made ahead have the limits
// that they have then; it keeps for its plate as long as it keeps.
func (c *Component) fromZero(people []Person) Component {
	out := c.Clone()
	ahead := map[string]bool{}
	for _, s := range c.Steps {
		ahead[s.ID] = s.Phase == Ahead
	}
	for i := range out.Steps {
		s := &out.Steps[i]
		for k := range s.After {
			if a := &s.After[k]; ahead[a.Step] {
				w := c.PlannedAhead(&c.Steps[i], *a).Wait
				w.NoLimit = w.Longest == nil
				a.Wait = w
			}
		}
		s.Phase = PickUp
		// Who was named and is not there is not asked.
		s.People = slices.DeleteFunc(slices.Clone(s.People), func(id string) bool {
			return !slices.ContainsFunc(people, func(p Person) bool { return p.ID == id })
		})
		if len(s.People) == 0 && s.May == MayNamed {
			s.May = MayUnsaid
		}
	}
	if len(c.InPhase(PickUp)) == 0 && out.Hold.unlimited() {
		if c.ShelfLifeH > 0 {
			l := max(out.Hold.Shortest, int(c.ShelfLifeH*3600))
			if out.Hold.Best != nil {
				l = max(l, *out.Hold.Best)
			}
			out.Hold.Longest = &l
			best := l
			out.Hold.Best = &best // it keeps: waiting costs it nothing
		} else {
			out.Hold.NoLimit = true
		}
	}
	return out
}
