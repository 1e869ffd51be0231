package ingredients_test

import (
	"bytes"
	"encoding/csv"
	"errors"
	"testing"

	"github.com/stretchr/testify/require"
	"github.com/tealeg/xlsx/v3"

	"jointime/core/expand"
	"jointime/formats/ingredients"
)

func list() *ingredients.List {
	return &ingredients.List{Sections: map[string]string{"larder": "Larder, cold"}, Lines: []expand.IngredientRow{
		{Section: "larder", Name: `Cress "wild"`, Amount: 120.5, Unit: "g", Trim: 12, For: []string{"Soup", "Salad"},
			Allergens: []string{"mustard"}},
		{Section: "larder", Name: "=SUM(A1)", Amount: 3, Unit: "piece"},
		{Section: "gone", Name: "-5 salt\r\nline", Amount: 0, Unit: "@g"},
	}}
}

// Another reader of each format gets back what was written.
func TestCommaSeparatedValues(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, list().CSV(&b))
	rows, err := csv.NewReader(bytes.NewReader(b.Bytes())).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 4)
	require.Equal(t, []string{"Larder, cold", `Cress "wild"`, "120.5", "g", "12", "Soup; Salad", "mustard"}, rows[1])
	require.Equal(t, "'=SUM(A1)", rows[2][1], "a name is no formula")
	require.Equal(t, []string{"", "'-5 salt\nline", "0", "'@g", "0", "", ""}, rows[3])
	require.Equal(t, 1, bytes.Count(b.Bytes(), []byte("Ingredient,Amount,Unit,Of it trimmed away,For,Allergens\r\n")))
}

func TestWorkbook(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, list().XLSX(&b))
	book, err := xlsx.OpenBinary(b.Bytes())
	require.NoError(t, err)
	require.Len(t, book.Sheets, 1)
	at := func(row, column int) *xlsx.Cell {
		c, err := book.Sheets[0].Cell(row, column)
		require.NoError(t, err)
		return c
	}
	require.Equal(t, "Allergens", at(0, 6).Value)
	require.Equal(t, "=SUM(A1)", at(2, 1).Value)
	require.Empty(t, at(2, 1).Formula(), "a name is no formula")
	require.Equal(t, xlsx.CellTypeNumeric, at(1, 2).Type())
	n, err := at(1, 2).Float()
	require.NoError(t, err)
	require.InDelta(t, 120.5, n, 1e-9)
}

type full struct{}

func (full) Write([]byte) (int, error) { return 0, errors.New("no room") }

func TestAWriterThatFailsIsSaid(t *testing.T) {
	require.ErrorContains(t, list().CSV(full{}), "no room")
	require.ErrorContains(t, list().XLSX(full{}), "no room")
}
