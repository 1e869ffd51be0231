// Package slip writes what a section, or the pass, has before it as plain text for a narrow printer: 42 columns, one size of letter.
package slip

import (
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"jointime/core/service"
)

// Width is how many letters a line has, as on paper of 80 mm.
const Width = 42

// mostLines is how many runs or joins a slip names; the rest is counted.
const mostLines = 12

// Section is what a section has before it: what is to be fired, what is on, what comes, each with its tables. title is what the section is
// called.
func Section(d *service.DueView, section, title string) string {
	w := &writer{}
	w.head(title, d.At)
	i := slices.IndexFunc(d.Sections, func(s service.SectionDue) bool { return s.Section == section })
	if i < 0 {
		w.line("Nothing.")
		return w.text()
	}
	s := &d.Sections[i]
	named := 0
	for _, part := range []struct {
		title string
		lines []service.DueLine
		at    func(*service.DueLine) time.Time
	}{
		{"FIRE", s.Now, fires}, {"ON", s.On, func(l *service.DueLine) time.Time { return l.DoneAt }}, {"NEXT", s.Next, fires},
		{"THEN", s.Then, fires},
	} {
		if len(part.lines) == 0 || named >= mostLines {
			continue
		}
		w.line(part.title)
		for k := range part.lines {
			if named++; named > mostLines {
				break
			}
			l := &part.lines[k]
			w.hanging(part.at(l).Format("15:04")+" ", fmt.Sprintf("%d x %s, %s", l.Portions, l.What, l.Act))
			w.hanging("      ", tables(d, l.Joins))
			if len(l.How.Needs) > 0 {
				w.hanging("      ! ", strings.ToUpper(strings.Join(l.How.Needs, ", "))+", its own pan")
			}
		}
	}
	if named == 0 {
		w.line("Nothing.")
	}
	if more := len(s.Now) + len(s.On) + len(s.Next) + s.Later - min(named, mostLines); more > 0 {
		w.line(fmt.Sprintf("and %d more", more))
	}
	return w.text()
}

func fires(l *service.DueLine) time.Time { return l.FireAt }

// Pass is what the pass has before it: the next joins with their plates and what their guests must not have.
func Pass(d *service.DueView, title string) string {
	w := &writer{}
	w.head(title, d.At)
	named := 0
	for i := range d.Joins {
		j := &d.Joins[i]
		if j.Standing == "sent" || j.Standing == "skipped" {
			continue
		}
		if named++; named > mostLines {
			continue
		}
		w.hanging(j.Forecast.Format("15:04")+" ", fmt.Sprintf("%s, %s: %d plates", j.Name, j.Course, j.Plates))
		for _, x := range j.Served {
			said := x.Name
			if x.Variant != "" {
				said += ", " + x.Variant
			}
			w.hanging("      ", fmt.Sprintf("%d x %s", x.Count, said))
		}
		if len(j.Needs) > 0 {
			w.hanging("      ! ", strings.ToUpper(strings.Join(j.Needs, ", ")))
		}
	}
	switch {
	case named == 0:
		w.line("Nothing.")
	case named > mostLines:
		w.line(fmt.Sprintf("and %d more", named-mostLines))
	}
	return w.text()
}

// tables are those that something is for.
func tables(d *service.DueView, joins []service.TableCourse) string {
	var out []string
	for _, j := range joins {
		name := j.Table
		for i := range d.Joins {
			if d.Joins[i].TableCourse == j {
				name = d.Joins[i].Name
			}
		}
		if !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return strings.Join(out, ", ")
}

type writer struct{ b strings.Builder }

func (w *writer) text() string { return w.b.String() }

// head is what it is of, and when.
func (w *writer) head(title string, at time.Time) {
	clock := at.Format("15:04")
	room := Width - len(clock) - 1
	if runes := []rune(title); len(runes) > room {
		title = string(runes[:room])
	}
	w.line(title + strings.Repeat(" ", Width-len(clock)-utf8.RuneCountInString(title)) + clock)
	w.line(strings.Repeat("-", Width))
}

func (w *writer) line(s string) { w.b.WriteString(strings.TrimRight(s, " ") + "\n") }

// hanging writes words behind a prefix, as many lines as they need, the further ones as far in; a word that is too long is cut.
func (w *writer) hanging(prefix, words string) {
	in := strings.Repeat(" ", utf8.RuneCountInString(prefix))
	line, empty := prefix, true
	for _, word := range strings.Fields(words) {
		runes := []rune(word)
		for {
			room := Width - utf8.RuneCountInString(line)
			if !empty {
				room--
			}
			if len(runes) <= room {
				break
			}
			if !empty {
				w.line(line)
				line, empty = in, true
				continue
			}
			w.line(line + string(runes[:room]))
			line, runes = in, runes[room:]
		}
		if !empty {
			line += " "
		}
		line, empty = line+string(runes), false
	}
	if !empty {
		w.line(line)
	}
}
