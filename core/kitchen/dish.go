package kitchen

import (
	"cmp"
	"strings"

	"jointime/core/message"
)

// Dish is what the guest orders.
type Dish struct {
	ID     string `json:"id"`
	Name   string `json:"name" maxLength:"120"`
	Course Course `json:"course" enum:"first,second,main,dessert"`
	// State says whether it is being written, on the menu, or off it. Nothing but a
	// current dish can be put into a service.
	State         DishState     `json:"state" enum:"draft,current,retired"`
	Specification Specification `json:"specification"`
	// Draft is a changed specification that is being written while the kitchen still
	// works from the one above; nil when there is none.
	Draft      *Specification `json:"draft,omitempty"`
	ServedWith string         `json:"served_with,omitempty" maxLength:"300"`
}

// DishState is where a dish stands in its life.
type DishState string

// The states of a dish.
const (
	DraftDish   DishState = "draft"
	CurrentDish DishState = "current"
	RetiredDish DishState = "retired"
)

var dishStates = []DishState{DraftDish, CurrentDish, RetiredDish}

// Course is a stage of the meal.
type Course string

// The courses, in the order of the meal.
const (
	First   Course = "first"
	Second  Course = "second"
	Main    Course = "main"
	Dessert Course = "dessert"
)

// Courses lists the courses in the order of the meal.
func Courses() []Course { return []Course{First, Second, Main, Dessert} }

// Specification is the plating specification: what goes where, in what order,
// and what has to be true before the plate leaves.
type Specification struct {
	Vessel      string    `json:"vessel"`
	VesselTemp  TempClass `json:"vessel_temp" enum:"hot,warm,ambient,chilled,frozen"`
	Facing      string    `json:"facing,omitempty" doc:"Which side faces the guest" maxLength:"200"`
	Elements    []Element `json:"elements" nullable:"false"`
	TableSide   string    `json:"table_side,omitempty" doc:"What is finished at the table" maxLength:"300"`
	StandLimitS int       `json:"stand_limit_s" doc:"How long the plate may stand, seconds; 0 when nobody said"`
	FinalChecks []string  `json:"final_checks" nullable:"false"`
	Variants    []Variant `json:"variants" nullable:"false"`
	// PlatedAhead is how many of the first elements are put on ahead; the plates wait on a rack for the rest, or, where that is
	// all of them, for their table.
	PlatedAhead int `json:"plated_ahead,omitempty" doc:"How many of the first elements are put on ahead; the plates are racked until the rest"`
	RackS       int `json:"rack_s,omitempty" doc:"How long such a plate may wait, seconds; the usual half hour when missing"`
}

// usualRackS is how long a plate that was begun ahead may wait where nobody said. Common practice, no source.
const usualRackS = 30 * minute

// Racked is how long a plate that was begun ahead may wait, seconds.
func (s *Specification) Racked() int { return cmp.Or(s.RackS, usualRackS) }

// AheadOf is how many of the elements of a variant's plate are put on ahead: those that are left of the first ones. The plate
// as written is "".
func (d *Dish) AheadOf(variant string) int {
	s := &d.Specification
	n := s.PlatedAhead
	for _, v := range s.Variants {
		if strings.EqualFold(v.Name, variant) {
			for _, c := range v.Changes {
				if c.Kind == "leave-out" && c.Element <= s.PlatedAhead {
					n--
				}
			}
		}
	}
	return n
}

// Element is one thing put on the plate, in its turn.
type Element struct {
	Component string  `json:"component"`
	Amount    float64 `json:"amount" doc:"In the component's unit"`
	Form      Form    `json:"form"`
	At        At      `json:"at"`
	TurnDeg   float64 `json:"turn_deg" doc:"Rotation clockwise, degrees"`
	// On is the number (from 1) of the element that this one stands on or leans
	// against; 0 when it stands on the vessel.
	On         int       `json:"on" doc:"Number of the element it is put on, 0 for the plate"`
	Temp       TempClass `json:"temp" enum:"hot,warm,ambient,chilled,frozen"`
	Textures   []Texture `json:"textures" nullable:"false"`
	Tastes     []Taste   `json:"tastes" nullable:"false"`
	Tool       string    `json:"tool" maxLength:"60"`
	Seconds    int       `json:"seconds" doc:"Time of a practised hand for one plate"`
	Hands      int       `json:"hands" doc:"People it takes at once, 1 or 2"`
	LastMoment bool      `json:"last_moment"`
	// OnPlateS is how long it must have been on the plate before that leaves: it thaws there, or sets.
	OnPlateS int    `json:"on_plate_s,omitempty" doc:"How long it must have been on the plate before that leaves (it thaws, it sets), seconds"`
	Look     string `json:"look,omitempty" doc:"What it must look like" maxLength:"200"`
}

