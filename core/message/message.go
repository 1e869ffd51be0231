// Package message is what the core says: a message has a key, which stands for what is said, and typed facts. The
// catalogue (en.toml, in the common format of message files) makes a sentence of it. The core makes no sentences
// anywhere else, so that another language is another catalogue.
package message

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"
)

// Message is something that is said.
type Message struct {
	Key   string          `json:"key" doc:"What is said; empty for nothing"`
	Facts map[string]Fact `json:"facts,omitempty" doc:"Of what, by name"`
	Text  string          `json:"text" doc:"The sentence, in English"`
}

// Kind is what a fact is.
type Kind string

// The kinds of fact.
const (
	NameKind     Kind = "name"     // of something, as somebody called it
	NamesKind    Kind = "names"    // several, in order
	NumberKind   Kind = "number"   // a count or a measure; the sentence says its unit
	LengthKind   Kind = "length"   // of time, seconds
	InstantKind  Kind = "instant"  // a time of a day
	MessageKind  Kind = "message"  // something said within
	MessagesKind Kind = "messages" // several, in order
)

// Fact is one fact of a message. Only what its kind says is filled in.
type Fact struct {
	Kind     Kind       `json:"kind" enum:"name,names,number,length,instant,message,messages"`
	Text     string     `json:"text" doc:"As the sentence says it"`
	Names    []string   `json:"names,omitempty" nullable:"false"`
	Number   *float64   `json:"number,omitempty" doc:"The number; seconds for a length"`
	At       *time.Time `json:"at,omitempty"`
	Messages []Message  `json:"messages,omitempty" nullable:"false"`
}

// Length is a length of time, said to the second.
type Length int64

// Rough is a length of time, said to the half minute below ten minutes and to the minute above.
type Rough int64

// Clock is an instant of which the time of day is said, to the second.
type Clock time.Time

// Moment is an instant of which the day of the week and the time of day are said.
type Moment time.Time

// Of is a message with its facts as pairs of name and value. A value is a string, a list of strings, an int, an int64
// or a float64, a Length, a Rough, a Clock, a Moment, a Message, a list of Messages, or something with a string's
// kind that says its own name. The fact called "count" decides between one and more.
//
// The key and the names are literals: catalogue_test.go reads them, and fails when the catalogue has no sentence for
// a key or the sentence wants a fact that is not there.
func Of(key string, pairs ...any) Message {
	m := Message{Key: key}
	for i := 0; i+1 < len(pairs); i += 2 {
		if m.Facts == nil {
			m.Facts = map[string]Fact{}
		}
		m.Facts[fmt.Sprint(pairs[i])] = factOf(pairs[i+1])
	}
	m.Text = english.say(&m)
	return m
}

// Error is a message that stands for why something cannot be.
type Error struct{ Message }

func (e *Error) Error() string { return e.Text }

// Fail is Of as an error.
func Fail(key string, pairs ...any) error { return &Error{Of(key, pairs...)} }

// All is several things said one after another; one alone is itself.
func All(list ...Message) Message {
	list = slices.DeleteFunc(slices.Clone(list), func(m Message) bool { return m.Key == "" })
	switch len(list) {
	case 0:
		return Message{}
	case 1:
		return list[0]
	}
	f := factOf(list)
	return Message{Key: "all", Facts: map[string]Fact{"said": f}, Text: f.Text}
}

// Said reports whether anything is said.
func (m Message) Said() bool { return m.Key != "" }

// String is the sentence.
func (m Message) String() string { return m.Text }

// Texts are the sentences of a list.
func Texts(list []Message) []string {
	out := make([]string, len(list))
	for i, m := range list {
		out[i] = m.Text
	}
	return out
}

func factOf(v any) Fact {
	number := func(kind Kind, n float64, text string) Fact { return Fact{Kind: kind, Text: text, Number: &n} }
	instant := func(at time.Time, layout string) Fact {
		return Fact{Kind: InstantKind, Text: at.Format(layout), At: &at}
	}
	switch x := v.(type) {
	case string:
		return Fact{Kind: NameKind, Text: x}
	case []string:
		between := ", "
		if slices.ContainsFunc(x, func(s string) bool { return strings.Contains(s, between) }) {
			between = "; " // else nobody could tell where one name ends
		}
		return Fact{Kind: NamesKind, Text: strings.Join(x, between), Names: x}
	case int:
		return number(NumberKind, float64(x), strconv.Itoa(x))
	case int64:
		return number(NumberKind, float64(x), strconv.FormatInt(x, 10))
	case float64:
		return number(NumberKind, x, strconv.FormatFloat(x, 'f', -1, 64))
	case Length:
		return number(LengthKind, float64(x), length(int64(x)))
	case Rough:
		return number(LengthKind, float64(x), rough(int64(x)))
	case Clock:
		return instant(time.Time(x), "15:04:05")
	case Moment:
		return instant(time.Time(x), "Mon 15:04")
	case Message:
		return Fact{Kind: MessageKind, Text: x.Text, Messages: []Message{x}}
	case []Message:
		return Fact{Kind: MessagesKind, Text: strings.Join(Texts(x), " "), Messages: x}
	}
	return Fact{Kind: NameKind, Text: fmt.Sprint(v)}
}

// Minutes is a length of time in whole minutes, towards zero.
func Minutes(seconds int64) Length { return Length(seconds / 60 * 60) }

// length says a length of time as a cook does: `45 s`, `2 min`, `2:30 min`, `1 h 20 min`.
func length(s int64) string {
	s = max(s, -s)
	switch {
	case s < 60:
		return fmt.Sprintf("%d s", s)
	case s >= 3600 && s%3600 < 60:
		return fmt.Sprintf("%d h", s/3600)
	case s >= 3600:
		return fmt.Sprintf("%d h %d min", s/3600, s%3600/60)
	case s%60 == 0:
		return fmt.Sprintf("%d min", s/60)
	}
	return fmt.Sprintf("%d:%02d min", s/60, s%60)
}

// rough says a length of time in what it is mostly made of: `75 s`, `7½ min`, `1 h 05`, `3 days`.
func rough(s int64) string {
	s = max(s, -s)
	minutes := int64(math.Round(float64(s) / 60))
	switch {
	case s < 90:
		return fmt.Sprintf("%d s", s)
	case s < 600 && s%60 >= 15 && s%60 < 45:
		return fmt.Sprintf("%d½ min", s/60)
	case minutes < 60:
		return fmt.Sprintf("%d min", minutes)
	case minutes >= 48*60 && minutes%(12*60) == 0:
		return strconv.FormatFloat(float64(minutes)/(24*60), 'f', -1, 64) + " days"
	case minutes%60 == 0:
		return fmt.Sprintf("%d h", minutes/60)
	}
	return fmt.Sprintf("%d h %02d", minutes/60, minutes%60)
}
