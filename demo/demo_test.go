package demo

import (
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

func TestDemoKitchenIsSound(t *testing.T) {
	d, err := Kitchen()
	require.NoError(t, err)
	_, err = kitchen.NewBook(d)
	require.NoError(t, err)
	for _, x := range d.Dishes {
		require.Contains(t, menu, x.ID)
		require.GreaterOrEqual(t, len(x.Specification.Elements), 4, x.Name)
		require.LessOrEqual(t, len(x.Specification.Elements), 8, x.Name)
	}
}
