package kitchen_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// Whatever is new can be saved as it is.
func TestWhatIsNewIsSound(t *testing.T) {
	d := wholeKitchen(t)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	now := time.Date(2026, 5, 14, 12, 0, 0, 0, b.Zone())

	s := b.NewService("New", now)
	require.Equal(t, "2026-05-14", s.Date)
	sum := map[kitchen.Course]float64{}
	for _, m := range s.Menu {
		dish, ok := b.Dish(m.Dish)
		require.True(t, ok)
		require.Equal(t, kitchen.CurrentDish, dish.State)
		sum[dish.Course] += m.Share
	}
	for course, share := range sum {
		require.LessOrEqual(t, share, 100.0, course)
		require.Greater(t, share, 95.0, course)
	}
	s.ID = "new"
	d = b.Data()
	d.Services = append(d.Services, s)
	section, person, piece, vessel := b.NewSection("S"), b.NewPerson("P"), b.NewEquipment("E"), b.NewVessel("V")
	section.ID, person.ID, piece.ID, vessel.ID = "s", "p", "e", "v"
	require.Equal(t, 3, person.Watches())
	person.Eyes = 0
	require.Equal(t, 4, person.Watches(), "from before it could be said")
	hot := kitchen.NewThermostat()
	oven := kitchen.Equipment{ID: "o", Name: "O", Kind: kitchen.Oven, Capacity: 1, Unit: "shelf", Thermostat: &hot}
	d.Dishes[0].Specification.Variants = nil
	d.Sections, d.People, d.Equipment, d.Vessels = append(d.Sections, section), append(d.People, person), append(d.Equipment, piece, oven),
		append(d.Vessels, vessel)
	for i := range d.Components {
		d.Dishes[0].Specification.Elements = append(d.Dishes[0].Specification.Elements[:1:1], kitchen.NewElement(&d.Components[i]))
		_, err = kitchen.NewBook(d)
		require.NoError(t, err, d.Components[i].ID)
	}
}

func TestNewElementsCountPiecesAndSpoons(t *testing.T) {
	for unit, amount := range map[kitchen.Unit]float64{kitchen.Grams: 20, kitchen.Pieces: 1, kitchen.Spoons: 1} {
		require.Equal(t, amount, kitchen.NewElement(&kitchen.Component{Unit: unit}).Amount, unit) //nolint:testifylint // whole numbers
	}
}

func TestNewSectionsLookDifferent(t *testing.T) {
	d := wholeKitchen(t)
	seen := map[kitchen.Hue]bool{}
	for _, s := range d.Sections {
		seen[s.Hue] = true
	}
	for len(seen) < len(kitchen.EveryChoice().Hues) {
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		s := b.NewSection("x")
		require.False(t, seen[s.Hue], s.Hue)
		seen[s.Hue] = true
		s.ID = "x" + string(s.Hue)
		d.Sections = append(d.Sections, s)
	}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	require.NotEmpty(t, b.NewSection("x").Hue, "with all of them taken, one is used again")
}

func TestCopyIsAWeekLater(t *testing.T) {
	s := kitchen.Service{ID: "a", Name: "Friday", Date: "2026-02-27"}
	c := s.Copy("Friday again")
	require.Equal(t, kitchen.Service{Name: "Friday again", Date: "2026-03-06"}, c)
	require.Equal(t, "2026-02-27", s.Date)
}

func TestTablesComeAndGo(t *testing.T) {
	s := kitchen.Service{Name: "S"}
	s.AddTable()
	require.Equal(t, 18*60+30, s.Tables[0].SeatedAt)
	s.Tables[0].SeatedAt = 1200
	s.AddTable()
	s.AddTable()
	require.Equal(t, 1200, s.Tables[2].SeatedAt, "seated with the last one")
	s.Shared = []kitchen.SharedBatch{{ID: "two", Tables: []string{"table-1", "table-2"}},
		{ID: "three", Tables: []string{"table-1", "table-2", "table-3"}}}
	was := s
	require.NoError(t, s.DropTable("table-2"))
	require.Equal(t, []kitchen.SharedBatch{{ID: "three", Tables: []string{"table-1", "table-3"}}}, s.Shared)
	require.Len(t, was.Tables, 3)
	require.Len(t, was.Shared[1].Tables, 3, "what was there is not touched")
	s.AddTable()
	require.Equal(t, []string{"table-1", "table-3", "table-4"}, []string{s.Tables[0].ID, s.Tables[1].ID, s.Tables[2].ID}, "no id twice")
	require.ErrorContains(t, s.DropTable("table-2"), "no table has the id")
}

// A service is over two hours after its last table was seated, to the second.
func TestServiceIsOver(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Copenhagen")
	require.NoError(t, err)
	s := kitchen.Service{Date: "2026-05-14", Tables: []kitchen.ServiceTable{{SeatedAt: 20*60 + 30}, {SeatedAt: 18 * 60}}}
	end := time.Date(2026, 5, 14, 22, 30, 0, 0, zone)
	require.False(t, s.Over(end.Add(-time.Second), zone))
	require.True(t, s.Over(end, zone))
	require.True(t, (&kitchen.Service{Date: "2026-05-14"}).Over(end.AddDate(-1, 0, 0), zone), "without tables it never began")
}

// The day turns at four in the morning, and a clock before that is the night after.
func TestTheKitchensDay(t *testing.T) {
	k := kitchen.Kitchen{TimeZone: "Europe/Copenhagen", DayFrom: 600, ServiceFrom: 1080, ServiceTo: 1320}
	zone := k.Zone()
	turn := time.Date(2026, 5, 15, 4, 0, 0, 0, zone)
	require.Equal(t, "2026-05-14", k.Date(turn.Add(-time.Second)))
	require.Equal(t, "2026-05-15", k.Date(turn))
	day := k.DayOf(turn.Add(-time.Second))
	require.Equal(t, time.Date(2026, 5, 14, 10, 0, 0, 0, zone), day.From)
	require.Equal(t, time.Date(2026, 5, 14, 23, 0, 0, 0, zone), day.To, "an hour after the last minute of service")
	require.Equal(t, 120, day.UTCOffsetMin)
	for clock, want := range map[string]time.Time{"19:42": time.Date(2026, 5, 14, 19, 42, 0, 0, zone),
		"03:59": time.Date(2026, 5, 15, 3, 59, 0, 0, zone),
		"4:00":  time.Date(2026, 5, 14, 4, 0, 0, 0, zone)} {
		at, err := day.At(clock)
		require.NoError(t, err)
		require.Equal(t, want, at, clock)
	}
	for _, clock := range []string{"24:00", "12:60", "-1:00", "soon", ""} {
		_, err := day.At(clock)
		require.ErrorContains(t, err, "19:42", clock)
	}
	require.Equal(t, time.UTC, (&kitchen.Kitchen{TimeZone: "Nowhere/Else"}).Zone())
}
