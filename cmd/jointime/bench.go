package main

import (
	"context"
	"fmt"
	"runtime"
	"strconv"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"jointime/core/schedule"
	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// row is one measured search.
type row struct {
	name            string
	status          workload.Status
	cost, bound     int64
	first, at, took time.Duration // first schedule, best schedule, whole search
	atCheck         map[time.Duration]int64
	memory          uint64
}

func benchCommand() *cobra.Command {
	var long float64
	var file string
	var seeds int
	c := &cobra.Command{
		Use: "bench", Short: "Measure the scheduler on published and generated workloads", Args: cobra.NoArgs,
		Long: "Measure the scheduler. Published optima from memory: FT06 55, FT10 930 (Fisher & Thompson 1963), LA01 666 (Lawrence 1984). " +
			"The rest is generated from a seed.",
		RunE: func(cmd *cobra.Command, _ []string) error {
			if file != "" {
				return curves(cmd.Context(), cmd.OutOrStdout(), file, seeds, long)
			}
			t := tabwriter.NewWriter(cmd.OutOrStdout(), 0, 4, 2, ' ', 0)
			fmt.Fprintln(t, "work\tstatus\tcost\tbound\tfirst s\tbest s\tsearch s\theap MB\tremark")
			show := func(r row, remark string) {
				fmt.Fprintf(t, "%s\t%s\t%d\t%d\t%.3f\t%.2f\t%.2f\t%d\t%s\n", r.name, r.status, r.cost, r.bound,
					r.first.Seconds(), r.at.Seconds(), r.took.Seconds(), r.memory>>20, remark)
				t.Flush()
			}
			for _, js := range instances.JobShops() {
				seconds := 5.0
				if js.Name == "FT10" {
					seconds = min(60, long)
				}
				r := measure(cmd.Context(), js.Name, js.Workload(), seconds, schedule.Options{Seed: 1}, 10*time.Second)
				show(r, fmt.Sprintf("optimum %d; after 10 s %s", js.Optimum, percent(r.atCheck[10*time.Second], js.Optimum)))
			}
			kitchens(cmd.Context(), show)
			projects(cmd.Context(), show)
			services(cmd.Context(), long, show)
			return nil
		},
	}
	c.Flags().StringVar(&file, "curves", "", "measure the families of evenings instead, and draw cost against time into this SVG file")
	c.Flags().IntVar(&seeds, "seeds", 10, "how often each of them is searched, with another seed each")
	c.Flags().Float64Var(&long, "long", 60, "seconds of the long searches")
	return c
}

func percent(cost, of int64) string {
	if of == 0 {
		return strconv.FormatInt(cost, 10) + " against 0"
	}
	return fmt.Sprintf("%+.2f %%", 100*(float64(cost)/float64(of)-1))
}

// measure runs one search and notes its cost at some instants.
func measure(ctx context.Context, name string, w *workload.Workload, seconds float64, o schedule.Options, checks ...time.Duration) row {
	runtime.GC()
	ctx, cancel := context.WithTimeout(ctx, time.Duration(seconds*float64(time.Second)))
	defer cancel()
	o.Left = timeLeft(ctx)
	r := row{name: name, atCheck: map[time.Duration]int64{}}
	began := time.Now()
	var last schedule.Progress
	o.Progress = func(p schedule.Progress) {
		if p.Cost == last.Cost && p.Bound == last.Bound && r.first > 0 {
			return // only how far it is
		}
		last = p
		r.at = time.Since(began)
		if r.first == 0 {
			r.first = r.at
		}
		for _, c := range checks {
			if r.at <= c {
				r.atCheck[c] = p.Cost
			}
		}
	}
	s := schedule.Solve(ctx, w, o)
	r.took = time.Since(began)
	r.status = s.Status
	if s.Cost != nil {
		r.cost = *s.Cost
	}
	if s.LowerBound != nil {
		r.bound = *s.LowerBound
	}
	var m runtime.MemStats
	runtime.ReadMemStats(&m)
	r.memory = m.Sys
	return r
}

// kitchens measures the small workloads together: how many are proved, and the
// longest of them.
func kitchens(ctx context.Context, show func(row, string)) {
	var longest row
	proved := 0
	for i := range instances.Kitchens {
		r := measure(ctx, fmt.Sprintf("kitchen %d", i), instances.Kitchen(i), 5, schedule.Options{Seed: 1})
		if r.status == workload.Optimal || r.status == workload.Impossible {
			proved++
		}
		if r.took > longest.took {
			longest = r
		}
	}
	show(longest, fmt.Sprintf("the longest of %d, %d proved", instances.Kitchens, proved))
	proved = 0
	longest = row{}
	const many = 12
	for i := range many {
		r := measure(ctx, fmt.Sprintf("25 tasks, %d", i), instances.Rush(25, uint64(i)), 5, schedule.Options{Seed: 1})
		if r.status == workload.Optimal || r.status == workload.Impossible {
			proved++
		}
		if r.took > longest.took {
			longest = r
		}
	}
	show(longest, fmt.Sprintf("the longest of %d, %d proved", many, proved))
}

func projects(ctx context.Context, show func(row, string)) {
	const many = 20
	proved := 0
	var gap float64
	var longest row
	for i := range many {
		r := measure(ctx, fmt.Sprintf("project 30×4, %d", i), instances.Project(30, 4, uint64(i)), 5, schedule.Options{Seed: 1})
		if r.status == workload.Optimal {
			proved++
		}
		gap += float64(r.cost)/float64(max(1, r.bound)) - 1
		if r.took > longest.took {
			longest = r
		}
	}
	show(longest, fmt.Sprintf("the longest of %d, %d proved, %.2f %% over the bound on average", many, proved, 100*gap/many))
}

// services measures large ones, and planning again after a run that took 20 s longer.
func services(ctx context.Context, long float64, show func(row, string)) {
	for _, l := range []struct {
		name string
		w    *workload.Workload
	}{{"service 1500", instances.Service(1500, 45, 1)}, {"three sittings", instances.ThreeSittings().Evening(1)},
		{"service 5000", instances.Service(5000, 150, 1)}} {
		for _, seconds := range []float64{2, 10, long} {
			r := measure(ctx, l.name, l.w, seconds, schedule.Options{Seed: 1})
			show(r, fmt.Sprintf("%d tasks, given %g s", len(l.w.Tasks), seconds))
		}
	}
	for _, n := range append(instances.Nights(), instances.ThreeSittings()) {
		w := n.Evening(1)
		told := schedule.Solve(ctx, w, schedule.Options{Seed: 1, Rounds: 4000})
		again, _ := instances.Delayed(w, told, len(w.Tasks)/3, 20)
		began := time.Now()
		s := schedule.Solve(ctx, again, schedule.Options{Seed: 1, Rounds: 20, Anyway: true, Previous: told, MovePrice: 2})
		took := time.Since(began)
		moved, joins := s.Moved(told, nil)
		show(row{name: "again, " + n.Name, status: s.Status, cost: *s.Cost, took: took, first: took, at: took},
			fmt.Sprintf("%d open; moved %d s and %d joins", len(again.Tasks)-len(again.FixedTasks()), moved, joins))
	}
}
