// Package expand turns the kitchen's data into workloads for the scheduler, and
// schedules back into what a cook reads: firing times and strands.
//
// To order (firing): every table is a join. Each component's pick-up steps become
// tasks, in batches by what a pan takes; a plating task takes the pass and its
// people; and the plating clock sets each component's moment.
package expand
