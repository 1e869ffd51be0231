package simulate

import (
	"cmp"
	"slices"

	"jointime/core/expand"
	"jointime/core/service"
	"jointime/core/workload"
)

// hand is work of hands inside a piece of work, so many seconds from its start, or at its end.
type hand struct {
	takes []take
	from  float64
	long  float64
}

// after is what has to have happened before a piece of work begins.
type after struct {
	piece   int
	wait    float64
	atStart bool // after its start, not its end
}

// piece is a run with the hands that lay in, touch and take out.
type piece struct {
	task    string
	run     *service.PlanRun // nil where no section fires it: plating, topping up
	planned float64
	long    float64
	spread  [3]float64 // quick, likely, slow
	takes   []take
	others  [][]take // the ways in which others may take a plating on
	in, out *hand
	touches []hand
	after   []after
	joins   []int
	plating bool
	racked  bool // plating that is done ahead
	base    bool // it is for no table alone: a pot that stands
	// surprise is what the printed plan does not have: it is not begun before it was ordered.
	surprise bool
	helped   bool // somebody of the next section may begin it
}

// meeting is a join.
type meeting struct {
	id          string
	key         service.TableCourse
	name        string
	plates      int
	wish        float64
	planned     float64
	after       []after
	follows     int // the join before it of the same table, −1 for none
	pace        float64
	first       float64 // when its first own work begins by the plan
	leadingWork []int
}

// wait is how long something may stay between two pieces of work.
type wait struct {
	from, to int
	most     float64
}

// Kitchen is an evening with its plan, ready to be played.
type Kitchen struct {
	evening  *expand.Evening
	told     *workload.Schedule
	plan     *service.Plan
	pieces   []piece
	meetings []meeting
	waits    []wait
	capacity map[string]int64
	names    map[string]string // of resources
	heats    map[string]bool   // resources that keep a heat
	cooks    map[string][]take // the hands of each person, in all their stretches of the evening
	index    map[string]int    // of pieces, by task; acts by the run that they are of
	needs    map[string][]workload.Need
	next     [][]int             // for each piece those that wait for it
	off      []string            // dishes of which the last portion goes
	shift    float64             // seconds of its origin after that of the evening that it is a night of
	helpers  map[string][]string // who may help a section, by person
	hands    func(take) bool     // whether it is somebody's hands that are taken
	theirs   map[string][]int    // the pieces that somebody's hands begin by the plan
	vain     int                 // batches that are on before it is known that nobody orders them
}

// New makes an evening and its plan ready to be played. number is that of the plan.
func New(e *expand.Evening, told *workload.Schedule, number int64) *Kitchen {
	k := &Kitchen{evening: e, told: told, plan: service.PlanOf(number, e.ReadRuns(told)), capacity: map[string]int64{},
		names: map[string]string{}, index: map[string]int{}, needs: map[string][]workload.Need{}}
	k.heats, k.cooks = map[string]bool{}, map[string][]take{}
	for _, r := range e.Workload.Resources {
		k.capacity[r.ID], k.names[r.ID], k.heats[r.ID] = r.Capacity, r.Name, r.Thermostat != nil
		if ref := e.ResourceOf(r.ID); ref.IsPerson() && ref.Part == expand.Hands {
			k.cooks[ref.ID] = append(k.cooks[ref.ID], take{r.ID, r.Capacity})
		}
	}
	k.work()
	k.join()
	k.link()
	k.hands = isHands(e)
	k.helpers, k.theirs = map[string][]string{}, map[string][]int{}
	k.beside()
	k.next = make([][]int, len(k.pieces))
	for i := range k.pieces {
		for _, a := range k.pieces[i].after {
			if !slices.Contains(k.next[a.piece], i) {
				k.next[a.piece] = append(k.next[a.piece], i)
			}
		}
	}
	return k
}

// work makes the pieces: what stands for itself first, then the hands that belong to it.
func (k *Kitchen) work() {
	for i := range k.evening.Workload.Tasks {
		k.needs[k.evening.Workload.Tasks[i].ID] = k.evening.Workload.Tasks[i].Needs
	}
	runs := map[string]*service.PlanRun{}
	for i := range k.plan.Runs {
		runs[k.plan.Runs[i].Task] = &k.plan.Runs[i]
	}
	order := slices.Clone(k.told.Tasks)
	slices.SortFunc(order, func(a, b workload.Run) int { return cmp.Or(cmp.Compare(a.Start, b.Start), cmp.Compare(a.ID, b.ID)) })
	for i := range order {
		r := &order[i]
		ref, known := k.evening.RefOf(r.ID)
		if _, there := k.needs[r.ID]; known && ref.Main != "" || !there {
			continue
		}
		low, likely, high := k.evening.Spread(r.ID)
		k.index[r.ID] = len(k.pieces)
		p := piece{task: r.ID, run: runs[r.ID], planned: float64(r.Start), long: float64(r.Finish - r.Start),
			spread: [3]float64{low, likely, high}, takes: takesOf(k.needs[r.ID], r.Resources), plating: ref.Plating, racked: ref.Racked}
		if p.plating {
			p.others = waysOf(r.ID, k.needs[r.ID])
		}
		k.pieces = append(k.pieces, p)
	}
	for i := range order {
		r := &order[i]
		ref, known := k.evening.RefOf(r.ID)
		at, there := k.index[ref.Main]
		if !known || ref.Main == "" || !there {
			continue
		}
		k.index[r.ID] = at
		p := &k.pieces[at]
		h := hand{takesOf(k.needs[r.ID], r.Resources), float64(r.Start) - p.planned, float64(r.Finish - r.Start)}
		switch {
		case ref.Act == expand.ActIn && h.from == 0:
			p.in = &h
		case ref.Act == expand.ActOut && float64(r.Finish) == p.planned+p.long:
			p.out = &h
		default:
			p.touches = append(p.touches, h)
		}
	}
}

