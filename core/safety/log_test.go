package safety_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
	"jointime/core/safety"
)

var noon = time.Date(2026, 5, 14, 12, 0, 0, 0, time.UTC)

// house is a kitchen with a fridge, a freezer, something that holds hot, and barley that is cooled and chicken that is cooked.
func house(t *testing.T, under kitchen.SafetyCode) *kitchen.Book {
	t.Helper()
	d := kitchen.Starter("K", "UTC", under)
	d.Kitchen.DayFrom, d.Kitchen.ServiceFrom, d.Kitchen.ServiceTo = 8*60, 18*60, 22*60
	d.Equipment = nil
	for _, k := range []kitchen.EquipmentKind{kitchen.Fridge, kitchen.Freezer, kitchen.Holding, kitchen.Burner, kitchen.Oven,
		kitchen.BlastChiller} {
		d.Equipment = append(d.Equipment, kitchen.Equipment{ID: string(k), Name: string(k), Kind: k, Capacity: 4, Unit: "place"})
	}
	barley := kitchen.Component{ID: "barley", Name: "Barley", Section: d.Sections[0].ID, Unit: kitchen.Grams, GramsPerUnit: 1,
		DensityGPerMl: 1, BatchYield: 100,
		Store: kitchen.Chilled, Steps: []kitchen.Step{step("cook", kitchen.Ahead, kitchen.Burner, 30), step("chill", kitchen.Ahead,
			kitchen.BlastChiller, 40, "cook")}}
	chicken := barley
	chicken.ID, chicken.Name, chicken.Store = "chicken", "Chicken", ""
	chicken.Steps = []kitchen.Step{step("roast", kitchen.Ahead, kitchen.Oven, 60)}
	chicken.Ingredients = []kitchen.Ingredient{{Name: "chicken", Amount: 1, Unit: "kg", InAt: 9 * 60}}
	d.Components = []kitchen.Component{barley, chicken}
	b, err := kitchen.NewBook(d)
	require.NoError(t, err)
	return b
}

func entry(n int64, kind safety.LogKind, ref string, c float64, after time.Duration) safety.Entry {
	return safety.Entry{Number: n, Kind: kind, What: ref, Ref: ref, C: &c, Person: "Ada", At: noon.Add(after), Written: noon.Add(after)}
}

// A reading stands beside the code's number, on both sides: 70 °C and 74 °C in the core, 63 °C and 57 °C held hot, 8 °C and 5 °C cold (FSA
// guidance, SI 2013/2996; FDA Food Code 2022; from memory); −18 °C frozen, ± 1 °C in ice water (common practice, no source).
func TestReadingsBesideTheirLimits(t *testing.T) {
	uk, us := house(t, kitchen.CodeUKEU), house(t, kitchen.CodeFDA)
	for _, x := range []struct {
		kind    safety.LogKind
		ref     string
		subject safety.Subject
		c       float64
		uk, us  string
	}{
		{safety.CoreLog, "chicken", safety.Poultry, 74, "within", "within"}, {safety.CoreLog, "chicken", safety.Poultry, 73.9, "within", "past"},
		{safety.CoreLog, "chicken", safety.Poultry, 70, "within", "past"}, {safety.CoreLog, "chicken", safety.Poultry, 69.9, "past", "past"},
		{safety.CoreLog, "barley", safety.Reheating, 74, "within", "within"}, {safety.CoreLog, "barley", "", 69, "past", "past"},
		{safety.HoldingLog, "holding", "", 63, "within", "within"}, {safety.HoldingLog, "holding", "", 62.9, "past", "within"},
		{safety.HoldingLog, "holding", "", 56.9, "past", "past"},
		{safety.ColdLog, "fridge", "", 5, "within", "within"}, {safety.ColdLog, "fridge", "", 8, "within", "past"},
		{safety.ColdLog, "fridge", "", 8.1, "past", "past"},
		{safety.ColdLog, "freezer", "", -18, "within", "within"}, {safety.ColdLog, "freezer", "", -17.9, "past", "past"},
		{safety.DeliveryLog, "chicken", "", 4, "within", "within"}, {safety.DeliveryLog, "chicken", "", 9, "past", "past"},
		{safety.ProbeLog, "", "", -1, "within", "within"}, {safety.ProbeLog, "", "", 1.1, "past", "past"},
	} {
		e := entry(1, x.kind, x.ref, x.c, 0)
		e.Subject = x.subject
		require.Equal(t, x.uk, safety.Judge(uk, []safety.Entry{e})[0].State, "%v %v", x.kind, x.c)
		require.Equal(t, x.us, safety.Judge(us, []safety.Entry{e})[0].State, "%v %v", x.kind, x.c)
	}
	cleaned := entry(1, safety.ProbeLog, "", 0, 0)
	cleaned.C = nil
	require.Equal(t, "noted", safety.Judge(uk, []safety.Entry{cleaned})[0].State)
}

