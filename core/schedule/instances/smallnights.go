package instances

import "jointime/core/workload"

// SmallNights is how many small evenings there are: so many of each family.
const SmallNights = 4 * 6

// SmallNight draws small evening number i (from 0): two or three tables of the families of Nights in turn, with hands at both ends of what
// cooks by itself, shared batches, two sittings, ovens in conflict and one section overloaded, in units of a minute and from an hour
// before the first table, so that a general solver can prove what is best.
func SmallNight(i int) *workload.Workload {
	n := Nights()[i%6]
	n.Tables = 2 + i/6%2
	n.Cooks = [4]int{1, 0, 0, 0} // the other sections' work is done by who helps everywhere
	return coarse(n.draw(uint64(100+i), true), 60, 3600)
}

// coarse gives a workload's times in units of so many seconds, from an instant on.
func coarse(w *workload.Workload, unit, from int64) *workload.Workload {
	up := func(v int64) int64 { return (v + unit - 1) / unit } // 0 stays 0
	at := func(v int64) int64 { return max(0, v-from) / unit }
	w.Horizon = at(w.Horizon) / 2
	for i := range w.Tasks {
		w.Tasks[i].Seconds = up(w.Tasks[i].Seconds)
	}
	for i := range w.Joins {
		if w.Joins[i].At != nil {
			w.Joins[i].At = ptr(at(*w.Joins[i].At))
		}
	}
	for i := range w.Links {
		l := &w.Links[i]
		switch {
		case l.From == "clock":
			l.Best = ptr(at(*l.Best))
		case l.To == "clock":
			l.Min, l.Best = -w.Horizon, ptr(-at(-*l.Best))
		default:
			l.Min = up(l.Min)
			if l.Best != nil {
				l.Best = ptr(up(*l.Best))
			}
		}
	}
	for i := range w.Resources {
		if t := w.Resources[i].Thermostat; t != nil {
			t.HeatCPerMin, t.CoolCPerMin = t.HeatCPerMin*float64(unit), t.CoolCPerMin*float64(unit) // so many °C in 60 units
		}
	}
	return w
}
