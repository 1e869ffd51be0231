package lines

import (
	"math"

	"jointime/core/heat"
)

// Temperatures as they are spoken.

// warmth is a temperature or a range of them, °C, with the words in which it was said where these were not °C.
type warmth struct {
	low, high float64
	said      string
}

func (w warmth) ranged() bool { return w.high > w.low }

// Bare numbers are degrees only where a heat is looked for, and from the walk-in to a forge.
const coldestBare, hottestBare = -30.0, 1000.0

// degrees reads a temperature from token i on: 180, 180°, 180 °C, 350 F, gas 4, 54 to 56. A number with a unit of time behind it is never
// one. bare says whether a number alone will do. n is how many tokens it takes, 0 where there is none.
func (l *line) degrees(i int, bare bool) (w warmth, n int) {
	start := i
	if l.is(i, "gas") {
		i++
		if l.is(i, "mark") {
			i++
		}
		a := l.at(i)
		if a.kind != numeral {
			return w, 0
		}
		c, ok := heat.FromGas(a.value)
		if !ok {
			return w, 0
		}
		w.low, w.high = c, c
		i++
		if b := l.at(i + 1); l.is(i, "to", "-", "or") && b.kind == numeral {
			if c, ok := heat.FromGas(b.value); ok && c > w.low {
				w.high, i = c, i+2
			}
		}
		w.said = l.raw[l.tokens[start].from:l.tokens[i-1].to]
		return w, i - start
	}
	minus := l.is(i, "-", "−", "minus")
	if minus {
		i++
	}
	a := l.at(i)
	if a.kind != numeral || a.glued && !minus {
		return w, 0
	}
	v := a.value
	if minus {
		v = -v
	}
	i++
	unit, k := l.heatUnit(i)
	i += k
	hi := v
	if b := l.at(i + 1); l.is(i, "to", "-", "or") && b.kind == numeral && b.value > v {
		unit2, k := l.heatUnit(i + 2)
		if k > 0 || unit != "" || bare && !l.counts(i+2) {
			hi, i = b.value, i+2+k
			if unit == "" {
				unit = unit2
			}
			if unit2 == "f" {
				unit = "f"
			}
		}
	}
	if unit == "" && (!bare || l.counts(i) || v < coldestBare || hi > hottestBare) {
		return w, 0
	}
	w.low, w.high = v, hi
	if unit == "f" {
		tenth := func(f float64) float64 { return math.Round(heat.FromF(f)*10) / 10 }
		w.low, w.high = tenth(v), tenth(hi)
		w.said = l.raw[l.tokens[start].from:l.tokens[i-1].to]
	}
	return w, i - start
}

// heatUnit reads ° C, degrees, F; unit is c or f, "°" where neither was said, empty where there is none.
func (l *line) heatUnit(i int) (unit string, n int) {
	for n < 2 && l.at(i+n).kind != separator && heatUnits[l.at(i+n).text] && (l.at(i+n).kind == sign || !l.at(i+n).glued || unit == "") {
		switch t := l.at(i + n).text; t {
		case "c", "celsius", "centigrade", "℃":
			unit = "c"
		case "f", "fahrenheit", "℉":
			unit = "f"
		default:
			if unit != "" {
				return unit, n
			}
			unit = "°"
		}
		n++
		if unit != "°" {
			break
		}
	}
	return unit, n
}

// counts reports whether what stands at i makes the number before it a time, an amount or a count: it is no heat then.
func (l *line) counts(i int) bool {
	t := l.at(i)
	if t.kind == separator {
		return false
	}
	if _, time := units[t.text]; time {
		return true
	}
	if t.text == "%" || amountUnits[t.text] {
		return true
	}
	if l.is(i, "to", "-", "or") { // 45 to 50 minutes
		if _, n := l.plain(i - 1); n > 0 {
			return true
		}
	}
	return false
}

// Degrees reads a temperature: 180, 180°, 180C, 350F, gas 4; °C, to a tenth. British gas marks as in package heat.
func Degrees(s string) (c float64, ok bool) {
	l := newLine(s)
	w, n := l.degrees(0, true)
	if n == 0 || n != len(l.tokens) || w.ranged() {
		return 0, false
	}
	return math.Round(w.low*10) / 10, true
}

// Seconds reads a length of time as a cook writes it; ok is false when it is none, or when something stands beside it.
func Seconds(s string) (seconds int, ok bool) {
	l := newLine(s)
	sum, i := 0.0, 0
	for i < len(l.tokens) {
		x, n := l.plain(i)
		if n == 0 || x.ranged && x != overnight {
			return 0, false
		}
		sum += x.likely
		i += n
	}
	return int(math.Round(sum)), i > 0
}
