package advise_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/advise"
	"jointime/core/expand"
	"jointime/core/kitchen"
)

func limit(n int) *int { return &n }

// pans is a kitchen of two cooks, three who may plate, and one main of fish that a cook stands at for four minutes; four
// tables of two at 19:00, 19:04, 19:08 and 20:00.
func pans() kitchen.Data {
	d := kitchen.Starter("K", "Europe/Copenhagen", kitchen.CodeUKEU)
	d.Kitchen.PlatingHands = 2
	d.Sections = append(d.Sections, kitchen.Section{ID: "fish", Name: "Fish", Hue: "teal", Pattern: "dots"})
	person := func(id, name string, sections ...string) kitchen.Person {
		p := d.People[0]
		p.ID, p.Name, p.Sections = id, name, sections
		return p
	}
	d.People = []kitchen.Person{person("chef", "Chef", "pass"), person("ana", "Ana", "fish"), person("ben", "Ben", "stove", "pass"),
		person("cem", "Cem", "stove", "pass")}
	sear := kitchen.Step{ID: "sear", Name: "Sear", Phase: kitchen.PickUp, Hands: kitchen.Both,
		Time: kitchen.StepTime{Fixed: kitchen.Exactly(240)}}
	d.Components = []kitchen.Component{{ID: "hake", Name: "Hake", Section: "fish", Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
		Hold: kitchen.Wait{Longest: limit(300)}, Steps: []kitchen.Step{sear}}}
	d.Dishes = []kitchen.Dish{{ID: "main", Name: "Main", Course: kitchen.Main, State: kitchen.CurrentDish,
		Specification: kitchen.Specification{Vessel: "plate-270", VesselTemp: "hot", Elements: []kitchen.Element{{Component: "hake", Amount: 100,
			Form: kitchen.Form{Kind: "fillet"}, Temp: "hot", Seconds: 10, Hands: 1}}}}}
	table := func(id string, minute int) kitchen.ServiceTable {
		return kitchen.ServiceTable{ID: id, Name: strings.ToUpper(id), Covers: 2, SeatedAt: 19*60 + minute}
	}
	d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
		Margin: 30,
		Menu:   []kitchen.MenuLine{{Dish: "main", Share: 100}},
		Tables: []kitchen.ServiceTable{table("a", 0), table("b", 4), table("c", 8), table("d", 60)}}}
	return d
}

// proposed are the candidates where table a is late because of a person or a thing that table b has, by their ids.
func proposed(t *testing.T, d kitchen.Data, change func(*expand.FireTrouble)) map[string]advise.Candidate {
	t.Helper()
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	e, err := expand.NewEvening(b, &b.Services()[0], true)
	require.NoError(t, err)
	until := time.Date(2026, 5, 14, 19, 0, 0, 0, zone)
	task := ""
	for _, x := range e.Workload.Tasks {
		if strings.HasPrefix(x.ID, "b/main") && strings.Contains(x.ID, "hake") {
			task = x.ID
		}
	}
	require.NotEmpty(t, task)
	trouble := expand.FireTrouble{Join: "a/main", Kind: "late", ByS: 300,
		Cause: &expand.Cause{Resource: expand.ResourceRef{Kind: kitchen.PersonRecord, ID: "ana"}, Task: task, Join: "b/main", Until: until}}
	if change != nil {
		change(&trouble)
	}
	load := func(id string, units ...int64) expand.Load {
		l := expand.Load{Of: expand.ResourceRef{Kind: kitchen.PersonRecord, ID: id, Part: expand.Hands}, Name: id, Capacity: 1}
		for i, u := range units {
			l.Steps = append(l.Steps, expand.LoadStep{At: until.Add(time.Duration(10*i-20) * time.Minute), Units: u})
		}
		return l
	}
	plan := &expand.EveningPlan{Trouble: []expand.FireTrouble{trouble},
		Loads: []expand.Load{load("ana", 1, 1, 1, 1), load("ben", 1, 1, 0, 0), load("cem", 1, 0, 0, 0)}}
	for _, x := range []string{"a", "b", "c", "d"} {
		plan.Joins = append(plan.Joins, expand.EveningJoin{ID: x + "/main", Table: x, Name: strings.ToUpper(x)})
	}
	out := map[string]advise.Candidate{}
	for _, c := range advise.Candidates(b, e, plan) {
		require.NotContains(t, out, c.Mend.ID, "an id names one mend")
		out[c.Mend.ID] = c
	}
	return out
}

