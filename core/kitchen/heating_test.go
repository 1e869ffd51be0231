package kitchen_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/heat"
	"jointime/core/kitchen"
)

// sized is a step that heats a piece in something, in a starter kitchen with one of each kind of equipment.
func sized(kind kitchen.EquipmentKind, setpoint float64, p kitchen.Piece) kitchen.Step {
	s := kitchen.Step{ID: "cook", Name: "cook", Phase: kitchen.PickUp, Hands: kitchen.None,
		Time: kitchen.StepTime{Fixed: kitchen.Exactly(60)}, Piece: &p}
	if kind != "" {
		s.Equipment = &kitchen.EquipmentNeed{Kind: kind, Units: 1}
		if setpoint != 0 {
			s.Equipment.SetpointC = &setpoint
		}
	}
	return s
}

func heated(t *testing.T, change func(*kitchen.Data)) *kitchen.Book {
	t.Helper()
	d := kitchen.Starter("K", "UTC", kitchen.CodeUKEU)
	d.Equipment = nil
	for _, k := range kitchen.EquipmentKinds() {
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "one-" + string(k), Name: string(k), Kind: k, Capacity: 4, Unit: "place"})
	}
	if change != nil {
		change(&d)
	}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	return b
}

var breast = kitchen.Piece{Shape: heat.Slab, Mm: 25, Food: heat.MeatFood, StartC: 5, TargetC: 54}

// Baldwin, A Practical Guide to Sous Vide Cooking, table 2.2 (from memory): 25 mm of meat, slab-like, from 5 °C in a bath half a degree
// over the core that is wanted takes about 75 min, rounded up to 5 min.
func TestASizeSetsATime(t *testing.T) {
	b := heated(t, nil)
	h := b.Heating(ptrTo(sized(kitchen.WaterBath, 54.5, breast)))
	require.False(t, h.Problem, h.Said.Text)
	require.InDelta(t, 75*60, h.Time.Likely, 10*60)
	require.Less(t, h.Time.Low, h.Time.Likely)
	require.Less(t, h.Time.Likely, h.Time.High)
	require.Zero(t, h.Time.Likely%5)
	require.Zero(t, h.RiseC, "in a bath it hardly rises")
	require.Equal(t, "Computed for a flat piece of meat, 25 mm thick, from 5 °C in a water bath at 54.5 °C until the core is at 54 °C.",
		h.Said.Text)
	p := breast
	p.Shape, p.Mm = heat.Cylinder, 70
	h = b.Heating(ptrTo(sized(kitchen.Oven, 180, p)))
	require.Greater(t, h.RiseC, 2.0)
	require.InDelta(t, 54, h.OutC+h.RiseC, 1.01)
	thick := p
	thick.Mm = 90
	require.Greater(t, b.Heating(ptrTo(sized(kitchen.Oven, 180, thick))).Time.Likely, h.Time.Likely)
	require.Nil(t, b.Heating(&kitchen.Step{Name: "chop"}))
}

func ptrTo[T any](v T) *T { return &v }

// A still oven takes longer than one with a fan; where any has one, it is taken. Half of what the door costs is added; a kitchen's own
// factor multiplies.
func TestWhatTheKitchenSaysOfItsHeat(t *testing.T) {
	p := breast
	p.Shape, p.Mm = heat.Cylinder, 60
	s := sized(kitchen.Oven, 180, p)
	oven := func(change func(*kitchen.Equipment)) *kitchen.Book {
		return heated(t, func(d *kitchen.Data) {
			for i := range d.Equipment {
				if d.Equipment[i].Kind == kitchen.Oven {
					change(&d.Equipment[i])
				}
			}
		})
	}
	fan := heated(t, nil).Heating(&s).Time
	still := oven(func(e *kitchen.Equipment) { e.Still = true }).Heating(&s).Time
	require.Greater(t, float64(still.Likely), 1.3*float64(fan.Likely))
	slow := oven(func(e *kitchen.Equipment) { e.RecoverS = 240 }).Heating(&s).Time
	require.InDelta(t, fan.Likely+120, slow.Likely, 5)
	both := heated(t, func(d *kitchen.Data) {
		for i := range d.Equipment {
			d.Equipment[i].Still = d.Equipment[i].Kind == kitchen.Oven
		}
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: "fan", Name: "Fan", Kind: kitchen.Oven, Capacity: 1, Unit: "tray"})
	})
	require.Equal(t, fan, both.Heating(&s).Time)
	s.Piece.Factor, s.Piece.Observed = 1.5, 2
	h := heated(t, nil).Heating(&s)
	require.InDelta(t, 1.5*float64(fan.Likely), h.Time.Likely, 5)
	require.Contains(t, h.Said.Text, "1.5 times as long, by 2 probes")
}