// Form is the shape in which an element is put on the plate. Which parameters
// count depends on the kind; sizes not given follow from the amount.
type Form struct {
	Kind     string  `json:"kind"`
	Count    int     `json:"count,omitempty" doc:"How many of it: dots, slices, quenelles"`
	LengthMm float64 `json:"length_mm,omitempty"`
	WidthMm  float64 `json:"width_mm,omitempty"`
	HeightMm float64 `json:"height_mm,omitempty"`
	RadiusMm float64 `json:"radius_mm,omitempty" doc:"Of the circle along which a ring or dots lie"`
}

// FormKinds are the kinds of form, in the order in which they are offered. Package
// plating has a solid for each.
func FormKinds() []string {
	return []string{"pool", "dots", "drizzle", "swipe", "ring", "dome", "quenelle", "cylinder", "block", "fillet", "fan", "batons",
		"wedges", "petals", "crescents", "shard", "scatter", "heap", "leaf-heap", "foam"}
}

// At is a place on the plate: by the clock face (Hour 12 is at the top, FromCentreMm
// outwards) or by millimetres from the centre (X to the right, Y towards the guest).
type At struct {
	Hour         float64 `json:"hour,omitempty" doc:"1 to 12, halves allowed; 0 when placed by x and y"`
	FromCentreMm float64 `json:"from_centre_mm,omitempty"`
	XMm          float64 `json:"x_mm,omitempty"`
	YMm          float64 `json:"y_mm,omitempty"`
}

// TempClass is how warm something is served.
type TempClass string

var tempClasses = []TempClass{"hot", "warm", "ambient", "chilled", "frozen"}

// Texture and Taste are what a plate's contrast is made of.
type (
	Texture string
	Taste   string
)

var (
	textures = []Texture{"crisp", "soft", "creamy", "tender", "chewy", "liquid", "juicy", "crumbly"}
	tastes   = []Taste{"sweet", "sour", "salty", "bitter", "savoury", "rich", "fresh", "hot"}
)

// Variant is a plate for a guest who does not eat something: differences only.
type Variant struct {
	Name string `json:"name" maxLength:"60"`
	// Without is what the variant promises to be free of.
	Without []Allergen `json:"without,omitempty" nullable:"false" doc:"Allergens that this plate must not have"`
	Diets   []Diet     `json:"diets,omitempty" nullable:"false" doc:"Diets that this plate must suit"`
	Changes []Change   `json:"changes" nullable:"false"`
}

// Change is one difference of a variant.
type Change struct {
	Element int      `json:"element" doc:"Number of the element, from 1"`
	Kind    string   `json:"kind" enum:"leave-out,replace,change"`
	With    *Element `json:"with,omitempty" doc:"For replace and change"`
}

// CheckDish returns what is wrong with one dish by itself.
func CheckDish(d Dish) Faults {
	f := newFinder()
	f.at("id").id(d.ID)
	f.at("name").name(d.Name)
	oneOf(f.at("course"), d.Course, Courses())
	oneOf(f.at("state"), d.State, dishStates)
	checkSpecification(f.at("specification"), &d.Specification)
	if d.Draft != nil {
		checkSpecification(f.at("draft"), d.Draft)
	}
	return *f.faults
}

