package kitchen

import "time"

// What goes into a component, and what it leaves over.

// Ingredient is what is bought, as it goes into one batch.
type Ingredient struct {
	Name        string     `json:"name" maxLength:"120"`
	Amount      float64    `json:"amount" doc:"Per batch, before trim"`
	Unit        string     `json:"unit" maxLength:"20"`
	TrimPercent float64    `json:"trim_percent" doc:"Share that is trimmed away, 0 to 95"`
	Allergens   []Allergen `json:"allergens" nullable:"false"`
	// Matters are what diets ask after; Certified are the diets for which the supplier certifies its meat.
	Matters   []Matter `json:"matters,omitempty" nullable:"false"`
	Certified []Diet   `json:"certified,omitempty" nullable:"false" doc:"Diets for which its supplier certifies it"`
	// InAt is when it comes in; ThawH how long it thaws then.
	InAt  int     `json:"in_at,omitempty" doc:"When it comes in on the day, minutes after midnight; 0 when it is in the house"`
	ThawH float64 `json:"thaw_h,omitempty" doc:"Hours that it has to thaw after it came in"`
}

// GoodsIn is when the goods of a component that come in today are there and thawed, by the clock of now; ok is false when it has
// none that come in.
func (c *Component) GoodsIn(now time.Time) (at time.Time, ok bool) {
	for _, g := range c.Ingredients {
		if g.InAt == 0 {
			continue
		}
		in := time.Date(now.Year(), now.Month(), now.Day(), 0, g.InAt, 0, 0, now.Location()).Add(time.Duration(g.ThawH * float64(time.Hour)))
		if !ok || in.After(at) {
			at, ok = in, true
		}
	}
	return at, ok
}

// Use says how much of another component goes into one batch.
type Use struct {
	Component string  `json:"component"`
	Amount    float64 `json:"amount" doc:"In the other component's unit, per batch; for each portion of what is made to order and gives no batch"`
}

// ByProduct is left over by one batch and goes into another component.
type ByProduct struct {
	Component string  `json:"component"`
	Grams     float64 `json:"grams"`
}
