package expand

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// Two people: one is taken from 0 to 20 s with both hands, the other from 10 to 30 s with a quarter.
//
//	0–10: 4; 10–20: 5; 20–30: 1; then 0
func TestHandsOfASectionAddUp(t *testing.T) {
	at := func(s int) time.Time { return time.Unix(int64(s), 0) }
	x := SectionHands{}
	x.sum([]Load{{Steps: []LoadStep{{at(0), 4}, {at(20), 0}}}, {Steps: []LoadStep{{at(10), 1}, {at(30), 0}}}})
	require.Equal(t, []LoadStep{{at(0), 4}, {at(10), 5}, {at(20), 1}, {at(30), 0}}, x.Steps)
	require.Equal(t, int64(5), x.Peak)
	// What changes at one instant is one step.
	x = SectionHands{}
	x.sum([]Load{{Steps: []LoadStep{{at(0), 4}, {at(20), 0}}}, {Steps: []LoadStep{{at(20), 4}, {at(30), 0}}}})
	require.Equal(t, []LoadStep{{at(0), 4}, {at(20), 4}, {at(30), 0}}, x.Steps)
	require.Equal(t, int64(4), x.Peak)
}