func checkSpecification(s finder, spec *Specification) {
	oneOf(s.at("vessel_temp"), spec.VesselTemp, tempClasses)
	within(s.at("stand_limit_s"), spec.StandLimitS, 0, 3600)
	es := spec.Elements
	within(s.at("plated_ahead"), spec.PlatedAhead, 0, len(es))
	within(s.at("rack_s"), spec.RackS, 0, 24*3600)
	if len(es) > 60 {
		s.at("elements").say("fault.elements", "most", 60, "got", len(es))
		return
	}
	for i, e := range es {
		g := s.at("elements[%d]", i)
		checkElement(g, e)
		switch {
		case e.On < 0 || e.On > len(es):
			g.at("on").say("fault.no-element", "number", e.On)
		case e.On == i+1:
			g.at("on").say("fault.on-itself", "number", i+1)
		case e.On > i:
			g.at("on").say("fault.on-later", "number", i+1, "other", e.On)
		}
	}
	names := map[string]bool{}
	for i, v := range spec.Variants {
		g := s.at("variants[%d]", i)
		g.at("name").name(v.Name)
		if names[v.Name] {
			g.at("name").say("fault.variant-twice", "name", short(v.Name))
		}
		names[v.Name] = true
		checkAllergens(g.at("without"), v.Without)
		checkDiets(g.at("diets"), v.Diets)
		for k, c := range v.Changes {
			h := g.at("changes[%d]", k)
			if c.Element < 1 || c.Element > len(es) {
				h.at("element").say("fault.no-element", "number", c.Element)
			}
			oneOf(h.at("kind"), c.Kind, []string{"leave-out", "replace", "change"})
			if c.Kind != "leave-out" {
				if c.With == nil {
					h.at("with").say("fault.needed-for", "kind", short(c.Kind))
				} else {
					checkElement(h.at("with"), *c.With)
				}
			}
		}
	}
}

func checkElement(g finder, e Element) {
	within(g.at("amount"), e.Amount, 0.01, 100000)
	within(g.at("turn_deg"), e.TurnDeg, -360, 360)
	oneOf(g.at("temp"), e.Temp, tempClasses)
	for k, t := range e.Textures {
		oneOf(g.at("textures[%d]", k), t, textures)
	}
	for k, t := range e.Tastes {
		oneOf(g.at("tastes[%d]", k), t, tastes)
	}
	within(g.at("seconds"), e.Seconds, 1, 1800)
	within(g.at("hands"), e.Hands, 1, 2)
	within(g.at("on_plate_s"), e.OnPlateS, 0, 3600)
	within(g.at("at.hour"), e.At.Hour, 0, 12)
	within(g.at("at.from_centre_mm"), e.At.FromCentreMm, 0, 500)
	within(g.at("at.x_mm"), e.At.XMm, -500, 500)
	within(g.at("at.y_mm"), e.At.YMm, -500, 500)
	oneOf(g.at("form.kind"), e.Form.Kind, FormKinds())
	within(g.at("form.count"), e.Form.Count, 0, 200)
	for _, v := range []struct {
		name string
		mm   float64
	}{{"length_mm", e.Form.LengthMm}, {"width_mm", e.Form.WidthMm}, {"height_mm", e.Form.HeightMm}, {"radius_mm", e.Form.RadiusMm}} {
		within(g.at("form.%s", v.name), v.mm, 0, 500)
	}
}

// Act is something that is done to a dish's life.
type Act string

// The acts.
const (
	StartDraft Act = "start-draft" // a copy of the specification to write on, while the kitchen works from the old one
	UseDraft   Act = "use-draft"   // the draft takes the specification's place
	DropDraft  Act = "drop-draft"
	PutOnMenu  Act = "put-on-menu" // a dish that was being written, or was retired, is current
	Retire     Act = "retire"
)

// Do changes a dish's life and says what happened; the error says why it cannot be.
func (d *Dish) Do(a Act) (said message.Message, err error) {
	switch a {
	case StartDraft:
		if d.Draft != nil {
			return said, message.Fail("fault.has-draft", "dish", d.Name)
		}
		draft := d.Specification
		d.Draft = &draft
		return message.Of("dish.draft-begun"), nil
	case UseDraft, DropDraft:
		if d.Draft == nil {
			return said, message.Fail("fault.no-draft", "dish", d.Name)
		}
		draft := d.Draft
		d.Draft = nil
		if a == DropDraft {
			return message.Of("dish.draft-dropped"), nil
		}
		d.Specification = *draft
		return message.Of("dish.draft-used"), nil
	case PutOnMenu:
		if len(d.Specification.Elements) == 0 {
			return said, message.Fail("fault.nothing-on-plate", "dish", d.Name)
		}
		d.State = CurrentDish
		return message.Of("dish.on-menu"), nil
	case Retire:
		d.State = RetiredDish
		return message.Of("dish.retired"), nil
	}
	return said, message.Fail("fault.one-of", "words", []string{string(StartDraft), string(UseDraft), string(DropDraft), string(PutOnMenu),
		string(Retire)}, "got", short(string(a)))
}
