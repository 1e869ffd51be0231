package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"jointime/core/expand"
	"jointime/core/kitchen"
	"jointime/core/schedule"
	"jointime/core/simulate"
	"jointime/demo"
)

func rehearseCommand() *cobra.Command {
	var nights, again, rounds int
	var seed uint64
	var picture string
	c := &cobra.Command{
		Use:   "rehearse",
		Short: "Play the demo's evening many times by each policy, on the same nights",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			k, err := demoEvening(cmd.Context(), rounds)
			if err != nil {
				return err
			}
			var list []*simulate.Rehearsal
			play := func(n int, policies ...simulate.Policy) error {
				if n == 0 {
					return nil
				}
				began := time.Now()
				more, err := k.Rehearse(cmd.Context(), seed, n, simulate.Usual(), nil, policies...)
				fmt.Fprintf(cmd.ErrOrStderr(), "%v: %d nights in %s\n", policies, n, time.Since(began).Round(10*time.Millisecond))
				list = append(list, more...)
				return err
			}
			if err := play(nights, simulate.AsPrinted, simulate.Dispatch, simulate.NoPlan); err != nil {
				return err
			}
			if err := play(again, simulate.Again); err != nil {
				return err
			}
			if err := compared(cmd.OutOrStdout(), list); err != nil || picture == "" {
				return err
			}
			return os.WriteFile(picture, []byte(laterPicture(list)), 0o644) //nolint:gosec // a picture for everybody
		},
	}
	c.Flags().IntVar(&nights, "nights", 200, "how many nights by each policy")
	c.Flags().IntVar(&again, "again", 20, "how many of them by the live planner")
	c.Flags().IntVar(&rounds, "rounds", 2_000, "rounds of the search for the plan")
	c.Flags().Uint64Var(&seed, "seed", 1, "seed of the first night; the next has the next")
	c.Flags().StringVar(&picture, "picture", "", "draw how late courses leave into this SVG file")
	return c
}

// demoEvening is the demo's evening with its plan, ready to be played.
func demoEvening(ctx context.Context, rounds int) (*simulate.Kitchen, error) {
	d, err := demo.Kitchen()
	if err != nil {
		return nil, err
	}
	d.Services = demo.Services(time.Date(2026, 5, 15, 0, 0, 0, 0, time.UTC))
	b, err := kitchen.NewBook(d)
	if err != nil {
		return nil, err
	}
	s, ok := b.Service(demo.Tonight)
	if !ok {
		return nil, fmt.Errorf("the demo has no service %q", demo.Tonight)
	}
	e, err := expand.NewEvening(b, s, true)
	if err != nil {
		return nil, err
	}
	return simulate.New(e, schedule.Solve(ctx, e.Workload, schedule.Options{Seed: 1, Rounds: rounds, Anyway: true}), 1), nil
}

// compared writes the policies side by side.
func compared(w io.Writer, list []*simulate.Rehearsal) error {
	t := tabwriter.NewWriter(w, 0, 0, 1, ' ', 0)
	head := []string{"policy", "nights", "courses late", "late in the mean", "latest of a night", "held too long", "made again",
		"begun for nobody", "helped"}
	fmt.Fprintln(t, "| "+strings.Join(head, "\t| ")+"\t|")
	fmt.Fprintln(t, strings.Repeat("|---\t", len(head))+"|")
	for _, r := range list {
		fmt.Fprintf(t, "| %s\t| %d\t| %.1f %%\t| %.0f s\t| %.1f min\t| %.0f min a night\t", r.Policy, r.Nights, 100*r.Late, r.LateS, r.WorstS/60,
			r.HeldMin)
		for _, x := range []float64{r.Again, r.Vain, r.Helped} {
			fmt.Fprintf(t, "| %.1f a night\t", x)
		}
		fmt.Fprintln(t, "|")
	}
	return t.Flush()
}

// laterPicture draws, for each policy, which share of the courses leaves later than so many minutes.
func laterPicture(list []*simulate.Rehearsal) string {
	const w, h, left, top, right, bottom = 720.0, 360.0, 60.0, 24.0, 150.0, 44.0
	looks := map[simulate.Policy][2]string{simulate.AsPrinted: {"#1F4E79", "8 4"}, simulate.Dispatch: {"#9A6700", "2 4"},
		simulate.Again: {"#2F6F4F", ""}, simulate.NoPlan: {"#B5382A", "12 3 2 3"}}
	x := func(m int) float64 { return left + (w-left-right)*float64(m)/20 }
	y := func(share float64) float64 { return top + (h-top-bottom)*(1-share) }
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %.0f %.0f" font-family="sans-serif" font-size="13" fill="#20303A">`+"\n", w, h)
	fmt.Fprintf(&b, `<rect width="%.0f" height="%.0f" fill="#FAF7F0"/>`+"\n", w, h)
	for s := 0; s <= 100; s += 25 {
		fmt.Fprintf(&b, `<path d="M%.1f %.1fH%.1f" stroke="#d8d2c4"/><text x="%.1f" y="%.1f" text-anchor="end">%d %%</text>`+"\n", left,
			y(float64(s)/100), w-right, left-8, y(float64(s)/100)+4, s)
	}
	for m := 0; m <= 20; m += 5 {
		fmt.Fprintf(&b, `<text x="%.1f" y="%.1f" text-anchor="middle">%d min</text>`+"\n", x(m), h-bottom+20, m)
	}
	fmt.Fprintf(&b, `<text x="%.1f" y="%.1f">courses that leave later than that</text>`+"\n", left, h-6)
	for i, r := range list {
		look := looks[r.Policy]
		var d strings.Builder
		for m, s := range r.Later {
			op := "L"
			if m == 0 {
				op = "M"
			}
			fmt.Fprintf(&d, "%s%.1f %.1f", op, x(m), y(s))
		}
		fmt.Fprintf(&b, `<path d="%s" fill="none" stroke="%s" stroke-width="2.5" stroke-dasharray="%s"/>`+"\n", d.String(), look[0], look[1])
		ky := top + 20 + 24*float64(i)
		fmt.Fprintf(&b, `<path d="M%.1f %.1fh28" stroke="%s" stroke-width="2.5" stroke-dasharray="%s"/><text x="%.1f" y="%.1f">%s</text>`+"\n",
			w-right+12, ky, look[0], look[1], w-right+46, ky+4, strings.ReplaceAll(string(r.Policy), "-", " "))
	}
	b.WriteString("</svg>\n")
	return b.String()
}
