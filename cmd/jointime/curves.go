package main

import (
	"context"
	"fmt"
	"io"
	"math"
	"os"
	"runtime"
	"strings"
	"text/tabwriter"
	"time"

	"jointime/core/schedule"
	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// point is what a search had found after some time.
type point struct {
	seconds float64
	cost    int64
}

// curve is what searches of one work by one seed came to: on the way of the longest of them, and of each that was given so many seconds.
type curve struct {
	seed   int64
	points []point
	asked  []point // the shortest first
	bound  int64   // what the longest proved
	gains  []schedule.Gain
}

// shorter are the seconds that searches are given beside the longest.
var shorter = []float64{1, 2, 5}

// at is the cost of the longest search that was given no more than so many seconds, 0 where there is none.
func (c *curve) at(seconds float64) (cost int64) {
	for _, p := range c.asked {
		if p.seconds <= seconds {
			cost = p.cost
		}
	}
	return cost
}

// family is the curves of one work.
type family struct {
	name   string
	tasks  int
	curves []curve
}

// best is the least that any of its searches found.
func (f *family) best() int64 {
	best := int64(math.MaxInt64)
	for i := range f.curves {
		for _, p := range f.curves[i].asked {
			best = min(best, p.cost)
		}
	}
	return best
}

// proved is the largest share of the best known that one of its searches proved to be needed.
func (f *family) proved() float64 {
	bound := int64(0)
	for i := range f.curves {
		bound = max(bound, f.curves[i].bound)
	}
	return float64(bound) / float64(max(1, f.best()))
}

// gains is what each neighbourhood did in all of its searches.
func (f *family) gains() (sum []schedule.Gain) {
	for i := range f.curves {
		sum = schedule.AddGains(sum, f.curves[i].gains)
	}
	return sum
}

// spread is by how much the dearest of the seeds is over the cheapest after some seconds.
func (f *family) spread(seconds float64) float64 {
	low, high := int64(math.MaxInt64), int64(0)
	for i := range f.curves {
		c := f.curves[i].at(seconds)
		low, high = min(low, c), max(high, c)
	}
	return float64(high)/float64(max(1, low)) - 1
}

// over is by how much the seeds are over the best known after some seconds, in the mean.
func (f *family) over(seconds float64) float64 {
	sum := 0.0
	for i := range f.curves {
		sum += float64(f.curves[i].at(seconds)) / float64(max(1, f.best()))
	}
	return sum/float64(len(f.curves)) - 1
}

// curves measures the families of evenings: cost against time, several seeds of each.
func curves(ctx context.Context, out io.Writer, file string, seeds int, seconds float64) error {
	t := tabwriter.NewWriter(out, 0, 4, 2, ' ', 0)
	fmt.Fprintln(t, "evening\ttasks\tbest known\tover it after 1 s\t2 s\t5 s\tat the end\tseeds apart after 5 s\tat the end\tproved")
	var all []family
	for _, n := range instances.Nights() {
		w := n.Evening(7)
		f := family{name: n.Name, tasks: len(w.Tasks)}
		for seed := range seeds {
			f.curves = append(f.curves, followAll(ctx, w, int64(seed+1), seconds))
		}
		all = append(all, f)
		share := func(x float64) string { return fmt.Sprintf("%.1f %%", 100*x) }
		fmt.Fprintf(t, "%s\t%d\t%d\t%s\t%s\t%s\t%s\t%s\t%s\t%s\n", f.name, f.tasks, f.best(), share(f.over(1)), share(f.over(2)),
			share(f.over(5)), share(f.over(seconds)), share(f.spread(5)), share(f.spread(seconds)), share(f.proved()))
		t.Flush()
	}
	showGains(out, all)
	return os.WriteFile(file, []byte(drawCurves(all, seconds)), 0o600)
}

// showGains lists what each neighbourhood had of the rounds of all its family's searches, and of what they won.
func showGains(out io.Writer, all []family) {
	t := tabwriter.NewWriter(out, 0, 4, 2, ' ', 0)
	defer t.Flush()
	fmt.Fprint(t, "\nof the rounds, and of what was won")
	sums := make([][]schedule.Gain, len(all))
	for i := range all {
		fmt.Fprintf(t, "\t%s", all[i].name)
		sums[i] = all[i].gains()
	}
	fmt.Fprintln(t)
	for k := range sums[0] {
		fmt.Fprint(t, sums[0][k].Neighbourhood)
		for i := range all {
			var rounds, won int64
			for _, g := range sums[i] {
				rounds, won = rounds+g.Rounds, won+g.Won
			}
			g := sums[i][k]
			fmt.Fprintf(t, "\t%.0f %%, %.0f %%", 100*float64(g.Rounds)/float64(max(1, rounds)), 100*float64(g.Won)/float64(max(1, won)))
		}
		fmt.Fprintln(t)
	}
}

// followAll searches for so many seconds, and for each that is shorter by itself: a search that is told how long it has is at its best
// then, and one that goes on is not.
func followAll(ctx context.Context, w *workload.Workload, seed int64, seconds float64) curve {
	var asked []point
	for _, s := range shorter {
		if s < seconds {
			c := follow(ctx, w, seed, s)
			asked = append(asked, c.asked...)
		}
	}
	c := follow(ctx, w, seed, seconds)
	c.asked = append(asked, c.asked...)
	return c
}

func follow(ctx context.Context, w *workload.Workload, seed int64, seconds float64) curve {
	runtime.GC()
	ctx, cancel := context.WithTimeout(ctx, time.Duration(seconds*float64(time.Second)))
	defer cancel()
	c := curve{seed: seed}
	began := time.Now()
	note := func(cost int64) {
		if n := len(c.points); n == 0 || cost < c.points[n-1].cost {
			c.points = append(c.points, point{time.Since(began).Seconds(), cost})
		}
	}
	s := schedule.Solve(ctx, w, schedule.Options{Seed: seed, Anyway: true, Left: timeLeft(ctx), Progress: func(p schedule.Progress) {
		note(p.Cost)
		c.gains = append(c.gains[:0], p.Gains...)
	}})
	note(*s.Cost)
	c.asked = []point{{seconds, *s.Cost}}
	if s.LowerBound != nil {
		c.bound = *s.LowerBound
	}
	return c
}

// Sizes of the picture, in its own units.
const (
	panelW, panelH = 300.0, 190.0
	padding        = 34.0
	perRow         = 3
	topRatio       = 2.5  // what is dearer is cut off
	firstSecond    = 0.05 // where the axis of time begins
)

// drawCurves draws a panel for each family: time to the right, by its logarithm; the cost over the best known upwards; a line for each
// long search, and a dot for what each came to by how long it was given.
func drawCurves(all []family, seconds float64) string {
	rows := (len(all) + perRow - 1) / perRow
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %g %g" font-family="sans-serif" font-size="10">`+"\n",
		perRow*panelW, float64(rows)*panelH)
	fmt.Fprintf(&b, `<rect width="100%%" height="100%%" fill="white"/>`+"\n")
	for i := range all {
		f := &all[i]
		x0, y0 := float64(i%perRow)*panelW, float64(i/perRow)*panelH
		x := func(s float64) float64 {
			share := math.Log(max(s, firstSecond)/firstSecond) / math.Log(seconds/firstSecond)
			return x0 + padding + share*(panelW-padding-10)
		}
		y := func(ratio float64) float64 {
			return y0 + 20 + (topRatio-min(ratio, topRatio))/(topRatio-1)*(panelH-20-padding)
		}
		fmt.Fprintf(&b, `<text x="%.1f" y="%.1f" font-weight="bold">%s, %d tasks</text>`+"\n", x0+padding, y0+13, f.name, f.tasks)
		for _, r := range []float64{1, 1.05, 1.15, 1.5, 2} {
			fmt.Fprintf(&b, `<line x1="%.1f" x2="%.1f" y1="%.1f" y2="%.1f" stroke="#ccc" stroke-width="0.5"/>`+"\n", x0+padding, x0+panelW-10, y(r),
				y(r))
		}
		for _, r := range []float64{1, 1.5, 2} {
			fmt.Fprintf(&b, `<text x="%.1f" y="%.1f" text-anchor="end" fill="#555">%g</text>`+"\n", x0+padding-4, y(r)+3, r)
		}
		for _, s := range []float64{0.1, 1, 5, 20, 60} {
			if s <= seconds {
				fmt.Fprintf(&b, `<text x="%.1f" y="%.1f" text-anchor="middle" fill="#555">%g s</text>`+"\n", x(s), y0+panelH-padding+14, s)
			}
		}
		for k := range f.curves {
			c := &f.curves[k]
			var path strings.Builder
			for n, p := range c.points {
				ratio := float64(p.cost) / float64(max(1, f.best()))
				if n == 0 {
					fmt.Fprintf(&path, "M%.1f %.1f", x(p.seconds), y(ratio))
				} else {
					fmt.Fprintf(&path, "H%.1fV%.1f", x(p.seconds), y(ratio))
				}
			}
			fmt.Fprintf(&path, "H%.1f", x(seconds))
			fmt.Fprintf(&b, `<path d="%s" fill="none" stroke="#2a6f77" stroke-width="0.9" opacity="0.7"/>`+"\n", path.String())
			for _, p := range c.asked {
				fmt.Fprintf(&b, `<circle cx="%.1f" cy="%.1f" r="2" fill="#2a6f77"/>`+"\n", x(p.seconds), y(float64(p.cost)/float64(max(1, f.best()))))
			}
		}
	}
	b.WriteString("</svg>\n")
	return b.String()
}
