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
	"jointime/core/message"
)

// hotPans is pans with the fish in the oven at 180°, where another dish's bread wants 210° and the plan turns the oven.
func hotPans(bread float64) kitchen.Data {
	d := pans()
	at := 180.0
	d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "hot-oven", Name: "Hot oven", Kind: kitchen.Oven, Capacity: 2, Unit: "shelf",
		Thermostat: &kitchen.Thermostat{LowC: 30, HighC: 280, StandbyC: 180, HeatCPerMin: 20, CoolCPerMin: 10, ToleranceC: 5}})
	d.Components[0].Steps[0].Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &at}
	c := d.Components[0].Clone()
	c.ID, c.Name = "bread", "Bread"
	c.Steps[0].Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &bread}
	d.Components = append(d.Components, c)
	e := d.Dishes[0].Specification.Elements[0]
	e.Component = "bread"
	d.Dishes[0].Specification.Elements = append(d.Dishes[0].Specification.Elements, e)
	return d
}

// proposedOf are the candidates of a kind for a plan whose first table is late because somebody is at the second's fish.
func proposedOf(t *testing.T, d kitchen.Data, kind string) (out []advise.Candidate) {
	t.Helper()
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	e, err := expand.NewEvening(b, &b.Services()[0], true)
	require.NoError(t, err)
	until := time.Date(2026, 5, 14, 19, 0, 0, 0, zone)
	plan := &expand.EveningPlan{Sets: []expand.HeatSetting{{}}, Trouble: []expand.FireTrouble{{Join: "a/main", Kind: "late", ByS: 300,
		Cause: &expand.Cause{Resource: expand.ResourceRef{Kind: kitchen.PersonRecord, ID: "ana"}, Task: "b/main/hake/sear", Join: "b/main",
			Until: until}}}}
	for _, x := range []string{"a", "b", "c", "d"} {
		plan.Joins = append(plan.Joins, expand.EveningJoin{ID: x + "/main", Table: x, Name: strings.ToUpper(x)})
	}
	for _, c := range advise.Candidates(b, e, plan) {
		if strings.HasPrefix(c.Mend.ID, kind+":") {
			out = append(out, c)
			d := b.Data()
			d.Services[0] = c.Service
			_, err := kitchen.NewBook(d)
			require.NoError(t, err, "it can be saved")
		}
	}
	return out
}

// Two heats that are no more than forty degrees apart can be one in the middle; nothing is asked to be more than twenty degrees
// from what is written. What lies within a range already needs no mend.
func TestOneHeatForTwo(t *testing.T) {
	for bread, want := range map[float64]float64{210: 195, 190: 185, 220: 200, 181: 180, 221: 0, 260: 0, 180: 0} {
		list := proposedOf(t, hotPans(bread), "heat")
		if want == 0 {
			require.Empty(t, list, "%g", bread)
			continue
		}
		require.Len(t, list, 1, "%g", bread)
		require.Len(t, list[0].Service.Ways, 2)
		for _, w := range list[0].Service.Ways {
			require.Equal(t, want, *w.HeatC)
		}
	}
	d := hotPans(210)
	to := 215.0
	d.Components[0].Steps[0].Equipment.SetpointToC = &to
	require.Empty(t, proposedOf(t, d, "heat"), "180 to 215 suits 210")
	d = hotPans(210)
	d.Services[0].Ways = proposedOf(t, d, "heat")[0].Service.Ways
	require.Empty(t, proposedOf(t, d, "heat"), "it is said already")
}

// Other hands are asked for the very step, where others may do it: not where its section alone, or named people may, and not
// where anybody may already.
func TestOtherHandsForTheStepThatKeeps(t *testing.T) {
	list := proposedOf(t, pans(), "hands-for")
	require.Len(t, list, 1)
	require.Equal(t, "Ben does “sear” of Hake", list[0].Mend.What.Text)
	require.Equal(t, []kitchen.Way{{Component: "hake", Step: "sear", Person: "ben"}}, list[0].Service.Ways)
	for may, people := range map[kitchen.May][]string{kitchen.MaySection: nil, kitchen.MayNamed: {"ana"}, kitchen.MayAnybody: nil} {
		d := pans()
		d.Components[0].Steps[0].May, d.Components[0].Steps[0].People = may, people
		require.Empty(t, proposedOf(t, d, "hands-for"), may)
		require.Empty(t, proposedOf(t, d, "helper"), may)
	}
}

// What may wait longer when it must is let wait, and only that.
func TestALongerWaitWhereItIsAllowed(t *testing.T) {
	require.Empty(t, proposedOf(t, pans(), "stretch"), "seared fish waits for nobody")
	d := pans()
	d.Components[0].Hold.Stretch = &kitchen.Stretched{LongestS: 900}
	list := proposedOf(t, d, "stretch")
	require.Len(t, list, 1)
	require.Equal(t, "Hake may wait up to 15 min", list[0].Mend.What.Text)
	d.Services[0].Ways = list[0].Service.Ways
	require.Empty(t, proposedOf(t, d, "stretch"))
}

