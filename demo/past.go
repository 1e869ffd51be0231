package demo

import (
	"math/rand/v2"
	"time"

	"jointime/core/kitchen"
)

// The services that are over when the demo begins: played, not typed. What is true in them and is not as written, the record has to find.

// PastNights is how many evenings are over; pastSeed is the seed of what was ordered in them.
const (
	PastNights = 8
	pastSeed   = 9
)

// The truths of the past nights: celeriac takes longer to be hot through than written, somebody at the garnish is quicker, and more guests
// take the rhubarb than the menu expects.
const (
	slowStep, slowBy       = "baked-celeriac/heat", 1.3
	quickPerson, quickBy   = "Oluwa", 0.87
	likedDish, likedShare  = "rhubarb-custard", 70.0
	otherDish, otherShares = "treacle-sponge", 30.0
)

// Truth is how many times as long as written steps and people take in them, by component/step and by name.
func Truth() (steps, people map[string]float64) {
	return map[string]float64{slowStep: slowBy}, map[string]float64{quickPerson: quickBy}
}

// Past are the evenings before a day, the last first, with what was ordered. The n-th is the same night whatever the day is: what the
// record has to find is in them on every day.
func Past(day time.Time) []kitchen.Service {
	out := []kitchen.Service{}
	for n := 1; n <= PastNights; n++ {
		date := day.AddDate(0, 0, -n)
		s := Services(date)[0]
		s.ID = "evening-" + date.Format(time.DateOnly)
		s.Name = date.Format("Monday 2 January")
		rng := rand.New(rand.NewPCG(pastSeed, uint64(n)))
		s.Tables = s.Tables[:len(s.Tables)-rng.IntN(5)]
		for i := range s.Tables {
			t := &s.Tables[i]
			t.Needs = []kitchen.GuestNeed{}
			for _, course := range [][]kitchen.MenuLine{s.Menu[0:2], s.Menu[3:6], s.Menu[6:8]} {
				t.Orders = append(t.Orders, ordered(rng, course, t.Covers)...)
			}
			if n := int(0.6*float64(t.Covers) + rng.Float64()); n > 0 {
				t.Orders = append(t.Orders, kitchen.TableOrder{Dish: s.Menu[2].Dish, Count: n})
			}
		}
		out = append(out, s)
	}
	return out
}

// ordered is what the guests of a table take of a course, each by themselves.
func ordered(rng *rand.Rand, course []kitchen.MenuLine, covers int) (out []kitchen.TableOrder) {
	counts := make([]int, len(course))
	for range covers {
		x := 100 * rng.Float64()
		for i, l := range course {
			share := l.Share
			switch l.Dish {
			case likedDish:
				share = likedShare
			case otherDish:
				share = otherShares
			}
			if x -= share; x < 0 || i == len(course)-1 {
				counts[i]++
				break
			}
		}
	}
	for i, n := range counts {
		if n > 0 {
			out = append(out, kitchen.TableOrder{Dish: course[i].Dish, Count: n})
		}
	}
	return out
}