// cool is the last state of a cooling, minutes and degrees in turn.
func cool(b *kitchen.Book, readings ...float64) string {
	var list []safety.Entry
	for i := 0; i < len(readings); i += 2 {
		e := entry(int64(i/2+1), safety.CoolingLog, "barley", readings[i+1], time.Duration(readings[i]*float64(time.Minute)))
		if i > 0 {
			e.Run = 1
		}
		list = append(list, e)
	}
	lines := safety.Judge(b, list)
	return lines[len(lines)-1].State
}

// Cooling: below 8 °C within 90 min (FSA guidance); to 21 °C within 2 h and to 5 °C within 6 h (FDA 3-501.14). From memory. What was not
// read in time is past: nobody knows when it got there.
func TestACoolingInTheLog(t *testing.T) {
	uk, us := house(t, kitchen.CodeUKEU), house(t, kitchen.CodeFDA)
	require.Equal(t, "open", cool(uk, 0, 85))
	require.Equal(t, "open", cool(uk, 0, 85, 60, 20))
	require.Equal(t, "within", cool(uk, 0, 85, 60, 20, 90, 8))
	require.Equal(t, "open", cool(uk, 0, 85, 90, 8.1))
	require.Equal(t, "past", cool(uk, 0, 85, 91, 8.1))
	require.Equal(t, "past", cool(uk, 0, 85, 91, 7))
	require.Equal(t, "open", cool(us, 0, 85, 120, 21))
	require.Equal(t, "past", cool(us, 0, 85, 121, 22))
	require.Equal(t, "within", cool(us, 0, 85, 120, 21, 360, 5))
	require.Equal(t, "past", cool(us, 0, 85, 120, 21, 361, 5))
	require.Equal(t, "open", cool(us, 0, 85, 120, 21, 300, 6))
}

// A line that was wrong stays, and is set beside nothing; the one that corrects it counts.
func TestACorrectedLine(t *testing.T) {
	b := house(t, kitchen.CodeUKEU)
	wrong, right := entry(1, safety.ColdLog, "fridge", 40, 0), entry(2, safety.ColdLog, "fridge", 4, time.Minute)
	right.Corrects = 1
	lines := safety.Judge(b, []safety.Entry{wrong, right})
	require.EqualValues(t, 2, lines[0].Corrected)
	require.Equal(t, "noted", lines[0].State)
	require.Equal(t, "within", lines[1].State)
}

func missing(b *kitchen.Book, now time.Duration, made []safety.Made, entries ...safety.Entry) []string {
	out := []string{}
	for _, d := range safety.Missing(b, made, entries, noon.Add(now)) {
		out = append(out, d.Said.Text)
	}
	return out
}

