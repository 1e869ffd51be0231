package simulate

import (
	"cmp"
	"context"
	"errors"
	"math"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"jointime/core/service"
)

// Rehearsal is what many nights of one evening say about it. The same seeds are played, whatever is changed.
type Rehearsal struct {
	Policy  Policy         `json:"policy" enum:"as-printed,dispatch,planned-again,no-plan"`
	Nights  int            `json:"nights"`
	GraceS  float64        `json:"grace_s" doc:"From how many seconds after its wish a course counts as late"`
	Late    float64        `json:"late" doc:"Share of all courses that left later than the grace"`
	LateS   float64        `json:"late_s" doc:"How late a course leaves in the mean, seconds; what is early counts as in time"`
	WorstS  float64        `json:"worst_s" doc:"How late the latest course of a night is, in the median of the nights, seconds"`
	Calm    float64        `json:"calm" doc:"Share of nights in which no course was later than the grace"`
	HeldMin float64        `json:"held_min" doc:"Minutes in a night by which things stay longer than they may, in the sum"`
	Again   float64        `json:"again" doc:"Batches in a night that are made again"`
	Told    float64        `json:"told" doc:"Plans that are told in a night"`
	Vain    float64        `json:"vain" doc:"Batches in a night that are on before it is known that nobody orders them"`
	Off     float64        `json:"off" doc:"Dishes in a night of which the last portion goes"`
	Back    float64        `json:"back" doc:"Plates in a night that come back"`
	Helped  float64        `json:"helped" doc:"Batches in a night that somebody of the next section begins"`
	Later   []float64      `json:"later" nullable:"false" doc:"Share of all courses that leave more than 0, 1, 2 … 20 minutes late"`
	Joins   []RehearsedAt  `json:"joins" nullable:"false" doc:"In the order of their wishes"`
	Causes  []RehearsedFor `json:"causes" nullable:"false" doc:"What late courses waited for, the most often first"`
}

// RehearsedAt is how a table's course fares.
type RehearsedAt struct {
	service.TableCourse
	Name    string  `json:"name"`
	WishS   float64 `json:"wish_s" doc:"Its wish, seconds from the origin of the evening"`
	Late    float64 `json:"late" doc:"Share of the nights in which it is served in which it is later than the grace"`
	LateS   float64 `json:"late_s" doc:"By how much, in the mean of those nights, seconds"`
	LikelyS float64 `json:"likely_s" doc:"How late it is in the median, seconds; less than 0 for early"`
	BadS    float64 `json:"bad_s" doc:"How late it is in one night of ten, seconds"`
}

// RehearsedFor is something that late courses waited for.
type RehearsedFor struct {
	Section  string  `json:"section,omitempty"`
	Resource string  `json:"resource,omitempty" doc:"Hands or a place that were taken, by id; none where the section was late or slow"`
	Name     string  `json:"name" doc:"Of that resource"`
	Share    float64 `json:"share" doc:"Of all courses that were late"`
}

// grace is how late a course may leave and still be in time for a guest, seconds. Common practice, no source.
const grace = 180.0

// latest is how many minutes late courses are told apart.
const latest = 20

// Rehearse plays many nights, the first with the seed, by some policies, on as many cores as there are: what guests order on a night is the
// same for all. Done hears how many nights are played, each by each policy, and now and then what the first of them say so far; a rehearsal
// that is ended says what it has until then, nil for nothing. Errors: those of expand.NewEvening.
func (k *Kitchen) Rehearse(ctx context.Context, seed uint64, nights int, set Settings, done func(played int, sofar []*Rehearsal),
	policies ...Policy) ([]*Rehearsal, error) {
	played := make([][]*Played, nights)
	var hears sync.Mutex
	whole := 0
	faults := make([]error, nights)
	var next, ready atomic.Int64
	var work sync.WaitGroup
	for range min(nights, runtime.GOMAXPROCS(0)) {
		work.Go(func() {
			for {
				i := next.Add(1) - 1
				if i >= int64(nights) || ctx.Err() != nil {
					return
				}
				tonight, err := k.ordered(seed+uint64(i), set)
				if faults[i] = err; err != nil {
					return
				}
				var night []*Played
				for _, policy := range policies {
					if ctx.Err() != nil {
						break
					}
					night = append(night, tonight.Play(seed+uint64(i), set, policy, false))
					if n := ready.Add(1); done != nil {
						done(int(n), nil)
					}
				}
				if len(night) < len(policies) {
					return // a night that was ended counts for none
				}
				hears.Lock()
				played[i] = night
				if whole++; done != nil && whole%tellNights == 0 && whole < nights {
					done(int(ready.Load()), k.sums(policies, played))
				}
				hears.Unlock()
			}
		})
	}
	work.Wait()
	if err := errors.Join(faults...); err != nil {
		return nil, err
	}
	return k.sums(policies, played), nil
}

