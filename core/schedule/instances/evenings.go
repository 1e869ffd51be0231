package instances

import (
	"fmt"
	"math/rand/v2"

	"jointime/core/workload"
)

// Night is how an evening of a restaurant is drawn: hands and eyes of a cook apart, hands at both ends of what cooks by itself (exact
// links), batches that several tables share, thermostats, longest waits as prices that rise.
type Night struct {
	Name     string
	Tables   int
	Sittings int // in each of which the tables come within 40 minutes
	// Cooks of each of the four sections, beside one who helps everywhere.
	Cooks [4]int
	// Setpoints of what goes into the two ovens.
	Setpoints []float64
	// Lean is the share of the work that goes to the first section beyond its quarter, 0 to 1.
	Lean float64
}

// Nights are the families of evenings, of 400 to 900 tasks: loose and tight, two sittings, thermostats in conflict, one section overloaded.
func Nights() []Night {
	return []Night{
		{"loose", 15, 2, [4]int{2, 2, 2, 1}, []float64{180}, 0},
		{"tight", 18, 2, [4]int{1, 1, 1, 1}, []float64{180, 180, 200}, 0},
		{"two sittings", 22, 2, [4]int{1, 2, 2, 1}, []float64{180, 180, 200}, 0},
		{"one sitting", 12, 1, [4]int{2, 2, 2, 2}, []float64{180}, 0},
		{"ovens in conflict", 15, 2, [4]int{2, 2, 2, 2}, []float64{150, 180, 210}, 0},
		{"one section overloaded", 15, 2, [4]int{1, 2, 2, 2}, []float64{180}, 0.3},
	}
}

// ThreeSittings is an evening of about 1,500 tasks in a house with twice the cooks and the same ovens.
func ThreeSittings() Night {
	return Night{"three sittings", 34, 3, [4]int{3, 3, 3, 2}, []float64{180}, 0}
}

// evening is one that is being drawn.
type evening struct {
	Night
	r      *rand.Rand
	w      *workload.Workload
	cooks  [][]int // of each section, by number
	people int
	shared map[string]*batch
	small  bool // few components of few steps, one course after another at once, and little room
}

// batch is what several tables share: the step that it ends with, for when it is wanted, and how many more may join it.
type batch struct {
	last string
	at   int64
	left int
}

// together is how far apart two tables may be wanted that share a batch, in seconds.
const together = 420

// Evening draws a night; the same seed draws the same one.
func (n Night) Evening(seed uint64) *workload.Workload { return n.draw(seed, false) }

func (n Night) draw(seed uint64, small bool) *workload.Workload {
	e := &evening{Night: n, small: small, r: rand.New(rand.NewPCG(seed, 53)), shared: map[string]*batch{},
		w: &workload.Workload{Objective: workload.Joins, Origin: "2026-05-15T16:00:00Z", Horizon: 9 * 3600}}
	for s, many := range n.Cooks {
		e.cooks = append(e.cooks, nil)
		for range many {
			e.cooks[s] = append(e.cooks[s], e.people)
			e.people++
		}
	}
	for s := range e.cooks {
		e.cooks[s] = append(e.cooks[s], e.people) // who helps everywhere
	}
	e.people++
	add := func(id string, capacity int64, t *workload.Thermostat) {
		e.w.Resources = append(e.w.Resources, workload.Resource{ID: id, Capacity: capacity, Thermostat: t})
	}
	for p := range e.people {
		add(fmt.Sprintf("hands/%d", p), 1, nil)
		add(fmt.Sprintf("eyes/%d", p), int64(2+e.r.IntN(3)), nil)
	}
	rings, trays := int64(8), int64(4)
	if small {
		rings, trays = 3, 1
	}
	add("stove", rings, nil)
	for _, id := range []string{"oven/a", "oven/b"} {
		add(id, trays, &workload.Thermostat{StartC: n.Setpoints[0], HeatCPerMin: 12, CoolCPerMin: 5, ToleranceC: 5})
	}
	add("pass", 2, nil)
	e.w.Joins = append(e.w.Joins, workload.Join{ID: "clock"})
	e.w.Fixed = []workload.Fixed{{Join: "clock"}}
	for t := range n.Tables {
		sitting := t % n.Sittings
		seated := int64(5400 + sitting*6300 + e.r.IntN(2400))
		if small {
			seated = int64(5400 + sitting*480 + e.r.IntN(180))
		}
		for c, after := range []int64{0, 1800, 3600} {
			if small {
				after /= 3
			}
			if c == 2 && e.r.IntN(3) == 0 || small && c > t%2 {
				continue
			}
			e.course(fmt.Sprintf("t%d/c%d", t, c), c, seated+after+int64(e.r.IntN(240)))
			if c > 0 { // a table eats one course after the other
				e.link(workload.Link{From: fmt.Sprintf("t%d/c%d", t, c-1), To: fmt.Sprintf("t%d/c%d", t, c), Kind: workload.FinishStart,
					Min: after / int64(2*c)})
			}
		}
	}
	return e.w
}

func ptr(v int64) *int64 { return &v }

// of are names of a kind for some people.
func of(kind string, people []int) (out []string) {
	for _, p := range people {
		out = append(out, fmt.Sprintf("%s/%d", kind, p))
	}
	return out
}

