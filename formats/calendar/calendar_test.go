package calendar_test

import (
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/formats/calendar"
)

func TestJobsAreEvents(t *testing.T) {
	at := time.Date(2026, 5, 14, 12, 0, 0, 0, time.UTC)
	useBy := at.AddDate(0, 0, 2)
	job := expand.Job{ID: "leek/tonight/1", Name: "Leek; ash", Section: "veg", Amount: 2, Unit: kitchen.Pieces, For: []string{"Hake"},
		StartAt: at, ReadyAt: at.Add(time.Hour),
		StartBy: at.Add(30 * time.Minute), NeedBy: at.Add(5 * time.Hour), UseBy: &useBy,
		Steps: []expand.JobStep{{Name: "Char", StartAt: at, People: []string{"Ines"}}}}
	other := job
	other.ID, other.Section, other.Amount, other.UseBy = "stock/tonight/1", "sauce", 1, nil
	sections := map[string]string{"veg": "Vegetables", "sauce": "Sauces"}

	// Another reader of the format gets back what was written.
	read := func(only string) []ical.Event {
		c, err := ical.NewDecoder(strings.NewReader(calendar.Prep([]expand.Job{job, other}, at, sections, only))).Decode()
		require.NoError(t, err)
		return c.Events()
	}
	text := func(e ical.Event, name string) string {
		v, err := e.Props.Text(name)
		require.NoError(t, err)
		return v
	}
	events := read("")
	require.Len(t, events, 2)
	e := events[0]
	require.Equal(t, "leek-tonight-1@jointime", text(e, ical.PropUID))
	start, err := e.DateTimeStart(time.UTC)
	require.NoError(t, err)
	require.True(t, at.Equal(start))
	end, err := e.DateTimeEnd(time.UTC)
	require.NoError(t, err)
	require.True(t, at.Add(time.Hour).Equal(end))
	require.Equal(t, "Leek; ash, 2 pieces (start by Thu 12:30)", text(e, ical.PropSummary))
	require.Equal(t, "Vegetables", text(e, ical.PropLocation))
	said := text(e, ical.PropDescription)
	require.Contains(t, said, "Use by Sat 16 May 12:00.")
	require.Contains(t, said, "Thu 12:00 Char (Ines)")
	require.Len(t, e.Children, 1, "an alarm")
	require.Contains(t, text(events[1], ical.PropSummary), "1 piece ", "one is not many")
	require.NotContains(t, text(events[1], ical.PropDescription), "Use by")

	require.Len(t, read("sauce"), 1)
	none := calendar.Prep([]expand.Job{job}, at, sections, "pastry")
	require.NotContains(t, none, "VEVENT")
}
