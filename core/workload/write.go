package workload

import (
	"bytes"
	"encoding/json"
	"io"
)

// The wire types give the keys and their order; the internal types stay free of
// JSON concerns.
type (
	wireWorkload struct {
		Format    string         `json:"format"`
		Version   int            `json:"version"`
		Objective Objective      `json:"objective"`
		Origin    string         `json:"origin"`
		Horizon   int64          `json:"horizon"`
		Now       *int64         `json:"now,omitempty"`
		Resources []wireResource `json:"resources"`
		Tasks     []wireTask     `json:"tasks"`
		Links     []wireLink     `json:"links"`
		Joins     []wireJoin     `json:"joins"`
		Fixed     []any          `json:"fixed"`
		Told      []wireTold     `json:"told,omitempty"`
	}
	wireResource struct {
		ID         string          `json:"id"`
		Name       string          `json:"name,omitempty"`
		Capacity   int64           `json:"capacity"`
		Windows    *[]wireWindow   `json:"windows,omitempty"`
		Thermostat *wireThermostat `json:"thermostat,omitempty"`
	}
	wireWindow struct {
		From     int64 `json:"from"`
		To       int64 `json:"to"`
		Capacity int64 `json:"capacity"`
	}
	wireThermostat struct {
		StartC      float64 `json:"start_c"`
		HeatCPerMin float64 `json:"heat_c_per_min"`
		CoolCPerMin float64 `json:"cool_c_per_min"`
		ToleranceC  float64 `json:"tolerance_c"`
	}
	wireTask struct {
		ID       string     `json:"id"`
		Name     string     `json:"name,omitempty"`
		Seconds  int64      `json:"seconds"`
		Longest  *int64     `json:"longest,omitempty"`
		Needs    []wireNeed `json:"needs,omitempty"`
		Earliest int64      `json:"earliest,omitempty"`
		Latest   *int64     `json:"latest,omitempty"`
	}
	wireNeed struct {
		AnyOf       []string `json:"any_of"`
		Units       int64    `json:"units"`
		SetpointC   *float64 `json:"setpoint_c,omitempty"`
		SetpointToC *float64 `json:"setpoint_to_c,omitempty"`
		As          *wireAs  `json:"as,omitempty"`
	}
	wireAs struct {
		Task string `json:"task"`
		Need int    `json:"need"`
	}
	wireTold struct {
		Task   string `json:"task"`
		Start  int64  `json:"start"`
		Weight int64  `json:"weight"`
	}
	wireLink struct {
		From   string `json:"from"`
		To     string `json:"to"`
		Kind   Kind   `json:"kind,omitempty"`
		Min    int64  `json:"min"`
		Best   *int64 `json:"best,omitempty"`
		Max    *int64 `json:"max,omitempty"`
		Weight int64  `json:"weight"`
	}
	wireJoin struct {
		ID          string `json:"id"`
		Name        string `json:"name,omitempty"`
		At          *int64 `json:"at,omitempty"`
		Weight      int64  `json:"weight"`
		EarlyWeight int64  `json:"early_weight"`
		Earliest    int64  `json:"earliest,omitempty"`
		Latest      *int64 `json:"latest,omitempty"`
	}
	wireFixedTask struct {
		Task      string   `json:"task"`
		Start     int64    `json:"start"`
		Finish    *int64   `json:"finish,omitempty"`
		Resources []string `json:"resources"`
	}
	wireFixedJoin struct {
		Join string `json:"join"`
		At   int64  `json:"at"`
	}
	wireSchedule struct {
		Format     string        `json:"format"`
		Version    int           `json:"version"`
		Status     Status        `json:"status"`
		Cost       *int64        `json:"cost,omitempty"`
		LowerBound *int64        `json:"lower_bound,omitempty"`
		Tasks      []wireRun     `json:"tasks"`
		Joins      []wireInstant `json:"joins"`
		Broken     []Broken      `json:"broken"`
		Search     wireSearch    `json:"search"`
	}
	wireRun struct {
		ID        string   `json:"id"`
		Start     int64    `json:"start"`
		Finish    int64    `json:"finish"`
		Resources []string `json:"resources"`
	}
	wireInstant struct {
		ID string `json:"id"`
		At int64  `json:"at"`
	}
	wireSearch struct {
		Seconds   float64 `json:"seconds"`
		Seed      int64   `json:"seed"`
		Schedules int64   `json:"schedules"`
	}
)

func some[T any](s []T) []T {
	if s == nil {
		return []T{}
	}
	return s
}

// Write writes a workload file that Read gives back unchanged.
func Write(dst io.Writer, w *Workload) error {
	out := wireWorkload{Format: Format, Version: Version, Objective: w.Objective, Origin: w.Origin, Horizon: w.Horizon, Now: w.Now,
		Resources: []wireResource{}, Tasks: []wireTask{}, Links: []wireLink{}, Joins: []wireJoin{}, Fixed: []any{}}
	for _, r := range w.Resources {
		v := wireResource{ID: r.ID, Name: r.Name, Capacity: r.Capacity}
		if r.HasWindows {
			ws := []wireWindow{}
			for _, x := range r.Windows {
				ws = append(ws, wireWindow(x))
			}
			v.Windows = &ws
		}
		if r.Thermostat != nil {
			t := wireThermostat(*r.Thermostat)
			v.Thermostat = &t
		}
		out.Resources = append(out.Resources, v)
	}
	for _, t := range w.Tasks {
		v := wireTask{ID: t.ID, Name: t.Name, Seconds: t.Seconds, Longest: t.Longest, Earliest: t.Earliest, Latest: t.Latest}
		for _, n := range t.Needs {
			v.Needs = append(v.Needs, wireNeed{n.AnyOf, n.Units, n.SetpointC, n.SetpointToC, (*wireAs)(n.As)})
		}
		out.Tasks = append(out.Tasks, v)
	}
	for _, l := range w.Links {
		v := wireLink(l)
		if v.Kind == FinishStart {
			v.Kind = ""
		}
		out.Links = append(out.Links, v)
	}
	for _, j := range w.Joins {
		out.Joins = append(out.Joins, wireJoin(j))
	}
	for _, t := range w.Told {
		out.Told = append(out.Told, wireTold(t))
	}
	for _, f := range w.Fixed {
		if f.Task != "" {
			out.Fixed = append(out.Fixed, wireFixedTask{f.Task, f.Start, f.Finish, some(f.Resources)})
		} else {
			out.Fixed = append(out.Fixed, wireFixedJoin{f.Join, f.At})
		}
	}
	return encode(dst, out)
}

// WriteSchedule writes a schedule file.
func WriteSchedule(dst io.Writer, s *Schedule) error {
	out := wireSchedule{Format: ScheduleFormat, Version: Version, Status: s.Status, Cost: s.Cost, LowerBound: s.LowerBound,
		Tasks: []wireRun{}, Joins: []wireInstant{}, Broken: some(s.Broken),
		Search: wireSearch(s.Search)}
	for _, t := range s.Tasks {
		out.Tasks = append(out.Tasks, wireRun{t.ID, t.Start, t.Finish, some(t.Resources)})
	}
	for _, j := range s.Joins {
		out.Joins = append(out.Joins, wireInstant(j))
	}
	return encode(dst, out)
}

func encode(dst io.Writer, v any) error {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	if err := e.Encode(v); err != nil {
		return err
	}
	_, err := dst.Write(b.Bytes())
	return err
}
