package lines

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"jointime/core/heat"
)

// What is typed into fields that are only for one thing.

// hoursAnd is how a length of hours and minutes is shown: 1 h 20.
var hoursAnd = regexp.MustCompile(`^\d+ ?h ?\d{1,2}$`)

// bare reports whether a text is a number alone.
func bare(s string) bool {
	t := lex(s)
	return len(t) == 1 && t[0].kind == numeral
}

// Typed reads a length of time typed into a field that is only for times: there a bare
// number is minutes.
func Typed(s string) (seconds int, ok bool) { return typed(s, "min") }

// TypedSeconds is Typed for a field of short times: there a bare number is seconds.
func TypedSeconds(s string) (seconds int, ok bool) { return typed(s, "s") }

func typed(s, unit string) (seconds int, ok bool) {
	s = strings.TrimSpace(s)
	switch {
	case bare(s):
		s += " " + unit
	case hoursAnd.MatchString(s):
		s += " min"
	}
	return Seconds(s)
}

// latest is the last minute that a clock typed in shows: midnight of the day after.
const latest = 48 * 60

var wall = regexp.MustCompile(`^(\d{1,2})(?:[:.](\d{2}))?$`)

// Clock reads a time on the wall, 19:30, 19.30 or 19, as minutes after midnight; past midnight the hours go on to 48.
func Clock(s string) (minutes int, ok bool) {
	m := wall.FindStringSubmatch(strings.TrimSpace(s))
	if m == nil {
		return 0, false
	}
	hours, _ := strconv.Atoi(m[1]) // digits
	past, _ := strconv.Atoi("0" + m[2])
	minutes = hours*60 + past
	return minutes, past < 60 && minutes <= latest
}

// SayClock writes minutes after midnight so that Clock reads the same.
func SayClock(minutes int) string { return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60) }

// Stretch is from one minute after midnight to another, which lies in the next day past 1440.
type Stretch struct {
	From int `json:"from"`
	To   int `json:"to"`
}

var between = regexp.MustCompile(`\s*(?:-|–|to)\s*`)

// Hours reads the stretches of a day: 10:00–15:00, 17–23. One that ends sooner than it begins goes on into the
// night; nothing typed is no stretch.
func Hours(s string) (list []Stretch, ok bool) {
	if strings.TrimSpace(s) == "" {
		return nil, true
	}
	for _, part := range strings.Split(s, ",") {
		ends := between.Split(strings.TrimSpace(part), -1)
		if len(ends) != 2 {
			return nil, false
		}
		from, ok1 := Clock(ends[0])
		to, ok2 := Clock(ends[1])
		if !ok1 || !ok2 {
			return nil, false
		}
		if to <= from {
			to += 24 * 60
		}
		list = append(list, Stretch{from, to})
	}
	return list, true
}

// SayHours writes stretches so that Hours reads the same.
func SayHours(list []Stretch) string {
	var parts []string
	for _, x := range list {
		parts = append(parts, SayClock(x.From)+"–"+SayClock(x.To%(24*60)))
	}
	return strings.Join(parts, ", ")
}

// Readings reads what a probe said: times since it went in, each with its degrees, 2:00 18, 3 min 22, with commas or new lines between.
// There a bare number before the degrees is minutes. wrong is the first that was not understood; empty when all were.
func Readings(s string) (list []heat.Reading, wrong string) {
	for _, one := range strings.FieldsFunc(s, func(c rune) bool { return c == ',' || c == ';' || c == '\n' }) {
		words := strings.Fields(one)
		if len(words) == 0 {
			continue
		}
		last := len(words) - 1
		at, ok := Typed(strings.Join(words[:last], " "))
		c, warm := Degrees(words[last])
		if !ok || !warm {
			return nil, strings.TrimSpace(one)
		}
		list = append(list, heat.Reading{S: float64(at), C: c})
	}
	return list, ""
}
