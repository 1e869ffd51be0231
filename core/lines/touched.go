package lines

import (
	"strings"

	"jointime/core/kitchen"
)

// formerly is a component as it was before its lines were typed, and how it was written: a line that nobody touched is what it was.
type formerly struct {
	*kitchen.Component
	said  []string // the line of each step
	waits map[string]kitchen.Wait
	steps []int // which step each typed line was, -1 for none
}

func linesOf(c *kitchen.Component, typed []string) *formerly {
	was := &formerly{Component: c, waits: map[string]kitchen.Wait{wait(c.Hold): c.Hold}}
	for i := range c.Steps {
		was.said = append(was.said, step(c, i))
		for _, a := range c.Steps[i].After {
			was.waits[wait(a.Wait)] = a.Wait
		}
	}
	was.steps = align(typed, was.said)
	return was
}

// untouched reports whether typed line n is as it was.
func (f *formerly) untouched(n int, said string) bool {
	return f.steps[n] >= 0 && f.said[f.steps[n]] == said
}

// What it is worth to take a typed line for one that was: as it was, or with the same name in front of its colon.
const (
	sameLine = 4
	sameName = 3
)

func alike(typed, was string) int {
	if typed == was {
		return sameLine
	}
	name, _, colon := strings.Cut(was, ": ")
	if now, _, ok := strings.Cut(typed, ": "); ok && colon && now == name {
		return sameName
	}
	return 0
}

// align says which of the lines that were each typed line is, -1 for none: first in their order, the dearest alignment (Needleman and
// Wunsch 1970, without penalties for gaps), so that of two lines that read the same each stays what it was; then lines that were moved.
func align(typed, was []string) []int {
	best := make([][]int, len(typed)+1)
	for i := range best {
		best[i] = make([]int, len(was)+1)
	}
	for i := len(typed) - 1; i >= 0; i-- {
		for j := len(was) - 1; j >= 0; j-- {
			best[i][j] = max(best[i+1][j], best[i][j+1])
			if worth := alike(typed[i], was[j]); worth > 0 {
				best[i][j] = max(best[i][j], worth+best[i+1][j+1])
			}
		}
	}
	out, taken := make([]int, len(typed)), make([]bool, len(was))
	for i := range out {
		out[i] = -1
	}
	for i, j := 0, 0; i < len(typed) && j < len(was); {
		switch worth := alike(typed[i], was[j]); {
		case worth > 0 && best[i][j] == worth+best[i+1][j+1]:
			out[i], taken[j] = j, true
			i, j = i+1, j+1
		case best[i][j] == best[i+1][j]:
			i++
		default:
			j++
		}
	}
	for i := range typed {
		for j := range was {
			if out[i] < 0 && !taken[j] && typed[i] == was[j] {
				out[i], taken[j] = j, true
			}
		}
	}
	return out
}
