// Package nightfile writes a service that is over as files: a document for the morning meeting (PDF), its steps and courses as
// comma-separated values (RFC 4180), and both as a workbook.
package nightfile

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"time"

	"github.com/go-pdf/fpdf"
	"github.com/xuri/excelize/v2"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"jointime/core/lookback"
)

// Night is a service that is over, with what there is to say of it.
type Night struct {
	*lookback.Night
	House string
	Said  []string
	Made  time.Time
}

const clock = "2006-01-02 15:04:05"

var (
	stepHead = []string{"Section", "Component", "Step", "Portions", "People", "Equipment", "Planned", "Written, s", "Begun", "Taken, s",
		"Made again", "Not yet done", "Core, °C", "Said by"}
	courseHead = []string{"Table", "Course", "Round", "Plates", "Wanted", "Planned", "Left", "Late, s", "Came back"}
)

func at(t *time.Time) string {
	if t == nil {
		return ""
	}
	return t.Format(clock)
}

// steps are the rows of the steps: texts and whole numbers; what is not known is empty.
func (n *Night) steps() [][]any {
	out := [][]any{}
	for i := range n.Steps {
		s := &n.Steps[i]
		var long any = ""
		if s.RealS != nil {
			long = int(math.Round(*s.RealS))
		}
		var core any = ""
		if s.Celsius != nil {
			core = fmt.Sprintf("%.1f", *s.Celsius)
		}
		out = append(out, []any{s.Section, s.What, s.Act, s.Portions, strings.Join(s.People, "; "), strings.Join(s.On, "; "), at(&s.PlannedAt),
			int(math.Round(s.PlannedS)), at(s.At), long, s.Again, s.NotYet, core, s.By})
	}
	return out
}

// courses are the rows of the courses.
func (n *Night) courses() [][]any {
	out := [][]any{}
	for i := range n.Joins {
		j := &n.Joins[i]
		var late any = ""
		if j.SentAt != nil {
			late = int(math.Round(j.LateS))
		}
		out = append(out, []any{j.Name, string(j.Course), j.Round, j.Plates, at(&j.WantedAt), at(&j.PlanAt), at(j.SentAt), late,
			strings.Join(j.Back, "; ")})
	}
	return out
}

// StepsCSV writes the steps.
func (n *Night) StepsCSV(w io.Writer) error { return table(w, stepHead, n.steps()) }

// CoursesCSV writes the courses.
func (n *Night) CoursesCSV(w io.Writer) error { return table(w, courseHead, n.courses()) }