// tellNights is after how many nights what they say so far is told.
const tellNights = 25

// sums is what nights say by each policy, those that were played.
func (k *Kitchen) sums(policies []Policy, played [][]*Played) (out []*Rehearsal) {
	for i, policy := range policies {
		var by []*Played
		for _, p := range played {
			if p != nil {
				by = append(by, p[i])
			}
		}
		if len(by) > 0 {
			out = append(out, k.sum(policy, by))
		}
	}
	return out
}

// sum says what nights have in common.
func (k *Kitchen) sum(policy Policy, played []*Played) *Rehearsal {
	n := float64(len(played))
	out := &Rehearsal{Policy: policy, Nights: len(played), GraceS: grace, Later: make([]float64, latest+1),
		Joins: []RehearsedAt{}, Causes: []RehearsedFor{}}
	courses, late := 0.0, 0.0
	var worst []float64
	causes := map[Cause]float64{}
	for _, p := range played {
		most := 0.0
		for _, j := range p.Joins {
			if j.Skipped {
				continue
			}
			courses++
			out.LateS += max(0, j.Late)
			for m := 0; m <= latest && j.Late > float64(60*m); m++ {
				out.Later[m]++
			}
			if most = max(most, j.Late); j.Late > grace {
				late++
				causes[Cause{j.WaitedFor.Section, k.whose(j.WaitedFor.Resource)}]++
			}
		}
		worst = append(worst, most)
		if most <= grace {
			out.Calm += 1 / n
		}
		out.HeldMin += p.Held / 60 / n
		out.Again += float64(p.Again) / n
		out.Told += float64(p.Told) / n
		out.Vain += float64(p.Vain) / n
		out.Off += float64(p.Off) / n
		out.Back += float64(p.Back) / n
		out.Helped += float64(p.Helped) / n
	}
	out.LateS /= courses
	for m := range out.Later {
		out.Later[m] /= courses
	}
	out.Late = late / courses
	slices.Sort(worst)
	out.WorstS = worst[len(worst)/2]
	by := map[service.TableCourse][]*PlayedJoin{}
	for _, p := range played {
		for i := range p.Joins {
			by[p.Joins[i].TableCourse] = append(by[p.Joins[i].TableCourse], &p.Joins[i])
		}
	}
	for _, list := range by {
		out.Joins = append(out.Joins, joinOf(list))
	}
	slices.SortFunc(out.Joins, func(a, b RehearsedAt) int {
		return cmp.Or(cmp.Compare(a.WishS, b.WishS), cmp.Compare(a.Table, b.Table), cmp.Compare(a.Course, b.Course),
			cmp.Compare(a.Round, b.Round))
	})
	for c, times := range causes {
		out.Causes = append(out.Causes, RehearsedFor{c.Section, c.Resource, k.names[c.Resource], times / late})
	}
	slices.SortFunc(out.Causes, func(a, b RehearsedFor) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(a.Section, b.Section), cmp.Compare(a.Resource, b.Resource))
	})
	return out
}

// whose is the first resource that is called like one: who helps elsewhere for a while has one for each while.
func (k *Kitchen) whose(resource string) string {
	first := resource
	for id, name := range k.names {
		if name == k.names[resource] && id < first {
			first = id
		}
	}
	return first
}

// joinOf is how a course fares in the nights in which it was ordered.
func joinOf(nights []*PlayedJoin) RehearsedAt {
	first := nights[0]
	x := RehearsedAt{TableCourse: first.TableCourse, Name: first.Name, WishS: first.Booked}
	var all []float64
	over := 0.0
	for _, j := range nights {
		if j.Skipped {
			continue
		}
		all = append(all, j.Late)
		if j.Late > grace {
			over++
			x.LateS += j.Late
		}
	}
	if len(all) == 0 {
		return x
	}
	slices.Sort(all)
	x.Late = over / float64(len(all))
	x.LateS /= math.Max(1, over)
	x.LikelyS, x.BadS = all[len(all)/2], all[min(len(all)-1, len(all)*9/10)]
	return x
}
