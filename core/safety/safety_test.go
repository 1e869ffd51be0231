package safety_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/safety"
)

func ptr[T any](v T) *T { return &v }

func step(id string, phase kitchen.Phase, kind kitchen.EquipmentKind, minutes int, after ...string) kitchen.Step {
	s := kitchen.Step{ID: id, Name: id, Phase: phase, Hands: kitchen.None, Time: kitchen.StepTime{Fixed: kitchen.Exactly(60 * minutes)}}
	if kind != "" {
		s.Equipment = &kitchen.EquipmentNeed{Kind: kind, Units: 1}
	}
	for _, a := range after {
		s.After = append(s.After, kitchen.Predecessor{Step: a})
	}
	return s
}

// limits are what bears on a component in a kitchen that has everything.
func limits(x *kitchen.Component, under kitchen.SafetyCode) []safety.Limit {
	d := kitchen.Starter("K", "UTC", under)
	c := x.Clone()
	c.ID, c.Section, c.Unit, c.GramsPerUnit, c.DensityGPerMl, c.BatchYield = "c", d.Sections[0].ID, kitchen.Grams, 1, 1, 100
	if c.Name == "" {
		c.Name = "Thing"
	}
	for i := range c.Ingredients {
		c.Ingredients[i].Amount, c.Ingredients[i].Unit = 1, "g"
	}
	for i := range c.Steps {
		if s := &c.Steps[i]; s.Name == "" {
			s.Name, s.Hands, s.Time = s.ID, kitchen.Both, kitchen.StepTime{Fixed: kitchen.Exactly(60)}
		}
	}
	d.Components = []kitchen.Component{c}
	for _, k := range kitchen.EquipmentKinds() {
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "one-" + string(k), Name: string(k), Kind: k, Capacity: 4, Unit: "place"})
	}
	b, err := kitchen.NewBook(d)
	if err != nil {
		panic(err)
	}
	own, _ := b.Component("c")
	return safety.Limits(b, own)
}

func said(ls []safety.Limit) string {
	var out []string
	for _, l := range ls {
		out = append(out, l.Step+" "+l.State+" "+l.Section+": "+l.Said.Text)
	}
	return strings.Join(out, "\n")
}

// UK: below 8 °C within 90 min (FSA guidance); FDA Food Code 2022, 3-501.14: 57 → 21 °C
// within 2 h and 57 → 5 °C within 6 h. Values from memory.
func TestCoolingLimits(t *testing.T) {
	c := &kitchen.Component{Store: kitchen.Chilled, ShelfLifeH: 48, Steps: []kitchen.Step{step("cook", kitchen.Ahead, kitchen.Burner, 30),
		step("chill", kitchen.Ahead, kitchen.BlastChiller, 91, "cook")}}
	require.Equal(t, "chill fault FSA guidance on chilling: Cooling: as quickly as possible, "+
		"in practice below 8 °C within 90 min; this takes 1 h 31.", said(limits(c, kitchen.CodeUKEU)))
	require.Equal(t, "chill mind 3-501.14, 3-501.15: Cooling: from 57 °C to 21 °C within 2 h, and to 5 °C within 6 h in all.",
		said(limits(c, kitchen.CodeFDA)))
	c.Steps[1].Time.Fixed = kitchen.Exactly(90 * 60)
	require.Equal(t, "mind", limits(c, kitchen.CodeUKEU)[0].State, "the limit itself is kept")
	c.Steps[1].Time.Fixed = kitchen.Exactly(6*3600 + 60)
	require.Equal(t, "fault", limits(c, kitchen.CodeFDA)[0].State)
	// A fridge after something that was never hot cools nothing.
	c.Steps[0].Equipment = nil
	require.Empty(t, limits(c, kitchen.CodeUKEU))
}

// FDA 3-403.11: 74 °C for 15 s within 2 h; UK practice 70 °C for 2 min. From memory.
func TestReheatingLimits(t *testing.T) {
	c := &kitchen.Component{Store: kitchen.Chilled, Steps: []kitchen.Step{step("cook", kitchen.Ahead, kitchen.Burner, 30),
		step("warm", kitchen.PickUp, kitchen.Oven, 6, "cook"), step("glaze", kitchen.PickUp, kitchen.Burner, 2, "warm")}}
	require.Contains(t, said(limits(c, kitchen.CodeFDA)), "warm mind 3-403.11: Reheating: to 74 °C for 15 s, reached within 2 h")
	require.Contains(t, said(limits(c, kitchen.CodeUKEU)), "warm mind FSA guidance on reheating: Reheating: to 70 °C for 2 min")
	require.NotContains(t, said(limits(c, kitchen.CodeUKEU)), "glaze", "it is hot already")
	c.Store = kitchen.Dry
	require.Empty(t, limits(c, kitchen.CodeUKEU))
}

// UK: 63 °C, once up to 2 h below; FDA 3-501.16 and 3-501.19: 57 °C, 4 h as a time
// control. From memory.
func TestHoldingLimits(t *testing.T) {
	c := &kitchen.Component{Hold: kitchen.Wait{Place: kitchen.Hot, Longest: ptr(3 * 3600)}}
	require.Contains(t, said(limits(c, kitchen.CodeUKEU)),
		"fault FSA guidance on hot holding; SI 2013/2996, Schedule 4: Holding: hot at 63 °C or above; below it once, for 2 h at most; it may wait 3 h here.")
	require.Equal(t, "mind", limits(c, kitchen.CodeFDA)[0].State)
	c.Hold.Longest = ptr(4*3600 + 1)
	require.Equal(t, "fault", limits(c, kitchen.CodeFDA)[0].State)
	c.Hold.Place = kitchen.OnBench
	require.Empty(t, limits(c, kitchen.CodeUKEU))
}