func (e *evening) task(id string, seconds int64, needs ...workload.Need) string {
	e.w.Tasks = append(e.w.Tasks, workload.Task{ID: id, Seconds: seconds, Needs: needs})
	return id
}

func (e *evening) link(l workload.Link) {
	l.Weight = max(l.Weight, 1)
	e.w.Links = append(e.w.Links, l)
}

// wait ties one step to the next: at least, best, and a longest that may be passed at a price that rises.
func (e *evening) wait(from, to string, least, best, longest int64) {
	e.link(workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: least, Best: ptr(least + best), Weight: 1})
	for k, over := range []int64{0, 120, 480} {
		e.link(workload.Link{From: from, To: to, Kind: workload.FinishStart, Min: least, Best: ptr(longest + over),
			Weight: []int64{12, 36, 120}[k]})
	}
}

func (e *evening) course(join string, c int, at int64) {
	e.w.Joins = append(e.w.Joins, workload.Join{ID: join, At: ptr(at), Weight: 4, EarlyWeight: 4})
	// What is late grows dearer, and so does what comes before the guests are ready for it.
	for _, p := range [][2]int64{{300, 2}, {720, 6}} {
		e.link(workload.Link{From: "clock", To: join, Kind: workload.FinishStart, Best: ptr(at + p[0]), Weight: p[1]})
	}
	for _, p := range [][2]int64{{60, 6}, {180, 24}} {
		e.link(workload.Link{From: join, To: "clock", Kind: workload.FinishStart, Min: -e.w.Horizon, Best: ptr(p[0] - at), Weight: p[1]})
	}
	covers := 1 + e.r.IntN(5)
	everybody := make([]int, e.people)
	for p := range everybody {
		everybody[p] = p
	}
	plate := e.task(join+"/plating", int64(20+14*covers), workload.Need{AnyOf: of("hands", everybody), Units: 1},
		workload.Need{AnyOf: []string{"pass"}, Units: 1})
	e.link(workload.Link{From: plate, To: join, Kind: workload.FinishStart, Max: ptr(0)})
	many := 2 + e.r.IntN(3)
	if e.small {
		many = 2
	}
	for k := range many {
		dish := e.r.IntN(4)
		key := fmt.Sprintf("%d.%d.%d", c, dish, k%2)
		b := e.shared[key]
		if b == nil || max(b.at-at, at-b.at) > together || b.left == 0 || e.r.IntN(3) == 0 {
			b = &batch{last: e.component(fmt.Sprintf("%s/%d", join, k), covers), at: at, left: e.r.IntN(3)}
			e.shared[key] = b
		} else {
			b.left--
		}
		least := int64(e.r.IntN(3) * 60)
		e.wait(b.last, plate, least, least+60+int64(e.r.IntN(120)), least+240+int64(e.r.IntN(600)))
	}
}

// component draws the steps of one, and returns the last.
func (e *evening) component(id string, covers int) string {
	last := ""
	steps := 1 + e.r.IntN(3)
	if e.small {
		steps = 1 + steps/3
	}
	for s := range steps {
		name := fmt.Sprintf("%s.%d", id, s)
		section := e.r.IntN(4)
		if e.r.Float64() < e.Lean {
			section = 0
		}
		kind := e.r.IntN(5)
		if s == 0 && steps > 1 {
			kind = 1 + e.r.IntN(4)
		}
		e.step(name, kind, e.cooks[section], covers)
		if last != "" {
			e.wait(last, name, 0, 60+int64(e.r.IntN(90)), 240+int64(e.r.IntN(480)))
		}
		last = name
	}
	return last
}

// step draws one: by hand, on the stove, or in an oven, with the hands that lay in and take out.
func (e *evening) step(id string, kind int, cooks []int, covers int) {
	switch kind {
	case 0: // by hand
		e.task(id, int64(20+(8+e.r.IntN(12))*covers), workload.Need{AnyOf: of("hands", cooks), Units: 1})
		return
	case 1, 2: // on the stove, under somebody's eyes
		e.task(id, int64(120+e.r.IntN(300)), workload.Need{AnyOf: of("eyes", cooks), Units: 1},
			workload.Need{AnyOf: []string{"stove"}, Units: int64(1 + covers/4)})
		e.ends(id, cooks, &workload.As{Task: id, Need: 0})
	default: // in an oven, by itself
		set := e.Setpoints[e.r.IntN(len(e.Setpoints))]
		e.task(id, int64(300+e.r.IntN(900)), workload.Need{AnyOf: []string{"oven/a", "oven/b"}, Units: 1, SetpointC: &set})
		e.ends(id, cooks, nil)
	}
}

// ends draws the hands at both ends of a step; as is whose they are.
func (e *evening) ends(id string, cooks []int, as *workload.As) {
	need := workload.Need{AnyOf: of("hands", cooks), Units: 1, As: as}
	e.task(id+"-in", int64(10+e.r.IntN(15)), need)
	e.task(id+"-out", int64(5+e.r.IntN(12)), need)
	e.link(workload.Link{From: id, To: id + "-in", Kind: workload.StartStart, Max: ptr(0)})
	e.link(workload.Link{From: id, To: id + "-out", Kind: workload.FinishFinish, Max: ptr(0)})
}