// What is missing: the probe and each cold place when the day begins and before service, goods when they are in, what was cooled and
// what was cooked once it was done, what is held every two hours of service. Common practice, no source.
func TestWhatIsMissingToday(t *testing.T) {
	b := house(t, kitchen.CodeUKEU)
	require.Empty(t, missing(b, -4*time.Hour-time.Minute, nil)[1:], "before the day begins only the probe is missing")
	require.Equal(t, []string{"The probe: cleaned, and read in ice water", "freezer: its temperature", "fridge: its temperature"},
		missing(b, -4*time.Hour, nil))
	probe := entry(1, safety.ProbeLog, "", 0, -4*time.Hour)
	fridge, freezer := entry(2, safety.ColdLog, "fridge", 4, -4*time.Hour), entry(3, safety.ColdLog, "freezer", -20, -4*time.Hour)
	morning := []safety.Entry{probe, fridge, freezer}
	require.Empty(t, missing(b, -3*time.Hour-time.Minute, nil, morning...))
	require.Equal(t, []string{"chicken: came in, its temperature"}, missing(b, -3*time.Hour, nil, morning...))
	in := entry(4, safety.DeliveryLog, "chicken", 3, -3*time.Hour)
	morning = append(morning, in)
	require.Empty(t, missing(b, 0, nil, morning...))

	made := []safety.Made{{Component: "barley", Step: "chill", At: noon}, {Component: "chicken", Step: "roast", At: noon.Add(time.Minute)}}
	require.Empty(t, missing(b, -time.Minute, made, morning...), "what is not done needs no line yet")
	require.Equal(t, []string{"Barley: cooling, the first reading", "Chicken: its core"}, missing(b, time.Minute, made, morning...))
	begun := entry(5, safety.CoolingLog, "barley", 80, -30*time.Minute)
	require.Equal(t, []string{"barley: cooling, at 8 °C by 13:00:00", "Chicken: its core"},
		missing(b, time.Minute, made, append(morning, begun)...))
	cold, core := entry(6, safety.CoolingLog, "barley", 7, 0), entry(7, safety.CoreLog, "chicken", 75, time.Minute)
	cold.Run = 5
	require.Empty(t, missing(b, time.Hour, made, append(morning, begun, cold, core)...))
	all := safety.Missing(b, made, append(morning, begun), noon.Add(61*time.Minute))
	require.True(t, all[0].Late, "its time is over")
	require.False(t, safety.Missing(b, made, append(morning, begun), noon.Add(59*time.Minute))[0].Late)

	done := append(morning, begun, cold, core)
	require.Equal(t, []string{"freezer: its temperature", "fridge: its temperature"}, missing(b, 5*time.Hour, made, done...))
	done = append(done, entry(8, safety.ColdLog, "fridge", 4, 5*time.Hour), entry(9, safety.ColdLog, "freezer", -20, 5*time.Hour))
	require.Equal(t, []string{"holding: what stands in it, probed"}, missing(b, 6*time.Hour, made, done...))
	done = append(done, entry(10, safety.HoldingLog, "holding", 70, 6*time.Hour))
	require.Empty(t, missing(b, 8*time.Hour-time.Second, made, done...))
	require.Len(t, missing(b, 8*time.Hour, made, done...), 1)
	require.Empty(t, missing(b, 10*time.Hour+time.Minute, made, done...), "after service nothing is held")
	wrong := entry(11, safety.ColdLog, "fridge", 4, 5*time.Hour)
	wrong.Corrects = 8
	require.Empty(t, missing(b, 5*time.Hour+time.Minute, made, append(slicesOf(done), wrong)...), "the correction counts")
}

func slicesOf(list []safety.Entry) []safety.Entry { return append([]safety.Entry{}, list...) }

// Bad input gets a clear word that names what and where.
func TestALineThatCannotBe(t *testing.T) {
	good := entry(1, safety.ColdLog, "fridge", 4, 0)
	require.NoError(t, good.Check(noon))
	require.NoError(t, good.Check(noon.Add(24*time.Hour)), "written down a day later")
	for want, change := range map[string]func(e *safety.Entry){
		"say who you are: the log wants a name":                 func(e *safety.Entry) { e.Person = "" },
		"say what was measured":                                 func(e *safety.Entry) { e.What = "" },
		"say how many degrees":                                  func(e *safety.Entry) { e.C = nil },
		"expected -60 to 300, got 300.1":                        func(e *safety.Entry) { *e.C = 300.1 },
		"expected -60 to 300, got -60.1":                        func(e *safety.Entry) { *e.C = -60.1 },
		"it was read in the last 24 h, and not later than now":  func(e *safety.Entry) { e.At = noon.Add(2 * time.Minute) },
		"it was read in the last 24 h, and not later than now ": func(e *safety.Entry) { e.At = noon.Add(-24*time.Hour - time.Second) },
		"there is no log “weather”":                             func(e *safety.Entry) { e.Kind = "weather" },
		"expected -60 to 300, got NaN":                          func(e *safety.Entry) { *e.C = math.NaN() },
	} {
		e := entry(1, safety.ColdLog, "fridge", 4, 0)
		change(&e)
		var faults kitchen.Faults
		require.ErrorAs(t, e.Check(noon), &faults)
		require.Len(t, faults, 1)
		require.Contains(t, want+" ", faults[0].Message.Text+" ")
	}
}
