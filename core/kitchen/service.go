package kitchen

import "time"

// Service is one meal that the kitchen sends: an evening of tables, or a banquet.
type Service struct {
	ID   string      `json:"id"`
	Name string      `json:"name" maxLength:"120"`
	Date string      `json:"date" doc:"Day of the service, YYYY-MM-DD, by the kitchen's clock"`
	Kind ServiceKind `json:"kind" enum:"a-la-carte,banquet"`
	// Menu says what is served and how many of the covers take it.
	Menu   []MenuLine     `json:"menu" nullable:"false"`
	Tables []ServiceTable `json:"tables" nullable:"false"`
	Pacing Pacing         `json:"pacing" enum:"timed,called"`
	// FirstAfterMin is from seating to the first course, CourseMin from one course's join
	// to the next.
	FirstAfterMin int `json:"first_after_min" doc:"Minutes from seating to the first course"`
	CourseMin     int `json:"course_min" doc:"Minutes from one course to the next"`
	// ReservePercent is made on top of what is expected.
	ReservePercent float64 `json:"reserve_percent"`
	// Margin trades holding time for certainty: 0 fires to the minute, 100 is safe.
	Margin int `json:"margin" doc:"0 to the minute … 100 safe"`
	// School decides between what is late and what is held too long.
	School School `json:"school,omitempty" enum:"rather-late,in-time" doc:"Rather late than held too long, when missing"`
	// Shared lists batches that several tables have together.
	Shared []SharedBatch `json:"shared,omitempty" nullable:"false"`
	// PlatingHands is how many people plate a table; 0 for the kitchen's usual number.
	PlatingHands int `json:"plating_hands,omitempty" doc:"People at the pass for one table, 0 for the kitchen's usual number"`
	// Ways are how some steps are done otherwise in this service than as written.
	Ways []Way `json:"ways,omitempty" nullable:"false" doc:"Steps that are done otherwise in this service"`
	// Helpers work at another section too, for this service.
	Helpers []Helper `json:"helpers,omitempty" nullable:"false"`
}

// SharedBatch says that some tables' portions of a component are cooked together, for one
// course.
type SharedBatch struct {
	ID        string   `json:"id,omitempty" maxLength:"80" doc:"Of the batch; its runs keep their names by it"`
	Component string   `json:"component"`
	Course    Course   `json:"course" enum:"first,second,main,dessert"`
	Tables    []string `json:"tables" nullable:"false" doc:"Ids of the tables, two or more"`
}

// Helper is a person who lends a hand at a section that is not their own.
type Helper struct {
	Person  string `json:"person"`
	Section string `json:"section"`
	// From and To bound it by the clock; nothing is from the start, and to the end.
	From int `json:"from,omitempty" doc:"Minutes after midnight; from the start when missing"`
	To   int `json:"to,omitempty" doc:"Minutes after midnight; to the end when missing"`
}

// ServiceKind is how a service runs.
type ServiceKind string

// The kinds of service.
const (
	ALaCarte ServiceKind = "a-la-carte"
	Banquet  ServiceKind = "banquet"
)

// Pacing says who decides when a table's next course comes: the clock, or the pass.
type Pacing string

// The pacings.
const (
	Timed  Pacing = "timed"
	Called Pacing = "called"
)

// School says what a service would rather do when it cannot do both: send late, or send what was held.
type School string

// The schools; a service that says none sends late rather than held.
const (
	RatherLate School = "rather-late"
	InTime     School = "in-time"
)

// Taught is the school of a service.
func (s *Service) Taught() School {
	if s.School == "" {
		return RatherLate
	}
	return s.School
}

// MenuLine is a dish on a service's menu.
type MenuLine struct {
	Dish  string  `json:"dish"`
	Share float64 `json:"share_percent" doc:"How many of the covers are expected to take it, percent"`
}

// ServiceTable is a table, or a group of a banquet.
type ServiceTable struct {
	ID       string `json:"id"`
	Name     string `json:"name" maxLength:"60"`
	Covers   int    `json:"covers"`
	SeatedAt int    `json:"seated_at" doc:"Minutes after midnight"`
	// Booked is how many were booked, where it is another number now; 0 where it is not. What the menu's shares let expect goes by that.
	Booked int `json:"booked,omitempty" doc:"Guests that were booked, where others came"`
	// TablesOf is how many guests sit at each table of a group at a banquet; 0 when the group is one table.
	TablesOf int `json:"tables_of,omitempty" doc:"Guests at each table of a group at a banquet; its rounds keep them together"`
	// SecondWaveMin is how many minutes after the first half of its rounds the second goes out; 0 when they follow each other.
	SecondWaveMin int `json:"second_wave_min,omitempty" doc:"Minutes between the two waves in which the rounds of a group go out; 0 for one"`
	// Needs of its guests; the others eat as written.
	Needs []GuestNeed `json:"needs" nullable:"false"`
	// Orders, when they are known; until then the shares of the menu stand in.
	Orders []TableOrder `json:"orders" nullable:"false"`
}

