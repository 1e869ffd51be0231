package access_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/access"
	"jointime/core/service"
)

// Each role by one thing that it may and one that it may not, as the roles are described.
func TestWhatEachRoleMay(t *testing.T) {
	for _, x := range []struct {
		role    access.Role
		may     []string
		mayNot  []string
		whatFor string
	}{
		{access.Chef, []string{"change-dish", "set-access", "add-events", "keep-mend", "get-session"}, []string{"no-such-thing", ""},
			"everything"},
		{access.Pass, []string{"add-events", "keep-mend", "get-dish", "service-log", "edit-tables"},
			[]string{"change-dish", "set-access", "save-service", "new-pairing", "change-kitchen"}, "runs a service, reads the book"},
		{access.Section, []string{"tick", "add-events", "get-component", "add-reading"}, []string{"keep-mend", "change-component", "get-access"},
			"ticks and taps, reads the book"},
		{access.Floor, []string{"add-events", "service-due", "list-dishes"}, []string{"get-fire", "get-component", "tick", "service-log"},
			"seats, orders, sees forecasts"},
		{access.Board, []string{"service-due", "get-fire"}, []string{"add-events", "tick", "get-component"}, "looks"},
		{access.Nobody, []string{"get-session", "sign-in", "pair-device"}, []string{"get-house", "service-due", "add-events", "get-access"},
			"has to sign in"},
	} {
		for _, id := range x.may {
			require.True(t, access.May(x.role, id), "%q %s: %s", x.role, x.whatFor, id)
		}
		for _, id := range x.mayNot {
			require.False(t, access.May(x.role, id), "%q %s: %s", x.role, x.whatFor, id)
		}
	}
}

// Whoever may do more may do all that those may who can do less; nobody may do what is not the chef's as well.
func TestTheChefMayEverything(t *testing.T) {
	all := access.Operations(access.Chef)
	for _, r := range append(access.Roles(), access.Nobody) {
		for _, id := range access.Operations(r) {
			require.Contains(t, all, id)
			require.True(t, access.Known(id))
		}
	}
	for _, id := range access.Operations(access.Nobody) {
		for _, r := range access.Roles() {
			require.True(t, access.May(r, id), "%s %s", r, id)
		}
	}
}

// The kinds of event, by who says them. A kind that is not in the table is said by nobody.
func TestWhoSaysWhat(t *testing.T) {
	may := func(r access.Role, sections []string, k service.Kind, section string) bool {
		return access.RefusesEvent(&access.Identity{Role: r, Sections: sections}, &service.Event{Kind: k}, section) == nil
	}
	for _, k := range service.Kinds() {
		require.Equal(t, k != service.Told, may(access.Chef, nil, k, ""), "chef %s", k)
		require.False(t, may(access.Board, nil, k, ""), "board %s", k)
		require.False(t, may(access.Nobody, nil, k, ""), "nobody %s", k)
	}
	require.False(t, may(access.Chef, nil, "sneezed", ""))
	fish := []string{"fish"}
	for _, k := range []service.Kind{service.Fired, service.Ready, service.More, service.Again, service.Taken} {
		require.True(t, may(access.Section, fish, k, "fish"), k)
		require.False(t, may(access.Section, fish, k, "grill"), k)
		require.False(t, may(access.Section, fish, k, ""), "nobody knows whose it is: %s", k)
		require.True(t, may(access.Pass, nil, k, "grill"), k)
		require.False(t, may(access.Floor, nil, k, "fish"), k)
	}
	for _, k := range []service.Kind{service.Called, service.Sent, service.Held, service.Opened, service.Closed, service.Out} {
		require.True(t, may(access.Pass, nil, k, ""), k)
		require.False(t, may(access.Section, fish, k, ""), k)
		require.False(t, may(access.Floor, nil, k, ""), k)
	}
	for _, k := range []service.Kind{service.Seated, service.Ordered, service.Next, service.Guests} {
		require.True(t, may(access.Floor, nil, k, ""), k)
		require.False(t, may(access.Section, fish, k, ""), k)
	}
	require.True(t, may(access.Section, fish, service.Off, ""))
	m := access.RefusesEvent(&access.Identity{Role: access.Section, Sections: fish}, &service.Event{Kind: service.Fired}, "grill")
	require.Equal(t, "access.section", m.Key)
	anyway := &service.Event{Kind: service.Ordered, Facts: service.Facts{Anyway: true}}
	require.Equal(t, "access.anyway", access.RefusesEvent(&access.Identity{Role: access.Floor}, anyway, "").Key,
		"what is cooked is not the floor's")
	require.Nil(t, access.RefusesEvent(&access.Identity{Role: access.Pass}, anyway, ""))
}

// Both sides of each bound of a PIN and of a passphrase, and what is guessed first.
func TestSecrets(t *testing.T) {
	for pin, ok := range map[string]bool{
		"271": false, "2718": true, "27182818": true, "271828182": false, "27a8": false, "": false, " 2718": false, "٢٧١٨": false,
		"0000": false, "99999999": false, "1234": false, "4321": false, "123456": false, "1235": true, "0001": true, "1212": true, "1357": true,
	} {
		for _, r := range []access.Role{access.Pass, access.Section, access.Floor, access.Board} {
			require.Equal(t, ok, access.CheckSecret(r, pin) == nil, "%s %q", r, pin)
		}
	}
	for phrase, ok := range map[string]bool{
		"": false, "2718": false, "eleven char": false, "twelve chars": true, strings.Repeat("ü", 12): true, strings.Repeat("x", 200): true,
		strings.Repeat("x", 201): false, "            ": false, "  eleven char  ": false,
	} {
		require.Equal(t, ok, access.CheckSecret(access.Chef, phrase) == nil, "%q", phrase)
	}
}
