package planner

// The tests search a tenth as long as the application: what they ask is what becomes of
// plans, not how good these are.
func init() {
	for _, e := range []*effort{&firstEffort, &betterEffort, &mendEffort, &prepEffort, &againEffort} {
		e.rounds /= 10
	}
}

// FirstRounds is how long a first answer is searched.
func FirstRounds() int { return firstEffort.rounds }
