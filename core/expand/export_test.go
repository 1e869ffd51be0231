package expand

import (
	"strings"

	"jointime/core/scale"
)

// prepOfBatches is make-ahead work that has only the batches named, each as its id and its component.
func prepOfBatches(list ...string) *Prep {
	p := &Prep{Amounts: &scale.Amounts{}}
	for _, x := range list {
		id, component, _ := strings.Cut(x, " ")
		p.Amounts.Batches = append(p.Amounts.Batches, scale.Batch{ID: id, Component: component})
	}
	return p
}
