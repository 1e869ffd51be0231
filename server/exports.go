package server

import (
	"encoding/csv"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	ics "github.com/arran4/golang-ical"
	"github.com/xuri/excelize/v2"

	"jointime/core/expand"
	"jointime/core/kitchen"
)

// plainText keeps a spreadsheet from taking a name for a formula: text that begins like
// one is written with an apostrophe before it, as spreadsheets themselves write it.
func plainText(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r", rune(s[0])) {
		return "'" + s
	}
	return s
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

var ingredientHead = []string{"Section", "Ingredient", "Amount", "Unit", "Of it trimmed away", "For", "Allergens"}

func (s *Server) sectionNames(r *http.Request) map[string]string {
	out := map[string]string{}
	if snap, err := s.book(r.Context()); err == nil {
		for _, x := range snap.Book.Sections() {
			out[x.ID] = x.Name
		}
	}
	return out
}

// ingredientsCSV answers with the list of ingredients by section, RFC 4180.
func (s *Server) ingredientsCSV(w http.ResponseWriter, r *http.Request) {
	plan, err := s.planner.Prep(r.Context())
	if err != nil {
		s.refuse(w, err, "There is no plan to list.")
		return
	}
	v := &plan.View
	names := s.sectionNames(r)
	w.Header().Set("Content-Type", "text/csv; charset=utf-8")
	w.Header().Set("Content-Disposition", `attachment; filename="ingredients.csv"`)
	c := csv.NewWriter(w)
	c.UseCRLF = true
	_ = c.Write(ingredientHead)
	for _, g := range v.Ingredients {
		_ = c.Write([]string{plainText(names[g.Section]), plainText(g.Name), number(g.Amount), plainText(g.Unit), number(g.Trim), plainText(strings.Join(g.For, "; ")), strings.Join(g.Allergens, "; ")})
	}
	c.Flush() // the client has gone if this fails; nobody is left to tell
}

// ingredientsXLSX answers with the same list as a workbook; texts are text cells.
func (s *Server) ingredientsXLSX(w http.ResponseWriter, r *http.Request) {
	plan, err := s.planner.Prep(r.Context())
	if err != nil {
		s.refuse(w, err, "There is no plan to list.")
		return
	}
	v := &plan.View
	names := s.sectionNames(r)
	f := excelize.NewFile()
	defer f.Close() //nolint:errcheck // in memory
	const sheet = "Ingredients"
	err = f.SetSheetName("Sheet1", sheet)
	cell := func(col, row int, value any) {
		at, e := excelize.CoordinatesToCellName(col, row)
		if e == nil {
			if text, ok := value.(string); ok {
				e = f.SetCellStr(sheet, at, text)
			} else {
				e = f.SetCellValue(sheet, at, value)
			}
		}
		if err == nil {
			err = e
		}
	}
	for i, h := range ingredientHead {
		cell(i+1, 1, h)
	}
	for i, g := range v.Ingredients {
		for k, value := range []any{names[g.Section], g.Name, g.Amount, g.Unit, g.Trim, strings.Join(g.For, "; "), strings.Join(g.Allergens, "; ")} {
			cell(k+1, i+2, value)
		}
	}
	if err == nil {
		err = f.SetColWidth(sheet, "A", "G", 22)
	}
	if err != nil {
		s.refuse(w, err, "The workbook could not be made.")
		return
	}
	w.Header().Set("Content-Type", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet")
	w.Header().Set("Content-Disposition", `attachment; filename="ingredients.xlsx"`)
	_ = f.Write(w) // the client has gone
}

// calendar answers with every job as an event from its start to when it is ready, with
// the start-by time, RFC 5545. ?section= keeps to one section.
func (s *Server) calendar(w http.ResponseWriter, r *http.Request) {
	plan, err := s.planner.Prep(r.Context())
	if err != nil {
		s.refuse(w, err, "There is no plan to show.")
		return
	}
	v := &plan.View
	section, names := r.URL.Query().Get("section"), s.sectionNames(r)
	cal := ics.NewCalendar()
	cal.SetProductId("-//Jointime//Prep//EN")
	cal.SetMethod(ics.MethodPublish)
	for _, j := range v.Jobs {
		if section != "" && j.Section != section {
			continue
		}
		e := cal.AddEvent(strings.NewReplacer("/", "-").Replace(j.ID) + "@jointime")
		e.SetDtStampTime(v.Now)
		e.SetStartAt(j.StartAt)
		e.SetEndAt(j.ReadyAt)
		e.SetSummary(fmt.Sprintf("%s, %s (start by %s)", j.Name, amount(&j), j.StartBy.Format("Mon 15:04")))
		e.SetLocation(names[j.Section])
		e.SetDescription(describe(&j))
		a := e.AddAlarm()
		a.SetAction(ics.ActionDisplay)
		a.SetTrigger("-PT15M")
	}
	w.Header().Set("Content-Type", "text/calendar; charset=utf-8")
	w.Header().Set("Content-Disposition", `attachment; filename="prep.ics"`)
	write(w, []byte(cal.Serialize()))
}

func amount(j *expand.Job) string {
	u := string(j.Unit)
	if (j.Unit == kitchen.Pieces || j.Unit == kitchen.Spoons) && j.Amount != 1 {
		u += "s"
	}
	return number(j.Amount) + " " + u
}

func describe(j *expand.Job) string {
	var b strings.Builder
	fmt.Fprintf(&b, "For %s. Start by %s, needed by %s.", strings.Join(j.For, ", "), j.StartBy.Format("Mon 2 Jan 15:04"), j.NeedBy.Format("Mon 2 Jan 15:04"))
	if j.UseBy != nil {
		fmt.Fprintf(&b, " Use by %s.", j.UseBy.Format("Mon 2 Jan 15:04"))
	}
	for _, s := range j.Steps {
		fmt.Fprintf(&b, "\n%s %s", s.StartAt.Format("Mon 15:04"), s.Name)
		if len(s.People) > 0 {
			fmt.Fprintf(&b, " (%s)", strings.Join(s.People, ", "))
		}
	}
	return b.String()
}
