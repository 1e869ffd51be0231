package simulate

import (
	"hash/fnv"
	"math"
	"math/rand/v2"
	"strconv"

	"jointime/core/kitchen"
)

// Settings are how much differs from night to night; nothing of all of them is the plan as it stands. The usual ones are common practice,
// no source.
type Settings struct {
	Times        bool    `json:"times" doc:"Steps take between their quick and their slow time"`
	CooksShare   float64 `json:"cooks_share" doc:"A section's own pace of the evening: a standard deviation, as a share"`
	ReactionS    float64 `json:"reaction_s" doc:"How long a cook takes to begin what is due, seconds in the mean"`
	Forgets      float64 `json:"forgets" doc:"Chance of not seeing that something is due until somebody says so"`
	NotYet       float64 `json:"not_yet" doc:"Chance that something with a check needs longer"`
	Mishaps      float64 `json:"mishaps" doc:"Chance that a batch has to be made again"`
	Slow         float64 `json:"slow" doc:"Chance that an oven, or whatever else keeps a heat, is slow all evening"`
	Away         float64 `json:"away" doc:"Chance that a cook is called away for some minutes once in an evening"`
	ArrivalsMin  float64 `json:"arrivals_min" doc:"How much earlier or later tables come: a standard deviation, minutes"`
	LingersShare float64 `json:"lingers_share" doc:"How much longer or shorter guests stay over a course: a standard deviation, as a share"`
	Skips        float64 `json:"skips" doc:"Chance that a table leaves its last course out"`
	Orders       bool    `json:"orders" doc:"Guests order by the menu's shares, each by themselves, where it is not known what they order; in rehearsals"`
	Gone         float64 `json:"gone" doc:"Chance that there is less of a dish than expected, so that its last portion goes; where guests order"`
	Adds         float64 `json:"adds" doc:"Chance that a table adds a plate to what it orders; where guests order"`
	Needs        float64 `json:"needs" doc:"Chance that a guest must not have something that nobody was told of; where guests order"`
	Back         float64 `json:"back" doc:"Chance that a plate of a table's course comes back, and is cooked again"`
	Watching     float64 `json:"watching" doc:"By which share hands are slower for each thing that their section has on beyond two"`
	Helps        float64 `json:"helps" doc:"Chance that a cook helps the next section this evening, while they have nothing to do"`
	// Steps and People are how many times as long as written something takes, every night: by component/step, and by a person's name.
	Steps  map[string]float64 `json:"steps,omitempty" doc:"How many times as long as written a step takes, by component/step"`
	People map[string]float64 `json:"people,omitempty" doc:"How many times as long as written somebody takes, by name"`
}

// Usual is a usual evening.
func Usual() Settings {
	return Settings{Times: true, CooksShare: 0.05, ReactionS: 6, Forgets: 0.02, NotYet: 0.08, Mishaps: 0.004, Slow: 0.06, Away: 0.15,
		ArrivalsMin: 4, LingersShare: 0.12, Skips: 0.04, Orders: true, Gone: 0.05, Adds: 0.05, Needs: 0.02, Back: 0.01,
		Watching: 0.02, Helps: 0.5}
}

// AsOrdered are the settings for an evening of which it is known what everybody orders and who does what: nothing of that differs.
func (s Settings) AsOrdered() Settings {
	s.Orders, s.Gone, s.Adds, s.Needs, s.Helps = false, 0, 0, 0, 0
	return s
}

// The bounds of what is drawn. Common practice, no source.
const (
	remindedS    = 90.0  // who has forgotten something is told so long after it was due
	longestReact = 40.0  // seconds
	againPause   = 30.0  // seconds until a batch is begun again
	notYetFromS  = 30.0  // something needs so much longer, at the least
	notYetToS    = 150.0 // and at the most
	furthestSD   = 2.5   // deviations at which arrivals are cut
	slowBy       = 1.15  // what is slow takes so many times as long
	awayS        = 300.0 // a cook is called away for so long
	backAfterS   = 150.0 // a plate comes back so long after it has left, at the least
	backWithinS  = 270.0 // and so much later at the most
	platedAgainS = 45.0  // what was cooked again is on the plate and has left so long after
	watchedFree  = 2     // so many things on slow nobody down
	leastLeft    = 0.6   // of a dish that runs out there is so much of what was expected, at the least
)

// night is what is drawn for one night. It depends on the seed and on what something is called, not on when it is asked for: two policies
// see the same guests, the same times and the same mishaps.
type night struct {
	seed uint64
	set  Settings
}

// of draws for one thing.
func (n *night) of(what, id string) *rand.Rand {
	h := fnv.New64a()
	_, _ = h.Write([]byte(what + "\x00" + id)) // it never fails
	return rand.New(rand.NewPCG(n.seed, h.Sum64()))
}

