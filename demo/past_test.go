package demo_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/demo"
)

// The nights that are over are the same on every day but for their dates; every guest takes one dish of each course but the second.
func TestThePastIsTheSameOnEveryDay(t *testing.T) {
	day := time.Date(2026, 5, 15, 0, 0, 0, 0, time.UTC)
	list, later := demo.Past(day), demo.Past(day.AddDate(0, 5, 3))
	require.Len(t, list, demo.PastNights)
	for i := range list {
		require.Equal(t, day.AddDate(0, 0, -i-1).Format(time.DateOnly), list[i].Date)
		require.Equal(t, list[i].Tables, later[i].Tables)
		for _, x := range list[i].Tables {
			plates := 0
			for _, o := range x.Orders {
				if o.Dish != list[i].Menu[2].Dish {
					plates += o.Count
				}
			}
			require.Equal(t, 3*x.Covers, plates)
		}
		if i > 0 {
			require.NotEqual(t, list[i-1].Tables, list[i].Tables)
		}
	}
	d, err := demo.Kitchen()
	require.NoError(t, err)
	d.Services = append(demo.Services(day), list...)
	_, err = kitchen.NewBook(d)
	require.NoError(t, err)
}
