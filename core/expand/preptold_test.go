package expand_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/verify"
)

// prepared plans the make-ahead work of a kitchen from ten in the morning.
func prepared(t *testing.T, d kitchen.Data, told map[string]*expand.Told) *expand.PrepPlan {
	t.Helper()
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	p, err := expand.NewPrep(b, b.Services(), at(14, 10, 0), nil, told)
	require.NoError(t, err)
	s := schedule.Solve(context.Background(), p.Workload, schedule.Options{Seed: 1, Rounds: 3000, Anyway: true})
	broken, err := verify.Check(p.Workload, s)
	require.NoError(t, err)
	require.Empty(t, broken)
	return p.Read(s)
}

// across is a component cut ahead for ten minutes and finished to order for four, with the longest wait between.
func across(longest int, tables ...kitchen.ServiceTable) kitchen.Data {
	cut := st("cut", 10, kitchen.Both, 0)
	finish := pick("finish", kitchen.Both, 240, kitchen.Predecessor{Step: "cut"})
	finish.Name = "finish"
	if longest > 0 {
		finish.After[0].Longest = &longest
	}
	d := expand.OneDish("Europe/Copenhagen", 48, []kitchen.Step{cut, finish})
	if len(tables) > 0 {
		d.Services[0].Tables = tables
	}
	return d
}

// By hand. The dish goes at 19:00, so that it is finished from 18:56 on: the cut is complete half an hour before, at 18:26; with
// twenty minutes to the first course at 18:30, half an hour before the guests. A told plan fires it at 17:46 (a leg that roasts for long):
// complete by 17:16.
func TestPrepIsReadyForItsFirstFire(t *testing.T) {
	j := prepared(t, across(0), nil).Jobs[0]
	require.Equal(t, at(14, 18, 56), j.NeedBy)
	require.False(t, j.ReadyAt.After(at(14, 18, 26)))
	later := across(0)
	later.Services[0].FirstAfterMin = 20
	require.Equal(t, at(14, 19, 0), prepared(t, later, nil).Jobs[0].NeedBy)
	told := map[string]*expand.Told{"s": {Fired: map[string]time.Time{"c": at(14, 17, 46)}}}
	j = prepared(t, across(0), told).Jobs[0]
	require.Equal(t, at(14, 17, 46), j.NeedBy)
	require.False(t, j.ReadyAt.After(at(14, 17, 16)), j.ReadyAt)
	// Salted, it must wait forty minutes before it is fired: the first of that counts.
	d := across(0)
	d.Components[0].Steps[1].After[0].Shortest = 2400
	j = prepared(t, d, told).Jobs[0]
	require.Equal(t, at(14, 17, 6), j.NeedBy)
	// Where no plan was told, what is fired sooner than the guests come is known from its length.
	d = across(0)
	d.Components[0].Steps[1].Time.Fixed = kitchen.Exactly(3 * 3600)
	j = prepared(t, d, nil).Jobs[0]
	require.Equal(t, at(14, 16, 0), j.NeedBy)
}

// By hand. Fish in acid waits 90 min at the most, 22:30 of which are its lead; wanted at 18:56, 19:56, 20:56, 21:56 (four
// minutes before each table), a batch can be for what lies within 67:30 of its first: two tables each, two batches. With three
// hours (2:30 apart) one batch is for the first three and another for the last; with a day one is for all.
func TestWhatKeepsForSoLongIsMadeAgain(t *testing.T) {
	tables := func() (out []kitchen.ServiceTable) {
		for i, id := range []string{"a", "b", "c", "d"} {
			out = append(out, kitchen.ServiceTable{ID: id, Name: id, Covers: 10, SeatedAt: (19 + i) * 60})
		}
		return out
	}
	for longest, want := range map[int][]time.Time{
		5400:  {at(14, 18, 56), at(14, 20, 56)},
		10800: {at(14, 18, 56), at(14, 21, 56)},
		86400: {at(14, 18, 56)},
	} {
		plan := prepared(t, across(longest, tables()...), nil)
		var got []time.Time
		for _, j := range plan.Jobs {
			got = append(got, j.NeedBy)
			last := j.NeedBy.Add(time.Duration(longest) * time.Second)
			require.False(t, j.ReadyAt.After(j.NeedBy), "%d: ready %s", longest, j.ReadyAt)
			if len(want) == 2 {
				require.True(t, last.After(j.NeedBy))
			}
		}
		require.Equal(t, want, got, longest)
		for _, x := range plan.Trouble {
			require.NotContains(t, x.Said.Text, "may wait", longest)
		}
	}
}

