package schedule

import (
	"math"

	"jointime/core/workload"
)

// A setpoint is the range of temperatures of which any will do. Two of them are as far apart as the ranges are.
type setpoint workload.Range

// noSetpoint asks for no temperature.
var noSetpoint = setpoint{math.NaN(), math.NaN()}

func (s setpoint) none() bool { return math.IsNaN(s.Low) }

// standby is what a thermostat has at time 0.
func standby(t *workload.Thermostat) setpoint { return setpoint{t.StartC, t.StartC} }

// differ reports whether two setpoints cannot stand together.
func differ(t *workload.Thermostat, a, b setpoint) bool {
	return t.Differ(workload.Apart(workload.Range(a), workload.Range(b)))
}

// changeover is how long it takes to go from one setpoint to another.
func changeover(t *workload.Thermostat, from, to setpoint) int64 {
	return t.Changeover(workload.Apart(workload.Range(from), workload.Range(to)))
}
