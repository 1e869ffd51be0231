// Package ingredients writes the list of what has to be there for the make-ahead work: as comma-separated
// values (RFC 4180) and as a workbook (Office Open XML).
package ingredients

import (
	"encoding/csv"
	"io"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"

	"jointime/core/expand"
)

// List is a list of ingredients with the names of the sections that need them.
type List struct {
	Lines    []expand.IngredientRow
	Sections map[string]string // id → name
}

var head = []string{"Section", "Ingredient", "Amount", "Unit", "Of it trimmed away", "For", "Allergens"}

// row is one line, numbers as numbers.
func (l *List) row(x *expand.IngredientRow) []any {
	return []any{l.Sections[x.Section], x.Name, x.Amount, x.Unit, x.Trim, strings.Join(x.For, "; "), strings.Join(x.Allergens, "; ")}
}

// CSV writes the list with a line of headings. The error is the writer's.
func (l *List) CSV(w io.Writer) error {
	c := csv.NewWriter(w)
	c.UseCRLF = true
	if err := c.Write(head); err != nil {
		return err
	}
	for i := range l.Lines {
		var cells []string
		for _, v := range l.row(&l.Lines[i]) {
			if n, ok := v.(float64); ok {
				cells = append(cells, strconv.FormatFloat(n, 'f', -1, 64))
			} else {
				cells = append(cells, plain(v.(string)))
			}
		}
		if err := c.Write(cells); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

// plain keeps a spreadsheet from taking a name for a formula: text that begins like
// one is written with an apostrophe before it, as spreadsheets themselves write it.
func plain(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r", rune(s[0])) {
		return "'" + s
	}
	return s
}

const sheet = "Ingredients"

// XLSX writes the list as a workbook with one sheet; texts are text cells, so that none is taken for a formula.
func (l *List) XLSX(w io.Writer) error {
	f := excelize.NewFile()
	defer f.Close() //nolint:errcheck // in memory
	if err := f.SetSheetName("Sheet1", sheet); err != nil {
		return err
	}
	for i, h := range head {
		if err := cell(f, i+1, 1, h); err != nil {
			return err
		}
	}
	for i := range l.Lines {
		for k, v := range l.row(&l.Lines[i]) {
			if err := cell(f, k+1, i+2, v); err != nil {
				return err
			}
		}
	}
	if err := f.SetColWidth(sheet, "A", "G", 22); err != nil {
		return err
	}
	return f.Write(w)
}

func cell(f *excelize.File, column, row int, value any) error {
	at, err := excelize.CoordinatesToCellName(column, row)
	if err != nil {
		return err
	}
	if text, ok := value.(string); ok {
		return f.SetCellStr(sheet, at, text)
	}
	return f.SetCellValue(sheet, at, value)
}