// takesOf is what a run takes of the resources that it was given.
func takesOf(needs []workload.Need, resources []string) (out []take) {
	for i, n := range needs {
		if i < len(resources) && resources[i] != "" && n.Units > 0 {
			out = append(out, take{resources[i], n.Units})
		}
	}
	return out
}

// waysOf are all ways in which the needs of a task can be met, as far as they do not hang on another task, no resource twice over.
func waysOf(task string, needs []workload.Need) (out [][]take) {
	chosen := make([]int, len(needs))
	var try func(i int)
	try = func(i int) {
		if i == len(needs) {
			var takes []take
			for k, n := range needs {
				takes = append(takes, take{n.AnyOf[chosen[k]], n.Units})
			}
			out = append(out, takes)
			return
		}
		n := &needs[i]
		if n.As != nil && n.As.Task == task && n.As.Need < i {
			chosen[i] = chosen[n.As.Need]
			try(i + 1)
			return
		}
		for c := range n.AnyOf {
			if taken(needs[:i], chosen, n.AnyOf[c]) {
				continue
			}
			chosen[i] = c
			try(i + 1)
		}
	}
	hangs := func(n workload.Need) bool { return n.As != nil && n.As.Task != task || len(n.AnyOf) == 0 }
	if len(needs) > 0 && !slices.ContainsFunc(needs, hangs) {
		try(0)
	}
	return out
}

// taken reports whether a resource stands among those that were chosen.
func taken(needs []workload.Need, chosen []int, resource string) bool {
	for k := range needs {
		if needs[k].AnyOf[chosen[k]] == resource {
			return true
		}
	}
	return false
}

// join makes the meetings, and says which pieces lead up to each.
func (k *Kitchen) join() {
	at := map[string]int{}
	for _, j := range k.told.Joins {
		x, ok := k.evening.CourseByID(j.ID)
		if !ok {
			continue
		}
		at[j.ID] = len(k.meetings)
		planned := float64(j.At)
		m := meeting{id: j.ID, key: service.TableCourse{Table: x.Table, Course: x.Course, Round: x.Round}, name: x.Name, planned: planned,
			wish: planned, follows: -1, first: planned}
		for _, w := range k.evening.Workload.Joins {
			if w.ID == j.ID && w.At != nil {
				m.wish = float64(*w.At)
			}
		}
		for _, o := range x.Firing.Table.Orders {
			m.plates += o.Count
		}
		k.meetings = append(k.meetings, m)
	}
	for i := range k.pieces {
		p := &k.pieces[i]
		for _, id := range k.evening.JoinsOf(p.task) {
			if m, ok := at[id]; ok {
				p.joins = append(p.joins, m)
			}
		}
		p.base = len(p.joins) == 0
		for _, m := range p.joins {
			if p.run != nil && len(p.joins) == 1 {
				k.meetings[m].first = min(k.meetings[m].first, p.planned)
			}
			k.meetings[m].leadingWork = append(k.meetings[m].leadingWork, i)
		}
	}
	for i := range k.evening.Workload.Links {
		l := &k.evening.Workload.Links[i]
		to, ok := at[l.To]
		if !ok {
			continue
		}
		if from, join := at[l.From]; join {
			k.meetings[to].follows, k.meetings[to].pace = from, float64(l.Min)
		} else if p, piece := k.index[l.From]; piece {
			k.meetings[to].after = append(k.meetings[to].after, after{p, float64(l.Min), false})
		}
	}
	for m := range k.meetings { // it does not leave before all that is for it is done
		x := &k.meetings[m]
		for _, i := range x.leadingWork {
			if !slices.ContainsFunc(x.after, func(a after) bool { return a.piece == i }) {
				x.after = append(x.after, after{i, 0, false})
			}
		}
	}
}

// link says what waits for what, and how long it may.
func (k *Kitchen) link() {
	for i := range k.evening.Workload.Links {
		l := &k.evening.Workload.Links[i]
		from, a := k.index[l.From]
		to, b := k.index[l.To]
		if !a || !b || from == to {
			continue
		}
		p, q := &k.pieces[from], &k.pieces[to]
		switch l.Kind {
		case workload.FinishStart, "":
			q.after = append(q.after, after{from, float64(l.Min), false})
			most := k.evening.Hold(l)
			if l.Max != nil {
				most = *l.Max
			}
			if most >= 0 && q.joins != nil {
				k.waits = append(k.waits, wait{from, to, float64(most)})
			}
		case workload.StartStart:
			if p.planned <= q.planned && l.Min >= 0 {
				q.after = append(q.after, after{from, float64(l.Min), true})
			}
		case workload.FinishFinish:
			if p.planned < q.planned {
				q.after = append(q.after, after{from, float64(l.Min) - q.long, false})
			}
		}
	}
}
