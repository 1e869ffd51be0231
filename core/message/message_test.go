package message

import (
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func TestLengthsToTheSecond(t *testing.T) {
	for s, want := range map[int64]string{0: "0 s", 45: "45 s", 59: "59 s", 60: "1 min", -60: "1 min", 150: "2:30 min", 3599: "59:59 min",
		3600: "1 h", 3659: "1 h", 3660: "1 h 1 min",
		4800: "1 h 20 min"} {
		require.Equal(t, want, length(s), s)
	}
}

func TestLengthsRoughly(t *testing.T) {
	for s, want := range map[int64]string{0: "0 s", 30: "30 s", 89: "89 s", 90: "1½ min", 104: "1½ min", 105: "2 min", 134: "2 min",
		135: "2½ min", 434: "7 min", 450: "7½ min", 599: "10 min",
		600: "10 min", 629: "10 min", 630: "11 min", 3569: "59 min", 3570: "1 h", 3900: "1 h 05", 7200: "2 h", -5400: "1 h 30",
		47 * 3600: "47 h", 48 * 3600: "2 days",
		49 * 3600: "49 h", 60 * 3600: "2.5 days", 7 * 86400: "7 days"} {
		require.Equal(t, want, rough(s), s)
	}
}

// One batch, two batches: the fact called count decides.
func TestOneAndMore(t *testing.T) {
	for n, want := range map[int]string{1: "One job starts at another time.", 2: "2 jobs start at another time.",
		21: "21 jobs start at another time."} {
		require.Equal(t, want, Of("prep.jobs-move", "count", n).Text)
	}
}

func TestFactsKeepTheirTypes(t *testing.T) {
	at := time.Date(2026, 5, 14, 19, 42, 10, 0, time.UTC)
	m := Of("cause.heat", "on", "Oven A", "celsius", 220.5, "what", "Hake", "whose", "Table 4, main", "until", Clock(at), "wanted", 180,
		"ready", Clock(at.Add(time.Minute)))
	require.Equal(t, "Oven A is at 220.5° for Hake (Table 4, main) until 19:42:10; at 180° it is by 19:43:10.", m.Text)
	require.Equal(t, NumberKind, m.Facts["celsius"].Kind)
	require.InDelta(t, 220.5, *m.Facts["celsius"].Number, 0)
	require.Equal(t, InstantKind, m.Facts["until"].Kind)
	require.Equal(t, at, *m.Facts["until"].At)
	require.Equal(t, NameKind, m.Facts["on"].Kind)

	late := Of("fire.late", "table", "T", "by", Rough(450))
	require.Equal(t, "T is 7½ min late.", late.Text)
	require.Equal(t, LengthKind, late.Facts["by"].Kind)
	require.InDelta(t, 450, *late.Facts["by"].Number, 0)
	names := Of("prep.leave-off", "dishes", []string{"A", "B"})
	require.Equal(t, []string{"A", "B"}, names.Facts["dishes"].Names)
	require.Equal(t, "Buy it in, or leave it off A, B until it is ready.", names.Text)
	within := Of("service.problem", "service", "Tonight", "problem", late)
	require.Equal(t, "Tonight, T is 7½ min late.", within.Text)
	require.Equal(t, late, within.Facts["problem"].Messages[0])
	require.Equal(t, "Fri 03:00", factOf(Moment(time.Date(2026, 5, 15, 3, 0, 0, 0, time.UTC))).Text)
	require.Equal(t, "1000000", factOf(1e6).Text, "no exponents")
}

func TestWhatAUserTypedIsNoTemplate(t *testing.T) {
	require.Equal(t, "{{.by}} <b> is new.", Of("table.new", "what", "{{.by}} <b>").Text)
}

func TestSeveralAreSaidInTurn(t *testing.T) {
	a, b := Of("table.join-stays"), Of("table.nothing-moves")
	require.Equal(t, "Join unchanged. Nothing fires at another time.", All(a, b).Text)
	require.Equal(t, a, All(a, Message{}))
	require.False(t, All().Said())
	require.True(t, All(a).Said())
	require.Equal(t, []Message{a, b}, All(a, b).Facts["said"].Messages)
}

func TestKeptAndReadBack(t *testing.T) {
	m := All(Of("fire.late", "table", "T", "by", Rough(450)), Of("fire.more-tables", "count", 3))
	raw, err := json.Marshal(m)
	require.NoError(t, err)
	var again Message
	require.NoError(t, json.Unmarshal(raw, &again))
	require.Equal(t, m, again)
}

func TestAnErrorCarriesItsMessage(t *testing.T) {
	err := Fail("fault.unit", "got", "cups")
	require.EqualError(t, err, "“cups” is not a unit that is known here")
	var m *Error
	require.ErrorAs(t, err, &m)
	require.Equal(t, "fault.unit", m.Key)
}

func TestMinutesAreWhole(t *testing.T) {
	require.Equal(t, Length(120), Minutes(179))
	require.Equal(t, Length(-120), Minutes(-179))
}

// A sentence that is the same for one and for more is said for one too.
func TestOneIsSaidLikeMoreWhereItIsTheSame(t *testing.T) {
	for _, n := range []int{0, 1, 2} {
		require.Equal(t, fmt.Sprint(n, " of 6 taken off in time, and none kept waiting too long."), Of("training.part-looked", "count", n, "of",
			6).Text)
	}
}
