package safety

import (
	"time"

	"jointime/core/kitchen"
	"jointime/core/message"
)

// How things are kept: hot, cold, neither, and for how long. A wait is judged by the temperature of its place.

// waits judges what a step waits in after those before it.
func (f *finder) waits(s *kitchen.Step) {
	for _, a := range s.After {
		w := f.c.PlannedWait(s, a).Wait
		f.wait(s.ID, &w)
	}
}

// wait judges one wait.
func (f *finder) wait(step string, w *kitchen.Wait) {
	at, known := placeC(w)
	switch {
	case heldHot(w):
		f.held(step, w)
	case w.In != nil && w.In.Kind.Chills() && w.In.Kind != kitchen.Freezer:
		if known && at > f.code.coldAt {
			f.say(step, "fault", ColdHolding, message.Of("safety.cold-at", "limit", f.limit(ColdHolding), "celsius", at))
		}
	case w.Place == kitchen.Chilled || w.Place == kitchen.Frozen || w.Place == kitchen.Dry:
	case w.Longest != nil && time.Duration(*w.Longest)*time.Second > f.code.coldMost && f.perishes():
		f.say(step, "fault", Unchilled, message.Of("safety.unchilled", "limit", f.limit(Unchilled), "may", message.Rough(*w.Longest)))
	case w.NoLimit && f.perishes():
		f.say(step, "fault", Unchilled, message.Of("safety.unchilled-no-limit", "limit", f.limit(Unchilled)))
	}
}

// placeC is how warm the place of a wait is, where that was said.
func placeC(w *kitchen.Wait) (float64, bool) {
	if w.In == nil || w.In.SetpointC == nil {
		return 0, false
	}
	return *w.In.SetpointC, true
}

// heldHot reports whether something is held hot while it waits: it was said to be, or it stands in something that makes or
// keeps food hot.
func heldHot(w *kitchen.Wait) bool {
	return w.Place == kitchen.Hot || w.In != nil && (w.In.Kind == kitchen.Holding || w.In.Kind.Heats())
}

// passing is how long something stands hot without being held, seconds: on its way to the plate. Common practice, no source.
const passing = 10 * 60

// held judges what is held hot.
func (f *finder) held(step string, w *kitchen.Wait) {
	limit := f.limit(HotHolding)
	at, known := placeC(w)
	switch {
	case known && at >= f.code.holdAt: // it stands in something that keeps it hot: that has no limit
		f.say(step, "mind", HotHolding, message.Of("safety.holding", "limit", limit))
	case w.NoLimit:
		f.say(step, "fault", HotHolding, message.Of("safety.holding-no-limit", "limit", limit))
	case w.Longest != nil && time.Duration(*w.Longest)*time.Second > f.code.holdMost:
		f.say(step, "fault", HotHolding, message.Of("safety.holding-waits", "limit", limit, "may", message.Rough(*w.Longest)))
	case w.Longest != nil && *w.Longest <= passing:
	case known:
		f.say(step, "mind", HotHolding, message.Of("safety.holding-at", "limit", limit, "celsius", at))
	default:
		f.say(step, "mind", HotHolding, message.Of("safety.holding", "limit", limit))
	}
}

// perishes reports whether a component has something of an animal in it, or was cooked: it must not stand warm for hours.
func (f *finder) perishes() bool { return f.isAnimal() || f.brings("milk") || f.wasCooked() }

// kept judges the wait to the plate, and how long a product is kept.
func (f *finder) kept() {
	w := f.c.PlannedHold().Wait
	f.wait("", &w)
	keeps := time.Duration(f.c.ShelfLifeH * float64(time.Hour))
	if f.c.Store != kitchen.Chilled {
		return
	}
	if f.code.keepMost > 0 && keeps > f.code.keepMost {
		f.say("", "fault", UseBy, message.Of("safety.kept", "limit", f.limit(UseBy), "written", lengthOf(keeps)))
	}
	for i := range f.c.Steps {
		if s := &f.c.Steps[i]; s.Equipment != nil && s.Equipment.Kind == kitchen.WaterBath && s.Phase == kitchen.Ahead {
			switch {
			case keeps > f.code.bagMost:
				f.say("", "fault", Bagged, message.Of("safety.kept", "limit", f.limit(Bagged), "written", lengthOf(keeps)))
			case keeps > 48*time.Hour:
				f.say("", "mind", Bagged, message.Of("safety.kept", "limit", f.limit(Bagged), "written", lengthOf(keeps)))
			}
			return
		}
	}
}