// What each mend says it does, it does to the service, and to nothing else; what it costs is priced by the figures at
// the head of mend.go.
func TestEachMend(t *testing.T) {
	d := pans()
	was := d.Services[0]
	cases := []struct {
		id, what, costs string
		price           int64
		change          func(*kitchen.Service)
	}{
		{"hands:3", "3 people plate instead of 2", "one more is away from the stove while a table is plated", 300,
			func(s *kitchen.Service) { s.PlatingHands = 3 }},
		{"pace:4", "Courses every 24 min instead of 20", "every table stays longer", 0, func(s *kitchen.Service) { s.CourseMin = 24 }},
		{"margin:0", "Fire to the minute", "a slow step makes a table late", 400, func(s *kitchen.Service) { s.Margin = 0 }},
		{"seat:a:-10", "Seat A 10 min sooner", "its guests have to come sooner", 10 * 2 * 8, seated("a", -10)},
		{"seat:a:-5", "Seat A 5 min sooner", "its guests have to come sooner", 5 * 2 * 8, seated("a", -5)},
		{"seat:b:5", "Seat B 5 min later", "its guests wait for their table", 5 * 2 * 8, seated("b", 5)},
		{"seat:b:10", "Seat B 10 min later", "its guests wait for their table", 10 * 2 * 8, seated("b", 10)},
		// Cem has his hands full for ten minutes.
		{"helper:cem:fish", "Cem helps at Fish", "Cem has 10 min of other work in the forty minutes around it", 500,
			func(s *kitchen.Service) { s.Helpers = []kitchen.Helper{{Person: "cem", Section: "fish"}} }},
		{"share:hake:a:b", "Hake for A and B in one batch", "2 tables hang on one batch", 60, func(s *kitchen.Service) {
			s.Shared = []kitchen.SharedBatch{{ID: "hake-1", Component: "hake", Course: kitchen.Main, Tables: []string{"a", "b"}}}
		}},
	}
	got := proposed(t, d, nil)
	for _, c := range cases {
		x, ok := got[c.id]
		require.True(t, ok, "%s of %v", c.id, keysOf(got))
		require.Equal(t, c.what, x.Mend.What.Text)
		require.Equal(t, c.costs, x.Mend.Costs.Text)
		require.Equal(t, c.price, x.Mend.PriceS, c.id)
		want := was
		want.Tables = slices.Clone(was.Tables)
		c.change(&want)
		is := x.Service
		is.Shared, is.Helpers = emptied(is.Shared), emptied(is.Helpers)
		require.Equal(t, want, is, c.id)
		d.Services[0] = x.Service
		_, err := kitchen.NewBook(d)
		require.NoError(t, err, "it can be saved")
		d.Services[0] = was
	}
	require.NotContains(t, got, "seat:c:5", "only who is in trouble and who keeps them")
	require.NotContains(t, got, "seat:d:5")
}

func emptied[T any](list []T) []T {
	if len(list) == 0 {
		return nil
	}
	return list
}

