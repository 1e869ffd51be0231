package safety_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/safety"
)

// played are readings every 30 s of a core that goes as computed, so much slower.
func played(t *testing.T, b *kitchen.Book, s *kitchen.Step, factor, until float64) (out []heat.Reading) {
	t.Helper()
	p, err := b.Heated(s)
	require.NoError(t, err)
	course, err := p.Course(factor, 30)
	require.NoError(t, err)
	for _, r := range course {
		if r.S <= until {
			out = append(out, r)
		}
	}
	return out
}

func roast(target float64) kitchen.Step {
	s := step("roast", kitchen.PickUp, kitchen.Oven, 20)
	s.Equipment.SetpointC = ptr(180.0)
	s.Piece = &kitchen.Piece{Shape: heat.Cylinder, Mm: 60, Food: heat.MeatFood, StartC: 8, TargetC: target}
	return s
}

func words(p safety.Probed) string {
	var out []string
	for _, m := range p.Said {
		out = append(out, m.Text)
	}
	return strings.Join(out, "\n")
}

// A probe half-way says when the core will be there, with its error; when it was there, it says so. The kitchen's own factor is found.
func TestAProbeSaysWhen(t *testing.T) {
	b, s := house(t, kitchen.CodeUKEU), roast(58)
	all := played(t, b, &s, 1.2, 1e9)
	end := all[len(all)-1].S
	half := safety.Probe(b, &s, played(t, b, &s, 1.2, end/2))
	require.False(t, half.Problem, words(half))
	require.InDelta(t, end, half.AtS, 0.02*end)
	require.InDelta(t, 1.2, half.Factor, 0.02)
	require.GreaterOrEqual(t, half.ErrorS, 5)
	require.Contains(t, words(half), "58 °C at ")
	require.Contains(t, words(half), "± ")
	there := safety.Probe(b, &s, all)
	require.InDelta(t, end, there.AtS, 1)
	require.Contains(t, words(there), "It was at 58 °C ")
}

// The FSA's 70 °C for 2 min or its equal: a core of 76 °C reaches it on the way, one of 58 °C never; the Food Code's roasts begin at 54.4
// °C. Nothing is ever said to be safe.
func TestWhatAProbeReaches(t *testing.T) {
	uk, us := house(t, kitchen.CodeUKEU), house(t, kitchen.CodeFDA)
	hot, pink := roast(76), roast(58)
	at := words(safety.Probe(uk, &hot, played(t, uk, &hot, 1, 1e9)))
	require.Contains(t, at, "Reaches the equivalent of 70 °C for 2 min, ")
	require.Contains(t, at, "your officer's word comes first")
	at = words(safety.Probe(uk, &pink, played(t, uk, &pink, 1, 1e9)))
	require.Contains(t, at, "Does not reach the equivalent of 70 °C for 2 min")
	at = words(safety.Probe(us, &hot, played(t, us, &hot, 1, 1e9)))
	require.Contains(t, at, "Reaches the equivalent of 54.4 °C for 112 min")
	require.Contains(t, at, "FDA Food Code 2022")
	require.NotContains(t, at, "safe")
	// Half of the way is forecast: the equal is found in what is still to come.
	all := played(t, uk, &hot, 1, 1e9)
	at = words(safety.Probe(uk, &hot, all[:len(all)*2/3]))
	require.Contains(t, at, "Reaches the equivalent of 70 °C for 2 min, ")
}

// A probe that jumps, says too little or goes backwards gets a clear word, and no factor.
func TestAProbeThatCannotBe(t *testing.T) {
	b, s := house(t, kitchen.CodeUKEU), roast(58)
	good := played(t, b, &s, 1, 900)
	jump := append([]heat.Reading{}, good...)
	jump[len(jump)/2].C += 20
	twice := append(append([]heat.Reading{}, good...), good[len(good)-1])
	require.Contains(t, words(safety.Probe(b, &s, twice)), "one after the other", "at one time there is one reading")
	back := append(append([]heat.Reading{}, good...), good[0])
	falls := append([]heat.Reading{}, good...)
	for i := range 6 {
		last := falls[len(falls)-1]
		falls = append(falls, heat.Reading{S: last.S + 30, C: last.C - 1 - float64(i)/10})
	}
	cold := sized()
	for want, p := range map[string]safety.Probed{"jumped": safety.Probe(b, &s, jump), "four readings": safety.Probe(b, &s, good[:3]),
		"Nothing was read": safety.Probe(b, &s, nil), "one after the other": safety.Probe(b, &s, back), "falls": safety.Probe(b, &s, falls),
		"Not computed": safety.Probe(b, &cold, good)} {
		require.True(t, p.Problem, want)
		require.Contains(t, words(p), want)
		require.Zero(t, p.Factor)
	}
}

func sized() kitchen.Step { return step("cut", kitchen.PickUp, "", 2) }

// A batch that lies deep cools for hours: into how many parts it is divided to be within the code, computed; a shallow one is not.
func TestABatchThatLiesDeep(t *testing.T) {
	cooling := func(yield float64, kind kitchen.EquipmentKind, name string, under kitchen.SafetyCode) string {
		d := kitchen.Starter("K", "UTC", under)
		boil, chill := step("boil", kitchen.Ahead, kitchen.Burner, 60), step("chill", kitchen.Ahead, kind, 60, "boil")
		chill.Name = name
		d.Components = []kitchen.Component{{ID: "c", Name: "Stock", Section: d.Sections[0].ID, Unit: kitchen.Millilitres, GramsPerUnit: 1,
			DensityGPerMl: 1,
			BatchYield:    yield, ShelfLifeH: 24, Store: kitchen.Chilled, Colour: "#aabbcc", Steps: []kitchen.Step{boil, chill}}}
		d.Equipment = nil
		for _, k := range kitchen.EquipmentKinds() {
			d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "one-" + string(k), Name: string(k), Kind: k, Capacity: 4, Unit: "place"})
		}
		b, err := kitchen.NewBook(d)
		require.NoError(t, err)
		c, _ := b.Component("c")
		var out []string
		for _, l := range safety.Limits(b, c) {
			if l.Subject == safety.Cooling {
				out = append(out, l.Said.Text)
			}
		}
		return strings.Join(out, "\n")
	}
	deep := cooling(8000, kitchen.BlastChiller, "chill", kitchen.CodeUKEU)
	require.Regexp(t, `\d+ mm deep in .*, computed: \d+ h.* from 85 to 8 °C; divided into \d, `, deep)
	require.Contains(t, cooling(8000, kitchen.Fridge, "chill", kitchen.CodeFDA), "from 85 to 5 °C")
	require.NotContains(t, cooling(300, kitchen.BlastChiller, "chill over ice", kitchen.CodeFDA), "divided")
	require.NotContains(t, cooling(249, kitchen.Fridge, "chill", kitchen.CodeUKEU), "mm deep")
	require.Contains(t, cooling(251, kitchen.Fridge, "chill", kitchen.CodeUKEU), "mm deep")
}
