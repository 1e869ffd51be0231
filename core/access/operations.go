package access

// Who may do an operation. Every operation of the contract stands in it once, and whatever else the server answers to; a test walks them
// all.
var (
	everybody = []Role{Nobody, Chef, Pass, Section, Floor, Board}
	signedIn  = []Role{Chef, Pass, Section, Floor, Board}
	readers   = []Role{Chef, Pass, Section}        // of the book and of the plans
	tappers   = []Role{Chef, Pass, Section, Floor} // of what happens in a service
	runners   = []Role{Chef, Pass}                 // of a service
	chefs     = []Role{Chef}
)

// operations is role × operation.
var operations = func() map[string][]Role {
	table := map[string][]Role{}
	for _, g := range []struct {
		roles []Role
		ids   []string
	}{
		{everybody, []string{"get-session", "sign-in", "sign-out", "pair-device", "unpair-this", "choose-person"}},
		{signedIn, []string{"get-house", "get-day", "get-demo-clock", "put-demo-clock", "list-services", "service-due", "service-state",
			"service-stream"}},
		{[]Role{Chef, Pass, Section, Floor}, []string{"list-dishes", "get-dish", "get-plate", "plate-drawing", "photograph"}},
		{[]Role{Chef, Pass, Section, Board}, []string{"get-fire"}},
		{tappers, []string{"add-events"}},
		{[]Role{Chef, Pass, Floor}, []string{"order-menu", "read-order"}},
		{readers, []string{
			"list-components", "get-component", "component-history", "get-lines", "read-probe", "dish-history", "compare-dish", "dish-card",
			"get-fire-join", "get-fire-sheet", "plan-printed", "fire-file", "list-meals", "plan-meal", "plan-table", "draw-plate",
			"plating-line", "get-prep", "tick", "list-recipes", "sign-recipes", "get-safety-log", "add-reading", "list-stock", "save-stock",
			"put-on-hand", "understand", "work-out", "ingredients-csv", "ingredients-xlsx", "calendar", "safety-csv", "safety-pdf",
			"service-gate", "add-readings", "get-readings", "slip-text", "print-slip",
			"list-notes", "add-note", "put-note-away", "look-back", "get-amounts", "list-thrown", "add-thrown", "undo-thrown", "try-learnt",
			"get-night", "night-file", "list-practices", "start-practice", "get-practice", "pace-practice", "end-practice",
		}},
		{runners, []string{
			"plan-again", "keep-mend", "find-mends", "use-change", "edit-tables", "service-log", "stand-ins", "start-rehearsal", "get-rehearsal",
			"stop-rehearsal",
		}},
		{chefs, []string{
			"get-access", "set-access", "end-access", "new-pairing", "end-device",
			"use-learnt", "use-share", "load-demo", "new-kitchen", "change-kitchen",
			"new-component", "change-component", "edit-chain", "copy-component", "read-lines", "save-lines", "restore-component", "change-step",
			"keep-probe", "read-new-lines",
			"new-dish", "change-dish", "copy-dish", "act-on-dish", "restore-dish", "edit-sequence", "set-photograph", "drop-photograph",
			"add-equipment", "save-equipment", "delete-equipment", "add-person", "save-person", "delete-person", "add-section", "save-section",
			"delete-section", "add-vessel", "save-vessel", "delete-vessel", "add-meal", "save-meal", "delete-meal", "add-service", "save-service",
			"delete-service", "delete-stock", "find-prep-mends",
		}},
	} {
		for _, id := range g.ids {
			if table[id] != nil {
				panic("an operation stands in the table twice: " + id)
			}
			table[id] = g.roles
		}
	}
	return table
}()
