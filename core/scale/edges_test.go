package scale_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/scale"
)

// A container is filled to what it holds and not a drop more: 1/9, 65 deep holds 176 · 108 · 65 mm³ · 0.68.
func TestEdgesOfContainers(t *testing.T) {
	ml := func(length, width, deep float64) float64 { return length * width * deep / 1000 * 0.68 }
	for _, c := range []struct {
		ml   float64
		want string
	}{
		{0, "GN 1/9, 65 deep"}, {ml(176, 108, 65), "GN 1/9, 65 deep"}, {ml(176, 108, 65) + 0.1, "GN 1/6, 65 deep"},
		{ml(176, 108, 100), "GN 1/6, 65 deep"}, // holds 1.26 l, and 1/9 at 100 holds 1.29 l
		{ml(530, 325, 200), "GN 1/1, 200 deep"}, {ml(530, 325, 200) + 1, "2 × GN 1/1, 200 deep"},
		{2*ml(530, 325, 200) + 1, "3 × GN 1/1, 200 deep"},
	} {
		got := scale.Container(c.ml)
		if c.ml == ml(176, 108, 100) {
			require.Contains(t, []string{"GN 1/9, 100 deep", "GN 1/6, 65 deep"}, got)
			continue
		}
		require.Equal(t, c.want, got, c.ml)
	}
}

// Every sum that a cook does, at the edges of what can be asked; what cannot be asked names the field.
func TestEdgesOfSums(t *testing.T) {
	ask := func(q scale.Question) (scale.Answer, string) {
		a, err := scale.WorkOut(q)
		if err == nil {
			return a, ""
		}
		var faults kitchen.Faults
		require.ErrorAs(t, err, &faults)
		require.Len(t, faults, 1)
		return a, faults[0].Path + ": " + faults[0].Message.Key
	}
	q := func(kind scale.QuestionKind, amount float64, unit string, percent float64) scale.Question {
		return scale.Question{Kind: kind, Amount: amount, Unit: unit, Percent: percent}
	}
	for _, c := range []struct {
		q    scale.Question
		want string
	}{
		{q(scale.AskReduce, 1, "l", 0), "1 l reduced by 0 % leave 1 l."},
		{q(scale.AskReduce, 1, "l", 100), "1 l reduced by 100 % leave 0 l."},
		{q(scale.AskBeginWith, 1, "l", 0), "For 1 l after a reduction by 0 % begin with 1 l."},
		{q(scale.AskBeginWith, 1, "l", 99), "For 1 l after a reduction by 99 % begin with 100 l."},
		{q(scale.AskRatio, 500, "ml", 0), "For 500 ml at 0 to a hundred: 0 g."},
		{q(scale.AskRatio, 500, "ml", 150), "For 500 ml at 150 to a hundred: 750 g."},
		{q(scale.AskBrine, 900, "g", 10), "For a brine of 10 % from 900 g of water: 100 g of salt."},
		{q(scale.AskBrine, 1, "l", 0), "For a brine of 0 % from 1 l of water: 0 g of salt."},
		{scale.Question{Kind: scale.AskReducedBy, Amount: 1, Unit: "l", Left: 1}, "1 l down to 1 l is a reduction by 0 %."},
		{scale.Question{Kind: scale.AskReducedBy, Amount: 4, Unit: "l", Left: 1}, "4 l down to 1 l is a reduction by 75 %."},
		{scale.Question{Kind: scale.AskConvert, Amount: 0.5, Unit: "kg", To: "g"}, "0.5 kg = 500 g."},
		{scale.Question{Kind: scale.AskConvert, Amount: 100, Unit: "ml", To: "g", GramsPerMl: 0.92}, "100 ml = 92 g."},
	} {
		a, refused := ask(c.q)
		require.Empty(t, refused, c.want)
		require.Equal(t, c.want, a.Said.Text)
		require.Equal(t, message.NameKind, a.Said.Facts["is"].Kind)
	}
	for want, x := range map[string]scale.Question{
		"percent: fault.range":        q(scale.AskReduce, 1, "l", 100.5),
		"percent: fault.percent":      q(scale.AskBeginWith, 1, "l", 100),
		"percent: fault.not-negative": q(scale.AskRatio, 1, "l", -0.5),
		"unit: fault.unit":            q(scale.AskReduce, 1, "bucket", 5),
		"unit: fault.density":         q(scale.AskBrine, 1, "pieces", 5),
		"to: fault.density":           {Kind: scale.AskConvert, Amount: 1, Unit: "l", To: "kg"},
		"to: fault.unit":              {Kind: scale.AskConvert, Amount: 1, Unit: "l", To: "bucket"},
		"left: fault.reduction":       {Kind: scale.AskReducedBy, Amount: 1, Unit: "l", Left: 1.01},
		"kind: fault.sum":             q("square", 1, "l", 1),
	} {
		_, refused := ask(x)
		require.Equal(t, want, refused)
	}
	for _, x := range []scale.Question{q(scale.AskReduce, 1, "l", -1), q(scale.AskBrine, 1, "l", 100), q(scale.AskBeginWith, 1, "l", -1)} {
		_, refused := ask(x)
		require.NotEmpty(t, refused)
	}
}