// GuestNeed is what some guests of a table do not eat, or how they want something done.
type GuestNeed struct {
	Guests   int        `json:"guests"`
	Without  []Allergen `json:"without,omitempty" nullable:"false"`
	Diets    []Diet     `json:"diets,omitempty" nullable:"false"`
	Doneness string     `json:"doneness,omitempty" maxLength:"60"`
}

// TableOrder is a number of plates of a dish that a table has ordered.
type TableOrder struct {
	Dish     string `json:"dish"`
	Count    int    `json:"count"`
	Variant  string `json:"variant,omitempty" maxLength:"60"`
	Doneness string `json:"doneness,omitempty" maxLength:"60"`
	// Without names what the guests must not have: their plates are cooked apart.
	Without []Allergen `json:"without,omitempty" nullable:"false"`
	// Diets are what they live by; their plates are cooked apart where it is usual.
	Diets []Diet `json:"diets,omitempty" nullable:"false"`
}

// Stock is a make-ahead product that is on hand.
type Stock struct {
	ID        string    `json:"id"`
	Component string    `json:"component"`
	Amount    float64   `json:"amount" doc:"In the component's unit"`
	UseBy     time.Time `json:"use_by"`
	Note      string    `json:"note,omitempty" maxLength:"120"`
}

// Bounds of one service: what one kitchen plans in an evening, with room to spare. More is a
// slip of the pen, and would keep the planner busy for nothing.
const (
	// MaxTables is the most tables or groups of a service.
	MaxTables = 120
	// MostAtATable is the most guests at one table of a group: plates that go in one round.
	MostAtATable = 60
	// LastMinute is the last of a service's day, after its midnight, at which a table may be seated: four in the morning.
	LastMinute = 28 * 60
	// MaxCovers is the most guests of a service.
	MaxCovers = 1000
)

// Covers is how many guests a service has.
func (s *Service) Covers() int {
	n := 0
	for _, t := range s.Tables {
		n += t.Covers
	}
	return n
}

// CoursesOf lists the courses that a service's menu has, in the order of the meal.
func (b *Book) CoursesOf(s *Service) []Course {
	var out []Course
	for _, c := range Courses() {
		for _, m := range s.Menu {
			if d := b.dishes[m.Dish]; d != nil && d.Course == c {
				out = append(out, c)
				break
			}
		}
	}
	return out
}

