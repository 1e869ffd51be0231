package kitchen

import "strings"

// Guests' wishes: how done, and how large.

// Doneness is a variant of a step: a guest's wish that makes it longer or shorter.
type Doneness struct {
	Name    string `json:"name" maxLength:"60"`
	Seconds int    `json:"seconds" doc:"More (or, negative, less) than as written"`
	// TargetC and Mm are what is wished for, where the seconds follow from them.
	TargetC *float64 `json:"target_c,omitempty" doc:"Core of it, °C: the seconds follow"`
	Mm      float64  `json:"mm,omitempty" doc:"Thickness of it: the seconds follow"`
	// Ends is how many portions of a batch are so by themselves: the ends of a joint are more done.
	Ends int `json:"ends,omitempty" doc:"Portions of a batch that are so without more time: the ends of a joint"`
}

// Wishes are the wishes of one portion, said together: a size and how done it is, with commas or and between.
func Wishes(said string) []string {
	var out []string
	for _, w := range strings.Split(strings.ReplaceAll(said, " and ", ","), ",") {
		if w = strings.TrimSpace(w); w != "" {
			out = append(out, w)
		}
	}
	return out
}

// Longer is by how much each of a batch's portions takes longer (or, negative, less long) than as written, by its wishes. Ends
// go to those that ask first, and a portion that is had off an end is as done as an end is, in its own time.
func (s *Step) Longer(wishes []string) []int {
	left := map[string]int{}
	for _, d := range s.Doneness {
		left[d.Name] = d.Ends
	}
	out := make([]int, len(wishes))
	for i, said := range wishes {
		for _, w := range Wishes(said) {
			for _, d := range s.Doneness {
				switch {
				case !strings.EqualFold(d.Name, w):
				case left[d.Name] > 0:
					left[d.Name]--
				default:
					out[i] += d.Seconds
				}
			}
		}
	}
	return out
}
