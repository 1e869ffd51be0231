package kitchen

import (
	"fmt"
	"time"
)

// Day is one day of a kitchen by the clock on its wall.
type Day struct {
	From        time.Time `json:"from" doc:"First prep"`
	To          time.Time `json:"to" doc:"Close"`
	ServiceFrom time.Time `json:"service_from"`
	ServiceTo   time.Time `json:"service_to"`
	Now         time.Time `json:"now"`
	// UTCOffsetMin is the kitchen's offset from UTC now, for showing clock times.
	UTCOffsetMin int `json:"utc_offset_min"`
}

// dayTurns is the hour at which a new service day begins. Common practice, no source.
const dayTurns = 4

// closing is how many minutes after the last minute of service the kitchen closes. Common practice, no source.
const closing = 60

// Zone is that of the clock on the kitchen's wall; UTC where its name is not known, which a Book never has.
func (k *Kitchen) Zone() *time.Location {
	zone, err := time.LoadLocation(k.TimeZone)
	if err != nil {
		return time.UTC
	}
	return zone
}

// Date is the date of the day that an instant belongs to: until four in the morning it is still yesterday's.
func (k *Kitchen) Date(now time.Time) string {
	return now.In(k.Zone()).Add(-dayTurns * time.Hour).Format(time.DateOnly)
}

// At is the instant that a clock on the wall shows on the day, such as 19:42; up to four in the morning it is the
// night after. The error is Faults.
func (d Day) At(clock string) (time.Time, error) {
	var hour, minute int
	if _, err := fmt.Sscanf(clock, "%d:%d", &hour, &minute); err != nil || hour < 0 || hour > 23 || minute < 0 || minute > 59 {
		return time.Time{}, Faults{FaultAt("clock", "fault.clock", "got", short(clock))}
	}
	if hour < dayTurns {
		hour += 24
	}
	f := d.From
	return time.Date(f.Year(), f.Month(), f.Day(), hour, minute, 0, 0, f.Location()), nil
}

// Stretch is from when, and to before when, the day of a date lasts. The error is Faults.
func (k *Kitchen) Stretch(date string) (from, to time.Time, err error) {
	d, err := time.ParseInLocation(time.DateOnly, date, k.Zone())
	if err != nil {
		return from, to, Faults{FaultAt("day", "fault.date", "got", short(date))}
	}
	at := func(days int) time.Time {
		return time.Date(d.Year(), d.Month(), d.Day()+days, dayTurns, 0, 0, 0, k.Zone())
	}
	return at(0), at(1), nil
}

// DayOf is the day that an instant belongs to.
func (k *Kitchen) DayOf(now time.Time) Day {
	zone := k.Zone()
	local := now.In(zone)
	d := local.Add(-dayTurns * time.Hour)
	at := func(minutes int) time.Time {
		return time.Date(d.Year(), d.Month(), d.Day(), 0, minutes, 0, 0, zone)
	}
	_, offset := local.Zone()
	return Day{From: at(k.DayFrom), To: at(max(k.ServiceTo, k.DayFrom) + closing), ServiceFrom: at(k.ServiceFrom), ServiceTo: at(k.ServiceTo),
		Now: local, UTCOffsetMin: offset / 60}
}