// Sizes of 0 or 3 m, a target past the medium, no heat: a clear word, and the typed time stays.
func TestWhatIsNotComputed(t *testing.T) {
	b := heated(t, nil)
	with := func(change func(*kitchen.Piece)) kitchen.Step {
		p := breast
		change(&p)
		return sized(kitchen.WaterBath, 56, p)
	}
	for want, s := range map[string]kitchen.Step{
		"its size is not between 1 and 500 mm": with(func(p *kitchen.Piece) { p.Mm = 3000 }),
		"its weight is not between":            with(func(p *kitchen.Piece) { p.Mm, p.Grams = 0, 60_000 }),
		"the core never gets there":            with(func(p *kitchen.Piece) { p.TargetC = 56 }),
		"a temperature is not between":         with(func(p *kitchen.Piece) { p.StartC = -60 }),
		"its shape or food is not known":       with(func(p *kitchen.Piece) { p.Shape = "cube" }),
		"nothing says what it is heated in":    sized("", 0, breast),
	} {
		h := b.Heating(&s)
		require.True(t, h.Problem, want)
		require.Contains(t, h.Said.Text, want)
		require.Contains(t, h.Said.Text, "The typed time stays.")
		c := kitchen.Component{ID: "c", Steps: []kitchen.Step{s}}
		b.SetTimes(&kitchen.Component{}, &c)
		require.Equal(t, kitchen.Exactly(60), c.Steps[0].Time.Fixed)
	}
	s := with(func(p *kitchen.Piece) { p.Mm = 0 })
	require.Contains(t, b.Heating(&s).Said.Text, "its size")
	for target, problem := range map[float64]bool{55.8: false, 55.9: true} {
		s := with(func(p *kitchen.Piece) { p.TargetC = target })
		require.Equal(t, problem, b.Heating(&s).Problem, target)
	}
}

// A book refuses a piece that cannot be, and names what and where.
func TestAPieceThatCannotBeIsRefused(t *testing.T) {
	for path, change := range map[string]func(*kitchen.Piece){
		"mm": func(p *kitchen.Piece) { p.Mm = 501 }, "grams": func(p *kitchen.Piece) { p.Grams = 50_001 },
		"shape": func(p *kitchen.Piece) { p.Shape = "cube" },
		"food":  func(p *kitchen.Piece) { p.Food = "stone" }, "start_c": func(p *kitchen.Piece) { p.StartC = -41 },
		"target_c": func(p *kitchen.Piece) { p.TargetC = 351 }, "medium_c": func(p *kitchen.Piece) { p.MediumC = ptrTo(351.0) },
		"factor": func(p *kitchen.Piece) { p.Factor = 5.1 }} {
		p := breast
		change(&p)
		b := heated(t, nil)
		c := kitchen.Component{ID: "c", Name: "C", Section: b.Data().Sections[0].ID, Unit: kitchen.Grams, GramsPerUnit: 1, DensityGPerMl: 1,
			Colour: "#ffffff",
			Steps:  []kitchen.Step{sized(kitchen.WaterBath, 56, p)}}
		d := b.Data()
		d.Components = append(d.Components, c)
		_, err := kitchen.NewBook(d)
		require.ErrorContains(t, err, "piece."+path)
		c.Steps[0].Piece = ptrTo(breast)
		d.Components = []kitchen.Component{c}
		_, err = kitchen.NewBook(d)
		require.NoError(t, err)
	}
}