func keysOf(m map[string]advise.Candidate) (out []string) {
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

func seated(id string, by int) func(*kitchen.Service) {
	return func(s *kitchen.Service) {
		for i := range s.Tables {
			if s.Tables[i].ID == id {
				s.Tables[i].SeatedAt += by
			}
		}
	}
}

// Who is not asked to help: those at home there, those who help there already, those who are away, those who only run
// the pass; of the others the one with the least to do.
func TestWhoIsAskedToHelp(t *testing.T) {
	helpers := func(change func(*kitchen.Data)) (out []string) {
		d := pans()
		change(&d)
		for id := range proposed(t, d, nil) {
			if strings.HasPrefix(id, "helper:") {
				out = append(out, id)
			}
		}
		return out
	}
	require.Equal(t, []string{"helper:cem:fish"}, helpers(func(*kitchen.Data) {}), "Ben has more to do")
	require.Equal(t, []string{"helper:ben:fish"}, helpers(func(d *kitchen.Data) { d.People[3].Absent = []string{"2026-05-14"} }))
	require.Equal(t, []string{"helper:ben:fish"}, helpers(func(d *kitchen.Data) {
		d.Services[0].Helpers = []kitchen.Helper{{Person: "cem", Section: "fish"}}
	}))
	require.Equal(t, []string{"helper:ben:fish"}, helpers(func(d *kitchen.Data) { d.People[3].Sections = []string{"fish"} }))
	require.Equal(t, []string{"helper:ben:fish"}, helpers(func(d *kitchen.Data) { d.People[3].Sections = []string{"pass"} }))
	require.Empty(t, helpers(func(d *kitchen.Data) { d.People, d.Services[0].PlatingHands = d.People[:2], 1 }), "Chef only runs the pass")
}

// What is not proposed.
func TestWhatIsNotProposed(t *testing.T) {
	d := pans()
	oven := proposed(t, d, func(x *expand.FireTrouble) {
		x.Cause.Resource = expand.ResourceRef{Kind: kitchen.EquipmentRecord, ID: "oven"}
	})
	require.NotContains(t, oven, "helper:cem:fish", "hands do not make an oven")
	require.Contains(t, oven, "seat:b:5")
	alone := proposed(t, d, func(x *expand.FireTrouble) { x.Cause = nil })
	require.Contains(t, alone, "seat:a:-5")
	require.NotContains(t, alone, "seat:b:5", "nobody keeps it")
	require.NotContains(t, alone, "helper:cem:fish")

	d.Services[0].Margin = 0
	require.NotContains(t, proposed(t, d, nil), "margin:0")
	d.Services[0].PlatingHands = 3
	require.NotContains(t, proposed(t, d, nil), "hands:4", "three may plate")
	d.Services[0].PlatingHands = 1
	require.Contains(t, proposed(t, d, nil), "hands:2")
	d.Services[0].Kind = kitchen.Banquet
	require.NotContains(t, proposed(t, d, nil), "hands:2", "a banquet has its own")

	b, err := kitchen.NewBook(pans())
	require.NoError(t, err)
	e, err := expand.NewEvening(b, &b.Services()[0], true)
	require.NoError(t, err)
	require.Nil(t, advise.Candidates(b, e, &expand.EveningPlan{}), "where everything fits nothing is proposed")
}

// By hand. Fish may wait five minutes: tables four minutes apart share a batch, tables eight minutes apart do not; with
// ten minutes three tables do, whose last is within six tenths of it.
func TestWhoSharesABatch(t *testing.T) {
	shares := func(hold int, change func(*kitchen.Data)) (out []string) {
		d := pans()
		d.Components[0].Hold.Longest = limit(hold)
		if change != nil {
			change(&d)
		}
		for id := range proposed(t, d, nil) {
			if strings.HasPrefix(id, "share:") {
				out = append(out, strings.TrimPrefix(id, "share:hake:"))
			}
		}
		slices.Sort(out)
		return out
	}
	require.Equal(t, []string{"a:b", "b:c"}, shares(300, nil))
	require.Empty(t, shares(239, nil), "four minutes is too long for it")
	require.Equal(t, []string{"a:b", "b:c"}, shares(240, nil))
	require.Equal(t, []string{"a:b", "b:c"}, shares(799, nil), "three would be eight minutes apart")
	require.Equal(t, []string{"a:b", "a:b:c", "b:c"}, shares(800, nil))
	require.Equal(t, []string{"b:c"}, shares(300, func(d *kitchen.Data) {
		d.Services[0].Shared = []kitchen.SharedBatch{{ID: "x", Component: "hake", Course: kitchen.Main, Tables: []string{"a", "d"}}}
	}), "who shares already is not asked again")
	require.Empty(t, shares(300, func(d *kitchen.Data) {
		d.Services[0].Tables[1].SeatedAt, d.Services[0].Tables[2].SeatedAt = 19*60+30, 19*60+40
	}))
}

func TestSumsOfTrouble(t *testing.T) {
	p := &expand.EveningPlan{Joins: []expand.EveningJoin{{LateS: 90}, {LateS: -30}, {LateS: 10}},
		Trouble: []expand.FireTrouble{{Kind: "late", ByS: 90}, {Kind: "hold", ByS: 40}, {Kind: "hold", ByS: 2}}}
	require.Equal(t, int64(100), advise.Lateness(p), "early is not less late")
	require.Equal(t, int64(42), advise.Overdue(p))
	c := advise.Candidate{}
	require.True(t, c.Worth(&expand.EveningPlan{Cost: 10, Joins: p.Joins}, &expand.EveningPlan{Cost: 9, Trouble: p.Trouble}))
	require.Equal(t, [5]int64{1, 0, 100, 42, 0}, [5]int64{c.Mend.SavesS, c.Mend.LateS, c.Mend.WasS, c.Mend.OverS, c.Mend.OverWasS})
}

// Each mend of make-ahead work is what it says, for the batch that it names.
func TestEachMendOfPrep(t *testing.T) {
	best := 6 * 3600
	rinse := kitchen.Step{ID: "rinse", Hands: kitchen.Both, Time: kitchen.StepTime{Fixed: kitchen.Exactly(900)},
		After: []kitchen.Predecessor{{Wait: kitchen.Wait{Shortest: 3 * 3600, Best: &best}}}}
	d := larder(kitchen.Step{ID: "salt", Hands: kitchen.Both, Time: kitchen.StepTime{Fixed: kitchen.Exactly(900)}}, rinse)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	job := expand.Job{ID: "cure/s/1", Component: "cure", Name: "Cured fish", Section: "larder", Amount: 1000, Left: 880,
		For:     []string{"Thursday"},
		StartAt: clock(14, 14, 0), State: "to-do"}
	plan := func(kind string, change func(*expand.PrepPlan)) map[string]advise.PrepCandidate {
		p := &expand.PrepPlan{Now: clock(14, 14, 0), Jobs: []expand.Job{job}, Trouble: []expand.PrepTrouble{{Job: job.ID, Kind: kind}},
			Load: []expand.PersonLoad{{Person: "Chef", Date: "2026-05-14", HandsS: 3659}, {Person: "Chef", Date: "2026-05-13", HandsS: 9000}}}
		if change != nil {
			change(p)
		}
		out := map[string]advise.PrepCandidate{}
		for _, c := range advise.PrepCandidates(b, p) {
			require.Equal(t, job.ID, c.Mend.Job)
			out[c.Mend.What.Text+" / "+c.Mend.Costs.Text] = c
		}
		return out
	}
	got := plan("tight", nil)
	require.Len(t, got, 4, "%v", got)

	rest, ok := got["Rest Cured fish no longer than it must / it rests less than is best for it"]
	require.True(t, ok)
	c, _ := rest.Book.Component("cure")
	require.Nil(t, c.Steps[1].After[0].Best)
	require.Equal(t, 3*3600, c.Steps[1].After[0].Shortest)

	helper, ok := got["Chef helps at Larder / Chef has 1 h of other work that day"]
	require.True(t, ok, "%v", got)
	chef, _ := helper.Book.Person("chef")
	require.Equal(t, []string{"stove", "pass", "larder"}, chef.Sections)

	buy, ok := got["Buy in 120 g of Cured fish / bought, not made"]
	require.True(t, ok)
	require.Len(t, buy.Book.Stock(), 1)
	require.InDelta(t, 120, buy.Book.Stock()[0].Amount, 0)

	off, ok := got["Take Fish off Thursday / 60 % of the guests eat something else"]
	require.True(t, ok)
	s, _ := off.Book.Service("s")
	require.Equal(t, []kitchen.MenuLine{{Dish: "salad", Share: 100}}, s.Menu)

	forgotten := plan("forgotten", nil)
	require.Len(t, forgotten, 3, "more hands do not bring yesterday back")
	require.Empty(t, plan("tight", func(p *expand.PrepPlan) { p.Trouble = nil }))
	for amount, words := range map[float64]string{1000: "1 kg", 999: "999 g", 1049: "1 kg", 1051: "1.1 kg"} {
		list := plan("tight", func(p *expand.PrepPlan) { p.Jobs[0].Amount, p.Jobs[0].Left = amount, 0 })
		require.Contains(t, list, "Buy in "+words+" of Cured fish / bought, not made")
	}
	done := plan("tight", func(p *expand.PrepPlan) { p.Jobs[0].State = "done" })
	require.NotContains(t, done, "Buy in 120 g of Cured fish / bought, not made", "what is made is not bought")
}

func TestPrepLateness(t *testing.T) {
	at := clock(14, 18, 0)
	p := &expand.PrepPlan{Jobs: []expand.Job{{NeedBy: at, ReadyAt: at.Add(time.Minute)}, {NeedBy: at, ReadyAt: at.Add(-time.Hour)},
		{NeedBy: at, ReadyAt: at.Add(time.Hour), State: "done"}}}
	require.Equal(t, int64(60), advise.PrepLateness(p))
	list := advise.RankPrep([]advise.PrepCandidate{{Mend: advise.PrepMend{Job: "a"}}, {Mend: advise.PrepMend{Job: "b"}},
		{Mend: advise.PrepMend{Job: "c"}}},
		[]int64{30, 60, 0}, 60)
	require.Len(t, list, 2, "what saves nothing does not help")
	require.Equal(t, []string{"c", "a"}, []string{list[0].Job, list[1].Job})
}
