package kitchen

import (
	"fmt"
	"slices"
	"time"

	"jointime/core/message"
)

// What a new record is until somebody says more. The figures are common practice, no source.

// NewService is an evening on the day of now with everything that is on the menu, its shares spread evenly over
// the dishes of each course, and one table.
func (b *Book) NewService(name string, now time.Time) Service {
	k := b.Kitchen()
	s := Service{Name: name, Date: k.Date(now), Kind: ALaCarte, Pacing: Timed, FirstAfterMin: 20, CourseMin: 25, ReservePercent: 5,
		Margin: 30, Menu: []MenuLine{}}
	of := map[Course]int{}
	for _, d := range b.Dishes() {
		if d.State == CurrentDish {
			of[d.Course]++
		}
	}
	for _, d := range b.Dishes() {
		if d.State == CurrentDish {
			s.Menu = append(s.Menu, MenuLine{Dish: d.ID, Share: float64(100 / of[d.Course])})
		}
	}
	s.AddTable()
	return s
}

// copiedTo is how many days later a copy of a service is.
const copiedTo = 7

// Copy is the service once more, a week later.
func (s *Service) Copy(name string) Service {
	out := *s
	out.ID, out.Name = "", name
	if day, err := time.Parse(time.DateOnly, s.Date); err == nil {
		out.Date = day.AddDate(0, 0, copiedTo).Format(time.DateOnly)
	}
	return out
}

// AddTable adds a table of two, seated when the last one is; the first at half past six.
func (s *Service) AddTable() {
	seated := 18*60 + 30
	if n := len(s.Tables); n > 0 {
		seated = s.Tables[n-1].SeatedAt
	}
	number := len(s.Tables) + 1
	for slices.ContainsFunc(s.Tables, func(t ServiceTable) bool { return t.ID == fmt.Sprintf("table-%d", number) }) {
		number++
	}
	s.Tables = append(slices.Clone(s.Tables), ServiceTable{ID: fmt.Sprintf("table-%d", number), Name: fmt.Sprintf("Table %d", number),
		Covers:   2,
		SeatedAt: seated, Needs: []GuestNeed{}, Orders: []TableOrder{}})
}

// DropTable takes a table out, and out of the batches that it has with others; a batch of one table alone is none.
// The error says that there is no such table.
func (s *Service) DropTable(id string) error {
	i := slices.IndexFunc(s.Tables, func(t ServiceTable) bool { return t.ID == id })
	if i < 0 {
		return message.Fail("fault.no-record", "kind", "table", "id", short(id))
	}
	s.Tables = slices.Delete(slices.Clone(s.Tables), i, i+1)
	var shared []SharedBatch
	for _, x := range s.Shared {
		x.Tables = slices.DeleteFunc(slices.Clone(x.Tables), func(t string) bool { return t == id })
		if len(x.Tables) > 1 {
			shared = append(shared, x)
		}
	}
	s.Shared = shared
	return nil
}

// NewElement is a component as it is first put on a plate: a heap in its middle.
func NewElement(c *Component) Element {
	amount := 20.0
	if c.Unit == Pieces || c.Unit == Spoons {
		amount = 1
	}
	return Element{Component: c.ID, Amount: amount, Form: Form{Kind: "heap"}, Temp: "ambient", Textures: []Texture{}, Tastes: []Taste{},
		Seconds: 6, Hands: 1}
}

// NewSection has a hue and a pattern that no other section has, while there are any.
func (b *Book) NewSection(name string) Section {
	s := Section{Name: name, Hue: hues[0], Pattern: patterns[0]}
	for _, h := range slices.Backward(hues) {
		if !slices.ContainsFunc(b.Sections(), func(x Section) bool { return x.Hue == h }) {
			s.Hue = h
		}
	}
	for _, p := range slices.Backward(patterns) {
		if !slices.ContainsFunc(b.Sections(), func(x Section) bool { return x.Pattern == p }) {
			s.Pattern = p
		}
	}
	return s
}

// NewPerson works in the first section, every day from ten in the morning to eleven at night.
func (b *Book) NewPerson(name string) Person {
	p := Person{Name: name, Sections: []string{}, Eyes: usualEyes}
	if len(b.Sections()) > 0 {
		p.Sections = append(p.Sections, b.Sections()[0].ID)
	}
	for day := range 7 {
		p.Hours = append(p.Hours, Hours{Day: day, From: 10 * 60, To: 23 * 60})
	}
	return p
}

// NewEquipment is a burner.
func (b *Book) NewEquipment(name string) Equipment {
	return Equipment{Name: name, Kind: Burner, Capacity: 1, Unit: "burner"}
}

// NewVessel is a round plate.
func (b *Book) NewVessel(name string) Vessel {
	return Vessel{Name: name, Kind: "round", WidthMm: 270, RimMm: 30, HeightMm: 18}
}

// NewThermostat is an oven's.
func NewThermostat() Thermostat {
	return Thermostat{LowC: 50, HighC: 250, StandbyC: 180, HeatCPerMin: 12, CoolCPerMin: 4, ToleranceC: 5}
}
