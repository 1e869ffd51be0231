// Package access is who may do what in a kitchen: the roles, one table of role × operation, one of role × what happens in a service, and
// what a PIN or a passphrase has to be. It is pure: who somebody is, is found out elsewhere.
//
//	access.go      the roles, and what each may
//	operations.go  the table of operations
//	secret.go      PINs and passphrases
package access

import (
	"slices"

	"jointime/core/message"
	"jointime/core/service"
)

// Role is what somebody, or a screen, does in a kitchen.
type Role string

// The roles.
const (
	Nobody  Role = ""        // has not signed in
	Chef    Role = "chef"    // everything: book, kitchen, people, plans, service
	Pass    Role = "pass"    // runs a service; reads the book
	Section Role = "section" // ticks and taps of its sections; reads the book
	Floor   Role = "floor"   // seats, orders, says who is ready for the next course; sees forecasts
	Board   Role = "board"   // looks
)

// Roles are all roles that somebody can have.
func Roles() []Role { return []Role{Chef, Pass, Section, Floor, Board} }

// Identity is who asks.
type Identity struct {
	Role Role
	// Sections are those for which a section's role taps, by id.
	Sections []string
	// Person is who it is by id, and Name by name; "" where nobody said.
	Person, Name string
	// Device is the paired screen that it is asked from, by id; "" for none.
	Device string
}

// May reports whether a role may do an operation, by its id in the contract. What stands in no table nobody may, not even the chef.
func May(r Role, operation string) bool {
	return slices.Contains(operations[operation], r)
}

// Known reports whether an operation stands in the table.
func Known(operation string) bool { return operations[operation] != nil }

// Operations are those of the table that a role may do, in order.
func Operations(r Role) (out []string) {
	for id, roles := range operations {
		if slices.Contains(roles, r) {
			out = append(out, id)
		}
	}
	slices.Sort(out)
	return out
}

// says is which roles say each kind of event, beside the chef, who says all of them. The planner alone says which plan was told.
var says = map[service.Kind][]Role{
	service.Opened: {Pass}, service.Closed: {Pass},
	service.Seated: {Pass, Floor}, service.Guests: {Pass, Floor}, service.Ordered: {Pass, Floor}, service.Next: {Pass, Floor},
	service.Joined: {Pass, Floor},
	service.Called: {Pass}, service.Held: {Pass}, service.Skipped: {Pass},
	service.Fired: {Pass, Section}, service.Ready: {Pass, Section}, service.More: {Pass, Section}, service.Probe: {Pass, Section},
	service.Again: {Pass, Section},
	service.Taken: {Pass, Section}, service.Plated: {Pass, Section}, service.Sent: {Pass}, service.SentBack: {Pass},
	service.Off: {Pass, Section}, service.On: {Pass, Section}, service.Out: {Pass}, service.In: {Pass},
	service.Trouble: {Pass, Section, Floor}, service.Told: {}, service.Undone: {Pass, Section, Floor},
}

// ofRun are the kinds that are about what a section has on: a section says them of its own.
var ofRun = map[service.Kind]bool{service.Fired: true, service.Ready: true, service.More: true, service.Again: true, service.Taken: true,
	service.Probe: true}

// RefusesEvent says why somebody may not say that something happened, nil where they may. section is that of the run which it is about, ""
// where the event is about none, or where nobody knows of it.
func RefusesEvent(who *Identity, e *service.Event, section string) *message.Message {
	var no message.Message
	kind := e.Kind
	roles, known := says[kind]
	switch {
	case !known || kind == service.Told:
		no = message.Of("access.kind-nobody")
	case who.Role == Chef:
		return nil
	case !slices.Contains(roles, who.Role):
		no = message.Of("access.kind", "role", string(who.Role))
	case e.Anyway && who.Role != Pass:
		no = message.Of("access.anyway")
	case who.Role == Section && ofRun[kind] && !slices.Contains(who.Sections, section):
		no = message.Of("access.section")
	default:
		return nil
	}
	return &no
}
