package training

import (
	"cmp"
	"math"
	"slices"
	"time"

	"jointime/core/message"
	"jointime/core/service"
	"jointime/core/simulate"
)

// How it went. A mark has three parts, each the mean over what it looks at: what is within the first bound counts whole, what is beyond the
// second does not count, and what is between counts by how far. The bounds and the points are ours: a teacher's judgement, not a standard.
const (
	firePoints, lookPoints, tablePoints = 50.0, 25.0, 25.0

	fireLateFrom, fireLateTo   = 30.0, 300.0 // seconds after it was due
	fireEarlyFrom, fireEarlyTo = 90.0, 600.0 // seconds before it was due
	overFrom, overTo           = 30.0, 300.0 // seconds by which something stays on, or waits, too long
	tableFrom, tableTo         = 60.0, 600.0 // seconds by which a table leaves later than with a good cook
)

// MarkPart is a part of a mark.
type MarkPart struct {
	What   string          `json:"what" enum:"fired,looked,tables"`
	Points float64         `json:"points"`
	Of     float64         `json:"of"`
	Said   message.Message `json:"said" doc:"What it is made of"`
}

// Remark is something that went as it should not, or better than it should.
type Remark struct {
	What string          `json:"what" enum:"late,early,forgotten,over,held,too-soon,table,luck"`
	At   *time.Time      `json:"at,omitempty"`
	Said message.Message `json:"said"`
	S    float64         `json:"s" doc:"By how much, seconds"`
}

// Judgement is how somebody cooked.
type Judgement struct {
	Mark    int                  `json:"mark" doc:"0 to 100"`
	Parts   []MarkPart           `json:"parts" nullable:"false"`
	Remarks []Remark             `json:"remarks" nullable:"false" doc:"What cost most first"`
	Cooked  []simulate.CookedRun `json:"cooked" nullable:"false" doc:"Every run that was to be fired, in the order of what was due"`
	Strands []Strands            `json:"strands" nullable:"false" doc:"Of the courses that the section worked for; none of what was trained before they were kept"`
	Runs    int                  `json:"runs" doc:"How many there were to fire"`
	Ended   bool                 `json:"ended" doc:"It was ended before the last plate had left: what was not yet due does not count"`
}

// share is how much of something counts that is off by so much.
func share(off, from, to float64) float64 {
	return math.Min(1, math.Max(0, (to-off)/(to-from)))
}

// Judge says how somebody cooked a section. went is the night as they cooked it, good the same night where the section does what the screen
// says; zone is the kitchen's clock.
func Judge(cooked []simulate.CookedRun, went, good *simulate.Played, ended bool, zone *time.Location) *Judgement {
	out := &Judgement{Parts: []MarkPart{}, Remarks: []Remark{}, Cooked: cooked, Strands: []Strands{}, Runs: len(cooked), Ended: ended}
	names := map[service.TableCourse]string{}
	for _, j := range went.Joins {
		names[j.TableCourse] = j.Name
	}
	mean := func(sum float64, n int) float64 {
		if n == 0 {
			return 1
		}
		return sum / float64(n)
	}
	fired, inTime, looked, asked, well := 0.0, 0, 0.0, 0, 0
	for i := range cooked {
		r := &cooked[i]
		f := 0.0
		if r.FiredAt != nil {
			f = math.Min(share(r.LateS, fireLateFrom, fireLateTo), share(-r.LateS, fireEarlyFrom, fireEarlyTo))
		} else if r.LateS < fireLateFrom {
			f = 1 // it was ended before it had to be begun
		}
		if fired += f; f == 1 {
			inTime++
		}
		if r.Asks || r.HeldS > overFrom {
			l := math.Min(share(r.OverS, overFrom, overTo), share(r.HeldS, overFrom, overTo))
			if asked++; l == 1 {
				well++
			}
			looked += l
		}
		out.Remarks = append(out.Remarks, lines(r, names, zone)...)
	}
	tables, with, kept := 0.0, 0, 0
	by := map[service.TableCourse]*simulate.PlayedJoin{}
	for i := range good.Joins {
		by[good.Joins[i].TableCourse] = &good.Joins[i]
	}
	for i := range went.Joins {
		j := &went.Joins[i]
		g := by[j.TableCourse]
		mine := slices.ContainsFunc(cooked, func(r simulate.CookedRun) bool { return slices.Contains(r.Joins, j.TableCourse) })
		if g == nil || g.Skipped || j.Skipped || !mine || ended && math.IsInf(j.Late, 1) {
			continue
		}
		more := math.Max(0, j.Late) - math.Max(0, g.Late)
		t := share(more, tableFrom, tableTo)
		if with++; t == 1 {
			kept++
		}
		if tables += t; more > tableFrom && !math.IsInf(more, 1) {
			out.Remarks = append(out.Remarks, Remark{What: "table", S: more, Said: message.Of("training.table", "join",
				message.Of("course.of", "table", j.Name,
					"course", string(j.Course)), "late", message.Rough(j.Late), "good", wentWell(g.Late))})
		}
	}
	out.Parts = []MarkPart{
		{"fired", firePoints * mean(fired, len(cooked)), firePoints, message.Of("training.part-fired", "count", inTime, "of", len(cooked))},
		{"looked", lookPoints * mean(looked, asked), lookPoints, message.Of("training.part-looked", "count", well, "of", asked)},
		{"tables", tablePoints * mean(tables, with), tablePoints, message.Of("training.part-tables", "count", kept, "of", with)},
	}
	if asked == 0 {
		out.Parts[1].Said = message.Of("training.part-looked-none")
	}
	if with == 0 {
		out.Parts[2].Said = message.Of("training.part-tables-none")
	}
	sum := 0.0
	for _, p := range out.Parts {
		sum += p.Points
	}
	out.Mark = int(math.Floor(sum + 1e-9))
	slices.SortStableFunc(out.Remarks, func(a, b Remark) int { return cmp.Or(cmp.Compare(order(a), order(b)), cmp.Compare(b.S, a.S)) })
	return out
}

