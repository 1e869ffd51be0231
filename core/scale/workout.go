package scale

import (
	"jointime/core/kitchen"
	"jointime/core/message"
	"math"
	"math/big"
	"strings"
)

// Question is a sum that a cook does by the scales.
type Question struct {
	Kind    QuestionKind `json:"kind" enum:"convert,ratio,brine,reduce,begin-with,reduced-by,carry,for"`
	Amount  float64      `json:"amount" minimum:"0"`
	Unit    string       `json:"unit" maxLength:"20"`
	To      string       `json:"to,omitempty" maxLength:"20" doc:"The other unit, to convert"`
	Percent float64      `json:"percent,omitempty" doc:"For a ratio or a reduction"`
	Left    float64      `json:"left,omitempty" doc:"What is left, in the same unit, for reduced-by"`
	// Component is what so much is wanted of, for for.
	Component string `json:"component,omitempty" maxLength:"80"`
	Steps     string `json:"steps,omitempty" maxLength:"400" doc:"Reductions one after the other, for carry: by half, to 500 ml"`
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
	AskFor       QuestionKind = "for"        // what goes into so much of a component
	AskCarry     QuestionKind = "carry"      // an amount through several reductions
)

// Answer is what a sum comes to.
type Answer struct {
	Amount float64           `json:"amount"`
	Unit   string            `json:"unit" doc:"% for a share"`
	Said   message.Message   `json:"said"`
	Parts  []message.Message `json:"parts,omitempty" nullable:"false" doc:"What goes into it"`
}

// WorkOut answers a question. The error is kitchen.Faults about the field that is wrong: `unit`, `to`, `percent`,
// `left` or `kind`.
func WorkOut(q Question) (Answer, error) {
	amount, percent := Exact(q.Amount), Exact(q.Percent)
	if q.Kind == AskConvert {
		if v, ok, err := warmth(q.Amount, q.Unit, q.To); err != nil {
			return Answer{}, about("to", err)
		} else if ok {
			is := strings.TrimSpace(trim(Exact(math.Round(v*10)/10)) + " " + q.To)
			return answer(Exact(v), q.To, message.Of("amount.converted", "given", number(q.Amount)+" "+q.Unit, "is", is)), nil
		}
	}
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
	case AskCarry:
		var density *big.Rat
		if q.GramsPerMl > 0 {
			density = Exact(q.GramsPerMl)
		}
		all, err := Carry(amount, q.Unit, q.Steps, density)
		if err != nil {
			return Answer{}, about("steps", err)
		}
		var each []string
		for _, left := range all {
			each = append(each, say(left, q.Unit))
		}
		last := all[len(all)-1]
		return answer(last, q.Unit, message.Of("amount.carried", "given", given, "is", strings.Join(each, " → "))), nil
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
	return Answer{Amount: Float(v), Unit: unit, Said: said}
}

// Makings answers what goes into so much of a component. The error is kitchen.Faults about the field that is wrong.
func Makings(b *kitchen.Book, q Question) (Answer, error) {
	c, ok := b.Component(q.Component)
	if !ok {
		return Answer{}, about("component", message.Fail("fault.no-component", "got", q.Component))
	}
	parts, err := For(b, c, q.Amount, q.Unit)
	if err != nil {
		return Answer{}, about("unit", err)
	}
	return Answer{Amount: q.Amount, Unit: q.Unit, Said: message.Of("amount.for", "given", say(Exact(q.Amount), q.Unit), "what", c.Name),
		Parts: parts}, nil
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
