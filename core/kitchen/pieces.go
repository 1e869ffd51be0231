package kitchen

// A limit for the last piece: what is shaped while it is hot, carved, or filled is done one by one, and the longest wait holds
// for each. So the hands limit the batch: more than they get through in that time does not go in.

// mostPieces is how many portions a batch may have whose pieces are each done in rate seconds within the longest of a wait; 0
// where nothing bounds it.
func (w *Wait) mostPieces(rate int) int {
	if !w.Each || w.Longest == nil || w.NoLimit || rate <= 0 {
		return 0
	}
	return 1 + (*w.Longest-w.Shortest)/rate
}

// ForPieces is a wait of a batch of n portions whose pieces are each done in rate seconds: what is left of its longest when
// the last piece counts.
func (w Wait) ForPieces(n, rate int) Wait {
	if !w.Each || w.Longest == nil || rate <= 0 || n < 2 {
		return w
	}
	l := max(w.Shortest, *w.Longest-(n-1)*rate)
	w.Longest = &l
	if w.Best != nil {
		b := min(*w.Best, l)
		w.Best = &b
	}
	return w
}

// Rate is how many seconds lie between two pieces that go from one step to another, or to the plate where to is nil: the slower
// of the two.
func Rate(from, to *Step) int {
	rate := from.Time.PerPortion.Likely
	if to != nil {
		rate = max(rate, to.Time.PerPortion.Likely)
	}
	return rate
}

// batchOf is what goes through a step at once: its pan or tray, and what the hands get through within the limits for each piece
// before and after it.
func (c *Component) batchOf(s *Step) *BatchLimit {
	most := 0
	bound := func(n int) {
		if n > 0 && (most == 0 || n < most) {
			most = n
		}
	}
	followed := false
	for i := range c.Steps {
		to := &c.Steps[i]
		for k := range to.After {
			a := &to.After[k]
			from := c.StepIndex(a.Step)
			if from < 0 {
				continue
			}
			followed = followed || a.Step == s.ID
			if a.Step == s.ID || to.ID == s.ID {
				bound(a.mostPieces(Rate(&c.Steps[from], to)))
				for _, end := range []*Step{&c.Steps[from], to} { // what one end takes at once goes through the other at once
					if a.Each && end.Batch != nil {
						bound(end.Batch.Portions)
					}
				}
			}
		}
	}
	if !followed {
		bound(c.Hold.mostPieces(Rate(s, nil)))
	}
	if most == 0 || s.Batch != nil && s.Batch.Portions <= most {
		return s.Batch
	}
	if s.Batch != nil {
		return &BatchLimit{most, s.Batch.Run}
	}
	return &BatchLimit{most, InTurn}
}
