// Package safetylog writes the log of temperatures as an officer asks for it: as comma-separated values (RFC 4180) and as a document
// (PDF), of a day or of a month.
package safetylog

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"

	"github.com/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"jointime/core/safety"
)

// Log is a stretch of the log, in the house's own time.
type Log struct {
	House    string
	Code     string // the name of its food-safety code
	From, To time.Time
	Lines    []safety.Line
	Zone     *time.Location
	Made     time.Time
}

// kinds are the words of each kind.
var kinds = map[safety.LogKind]string{safety.CoreLog: "Core", safety.CoolingLog: "Cooling", safety.HoldingLog: "Hot holding",
	safety.ColdLog: "Fridge, freezer", safety.DeliveryLog: "Delivery", safety.ProbeLog: "Probe cleaned"}

var head = []string{"Number", "Read at", "Written at", "What", "Of", "°C", "Beside the limit", "Who", "Note", "Cooling", "Corrects",
	"Corrected by"}

const clock = "2006-01-02 15:04"

// cells are those of one line.
func (l *Log) cells(x *safety.Line) []string {
	degrees := ""
	if x.C != nil {
		degrees = strconv.FormatFloat(*x.C, 'f', -1, 64)
	}
	number := func(n int64) string {
		if n == 0 {
			return ""
		}
		return strconv.FormatInt(n, 10)
	}
	run := number(x.Run)
	if x.Kind == safety.CoolingLog && x.Run == 0 {
		run = number(x.Number)
	}
	return []string{number(x.Number), x.At.In(l.Zone).Format(clock), x.Written.In(l.Zone).Format(clock), kinds[x.Kind], x.What, degrees,
		x.Said.Text, x.Person, x.Note, run, number(x.Corrects), number(x.Corrected)}
}

// plain is a text that a spreadsheet takes as text, whatever somebody typed.
func plain(s string) string {
	if s != "" && strings.ContainsRune("=+@\t\r", rune(s[0])) || strings.HasPrefix(s, "-") && !isNumber(s) {
		return "'" + s
	}
	return s
}

func isNumber(s string) bool { _, err := strconv.ParseFloat(s, 64); return err == nil }

// CSV writes the log with a line of headings. The error is the writer's.
func (l *Log) CSV(w io.Writer) error {
	c := csv.NewWriter(w)
	c.UseCRLF = true
	if err := c.Write(head); err != nil {
		return err
	}
	for i := range l.Lines {
		cells := l.cells(&l.Lines[i])
		for k := range cells {
			cells[k] = plain(cells[k])
		}
		if err := c.Write(cells); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

// Widths of the columns of the document, millimetres, on A4 across.
var (
	columns = []struct {
		of    int // the cell
		width float64
	}{{0, 14}, {1, 32}, {3, 28}, {4, 56}, {5, 14}, {6, 73}, {7, 28}, {8, 30}}
	margin = 11.0
	line   = 4.6
)

// PDF writes the log as a document on A4 across, a table with its head on every page.
func (l *Log) PDF(w io.Writer) error {
	f := fpdf.New("L", "mm", "A4", "")
	f.AddUTF8FontFromBytes("go", "", goregular.TTF)
	f.AddUTF8FontFromBytes("go", "B", gobold.TTF)
	f.SetTitle(l.title(), true)
	f.SetCreator("Jointime", true)
	f.SetCreationDate(l.Made)
	f.SetModificationDate(l.Made)
	f.SetCatalogSort(true)
	f.SetMargins(margin, margin, margin)
	f.SetAutoPageBreak(false, 0)
	_, high := f.GetPageSize()
	page := func() {
		f.AddPage()
		f.SetFont("go", "B", 13)
		f.CellFormat(0, 7, l.title(), "", 1, "L", false, 0, "")
		f.SetFont("go", "", 8)
		f.CellFormat(0, 5, l.Code+". Beside each number stands the code’s; the kitchen’s own plan and the officer’s word come first.", "", 1, "L",
			false, 0, "")
		f.SetFont("go", "B", 8)
		for _, c := range columns {
			f.CellFormat(c.width, 6, head[c.of], "B", 0, "L", false, 0, "")
		}
		f.Ln(7)
		f.SetFont("go", "", 8)
	}
	page()
	if len(l.Lines) == 0 {
		f.CellFormat(0, 6, "Nothing was written down.", "", 1, "L", false, 0, "")
	}
	for i := range l.Lines {
		x := &l.Lines[i]
		cells := l.cells(x)
		if x.Corrected > 0 {
			cells[6] = fmt.Sprintf("Corrected by %d. ", x.Corrected) + cells[6]
		}
		if x.Corrects > 0 {
			cells[8] = strings.TrimSpace(fmt.Sprintf("Corrects %d. ", x.Corrects) + cells[8])
		}
		var wrapped [][]string
		rows := 1
		for _, c := range columns {
			parts := f.SplitText(cells[c.of], c.width-1.5)
			wrapped = append(wrapped, parts)
			rows = max(rows, len(parts))
		}
		if f.GetY()+float64(rows)*line > high-margin-6 {
			page()
		}
		top := f.GetY()
		left := margin
		style := ""
		if x.State == "past" {
			style = "B"
		}
		f.SetFont("go", style, 8)
		for k, c := range columns {
			for n, part := range wrapped[k] {
				f.SetXY(left, top+float64(n)*line)
				f.CellFormat(c.width, line, part, "", 0, "L", false, 0, "")
			}
			left += c.width
		}
		f.SetXY(margin, top+float64(rows)*line+0.8)
	}
	for n := 1; n <= f.PageCount(); n++ {
		f.SetPage(n)
		f.SetFont("go", "", 7.5)
		f.SetXY(margin, high-margin)
		f.CellFormat(0, 4, fmt.Sprintf("%s  ·  made %s  ·  page %d of %d", l.House, l.Made.In(l.Zone).Format(clock), n, f.PageCount()), "", 0,
			"L", false, 0, "")
	}
	var out bytes.Buffer
	if err := f.Output(&out); err != nil {
		return fmt.Errorf("making the log: %w", err)
	}
	_, err := w.Write(out.Bytes())
	return err
}

func (l *Log) title() string {
	last := l.To.In(l.Zone).Add(-time.Second)
	from := l.From.In(l.Zone)
	if from.Format(time.DateOnly) == last.Format(time.DateOnly) {
		return l.House + ", temperatures, " + from.Format("Monday 2 January 2006")
	}
	return l.House + ", temperatures, " + from.Format("2 January 2006") + " to " + last.Format("2 January 2006")
}
