package slip_test

import (
	"strings"
	"testing"
	"time"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/service"
	"jointime/formats/slip"
)

var at = time.Date(2026, 5, 15, 19, 42, 10, 0, time.UTC)

func due() *service.DueView {
	seven := service.TableCourse{Table: "table-7", Course: kitchen.Main}
	line := func(what string, portions int, minutes int, needs ...string) service.DueLine {
		return service.DueLine{Task: what, What: what, Act: "pan", Portions: portions, Joins: []service.TableCourse{seven},
			FireAt: at.Add(time.Duration(minutes) * time.Minute), DoneAt: at.Add(time.Duration(minutes+4) * time.Minute),
			How: service.RunHow{Needs: needs}}
	}
	return &service.DueView{At: at, Sections: []service.SectionDue{{Section: "fish", Now: []service.DueLine{line("Hake", 2, 0, "no milk")},
		On: []service.DueLine{line("Cockles", 1, -3)}, Next: []service.DueLine{line("Hake", 3, 6)}, Later: 4}},
		Joins: []service.JoinDue{{TableCourse: seven, Name: "Table 7", Plates: 5, Forecast: at.Add(8 * time.Minute), Standing: "planned",
			Served: []expand.ServedDish{{Dish: "hake", Name: "Hake, cider butter sauce and sea beet from the salt marsh", Count: 2}},
			Needs:  []string{"no milk"}},
			{TableCourse: service.TableCourse{Table: "table-1", Course: kitchen.First}, Name: "Table 1", Plates: 2, Standing: "sent"}}}
}

// A section's slip says what to fire, what is on until when, what comes, with the tables and what a pan of its own is for; the rest is
// counted.
func TestASectionsSlip(t *testing.T) {
	require.Equal(t, strings.Join([]string{
		"Fish                                 19:42",
		"------------------------------------------",
		"FIRE",
		"19:42 2 x Hake, pan",
		"      Table 7",
		"      ! NO MILK, its own pan",
		"ON",
		"19:43 1 x Cockles, pan",
		"      Table 7",
		"NEXT",
		"19:48 3 x Hake, pan",
		"      Table 7",
		"and 4 more",
		"",
	}, "\n"), slip.Section(due(), "fish", "Fish"))
	require.Contains(t, slip.Section(due(), "grill", "Grill"), "Nothing.")
}

// The pass's has the joins that have not left, with their plates; a dish that is long goes over several lines.
func TestThePasssSlip(t *testing.T) {
	require.Equal(t, strings.Join([]string{
		"Pass                                 19:42",
		"------------------------------------------",
		"19:50 Table 7, main: 5 plates",
		"      2 x Hake, cider butter sauce and sea",
		"      beet from the salt marsh",
		"      ! NO MILK",
		"",
	}, "\n"), slip.Pass(due(), "Pass"))
	d := due()
	d.Joins = nil
	require.Contains(t, slip.Pass(d, "Pass"), "Nothing.")
	d = due()
	for range 20 {
		d.Joins = append(d.Joins, d.Joins[0])
	}
	require.Contains(t, slip.Pass(d, "Pass"), "and 9 more")
}

// Whatever things are called, no line is wider than the paper, and no letter is lost.
func TestNoLineIsWiderThanThePaper(t *testing.T) {
	long := strings.Repeat("Übergossene", 9)
	d := due()
	d.Sections[0].Now[0].What = long
	d.Joins[0].Name = strings.Repeat("Lange Tafel ", 8)
	for _, text := range []string{slip.Section(d, "fish", strings.Repeat("Fish and shells ", 4)), slip.Pass(d, long)} {
		for _, l := range strings.Split(text, "\n") {
			require.LessOrEqual(t, utf8.RuneCountInString(l), slip.Width, l)
		}
	}
	bare := strings.NewReplacer("\n", "", " ", "").Replace(slip.Section(d, "fish", "Fish"))
	require.Contains(t, bare, long)
}
