package kitchen

import "time"

// When a service is: its day, its first guests and its end, and what is cooked at the same time.

// Day is midnight of the service's day in a zone; the date was checked.
func (s *Service) Day(zone *time.Location) time.Time {
	d, err := time.ParseInLocation(time.DateOnly, s.Date, zone)
	if err != nil {
		panic("kitchen: a service with an unchecked date: " + s.Date)
	}
	return d
}

// At is a minute of the service's day as an instant; minutes may pass midnight. It goes
// by the clock on the wall, in a night of changing clocks too.
func (s *Service) At(minute int, zone *time.Location) time.Time {
	d := s.Day(zone)
	return time.Date(d.Year(), d.Month(), d.Day(), 0, minute, 0, 0, zone)
}

// lingers is how long after its last table is seated a service goes on. Common practice, no source.
const lingers = 2 * time.Hour

// Over reports whether a service has ended: two hours after its last table was seated. One without tables never began.
func (s *Service) Over(now time.Time, zone *time.Location) bool {
	last := 0
	for _, t := range s.Tables {
		last = max(last, t.SeatedAt)
	}
	return len(s.Tables) == 0 || !now.Before(s.At(last, zone).Add(lingers))
}

// cooksBefore is how long before its first guests a kitchen cooks to order for a service. Common practice, no source.
const cooksBefore = 150 * time.Minute

// Overlaps reports whether two services are cooked at the same time: they are one problem then, at one stove.
func (s *Service) Overlaps(o *Service, zone *time.Location) bool {
	if s.ID == o.ID || len(s.Tables) == 0 || len(o.Tables) == 0 {
		return false
	}
	span := func(x *Service) (from, to time.Time) {
		last := 0
		for _, t := range x.Tables {
			last = max(last, t.SeatedAt)
		}
		return x.At(x.Starts(), zone).Add(-cooksBefore), x.At(last, zone).Add(lingers)
	}
	from, to := span(s)
	start, end := span(o)
	return from.Before(end) && start.Before(to)
}

// Beside lists the services that are cooked at the same time as one, and at the same time as those, in the order of the book.
func (b *Book) Beside(s *Service) []Service {
	in := map[string]bool{s.ID: true}
	for grew := true; grew; {
		grew = false
		for i := range b.data.Services {
			o := &b.data.Services[i]
			if in[o.ID] {
				continue
			}
			for k := range b.data.Services {
				if x := &b.data.Services[k]; in[x.ID] && x.Overlaps(o, b.Zone()) {
					in[o.ID], grew = true, true
				}
			}
		}
	}
	var out []Service
	for _, o := range b.data.Services {
		if in[o.ID] && o.ID != s.ID {
			out = append(out, o)
		}
	}
	return out
}

// Coming lists the services that are not over.
func (b *Book) Coming(now time.Time) []Service {
	var out []Service
	for _, s := range b.Services() {
		if !s.Over(now, b.Zone()) {
			out = append(out, s)
		}
	}
	return out
}

// Starts is when the first guest is seated, minutes after midnight.
func (s *Service) Starts() int {
	first := 48 * 60
	for _, t := range s.Tables {
		first = min(first, t.SeatedAt)
	}
	return first
}
