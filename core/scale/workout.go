package scale

import (
	"jointime/core/kitchen"
	"jointime/core/message"
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
	Amount float64         `json:"amount"`
	Unit   string          `json:"unit" doc:"% for a share"`
	Said   message.Message `json:"said"`
}

// WorkOut answers a question. The error is kitchen.Faults about the field that is wrong: `unit`, `to`, `percent`,
// `left` or `kind`.
func WorkOut(q Question) (Answer, error) {
	amount, percent := Exact(q.Amount), Exact(q.Percent)
	if _, err := unitOf(q.Unit); err != nil {
		return Answer{}, about("unit", err)
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
			return Answer{}, about("to", err)
		}
		return answer(out, q.To, message.Of("amount.converted", "given", given, "is", say(out, q.To))), nil
	case AskRatio, AskBrine:
		// A ratio goes by weight; what is measured in millilitres is taken to weigh as water.
		grams, err := Convert(amount, q.Unit, "g", big.NewRat(1, 1))
		if err != nil {
			return Answer{}, about("unit", err)
		}
		if q.Kind == AskRatio {
			if percent.Sign() < 0 {
				return Answer{}, about("percent", message.Fail("fault.not-negative", "got", q.Percent))
			}
			per := PerHundred(grams, percent)
			return answer(per, "g", message.Of("amount.ratio", "given", given, "percent", trim(percent), "is", say(per, "g"))), nil
		}
		salt, err := Brine(grams, percent)
		if err != nil {
			return Answer{}, about("percent", err)
		}
		return answer(salt, "g", message.Of("amount.brine", "given", given, "percent", trim(percent), "is", say(salt, "g"))), nil
	case AskReduce:
		if percent.Sign() < 0 || percent.Cmp(hundred) > 0 {
			return Answer{}, about("percent", message.Fail("fault.range", "low", 0, "high", 100, "got", q.Percent))
		}
		left := Reduced(amount, percent)
		return answer(left, q.Unit, message.Of("amount.reduced", "given", given, "percent", trim(percent), "is", say(left, q.Unit))), nil
	case AskBeginWith:
		out, err := ToReduce(amount, percent)
		if err != nil {
			return Answer{}, about("percent", err)
		}
		return answer(out, q.Unit, message.Of("amount.begin-with", "given", given, "percent", trim(percent), "is", say(out, q.Unit))), nil
	case AskReducedBy:
		out, err := ReductionTo(amount, Exact(q.Left))
		if err != nil {
			return Answer{}, about("left", err)
		}
		return answer(out, "%", message.Of("amount.reduced-by", "given", given, "left", say(Exact(q.Left), q.Unit), "is", say(out, "%"))), nil
	}
	return Answer{}, about("kind", message.Fail("fault.sum", "got", q.Kind))
}

func answer(v *big.Rat, unit string, said message.Message) Answer {
	return Answer{Float(v), unit, said}
}

func about(field string, err error) error { return kitchen.Faults{kitchen.FaultOf(field, err)} }

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
