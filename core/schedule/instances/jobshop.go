// Package instances holds published benchmark problems and generators of large
// ones, for tests, benchmarks and the bench command.
package instances

import (
	"fmt"
	"strconv"
	"strings"

	"jointime/core/workload"
)

// JobShop is a job-shop problem: each job visits the machines in its order.
type JobShop struct {
	Name string
	// Optimum is the optimal makespan.
	Optimum int64
	// Source is where the problem and its optimum were published.
	Source string
	rows   string
}

// Workload makes a workload of a job shop: a resource of one unit for each
// machine, a task for each operation, a link between the operations of a job.
func (s JobShop) Workload() *workload.Workload {
	w := &workload.Workload{Objective: workload.Makespan, Origin: "2026-05-15T12:00:00Z"}
	machines := map[string]bool{}
	for j, row := range strings.Split(strings.TrimSpace(s.rows), "\n") {
		f := strings.Fields(row)
		for k := 0; k+1 < len(f); k += 2 {
			seconds, err := strconv.ParseInt(f[k+1], 10, 64)
			if err != nil {
				panic(err) // the tables stand below
			}
			m := "m" + f[k]
			if !machines[m] {
				machines[m] = true
				w.Resources = append(w.Resources, workload.Resource{ID: m, Capacity: 1})
			}
			id := fmt.Sprintf("j%d.%d", j, k/2)
			w.Tasks = append(w.Tasks, workload.Task{ID: id, Seconds: seconds, Needs: []workload.Need{{AnyOf: []string{m}, Units: 1}}})
			if k > 0 {
				w.Links = append(w.Links, workload.Link{From: fmt.Sprintf("j%d.%d", j, k/2-1), To: id, Kind: workload.FinishStart, Weight: 1})
			}
			w.Horizon += seconds
		}
	}
	return w
}

// JobShops are the benchmarks of the design, with optima from memory.
func JobShops() []JobShop {
	return []JobShop{
		{"FT06", 55, "Fisher & Thompson, in Industrial Scheduling (1963)", `
2 1  0 3  1 6  3 7  5 3  4 6
1 8  2 5  4 10 5 10 0 10 3 4
2 5  3 4  5 8  0 9  1 1  4 7
1 5  0 5  2 5  3 3  4 8  5 9
2 9  1 3  4 5  5 4  0 3  3 1
1 3  3 3  5 9  0 10 4 4  2 1`},
		{"LA01", 666, "Lawrence, Carnegie Mellon University (1984)", `
1 21 0 53 4 95 3 55 2 34
0 21 3 52 4 16 2 26 1 71
3 39 4 98 1 42 2 31 0 12
1 77 0 55 4 79 2 66 3 77
0 83 3 34 2 64 1 19 4 37
1 54 2 43 4 79 0 92 3 62
3 69 4 77 1 87 2 87 0 93
2 38 0 60 1 41 3 24 4 83
3 17 1 49 4 25 0 44 2 98
4 77 3 79 2 43 1 75 0 96`},
		{"FT10", 930, "Fisher & Thompson, in Industrial Scheduling (1963)", `
0 29 1 78 2 9  3 36 4 49 5 11 6 62 7 56 8 44 9 21
0 43 2 90 4 75 9 11 3 69 1 28 6 46 5 46 7 72 8 30
1 91 0 85 3 39 2 74 8 90 5 10 7 12 6 89 9 45 4 33
1 81 2 95 0 71 4 99 6 9  8 52 7 85 3 98 9 22 5 43
2 14 0 6  1 22 5 61 3 26 4 69 8 21 7 49 9 72 6 53
2 84 1 2  5 52 3 95 8 48 9 72 0 47 6 65 4 6  7 25
1 46 0 37 3 61 2 13 6 32 5 21 9 32 8 89 7 30 4 55
2 31 0 86 1 46 5 74 4 32 6 88 8 19 9 48 7 36 3 79
0 76 1 69 3 76 5 51 2 85 9 11 6 40 7 89 4 26 8 74
1 85 0 13 2 61 6 7  8 64 9 76 5 47 3 52 4 90 7 45`},
	}
}
