// Package calendar writes the make-ahead work as a calendar (iCalendar, RFC 5545).
package calendar

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// Prep writes every job as an event from its start to when it is ready, with its start-by time and an alarm a
// quarter of an hour before. now stamps the events, sections are names by id, and only keeps to one section
// where it is not "".
func Prep(jobs []expand.Job, now time.Time, sections map[string]string, only string) string {
	c := ics.NewCalendar()
	c.SetProductId("-//Jointime//Prep//EN")
	c.SetMethod(ics.MethodPublish)
	for i := range jobs {
		j := &jobs[i]
		if only != "" && j.Section != only {
			continue
		}
		e := c.AddEvent(strings.ReplaceAll(j.ID, "/", "-") + "@jointime")
		e.SetDtStampTime(now)
		e.SetStartAt(j.StartAt)
		e.SetEndAt(j.ReadyAt)
		e.SetSummary(fmt.Sprintf("%s, %s (start by %s)", j.Name, amount(j), j.StartBy.Format("Mon 15:04")))
		e.SetLocation(sections[j.Section])
		e.SetDescription(describe(j))
		a := e.AddAlarm()
		a.SetAction(ics.ActionDisplay)
		a.SetTrigger("-PT15M")
	}
	return c.Serialize()
}

func amount(j *expand.Job) string {
	u := string(j.Unit)
	if (j.Unit == kitchen.Pieces || j.Unit == kitchen.Spoons) && j.Amount != 1 {
		u += "s"
	}
	return strconv.FormatFloat(j.Amount, 'f', -1, 64) + " " + u
}

func describe(j *expand.Job) string {
	const day = "Mon 2 Jan 15:04"
	var b strings.Builder
	fmt.Fprintf(&b, "For %s. Start by %s, needed by %s.", strings.Join(j.For, ", "), j.StartBy.Format(day), j.NeedBy.Format(day))
	if j.UseBy != nil {
		fmt.Fprintf(&b, " Use by %s.", j.UseBy.Format(day))
	}
	for _, s := range j.Steps {
		fmt.Fprintf(&b, "\n%s %s", s.StartAt.Format("Mon 15:04"), s.Name)
		if len(s.People) > 0 {
			fmt.Fprintf(&b, " (%s)", strings.Join(s.People, ", "))
		}
	}
	return b.String()
}
