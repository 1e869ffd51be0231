package nightfile_test

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"
	"time"

	"github.com/ledongthuc/pdf"
	"github.com/stretchr/testify/require"
	"github.com/tealeg/xlsx/v3"

	"jointime/core/lookback"
	"jointime/core/service"
	"jointime/formats/nightfile"
)

var core = 51.5

func night() *nightfile.Night {
	at := time.Date(2026, 5, 14, 19, 30, 0, 0, time.UTC)
	begun, sent, long := at.Add(time.Minute), at.Add(10*time.Minute), 245.4
	return &nightfile.Night{House: "Quillon Hall", Said: []string{"One of two courses left more than three minutes late."},
		Made: at.Add(15 * time.Hour), Night: &lookback.Night{Name: "Thursday 14 May", Date: "2026-05-14", Origin: at, GraceS: 180,
			Joins: []lookback.RealJoin{
				{TableCourse: service.TableCourse{Table: "five", Course: "main"}, Name: "=Table 5", Plates: 2, WantedAt: at, PlanAt: at, SentAt: &sent,
					LateS: 600, Back: []string{"cold"}},
				{TableCourse: service.TableCourse{Table: "six", Course: "main"}, Name: "Table 6", Plates: 4, WantedAt: at, PlanAt: at}},
			Steps: []lookback.RealStep{{Section: "fish", What: "Hake", Act: "Pan", Portions: 3, People: []string{"Tobias", "Pim"},
				On: []string{"Burners"}, PlannedAt: at, PlannedS: 240, At: &begun, RealS: &long, Again: 1, NotYet: 2,
				Celsius: &core, By: "Tobias"}, {Section: "fish", What: "Beet", Act: "Butter", PlannedAt: at, PlannedS: 90}},
			Paper: []lookback.StepSum{{What: "Hake", Act: strings.Repeat("Skin down in the pan ", 8), Runs: 3, PlannedS: 240, RealS: 300,
				MoreS: -185}}}}
}

// Read back by other programs: what is not known is empty, names that begin like a formula are texts.
func TestTables(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, night().StepsCSV(&b))
	rows, err := csv.NewReader(&b).ReadAll()
	require.NoError(t, err)
	require.Equal(t, []string{"fish", "Hake", "Pan", "3", "Tobias; Pim", "Burners", "2026-05-14 19:30:00", "240", "2026-05-14 19:31:00", "245",
		"1", "2", "51.5", "Tobias"}, rows[1])
	require.Equal(t, []string{"0", "", ""}, rows[2][11:])
	require.Equal(t, []string{"", ""}, rows[2][8:10])
	b.Reset()
	require.NoError(t, night().CoursesCSV(&b))
	rows, err = csv.NewReader(&b).ReadAll()
	require.NoError(t, err)
	require.Equal(t, []string{"'=Table 5", "main", "0", "2", "2026-05-14 19:30:00", "2026-05-14 19:30:00", "2026-05-14 19:40:00", "600",
		"cold"}, rows[1])
	require.Empty(t, rows[2][7], "nobody said that it left")
	b.Reset()
	require.NoError(t, night().XLSX(&b))
	book, err := xlsx.OpenBinary(b.Bytes())
	require.NoError(t, err)
	require.Len(t, book.Sheets, 2)
	cell, err := book.Sheet["Courses"].Cell(1, 0)
	require.NoError(t, err)
	require.Equal(t, "=Table 5", cell.Value)
	require.Equal(t, xlsx.CellTypeString, cell.Type())
	cell, err = book.Sheet["Steps"].Cell(1, 9)
	require.NoError(t, err)
	require.Equal(t, "245", cell.Value)
}

func TestDocument(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, night().PDF(&b))
	r, err := pdf.NewReader(bytes.NewReader(b.Bytes()), int64(b.Len()))
	require.NoError(t, err)
	require.Equal(t, 1, r.NumPage())
	text, err := r.Page(1).GetPlainText(nil)
	require.NoError(t, err)
	for _, want := range []string{"Thursday 14 May", "Quillon Hall", "One of two courses", "=Table 5, main", "19:40", "10:00", "cold",
		"Paper over stove", "3:05", "Skin down in the pan Skin"} {
		require.Contains(t, text, want)
	}
	require.NotContains(t, text, "Table 6", "it was not late")
	require.NotContains(t, text, strings.Repeat("Skin down in the pan ", 4), "what is too long is cut")
	var again bytes.Buffer
	require.NoError(t, night().PDF(&again))
	require.Equal(t, b.Bytes(), again.Bytes(), "the same night, the same file")
}
