package scale

import (
	"fmt"
	"math/big"
	"strings"
)

// Question is a sum that a cook does by the scales.
type Question struct {
	Kind    QuestionKind `json:"kind" enum:"convert,ratio,brine,reduce,begin-with,reduced-by"`
	Amount  float64      `json:"amount" minimum:"0"`
	Unit    string       `json:"unit" maxLength:"20"`
	To      string       `json:"to,omitempty" maxLength:"20" doc:"The other unit, to convert"`
	Percent float64      `json:"percent,omitempty" doc:"For a ratio or a reduction"`
	Left    float64      `json:"left,omitempty" doc:"What is left, in the same unit, for reduced-by"`
	// GramsPerMl is asked for between mass and volume.
	GramsPerMl float64 `json:"grams_per_ml,omitempty"`
}

// QuestionKind says which sum it is.
type QuestionKind string

// The sums.
const (
	AskConvert   QuestionKind = "convert"    // an amount in another unit
	AskRatio     QuestionKind = "ratio"      // so many parts to a hundred: gel, cure
	AskBrine     QuestionKind = "brine"      // the salt for water, by percent of the brine
	AskReduce    QuestionKind = "reduce"     // what a reduction leaves
	AskBeginWith QuestionKind = "begin-with" // what to reduce so that an amount is left
	AskReducedBy QuestionKind = "reduced-by" // by how much something was reduced
)

// Answer is what a sum comes to.
type Answer struct {
	Amount float64 `json:"amount"`
	Unit   string  `json:"unit" doc:"% for a share"`
	Text   string  `json:"text"`
}

// WorkOut answers a question. The error names the field that is wrong: `unit`, `to`,
// `percent` or `left`, before a colon.
func WorkOut(q Question) (Answer, error) {
	amount, percent := Exact(q.Amount), Exact(q.Percent)
	from, err := unitOf(q.Unit)
	if err != nil {
		return Answer{}, fmt.Errorf("unit: %w", err)
	}
	given := say(amount, q.Unit)
	switch q.Kind {
	case AskConvert:
		var density *big.Rat
		if q.GramsPerMl > 0 {
			density = Exact(q.GramsPerMl)
		}
		out, err := Convert(amount, q.Unit, q.To, density)
		if err != nil {
			return Answer{}, fmt.Errorf("to: %w", err)
		}
		return answer(out, q.To, "%s = %s.", given), nil
	case AskRatio, AskBrine:
		// A ratio goes by weight; what is measured in millilitres is taken to weigh as water.
		grams, err := Convert(amount, q.Unit, "g", big.NewRat(1, 1))
		if err != nil {
			return Answer{}, fmt.Errorf("unit: %w", err)
		}
		if q.Kind == AskRatio {
			if percent.Sign() < 0 {
				return Answer{}, fmt.Errorf("percent: expected 0 or more, got %g", q.Percent)
			}
			return answer(PerHundred(grams, percent), "g", "For %s at "+trim(percent)+" to a hundred: %s.", given), nil
		}
		salt, err := Brine(grams, percent)
		if err != nil {
			return Answer{}, fmt.Errorf("percent: %w", err)
		}
		return answer(salt, "g", "For a brine of "+trim(percent)+" %% from %s of water: %s of salt.", given), nil
	case AskReduce:
		if percent.Sign() < 0 || percent.Cmp(hundred) > 0 {
			return Answer{}, fmt.Errorf("percent: expected 0 to 100, got %g", q.Percent)
		}
		return answer(Reduced(amount, percent), q.Unit, "%s reduced by "+trim(percent)+" %% leave %s.", given), nil
	case AskBeginWith:
		out, err := ToReduce(amount, percent)
		if err != nil {
			return Answer{}, fmt.Errorf("percent: %w", err)
		}
		return answer(out, q.Unit, "For %s after a reduction by "+trim(percent)+" %% begin with %s.", given), nil
	case AskReducedBy:
		out, err := ReductionTo(amount, Exact(q.Left))
		if err != nil {
			return Answer{}, fmt.Errorf("left: %w", err)
		}
		return answer(out, "%", given+" down to "+say(Exact(q.Left), q.Unit)+" is a reduction by %[2]s.", ""), nil
	}
	return Answer{}, fmt.Errorf("kind: %q is not a sum that is known here (for %s)", q.Kind, from.kind)
}

func answer(v *big.Rat, unit, format, given string) Answer {
	return Answer{Float(v), unit, fmt.Sprintf(format, given, say(v, unit))}
}

// say writes an amount for a sentence: four figures at the most behind the point.
func say(v *big.Rat, unit string) string { return trim(v) + " " + strings.TrimSpace(unit) }

func trim(v *big.Rat) string {
	places := 2
	if v.Cmp(big.NewRat(1, 1)) < 0 {
		places = 4
	}
	s := v.FloatString(places)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	return s
}
