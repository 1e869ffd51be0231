package safety

import (
	"cmp"
	"math"
	"slices"
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// LogKind is what a line of the log is about.
type LogKind string

// The kinds.
const (
	CoreLog     LogKind = "core"     // a core temperature after cooking or reheating
	CoolingLog  LogKind = "cooling"  // one of several readings while something cools
	HoldingLog  LogKind = "holding"  // of what is held hot
	ColdLog     LogKind = "cold"     // of a fridge or a freezer
	DeliveryLog LogKind = "delivery" // of what came in
	ProbeLog    LogKind = "probe"    // the probe was cleaned, and perhaps read in ice water
)

// LogKinds lists them in the order in which they are offered.
func LogKinds() []LogKind {
	return []LogKind{CoreLog, CoolingLog, HoldingLog, ColdLog, DeliveryLog, ProbeLog}
}

// Entry is one line of the log. Lines are only added: a wrong one is corrected by another.
type Entry struct {
	Number   int64     `json:"number"`
	Kind     LogKind   `json:"kind" enum:"core,cooling,holding,cold,delivery,probe"`
	What     string    `json:"what" maxLength:"120" doc:"What was measured, in words"`
	Ref      string    `json:"ref,omitempty" maxLength:"80" doc:"The component or the equipment, where it is one of the house's"`
	Subject  Subject   `json:"subject,omitempty" maxLength:"20" doc:"Of a core temperature: what it is measured against"`
	C        *float64  `json:"c,omitempty" doc:"°C"`
	Run      int64     `json:"run,omitempty" doc:"Of a cooling: the number of its first reading; 0 for the first itself"`
	Note     string    `json:"note,omitempty" maxLength:"200"`
	Person   string    `json:"person"`
	At       time.Time `json:"at" doc:"When it was read"`
	Written  time.Time `json:"written" doc:"When it was written down"`
	Corrects int64     `json:"corrects,omitempty" doc:"The line that was wrong"`
}

// Temperatures that a log takes, °C: below and above, a finger slipped.
const (
	coldest = -60.0
	hottest = 300.0
)

// latest is how long after reading something may be written down.
const latest = 24 * time.Hour

// Check refuses a line that cannot be. The error is kitchen.Faults.
func (e *Entry) Check(now time.Time) error {
	var out kitchen.Faults
	if !slices.Contains(LogKinds(), e.Kind) {
		out = append(out, kitchen.FaultAt("kind", "fault.log-kind", "got", string(e.Kind)))
	}
	if e.What == "" && e.Kind != ProbeLog {
		out = append(out, kitchen.FaultAt("what", "fault.log-what"))
	}
	if e.Person == "" {
		out = append(out, kitchen.FaultAt("person", "fault.log-person"))
	}
	switch {
	case e.C == nil && e.Kind != ProbeLog && e.Kind != DeliveryLog:
		out = append(out, kitchen.FaultAt("c", "fault.log-degrees"))
	case e.C != nil && (math.IsNaN(*e.C) || *e.C < coldest || *e.C > hottest):
		out = append(out, kitchen.FaultAt("c", "fault.range", "low", coldest, "high", hottest, "got", *e.C))
	}
	if e.At.After(now.Add(time.Minute)) || now.Sub(e.At) > latest {
		out = append(out, kitchen.FaultAt("at", "fault.log-when"))
	}
	if len(out) > 0 {
		return out
	}
	return nil
}

// Line is a line of the log with what it is beside the code's limit.
type Line struct {
	Entry
	Said      message.Message `json:"said"`
	State     string          `json:"state" enum:"within,past,open,noted" doc:"open: a cooling that goes on; noted: nothing to compare with"`
	Corrected int64           `json:"corrected,omitempty" doc:"The line that says it better"`
	Minutes   int             `json:"minutes,omitempty" doc:"Of a cooling: since its first reading"`
}

// Judge sets every line beside its limit, in the order in which they were read. It says within a limit or past it, never more.
func Judge(b *kitchen.Book, entries []Entry) []Line {
	k := codeOf(b.Kitchen().SafetyCode)
	better := map[int64]int64{}
	for _, e := range entries {
		if e.Corrects > 0 {
			better[e.Corrects] = e.Number
		}
	}
	sorted := slices.Clone(entries)
	slices.SortStableFunc(sorted, func(a, b Entry) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Number, b.Number)) })
	first := map[int64]*Entry{} // of each cooling
	out := []Line{}
	for i := range sorted {
		e := &sorted[i]
		l := Line{Entry: *e, Corrected: better[e.Number], State: "noted", Said: message.Of("log.noted")}
		if l.Corrected == 0 {
			k.judge(b, &l, first)
		}
		out = append(out, l)
	}
	return out
}

