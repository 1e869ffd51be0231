package schedule

// job is a run on a resource that takes one at a time, with its window.
type job struct {
	node     int32
	est, lct int64 // earliest start, latest completion
	dur      int64
}

// edgeFind tightens the earliest starts of jobs that cannot overlap: when a job
// must come after all of a set, it starts after the set's earliest completion. It
// returns false when some set cannot fit between its windows (the preemptive
// one-machine bound of Jackson is contained in this test). The jobs' est fields
// are updated; their order may change.
//
// Source of the method: Carlier & Pinson, Management Science 35 (1989), in the
// quadratic form of Baptiste, Le Pape & Nuijten, Constraint-Based Scheduling
// (2001), section 2.1.
func edgeFind(jobs []job, byEst []int, scratch []int64) bool {
	n := len(jobs)
	// Insertion sort of indices: the order changes little from call to call.
	for i := range n {
		byEst[i] = i
		for k := i; k > 0 && jobs[byEst[k-1]].est > jobs[byEst[k]].est; k-- {
			byEst[k-1], byEst[k] = byEst[k], byEst[k-1]
		}
	}
	newEst := scratch[:n]
	complete := scratch[n : 2*n] // earliest completion of the set from byEst[i] on
	for i := range n {
		newEst[i] = jobs[i].est
	}
	for k := range n {
		due := jobs[k].lct
		total, c := int64(0), -far
		for i := n - 1; i >= 0; i-- {
			j := &jobs[byEst[i]]
			if j.lct <= due {
				total += j.dur
				c = max(c, j.est+total)
				if c > due {
					return false
				}
			}
			complete[i] = c
		}
		h := -far
		for i := range n {
			j := &jobs[byEst[i]]
			if j.lct <= due {
				h = max(h, j.est+total)
				total -= j.dur
				continue
			}
			if j.est+total+j.dur > due {
				newEst[byEst[i]] = max(newEst[byEst[i]], complete[i])
			}
			if h+j.dur > due {
				newEst[byEst[i]] = max(newEst[byEst[i]], complete[0])
			}
		}
	}
	for i := range n {
		jobs[i].est = newEst[i]
	}
	return true
}

// mirror turns time round, so that edgeFind tightens latest completions.
func mirror(jobs []job) {
	for i := range jobs {
		jobs[i].est, jobs[i].lct = -jobs[i].lct, -jobs[i].est
	}
}