func table(w io.Writer, head []string, rows [][]any) error {
	c := csv.NewWriter(w)
	if err := c.Write(head); err != nil {
		return err
	}
	for _, row := range rows {
		cells := make([]string, len(row))
		for i, v := range row {
			if n, number := v.(int); number {
				cells[i] = strconv.Itoa(n)
			} else {
				cells[i] = plain(fmt.Sprint(v))
			}
		}
		if err := c.Write(cells); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

// plain keeps a spreadsheet from taking a name for a formula.
func plain(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r", rune(s[0])) {
		return "'" + s
	}
	return s
}

// XLSX writes a workbook with a sheet for the courses and one for the steps; texts are text cells.
func (n *Night) XLSX(w io.Writer) error {
	f := excelize.NewFile()
	defer f.Close() //nolint:errcheck // in memory
	if err := f.SetSheetName("Sheet1", "Courses"); err != nil {
		return err
	}
	if _, err := f.NewSheet("Steps"); err != nil {
		return err
	}
	for _, s := range []struct {
		name string
		head []string
		rows [][]any
	}{{"Courses", courseHead, n.courses()}, {"Steps", stepHead, n.steps()}} {
		for k, h := range s.head {
			if err := cell(f, s.name, k, 0, h); err != nil {
				return err
			}
		}
		for i, row := range s.rows {
			for k, v := range row {
				if err := cell(f, s.name, k, i+1, v); err != nil {
					return err
				}
			}
		}
		if err := f.SetColWidth(s.name, "A", "K", 20); err != nil {
			return err
		}
	}
	return f.Write(w)
}

func cell(f *excelize.File, sheet string, column, row int, value any) error {
	at, err := excelize.CoordinatesToCellName(column+1, row+1)
	if err != nil {
		return err
	}
	if text, ok := value.(string); ok {
		return f.SetCellStr(sheet, at, text)
	}
	return f.SetCellValue(sheet, at, value)
}

// Of the document: millimetres, and how many lines of a table it shows.
const (
	margin, line = 14.0, 5.2
	mostLines    = 14
)

// PDF writes the night on A4 for the morning meeting: what there is to say, what was late, and paper over stove.
func (n *Night) PDF(w io.Writer) error {
	f := fpdf.New("P", "mm", "A4", "")
	f.AddUTF8FontFromBytes("go", "", goregular.TTF)
	f.AddUTF8FontFromBytes("go", "B", gobold.TTF)
	f.SetTitle(n.House+", "+n.Name, true)
	f.SetCreator("Jointime", true)
	f.SetCreationDate(n.Made)
	f.SetModificationDate(n.Made)
	f.SetCatalogSort(true)
	f.SetMargins(margin, margin, margin)
	f.SetAutoPageBreak(true, margin)
	f.AddPage()
	f.SetFont("go", "B", 16)
	f.CellFormat(0, 9, n.Name, "", 1, "L", false, 0, "")
	f.SetFont("go", "", 9)
	f.CellFormat(0, 5, n.House+"  ·  made "+n.Made.In(n.Origin.Location()).Format("2006-01-02 15:04"), "", 1, "L", false, 0, "")
	f.Ln(3)
	f.SetFont("go", "", 11)
	for _, s := range n.Said {
		f.MultiCell(0, 5.6, s, "", "L", false)
	}
	var late [][]string
	for i := range n.Joins {
		j := &n.Joins[i]
		if j.LateS > n.GraceS || len(j.Back) > 0 {
			left := "nobody said so"
			if j.SentAt != nil {
				left = j.SentAt.Format("15:04")
			}
			late = append(late, []string{j.Name + ", " + string(j.Course), j.WantedAt.Format("15:04"), left, minutes(j.LateS),
				strings.Join(j.Back, "; ")})
		}
	}
	rows(f, "Late, or sent back", []column{{"Course", 62}, {"Wanted", 22}, {"Left", 26}, {"Late", 22}, {"Came back", 50}}, late)
	var paper [][]string
	for _, p := range n.Paper {
		paper = append(paper, []string{p.What + ", " + p.Act, strconv.Itoa(p.Runs), minutes(p.PlannedS), minutes(p.RealS), minutes(p.MoreS)})
	}
	rows(f, "Paper over stove", []column{{"Step", 98}, {"Times", 18}, {"Written", 22}, {"Taken", 22}, {"In the sum", 22}}, paper)
	var people [][]string
	for _, p := range n.People {
		people = append(people, []string{p.Name, strconv.Itoa(p.Runs), minutes(p.PlannedS), minutes(p.RealS), minutes(p.LateS)})
	}
	rows(f, "Who did how much", []column{{"", 98}, {"Runs", 18}, {"Written", 22}, {"Taken", 22}, {"Begun late", 22}}, people)
	var out bytes.Buffer
	if err := f.Output(&out); err != nil {
		return fmt.Errorf("making the night's document: %w", err)
	}
	_, err := w.Write(out.Bytes())
	return err
}

type column struct {
	head  string
	width float64
}

// rows is a table with its title; nothing where it has no lines.
func rows(f *fpdf.Fpdf, title string, columns []column, list [][]string) {
	if len(list) == 0 {
		return
	}
	f.Ln(4)
	f.SetFont("go", "B", 11)
	f.CellFormat(0, 6.5, title, "", 1, "L", false, 0, "")
	f.SetFont("go", "B", 9)
	for _, c := range columns {
		f.CellFormat(c.width, line, c.head, "B", 0, "L", false, 0, "")
	}
	f.Ln(line + 0.6)
	f.SetFont("go", "", 9)
	for _, row := range list[:min(len(list), mostLines)] {
		for k, c := range columns {
			text := row[k]
			for f.GetStringWidth(text) > c.width-2 && text != "" {
				r := []rune(strings.TrimSuffix(text, "…"))
				text = string(r[:len(r)-1]) + "…"
			}
			f.CellFormat(c.width, line, text, "", 0, "L", false, 0, "")
		}
		f.Ln(line)
	}
	if more := len(list) - mostLines; more > 0 {
		f.CellFormat(0, line, fmt.Sprintf("and %d more", more), "", 1, "L", false, 0, "")
	}
}

// minutes is a length of time as m:ss, with its sign where it is less than nothing.
func minutes(s float64) string {
	sign := ""
	if s < -0.5 {
		sign = "−"
	}
	x := int(math.Round(math.Abs(s)))
	return fmt.Sprintf("%s%d:%02d", sign, x/60, x%60)
}
