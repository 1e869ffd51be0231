package workload_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/workload"
)

// file is a workload of two tasks with what is added to them, to their needs and to the file.
func file(task, need, second, more string) string {
	return fmt.Sprintf(`{"format":"jointime-workload","version":1,"origin":"2026-05-15T12:00:00Z","horizon":900,
	"resources":[{"id":"a","capacity":1},{"id":"b","capacity":1},{"id":"c","capacity":1}],
	"tasks":[{"id":"x","seconds":10%s,"needs":[{"any_of":["a","b"],"units":1%s}]},{"id":"y","seconds":5,"needs":[{"any_of":["a","c"],"units":1%s}]}]%s}`,
		task, need, second, more)
}

// What each of the four keys may not be is refused with its path.
func TestFaultsOfTheFourKeys(t *testing.T) {
	for want, text := range map[string]string{
		"$.tasks[0].longest: expected at least the seconds, 10, got 9":       file(`,"longest":9`, "", "", ""),
		"$.tasks[0].longest: expected a whole number":                        file(`,"longest":1.5`, "", "", ""),
		"$.tasks[0].needs[0].setpoint_to_c: expected a setpoint_c beside it": file("", `,"setpoint_to_c":100`, "", ""),
		"$.tasks[0].needs[0].setpoint_to_c: expected at least the setpoint_c": file("",
			`,"setpoint_c":100,"setpoint_to_c":99.9`, "", ""),
		"$.tasks[1].needs[0].as.task: no task has the id \"z\"":             file("", "", `,"as":{"task":"z","need":0}`, ""),
		"$.tasks[1].needs[0].as.need: the task has 1 needs, counted from 0": file("", "", `,"as":{"task":"x","need":1}`, ""),
		"$.tasks[1].needs[0].as.need: is required":                          file("", "", `,"as":{"task":"x"}`, ""),
		"$.tasks[1].needs[0].as: the chain comes back to itself":            file("", "", `,"as":{"task":"y","need":0}`, ""),
		"$.tasks[0].needs[0].as: the chain comes back to itself": file("", `,"as":{"task":"y","need":0}`,
			`,"as":{"task":"x","need":0}`, ""),
		"$.told[0].weight: is required": file("", "", "",
			`,"told":[{"task":"x","start":5}]`),
		"$.told[0].task: no task has the id \"j\"": file("", "", "",
			`,"joins":[{"id":"j"}],"told":[{"task":"j","start":5,"weight":1}]`),
		"$.told[0].until: unknown key": file("", "", "",
			`,"told":[{"task":"x","start":5,"weight":1,"until":3}]`),
		"$.links[0]: a link from a task to itself is start-finish, and the task has a longest": file("", "", "",
			`,"links":[{"from":"x","to":"x","kind":"start-finish"}]`),
	} {
		_, err := workload.Read(strings.NewReader(text))
		require.Error(t, err, want)
		require.True(t, strings.HasPrefix(err.Error(), want) || strings.Contains(want, "unknown key") &&
			strings.HasPrefix(err.Error(), "$.told[0]") ||
			strings.Contains(want, "whole number") && strings.HasPrefix(err.Error(), "$.tasks[0].longest"), "%s\n%v", want, err)
	}
	self := func(kind string) string {
		return file(`,"longest":20`, "", "", `,"links":[{"from":"x","to":"x","kind":"`+kind+`"}]`)
	}
	_, err := workload.Read(strings.NewReader(self("start-finish")))
	require.NoError(t, err)
	_, err = workload.Read(strings.NewReader(self("finish-start")))
	require.Error(t, err)
	twice := strings.Replace(file("", "", `,"as":{"task":"x","need":0}`, ""), `["a","c"]`, `["c","c"]`, 1)
	_, err = workload.Read(strings.NewReader(twice))
	require.NoError(t, err, "a resource may stand at both places of a list that is taken as another")
	_, err = workload.Read(strings.NewReader(strings.Replace(file("", "", "", ""), `["a","c"]`, `["c","c"]`, 1)))
	require.ErrorContains(t, err, "named twice")
	long := strings.Replace(file("", "", `,"as":{"task":"x","need":0}`, ""), `["a","c"]`, `["c"]`, 1)
	_, err = workload.Read(strings.NewReader(long))
	require.ErrorContains(t, err, "$.tasks[1].needs[0].as: expected lists of one length, and they have 1 and 2")
}

// What is written is read back the same, and a file without the keys is written without them.
func TestTheFourKeysAreReadBack(t *testing.T) {
	text := file(`,"longest":20`, `,"setpoint_c":100,"setpoint_to_c":120.5`, `,"as":{"task":"x","need":0}`,
		`,"told":[{"task":"x","start":-5,"weight":2}],"links":[{"from":"x","to":"x","kind":"start-finish","best":12,"weight":3}]`)
	w, err := workload.Read(strings.NewReader(text))
	require.NoError(t, err)
	require.Equal(t, int64(20), w.Tasks[0].MostSeconds())
	require.Equal(t, int64(5), w.Tasks[1].MostSeconds())
	r, ok := w.Tasks[0].Needs[0].Setpoints()
	require.True(t, ok)
	require.Equal(t, workload.Range{Low: 100, High: 120.5}, r)
	var b bytes.Buffer
	require.NoError(t, workload.Write(&b, w))
	again, err := workload.Read(bytes.NewReader(b.Bytes()))
	require.NoError(t, err)
	require.Equal(t, w, again)
	plain, err := workload.Read(strings.NewReader(file("", "", "", "")))
	require.NoError(t, err)
	b.Reset()
	require.NoError(t, workload.Write(&b, plain))
	for _, key := range []string{"longest", "setpoint_to_c", `"as"`, "told"} {
		require.NotContains(t, b.String(), key)
	}
	was, err := w.Fingerprint()
	require.NoError(t, err)
	w.Told[0].Weight = 3
	is, err := w.Fingerprint()
	require.NoError(t, err)
	require.NotEqual(t, was, is, "what is told counts")
}

// Where two ranges are nearest to each other.
func TestRangesApart(t *testing.T) {
	r := func(low, high float64) workload.Range { return workload.Range{Low: low, High: high} }
	for _, c := range []struct {
		first, second workload.Range
		a, b          float64
	}{{r(100, 120), r(150, 160), 120, 150}, {r(150, 160), r(100, 120), 150, 120}, {r(100, 150), r(150, 160), 150, 150},
		{r(100, 200), r(120, 130), 120, 120},
		{r(5, 5), r(5, 5), 5, 5}} {
		a, b := workload.Apart(c.first, c.second)
		require.Equal(t, [2]float64{c.a, c.b}, [2]float64{a, b}, "%v %v", c.first, c.second)
	}
}
