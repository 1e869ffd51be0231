package expand

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

// Two people: the hands of one are taken from 0 to 20 s, those of the other from 10 to 30 s.
//
//	0–10: 1; 10–20: 2; 20–30: 1; then 0
func TestHandsOfASectionAddUp(t *testing.T) {
	at := func(s int) time.Time { return time.Unix(int64(s), 0) }
	x := SectionHands{}
	x.sum([]Load{{Steps: []LoadStep{{at(0), 1}, {at(20), 0}}}, {Steps: []LoadStep{{at(10), 1}, {at(30), 0}}}})
	require.Equal(t, []LoadStep{{at(0), 1}, {at(10), 2}, {at(20), 1}, {at(30), 0}}, x.Steps)
	require.Equal(t, int64(2), x.Peak)
	// What changes at one instant is one step.
	x = SectionHands{}
	x.sum([]Load{{Steps: []LoadStep{{at(0), 1}, {at(20), 0}}}, {Steps: []LoadStep{{at(20), 1}, {at(30), 0}}}})
	require.Equal(t, []LoadStep{{at(0), 1}, {at(20), 1}, {at(30), 0}}, x.Steps)
	require.Equal(t, int64(1), x.Peak)
}

// Ten portions: chopped in half an hour, watched for two. The section has half an hour of hands to give, from 10:00 to the
// need at the latest, and its one cook is there for all of it.
func TestWatchingIsNoWorkOfASection(t *testing.T) {
	step := func(id string, minutes int, hands kitchen.Hands) kitchen.Step {
		return kitchen.Step{ID: id, Name: id, Phase: kitchen.Ahead, Hands: hands, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60 * minutes)}}
	}
	d := OneDish("UTC", 48, []kitchen.Step{step("chop", 30, kitchen.Both), step("simmer", 120, kitchen.Tend)})
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	from := time.Date(2026, 5, 14, 10, 0, 0, 0, time.UTC)
	p, err := NewPrep(b, b.Services(), from, nil, nil)
	require.NoError(t, err)
	work, there := p.sectionLoad("stove", from, from.Add(9*time.Hour))
	require.Equal(t, 30*time.Minute, work)
	require.Equal(t, 9*time.Hour, there)
}
