package lines

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestAlignFindsEachLineAgain(t *testing.T) {
	for _, c := range []struct {
		why        string
		typed, was []string
		want       []int
	}{
		{"nothing touched", []string{"a: 1", "b: 2"}, []string{"a: 1", "b: 2"}, []int{0, 1}},
		{"the first of two that read the same was touched", []string{"a: 1, hot", "a: 1"}, []string{"a: 1", "a: 1"}, []int{0, 1}},
		{"the second of two that read the same was touched", []string{"a: 1", "a: 1, hot"}, []string{"a: 1", "a: 1"}, []int{0, 1}},
		{"one of three went", []string{"a: 1", "c: 3"}, []string{"a: 1", "b: 2", "c: 3"}, []int{0, 2}},
		{"a new one between", []string{"a: 1", "n: 9", "b: 2"}, []string{"a: 1", "b: 2"}, []int{0, -1, 1}},
		{"two changed places", []string{"b: 2", "a: 1"}, []string{"a: 1", "b: 2"}, []int{1, 0}},
		{"a wait between is no step", []string{"a: 1", "rest 2 min", "b: 3"}, []string{"a: 1", "b: 2"}, []int{0, -1, 1}},
		{"a name that was changed is none that was", []string{"z: 1"}, []string{"a: 1"}, []int{-1}},
		{"a line without a colon has no name to go by", []string{"1 min, hot"}, []string{"1 min"}, []int{-1}},
		{"as it was goes before the same name", []string{"a: 2", "a: 1"}, []string{"a: 1"}, []int{-1, 0}},
		{"nothing was", []string{"a: 1"}, nil, []int{-1}},
		{"nothing is", nil, []string{"a: 1"}, []int{}},
	} {
		require.Equal(t, c.want, align(c.typed, c.was), c.why)
	}
}
