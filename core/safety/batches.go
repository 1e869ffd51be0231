package safety

import (
	"math"

	"jointime/core/heat"
	"jointime/core/kitchen"
	"jointime/core/message"
	"jointime/core/scale"
)

// How long a batch takes to cool, computed: how deep it lies in the container that it just fills, against the code's last stage, and in how
// many parts it would be within it.

// cookedC is how hot what was cooked is when it begins to cool, °C; mostParts into how many a batch is divided at the most. Common
// practice, no source.
const (
	cookedC   = 85.0
	mostParts = 8
)

// iceWords say that something cools in ice water.
var iceWords = []string{"ice bath", "ice water", "over ice", "on ice"}

// cools adds how long a step's cooling takes by its batch, where its amount is known.
func (f *finder) cools(s *kitchen.Step) {
	ml := f.c.BatchYield * f.c.GramsPerUnit / max(f.c.DensityGPerMl, 0.1)
	if ml < 250 || f.c.Unit == kitchen.Pieces {
		return // as good as nothing, or pieces that lie side by side
	}
	b := heat.Batch{Food: heat.Liquid, Medium: heat.Fridge, MediumC: 3, FromC: cookedC}
	switch {
	case kitchen.WordIn(s.Name, iceWords) != "":
		b.Medium, b.MediumC = heat.IceWater, 0.5
	case s.Equipment != nil && s.Equipment.Kind == kitchen.BlastChiller:
		b.Medium, b.MediumC = heat.Chiller, 1
	}
	last := f.code.stages[len(f.code.stages)-1]
	container, deep := scale.Fit(ml)
	b.DepthMm = deep
	whole, err := b.Cools(last.c)
	if err != nil {
		return
	}
	said := func(t heat.Times) message.Rough { return message.Rough(int(math.Round(t.Likely/300)) * 300) }
	for parts := 2; whole.Likely > last.within.Seconds() && parts <= mostParts; parts++ {
		t, err := b.Divided(parts).Cools(last.c)
		if err != nil || t.Likely > last.within.Seconds() && parts < mostParts {
			continue
		}
		f.say(s.ID, "mind", Cooling, message.Of("heat.batch-divided", "deep", math.Round(deep), "container", container, "takes", said(whole),
			"from", cookedC, "to", last.c, "parts", parts, "less", said(t)))
		return
	}
	f.say(s.ID, "mind", Cooling, message.Of("heat.batch", "deep", math.Round(deep), "container", container, "takes", said(whole), "from",
		cookedC, "to", last.c))
}
