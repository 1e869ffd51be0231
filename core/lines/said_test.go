package lines

import (
	"bytes"
	"flag"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"jointime/core/kitchen"
)

var write = flag.Bool("write", false, "write what is read now beside each line of testdata/said.txt, to be looked over by hand")

// short says a reading in one line: name · time · hands · where · checks and the rest. A tilde stands before what was taken for granted.
func short(line string) string {
	c, readings := Parse(kitchen.Component{}, "to order\nfirst: 1 min\n"+line)
	r := readings[2]
	var out []string
	add := func(format string, a ...any) { out = append(out, fmt.Sprintf(format, a...)) }
	assumed := func(word string) string {
		for _, a := range r.Assumed {
			if strings.HasPrefix(a.Said.Text, word) {
				return "~"
			}
		}
		return ""
	}
	for _, s := range c.Steps[1:] {
		add("%s", s.Name)
		if f := s.Time.Fixed; f.Low != f.High {
			add("%s (%s to %s)", Say(f.Likely), Say(f.Low), Say(f.High))
		} else if f.Likely > 0 {
			add("%s", Say(f.Likely))
		}
		if p := s.Time.PerPortion; p.Likely > 0 {
			add("each %s", Say(p.Likely))
		}
		hands := map[kitchen.Hands]string{kitchen.Both: "both hands", kitchen.Tend: "a look now and then", kitchen.None: "nobody"}[s.Hands]
		add("%s%s", assumed(hands), map[kitchen.Hands]string{kitchen.Both: "hands", kitchen.Tend: "eye", kitchen.None: "nobody"}[s.Hands])
		if e := s.Equipment; e != nil {
			add("%s%s", assumed(strings.ReplaceAll(string(e.Kind), "-", " ")), strings.TrimPrefix(on(e), ", in the "))
			if e.PreheatS > 0 {
				add("heated %s", Say(e.PreheatS))
			}
		}
		if s.Batch != nil {
			add("batches of %d %s", s.Batch.Portions, s.Batch.Run)
		}
		for _, k := range s.Checks {
			if k.TargetC != nil {
				add("core %g %s", *k.TargetC, k.Say)
			} else {
				add("until %s: %s", k.Kind, k.Say)
			}
			if k.NotYetS > 0 || k.TooFar != "" {
				add("not yet %s, too far %s", Say(k.NotYetS), k.TooFar)
			}
		}
		for _, x := range s.Doneness {
			add("%s %+d s", x.Name, x.Seconds)
		}
		for _, x := range s.Touches {
			add("%s %s %s for %s", x.Say, x.When, Say(x.AtS), Say(x.Seconds))
		}
		for _, x := range s.Ready {
			add("ready: %s", x)
		}
		if len(s.PutsIn)+len(s.TakesOut) > 0 {
			add("in %v out %v", s.PutsIn, s.TakesOut)
		}
		if s.Same != nil {
			add("same pan %v", *s.Same)
		}
		if s.Piece != nil {
			add("%s of %s %g mm to %g", s.Piece.Shape, s.Piece.Food, s.Piece.Mm, s.Piece.TargetC)
		}
		for _, x := range s.Dangers {
			add("mind %s", x)
		}
	}
	if said(c.Hold) {
		add("%s", strings.ToUpper(wait(c.Hold)))
	}
	for _, n := range c.Steps[0].Never {
		add("NEVER %s BECAUSE %s", n.What, n.Because)
	}
	if r.Unsure != nil {
		add("? %s", r.Unsure.Key)
	}
	return strings.TrimSpace(strings.Join(out, " · "))
}

// What cooks say, from every kind of kitchen work, and what is understood of it: at least 250 lines, each looked over by hand. Those that
// end with a question mark say that something was not understood.
func TestWhatCooksSay(t *testing.T) {
	raw, err := os.ReadFile("testdata/said.txt")
	require.NoError(t, err)
	var fresh bytes.Buffer
	n := 0
	for _, l := range strings.Split(strings.TrimRight(string(raw), "\n"), "\n") {
		line, want, has := strings.Cut(l, " => ")
		if strings.HasPrefix(l, "#") || l == "" {
			fmt.Fprintln(&fresh, l)
			continue
		}
		n++
		got := short(line)
		fmt.Fprintf(&fresh, "%s => %s\n", line, got)
		if has && !*write && want != got {
			t.Errorf("%s\n  expected %s\n  got      %s", line, want, got)
		}
	}
	if *write {
		require.NoError(t, os.WriteFile("testdata/said.txt", fresh.Bytes(), 0o600))
	}
	require.GreaterOrEqual(t, n, 250)
}