// FDA 3-501.17: 7 days at 5 °C. From memory.
func TestKeeping(t *testing.T) {
	c := &kitchen.Component{Store: kitchen.Chilled, ShelfLifeH: 7*24 + 1}
	require.Contains(t, said(limits(c, kitchen.CodeFDA)), "fault 3-501.17")
	c.ShelfLifeH = 7 * 24
	require.Empty(t, limits(c, kitchen.CodeFDA))
	c.ShelfLifeH, c.Store = 700, kitchen.Dry
	require.Empty(t, limits(c, kitchen.CodeFDA))
}

// UK practice: 70 °C for 2 min, or 60 °C 45 min, 65 °C 10 min, 75 °C 30 s, 80 °C 6 s;
// FDA 3-401.11: poultry 74 °C at once. From memory.
func TestPoultry(t *testing.T) {
	s := step("bath", kitchen.Ahead, kitchen.WaterBath, 75)
	s.Dangers = []kitchen.Danger{"raw-poultry"}
	c := &kitchen.Component{Steps: []kitchen.Step{s}}
	for at, want := range map[float64]string{58: "below 60 °C no equal is given", 62: "62 °C asks for 45 min", 66: "66 °C asks for 10 min",
		72: "70 °C in the core for 2 min, or what equals it."} {
		c.Steps[0].Equipment.SetpointC = ptr(at)
		require.Contains(t, said(limits(c, kitchen.CodeUKEU)), want)
		require.Contains(t, said(limits(c, kitchen.CodeFDA)), "74 °C in the core")
	}
}

func TestRawFish(t *testing.T) {
	s := step("cure", kitchen.Ahead, "", 600)
	s.Dangers = []kitchen.Danger{"raw-fish"}
	c := &kitchen.Component{Steps: []kitchen.Step{s}}
	require.Contains(t, said(limits(c, kitchen.CodeUKEU)), "−20 °C for 24 h, or at −35 °C for 15 h")
	require.Contains(t, said(limits(c, kitchen.CodeFDA)), "3-402.11: Fish eaten raw or nearly raw: frozen at −20 °C for 168 h")
	for _, under := range []kitchen.SafetyCode{kitchen.CodeUKEU, kitchen.CodeFDA} {
		require.NotContains(t, strings.ToLower(said(limits(c, under))), "is safe")
	}
}

// Hot holding: below 63 °C (57 °C by the FDA's code) once, for 2 h (4 h) at most; at that temperature for as long as it likes.
// FSA guidance on hot holding; FDA Food Code 2022, 3-501.16 and 3-501.19; from memory. Both sides of every limit.
func TestWhereSomethingIsHeldHot(t *testing.T) {
	state := func(code kitchen.SafetyCode, w kitchen.Wait, pot *kitchen.Pot) string {
		c := &kitchen.Component{Hold: w, Pot: pot, Steps: []kitchen.Step{{ID: "a", Phase: kitchen.PickUp}}}
		for _, l := range limits(c, code) {
			if l.Step == "" {
				return l.State
			}
		}
		return ""
	}
	in := func(kind kitchen.EquipmentKind, c float64) *kitchen.EquipmentNeed {
		return &kitchen.EquipmentNeed{Kind: kind, Units: 1, SetpointC: &c}
	}
	uk, fda := kitchen.CodeUKEU, kitchen.CodeFDA
	require.Equal(t, "mind", state(uk, kitchen.Wait{Longest: ptr(7200), In: in(kitchen.Oven, 50)}, nil))
	require.Equal(t, "fault", state(uk, kitchen.Wait{Longest: ptr(7201), In: in(kitchen.Oven, 50)}, nil))
	require.Equal(t, "fault", state(uk, kitchen.Wait{Longest: ptr(7201), In: in(kitchen.Oven, 62.9)}, nil))
	require.Equal(t, "mind", state(uk, kitchen.Wait{Longest: ptr(7201), In: in(kitchen.Oven, 63)}, nil))
	require.Equal(t, "mind", state(fda, kitchen.Wait{Longest: ptr(4 * 3600), In: in(kitchen.Oven, 50)}, nil))
	require.Equal(t, "fault", state(fda, kitchen.Wait{Longest: ptr(4*3600 + 1), In: in(kitchen.Oven, 56.9)}, nil))
	require.Equal(t, "mind", state(fda, kitchen.Wait{Longest: ptr(4*3600 + 1), In: in(kitchen.Oven, 57)}, nil))
	require.Equal(t, "", state(uk, kitchen.Wait{Longest: ptr(7201), In: in(kitchen.Fridge, 4)}, nil), "it is not held hot")
	require.Equal(t, "fault", state(uk, kitchen.Wait{NoLimit: true, Place: kitchen.Hot}, nil))
	require.Equal(t, "mind", state(uk, kitchen.Wait{Place: kitchen.Hot}, nil), "what nobody limited has the usual limit")
	require.Equal(t, "mind", state(uk, kitchen.Wait{}, &kitchen.Pot{HoldsS: 7200}))
	require.Equal(t, "fault", state(uk, kitchen.Wait{}, &kitchen.Pot{HoldsS: 7201}))
	require.Equal(t, "mind", state(uk, kitchen.Wait{}, &kitchen.Pot{HoldsS: 7201, In: in(kitchen.Holding, 70)}))
}
