package demo

import (
	"sync/atomic"
	"time"

	"jointime/core/kitchen"
)

// Clock is a clock that can be put: the wall's, so much ahead or behind. It is safe for use by many goroutines.
type Clock struct {
	wall  func() time.Time
	ahead atomic.Int64
}

// NewClock is a clock that goes with the wall's until it is put.
func NewClock(wall func() time.Time) *Clock { return &Clock{wall: wall} }

// Now is what the clock shows.
func (c *Clock) Now() time.Time { return c.wall().Add(time.Duration(c.ahead.Load())) }

// Wall is what the clock on the wall shows.
func (c *Clock) Wall() time.Time { return c.wall() }

// Put makes it show an instant now.
func (c *Clock) Put(at time.Time) { c.ahead.Store(int64(at.Sub(c.wall()))) }

// Free lets it go with the wall's again.
func (c *Clock) Free() { c.ahead.Store(0) }

// Hour is an hour to which the demo's clock can be put.
type Hour string

// The hours of the demo's day.
const (
	BeforePrep Hour = "before-prep" // nothing is made yet
	Afternoon  Hour = "afternoon"   // as it opens: prep is under way
	Opening    Hour = "opening"     // just before the service opens
	Serving    Hour = "serving"     // in the middle of a played service, which goes on playing
	RealTime   Hour = "real-time"   // the clock on the wall
)

// minutes of the day of each, by the kitchen's clock.
var minutes = map[Hour]int{BeforePrep: 8*60 + 5, Afternoon: 14*60 + 20, Opening: 18*60 + 25, Serving: 19*60 + 45}

// At is the instant of an hour on the day of another; the other itself for the wall's time.
func (h Hour) At(house *kitchen.Kitchen, day time.Time) time.Time {
	m, fixed := minutes[h]
	if !fixed {
		return day
	}
	d := day.In(house.Zone())
	return time.Date(d.Year(), d.Month(), d.Day(), m/60, m%60, 0, 0, house.Zone())
}