// What is on hand is used to the last gram: with exactly what is wanted nothing is made, with a gram less there is a
// batch, and what is past its use-by is not used at all.
func TestStockToTheGram(t *testing.T) {
	at := time.Date(2026, 5, 14, 23, 0, 0, 0, time.UTC)
	c := kitchen.Component{ID: "c", Name: "C", BatchYield: 100, ShelfLifeH: 24}
	batches := func(amount float64, useBy time.Time) int {
		return len(reckon(small(t, []kitchen.Stock{{ID: "s", Component: "c", Amount: amount, UseBy: useBy}}, 10, []string{day}, c)).Batches)
	}
	require.Equal(t, 1, batches(99, at))
	require.Zero(t, batches(100, at))
	require.Zero(t, batches(101, at))
	require.Equal(t, 1, batches(1000, time.Date(2026, 5, 14, 12, 0, 0, 0, time.UTC)), "it is past its use-by by then")
}

// A batch of which less was made than it should give serves less, and another one follows; nothing said is what it gives.
func TestWhatWasReallyMade(t *testing.T) {
	c := kitchen.Component{ID: "c", Name: "C", BatchYield: 100, ShelfLifeH: 24}
	b := small(t, nil, 10, []string{day}, c)
	made := func(amount float64) int {
		return len(scale.Reckon(b, b.Services(), noSpan, map[string]float64{"c/s0/1": amount}, nil).Batches)
	}
	require.Equal(t, 1, made(100))
	require.Equal(t, 2, made(99))
	require.Equal(t, 1, made(0), "nothing said is not nothing made")
	require.Equal(t, 1, made(250))
}

// Two hundred batches are the most, and one more is a slip of the pen.
func TestTheMostBatches(t *testing.T) {
	of := func(yield float64) *scale.Amounts {
		return reckon(small(t, nil, 100, []string{day}, kitchen.Component{ID: "c", Name: "C", BatchYield: yield, ShelfLifeH: 24}))
	}
	whole := of(5) // 1,000 g by 5 g
	require.Len(t, whole.Batches, 200)
	require.Empty(t, whole.Problems)
	over := of(4.99)
	require.Len(t, over.Batches, 200)
	require.Len(t, over.Problems, 1)
	require.Equal(t, "amount.many-batches", over.Problems[0].Key)
}

// What is made to order and takes from what is made ahead draws it: for each of its portions, or by what a batch gives. Ten
// guests have 10 g of it, two in a hundred to spare: 10 · 1.02 portions at 3 g are counted by plates, 30 g; of a batch of 50 g
// that takes 20 g the 102 g take 40.8.
func TestWhatIsMadeToOrderTakesFromWhatIsMadeAhead(t *testing.T) {
	for _, x := range []struct {
		yield, amount float64
		want          string
	}{{0, 3, "30"}, {50, 20, "204/5"}} {
		d := kitchen.Starter("K", "Europe/Copenhagen", kitchen.CodeUKEU)
		step := kitchen.Step{ID: "s", Name: "S", Phase: kitchen.PickUp, Hands: kitchen.Both, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60)}}
		user := kitchen.Component{ID: "user", Name: "User", Section: d.Sections[0].ID, Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
			BatchYield: x.yield, Uses: []kitchen.Use{{Component: "base", Amount: x.amount}}, Steps: []kitchen.Step{step}}
		base := user
		base.ID, base.Name, base.Uses, base.BatchYield, base.ShelfLifeH = "base", "Base", nil, 1000, 48
		step.Phase = kitchen.Ahead
		base.Steps = []kitchen.Step{step}
		d.Components = []kitchen.Component{user, base}
		d.Dishes = []kitchen.Dish{{ID: "dish", Name: "Dish", Course: kitchen.Main, State: kitchen.CurrentDish,
			Specification: kitchen.Specification{Vessel: d.Vessels[0].ID, VesselTemp: "hot",
				Elements: []kitchen.Element{{Component: "user", Amount: 10, Form: kitchen.Form{Kind: "heap"}, Temp: "hot", Seconds: 5, Hands: 1}}}}}
		d.Services = []kitchen.Service{{ID: "s", Name: "S", Date: "2026-05-14", Kind: kitchen.ALaCarte, Pacing: kitchen.Timed, CourseMin: 20,
			ReservePercent: 2, Menu: []kitchen.MenuLine{{Dish: "dish", Share: 100}},
			Tables: []kitchen.ServiceTable{{ID: "t", Name: "T", Covers: 10, SeatedAt: 19 * 60}}}}
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		a := scale.Reckon(b, b.Services(), func(*kitchen.Component) time.Duration { return 0 }, nil, nil)
		require.Len(t, a.Batches, 1)
		require.Equal(t, "base", a.Batches[0].Component)
		draw := a.Draws[a.Batches[0].For[0].Draw]
		require.Equal(t, x.want, draw.Amount.RatString())
		require.Equal(t, "user", draw.By)
		require.Equal(t, 10, draw.Portions)
	}
}
