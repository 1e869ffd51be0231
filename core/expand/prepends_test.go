package expand_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// ended is a step that needs nobody but to be put in and taken out, two minutes each.
func ended(name string, minutes int) kitchen.Step {
	s := st(name, minutes, kitchen.None, 0)
	s.Ends = kitchen.Ends{InS: 120, OutS: 120}
	return s
}

// The cook is there from 10:00 to 23:00. What soaks for 9½ h cannot be put in and be done on the day of the service, which
// wants it at 18:30 with 30 min of simmering before: put in the day before it is done in the night, stays in its water, and
// is lifted out when the cook comes, at 10:00.
func TestWhatEndsInTheNightStaysUntilTheMorning(t *testing.T) {
	_, p := prepOf(t, at(13, 15, 0), nil, 48, ended("soak", 570), st("simmer", 30, kitchen.Both, 0))
	soak := p.Jobs[0].Steps[0]
	require.Len(t, soak.Acts, 2)
	require.Equal(t, expand.ActIn, soak.Acts[0].Kind)
	require.Equal(t, soak.StartAt, soak.Acts[0].At)
	in, out := soak.Acts[0], soak.Acts[1]
	require.Equal(t, 13, in.At.Day())
	require.False(t, in.Until.After(at(13, 23, 0)), "%s", in.Until)
	require.Equal(t, 14, out.At.Day())
	require.False(t, out.At.Before(at(14, 10, 0)), "%s", out.At)
	require.Equal(t, soak.FinishAt, out.Until)
	require.Equal(t, soak.FinishAt.Sub(soak.StartAt).Seconds(), float64(570*60+soak.StaysS))
	require.Positive(t, soak.StaysS)
	require.Equal(t, "Chef", in.Who)
	require.EqualValues(t, 240+1800, p.Jobs[0].HandsS)
}

// Half an hour after it is the most: it would have to be lifted out before the cook comes, so it is late instead, and said.
func TestWhatMayNotStayBeginsAtAnotherTime(t *testing.T) {
	simmer := st("simmer", 30, kitchen.Both, 0)
	half := 1800
	simmer.After = []kitchen.Predecessor{{Wait: kitchen.Wait{Longest: &half}}}
	_, p := prepOf(t, at(13, 15, 0), nil, 48, ended("soak", 570), simmer)
	soak := p.Jobs[0].Steps[0]
	require.LessOrEqual(t, soak.StaysS, int64(1800))
	require.False(t, soak.Acts[0].At.Hour() < 10 || soak.Acts[1].At.Hour() < 10)
	// From the oven it comes when it is done, in the hours of the cook.
	hot := ended("bake", 570)
	c := 140.0
	hot.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &c}
	_, p = prepOf(t, at(13, 9, 0), nil, 48, hot)
	bake := p.Jobs[0].Steps[0]
	require.Zero(t, bake.StaysS)
	require.GreaterOrEqual(t, bake.StartAt.Hour(), 10)
	require.InDelta(t, 570*60, bake.FinishAt.Sub(bake.StartAt).Seconds(), 0)
}

// Ticked at 12:00: it was put in and taken out by then. What goes on by itself since what came before was ticked was put in,
// and is still to be taken out.
func TestActsOfWhatIsDone(t *testing.T) {
	steps := []kitchen.Step{st("cut", 30, kitchen.Both, 0), ended("soak", 120), st("simmer", 30, kitchen.Both, 0)}
	p, _ := prepOf(t, at(14, 10, 0), nil, 48, steps...)
	id := func(step string) string { return expand.TaskID(p.Amounts.Batches[0].ID, step, 1) }
	done := map[string]expand.Done{id("cut"): {Batch: p.Amounts.Batches[0].ID, At: at(14, 11, 0)}}
	_, plan := prepOf(t, at(14, 11, 30), done, 48, steps...)
	soak := plan.Jobs[0].Steps[1]
	require.True(t, soak.Begun)
	require.Equal(t, at(14, 11, 0).UTC(), soak.Acts[0].At.UTC())
	require.False(t, soak.Acts[1].Until.Before(at(14, 13, 0)), "%s", soak.Acts[1].Until)
	done[id("soak")] = expand.Done{Batch: p.Amounts.Batches[0].ID, At: at(14, 13, 10)}
	_, plan = prepOf(t, at(14, 13, 20), done, 48, steps...)
	soak = plan.Jobs[0].Steps[1]
	require.True(t, soak.Done)
	require.Equal(t, at(14, 13, 10).UTC(), soak.Acts[1].Until.UTC())
}

// It began by itself at 22:30 and is done at half past midnight: it is lifted out when the cook comes, though it was to be out
// when it was done.
func TestWhatGoesOnByItselfIsTakenOutByWhoComes(t *testing.T) {
	hot := ended("bake", 120)
	c := 140.0
	hot.Equipment = &kitchen.EquipmentNeed{Kind: kitchen.Oven, Units: 1, SetpointC: &c}
	steps := []kitchen.Step{st("cut", 30, kitchen.Both, 0), hot, st("simmer", 30, kitchen.Both, 0)}
	p, _ := prepOf(t, at(13, 10, 0), nil, 48, steps...)
	done := map[string]expand.Done{expand.TaskID(p.Amounts.Batches[0].ID, "cut", 1): {Batch: p.Amounts.Batches[0].ID, At: at(13, 22, 30)}}
	_, plan := prepOf(t, at(13, 22, 40), done, 48, steps...)
	bake := plan.Jobs[0].Steps[1]
	require.True(t, bake.Begun)
	require.Equal(t, at(13, 22, 30).UTC(), bake.StartAt.UTC())
	require.False(t, bake.Acts[1].At.Before(at(14, 10, 0)), "%s", bake.Acts[1].At)
	require.NotEqual(t, "best-effort", string(plan.Status))
}

// An eye on it is somebody's time, once: the hands at its ends lie within it.
func TestWhatTakesNobodyIsWaiting(t *testing.T) {
	s := st("simmer", 60, kitchen.Tend, 0)
	s.Ends = kitchen.Ends{InS: 60, OutS: 60}
	_, p := prepOf(t, at(14, 10, 0), nil, 48, s, ended("cool", 30))
	j := p.Jobs[0]
	require.EqualValues(t, 120+240, j.HandsS)
	total := int64(j.ReadyAt.Sub(j.StartAt).Seconds())
	require.Equal(t, total-3600-240, j.WaitS)
}
