package training

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/service"
)

// By hand: of three courses the section works for two, and one of those was not begun. The other stands with its runs as they went beside
// those of a good cook; what was made again began when it was begun first and was done when it was done last.
func TestStrands(t *testing.T) {
	main := func(table string) service.TableCourse { return service.TableCourse{Table: table, Course: kitchen.Main} }
	plan := &service.Plan{Joins: []service.PlanJoin{{TableCourse: main("2"), Name: "Table 2", WantedAt: noon.Add(time.Hour)},
		{TableCourse: main("1"), Name: "Table 1", WantedAt: noon.Add(20 * time.Minute)}, {TableCourse: main("3"), Name: "Table 3",
			WantedAt: noon}},
		Runs: []service.PlanRun{{Task: "pan", What: "Hake", Act: "fry", Section: "fish", Joins: []service.TableCourse{main("1")}},
			{Task: "boil", What: "Leeks", Act: "boil", Section: "garnish", Joins: []service.TableCourse{main("1"), main("3")}},
			{Task: "never", What: "Hake", Act: "rest", Section: "fish", Joins: []service.TableCourse{main("1")}},
			{Task: "later", What: "Hake", Act: "fry", Section: "fish", Joins: []service.TableCourse{main("2")}}}}
	e := func(kind service.Kind, task string, minute int) service.Event {
		x := service.Event{Kind: kind, At: noon.Add(time.Duration(minute) * time.Minute)}
		if x.Task = task; kind == service.Sent {
			x.Task, x.Table, x.Course = "", task, kitchen.Main
		}
		return x
	}
	went := []service.Event{e(service.Fired, "boil", 1), e(service.Fired, "pan", 5), e(service.Again, "pan", 8), e(service.Fired, "pan", 9),
		e(service.Ready, "boil", 11), e(service.Ready, "pan", 14), e(service.Sent, "1", 25)}
	good := []service.Event{e(service.Fired, "boil", 1), e(service.Fired, "pan", 3), e(service.Ready, "pan", 8), e(service.Sent, "1", 20),
		e(service.Fired, "later", 50)}
	list := StrandsOf("fish", went, good, plan, time.UTC)
	at := func(minute int) *time.Time { x := noon.Add(time.Duration(minute) * time.Minute).UTC(); return &x }
	require.Equal(t, []Strands{{TableCourse: main("1"), Name: "Table 1", WantedAt: *at(20), LeftAt: at(25), GoodLeftAt: at(20),
		Runs: []StrandRun{
			{Task: "boil", What: "Leeks", Act: "boil", Section: "garnish", At: at(1), Until: at(11), GoodAt: at(1)},
			{Task: "pan", What: "Hake", Act: "fry", Section: "fish", Mine: true, At: at(5), Until: at(14), GoodAt: at(3), GoodUntil: at(8)}}}}, list)
}