// order is bad luck last, what was only looked at too soon before that.
func order(l Remark) int {
	switch l.What {
	case "luck":
		return 2
	case "too-soon":
		return 1
	}
	return 0
}

// wentWell is how a table leaves with a good cook.
func wentWell(late float64) message.Message {
	if late < tableFrom {
		return message.Of("training.in-time")
	}
	return message.Of("training.late-too", "late", message.Rough(late))
}

// lines are what there is to say of a run.
func lines(r *simulate.CookedRun, names map[service.TableCourse]string, zone *time.Location) (out []Remark) {
	var tables []string
	for _, j := range r.Joins {
		if n := names[j]; n != "" && !slices.Contains(tables, n) {
			tables = append(tables, n)
		}
	}
	what := message.Of("training.run", "portions", r.Portions, "what", r.What)
	if len(tables) > 0 {
		what = message.Of("training.run-for", "portions", r.Portions, "what", r.What, "tables", tables)
	}
	due := message.Clock(r.DueAt.In(zone))
	add := func(kind string, at time.Time, s float64, said message.Message) {
		at = at.In(zone)
		out = append(out, Remark{kind, &at, said, s})
	}
	switch {
	case r.FiredAt == nil && r.LateS > fireLateFrom:
		add("forgotten", r.DueAt, r.LateS, message.Of("training.forgotten", "run", what, "due", due))
	case r.FiredAt == nil:
	case r.LateS > fireLateFrom && r.Instead != "":
		add("late", *r.FiredAt, r.LateS, message.Of("training.late-and-before", "run", what, "late", message.Length(r.LateS), "due", due,
			"instead", r.Instead))
	case r.LateS > fireLateFrom:
		add("late", *r.FiredAt, r.LateS, message.Of("training.late", "run", what, "late", message.Length(r.LateS), "due", due))
	case -r.LateS > fireEarlyFrom && r.Instead != "":
		add("early", *r.FiredAt, -r.LateS, message.Of("training.early-and-before", "run", what, "early", message.Length(-r.LateS), "due", due,
			"instead", r.Instead))
	case -r.LateS > fireEarlyFrom:
		add("early", *r.FiredAt, -r.LateS, message.Of("training.early", "run", what, "early", message.Length(-r.LateS), "due", due))
	}
	if r.OverS > overFrom {
		add("over", r.DueAt, r.OverS, message.Of("training.over", "run", what, "over", message.Length(r.OverS)))
	}
	if r.HeldS > overFrom {
		add("held", r.DueAt, r.HeldS, message.Of("training.held", "run", what, "held", message.Length(r.HeldS)))
	}
	if r.Early > 0 {
		add("too-soon", r.DueAt, 0, message.Of("training.too-soon", "run", what, "count", r.Early))
	}
	if r.Again {
		add("luck", r.DueAt, 0, message.Of("training.luck", "run", what))
	}
	return out
}
