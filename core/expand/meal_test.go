package expand_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/verify"
	"jointime/core/workload"
)

// supper is a meal of a terrine, which is made ahead and set cold for an hour at the least, and fish to order; one cook.
func supper() kitchen.Data {
	mix := st("mix", 20, kitchen.Both, 0)
	set := pick("set", kitchen.None, 60)
	set.Phase, set.After = kitchen.Ahead, []kitchen.Predecessor{{Step: "mix"}}
	set.Time.Fixed = kitchen.Exactly(3600)
	terrine := kitchen.Component{ID: "terrine", ShelfLifeH: 48, Steps: []kitchen.Step{mix, set}}
	cut := st("cut", 10, kitchen.Both, 0)
	sear := pick("sear", kitchen.Both, 240, kitchen.Predecessor{Step: "cut"})
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(120)}, Steps: []kitchen.Step{cut, sear}}
	d := house([]kitchen.Component{terrine, fish}, []kitchen.Element{{Component: "terrine", Seconds: 10}})
	main := d.Dishes[0]
	main.ID, main.Name = "main", "Main"
	main.Specification.Elements = []kitchen.Element{d.Dishes[0].Specification.Elements[0]}
	main.Specification.Elements[0].Component = "fish"
	d.Dishes = append(d.Dishes, main)
	d.Meals = []kitchen.Meal{{ID: "m", Name: "Supper", People: []string{"a"}, Courses: []kitchen.MealCourse{
		{Name: "First", DueMin: 90, Orders: []kitchen.TableOrder{{Dish: "dish", Count: 2}}},
		{Name: "Main", DueMin: 110, Orders: []kitchen.TableOrder{{Dish: "main", Count: 2}}}},
		Compulsory: []kitchen.Compulsory{{Say: "a terrine", Component: "terrine"}, {Say: "a sorbet", Component: "fish"},
			{Say: "something green"}}}}
	return d
}

func meal(t *testing.T, d kitchen.Data, delay int64) *expand.MealPlan {
	t.Helper()
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	m, err := expand.NewMeal(b, &b.Meals()[0], delay)
	require.NoError(t, err)
	require.NoError(t, workload.Check(m.Workload))
	s := schedule.Solve(context.Background(), m.Workload, schedule.Options{Seed: 1, Rounds: 3000, Anyway: true})
	broken, err := verify.Check(m.Workload, s)
	require.NoError(t, err)
	require.Empty(t, broken)
	return m.Read(s)
}

// By hand. One cook does everything from raw. The terrine is mixed for 20 min and sets for an hour, and is plated (2 · 10 s) for
// 90 min: mixed by 29:40 at the latest, begun by 9:40. The fish is seared for 4 min until it is plated, 20 s before 110 min:
// cut some time before. Begun nine minutes later it still goes, ten minutes later the first course is late.
func TestOneMealFromZero(t *testing.T) {
	p := meal(t, supper(), 0)
	require.Len(t, p.Courses, 2)
	for i, due := range []int64{5400, 6600} {
		require.Equal(t, due, p.Courses[i].DueS)
		require.Equal(t, due, p.Courses[i].AtS)
		require.Zero(t, p.Courses[i].LateS)
	}
	require.Empty(t, p.Trouble)
	bars := map[string]expand.MealBar{}
	for _, s := range p.Strands {
		for _, b := range s.Bars {
			bars[b.Step] = b
			require.GreaterOrEqual(t, b.FromS, int64(0), "nothing before zero")
		}
	}
	require.LessOrEqual(t, bars["mix"].ToS, int64(29*60+40))
	require.GreaterOrEqual(t, bars["set"].ToS-bars["set"].FromS, int64(3600))
	require.LessOrEqual(t, bars["cut"].ToS, bars["sear"].FromS)
	require.LessOrEqual(t, bars["sear"].ToS, int64(6580))
	require.GreaterOrEqual(t, bars["sear"].ToS, int64(6580-120))
	require.Equal(t, []bool{true, true}, p.InTime())
	require.Equal(t, []bool{true, true}, meal(t, supper(), 9*60).InTime())
	late := meal(t, supper(), 9*60+41+expand.OnTimeS)
	require.Equal(t, []bool{false, true}, late.InTime())
	for _, s := range late.Strands {
		require.GreaterOrEqual(t, s.Bars[0].FromS, int64(9*60))
	}
}

// Each pair of hands has a sheet with all that it does, plating too; nobody who is not there has one.
func TestASheetForEachPairOfHands(t *testing.T) {
	p := meal(t, supper(), 0)
	require.Len(t, p.Sheets, 1)
	var acts []string
	last := int64(-1)
	for _, l := range p.Sheets[0].Lines {
		acts = append(acts, l.Act)
		require.GreaterOrEqual(t, l.AtS, last)
		last = l.AtS
	}
	require.ElementsMatch(t, []string{"mix", "cut", "sear", "Plating", "Plating"}, acts)
	require.Equal(t, int64(1200+600+240+20+20), p.Sheets[0].HandsS)
	d := supper()
	d.Meals[0].People = nil
	require.Len(t, meal(t, d, 0).Sheets, len(d.People), "everybody, where nobody was named")
}

// What is compulsory is there, is not, or nobody said what it is.
func TestWhatIsCompulsory(t *testing.T) {
	d := supper()
	d.Meals[0].Courses = d.Meals[0].Courses[:1]
	require.Equal(t, []expand.MealMust{{Say: "a terrine", There: true, Known: true}, {Say: "a sorbet", Known: true}, {Say: "something green"}},
		meal(t, d, 0).Must)
}

// Who and what is not there is not used, and what cannot be done without it is said.
func TestAMealWithoutWhatIsNotThere(t *testing.T) {
	d := supper()
	d.Components[1].Steps[1] = inOven(d.Components[1].Steps[1], 200)
	require.Empty(t, meal(t, d, 0).Trouble)
	d.Meals[0].Without = []string{"oven"}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	_, err = expand.NewMeal(b, &b.Meals()[0], 0)
	require.ErrorContains(t, err, "the kitchen has no oven")
}

// What is otherwise made ahead and cooked goes on at once here too; what was named for one person is done by who is there.
func TestFromZeroKeepsTheRulesOfTheWork(t *testing.T) {
	d := supper()
	heat := 140.0
	mix := &d.Components[0].Steps[0]
	mix.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &heat}
	mix.May, mix.People = kitchen.MayNamed, []string{"b"}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	zero, err := b.FromZero(&b.Meals()[0])
	require.NoError(t, err)
	c, _ := zero.Component("terrine")
	require.Equal(t, 1800, *c.Steps[1].After[0].Longest)
	require.Equal(t, kitchen.MayUnsaid, c.Steps[0].May)
	fish, _ := zero.Component("fish")
	require.True(t, fish.Steps[1].After[0].NoLimit, "cut fish waits as long as it likes, where nobody said")
	original, _ := b.Component("terrine")
	require.Equal(t, kitchen.Ahead, original.Steps[0].Phase)
}