// A step is proposed to be made ahead where it keeps for a service: four hours and not a second less, and gives a batch.
func TestAStepMadeAheadWhereItKeeps(t *testing.T) {
	for _, x := range []struct {
		keeps int
		yield float64
		want  int
	}{{4*3600 - 1, 10, 0}, {4 * 3600, 10, 1}, {4 * 3600, 0, 0}} {
		d := pans()
		d.Components[0].Hold.Longest, d.Components[0].BatchYield = limit(x.keeps), x.yield
		require.Len(t, proposedOf(t, d, "ahead"), x.want, "%+v", x)
	}
}

// A group of a banquet that goes in four rounds may go in two waves; one of three does not.
func TestTwoWavesOfABanquet(t *testing.T) {
	for covers, want := range map[int]int{12: 0, 16: 2} {
		d := pans()
		s := &d.Services[0]
		s.Kind, s.Tables, s.PlatingHands = kitchen.Banquet, []kitchen.ServiceTable{{ID: "a", Name: "A", Covers: covers, SeatedAt: 19 * 60,
			TablesOf: 4}}, 2
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "ledge", Name: "Ledge", Kind: kitchen.Pass, Capacity: 4, Unit: "plate"})
		for i, e := range d.Equipment {
			if e.Kind == kitchen.Pass && e.ID != "ledge" {
				d.Equipment = append(d.Equipment[:i:i], d.Equipment[i+1:]...)
				break
			}
		}
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		e, err := expand.NewEvening(b, &b.Services()[0], true)
		require.NoError(t, err)
		n := 0
		for _, c := range advise.Candidates(b, e, &expand.EveningPlan{Trouble: []expand.FireTrouble{{Join: "a/main", Kind: "late"}}}) {
			if strings.HasPrefix(c.Mend.ID, "waves:") {
				n++
				require.Positive(t, c.Service.Tables[0].SecondWaveMin)
			}
		}
		require.Equal(t, want, n, covers)
	}
}

// Mends are put together until everything fits: the best first, then what leaves least, nothing that asks guests; what one
// does alone, and what does not fit in the end, is not offered as a set.
func TestMakeItFit(t *testing.T) {
	s := pans().Services[0]
	was := &expand.EveningPlan{Cost: 100, Trouble: make([]expand.FireTrouble, 3), Joins: []expand.EveningJoin{{LateS: 300}}}
	way := func(id string) advise.Candidate {
		return advise.Candidate{Mend: advise.Mend{ID: id, PriceS: 10, What: message.Of("mend.margin"), Costs: message.Of("mend.margin-costs")},
			Change: func(s *kitchen.Service) { s.Ways = append(s.Ways, kitchen.Way{Component: id}) }}
	}
	guests := way("guests")
	guests.Mend.Guests = true
	list := []advise.Candidate{way("a"), guests, way("b"), way("c")}
	// What each set of mends leaves: its cost and how much trouble.
	solve := func(left map[string][2]int) func([]kitchen.Service) []*expand.EveningPlan {
		return func(services []kitchen.Service) (out []*expand.EveningPlan) {
			for _, s := range services {
				key := ""
				for _, w := range s.Ways {
					require.NotEqual(t, "guests", w.Component)
					key += w.Component
				}
				x, ok := left[key]
				if !ok {
					out = append(out, nil)
					continue
				}
				out = append(out, &expand.EveningPlan{Cost: int64(x[0]), Trouble: make([]expand.FireTrouble, x[1])})
			}
			return out
		}
	}
	c, ok := advise.Fit(&s, was, list, solve(map[string][2]int{"a": {60, 2}, "ab": {50, 2}, "ac": {20, 0}, "abc": {10, 0}}))
	require.True(t, ok)
	require.Equal(t, "fit:a+c", c.Mend.ID)
	require.Equal(t, "Make it fit: 2 changes together", c.Mend.What.Text)
	require.True(t, c.Mend.Fits)
	require.Equal(t, "a slow step makes a table late", c.Mend.Costs.Text, "what both cost alike is said once")
	require.Equal(t, int64(20), c.Mend.PriceS)
	require.Equal(t, int64(80), c.Mend.SavesS)
	require.Len(t, c.Service.Ways, 2)
	require.Empty(t, s.Ways)
	for name, left := range map[string]map[string][2]int{"one alone": {"a": {60, 0}}, "never": {"a": {60, 2}, "ab": {50, 1}, "ac": {55, 1},
		"abc": {40, 1}},
		"no better": {"a": {60, 2}, "ab": {60, 0}}, "cannot be": {}} {
		_, ok := advise.Fit(&s, was, list, solve(left))
		require.False(t, ok, name)
	}
	other := slices.Clone(list)
	other[3].Mend.Costs = message.Of("mend.pace-costs")
	all, ok := advise.Fit(&s, was, other, solve(map[string][2]int{"a": {60, 2}, "ac": {50, 1}, "acb": {20, 0}, "ab": {55, 1}}))
	require.True(t, ok)
	require.Equal(t, "fit:a+c+b", all.Mend.ID)
	require.Equal(t, "a slow step makes a table late; every table stays longer", all.Mend.Costs.Text)
	// The set stands first, guests last whatever they save.
	mends := []advise.Mend{{ID: "guests", Guests: true, SavesS: 900}, {ID: "a", SavesS: 100}, c.Mend, {ID: "b", SavesS: 200}}
	advise.Rank(mends)
	require.Equal(t, []string{"fit:a+c", "b", "a", "guests"}, []string{mends[0].ID, mends[1].ID, mends[2].ID, mends[3].ID})
}
