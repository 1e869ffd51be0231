package demo_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/demo"
)

// The demo's sizes and times go together: what follows from a size is what stands there, and what was typed lies within what is computed.
func TestTimesOfTheDemoFollowFromItsSizes(t *testing.T) {
	d, err := demo.Kitchen()
	require.NoError(t, err)
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	sized := 0
	for _, was := range b.Components() {
		c := was.Clone()
		b.SetTimes(&was, &c)
		for i := range c.Steps {
			require.Equal(t, was.Steps[i].Time, c.Steps[i].Time, was.Name)
			if h := b.Heating(&c.Steps[i]); h != nil {
				sized++
				require.False(t, h.Problem, h.Said.Text)
				likely := c.Steps[i].Time.Fixed.Likely
				require.LessOrEqual(t, h.Time.Low, likely, was.Name)
				require.GreaterOrEqual(t, h.Time.High, likely, was.Name)
			}
		}
	}
	require.GreaterOrEqual(t, sized, 2)
}