// long is how long a piece of work takes in its section's pace of the evening.
func (n *night) long(p *piece) float64 {
	low, likely, high := p.spread[0], p.spread[1], p.spread[2]
	long := p.long
	if n.set.Times && likely > 0 && high > low {
		mean, deviation := (low+4*likely+high)/6, (high-low)/6
		drawn := math.Min(high, math.Max(low, mean+n.of("time", p.task).NormFloat64()*deviation))
		long *= drawn / likely
	}
	if p.run != nil && n.set.CooksShare > 0 {
		long *= math.Max(0.7, 1+n.set.CooksShare*n.of("pace", p.run.Section).NormFloat64())
	}
	if p.run != nil {
		if x, otherwise := n.set.Steps[p.run.Component+"/"+p.run.Step]; otherwise {
			long *= x
		}
		for _, who := range p.run.How.People[:min(1, len(p.run.How.People))] {
			if x, otherwise := n.set.People[who]; otherwise {
				long *= x
			}
		}
	}
	return long
}

// reaction is how long it takes until somebody begins what is due.
func (n *night) reaction(p *piece) float64 {
	if p.run == nil {
		return 0
	}
	r := n.of("reaction", p.task)
	if r.Float64() < n.set.Forgets {
		return remindedS
	}
	return math.Min(longestReact, r.ExpFloat64()*n.set.ReactionS)
}

// notYet is how much longer something with a check needs; 0 mostly.
func (n *night) notYet(p *piece) float64 {
	if p.run == nil || !p.run.Asks {
		return 0
	}
	if r := n.of("check", p.task); r.Float64() < n.set.NotYet {
		return notYetFromS + (notYetToS-notYetFromS)*r.Float64()
	}
	return 0
}

// again reports whether a batch has to be made again.
func (n *night) again(p *piece) bool {
	return p.run != nil && n.of("mishap", p.task).Float64() < n.set.Mishaps
}

// slow is how many times as long as usual something takes on a piece of equipment.
func (n *night) slow(equipment string) float64 {
	if n.of("slow", equipment).Float64() < n.set.Slow {
		return slowBy
	}
	return 1
}

// away is when somebody is called away, as a share of the evening; false for not at all.
func (n *night) away(person string) (share float64, ok bool) {
	r := n.of("away", person)
	if r.Float64() >= n.set.Away {
		return 0, false
	}
	return r.Float64(), true
}

// drift is how much later than booked a table comes, seconds.
func (n *night) drift(table string) float64 {
	z := n.of("arrival", table).NormFloat64()
	return math.Max(-furthestSD, math.Min(furthestSD, z)) * n.set.ArrivalsMin * 60
}

// lingers is how much longer than usual a table takes over what it ate before a course, as a share of the pace.
func (n *night) lingers(table string, course string) float64 {
	if n.set.LingersShare == 0 {
		return 0
	}
	sd := n.set.LingersShare
	return math.Exp(sd*n.of("linger "+course, table).NormFloat64()-sd*sd/2) - 1
}

// skips reports whether a table leaves a course out.
func (n *night) skips(table, course string) bool {
	return n.of("skip "+course, table).Float64() < n.set.Skips
}

// left is how much of what is expected of a dish there is tonight, as a share; false for enough.
func (n *night) left(dish string) (share float64, runsOut bool) {
	r := n.of("gone", dish)
	if r.Float64() >= n.set.Gone {
		return 1, false
	}
	return leastLeft + (1-leastLeft)*r.Float64(), true
}

// helps reports whether somebody helps the next section tonight.
func (n *night) helps(person string) bool { return n.of("helps", person).Float64() < n.set.Helps }

// back is after how many seconds a plate of a course comes back, and why; false for not at all.
func (n *night) back(table, course string, round int) (after float64, why string, ok bool) {
	r := n.of("back "+course+" "+strconv.Itoa(round), table)
	if r.Float64() >= n.set.Back {
		return 0, "", false
	}
	return backAfterS + (backWithinS-backAfterS)*r.Float64(), backWhy[r.IntN(len(backWhy))], true
}

// backWhy is what is said of a plate that comes back.
var backWhy = []string{"cold", "overdone", "not as ordered"}

// adds is which of so many plates a table orders once more; false for none.
func (n *night) adds(table string, of int) (which int, ok bool) {
	r := n.of("adds", table)
	if of == 0 || r.Float64() >= n.set.Adds {
		return 0, false
	}
	return r.IntN(of), true
}

// needs is what guests of a table must not have of which nobody was told, one thing for a guest.
func (n *night) needs(table string, guests int) (out []kitchen.Allergen) {
	r := n.of("needs", table)
	for range guests {
		if x, which := r.Float64(), r.IntN(len(needed)); x < n.set.Needs {
			out = append(out, needed[which])
		}
	}
	return out
}

// needed are what guests most often must not have. Common practice, no source.
var needed = []kitchen.Allergen{"milk", "gluten", "nuts", "crustaceans"}