// Where nobody has a minute for the second batch, it is made before the service, and it is said that it waits too long.
func TestWhatWaitsTooLongForItsPlateIsSaid(t *testing.T) {
	tables := []kitchen.ServiceTable{{ID: "a", Name: "a", Covers: 10, SeatedAt: 19 * 60}, {ID: "b", Name: "b", Covers: 10, SeatedAt: 21 * 60}}
	free := prepared(t, across(3600, tables...), nil)
	require.Len(t, free.Jobs, 2)
	require.Empty(t, free.Trouble)
	require.True(t, free.Jobs[1].StartAt.After(at(14, 19, 0)), "made in a gap of the service")
	hands := expand.ResourceRef{Kind: kitchen.PersonRecord, ID: "chef", Part: expand.Hands}
	told := map[string]*expand.Told{"s": {Fired: map[string]time.Time{"c": at(14, 18, 56)},
		Taken: []expand.Taken{{Of: hands, From: at(14, 18, 50), To: at(14, 22, 45), Units: 1}}}}
	taken := prepared(t, across(3600, tables...), told)
	require.NotEmpty(t, taken.Trouble)
	// A gap of twelve minutes is enough for ten.
	told["s"].Taken = []expand.Taken{{Of: hands, From: at(14, 18, 50), To: at(14, 20, 20), Units: 1},
		{Of: hands, From: at(14, 20, 32), To: at(14, 22, 45), Units: 1}}
	gap := prepared(t, across(3600, tables...), told)
	require.Empty(t, gap.Trouble)
	require.False(t, gap.Jobs[1].StartAt.Before(at(14, 20, 20)))
	require.False(t, gap.Jobs[1].ReadyAt.After(at(14, 20, 32)))
}

// The hands and the oven that a told plan takes before its guests come are not there for the make-ahead work.
func TestPrepSeesWhatIsFired(t *testing.T) {
	d := across(0)
	hands := expand.ResourceRef{Kind: kitchen.PersonRecord, ID: "chef", Part: expand.Hands}
	told := map[string]*expand.Told{"s": {Taken: []expand.Taken{{Of: hands, From: at(14, 10, 0), To: at(14, 18, 15), Units: 1}}}}
	j := prepared(t, d, told).Jobs[0]
	require.False(t, j.StartAt.Before(at(14, 18, 15)), j.StartAt)
	// An oven at the service's heat is the service's, however many shelves it takes.
	heat := 140.0
	d.Components[0].Steps[0].Hands = kitchen.None
	d.Components[0].Steps[0].Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &heat}
	oven := expand.ResourceRef{Kind: kitchen.EquipmentRecord, ID: "oven"}
	told["s"].Taken = []expand.Taken{{Of: oven, From: at(14, 10, 0), To: at(14, 18, 15), Units: 1}}
	j = prepared(t, d, told).Jobs[0]
	require.False(t, j.StartAt.Before(at(14, 18, 15)), j.StartAt)
}

// What a told plan says: when each thing is first wanted, and what it takes of whom.
func TestWhatATolPlanSays(t *testing.T) {
	fish := kitchen.Component{ID: "fish", Hold: kitchen.Wait{Longest: seconds(300)}, Steps: []kitchen.Step{pick("sear", kitchen.Both, 240)}}
	d := served([]kitchen.Component{fish, {ID: "cress"}}, []kitchen.Element{{Component: "fish", Seconds: 10},
		{Component: "cress", Seconds: 10}},
		table("a", 1, 19*60), table("b", 1, 19*60+30))
	e, s, p := evening(t, d, true)
	told := e.Told(s)
	require.Equal(t, p.Fires[0].At, told.Fired["fish"].In(p.Fires[0].At.Location()))
	require.Equal(t, p.Joins[0].At.Add(-10*time.Second), told.Fired["cress"].In(p.Joins[0].At.Location()), "put on last")
	hands := int64(0)
	for _, x := range told.Taken {
		if x.Of == (expand.ResourceRef{Kind: kitchen.PersonRecord, ID: "a", Part: expand.Hands}) {
			hands += int64(x.To.Sub(x.From).Seconds())
		}
	}
	require.Equal(t, int64(480), hands)
}

// By hand. A braise takes 3 h from when the cook is there and can be ready by 16:10; pressed half an hour after at the most,
// since nobody said that it may stand warm. Said otherwise it may. Its use-by counts from when it was cooked.
func TestWhatIsCookedGoesOnAtOnce(t *testing.T) {
	heat := 140.0
	braise := st("braise", 180, kitchen.None, 0)
	braise.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &heat}
	press := st("press", 10, kitchen.Both, 0)
	press.After = []kitchen.Predecessor{{Step: "braise"}}
	d := expand.OneDish("Europe/Copenhagen", 72, []kitchen.Step{braise, press})
	c := &d.Components[0]
	w := c.PlannedAhead(&c.Steps[1], c.Steps[1].After[0])
	require.True(t, w.Assumed)
	require.Equal(t, 1800, *w.Longest)
	j := prepared(t, d, nil).Jobs[0]
	require.False(t, j.Steps[1].StartAt.Sub(j.Steps[0].FinishAt) > 30*time.Minute)
	require.Equal(t, j.Steps[0].FinishAt.Add(72*time.Hour), *j.UseBy)
	c.Steps[1].After[0].NoLimit = true
	require.False(t, c.PlannedAhead(&c.Steps[1], c.Steps[1].After[0]).Assumed)
	c.Steps[1].After[0] = kitchen.Predecessor{Step: "braise", Wait: kitchen.Wait{Place: kitchen.Chilled}}
	require.False(t, c.PlannedAhead(&c.Steps[1], c.Steps[1].After[0]).Assumed, "it is chilled")
	c.Steps[0].Equipment = nil
	c.Steps[1].After[0] = kitchen.Predecessor{Step: "braise"}
	require.False(t, c.PlannedAhead(&c.Steps[1], c.Steps[1].After[0]).Assumed, "nothing was cooked")
	require.Nil(t, c.Cooked())
	j = prepared(t, d, nil).Jobs[0]
	require.Equal(t, j.ReadyAt.Add(72*time.Hour), *j.UseBy)
}