// CheckService returns what is wrong with one service by itself.
func CheckService(s Service) Faults {
	f := newFinder()
	f.at("id").id(s.ID)
	f.at("name").name(s.Name)
	if _, err := time.Parse(time.DateOnly, s.Date); err != nil {
		f.at("date").say("fault.date", "got", short(s.Date))
	}
	oneOf(f.at("kind"), s.Kind, []ServiceKind{ALaCarte, Banquet})
	oneOf(f.at("pacing"), s.Pacing, []Pacing{Timed, Called})
	if s.School != "" {
		oneOf(f.at("school"), s.School, []School{RatherLate, InTime})
	}
	within(f.at("first_after_min"), s.FirstAfterMin, 0, 240)
	within(f.at("course_min"), s.CourseMin, 1, 240)
	checkWays(f, s.Ways)
	for i, h := range s.Helpers {
		g := f.at("helpers[%d]", i)
		within(g.at("from"), h.From, 0, 48*60)
		within(g.at("to"), h.To, 0, 48*60)
		if h.To > 0 && h.To <= h.From {
			g.at("to").say("fault.helper-hours")
		}
	}
	within(f.at("reserve_percent"), s.ReservePercent, 0, 200)
	within(f.at("margin"), s.Margin, 0, 100)
	within(f.at("plating_hands"), s.PlatingHands, 0, 8)
	if len(s.Tables) > MaxTables {
		f.at("tables").say("fault.tables", "most", MaxTables, "got", len(s.Tables))
	}
	if n := s.Covers(); n > MaxCovers {
		f.at("tables").say("fault.covers", "most", MaxCovers, "got", n)
	}
	seen := map[string]bool{}
	for i, m := range s.Menu {
		within(f.at("menu[%d].share_percent", i), m.Share, 0, 100)
		if seen[m.Dish] {
			f.at("menu[%d].dish", i).say("fault.menu-twice")
		}
		seen[m.Dish] = true
	}
	ids := map[string]bool{}
	for i, t := range s.Tables {
		g := f.at("tables[%d]", i)
		g.at("id").id(t.ID)
		if ids[t.ID] {
			g.at("id").say("fault.other-table", "id", short(t.ID))
		}
		ids[t.ID] = true
		g.at("name").name(t.Name)
		within(g.at("covers"), t.Covers, 1, MaxCovers)
		within(g.at("booked"), t.Booked, 0, MaxCovers)
		within(g.at("tables_of"), t.TablesOf, 0, MostAtATable)
		within(g.at("second_wave_min"), t.SecondWaveMin, 0, 120)
		within(g.at("seated_at"), t.SeatedAt, 0, LastMinute)
		guests, plates := 0, 0
		for k, n := range t.Needs {
			h := g.at("needs[%d]", k)
			within(h.at("guests"), n.Guests, 1, MaxCovers)
			checkAllergens(h.at("without"), n.Without)
			checkDiets(h.at("diets"), n.Diets)
			guests += n.Guests
		}
		if guests > t.Covers {
			g.at("needs").say("fault.needs", "guests", guests, "covers", t.Covers)
		}
		for k, o := range t.Orders {
			within(g.at("orders[%d].count", k), o.Count, 1, MaxCovers)
			checkAllergens(g.at("orders[%d].without", k), o.Without)
			checkDiets(g.at("orders[%d].diets", k), o.Diets)
			plates += o.Count
		}
		// A guest has a plate of each course, and a table may share some more.
		if most := (len(Courses()) + 2) * t.Covers; plates > most {
			g.at("orders").say("fault.plates", "plates", plates, "covers", t.Covers, "most", most)
		}
	}
	shares := map[string]bool{}
	for i, x := range s.Shared {
		g := f.at("shared[%d]", i)
		if x.ID != "" {
			g.at("id").id(x.ID)
			if shares[x.ID] {
				g.at("id").say("fault.other-batch", "id", short(x.ID))
			}
			shares[x.ID] = true
		}
		oneOf(g.at("course"), x.Course, Courses())
		if len(x.Tables) < 2 {
			g.at("tables").say("fault.two-tables")
		}
		for k, t := range x.Tables {
			if !ids[t] {
				g.at("tables[%d]", k).say("fault.no-record", "kind", "table", "id", short(t))
			}
		}
	}
	return *f.faults
}

// ordersThere checks what a service says of its dishes: that no course is taken by more than everybody, and
// that what is ordered has its variant.
func (b *Book) ordersThere(f finder, s *Service) {
	sum := map[Course]float64{}
	for i, m := range s.Menu {
		d := b.dishes[m.Dish]
		if d == nil {
			continue
		}
		if sum[d.Course] += m.Share; sum[d.Course] > 100.0001 {
			f.at("menu[%d].share_percent", i).say("fault.shares", "course", d.Course, "sum", sum[d.Course])
		}
	}
	for i, t := range s.Tables {
		for k, o := range t.Orders {
			if d := b.dishes[o.Dish]; d != nil && o.Variant != "" {
				if _, err := d.Plate(o.Variant); err != nil {
					f.at("tables[%d].orders[%d].variant", i, k).tell(err)
				}
			}
		}
	}
}

// CheckStock returns what is wrong with one product on hand.
func CheckStock(s Stock) Faults {
	f := newFinder()
	f.at("id").id(s.ID)
	within(f.at("amount"), s.Amount, 0.0001, 1e6)
	if s.UseBy.IsZero() {
		f.at("use_by").say("fault.use-by")
	}
	return *f.faults
}

// Away reports whether a person is away on a day.
func (p *Person) Away(day time.Time) bool {
	for _, a := range p.Absent {
		if a == day.Format(time.DateOnly) {
			return true
		}
	}
	return false
}

func checkAbsent(f finder, days []string) {
	for i, d := range days {
		if _, err := time.Parse(time.DateOnly, d); err != nil {
			f.at("[%d]", i).say("fault.date", "got", short(d))
		}
	}
}