func (k *code) judge(b *kitchen.Book, l *Line, first map[int64]*Entry) {
	if l.C == nil {
		if l.Kind == ProbeLog {
			l.Said = message.Of("log.cleaned")
		}
		return
	}
	c := *l.C
	beside := func(within bool, limit message.Message) {
		l.State, l.Said = "past", message.Of("log.past", "limit", limit)
		if within {
			l.State, l.Said = "within", message.Of("log.within", "limit", limit)
		}
	}
	switch l.Kind {
	case CoreLog:
		on := l.Subject
		if _, known := k.core[on]; !known {
			on = Reheating
		}
		beside(c >= k.core[on], message.Of("log.core", "celsius", k.core[on], "section", k.rules[on].section))
	case HoldingLog:
		beside(c >= k.holdAt, message.Of("log.hold", "celsius", k.holdAt, "section", k.rules[HotHolding].section))
	case ColdLog, DeliveryLog:
		at := k.coldAt
		if slices.ContainsFunc(b.Equipment(), func(e kitchen.Equipment) bool { return e.ID == l.Ref && e.Kind == kitchen.Freezer }) {
			at = frozenAt
		}
		beside(c <= at, message.Of("log.cold", "celsius", at, "section", k.rules[ColdHolding].section))
	case ProbeLog:
		beside(math.Abs(c) <= iceWithin, message.Of("log.ice", "celsius", iceWithin))
	case CoolingLog:
		k.cooling(l, first)
	}
}

// frozenAt is where a freezer is kept, °C; iceWithin how far from 0 °C a probe may read in ice water. Common practice, no source.
const (
	frozenAt  = -18.0
	iceWithin = 1.0
)

// cooling judges a reading of something that cools, by what came before: each stage of the code within its time.
func (k *code) cooling(l *Line, first map[int64]*Entry) {
	run := cmp.Or(l.Run, l.Number)
	if first[run] == nil {
		first[run] = &l.Entry
		l.State, l.Said = "open", message.Of("log.cooling-begun", "limit", k.rules[Cooling].limit)
		return
	}
	since := l.At.Sub(first[run].At)
	l.Minutes = int(since.Minutes())
	for i, stage := range k.stages {
		cold := *l.C <= stage.c
		switch {
		case !cold && since > stage.within:
			l.State, l.Said = "past", message.Of("log.cooling-past", "celsius", stage.c, "within", lengthOf(stage.within), "takes", lengthOf(since))
			return
		case !cold:
			l.State, l.Said = "open", message.Of("log.cooling-open", "celsius", stage.c, "by", message.Rough((stage.within-since)/time.Second))
			return
		case i == len(k.stages)-1 && since > stage.within:
			// It was not read in time: when it got there is not known.
			l.State, l.Said = "past", message.Of("log.cooling-past", "celsius", stage.c, "within", lengthOf(stage.within), "takes", lengthOf(since))
			return
		}
	}
	last := k.stages[len(k.stages)-1]
	l.State, l.Said = "within", message.Of("log.cooled", "celsius", last.c, "within", lengthOf(last.within), "takes", lengthOf(since))
}