// The size sets the time, until somebody types one beside the same piece; a wish with a core of its own changes the seconds.
func TestTimesThatFollowFromSizes(t *testing.T) {
	b := heated(t, nil)
	was := kitchen.Component{ID: "c", Steps: []kitchen.Step{sized(kitchen.WaterBath, 62, breast)}}
	b.SetTimes(&kitchen.Component{}, &was)
	first := was.Steps[0].Time.Fixed
	require.Equal(t, b.Heating(&was.Steps[0]).Time, first)
	c := was.Clone()
	c.Steps[0].Piece.Mm = 30
	c.Steps[0].Doneness = []kitchen.Doneness{{Name: "well done", TargetC: ptrTo(60.0)}, {Name: "rare", TargetC: ptrTo(48.0)},
		{Name: "large", Mm: 40}, {Name: "crisp", Seconds: 30}, {Name: "burnt", Seconds: 7, TargetC: ptrTo(99.0)}}
	b.SetTimes(&was, &c)
	require.False(t, c.Steps[0].Piece.Typed)
	require.Greater(t, c.Steps[0].Time.Fixed.Likely, first.Likely)
	d := c.Steps[0].Doneness
	require.Positive(t, d[0].Seconds)
	require.Negative(t, d[1].Seconds)
	require.Positive(t, d[2].Seconds)
	require.Equal(t, 30, d[3].Seconds)
	require.Equal(t, 7, d[4].Seconds, "what cannot be computed stays")
	silent := c.Clone()
	silent.Steps[0].Time = kitchen.StepTime{}
	b.SetTimes(&c, &silent)
	require.Equal(t, c.Steps[0], silent.Steps[0], "nobody said a time")
	typed := c.Clone()
	typed.Steps[0].Time.Fixed = kitchen.Exactly(1234)
	b.SetTimes(&c, &typed)
	require.True(t, typed.Steps[0].Piece.Typed)
	require.Equal(t, 1234, typed.Steps[0].Time.Fixed.Likely)
	again := typed.Clone()
	again.Steps[0].Piece.Mm = 20
	b.SetTimes(&typed, &again)
	require.Equal(t, 1234, again.Steps[0].Time.Fixed.Likely, "what was typed stays")
	again.Steps[0].Piece.Typed = false
	b.SetTimes(&typed, &again)
	require.Less(t, again.Steps[0].Time.Fixed.Likely, first.Likely, "until it is let go")
}

// An assumed wait on the bench ends when the core is no longer hot: computed, it may shorten what is usual, never lengthen it.
func TestAHotWaitEndsWhenItIsCold(t *testing.T) {
	p := breast
	p.TargetC = 70
	thin, thick := p, p
	thin.Mm, thick.Mm = 5, 80
	c := toOrder("Steak", kitchen.Wait{}, sized(kitchen.Oven, 180, p))
	usual := 12 * 60
	c.Steps[0].Piece = nil
	require.Equal(t, usual, *c.PlannedHold().Longest)
	c.Steps[0].Piece = &thin
	w := c.PlannedHold()
	require.Less(t, *w.Longest, usual)
	require.Equal(t, "cooling", w.By)
	c.Steps[0].Piece = &thick
	w = c.PlannedHold()
	require.Equal(t, usual, *w.Longest)
	require.NotEqual(t, "cooling", w.By)
	thin.TargetC = 55
	c.Steps[0].Piece = &thin
	require.Equal(t, usual, *c.PlannedHold().Longest, "what is not served hot does not get cold")
	thin.TargetC = 70
	c.Hold.Longest = n(900)
	require.Equal(t, 900, *c.PlannedHold().Longest, "what was said is kept")
}

// The factor of several probes is their mean by the logarithm, in whatever order they came.
func TestAFactorFromProbes(t *testing.T) {
	p := breast
	p.Observe(2)
	require.InDelta(t, 2, p.Factor, 1e-9)
	p.Observe(0.5)
	require.InDelta(t, 1, p.Factor, 1e-9)
	p.Observe(1.331)
	require.InDelta(t, 1.1, p.Factor, 1e-6)
	require.Equal(t, 3, p.Observed)
	q := breast
	for _, f := range []float64{1.331, 0.5, 2} {
		q.Observe(f)
	}
	require.InDelta(t, p.Factor, q.Factor, 1e-9)
	require.False(t, math.IsNaN(p.Factor))
}

// What a step is taken to heat comes from its words: common practice, no source.
func TestWhatAStepIsTakenToHeat(t *testing.T) {
	food := func(name, step string) heat.Food {
		c := kitchen.Component{Name: name}
		return c.UsualPiece(&kitchen.Step{Name: step}).Food
	}
	require.Equal(t, heat.FishFood, food("Hake", "roast"))
	require.Equal(t, heat.FishFood, food("Cured salmon", ""))
	require.Equal(t, heat.RootFood, food("Carrots", "roast"))
	require.Equal(t, heat.Liquid, food("Red wine sauce", "boil"))
	require.Equal(t, heat.EggFood, food("Breakfast", "boil the eggs"))
	require.Equal(t, heat.DoughRaw, food("Sponge", "bake"))
	require.Equal(t, heat.MeatFood, food("Thing", "cook"))
	c := kitchen.Component{Name: "Loin"}
	s := kitchen.Step{Name: "roast", Checks: []kitchen.DoneCheck{{Kind: "core", TargetC: ptrTo(58.0)}}}
	require.Equal(t, 58.0, c.UsualPiece(&s).TargetC)
	s = kitchen.Step{Name: "chill", Equipment: &kitchen.EquipmentNeed{Kind: kitchen.BlastChiller}}
	p := c.UsualPiece(&s)
	require.Greater(t, p.StartC, p.TargetC)
}

