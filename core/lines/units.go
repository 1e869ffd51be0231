package lines

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"jointime/core/heat"
)

var fractions = strings.NewReplacer("½", ".5", "¼", ".25", "¾", ".75", "⅓", ".333", "⅔", ".667")

const amount = `(?:\d+(?:[.,]\d+)?[½¼¾⅓⅔]?|[½¼¾⅓⅔])`

// length is how a time is written: 1:30, 90 s, 4 min, 1½ h, 1 h 20 min, 2 days.
const length = `(?:\d{1,3}:[0-5]\d|` + amount + ` ?(?:days?|d|hours?|hrs?|h|minutes?|mins?|min|seconds?|secs?|sec|s)\b` +
	`(?: ?\d{1,2} ?(?:minutes?|mins?|min|seconds?|secs?|sec|s)\b)?)`

var part = regexp.MustCompile(`(` + amount + `) ?([a-z]+)`)

func number(s string) float64 {
	s = strings.ReplaceAll(fractions.Replace(s), ",", ".")
	f, err := strconv.ParseFloat(s, 64)
	if err != nil {
		return 0 // the expressions only let numbers through
	}
	return f
}

// Seconds reads a length of time as a cook writes it; ok is false when it is none.
func Seconds(s string) (seconds int, ok bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	if m, rest, colon := strings.Cut(s, ":"); colon {
		a, err1 := strconv.Atoi(m)
		b, err2 := strconv.Atoi(rest)
		return a*60 + b, err1 == nil && err2 == nil && b < 60 && a >= 0
	}
	sum := 0.0
	parts := part.FindAllStringSubmatch(s, -1)
	for _, p := range parts {
		unit := map[byte]float64{'d': 86400, 'h': 3600, 'm': 60, 's': 1}[p[2][0]]
		if unit == 0 {
			return 0, false
		}
		sum += number(p[1]) * unit
	}
	return int(math.Round(sum)), len(parts) > 0
}

// Say writes a length of time so that Seconds reads the same.
func Say(s int) string {
	switch {
	case s < 120 && s%60 != 0 || s == 0:
		return fmt.Sprintf("%d s", s)
	case s%3600 == 0:
		return fmt.Sprintf("%d h", s/3600)
	case s%60 == 0 && s < 3*3600:
		return fmt.Sprintf("%d min", s/60)
	case s%60 == 0:
		return fmt.Sprintf("%d h %d min", s/3600, s%3600/60)
	case s < 999*60:
		return fmt.Sprintf("%d:%02d", s/60, s%60)
	default:
		return fmt.Sprintf("%d s", s)
	}
}

// Degrees reads a temperature: 180, 180°, 180C, 350F, gas 4; °C, to a tenth.
func Degrees(s string) (c float64, ok bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	m := degrees.FindStringSubmatch(s)
	if m == nil {
		return 0, false
	}
	v := number(m[2])
	switch {
	case m[1] != "":
		if v, ok = heat.FromGas(v); !ok {
			return 0, false
		}
	case strings.HasSuffix(m[0], "f"):
		v = heat.FromF(v)
	}
	return math.Round(v*10) / 10, true
}

var degrees = regexp.MustCompile(`^(gas(?: mark)? )?(` + amount + `) ?(?:°|degrees|deg)? ?([cf])?$`)
