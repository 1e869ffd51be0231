// Command optima derives the proved optima of the small kitchen workloads, or of the small evenings, again,
// with a general-purpose constraint solver (MiniZinc with Gecode; Debian package
// minizinc), and writes them to core/schedule/testdata/optima.json, or nights.json:
//
//	go run ./scripts/optima
//	go run ./scripts/optima nights
//
// The model below is written from the description of the format, not from the
// scheduler: it is the outside view that the scheduler is checked against.
package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"jointime/core/schedule"
	"jointime/core/schedule/instances"
	"jointime/core/workload"
)

// Optimum of one workload; nil means that none of its schedules keeps every rule.
type Optimum struct {
	Kitchen *int   `json:"kitchen,omitempty"`
	Night   *int   `json:"night,omitempty"`
	Cost    *int64 `json:"cost"`
}

func main() {
	var out []Optimum
	many, draw, file := instances.Kitchens, instances.Kitchen, "optima.json"
	nights := len(os.Args) > 1 && os.Args[1] == "nights"
	if nights {
		many, draw, file = instances.SmallNights, instances.SmallNight, "nights.json"
	}
	for i := range many {
		w := draw(i)
		cost, err := solve(w, hint(w))
		if errors.Is(err, errTime) {
			fmt.Println(i, "not proved in time: left out")
			continue
		}
		if err != nil {
			fmt.Fprintln(os.Stderr, i, err)
			os.Exit(1)
		}
		if nights {
			out = append(out, Optimum{Night: &i, Cost: cost})
		} else {
			out = append(out, Optimum{Kitchen: &i, Cost: cost})
		}
		if cost == nil {
			fmt.Println(i, "impossible")
		} else {
			fmt.Println(i, *cost)
		}
	}
	b, err := json.MarshalIndent(out, "", " ")
	if err == nil {
		err = os.WriteFile("core/schedule/testdata/"+file, append(b, '\n'), 0o644)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

var total = regexp.MustCompile(`total=(-?\d+)`)

// hint is a cost that the scheduler reached, to shorten the solver's search: it looks
// for the least cost up to it. Were the hint below the optimum, the solver would
// find nothing, and that would be an error; were it above, the solver finds what is
// better. The proof stays the solver's own.
func hint(w *workload.Workload) *int64 {
	ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
	defer cancel()
	s := schedule.Solve(ctx, w, schedule.Options{Seed: 1})
	if s.Status == workload.Optimal || s.Status == workload.Feasible {
		return s.Cost
	}
	return nil
}

// errTime means that the solver ended without a proof.
var errTime = errors.New("no proof in time")

func solve(w *workload.Workload, most *int64) (*int64, error) {
	f, err := os.CreateTemp("", "*.mzn")
	if err != nil {
		return nil, err
	}
	defer os.Remove(f.Name())
	if _, err := f.WriteString(model(w, most)); err != nil {
		return nil, err
	}
	if err := f.Close(); err != nil {
		return nil, err
	}
	b, err := exec.Command("minizinc", "--solver", "gecode", "--time-limit", "90000", f.Name()).CombinedOutput()
	text := string(b)
	if err != nil {
		return nil, fmt.Errorf("%w: %s", err, text)
	}
	if strings.Contains(text, "UNSATISFIABLE") {
		if most != nil {
			return nil, fmt.Errorf("the solver finds nothing at cost %d or below", *most)
		}
		return nil, nil
	}
	if !strings.Contains(text, "==========") {
		return nil, errTime
	}
	all := total.FindAllStringSubmatch(text, -1)
	v, err := strconv.ParseInt(all[len(all)-1][1], 10, 64)
	return &v, err
}

// model writes a workload as a MiniZinc model, rule by rule.
func model(w *workload.Workload, most *int64) string {
	var b strings.Builder
	p := func(format string, args ...any) { fmt.Fprintf(&b, format+"\n", args...) }
	p(`include "cumulative.mzn";`)
	resource := map[string]int{}
	for i, r := range w.Resources {
		resource[r.ID] = i + 1
	}
	fixed := w.FixedTasks()
	start, length := map[string]string{}, map[string]string{} // as the model says them
	place := map[string]int{}
	now := int64(0)
	if w.Now != nil {
		now = *w.Now
	}
	var vars, choices []string // resources are chosen first: only then do they bind
	for i, t := range w.Tasks {
		name := fmt.Sprintf("s%d", i)
		start[t.ID], length[t.ID], place[t.ID] = name, strconv.FormatInt(t.Seconds, 10), i
		variable := func(least, most int64) {
			length[t.ID] = fmt.Sprintf("l%d", i)
			p("var %d..%d: l%d;", least, most, i)
			vars = append(vars, length[t.ID])
		}
		if f := fixed[t.ID]; f != nil {
			least := w.FixedFinish(f, t.Seconds) - f.Start
			if length[t.ID] = strconv.FormatInt(least, 10); f.EndsOpen(&t) {
				variable(least, max(least, w.Horizon-f.Start))
				p("constraint l%d <= %d;", i, w.Horizon-f.Start)
			}
			p("int: %s = %d;", name, f.Start)
			for k := range t.Needs {
				p("int: n%d_%d = %d;", i, k, resource[f.Resources[k]])
			}
			continue
		}
		hi := w.Horizon - t.Seconds
		if t.Latest != nil {
			hi = min(hi, *t.Latest-t.Seconds)
		}
		p("var %d..%d: %s;", max(now, t.Earliest), hi, name)
		vars = append(vars, name)
		if t.Longest != nil {
			variable(t.Seconds, *t.Longest)
			p("constraint s%d + l%d <= %d;", i, i, hi+t.Seconds)
		}
		for k, n := range t.Needs {
			var ids []string
			for _, id := range n.AnyOf {
				ids = append(ids, strconv.Itoa(resource[id]))
			}
			p("var {%s}: n%d_%d;", strings.Join(ids, ","), i, k)
			choices = append(choices, fmt.Sprintf("n%d_%d", i, k))
		}
	}
	for i, j := range w.Joins {
		name := fmt.Sprintf("j%d", i)
		start[j.ID], length[j.ID] = name, "0" // an instant has no length
		if at := slices.IndexFunc(w.Fixed, func(f workload.Fixed) bool { return f.Join == j.ID }); at >= 0 {
			p("int: %s = %d;", name, w.Fixed[at].At)
			continue
		}
		hi := w.Horizon
		if j.Latest != nil {
			hi = min(hi, *j.Latest)
		}
		p("var %d..%d: %s;", max(now, j.Earliest), hi, name)
		vars = append(vars, name)
	}
	var costs []string
	for _, l := range w.Links {
		from, to := start[l.From], start[l.To]
		if strings.HasPrefix(string(l.Kind), "finish") {
			from = fmt.Sprintf("(%s + %s)", from, length[l.From])
		}
		if strings.HasSuffix(string(l.Kind), "finish") {
			to = fmt.Sprintf("(%s + %s)", to, length[l.To])
		}
		wait := fmt.Sprintf("(%s - %s)", to, from)
		open := func(id string) bool { return fixed[id] != nil && strings.HasPrefix(length[id], "l") }
		if (fixed[l.From] == nil || fixed[l.To] == nil || open(l.From) || open(l.To)) && (l.From != l.To || !open(l.From)) {
			p("constraint %s >= %d;", wait, l.Min)
			if l.Max != nil {
				p("constraint %s <= %d;", wait, *l.Max)
			}
		}
		if l.Best != nil {
			costs = append(costs, fmt.Sprintf("%d * max(0, %s - %d)", l.Weight, wait, *l.Best))
		}
	}
	for ri, r := range w.Resources {
		var s, d, u []string
		for i, t := range w.Tasks {
			for k, n := range t.Needs {
				if length[t.ID] != "0" {
					s, d = append(s, fmt.Sprintf("s%d", i)), append(d, length[t.ID])
					u = append(u, fmt.Sprintf("bool2int(n%d_%d = %d) * %d", i, k, ri+1, n.Units))
				}
			}
		}
		if r.HasWindows {
			at := int64(-1000)
			block := func(from, to, units int64) {
				if to > from && units > 0 {
					s, d, u = append(s, strconv.FormatInt(from, 10)), append(d, strconv.FormatInt(to-from, 10)), append(u, strconv.FormatInt(units, 10))
				}
			}
			for _, v := range r.Windows {
				block(at, v.From, r.Capacity)
				block(v.From, v.To, r.Capacity-v.Capacity)
				at = v.To
			}
			block(at, w.Horizon+1000, r.Capacity)
		}
		if len(s) > 0 {
			p("constraint cumulative([%s],[%s],[%s],%d);", strings.Join(s, ","), strings.Join(d, ","), strings.Join(u, ","), r.Capacity)
		}
		if r.Thermostat == nil {
			continue
		}
		type ask struct {
			i, k int
			c    workload.Range
		}
		var asks []ask
		for i, t := range w.Tasks {
			for k, n := range t.Needs {
				if c, heat := n.Setpoints(); heat {
					asks = append(asks, ask{i, k, c})
				}
			}
		}
		for x, a := range asks {
			la := length[w.Tasks[a.i].ID]
			if fixed[w.Tasks[a.i].ID] == nil {
				from, to := workload.Apart(workload.Range{Low: r.Thermostat.StartC, High: r.Thermostat.StartC}, a.c)
				p("constraint n%d_%d = %d -> s%d >= %d;", a.i, a.k, ri+1, a.i, r.Thermostat.Changeover(from, to))
			}
			for _, c := range asks[:x] {
				x, y := workload.Apart(a.c, c.c)
				if !r.Thermostat.Differ(x, y) {
					continue
				}
				lc := length[w.Tasks[c.i].ID]
				p("constraint (n%d_%d = %d /\\ n%d_%d = %d) -> (s%d + %s + %d <= s%d \\/ s%d + %s + %d <= s%d);", a.i, a.k, ri+1, c.i, c.k, ri+1,
					a.i, la, r.Thermostat.Changeover(x, y), c.i, c.i, lc, r.Thermostat.Changeover(y, x), a.i)
			}
		}
	}
	for i, t := range w.Tasks {
		for k, n := range t.Needs {
			if n.As == nil || fixed[t.ID] != nil && fixed[n.As.Task] != nil {
				continue
			}
			other := place[n.As.Task]
			var same []string
			for m, id := range w.Tasks[other].Needs[n.As.Need].AnyOf {
				same = append(same, fmt.Sprintf("n%d_%d = %d /\\ n%d_%d = %d", i, k, resource[n.AnyOf[m]], other, n.As.Need, resource[id]))
			}
			p("constraint (%s);", strings.Join(same, ") \\/ ("))
		}
	}
	for _, t := range w.Told {
		costs = append(costs, fmt.Sprintf("%d * abs(%s - %d)", t.Weight, start[t.Task], t.Start))
	}
	if w.Objective == workload.Makespan {
		var ends []string
		for i, t := range w.Tasks {
			ends = append(ends, fmt.Sprintf("s%d + %s", i, length[t.ID]))
		}
		p("var int: total = max([%s]);", strings.Join(ends, ","))
	} else {
		for i, j := range w.Joins {
			if j.At != nil {
				costs = append(costs, fmt.Sprintf("%d * max(0, j%d - %d)", j.Weight, i, *j.At), fmt.Sprintf("%d * max(0, %d - j%d)", j.EarlyWeight,
					*j.At, i))
			}
		}
		p("var int: total = sum([%s]);", strings.Join(costs, ","))
	}
	if most != nil {
		p("constraint total <= %d;", *most)
	}
	p("solve :: seq_search([int_search([%s], first_fail, indomain_min), int_search([%s], dom_w_deg, indomain_min)]) minimize total;",
		strings.Join(choices, ","), strings.Join(vars, ","))
	p(`output ["total=\(total)\n"];`)
	return b.String()
}