// A copy is its own: what is computed or observed on it leaves what it was copied from alone.
func TestACopyHasASizeOfItsOwn(t *testing.T) {
	b := heated(t, nil)
	s := sized(kitchen.WaterBath, 62, breast)
	s.Doneness = []kitchen.Doneness{{Name: "well done", TargetC: ptrTo(60.0)}}
	was := kitchen.Component{ID: "c", Steps: []kitchen.Step{s}}
	c := was.Clone()
	c.Steps[0].Time.Fixed = kitchen.Exactly(999)
	b.SetTimes(&was, &c)
	c.Steps[0].Piece.Observe(2)
	require.True(t, c.Steps[0].Piece.Typed)
	require.Equal(t, breast, *was.Steps[0].Piece)
	require.Zero(t, was.Steps[0].Doneness[0].Seconds)
}

// An oven's heat as other ovens have it: twenty degrees between a fan and none, °F and gas marks of the still one (common practice, no
// source).
func TestAnOvensHeatInOtherHabits(t *testing.T) {
	s := sized(kitchen.Oven, 160, breast)
	require.Equal(t, "160 °C with a fan, 180 °C without, 355 °F, gas 4", heated(t, nil).OvenSaid(&s).Text)
	still := heated(t, func(d *kitchen.Data) {
		for i := range d.Equipment {
			d.Equipment[i].Still = true
		}
	})
	require.Equal(t, "140 °C with a fan, 160 °C without, 320 °F, gas 3", still.OvenSaid(&s).Text)
	*s.Equipment.SetpointC = 50
	require.Equal(t, "50 °C with a fan, 70 °C without, 160 °F", heated(t, nil).OvenSaid(&s).Text)
	s.Equipment.SetpointC = nil
	require.Nil(t, still.OvenSaid(&s))
	bath := sized(kitchen.WaterBath, 56, breast)
	require.Nil(t, still.OvenSaid(&bath))
	require.Nil(t, still.OvenSaid(&kitchen.Step{}))
}

// Every kind of equipment that heats or chills is a medium of its own; what holds nothing hot is none.
func TestWhatEachKindOfEquipmentHeatsWith(t *testing.T) {
	b := heated(t, nil)
	for kind, want := range map[kitchen.EquipmentKind]string{kitchen.WaterBath: "in a water bath at 62", kitchen.Oven: "in a fan oven at 180",
		kitchen.Steamer: "in steam at 100", kitchen.Burner: "in a pan, turned at 180", kitchen.Fryer: "in hot fat at 175",
		kitchen.Grill:      "on a grill at 250",
		kitchen.Salamander: "on a grill at 250", kitchen.Plancha: "in a pan, turned at 200", kitchen.Holding: "in a warm cupboard at 65"} {
		setpoint := 0.0
		if kind == kitchen.WaterBath {
			setpoint = 62
		}
		s := sized(kind, setpoint, breast)
		require.Contains(t, b.Heating(&s).Said.Text, want, kind)
	}
	cold := breast
	cold.StartC, cold.TargetC = 80, 10
	for kind, want := range map[kitchen.EquipmentKind]string{kitchen.Fridge: "in the cold at 4", kitchen.Freezer: "in the cold at -18",
		kitchen.BlastChiller: "in a blast chiller at 1"} {
		s := sized(kind, 0, cold)
		require.Contains(t, b.Heating(&s).Said.Text, want, kind)
	}
	for _, kind := range []kitchen.EquipmentKind{kitchen.Blender, kitchen.Bench, kitchen.WaterBath, ""} {
		s := sized(kind, 0, breast)
		require.True(t, b.Heating(&s).Problem, "%s says no heat", kind)
	}
	s := sized(kitchen.Burner, 0, breast)
	s.Name = "poach the breast"
	require.Contains(t, b.Heating(&s).Said.Text, "in boiling water at 100")
	s.Piece.MediumC = ptrTo(80.0)
	require.Contains(t, b.Heating(&s).Said.Text, "at 80", "what the piece says goes first")
}
